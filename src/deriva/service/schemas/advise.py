"""`deriva advise` and the views of a rig, as they go over the wire."""

from typing import Annotated

from pydantic import ConfigDict, Field

from deriva.core.choose.criteria import Criterion
from deriva.core.choose.presentations import Presentation
from deriva.core.choose.schools import Question
from deriva.core.model.rig import RigKind
from deriva.core.rigs.packed import MOST_RIGS, Packed
from deriva.core.say.picture import Picture
from deriva.core.say.why import Why
from deriva.core.trade.casts import CastHere
from deriva.service.schemas.base import Wire
from deriva.service.schemas.nouns import CautionNoun, DrySetupNoun, Noun, SetupNoun, SituationNoun, TuningNoun

WhyNoun = Annotated[Why, Noun()]


class ReasonOut(Wire):
    """A sentence for or against."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)

    for_: bool = Field(alias="for")
    text: str


class NumbersOut(Wire):
    """The computed numbers of a rig, SI. ``passes_s``: when flies that landed as far above a fish as they should come to it."""

    fly_depth_m: float
    pace: float
    lean_deg: float
    time_to_zone_s: float | None
    hang_chance: float
    drift_m: float
    drift_s: float
    passes_s: float | None
    carry: float | None
    grounded: bool
    lifted: bool


class ThumbOut(Wire):
    """The rule of thumb's own answer beside the computed one."""

    depth_setting_m: list[float]
    note: str


class FlyToTieOut(Wire):
    """A fly that could go to the point, with its bead where it is one of the angler's own."""

    form: str
    hook: int
    dressing: str
    bead_mm: float | None


class LimitsOut(Wire):
    """How far the rig can be set by hand here: beads to be had, least and most line, and the step between; how many flies the
    rules allow on it, floats or dries, and flies for the point.

    ``own_flies``: they are the box's, each on its bead; otherwise any goes on any bead.
    """

    beads_mm: list[float | None]
    least_m: float
    most_m: float
    step_m: float
    heaviest_x: int
    finest_x: int
    fastest_pace: float
    flies: list[int]
    floats: list[str]
    point_flies: list[FlyToTieOut]
    own_flies: bool


class RankedOut(Wire):
    """One rig of the three. What is null could not be computed because the rig cannot be used here.

    The score is the product of the criteria, the zone at the power of ``zone_weight``.
    """

    rig: RigKind
    name: str
    score: float
    answer: str
    zone_share: float
    zone_share_low: float
    zone_share_high: float
    first_setting: bool
    """The depth is not surely known: no span is promised, and the warnings say what to do after the first drifts."""
    reasons: list[ReasonOut]
    warnings: list[str]
    criteria: list[Annotated[Criterion, Noun()]]
    loses_on: str | None
    setup: SetupNoun | None
    numbers: NumbersOut | None
    picture: Annotated[Picture, Noun()] | None
    why: list[WhyNoun]
    rule_of_thumb: ThumbOut
    limits: LimitsOut
    zone_weight: float


class DryOut(Wire):
    """The single dry: nothing of it sinks, so only the fly and its tippet are set."""

    name: str
    setup: DrySetupNoun
    score: float
    reasons: list[ReasonOut]


class AdviceOut(Wire):
    """An advice; ``relax`` says what to give up where no rig can be used, ``single_dry`` is null where it is not worth
    offering, ``schools`` are the questions whose answer can change this advice.

    ``heed`` are the cautions as data; ``cautions`` their sentences alone.
    """

    ranked: list[RankedOut]
    cautions: list[str]
    heed: list[CautionNoun]
    rule_of_thumb: ThumbOut
    presentations: list[Annotated[Presentation, Noun()]]
    casts: list[Annotated[CastHere, Noun()]]
    relax: list[str]
    schools: list[Question]
    single_dry: DryOut | None


PackedNoun = Annotated[Packed, Noun()]


class MarchesIn(Wire):
    """A situation and the rigs that may hang on the rod there."""

    situation: SituationNoun
    tunings: Annotated[list[TuningNoun], Field(min_length=1, max_length=MOST_RIGS)]


class TuneIn(Wire):
    """A situation and the rig in hand."""

    situation: SituationNoun
    tuning: TuningNoun
