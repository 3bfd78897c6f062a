"""The belief about a lie: how deep it is and how fast, after each drift.

A grid of depths and speeds, each with its weight, begun from the reading with its spread. A drift's outcome weighs every cell
by how likely it would have been there (Bayes); the likelihood goes through the steady solver for the rig that was on. The
belief is a pure function of the drifts, so that an undo is exact.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

from deriva.core.choose.evaluate import fishable_m, hang_rate, sample
from deriva.core.choose.zone_time import among
from deriva.core.drift.sinking import SETTLED
from deriva.core.errors import DerivaError
from deriva.core.model.column import Column
from deriva.core.model.logged import LoggedDrift
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Situation
from deriva.core.model.water import SPEED_SD_SHARE
from deriva.core.ranges import DEPTH_M, SURFACE_SPEED_M_S
from deriva.core.water.profile import stone_height

DEPTH_CELLS, SPEED_CELLS = 19, 3
PIECES = 12
"""Midpoint steps along the line: within 0.5 % of the depth of a plan's finer ones, far below what a belief can tell, and
twice as fast on the phone."""

REMEMBERED = 4096
"""Responses kept: a few hundred a tap, most of them asked for again at the next."""

REACH_SD = 3.0
"""The grid spans so many standard deviations either way."""

WIDE_PART, WIDE_SD = 0.3, 1.7
"""Part of all readings that are further out than their stated error says, and by how much (common practice, no source)."""

LEAST_SD_SHARE = 0.05
"""No reading is surer than this (common practice, no source)."""

SCATTER_SHARE, SCATTER_M = 0.045, 0.015
"""What one drift's depth is off from another's in the same lane, by the cast and the bed: a share of the depth and some
centimetres (common practice, no source)."""

MET_TOP = 0.8
"""The stones that a fly meets stand this many D84 high (see the bed's stones: 0.5 to 1.1)."""

INTO_STONES = (-0.4, 0.0)
"""How deep a drift that touches runs, in spreads off the middle one (set so that hang-ups come as often as the transient
engine makes them)."""

PACE_SCATTER = 0.05
SLOWER_UNDER, FASTER_OVER = 0.95, 1.0
"""How well an eye tells a float's pace from the bubbles', and what it calls slower and faster (common practice, no source)."""

SURPRISE = 0.04
"""The chance that a drift says nothing of the water: a leaf, a slip, a wrong key (common practice, no source)."""

DEAD_TAKE = 0.05
"""How likely a take is off the zone, beside one in it (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Cell:
    """One water that the lie may be, and how much it is believed."""

    depth_m: float
    surface_speed_m_s: float
    weight: float


@dataclass(frozen=True, slots=True)
class Response:
    """What a rig does in one water: the chance to touch, to hang up if it touches, the share of the drift in the zone, the
    chance that a drift ends on the stones, and the float's pace over the bubbles' (None for a tip, whose pace is the hand's).
    """

    touch: float
    hang: float
    useful: float
    hung: float
    pace: float | None


def _phi(x: float) -> float:
    return 0.5 * (1.0 + math.erf(x / math.sqrt(2.0)))


@lru_cache(maxsize=REMEMBERED)
def respond(rig: Rig, situation: Situation, column: Column) -> Response:
    """Return what a rig does in one water, over the scatter of casts; a rig that does not settle there tells nothing."""
    try:
        one = sample(rig, situation, column, drift_m=fishable_m(situation, rig.kind), pieces=PIECES)
    except DerivaError:
        return Response(0.5, 0.5, 0.0, 0.0, None)
    share = one.sinking.share_at(one.duration_s)
    radius = 0.5 * one.scenario.bodies[0].diameter_m
    under = column.depth_m - share * one.steady.body_depth_m[0] - radius
    tops = stone_height(bed_ks_m=column.bed_ks_m)
    spread = math.hypot(SCATTER_SHARE * column.depth_m, SCATTER_M)
    touch = 1.0 if one.steady.grounded else _phi((MET_TOP * tops - under) / spread)
    # what a fly that does touch runs through: the part of the scatter that lies below the tops
    deep = 1.0
    if not one.steady.grounded:
        deep = sum(among(max(0.0, under + z * spread), tops, False) for z in INTO_STONES) / len(INTO_STONES)
    dragging = max(0.0, one.duration_s - one.sinking.time_to(SETTLED))
    pace_m_s = one.steady.top_speed_ratio * column.surface_speed_m_s
    hang = 1.0 - math.exp(-hang_rate(rig, situation) * max(deep, 0.05) * pace_m_s * dragging)
    pace = None if rig.float_ is None else one.steady.top_speed_ratio
    return Response(touch, hang, one.useful, touch * hang, pace)


def likelihood(seen: LoggedDrift, there: Response) -> float:
    """Return how likely a drift was in a water, up to a factor that is the same for all."""
    outcome = {
        "clean": 1.0 - there.touch,
        "tick": there.touch * (1.0 - there.hang),
        "hung": there.touch * there.hang,
        "lost_fly": there.touch * there.hang,
        "missed": DEAD_TAKE + there.useful,
        "fish": DEAD_TAKE + there.useful,
    }[seen.outcome]
    chance = SURPRISE + (1.0 - SURPRISE) * outcome
    if seen.pace is not None and there.pace is not None:
        slower = _phi((SLOWER_UNDER - there.pace) / PACE_SCATTER)
        faster = _phi((there.pace - FASTER_OVER) / PACE_SCATTER)
        seen_as = {"slower": slower, "faster": faster, "same": max(0.0, 1.0 - slower - faster)}[seen.pace]
        chance *= SURPRISE + (1.0 - SURPRISE) * seen_as
    return chance


@dataclass(frozen=True, slots=True)
class Belief:
    """Weighted waters that the lie may be; the weights add up to one."""

    cells: tuple[Cell, ...]

    def depth(self, share: float) -> float:
        """Return the depth, m, below which this share of the belief lies, between cells."""
        by_depth: dict[float, float] = {}
        for cell in self.cells:
            by_depth[cell.depth_m] = by_depth.get(cell.depth_m, 0.0) + cell.weight
        depths = sorted(by_depth)
        edges = [depths[0], *(math.sqrt(a * b) for a, b in pairwise(depths)), depths[-1]]
        below = 0.0
        for k, depth in enumerate(depths):
            weight = by_depth[depth]
            if below + weight >= share and weight > 0.0:
                inside = (share - below) / weight
                return edges[k] + inside * (edges[k + 1] - edges[k])
            below += weight
        return depths[-1]

    def gist(self, groups: int) -> tuple[Cell, ...]:
        """Return a few waters that stand for the belief: equal slices of it by depth, each at its mean."""
        found: list[Cell] = []
        weight = depth = speed = 0.0
        for cell in sorted(self.cells, key=lambda c: (c.depth_m, c.surface_speed_m_s)):
            left = cell.weight
            while left > 1e-12:
                part = min(left, 1.0 / groups - weight)
                weight += part
                depth += part * cell.depth_m
                speed += part * cell.surface_speed_m_s
                left -= part
                if weight >= 1.0 / groups - 1e-12:
                    found.append(Cell(depth / weight, speed / weight, weight))
                    weight = depth = speed = 0.0
        if weight > 1e-9:
            found.append(Cell(depth / weight, speed / weight, weight))
        return tuple(found)


def _quantiles(count: int) -> list[tuple[float, float]]:
    """Return standard normal places with their weights: a bell with wide skirts."""
    places = [REACH_SD * (2.0 * k / (count - 1) - 1.0) for k in range(count)]
    weights = [
        (1.0 - WIDE_PART) * math.exp(-0.5 * z * z) + WIDE_PART / WIDE_SD * math.exp(-0.5 * (z / WIDE_SD) ** 2)
        for z in places
    ]
    total = sum(weights)
    return [(z, w / total) for z, w in zip(places, weights, strict=True)]


def begin(situation: Situation) -> Belief:
    """Return the belief before any drift: log-normal about the depth and the speed read, with their spreads."""
    water = situation.water
    sd_depth = max(LEAST_SD_SHARE, water.spread_m / water.depth_m)
    speed = water.surface_speed_m_s
    sd_speed = max(
        LEAST_SD_SHARE, SPEED_SD_SHARE if water.speed_sd_m_s is None else water.speed_sd_m_s / speed
    )
    wide, fast = math.sqrt(math.log1p(sd_depth**2)), math.sqrt(math.log1p(sd_speed**2))
    return Belief(
        tuple(
            Cell(
                DEPTH_M.clamp(water.depth_m * math.exp(wide * z)),
                SURFACE_SPEED_M_S.clamp(speed * math.exp(fast * y)),
                w * v,
            )
            for z, w in _quantiles(DEPTH_CELLS)
            for y, v in _quantiles(SPEED_CELLS)
        )
    )


def learn(belief: Belief, situation: Situation, drifts: Iterable[LoggedDrift]) -> Belief:
    """Return the belief after some drifts, in any order; those of one rig are weighed together."""
    by_rig: dict[Rig, list[LoggedDrift]] = {}
    for one in drifts:
        by_rig.setdefault(one.rig, []).append(one)
    logs = [math.log(max(cell.weight, 1e-300)) for cell in belief.cells]
    for rig, seen in by_rig.items():
        for k, cell in enumerate(belief.cells):
            there = respond(rig, situation, situation.water.column(cell.depth_m, cell.surface_speed_m_s))
            logs[k] += sum(math.log(likelihood(one, there)) for one in seen)
    most = max(logs)
    weights = [math.exp(value - most) for value in logs]
    total = sum(weights)
    return Belief(
        tuple(
            Cell(cell.depth_m, cell.surface_speed_m_s, weight / total)
            for cell, weight in zip(belief.cells, weights, strict=True)
        )
    )
