"""Where practitioners disagree: the questions, the sides, and what each believes. All of it common practice, no source."""

from dataclasses import dataclass, replace
from typing import Literal

from deriva.core.model.situation import Situation
from deriva.core.rigs.offers import wanted_pair
from deriva.core.rigs.parts import one_fly_will_do

Question = Literal["depth", "flies", "heavy", "weight", "pace", "bottom", "tied", "winter"]


@dataclass(frozen=True, slots=True)
class Side:
    """One answer: the value that the school's setting takes, a name, and the sentence that those who give it believe."""

    value: str
    name: str
    belief: str


@dataclass(frozen=True, slots=True)
class Disagreement:
    """A question with its sides, the one that stands unless the angler says otherwise first."""

    question: Question
    asks: str
    sides: tuple[Side, ...]


DISAGREEMENTS: tuple[Disagreement, ...] = (
    Disagreement(
        "depth", "How deep to set the float",
        (
            Side("computed", "as computed", "Weight and current say how the line lies; the length follows from that."),
            Side("long", "1.5 to 2 × the depth", "Fast water lays the line back: only a long one lets the fly reach the bed."),
            Side("depth", "about the depth", "With slow water or heavy flies the line hangs plumb: more of it is only slack."),
        ),
    ),
    Disagreement(
        "flies", "One fly or two",
        (
            Side("two", "two where legal", "Two sizes at two depths find out twice as fast what they want."),
            Side("one", "one", "One fly tangles less and drifts truer, unless fish feed at several levels."),
        ),
    ),
    Disagreement(
        "heavy", "Where the heaviest fly goes",
        (
            Side("point", "at the point", "The lowest fly is the heaviest, so the whole rig stays tight and shows the take."),
            Side("first", "first on the line", "A heavy fly anchors, and a small one trails behind it as free as food."),
        ),
    ),
    Disagreement(
        "weight", "Where the weight sits",
        (
            Side("flies", "in the flies", "Weight in the fly keeps the line straight to it; shot makes a hinge."),
            Side("shot", "in shot on the line", "A fly without a bead moves like food, and shot is changed in seconds."),
        ),
    ),
    Disagreement(
        "pace", "How fast the tip goes",
        (
            Side("dead", "dead drift", "Food goes with its water: a touch slower than the bubbles is right."),
            Side("lead", "led a little", "A line led slightly faster than the current stays tight, so that takes are felt."),
        ),
    ),
    Disagreement(
        "bottom", "Touch the bottom, or keep clear",
        (
            Side("touch", "touch it now and then", "No flies lost means too shallow: the fish lie where the stones are."),
            Side("near", "near it but clear", "A fly that hangs up fishes for stones; a hand above is in the zone too."),
        ),
    ),
    Disagreement(
        "tied", "How the second fly is tied",
        (
            Side("tag", "to a tag of its own", "A fly on a tag swings free of the line and turns its hook to the fish."),
            Side("line", "to bend, eye or ring", "In line nothing tangles and every take is felt straight through."),
        ),
    ),
    Disagreement(
        "winter", "Which fly in the coldest water",
        (
            Side("large", "a large one", "A fish that hardly moves wants food that is worth the effort."),
            Side("small", "midges", "Midges are what drifts then, and what they have been eating for weeks."),
        ),
    ),
)  # fmt: skip


def matters(situation: Situation) -> tuple[Question, ...]:
    """Return the questions whose answer can change the advice in a situation: the others need not be asked there."""
    school, rules = situation.school, situation.rules
    two = rules.max_flies > 1 and not one_fly_will_do(situation)
    both = two and school.flies == "two"
    small, large = (replace(situation, school=replace(school, winter=side)) for side in ("small", "large"))
    asked: dict[Question, bool] = {
        "depth": True,
        "flies": two,
        "heavy": both,
        "weight": rules.added_weight,
        "pace": True,
        "bottom": True,
        "tied": both and school.heavy == "point",
        "winter": wanted_pair(small) != wanted_pair(large),
    }
    return tuple(question for question, does in asked.items() if does)
