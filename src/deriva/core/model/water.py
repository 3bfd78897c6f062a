"""The water of a lie, as it was read, with what is not known of it."""

import math
from dataclasses import dataclass, replace
from typing import Annotated, Literal

from deriva.core.check import Checked
from deriva.core.model.column import Column
from deriva.core.ranges import (
    CLARITY_M,
    DEPTH_M,
    DEPTH_SD_M,
    SPEED_SD_M_S,
    SURFACE_SPEED_M_S,
    TEMPERATURE_C,
    UNDER_LINE,
)
from deriva.core.water.bottom import LEVEL_ERROR
from deriva.core.water.flow import FlowClass
from deriva.core.water.profile import BED_KS, BedKind, mean_to_surface, profile_over

WaterKind = Literal[
    "riffle", "run", "pool_head", "pool", "tail_out", "glide", "pocket", "seam", "eddy", "drop_off", "undercut",
    "weed_channel", "bank_edge",
]  # fmt: skip


SPEED_SD_SHARE = 0.1
"""Spread of a surface speed, as a share of it, where none is given (common practice, no source)."""


DEPTH_SD_SHARE = 0.2
"""Spread of a depth judged by eye, as a share of it, where none is given (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Water(Checked):
    """The water of a lie. ``depth_sd_m`` None means a fifth of the depth, ``speed_sd_m_s`` None a tenth of the
    speed; ``under_line_ratio``, the speed of the water under the line over the lane's, None what is usual for its kind.
    """

    depth_m: Annotated[float, DEPTH_M]
    surface_speed_m_s: Annotated[float, SURFACE_SPEED_M_S]
    kind: WaterKind = "run"
    depth_sd_m: Annotated[float, DEPTH_SD_M] | None = None
    bed: BedKind = "gravel"
    clarity_m: Annotated[float, CLARITY_M] = 1.5
    temperature_c: Annotated[float, TEMPERATURE_C] = 11.0
    flow_class: FlowClass = "normal"
    undertow: bool = False
    speed_sd_m_s: Annotated[float, SPEED_SD_M_S] | None = None
    under_line_ratio: Annotated[float, UNDER_LINE] | None = None

    @property
    def spread_m(self) -> float:
        """Standard deviation of the depth, m."""
        return DEPTH_SD_SHARE * self.depth_m if self.depth_sd_m is None else self.depth_sd_m

    @property
    def speed_spread_m_s(self) -> float:
        """Standard deviation of the surface speed, m/s."""
        return SPEED_SD_SHARE * self.surface_speed_m_s if self.speed_sd_m_s is None else self.speed_sd_m_s

    def column(self, depth_m: float | None = None, surface_speed_m_s: float | None = None) -> Column:
        """Return the column at a depth and speed (default: those believed), stones no larger than fit in it."""
        depth = self.depth_m if depth_m is None else depth_m
        ks = min(BED_KS[self.bed], depth / 2.0)
        return Column(
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
        sigma = math.sqrt(math.log1p((self.speed_spread_m_s / self.surface_speed_m_s) ** 2))
        return tuple(
            SURFACE_SPEED_M_S.clamp(self.surface_speed_m_s * math.exp(sigma * DECILE_Z[k]))
            for k in SPEED_ORDER
        )


@dataclass(frozen=True, slots=True)
class Earlier:
    """What a lie was read to be before, as shares of what it is read to be now."""

    depth: float
    speed: float

    def of(self, water: Water) -> Water:
        """Return a water as it was then, known to the same shares."""
        return replace(
            water,
            depth_m=DEPTH_M.clamp(self.depth * water.depth_m),
            depth_sd_m=DEPTH_SD_M.clamp(self.depth * water.spread_m),
            surface_speed_m_s=SURFACE_SPEED_M_S.clamp(self.speed * water.surface_speed_m_s),
            speed_sd_m_s=SPEED_SD_M_S.clamp(self.speed * water.speed_spread_m_s),
        )


SAME_DEPTH = 0.05
"""By what share two readings of one depth may differ: none is surer (common practice, no source)."""


def carried_on(read: Water, *, depth: float, speed: float) -> Water | None:
    """Return a water as it was read after its depth and speed have changed by such shares with the flow, as they go with it at
    its lie; None where it is as deep as it was. A change is known to :data:`~deriva.core.water.bottom.LEVEL_ERROR` of it.
    """
    if abs(math.log(depth)) <= SAME_DEPTH:
        return None
    by_m, by_m_s = (depth - 1.0) * read.depth_m, (speed - 1.0) * read.surface_speed_m_s
    return replace(
        read,
        depth_m=DEPTH_M.clamp(read.depth_m + by_m),
        depth_sd_m=DEPTH_SD_M.clamp(math.hypot(read.spread_m, LEVEL_ERROR * by_m)),
        surface_speed_m_s=SURFACE_SPEED_M_S.clamp(read.surface_speed_m_s + by_m_s),
        speed_sd_m_s=SPEED_SD_M_S.clamp(math.hypot(read.speed_spread_m_s, LEVEL_ERROR * by_m_s)),
    )


@dataclass(frozen=True, slots=True)
class AsRead(Checked):
    """Depth and surface speed of a lie as they were read at one time."""

    depth_m: Annotated[float, DEPTH_M]
    surface_speed_m_s: Annotated[float, SURFACE_SPEED_M_S]

    def before(self, water: Water) -> Earlier | None:
        """Return how it stands to what is read now; None where that is as deep."""
        depth = self.depth_m / water.depth_m
        if abs(math.log(depth)) <= SAME_DEPTH:
            return None
        return Earlier(depth, self.surface_speed_m_s / water.surface_speed_m_s)


SPEED_ORDER = (3, 0, 2, 4, 1)


DECILE_Z = (-1.2815516, -0.5244005, 0.0, 0.5244005, 1.2815516)
"""Standard normal quantiles at 10, 30, 50, 70 and 90 %."""


BROKEN: dict[WaterKind, float] = {
    "riffle": 1.0, "pocket": 1.0, "pool_head": 0.8, "run": 0.6, "seam": 0.6, "drop_off": 0.4, "undercut": 0.3,
    "bank_edge": 0.3, "weed_channel": 0.3, "eddy": 0.3, "tail_out": 0.3, "pool": 0.2, "glide": 0.1,
}  # fmt: skip
"""How broken the surface of each kind of water is where it runs fast, 0 to 1 (common practice, no source)."""

SMOOTH_M_S, BROKEN_M_S = 0.3, 0.9
"""Speeds below which nothing is broken, and from which water is as broken as its kind makes it (common practice, no source)."""


def roughness(water: Water) -> float:
    """Return 0..1: how broken the surface is, by kind of water and speed."""
    fast = (water.surface_speed_m_s - SMOOTH_M_S) / (BROKEN_M_S - SMOOTH_M_S)
    return BROKEN[water.kind] * min(1.0, max(0.0, fast))
