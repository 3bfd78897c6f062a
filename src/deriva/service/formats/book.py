"""An outing as the formats write it: what was fished, in the order that it came, without a table or a screen behind it."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, tzinfo
from uuid import UUID


@dataclass(frozen=True, slots=True)
class Fish:
    """A fish in the book; its weight is the standard one of its length, g, where there is one."""

    id: UUID
    at: datetime
    species: str
    length_mm: float | None
    length_how: str
    weight_g: float | None
    fly: str
    phase: str
    condition: str | None


@dataclass(frozen=True, slots=True)
class Drift:
    """A drift and how it ended."""

    id: UUID
    at: datetime
    outcome: str
    pace: str | None
    lane: int | None
    stance: int | None
    direction: str | None
    dried: bool
    weed: bool
    lost: str | None
    fish: Sequence[Fish]


@dataclass(frozen=True, slots=True)
class Setting:
    """A rig as it was set; nothing hangs under a single dry."""

    at: datetime
    rig: str
    depth_setting_m: float | None
    point_bead_mm: float | None
    fly: str | None
    """The point fly, or the single dry."""
    hook: int | None
    tippet_x: int | None
    drifts: Sequence[Drift]


@dataclass(frozen=True, slots=True)
class Stop:
    """A stay at a lie, and the water as it was read there."""

    id: UUID
    at: datetime
    lie_id: UUID
    lie: str
    kind: str | None
    depth_m: float | None
    surface_speed_m_s: float | None
    clarity_m: float | None
    temperature_c: float | None
    place: tuple[float, float] | None
    """Latitude and longitude of the lie, where they are known."""
    settings: Sequence[Setting]

    @property
    def drifts(self) -> Iterator[Drift]:
        """All its drifts."""
        return (drift for setting in self.settings for drift in setting.drifts)


@dataclass(frozen=True, slots=True)
class Book:
    """One outing."""

    id: UUID
    beat: str
    river: str
    river_place: tuple[float, float] | None
    started_at: datetime
    ended_at: datetime | None
    notes: Sequence[str]
    stops: Sequence[Stop]


@dataclass(frozen=True, slots=True)
class Wanted:
    """How a file is wanted. ``exact``: places where they are; otherwise no closer than
    :mod:`deriva.service.formats.places` says. Units and the zone of clocks are for what is read by people.
    """

    exact: bool = False
    units: str = "metric"
    zone: tzinfo = UTC


class Writer:
    """A file of outings as it is written: its beginning, the outings page by page, its end."""

    def __init__(self, wanted: Wanted) -> None:
        self.wanted = wanted

    def head(self) -> bytes:
        """Return how the file begins."""
        return b""

    def add(self, books: Sequence[Book]) -> bytes:
        """Return what some outings add to it."""
        raise NotImplementedError

    def foot(self) -> bytes:
        """Return how it ends."""
        return b""
