"""`deriva advise` and the views of a rig: a situation in, ranked rigs out."""

import math
from collections.abc import Iterable
from dataclasses import asdict
from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from deriva.core import ranges as r
from deriva.core.advice.advisor import NAMES, Advice, Judged, Tuning
from deriva.core.advice.candidates import limits
from deriva.core.advice.evaluate import Evaluation
from deriva.core.advice.food import BODY_MM, Found, Rises, Stage, Where
from deriva.core.advice.hanging import Part, TopMark, picture, setup
from deriva.core.advice.presentations import presentations
from deriva.core.advice.relax import relaxations
from deriva.core.advice.situation import (
    Box,
    Feeding,
    Fish,
    LieWater,
    Place,
    Rules,
    School,
    Situation,
    WaterKind,
)
from deriva.core.advice.why import Why, explain
from deriva.core.advice.wording import plain
from deriva.core.ranges import Range
from deriva.core.rigs.spec import TAG_M, RigKind
from deriva.core.tackle.flies import HOOK, BeadMaterial, DressingClass, Fly
from deriva.core.tackle.floats import DRIES, INDICATORS
from deriva.core.tackle.tank import FACTOR
from deriva.core.tackle.tippet import TIPPET_X
from deriva.core.water.flow import FlowClass
from deriva.core.water.profile import BedKind
from deriva.service.schemas.base import Name, Wire, Within, Words

FLIES = Range(1, 3, "flies", "more tangle than fish")
FLOAT_MM = Range(1.0, 60.0, "mm", "pinch of yarn to the largest float")
SHOT_G = Range(0.0, 5.0, "g", "more would sink any float here")
SPEED_SD_M_S = Range(0.0, 2.0, "m/s", "half the fastest water")
SPACING_M = Range(0.05, 1.5, "m", "a dropper that can be cast")
LEAD_M = Range(0.0, 60.0, "m", "further up than anybody casts")
PACE = Range(0.0, 1.5, "of the surface speed", "a tip that stands still to one that races")


class SituationWater(Wire):
    """The water of the lie; every field but depth and speed has a default."""

    kind: WaterKind = "run"
    depth_m: Annotated[float, Within(r.DEPTH_M)]
    depth_sd_m: Annotated[float, Within(r.DEPTH_SD_M)] | None = None
    surface_speed_m_s: Annotated[float, Within(r.SURFACE_SPEED_M_S)]
    bed: BedKind = "gravel"
    clarity_m: Annotated[float, Within(r.CLARITY_M)] = 1.5
    temperature_c: Annotated[float, Within(r.TEMPERATURE_C)] = 11.0
    flow_class: FlowClass = "normal"
    undertow: bool = False
    speed_sd_m_s: Annotated[float, Within(SPEED_SD_M_S)] | None = None


class SituationPlace(Wire):
    """Where the angler stands to the fish."""

    distance_m: Annotated[float, Within(r.DISTANCE_M)] = 7.0
    wading_allowed: bool = True
    wind_m_s: Annotated[float, Within(r.WIND_M_S)] = 2.0
    tight_casting: bool = False


class FoundModel(Wire):
    """What a net brought up: stage, length of the body, and from where."""

    stage: Stage
    body_mm: Annotated[float, Within(BODY_MM)]
    where: Where


class SituationFish(Wire):
    """What the fish are doing; ``feeding`` null: as rises and net say, by the bed where there is no sign."""

    feeding: Feeding | None = None
    species: Words = "brown trout"
    rises: Rises = "none"
    found: Annotated[list[FoundModel], Field(max_length=6)] = Field(default_factory=list)

    def fish(self) -> Fish:
        """Return the core's fish."""
        found = tuple(Found(**one.model_dump()) for one in self.found)
        return Fish(feeding=self.feeding, species=self.species, rises=self.rises, found=found)


class RulesModel(Wire):
    """The rules of the beat that bind a rig."""

    max_flies: Annotated[int, Within(FLIES)] = 2
    added_weight: bool = True
    barbless: bool = True
    lead: bool = False
    release: bool = True


class SchoolModel(Wire):
    """Which side the angler takes where practitioners disagree."""

    depth: Literal["long", "depth"] = "long"
    flies: Literal["two", "one"] = "two"
    heavy: Literal["point", "first"] = "point"
    weight: Literal["flies", "shot"] = "flies"
    pace: Literal["dead", "lead"] = "dead"
    bottom: Literal["touch", "near"] = "touch"
    tied: Literal["tag", "line"] = "tag"


class FlyModel(Wire):
    """A nymph: its form in words, hook, bead and dressing; ``drag_factor`` from a tank test replaces the dressing's."""

    form: Name
    hook: Annotated[int, Within(HOOK)]
    bead_mm: Annotated[float, Within(r.BEAD_MM)] | None = None
    dressing: DressingClass = "dubbed"
    drag_factor: Annotated[float, Within(FACTOR)] | None = None
    material: BeadMaterial = "tungsten"


