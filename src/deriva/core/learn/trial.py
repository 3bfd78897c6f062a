"""How a fair trial stands: what its two sides had in turn, and what can be said of them by now."""

from collections.abc import Mapping
from dataclasses import dataclass

from deriva.core.learn.answer import Answer, Certainty, Tally, answer
from deriva.core.learn.dimensions import DIMENSIONS
from deriva.core.learn.question import Question
from deriva.core.record.turns import Trial, turn

LEAST = 40
"""Drifts of each before anything is said: with the usual take in ten drifts, four or so of each (stated here)."""


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


def standing(trial: Trial, tally: Tally, names: Mapping[str, str]) -> Standing:
    """Return how a trial stands by what was fished since it began; anything else than the two is passed over."""
    both = [row for row in tally.rows() if row.part in (trial.first, trial.second)]
    dimension = DIMENSIONS[trial.by]

    def side(key: str) -> Side:
        mine = [row for row in both if row.part == key]
        drifts, takes = sum(row.drifts for row in mine), sum(row.hits for row in mine)
        return Side(key, dimension.label(key, names), drifts, takes)

    first, second = side(trial.first), side(trial.second)
    which, left = turn(first.drifts, second.drifts)
    least = min(first.drifts, second.drifts)
    found: Answer | None = answer(Question(trial.by), Tally.of(both), names) if least >= LEAST else None
    if found is None:
        sentence = (
            f"Not enough yet: {first.takes} takes in {first.drifts} drifts against {second.takes} in {second.drifts}. "
            f"Nothing is said before each has had {LEAST}."
        )
        return Standing((first, second), (first, second)[which].key, left, sentence, "empty")
    return Standing((first, second), (first, second)[which].key, left, found.sentence, found.certainty)
