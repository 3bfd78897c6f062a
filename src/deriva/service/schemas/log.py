"""What an angler reads off the water and writes down."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field, StringConstraints

from deriva.core import ranges as r
from deriva.core.advice.situation import Feeding, WaterKind
from deriva.core.ranges import Range
from deriva.core.record.tally import FlyOnRig, LengthHow, Outcome, Pace, Phase
from deriva.core.rigs.spec import RigKind
from deriva.core.water.flow import FlowClass
from deriva.core.water.profile import BedKind
from deriva.core.water.sounding import DepthHow
from deriva.service.schemas.advise import RulesModel, SetupOut, SituationModel
from deriva.service.schemas.base import Moment, Name, Prose, Wire, Within, Words

Units = Literal["metric", "us"]


class SpeedTyped(Wire):
    """A surface speed given as a number."""

    how: Literal["typed"]
    surface_speed_m_s: Annotated[float, Within(r.SURFACE_SPEED_M_S)]


class SpeedBubbles(Wire):
    """A surface speed timed: a bubble over a known distance."""

    how: Literal["bubbles"]
    distance_m: Annotated[float, Within(r.BUBBLE_DISTANCE_M)]
    seconds: Annotated[float, Within(r.BUBBLE_TIME_S)]


class SpeedTimed(Wire):
    """A surface speed that was timed before, with its error: a change of something else keeps it as it is."""

    how: Literal["timed"]
    surface_speed_m_s: Annotated[float, Within(r.SURFACE_SPEED_M_S)]
    error_m_s: Annotated[float, Within(Range(0.0, 2.0, "m/s", "half the fastest water"))]


Speed = Annotated[SpeedTyped | SpeedBubbles | SpeedTimed, Field(discriminator="how")]


class Conditions(Wire):
    """What a reading says beside depth and speed; all of it can be carried over from another lie of the day."""

    depth_how: DepthHow = "eye"
    clarity_m: Annotated[float, Within(r.CLARITY_M)] = 1.5
    temperature_c: Annotated[float, Within(r.TEMPERATURE_C)] = 11.0
    distance_m: Annotated[float, Within(r.DISTANCE_M)] = 7.0
    wind_m_s: Annotated[float, Within(r.WIND_M_S)] = 2.0
    tight_casting: bool = False
    feeding: Feeding = "bottom"
    flow_class: FlowClass = "normal"
    undertow: bool = False


class ReadingIn(Conditions):
    """One reading of a lie."""

    lie_id: UUID
    at: Moment
    depth_m: Annotated[float, Within(r.DEPTH_M)]
    speed: Speed


class ReadingOut(Wire):
    """A reading as stored, with the spread that follows from how it was taken."""

    id: UUID
    lie_id: UUID
    at: datetime
    depth_m: float
    depth_sd_m: float
    depth_how: DepthHow
    surface_speed_m_s: float
    speed_error_m_s: float | None
    speed_how: Literal["typed", "bubbles"]
    clarity_m: float
    temperature_c: float
    distance_m: float
    wind_m_s: float
    tight_casting: bool
    feeding: Feeding
    flow_class: FlowClass
    undertow: bool
    flow_m3_s: float | None


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


class RiverIn(Wire):
    """A river."""

    name: Name


class BeatIn(Wire):
    """A beat: its place among the others, the rules that bind a rig, and the fishery's own words."""

    river_id: UUID
    name: Name
    position: Annotated[int, Within(Range(0, 1000, "", "more beats than anyone fishes"))]
    rules: RulesModel
    rules_text: Prose = ""
    wading_allowed: bool = True


class LieIn(Wire):
    """A lie: what it is and where along its beat, from the downstream end up."""

    beat_id: UUID
    name: Name
    kind: WaterKind
    bed: BedKind
    along_m: Annotated[float, Within(Range(0.0, 100_000.0, "m", "longer than any beat"))]
    notes: Prose = ""