class BoxModel(Wire):
    """What the angler owns, where that limits the choice; ``flies`` null: any fly on the beads named."""

    beads_mm: Annotated[list[Annotated[float, Within(r.BEAD_MM)]], Field(max_length=40)]
    flies: Annotated[list[FlyModel], Field(max_length=200)] | None = None
    floats_mm: Annotated[list[Annotated[float, Within(FLOAT_MM)]], Field(max_length=40)] = Field(
        default_factory=lambda: [one.size_mm for one in INDICATORS]
    )
    dries: Annotated[list[Words], Field(max_length=40)] = Field(
        default_factory=lambda: [one.name for one in DRIES]
    )


class SituationModel(Wire):
    """What `deriva advise` reads."""

    water: SituationWater
    place: SituationPlace = SituationPlace()
    fish: SituationFish = SituationFish()
    rules: RulesModel = RulesModel()
    school: SchoolModel = SchoolModel()
    box: BoxModel | None = None

    @staticmethod
    def of(situation: Situation) -> "SituationModel":
        """Return the wire form of the core's situation."""
        return SituationModel.model_validate(asdict(situation))

    def situation(self) -> Situation:
        """Return the core's situation."""
        box = self.box
        return Situation(
            water=LieWater(**self.water.model_dump()),
            place=Place(**self.place.model_dump()),
            fish=self.fish.fish(),
            rules=Rules(**self.rules.model_dump()),
            school=School(**self.school.model_dump()),
            box=None
            if box is None
            else Box(
                tuple(sorted(box.beads_mm)),
                tuple(box.floats_mm),
                tuple(box.dries),
                None if box.flies is None else tuple(Fly(**fly.model_dump()) for fly in box.flies),
            ),
        )


class ReasonOut(Wire):
    """A sentence for or against."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)

    for_: bool = Field(alias="for")
    text: str


class CriterionOut(Wire):
    """One judgement with its value from 0 to 1."""

    name: str
    value: float
    text: str


class SetupOut(Wire):
    """The rig as set, in full, as it is written out and as a log has it."""

    flies: Annotated[int, Within(FLIES)]
    point_bead_mm: Annotated[float, Within(r.BEAD_MM)]
    point_form: Words
    point_hook: Annotated[int, Within(HOOK)]
    point_dressing: Words
    dropper_form: Words | None
    dropper_hook: Annotated[int, Within(HOOK)] | None
    dropper_bead_mm: Annotated[float, Within(r.BEAD_MM)] | None
    depth_setting_m: Annotated[float, Within(r.DEPTH_SETTING_M)]
    dropper_spacing_m: Annotated[float, Within(SPACING_M)] | None
    dropper_tag_m: Annotated[float, Within(TAG_M)] = 0.0
    tippet_x: Annotated[int, Within(TIPPET_X)]
    shot_g: Annotated[float, Within(SHOT_G)]
    float_: Annotated[Words | None, Field(alias="float")]
    tip_pace: Annotated[float, Within(PACE)] | None
    lead_m: Annotated[float, Within(LEAD_M)] | None

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)


class PointOut(Wire):
    """A point of the picture: x downstream from the top end, height above the bed."""

    x_m: float
    height_m: float


class BodyOut(Wire):
    """A fly or shot in the picture; ``knot`` is the point of the line that it, or its tag, is tied in at."""

    part: Part
    knot: int
    x_m: float
    height_m: float
    size_mm: float


class PictureOut(Wire):
    """The settled rig to scale, at the depth believed; the first ``sighter_points`` of the line are the sighter."""

    depth_m: float
    zone_low_m: float
    zone_high_m: float
    top: TopMark
    top_size_mm: float
    sighter_points: int
    line: list[PointOut]
    bodies: list[BodyOut]


class NumbersOut(Wire):
    """The computed numbers of a rig, SI."""

    fly_depth_m: float
    pace: float
    lean_deg: float
    time_to_zone_s: float | None
    hang_chance: float
    drift_m: float
    carry: float | None
    grounded: bool
    lifted: bool


class WhyOut(Wire):
    """The why of one number; texts carry marked quantities."""

    number: str
    title: str
    inputs: list[str]
    how: str
    source: str
    change: str


class ThumbOut(Wire):
    """The rule of thumb's own answer beside the computed one."""

    depth_setting_m: list[float]
    note: str


class LimitsOut(Wire):
    """How far the rig can be set by hand here: beads to be had, least and most line, and the step between."""

    beads_mm: list[float]
    least_m: float
    most_m: float
    step_m: float
    heaviest_x: int
    finest_x: int
    fastest_pace: float


class RankedOut(Wire):
    """One rig of the three. What is null could not be computed because the rig cannot be used here."""

    rig: RigKind
    name: str
    score: float
    answer: str
    zone_share: float
    zone_share_low: float
    zone_share_high: float
    reasons: list[ReasonOut]
    warnings: list[str]
    criteria: list[CriterionOut]
    loses_on: str | None
    setup: SetupOut | None
    numbers: NumbersOut | None
    picture: PictureOut | None
    why: list[WhyOut]
    rule_of_thumb: ThumbOut
    limits: LimitsOut


class PresentationOut(Wire):
    """Another way to show a nymph that wins here."""

    name: str
    rig: RigKind
    how: str
    why: str


