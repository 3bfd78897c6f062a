"""Choosing and setting a rig: schools, the least change, two rigs compared, the build to tie; and the day planned."""

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from deriva.core.choose.change import ChangeKind
from deriva.core.choose.schools import Disagreement
from deriva.core.day.plan import DayAsked, DayPlan
from deriva.core.model.rig import RigKind
from deriva.core.ranges import LIE_DRIFTS
from deriva.core.rigs.build import Background, Material
from deriva.core.tackle.rod import Leader
from deriva.service.schemas.base import Wire, Within, Words
from deriva.service.schemas.nouns import Noun, SchoolNoun, SetupNoun, SituationNoun, TuningNoun

DisagreementNoun = Annotated[Disagreement, Noun()]
DayAskedNoun = Annotated[DayAsked, Noun()]
DayPlanNoun = Annotated[DayPlan, Noun()]


class LieSchoolIn(Wire):
    """The school that holds at one lie; null: the angler's own."""

    school: SchoolNoun | None


class ChangesIn(Wire):
    """The rig that is on, and the drifts to come that a change would serve (null: as many as a prime lie is given)."""

    situation: SituationNoun
    tuning: TuningNoun
    drifts: Annotated[int, Within(LIE_DRIFTS)] | None = None


class ChangeOut(Wire):
    """A change: what to do, the rig after it, the seconds it takes, the whole drifts in the zone that it is worth."""

    kind: ChangeKind
    words: str
    rig: RigKind
    setup: SetupNoun
    seconds: float
    gain: float
    worth: float


class ChangesOut(Wire):
    """The changes that would gain something, cheapest first; ``advised`` is the place of the one to make, null to leave it."""

    score: float
    drifts: int
    options: list[ChangeOut]
    advised: int | None
    reason: str


class CompareIn(Wire):
    """Two rigs as set, in water of one kind."""

    situation: SituationNoun
    first: TuningNoun
    second: TuningNoun


class CompareOut(Wire):
    """Where which of two rigs is longer in the zone: shares row by row, a row a depth; null where no drift settles. One is
    better where it is so by more than ``margin``.

    The lie lies at its depth and speed, 8 times in 10 between the two others.
    """

    depths_m: list[float]
    speeds_m_s: list[float]
    first: list[list[float | None]]
    second: list[list[float | None]]
    depth_m: float
    depth_p10_m: float
    depth_p90_m: float
    speed_m_s: float
    speed_p10_m_s: float
    speed_p90_m_s: float
    margin: float
    words: list[str]


class BuildIn(Wire):
    """A rig to tie, and what it will be seen against."""

    situation: SituationNoun
    tuning: TuningNoun
    background: Background | None = None
    """None: by the light, and by how shy the fish are."""
    leader: Leader | None = None
    """None: the one on the rod."""
    lie: Words | None = None
    beat: Words | None = None
    on: date | None = None
    """What the card is headed with; null: it is left out."""


class SectionOut(Wire):
    """A piece of line: as it fishes, what to cut it at, about where it breaks (knotted)."""

    name: str
    material: Material
    diameter_mm: float
    length_m: float
    cut_m: float
    breaks_at_kg: float
    note: str


class TiedOut(Wire):
    """What hangs from the line, so far above the point fly."""

    part: Literal["point", "dropper", "dry", "float", "shot"]
    words: str
    above_point_m: float


class BuildOut(Wire):
    """A rig to tie, from the rod end down; ``format`` names this document for whoever it is shared with, ``said`` is its
    answer with marked quantities, for a screen.
    """

    format: Literal["deriva-build/1"] = "deriva-build/1"
    rig: RigKind
    name: str
    answer: str
    said: str
    sections: Annotated[list[SectionOut], Field(min_length=1)]
    tied: list[TiedOut]
    length_m: float
    background: Background
    colour: str
    notes: list[str]
