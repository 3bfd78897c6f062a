"""The river today: what the gauge says, against what is normal."""

from datetime import datetime
from typing import Literal
from uuid import UUID

from deriva.core.water.flow import Direction, FlowClass
from deriva.core.water.light import Phase
from deriva.service.schemas.base import Wire
from deriva.service.schemas.nouns import CautionNoun


class TakenIn(Wire):
    """What came of a log that was taken in, or would: rows that are new and rows that were there, by what they are. Of a table
    whose columns are to be said first: which there are, and what they look like.
    """

    new: dict[str, int]
    there: dict[str, int]
    passed: dict[str, int]
    columns: list[str]
    guess: dict[str, str]


class ImportOut(Wire):
    """A file being taken in. ``share`` of it has been read; nothing counts until it is ``done``."""

    id: UUID
    state: Literal["running", "done", "cancelling", "cancelled", "failed"]
    rows: int
    share: float
    message: str
    result: TakenIn | None = None
    """Of a log: what came of it."""


class SampleOut(Wire):
    """A value of a file as it is read, in the unit that it is stored in; null where it is missing."""

    parameter: Literal["flow", "stage", "temperature", "turbidity"]
    at: datetime
    value: float | None
    worth: Literal["good", "provisional", "estimated", "ice", "missing"]


class PreviewOut(Wire):
    """What the beginning of a file is read as; ``fault`` says where and why it cannot be taken in."""

    counts: dict[str, int]
    missing: int
    first: list[SampleOut]
    fault: str | None


class GaugeOut(Wire):
    """A gauge, and how old what it said is; ``trouble`` says why it is no newer, ``unasked`` that it is being asked first."""

    id: UUID
    name: str
    read_at: datetime | None
    trouble: str | None
    unasked: bool


class FlowOut(Wire):
    """The newest flow, with what its source says of it."""

    m3_s: float
    at: datetime
    age_h: float
    worth: Literal["good", "provisional", "estimated", "ice", "missing"]


class NormalOut(Wire):
    """A flow against the same days of other years."""

    share: float
    flow_class: FlowClass
    low_m3_s: float
    median_m3_s: float
    high_m3_s: float
    years: int


class TrendOut(Wire):
    """Which way the flow goes."""

    per_h: float
    direction: Direction


class RecessionOut(Wire):
    """When the flow will be down to the upper end of normal, if it goes on falling; null at the late end: it may not."""

    target_m3_s: float
    half_life_h: float
    reached_at: datetime
    earliest: datetime
    latest: datetime | None


class HydrographPoint(Wire):
    """An hour of the hydrograph, with the normal band of its day."""

    at: datetime
    flow_m3_s: float
    low_m3_s: float | None
    high_m3_s: float | None


class HourOut(Wire):
    """An hour of a value."""

    at: datetime
    value: float


class ApproachOut(Wire):
    """From how far one is not seen: standing on the bank, on the knees, and wading."""

    standing_m: float
    kneeling_m: float
    wading_m: float


class WeatherOut(Wire):
    """The weather of this hour, and when its source last answered; ``trouble`` says why it is no newer."""

    at: datetime
    read_at: datetime | None
    trouble: str | None
    air_c: float
    wind_m_s: float
    rain_mm_h: float
    sky_words: str
    wind_words: str


class LightOut(Wire):
    """Where the sun stands, what it does to the fishing, and when the day ends."""

    height_deg: float
    azimuth_deg: float
    phase: Phase
    words: list[str]
    sets: datetime | None
    dark: datetime | None


class AheadOut(Wire):
    """An hour to come: water, sky, and what it is worth from 0 to 1. What is null is not known."""

    at: datetime
    water_c: float
    air_c: float | None
    wind_m_s: float | None
    rain_mm_h: float | None
    storm: bool
    phase: Phase | None
    keen: float
    best: bool


class BestOut(Wire):
    """The best of the hours to come, and why."""

    starts: datetime
    ends: datetime
    reason: str


class TodayOut(Wire):
    """What the river does today; whatever no gauge says is null or empty. Cautions of level "stop" stand wherever on the beat a
    decision is made.
    """

    beat_id: UUID
    gauge: GaugeOut | None
    flow: FlowOut | None
    normal: NormalOut | None
    years_lacking: int
    """How many more years of the gauge's past it takes to say what is normal; 0 where that is known, or there is no gauge."""
    trend: TrendOut | None
    recession: RecessionOut | None
    hydrograph: list[HydrographPoint]
    temperature_c: float | None
    temperatures: list[HourOut]
    turbidity_fnu: float | None
    clarity_m: float | None
    approach: ApproachOut | None
    weather: WeatherOut | None
    light: LightOut | None
    ahead: list[AheadOut]
    best: BestOut | None
    worth_it: bool
    """Whether a day is to be planned: the beat is open, and an hour ahead is worth fishing, or none is known."""
    warming_c: float | None
    sentence: str
    cautions: list[CautionNoun]
