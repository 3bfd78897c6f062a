"""Rivers, gauges, beats and lies: what an angler sets up, and each lie as it stands today."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import StringConstraints

from deriva.core.model.beat import BeatRules
from deriva.core.model.situation import Rules
from deriva.core.model.water import WaterKind
from deriva.core.ranges import Range
from deriva.core.say.cautions import Heed
from deriva.core.water.appetite import Species
from deriva.core.water.light import BEARING_DEG
from deriva.core.water.profile import BedKind
from deriva.core.water.sounding import DepthHow
from deriva.service.schemas.base import Name, Prose, Wire, Within
from deriva.service.schemas.log import Conditions, ReadingOut
from deriva.service.schemas.nouns import BottomNoun, Noun, SchoolNoun, SituationNoun


class SeenOut(Wire):
    """A depth and a speed seen at a flow: a point of the lie's rating."""

    at: datetime
    flow_m3_s: float
    depth_m: float
    depth_sd_m: float
    depth_how: DepthHow
    surface_speed_m_s: float


class RatingPointOut(Wire):
    """The depth that a rating gives at a flow, 8 times in 10 between the two others."""

    flow_m3_s: float
    depth_m: float
    depth_p10_m: float
    depth_p90_m: float


class CarriedOut(Wire):
    """The lie carried to today's flow from what was seen at others, with the rating's depth at flows about it."""

    flow_m3_s: float
    depth_m: float
    depth_sd_m: float
    surface_speed_m_s: float
    speed_sd_m_s: float
    seen: list[SeenOut]
    rating: list[RatingPointOut]


Latitude = Annotated[float, Within(Range(-90.0, 90.0, "°", "pole to pole"))]
Longitude = Annotated[float, Within(Range(-180.0, 180.0, "°", "once around"))]
Address = Annotated[
    str, StringConstraints(strip_whitespace=True, max_length=500, pattern=r"^(/|https?://)[!-~]+$")
]
"""Where a gauge or the weather is read: a path at the service set up, or a full address of a host that is allowed."""


class RiverIn(Wire):
    """A river; where it is, for the sun, and where its weather is read, if anywhere."""

    name: Name
    latitude: Latitude | None = None
    longitude: Longitude | None = None
    weather_url: Address | None = None


class GaugeIn(Wire):
    """A gauge of a river. In an address ``{start}`` and ``{end}`` stand for the times asked for; without one it is not read,
    and its past comes from files.
    """

    river_id: UUID
    name: Name
    format: Literal["rdb", "waterml", "csv"]
    url: Address | None = None
    daily_url: Address | None = None


class RiverOut(RiverIn):
    """A river as stored, with its gauge."""

    id: UUID
    gauge: GaugeIn | None
    gauge_id: UUID | None


BeatRulesNoun = Annotated[BeatRules, Noun()]


class BeatIn(Wire):
    """A beat: its place among the others, the rules that bind a rig, and the fishery's own words."""

    river_id: UUID
    name: Name
    position: Annotated[int, Within(Range(0, 1000, "", "more beats than anyone fishes"))]
    rules: BeatRulesNoun = BeatRules()
    rules_text: Prose = ""
    wading_allowed: bool = True
    flows_to_deg: Annotated[float, Within(BEARING_DEG)] | None = None
    species: Species = "brown trout"
    retired: bool = False
    """Not fished any more: gone from every list, and kept in the log."""


class LieIn(Wire):
    """A lie: what it is and where along its beat, from the downstream end up; where on the map, if that is known."""

    beat_id: UUID
    name: Name
    kind: WaterKind
    bed: BedKind
    along_m: Annotated[float, Within(Range(0.0, 100_000.0, "m", "longer than any beat"))]
    notes: Prose = ""
    latitude: Latitude | None = None
    longitude: Longitude | None = None
    retired: bool = False


class RetiredBeatOut(BeatIn):
    """A beat that is not fished any more. One that never was can be deleted."""

    id: UUID
    river: str
    fished: bool


class RetiredLieOut(LieIn):
    """A lie that is not fished any more. One that never was can be deleted."""

    id: UUID
    beat: str
    fished: bool


class RetiredOut(Wire):
    """What is not fished any more, to be brought back or deleted."""

    beats: list[RetiredBeatOut]
    lies: list[RetiredLieOut]


class LieOut(Wire):
    """A lie with its newest reading, what it is carried to at today's flow, and the situation that follows.

    ``school`` is null where the angler's own holds. ``stands_on`` says which of the two the situation rests on: a reading of
    the day stands before what is carried, while the river is as it was then. ``bottom`` is what was found of it spot by spot,
    as deep as it is today.
    """

    id: UUID
    name: str
    kind: WaterKind
    bed: BedKind
    along_m: float
    notes: str
    latitude: float | None
    longitude: float | None
    school: SchoolNoun | None
    reading: ReadingOut | None
    today: CarriedOut | None
    stands_on: Literal["reading", "flow"] | None
    situation: SituationNoun | None
    bottom: list[BottomNoun]


class WorkOut(Wire):
    """What a lie is worth today, why, and the drifts and minutes that its lanes deserve."""

    lie_id: UUID
    score: float
    order: int
    reasons: list[str]
    lane_m: float
    lanes: int
    drifts: int
    drifts_a_lane: int
    minutes: int


class BeatOut(Wire):
    """A beat with its rules, quoted as entered, and its lies from downstream up.

    ``working`` holds the lies that have been read, in the order of working them today. ``carried`` is what a lie that was
    never read starts from: the day as last read on the beat, or the defaults. ``heed`` is what to mind over each bed;
    ``rig_rules`` are those of the rules that bind a rig.
    """

    id: UUID
    river_id: UUID
    river: str
    name: str
    position: int
    rules: BeatRulesNoun
    rig_rules: Annotated[Rules, Noun()]
    rules_text: str
    wading_allowed: bool
    flows_to_deg: float | None
    species: Species
    carried: Conditions
    working: list[WorkOut]
    heed: dict[BedKind, Annotated[Heed, Noun()]]
    lies: list[LieOut]
