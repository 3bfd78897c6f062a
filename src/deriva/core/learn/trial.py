"""A fair trial of two things that are tied on: fished in turns, so that neither has the better water, and told when it will do.

Turns of ten drifts go first, second, second, first, and on so: a day that gets steadily better or worse favours neither.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal, get_args

from deriva.core.check import Checked
from deriva.core.errors import Impossible
from deriva.core.learn.answer import Answer, Certainty, Row, answer
from deriva.core.learn.dimensions import DIMENSIONS
from deriva.core.learn.question import Question
from deriva.core.ranges import Text

TiedOn = Literal["rig", "bead", "fly", "hook"]

OF_A_TRIAL: tuple[TiedOn, ...] = get_args(TiedOn)

TURN = 10
"""Drifts of a turn: fewer, and more time goes into knots than into fishing (stated here)."""

LEAST = 40
"""Drifts of each before anything is said: with the usual take in ten drifts, four or so of each (stated here)."""

ORDER = (0, 1, 1, 0)


@dataclass(frozen=True, slots=True)
class Trial(Checked):
    """Two parts of something that is tied on, to be fished in turns."""

    by: TiedOn
    first: Annotated[str, Text(least=1)]
    second: Annotated[str, Text(least=1)]

    def __post_init__(self) -> None:
        """Check the fields, and that there are two."""
        Checked.__post_init__(self)
        if self.first == self.second:
            raise Impossible(f"second = {self.second}: a trial is of two that differ", field="second")


@dataclass(frozen=True, slots=True)
class Side:
    """One of the two: what it is called, and what it had so far."""

    key: str
    label: str
    drifts: int
    takes: int


@dataclass(frozen=True, slots=True)
class Standing:
    """How a trial stands: whose turn it is and for how many drifts, and what can be said by now."""

    sides: tuple[Side, Side]
    turn: str
    left: int
    sentence: str
    certainty: Certainty


def turn(first: int, second: int) -> tuple[int, int]:
    """Return whose turn it is (0 or 1) after so many drifts of each, and how many are left of it.

    >>> [turn(*had) for had in ((0, 0), (4, 0), (10, 0), (10, 15), (10, 20), (30, 20))]
    [(0, 10), (0, 6), (1, 20), (1, 5), (0, 20), (1, 20)]
    """
    had, due = (first, second), [0, 0]
    place = 0
    while True:
        side = ORDER[place % len(ORDER)]
        due[side] += TURN
        if had[side] < due[side]:
            # two turns of the same in a row are one
            while ORDER[(place + 1) % len(ORDER)] == side:
                place += 1
                due[side] += TURN
            return side, due[side] - had[side]
        place += 1


def standing(trial: Trial, rows: Sequence[Row], names: Mapping[str, str]) -> Standing:
    """Return how a trial stands by what was fished since it began; rows of anything else than the two are passed over."""
    both = [row for row in rows if row.part in (trial.first, trial.second)]
    dimension = DIMENSIONS[trial.by]

    def side(key: str) -> Side:
        mine = [row for row in both if row.part == key]
        drifts, takes = sum(row.drifts for row in mine), sum(row.hits for row in mine)
        return Side(key, dimension.label(key, names), drifts, takes)

    first, second = side(trial.first), side(trial.second)
    which, left = turn(first.drifts, second.drifts)
    least = min(first.drifts, second.drifts)
    found: Answer | None = answer(Question(trial.by), both, names) if least >= LEAST else None
    if found is None:
        sentence = (
            f"Not enough yet: {first.takes} takes in {first.drifts} drifts against {second.takes} in {second.drifts}. "
            f"Nothing is said before each has had {LEAST}."
        )
        return Standing((first, second), (first, second)[which].key, left, sentence, "empty")
    return Standing((first, second), (first, second)[which].key, left, found.sentence, found.certainty)
