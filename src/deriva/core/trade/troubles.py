"""What goes wrong on the bank, two taps deep: what is seen, what it depends on, what to do. Common practice, no source."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Case:
    """What it depends on, and what to do then."""

    when: str
    do: str


@dataclass(frozen=True, slots=True)
class Trouble:
    """Something that goes wrong."""

    title: str
    cases: tuple[Case, ...]


TROUBLES: tuple[Trouble, ...] = (
    Trouble(
        "The float is faster than the bubbles",
        (
            Case("Fishing up, no touch", "The flies are not down: longer, then heavier. Or cast further up."),
            Case("It pulls a wake", "That is drag: mend upstream where the line lies on faster water."),
            Case("A dry in fast water, five times", "The bed and the top run too differently: another rig."),
        ),
    ),
    Trouble(
        "The float is slower than the bubbles",
        (
            Case("Fishing up, a little slower", "That is right: the flies are in the slow water by the bed."),
            Case("Fed downstream", "The line holds it back: feed faster before you judge the depth."),
            Case("Much slower, and it stutters", "The flies drag on the bed: shorter by a hand's breadth, or lighter."),
        ),
    ),
    Trouble(
        "The float slides across or sinks",
        (
            Case("It slides across", "Line on other water: mend as the flies land, stand nearer, lift more line off."),
            Case("It sinks slowly", "The rig is too heavy for it: a lighter bead, or a larger float."),
            Case("It goes down at once", "Strike. Stone or fish, striking is free."),
        ),
    ),
    Trouble(
        "Never a touch",
        (
            Case("Six drifts, slow water", "Longer by a hand's breadth, ⟦0.10 m⟧ or so."),
            Case("Fast water, line longer than the depth", "Heavier, or thinner tippet: more line only trails."),
            Case("Many drifts, and it looks deep", "The depth was misread: double the length, and come back up."),
        ),
    ),
    Trouble(
        "Always hung up",
        (
            Case("Every two or three casts", "Shorter by two fingers, ⟦0.05 m⟧; then one bead lighter."),
            Case("Only at one place", "A stone or a root stands there: land below it, or take the next lane."),
            Case("A tight line", "Lead a touch faster, the tip higher."),
        ),
    ),
    Trouble(
        "Takes are missed",
        (
            Case("Three in a row", "Look at the hook's point. Strike sooner. Then a smaller fly; not another depth."),
            Case("Nymph below a long dropper", "There is slack between: strike harder, or shorten it."),
            Case("They bulge and turn away", "A size smaller, a finer tippet, duller."),
        ),
    ),
    Trouble(
        "Tangles",
        (
            Case("Two flies and a float", "A wider, slower loop: lob it or cast an oval. No false casts."),
            Case("The dropper wraps the line", "Tag of ⟦0.12 m⟧ or so, pointing down; stiffer tippet for the tag."),
            Case("Again and again", "Take the dropper off: one fly fishes better than two in a knot."),
        ),
    ),
    Trouble(
        "The fly is in a tree",
        (
            Case("It hangs lightly", "Push the rod tip to it; do not pull. Slack, then a flick."),
            Case("It is fast", "Point the rod at it, hold the line in the hand, pull straight, face turned away."),
            Case("Over deep or fast water", "Break it off. No fly is worth the step."),
        ),
    ),
    Trouble(
        "Weed on the hook",
        (
            Case("After a touch", "Clean the fly: a strand of weed ends the drift."),
            Case("On every drift", "Shorter, so that it passes over; or the channel between."),
        ),
    ),
    Trouble(
        "The dry drowns",
        (
            Case("After some drifts or a fish", "Dry it: squeeze it in cloth, powder, two false casts."),
            Case("From the first drift", "The nymph is too heavy for it: a smaller bead or a foam dry."),
            Case("In broken water", "Foam or hair-wing, hook 8 to 12; a small soft one is for smooth water."),
        ),
    ),
)  # fmt: skip
