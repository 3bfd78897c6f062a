"""An angler's own answers beside the computation: which of those that are to be shown speak of the water in front of one."""

from collections.abc import Mapping
from dataclasses import dataclass

from deriva.core.learn.answer import Certainty, Tally, answer
from deriva.core.learn.dimensions import SCHOOL_OF, DimensionName
from deriva.core.learn.question import Measure, Question

OF_THE_RIG: tuple[DimensionName, ...] = ("rig", "bead", "fly", "hook", "setting")
"""What an answer must be about to be of use for a rig."""

FOR_THE_RIG: tuple[Measure, ...] = ("takes", "fish")
"""What must be counted for it."""

NOT_WATER: tuple[DimensionName, ...] = (
    *OF_THE_RIG,
    "lane",
    "zone",
    "took",
    "moment",
    "ranked",
    *SCHOOL_OF.values(),
)
"""What may narrow a question and says nothing of the water."""


@dataclass(frozen=True, slots=True)
class Evidence:
    """An answer that is shown beside a rig."""

    question: Question
    words: str
    sentence: str
    certainty: Certainty


def is_of_use(question: Question) -> bool:
    """Return whether an answer to a question could move a choice of rig: takes or fish, by something that is tied on."""
    return question.by in OF_THE_RIG and question.measure in FOR_THE_RIG


def fits(question: Question, now: Mapping[DimensionName, str]) -> bool:
    """Return whether a question speaks of the water that is now: all that it is narrowed to is so. What is not known now, does
    not fit.
    """
    return all(one.dimension in NOT_WATER or now.get(one.dimension) == one.part for one in question.only)


def weighed(question: Question, tally: Tally, names: Mapping[str, str]) -> Evidence:
    """Answer a question as it is shown beside a rig, from what was fished of it."""
    found = answer(question, tally, names)
    return Evidence(question, found.question, found.sentence, found.certainty)