class AdviceOut(Wire):
    """What `deriva advise` writes; ``relax`` says what to give up where no rig can be used."""

    ranked: list[RankedOut]
    cautions: list[str]
    rule_of_thumb: ThumbOut
    presentations: list[PresentationOut]
    relax: list[str]


class TuningIn(Wire):
    """A rig as the angler sets it; what is null is chosen as the advisor would."""

    rig: RigKind
    depth_setting_m: Annotated[float, Within(r.DEPTH_SETTING_M)]
    point_bead_mm: Annotated[float, Within(r.BEAD_MM)]
    flies: Annotated[int, Within(FLIES)] | None = None
    dropper_bead_mm: Annotated[float, Within(r.BEAD_MM)] | None = None
    dropper_spacing_m: Annotated[float, Within(SPACING_M)] | None = None
    dropper_tag_m: Annotated[float, Within(TAG_M)] | None = None
    tippet_x: Annotated[int, Within(TIPPET_X)] | None = None
    shot_g: Annotated[float, Within(SHOT_G)] = 0.0
    float_: Annotated[Words | None, Field(alias="float")] = None
    tip_pace: Annotated[float, Within(PACE)] | None = None

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)

    def tuning(self) -> Tuning:
        """Return the core's tuning."""
        return Tuning(
            kind=self.rig,
            depth_setting_m=self.depth_setting_m,
            point_bead_mm=self.point_bead_mm,
            flies=self.flies,
            dropper_bead_mm=self.dropper_bead_mm,
            dropper_spacing_m=self.dropper_spacing_m,
            dropper_tag_m=self.dropper_tag_m,
            tippet_x=self.tippet_x,
            shot_g=self.shot_g,
            float_=self.float_,
            tip_pace=self.tip_pace,
        )


class TuneIn(Wire):
    """A situation and the rig in hand."""

    situation: SituationModel
    tuning: TuningIn


def _numbers(e: Evaluation) -> NumbersOut:
    return NumbersOut(
        fly_depth_m=e.steady.body_depth_m[0],
        pace=e.steady.top_speed_ratio,
        lean_deg=e.steady.top_angle_deg,
        time_to_zone_s=e.time_to_zone_s,
        hang_chance=e.hang_chance,
        drift_m=e.drift_m,
        carry=e.carry if math.isfinite(e.carry) else None,
        grounded=e.steady.grounded,
        lifted=e.steady.lifted,
    )


def _limits(situation: Situation) -> LimitsOut:
    by_hand = limits(situation)
    line = by_hand.depth_setting_m
    return LimitsOut(
        beads_mm=list(by_hand.beads_mm),
        least_m=line.lo,
        most_m=line.hi,
        step_m=by_hand.step_m,
        heaviest_x=int(by_hand.tippet_x.lo),
        finest_x=int(by_hand.tippet_x.hi),
        fastest_pace=by_hand.tip_pace.hi,
    )


def whys_out(whys: Iterable[Why]) -> list[WhyOut]:
    """Return the wire form of explanations."""
    return [WhyOut(**asdict(why) | {"inputs": list(why.inputs)}) for why in whys]


def ranked_out(judged: Judged, situation: Situation) -> RankedOut:
    """Return the wire form of one judged rig; sentences keep their marked quantities."""
    e = judged.evaluation
    return RankedOut(
        rig=judged.kind,
        name=NAMES[judged.kind],
        score=judged.score,
        answer=judged.answer,
        zone_share=e.zone_share if e else 0.0,
        zone_share_low=e.zone_share_low if e else 0.0,
        zone_share_high=e.zone_share_high if e else 0.0,
        reasons=[ReasonOut(for_=reason.speaks_for, text=reason.text) for reason in judged.reasons],
        warnings=list(judged.warnings),
        criteria=[CriterionOut(name=c.name, value=c.value, text=c.text) for c in judged.criteria],
        loses_on=judged.loses_on,
        setup=SetupOut.model_validate(asdict(setup(e))) if e else None,
        numbers=_numbers(e) if e else None,
        picture=PictureOut.model_validate(asdict(picture(e))) if e else None,
        why=whys_out(explain(e, situation)) if e else [],
        rule_of_thumb=ThumbOut(depth_setting_m=list(judged.thumb_m), note=judged.thumb_note),
        limits=_limits(situation),
    )


def advice_out(advice: Advice, situation: Situation) -> AdviceOut:
    """Return the wire form of an advice."""
    ranked = [ranked_out(judged, situation) for judged in advice.ranked]
    return AdviceOut(
        ranked=ranked,
        cautions=list(advice.cautions),
        rule_of_thumb=ranked[0].rule_of_thumb,
        presentations=[PresentationOut(**asdict(one)) for one in presentations(situation)],
        relax=list(relaxations(situation, advice)),
    )


def plain_json(value: object) -> object:
    """Return JSON-like data with the marks taken off every sentence, for readers without units to choose."""
    if isinstance(value, str):
        return plain(value)
    if isinstance(value, list):
        return [plain_json(item) for item in value]
    if isinstance(value, dict):
        return {key: plain_json(item) for key, item in value.items()}
    return value
