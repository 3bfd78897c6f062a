"""What an angler reads off the water and writes down."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field, StringConstraints

from deriva.core import ranges as r
from deriva.core.model.logged import Condition, Direction, FlyOnRig, LengthHow, Lost, Outcome, Pace, Phase
from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Cover
from deriva.core.ranges import Range
from deriva.core.tackle.food import Feeding, Rises
from deriva.core.water.clarity import ClarityHow
from deriva.core.water.flow import FlowClass
from deriva.core.water.sounding import DepthHow
from deriva.service.schemas.base import Moment, Prose, Wire, Within, Words
from deriva.service.schemas.nouns import (
    DrySetupNoun,
    FoundNoun,
    RodNoun,
    SchoolNoun,
    SetupNoun,
    SituationNoun,
)

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
    clarity_how: ClarityHow = "boots"
    temperature_c: Annotated[float, Within(r.TEMPERATURE_C)] = 11.0
    distance_m: Annotated[float, Within(r.DISTANCE_M)] = 7.0
    wind_m_s: Annotated[float, Within(r.WIND_M_S)] = 2.0
    tight_casting: bool = False
    feeding: Feeding | None = None
    rises: Rises = "none"
    found: Annotated[list[FoundNoun], Field(max_length=6)] = Field(default_factory=list)
    flow_class: FlowClass = "normal"
    undertow: bool = False
    refusing: bool = False
    spawning: bool = False
    cover: Annotated[list[Cover], Field(max_length=3)] = Field(default_factory=list)
    under_line_m_s: Annotated[float, Within(r.SURFACE_SPEED_M_S)] | None = None
    """How fast a bubble between angler and lane runs; null: as is usual for the kind of lie."""


class ReadingIn(Conditions):
    """One reading of a lie."""

    lie_id: UUID
    at: Moment
    depth_m: Annotated[float, Within(r.DEPTH_M)]
    depth_sd_m: Annotated[float, Within(r.DEPTH_SD_M)] | None = None
    """How surely the depth is known; null: as surely as things taken so are."""
    speed: Speed


class SoundingIn(Wire):
    """What the bottom was found to be at one spot of a lie; ``gone`` takes it back."""

    lie_id: UUID
    at: Moment
    lane: Annotated[int, Within(r.LANE)]
    stance: Annotated[int, Within(r.STANCE)]
    depth_m: Annotated[float, Within(r.DEPTH_M)]
    depth_sd_m: Annotated[float, Within(r.DEPTH_SD_M)]
    gone: bool = False


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
    clarity_how: ClarityHow
    temperature_c: float
    distance_m: float
    wind_m_s: float
    tight_casting: bool
    feeding: Feeding | None
    rises: Rises
    found: list[FoundNoun]
    flow_class: FlowClass
    undertow: bool
    refusing: bool
    spawning: bool
    cover: list[Cover]
    under_line_m_s: float | None
    flow_m3_s: float | None
    fresh_until: datetime
    """Until then it is a reading of the day: it stands before what the flow says, and a change corrects it."""


class OutingIn(Wire):
    """An outing; its conditions are frozen by the service when it is first written."""

    beat_id: UUID
    started_at: Moment
    ended_at: Moment | None = None
    gone: bool = False
    """Taken back, with all that is in it."""


class NoteIn(Wire):
    """What is noted of an outing, or of one stop or fish of it, in words of one's own; ``gone`` takes it back."""

    outing_id: UUID
    stop_id: UUID | None = None
    catch_id: UUID | None = None
    at: Moment
    text: Annotated[Prose, StringConstraints(min_length=1)]
    gone: bool = False


class StopIn(Wire):
    """A stay at a lie."""

    outing_id: UUID
    lie_id: UUID
    at: Moment
    situation: SituationNoun


class SettingIn(Wire):
    """A rig as set."""

    stop_id: UUID
    at: Moment
    rig: RigKind
    depth_setting_m: Annotated[float, Within(r.DEPTH_SETTING_M)]
    point_bead_mm: Annotated[float, Within(r.BEAD_MM)] | None
    setup: SetupNoun


class DrySettingIn(Wire):
    """A single dry as tied on: a setting with nothing under water."""

    stop_id: UUID
    at: Moment
    rig: Literal["dry"]
    setup: DrySetupNoun


