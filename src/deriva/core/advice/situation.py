"""What an angler stands in front of: water, place, fish, rules, school, box. Every default is stated here."""

import math
from dataclasses import dataclass, field
from typing import Literal

from deriva.core.advice.food import Found, Level, Rises, signs
from deriva.core.drift.scenario import Water
from deriva.core.ranges import (
    CLARITY_M,
    DEPTH_M,
    DEPTH_SD_M,
    DISTANCE_M,
    SURFACE_SPEED_M_S,
    TEMPERATURE_C,
    WIND_M_S,
)
from deriva.core.tackle.flies import Fly
from deriva.core.water.flow import FlowClass
from deriva.core.water.profile import BED_KS, BedKind, mean_to_surface, profile_over

WaterKind = Literal[
    "riffle",
    "run",
    "pool_head",
    "pool",
    "tail_out",
    "glide",
    "pocket",
    "seam",
    "eddy",
    "drop_off",
    "undercut",
    "weed_channel",
    "bank_edge",
]

Feeding = Level

SPEED_SD_SHARE = 0.1
"""Spread of a surface speed, as a share of it, where none is given (common practice, no source)."""

DEPTH_SD_SHARE = 0.2
"""Spread of a depth judged by eye, as a share of it, where none is given (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class LieWater:
    """The water of a lie. ``depth_sd_m`` None means a fifth of the depth, ``speed_sd_m_s`` None a tenth of the speed."""

    depth_m: float
    surface_speed_m_s: float
    kind: WaterKind = "run"
    depth_sd_m: float | None = None
    bed: BedKind = "gravel"
    clarity_m: float = 1.5
    temperature_c: float = 11.0
    flow_class: FlowClass = "normal"
    undertow: bool = False
    speed_sd_m_s: float | None = None

    def __post_init__(self) -> None:
        """Check every number."""
        DEPTH_M.check("water.depth_m", self.depth_m)
        SURFACE_SPEED_M_S.check("water.surface_speed_m_s", self.surface_speed_m_s)
        DEPTH_SD_M.check("water.depth_sd_m", self.spread_m)
        CLARITY_M.check("water.clarity_m", self.clarity_m)
        TEMPERATURE_C.check("water.temperature_c", self.temperature_c)

    @property
    def spread_m(self) -> float:
        """Standard deviation of the depth, m."""
        return DEPTH_SD_SHARE * self.depth_m if self.depth_sd_m is None else self.depth_sd_m

    def column(self, depth_m: float | None = None, surface_speed_m_s: float | None = None) -> Water:
        """Return the column at a depth and speed (default: those believed), stones no larger than fit in it."""
        depth = self.depth_m if depth_m is None else depth_m
        ks = min(BED_KS[self.bed], depth / 2.0)
        return Water(
            depth_m=depth,
            surface_speed_m_s=self.surface_speed_m_s if surface_speed_m_s is None else surface_speed_m_s,
            bed_ks_m=ks,
            temperature_c=self.temperature_c,
            profile="undertow" if self.undertow else profile_over(depth_m=depth, bed_ks_m=ks),
        )

    @property
    def mean_speed_m_s(self) -> float:
        """Mean speed over the depth, m/s."""
        column = self.column()
        return self.surface_speed_m_s * mean_to_surface(
            depth_m=column.depth_m, bed_ks_m=column.bed_ks_m, profile=column.profile
        )

    def depths(self) -> tuple[float, ...]:
        """Return five equally likely depths: the 10th to 90th percentiles of a log-normal belief about the median."""
        sigma = math.sqrt(math.log1p((self.spread_m / self.depth_m) ** 2))
        return tuple(DEPTH_M.clamp(self.depth_m * math.exp(sigma * z)) for z in DECILE_Z)

    def speeds(self) -> tuple[float, ...]:
        """Return a surface speed for each of :meth:`depths`: the same five quantiles, in an order that follows neither
        deep nor shallow, so that the five pairs stand for what is not known of both.
        """
        sd = SPEED_SD_SHARE * self.surface_speed_m_s if self.speed_sd_m_s is None else self.speed_sd_m_s
        sigma = math.sqrt(math.log1p((sd / self.surface_speed_m_s) ** 2))
        return tuple(
            SURFACE_SPEED_M_S.clamp(self.surface_speed_m_s * math.exp(sigma * DECILE_Z[k]))
            for k in SPEED_ORDER
        )


SPEED_ORDER = (3, 0, 2, 4, 1)

DECILE_Z = (-1.2815516, -0.5244005, 0.0, 0.5244005, 1.2815516)
"""Standard normal quantiles at 10, 30, 50, 70 and 90 %."""


@dataclass(frozen=True, slots=True)
class Place:
    """Where the angler stands to the fish."""

    distance_m: float = 7.0
    wading_allowed: bool = True
    wind_m_s: float = 2.0
    tight_casting: bool = False

    def __post_init__(self) -> None:
        """Check every number."""
        DISTANCE_M.check("place.distance_m", self.distance_m)
        WIND_M_S.check("place.wind_m_s", self.wind_m_s)


@dataclass(frozen=True, slots=True)
class Fish:
    """What the fish are doing. ``feeding`` None: as rises and net sample say, by the bed where there is no sign."""

    feeding: Feeding | None = None
    species: str = "brown trout"
    rises: Rises = "none"
    found: tuple[Found, ...] = ()

    @property
    def level(self) -> Feeding:
        """The level they feed at: as the angler says, or as rises and net say."""
        return self.feeding or signs(self.rises, self.found).level


@dataclass(frozen=True, slots=True)
class Rules:
    """The rules of the beat that bind a rig."""

    max_flies: int = 2
    added_weight: bool = True
    barbless: bool = True
    lead: bool = False
    release: bool = True


@dataclass(frozen=True, slots=True)
class School:
    """Where practitioners disagree, and which side this angler takes.

    ``depth``: the float set at 1.5-2 times the depth in fast water ("long") or at about the depth ("depth").
    ``flies``: two whenever legal, or one. ``heavy``: heaviest fly at the point, or first on the line.
    ``weight``: in the flies only, or shot on the leader. ``pace``: dead drift, or led a touch faster.
    ``bottom``: touch it often, or stay near it but clear. ``tied``: the second fly hangs from a tag of its own, or sits on
    the line (to the bend, the eye or a ring).
    """

    depth: Literal["long", "depth"] = "long"
    flies: Literal["two", "one"] = "two"
    heavy: Literal["point", "first"] = "point"
    weight: Literal["flies", "shot"] = "flies"
    pace: Literal["dead", "lead"] = "dead"
    bottom: Literal["touch", "near"] = "touch"
    tied: Literal["tag", "line"] = "tag"


@dataclass(frozen=True, slots=True)
class Box:
    """What the angler owns, where that limits the choice; empty tuples mean none of the kind.

    ``flies`` None: any fly can be had on the beads named; otherwise these nymphs and no other.
    """

    beads_mm: tuple[float, ...]
    floats_mm: tuple[float, ...]
    dries: tuple[str, ...]
    flies: tuple[Fly, ...] | None = None

    @property
    def weighted(self) -> tuple[float, ...]:
        """The beads to be had on a fly, mm, smallest first."""
        if self.flies is None:
            return tuple(sorted(self.beads_mm))
        return tuple(sorted({fly.bead_mm for fly in self.flies if fly.bead_mm is not None}))


@dataclass(frozen=True, slots=True)
class Situation:
    """One lie, now."""

    water: LieWater
    place: Place = field(default_factory=Place)
    fish: Fish = field(default_factory=Fish)
    rules: Rules = field(default_factory=Rules)
    school: School = field(default_factory=School)
    box: Box | None = None
