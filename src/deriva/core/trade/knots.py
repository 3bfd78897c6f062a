"""The knots and joins that a rig asks for. Strengths are shares of the line's own, common practice, no source: the spool, a wet
knot and a steady pull come first.
"""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Knot:
    """A knot: where it is used, its steps, what share of the line's strength it keeps, and how it fails."""

    name: str
    title: str
    used_for: str
    steps: tuple[str, ...]
    keeps: float
    fails: str


KNOTS: tuple[Knot, ...] = (
    Knot(
        "clinch", "Clinch, tucked", "tippet to a fly or a small ring",
        (
            "Pass the end through the eye and wind it five times about the standing line; four with thick line.",
            "Bring the end back through the loop next to the eye, then under the loop that this makes.",
            "Wet it, draw it down by the standing line, and cut the end short.",
        ),
        0.85, "Slips where it was not tucked, or was wound too seldom on thin line; a dry pull burns it.",
    ),
    Knot(
        "surgeon", "Surgeon's, with a tag left", "two pieces of tippet, and the tag that a dropper hangs from",
        (
            "Lay the two lines beside each other over a hand's breadth, and make one loop of both.",
            "Pass the short end and the whole of the finer line through the loop two times, three with thin line.",
            "Wet it, draw all four ends down together. Keep the end that points down as the tag; cut the other.",
        ),
        0.9, "Breaks where the four ends were not drawn evenly; a tag that points up tangles.",
    ),
    Knot(
        "perfection", "Perfection loop", "a small loop in line with the leader's end",
        (
            "Make a loop behind the line, and a second, smaller one in front of it.",
            "Lay the end between the two loops.",
            "Pull the small loop through the large one, wet it and draw it tight; the loop stands straight.",
        ),
        0.75, "Weak in thin line: for leader butts, not for tippet.",
    ),
    Knot(
        "loop_to_loop", "Loop to loop", "leader to the end of the line",
        (
            "Pass the line's loop over the leader's loop.",
            "Bring the whole leader through the line's loop.",
            "Draw it until the loops lie as a square; where one has folded over, open it and begin again.",
        ),
        0.95, "A loop that folded over cuts the other.",
    ),
    Knot(
        "to_the_bend", "To the bend", "a nymph below a dry, or a second fly below the first",
        (
            "Tie a clinch with its loop left open, as wide as a finger.",
            "Hang it over the bend of the upper fly's hook.",
            "Wet it and draw it down on the bend, below the barb's place.",
        ),
        0.85, "Slides off a barbless hook on slack line: tie it small and tight, or go to the eye.",
    ),
    Knot(
        "to_a_ring", "To a ring", "tippet to a ring of two millimetres at the leader's end",
        (
            "Thread the ring on its holder, so that it cannot fall.",
            "Tie the leader to it with a clinch.",
            "Tie the tippet to its other side, and a tag beside it where a dropper is wanted.",
        ),
        0.85, "Two knots in place of one: try both with a pull.",
    ),
    Knot(
        "to_the_eye", "To the eye", "a second line from the eye of the upper fly",
        (
            "Tie the upper fly on as ever.",
            "Pass the lower line through the same eye, beside the first, and wind a clinch about itself.",
            "Draw it down so that the two knots lie side by side.",
        ),
        0.85, "A small eye has no room for two: go to the bend there.",
    ),
)  # fmt: skip