class DriftLogIn(Wire):
    """One drift and how it ended; ``undone`` takes it back."""

    setting_id: UUID
    at: Moment
    outcome: Outcome
    pace: Pace | None = None
    lane: Annotated[int, Within(r.LANE)] | None = None
    stance: Annotated[int, Within(r.STANCE)] | None = None
    direction: Direction | None = None
    """Cast up or fed down; null: not said."""
    dried: bool = False
    """Whether the dry was dried before it."""
    weed: bool = False
    """Whether a hook came back with weed: it tells nothing of the bed, and showed no fly."""
    lost: Lost | None = None
    """Which flies went, where one did; null: the point."""
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
    condition: Condition | None = None
    undone: bool = False


class Stored(Wire):
    """Acknowledgement: the row with this id is on disk."""

    id: UUID


class CatchOut(Wire):
    """A fish in the ledger; its weight is the standard one of its length, where there is one."""

    id: UUID
    at: datetime
    species: str
    length_mm: float | None
    length_how: LengthHow
    weight_g: float | None
    weight_low_g: float | None
    weight_high_g: float | None
    fly: FlyOnRig
    phase: Phase
    condition: Condition | None


class DriftLogOut(Wire):
    """A drift in the ledger."""

    id: UUID
    at: datetime
    outcome: Outcome
    pace: Pace | None
    lane: int | None
    stance: int | None
    direction: Direction | None
    dried: bool
    weed: bool
    lost: Lost | None
    catches: list[CatchOut]


class SettingOut(Wire):
    """A setting in the ledger with its drifts."""

    id: UUID
    at: datetime
    rig: RigKind
    depth_setting_m: float
    point_bead_mm: float | None
    setup: SetupNoun
    drifts: list[DriftLogOut]


class DrySettingOut(Wire):
    """A single dry in the ledger with its drifts."""

    id: UUID
    at: datetime
    rig: Literal["dry"]
    setup: DrySetupNoun
    drifts: list[DriftLogOut]


class StopOut(Wire):
    """A stop in the ledger with its settings."""

    id: UUID
    lie_id: UUID
    lie: str
    at: datetime
    situation: SituationNoun
    settings: list[Annotated[SettingOut | DrySettingOut, Field(discriminator="rig")]]


class RateOut(Wire):
    """The chance of a fish a drift: median, and between what it lies 9 times in 10."""

    median: float
    low: float
    high: float


class TallyOut(Wire):
    """Counts of an outing."""

    drifts: int
    touches: int
    hung: int
    missed: int
    fish: int
    lost_flies: int
    rate: RateOut | None


class OutingOut(Wire):
    """An outing in the ledger's list."""

    id: UUID
    beat_id: UUID
    beat: str
    started_at: datetime
    ended_at: datetime | None
    conditions: dict[str, Any]
    tally: TallyOut


class FoundOut(Wire):
    """Outings that fit what was asked, and the words that the log does not know."""

    outings: list[OutingOut]
    unknown: list[str]


class BlockOut(Wire):
    """A setting as it was fished at a lie: seconds from the outing's start to it and to each drift, depths, and how each drift
    ended.
    """

    lie: str
    from_s: float
    depth_m: float | None
    set_m: float | None
    at_s: list[float]
    ended: list[Outcome]


class StripOut(Wire):
    """An outing drawn small."""

    id: UUID
    blocks: list[BlockOut]


class FishedOut(Wire):
    """An outing in a year."""

    id: UUID
    beat: str
    at: datetime
    drifts: int
    fish: int


class FlowDayOut(Wire):
    """A day's mean flow."""

    at: datetime
    flow_m3_s: float


class RiverYearOut(Wire):
    """A river's flow through a year, as far as its gauge knows it."""

    river: str
    days: list[FlowDayOut]


class SeasonOut(Wire):
    """A year: its outings beside the rivers, and the years that there are."""

    year: int
    years: list[int]
    rivers: list[RiverYearOut]
    outings: list[FishedOut]


class NoteOut(Wire):
    """A note of an outing, or of one stop or fish of it."""

    id: UUID
    stop_id: UUID | None
    catch_id: UUID | None
    at: datetime
    text: str


class LedgerOut(Wire):
    """One outing in full."""

    outing: OutingOut
    notes: list[NoteOut]
    stops: list[StopOut]


class AnglerOut(Wire):
    """Who is signed in."""

    id: UUID
    name: str
    demo: bool
    units: Units
    school: SchoolNoun
    rod: RodNoun
    home_river: str
    eye_error: float | None
    """How far off depths by the angler's eye are, as a share; null: as usual."""
    asked: bool
    leaves_at: datetime | None