class LieOut(Wire):
    """A lie with its newest reading, what it is carried to at today's flow, and the situation that follows.

    ``stands_on`` says which of the two the situation rests on: a reading of the day stands before what is carried.
    """

    id: UUID
    name: str
    kind: WaterKind
    bed: BedKind
    along_m: float
    notes: str
    reading: ReadingOut | None
    today: CarriedOut | None
    stands_on: Literal["reading", "flow"] | None
    situation: SituationModel | None


class WorkOut(Wire):
    """What a lie is worth today, why, and the drifts and minutes that it deserves."""

    lie_id: UUID
    score: float
    reasons: list[str]
    lane_m: float
    drifts: int
    minutes: int


class BeatOut(Wire):
    """A beat with its rules, quoted as entered, and its lies from downstream up.

    ``working`` holds the lies that have been read, in the order of working them today. ``carried`` is what a lie that was
    never read starts from: the day as last read on the beat, or the defaults.
    """

    id: UUID
    river_id: UUID
    river: str
    name: str
    position: int
    rules: RulesModel
    rules_text: str
    wading_allowed: bool
    carried: Conditions
    working: list[WorkOut]
    lies: list[LieOut]


class OutingIn(Wire):
    """An outing; its conditions are frozen by the service when it is first written."""

    beat_id: UUID
    started_at: Moment
    ended_at: Moment | None = None


class StopIn(Wire):
    """A stay at a lie."""

    outing_id: UUID
    lie_id: UUID
    at: Moment
    situation: SituationModel


class SettingIn(Wire):
    """A rig as set."""

    stop_id: UUID
    at: Moment
    rig: RigKind
    depth_setting_m: Annotated[float, Within(r.DEPTH_SETTING_M)]
    point_bead_mm: Annotated[float, Within(r.BEAD_MM)]
    setup: SetupOut


class DriftLogIn(Wire):
    """One drift and how it ended; ``undone`` takes it back."""

    setting_id: UUID
    at: Moment
    outcome: Outcome
    pace: Pace | None = None
    undone: bool = False


class CatchIn(Wire):
    """A fish; a length is never insisted on."""

    drift_id: UUID
    at: Moment
    species: Annotated[Words, StringConstraints(min_length=1, max_length=60)]
    length_mm: Annotated[float, Within(r.FISH_LENGTH_MM)] | None = None
    length_how: LengthHow = "none"
    fly: FlyOnRig
    phase: Phase
    undone: bool = False


class Stored(Wire):
    """Acknowledgement: the row with this id is on disk."""

    id: UUID


class CatchOut(Wire):
    """A fish in the ledger."""

    id: UUID
    at: datetime
    species: str
    length_mm: float | None
    length_how: LengthHow
    fly: FlyOnRig
    phase: Phase


class DriftLogOut(Wire):
    """A drift in the ledger."""

    id: UUID
    at: datetime
    outcome: Outcome
    pace: Pace | None
    catches: list[CatchOut]


class SettingOut(Wire):
    """A setting in the ledger with its drifts."""

    id: UUID
    at: datetime
    rig: RigKind
    depth_setting_m: float
    point_bead_mm: float
    setup: SetupOut
    drifts: list[DriftLogOut]


class StopOut(Wire):
    """A stop in the ledger with its settings."""

    id: UUID
    lie_id: UUID
    lie: str
    at: datetime
    situation: SituationModel
    settings: list[SettingOut]


class TallyOut(Wire):
    """Counts of an outing."""

    drifts: int
    touches: int
    hung: int
    missed: int
    fish: int
    lost_flies: int


class OutingOut(Wire):
    """An outing in the ledger's list."""

    id: UUID
    beat_id: UUID
    beat: str
    started_at: datetime
    ended_at: datetime | None
    conditions: dict[str, Any]
    tally: TallyOut


class LedgerOut(Wire):
    """One outing in full."""

    outing: OutingOut
    stops: list[StopOut]


class AnglerOut(Wire):
    """Who is signed in."""

    id: UUID
    name: str
    units: Units


class AnglerIn(Wire):
    """What an angler can change of the account."""

    units: Units


class SessionOut(Wire):
    """The session: nobody, or an angler; and whether the demo button may be shown."""

    demo_start: bool
    angler: AnglerOut | None
