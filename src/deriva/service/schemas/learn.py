"""Asking the log."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from deriva.core.learn.answer import Answer
from deriva.core.learn.calibration import Bands, Eye, Length, Touches
from deriva.core.learn.dimensions import DimensionName
from deriva.core.learn.evidence import Evidence
from deriva.core.learn.here import Here
from deriva.core.learn.question import Measure, Question
from deriva.core.learn.story import Said
from deriva.core.learn.trial import Standing
from deriva.core.model.water import WaterKind
from deriva.core.ranges import TEMPERATURE_C
from deriva.core.record.turns import TiedOn, Trial
from deriva.core.water.flow import FlowClass
from deriva.service.schemas.base import Wire, Within, Words
from deriva.service.schemas.nouns import Noun

QuestionNoun = Annotated[Question, Noun()]
HereNoun = Annotated[Here, Noun()]
AnswerNoun = Annotated[Answer, Noun()]
SaidNoun = Annotated[Said, Noun()]
EvidenceNoun = Annotated[Evidence, Noun()]
TrialNoun = Annotated[Trial, Noun()]


class DimensionOut(Wire):
    """Something that the log can be asked by, if need be of fish to hand alone."""

    name: DimensionName
    words: str
    of_fish: bool


class SuggestedOut(Wire):
    """A question that the log can answer."""

    question: QuestionNoun
    words: str


class OfUseOut(Wire):
    """What an answer must be about, and what be counted for it, to be of use for a rig."""

    by: list[DimensionName]
    measures: list[Measure]


class AskableOut(Wire):
    """What can be asked, what is worth asking, and which of it is of use for a rig, or can be tried in turns."""

    dimensions: list[DimensionOut]
    suggested: list[SuggestedOut]
    for_the_rig: OfUseOut
    for_a_trial: list[TiedOn]


class BehindIn(Wire):
    """A part of an answer."""

    question: QuestionNoun
    part: Words


class HereIn(Wire):
    """Where, and in what water: a lie or a whole beat, the kind of lie if it is one, and today's flow, warmth and light."""

    place: Literal["lie", "beat"]
    id: UUID
    kind: WaterKind | None = None
    flow_class: FlowClass
    temperature_c: Annotated[float, Within(TEMPERATURE_C)]
    light: Literal["day", "dusk", "dark"]


class PartOut(Wire):
    """A part of a dimension that was fished."""

    key: str
    label: str
    drifts: int


class ForetoldOut(Wire):
    """Of how many fished settings the drift engine has said what they do, and where the rig stands among those that are advised
    there; how many settings there are.
    """

    said: int
    ranked: int
    settings: int


class CalibrationOut(ForetoldOut):
    """How right Deriva has been, and an angler's eye; null where there is too little to say.

    ``carried``: depths carried to a flow along a rating, against those measured then. ``own_error``: what is reckoned with for
    the angler's eye, null: what is usual.
    """

    carried: Annotated[Bands, Noun()] | None
    by_eye: Annotated[Bands, Noun()] | None
    eye: Annotated[Eye, Noun()] | None
    own_error: float | None
    lengths: Annotated[Length, Noun()] | None
    touches: Annotated[Touches, Noun()] | None


class EyeIn(Wire):
    """Whether what was found of the angler's own eye is reckoned with."""

    own: bool


MOST_EVIDENCE = 6


class EvidenceIn(Wire):
    """The questions whose answers are to be shown beside the rig."""

    questions: Annotated[list[QuestionNoun], Field(max_length=MOST_EVIDENCE)]


class TrialOut(Wire):
    """What is fished in turns, and how it stands."""

    trial: TrialNoun
    standing: Annotated[Standing, Noun()]
