"""Asking the log."""

from typing import Annotated

from deriva.core.learn.answer import Answer
from deriva.core.learn.dimensions import DimensionName
from deriva.core.learn.question import Question
from deriva.service.schemas.base import Wire, Words
from deriva.service.schemas.nouns import Noun

QuestionNoun = Annotated[Question, Noun()]
AnswerNoun = Annotated[Answer, Noun()]


class DimensionOut(Wire):
    """Something that the log can be asked by."""

    name: DimensionName
    words: str


class SuggestedOut(Wire):
    """A question that the log can answer."""

    question: QuestionNoun
    words: str


class AskableOut(Wire):
    """What can be asked, and what is worth asking."""

    dimensions: list[DimensionOut]
    suggested: list[SuggestedOut]


class BehindIn(Wire):
    """A part of an answer."""

    question: QuestionNoun
    part: Words


class PartOut(Wire):
    """A part of a dimension that was fished."""

    key: str
    label: str
    drifts: int
