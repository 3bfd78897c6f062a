"""Rivers, gauges, beats and lies: what an angler sets up, and each lie as it stands today."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import StringConstraints

from deriva.core.advice.situation import WaterKind
from deriva.core.advice.today import Season
from deriva.core.ranges import Range
from deriva.core.water.appetite import Species
from deriva.core.water.light import BEARING_DEG
from deriva.core.water.profile import BedKind
from deriva.core.water.sounding import DepthHow
from deriva.service.schemas.advise import RulesModel, SchoolModel, SituationModel
from deriva.service.schemas.base import Name, Prose, Wire, Within
from deriva.service.schemas.log import Conditions, ReadingOut


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


MonthDay = Annotated[str, StringConstraints(pattern=r"^(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$")]
"""A day of the year, month first: 03-15."""


class BeatRules(RulesModel):
    """The rules of a beat: those that bind a rig, and the season, from its first day to its last."""

    season_first: MonthDay | None = None
    season_last: MonthDay | None = None

    def season(self) -> Season | None:
        """Return the season; None where both ends are not entered."""
        if self.season_first is None or self.season_last is None:
            return None
        (m0, d0), (m1, d1) = (
            (int(part) for part in day.split("-")) for day in (self.season_first, self.season_last)
        )
        return Season((m0, d0), (m1, d1))

    def of_a_rig(self) -> RulesModel:
        """Return the rules that bind a rig."""
        return RulesModel(**{name: getattr(self, name) for name in RulesModel.model_fields})


class BeatIn(Wire):
    """A beat: its place among the others, the rules that bind a rig, and the fishery's own words."""

    river_id: UUID
    name: Name
    position: Annotated[int, Within(Range(0, 1000, "", "more beats than anyone fishes"))]
    rules: BeatRules = BeatRules()
    rules_text: Prose = ""
    wading_allowed: bool = True
    flows_to_deg: Annotated[float, Within(BEARING_DEG)] | None = None
    species: Species = "brown trout"


class LieIn(Wire):
    """A lie: what it is and where along its beat, from the downstream end up."""

    beat_id: UUID
    name: Name
    kind: WaterKind
    bed: BedKind
    along_m: Annotated[float, Within(Range(0.0, 100_000.0, "m", "longer than any beat"))]
    notes: Prose = ""


class HeedOut(Wire):
    """What to mind at a lie whatever is read there next: row by row, up to this depth, from this surface speed on with a staff,
    from that one on not at all; deeper than the last row is not waded.
    """

    depths_m: list[float]
    staff_m_s: list[float]
    never_m_s: list[float]
    stop_c: float
    staff: str
    never: str
    stop: str


class LieOut(Wire):
    """A lie with its newest reading, what it is carried to at today's flow, and the situation that follows.

    ``school`` is null where the angler's own holds. ``stands_on`` says which of the two the situation rests on: a reading of
    the day stands before what is carried.
    """

    id: UUID
    name: str
    kind: WaterKind
    bed: BedKind
    along_m: float
    notes: str
    school: SchoolModel | None
    reading: ReadingOut | None
    today: CarriedOut | None
    stands_on: Literal["reading", "flow"] | None
    situation: SituationModel | None


class WorkOut(Wire):
    """What a lie is worth today, why, and the drifts and minutes that it deserves."""

    lie_id: UUID
    score: float
    order: int
    reasons: list[str]
    lane_m: float
    drifts: int
    minutes: int


class BeatOut(Wire):
    """A beat with its rules, quoted as entered, and its lies from downstream up.

    ``working`` holds the lies that have been read, in the order of working them today. ``carried`` is what a lie that was
    never read starts from: the day as last read on the beat, or the defaults. ``heed`` is what to mind over each bed.
    """

    id: UUID
    river_id: UUID
    river: str
    name: str
    position: int
    rules: BeatRules
    rules_text: str
    wading_allowed: bool
    flows_to_deg: float | None
    species: Species
    carried: Conditions
    working: list[WorkOut]
    heed: dict[BedKind, HeedOut]
    lies: list[LieOut]
