"""One drift after another through a hidden water, with all that luck does to it.

Stones lie anew in each drift, casts differ, the current lifts and drops a fly, the eye misreads the pace, some ticks go unfelt
and some weed is taken for one. The drift itself is the transient engine's; nothing here is the coach's own likelihood.
"""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from deriva.core._jit import Vector, jit
from deriva.core.choose.zone import Zone, strike_zone
from deriva.core.drift.mending import mending
from deriva.core.drift.transient import Entry, TransientDrift, transient_drift
from deriva.core.errors import DerivaError
from deriva.core.model.column import Column
from deriva.core.model.logged import Direction, Outcome, Pace
from deriva.core.model.rig import Rig
from deriva.core.practice.world import WORLD, Array, Bools, Hidden, World, as_it_is, bed_as_it_is
from deriva.core.rigs.assemble import assemble
from deriva.core.water.profile import stone_height

Mend = Literal["none", "upstream", "downstream"]

STONES_APART = 1.6
"""Stones stand this many D84 apart (stated here)."""

SLOWER, FASTER = 0.95, 1.0
"""A float below the one share of the bubbles' speed is called slower, above the other faster (common practice, no source)."""

EYE_SEES = 0.85
"""A rig goes at about this share of the bubbles' speed: how long a drift lasts is reckoned by it."""

LANES_LIE = 0.5
"""Share of the distance to the fish over which a float's line lies on other currents (common practice, no source)."""

MENDED, WRONGLY = 3.0, 0.5
"""A belly that was thrown to the other side has to come all the way back and out again; one thrown further the same way is
half there already (stated here)."""

HELD, LIFTS = (0.05, 0.2), 0.4
"""Fed downstream by a beginner's hand, a float is held back by a share between these, and its flies lifted by this much of
that share of the depth (stated here)."""


@dataclass(frozen=True)
class Luck:
    """What chance does to one drift, whatever rig is fished in it."""

    spread: Array
    chances: Array
    stones: int
    current: int

    @staticmethod
    def of(random: np.random.Generator) -> "Luck":
        """Draw the luck of the next drift: the same numbers in the same order, whatever is fished."""
        spread, chances = random.standard_normal(5), random.uniform(size=5)
        return Luck(spread, chances, int(random.integers(2**32)), int(random.integers(2**32)))


@dataclass(frozen=True)
class Presented:
    """How a drift is presented. ``drift_m``: how far it goes; ``up_m``: how far above the fish it lands, None where no one
    place is fished.
    """

    drift_m: float
    up_m: float | None = None
    entry: Entry = "straight"
    mend: Mend = "none"
    direction: Direction = "up"


@dataclass(frozen=True)
class Ran:
    """A drift as it was, frame by frame (T), of the lowest fly and of all (B, T). Heights are above the bed under the fly.

    ``x_m`` is where the lowest fly is, from where the rig landed; ``in_zone``: a fly is in the strike zone, and the drift not
    yet over. ``inside``: 0..1, how deep the lowest fly is among the stones. ``until_s``: when it was over. ``hung_s``: when a
    stone held it. ``drags_s``: from when the line dragged the float. ``pace``: the top's against the bubbles, as it was.
    """

    t_s: Array
    top_x_m: Array
    x_m: Array
    heights_m: Array
    ground_m: Array
    inside: Array
    in_zone: Bools
    zone: Zone
    depth_m: float
    speed_m_s: float
    until_s: float
    hung_s: float | None
    drags_s: float | None
    pace: float
    held: float
    felt: bool


@jit
def _remember(kicks: Vector, keeps: float) -> None:
    """Let each of these remember the one before, so that all are spread alike."""
    new = math.sqrt(1.0 - keeps * keeps)
    for k in range(1, len(kicks)):
        kicks[k] = keeps * kicks[k - 1] + new * kicks[k]


def _wander(random: np.random.Generator, steps: int, step_s: float, world: World) -> Array:
    """Return how the current lifts and drops a fly along a drift, m: it forgets in ``turbulence_s``."""
    keeps = math.exp(-step_s / world.turbulence_s)
    found = random.standard_normal(steps) * world.turbulence_m
    _remember(found, keeps)
    return found


def _ground(hidden: Hidden, how: Presented, x: Array) -> Array:
    """Return how far the bed under a fly stands above that of the column, m: it slopes, and drops off above the lie."""
    ground = hidden.slope * (x - float(x.mean()))
    if hidden.drop_m > 0.0 and how.up_m is not None:
        edge = how.up_m - DROP_ABOVE_M
        ground = ground + hidden.drop_m / (1.0 + np.exp(np.clip((x - edge) / DROP_OVER_M, -60.0, 60.0)))
    return np.asarray(ground, dtype=np.float64)


DROP_ABOVE_M, DROP_OVER_M = 1.5, 0.15
"""A drop-off lies so far above the fish, and falls within some of the other (stated here)."""


def _drags(hidden: Hidden, how: Presented, pace_m_s: float, speed: float, until: float) -> float | None:
    """Return when the line drags the float, s; None where it does not before the drift is over."""
    if hidden.under_line is None:
        return None
    found = mending(
        float_speed_m_s=pace_m_s,
        lane_speed_m_s=speed * hidden.under_line,
        lane_width_m=max(0.2, LANES_LIE * hidden.truth.place.distance_m),
        drift_s=until,
    )
    if found.drags_after_s is None:
        return None
    by = 1.0 if how.mend == "none" else MENDED if how.mend == found.way else WRONGLY
    return found.drags_after_s * by if found.drags_after_s * by < until else None


@dataclass(frozen=True)
class Course:
    """How a rig goes through the water where its cast landed: nothing yet of stones, of the current's whims and of the hand."""

    rig: Rig
    hidden: Hidden
    how: Presented
    world: World
    drift: TransientDrift
    column: Column
    zone: Zone
    speed_m_s: float
    radius_m: float


def course(rig: Rig, hidden: Hidden, luck: Luck, how: Presented, world: World = WORLD) -> Course | None:
    """Return the course of a cast; None for a rig that cannot be fished there at all."""
    water = hidden.truth.water
    depth = max(0.2, water.depth_m * (1.0 + world.cast_share * float(luck.spread[0])))
    speed = max(0.08, water.surface_speed_m_s * (1.0 + world.cast_share * float(luck.spread[1])))
    column = bed_as_it_is(water.column(depth, speed), hidden)
    zone = strike_zone(hidden.truth.fish, depth_m=depth, temperature_c=water.temperature_c)
    off = 0.04 * float(luck.spread[2]) if rig.float_ is None else 0.0
    ends = min(world.longest_s, how.drift_m / (EYE_SEES * speed))
    try:
        scenario = assemble(as_it_is(rig, hidden), column, pace_error=off)
        drift = transient_drift(scenario, duration_s=ends, entry=how.entry)
    except DerivaError:
        return None
    return Course(rig, hidden, how, world, drift, column, zone, speed, 0.5 * scenario.bodies[0].diameter_m)


def met(way: Course, luck: Luck) -> Ran:
    """Return a drift on a course as luck had it: the stones that it met, the whims of the current, the hand."""
    rig, hidden, how, world = way.rig, way.hidden, way.how, way.world
    drift, column, water, speed = way.drift, way.column, hidden.truth.water, way.speed_m_s
    depth, tip = column.depth_m, rig.float_ is None
    t = drift.t_s
    flies = 1 + (rig.dropper is not None)
    off = _wander(np.random.default_rng(luck.current), len(t), float(t[1] - t[0]), world)
    if tip:
        off = off + hidden.bias_m + world.hand_m * float(luck.spread[3])
    held = 0.0
    if how.direction == "down" and not tip:
        held = HELD[0] + (HELD[1] - HELD[0]) * float(luck.chances[4])
        off = off + LIFTS * held * depth
    x = drift.body_x_m[:, 0]
    ground = _ground(hidden, how, x)
    radius = way.radius_m
    low = np.maximum(depth - drift.body_depth_m[:, 0] + off - ground, radius)
    d84 = stone_height(bed_ks_m=column.bed_ks_m)
    places = np.floor((x - float(x.min())) / (STONES_APART * d84)).astype(int)
    stones = np.random.default_rng(luck.stones)
    sizes = world.stone_middle * np.exp(world.stone_ln * stones.standard_normal(int(places.max()) + 1))
    tops = d84 * sizes[places]
    inside = np.clip((tops - (low - radius)) / tops, 0.0, 1.0)
    dragged = np.cumsum(inside * np.abs(np.diff(x, prepend=x[0])))
    snags = world.roots if "roots" in hidden.truth.place.cover else 1.0
    rate = dict(world.hung_per_m)[water.bed] * snags * (world.felt_hung if tip else 1.0)
    hangs = np.nonzero(dragged * rate > -math.log(max(1e-12, float(luck.chances[0]))))[0]
    half = len(t) // 2
    pace = float(drift.top_x_m[-1] - drift.top_x_m[half]) / max(1e-6, float(t[-1] - t[half])) / speed
    drags = None if tip else _drags(hidden, how, pace * speed, speed, float(t[-1]))
    until = float(t[-1]) if drags is None else drags
    hung = float(t[hangs[0]]) if len(hangs) else None
    if hung is not None and luck.chances[1] < world.hung_ends:
        until = min(until, hung)
    heights = np.array([low] + [depth - drift.body_depth_m[:, k] + off - ground for k in range(1, flies)])
    there = np.any((heights >= way.zone.low_m) & (heights <= way.zone.high_m), axis=0) & (t <= until)
    slow = min(1.0, max(0.0, (0.4 - speed) / 0.3))
    felt = bool(inside.max() > 0.0 and luck.chances[3] > world.unfelt + world.unfelt_slow * slow)
    return Ran(
        t_s=t,
        top_x_m=drift.top_x_m * (1.0 - held),
        x_m=x * (1.0 - held),
        heights_m=heights,
        ground_m=ground,
        inside=inside,
        in_zone=there,
        zone=way.zone,
        depth_m=depth,
        speed_m_s=speed,
        until_s=until,
        hung_s=hung,
        drags_s=drags,
        pace=pace * (1.0 - held),
        held=held,
        felt=felt,
    )


def run(rig: Rig, hidden: Hidden, luck: Luck, how: Presented, world: World = WORLD) -> Ran | None:
    """Run one drift of a rig; None for one that cannot be fished there at all."""
    way = course(rig, hidden, luck, how, world)
    return None if way is None else met(way, luck)


def pace_called(pace: float) -> Pace:
    """Return what a pace against the bubbles is called."""
    return "slower" if pace < SLOWER else "faster" if pace > FASTER else "same"


@dataclass(frozen=True)
class DriftEnd:
    """How one drift ended, what was seen of the pace, and the share of it that was spent in the zone."""

    outcome: Outcome
    pace: Pace | None
    share: float


def came_to(ran: Ran, luck: Luck, world: World = WORLD) -> Outcome:
    """Return how a drift ended that nothing took."""
    if ran.hung_s is not None:
        return "lost_fly" if luck.chances[2] < world.lost_of_hung else "hung"
    return "tick" if ran.felt or luck.chances[3] < world.weed else "clean"


def pace_seen(rig: Rig, ran: Ran, luck: Luck, world: World = WORLD) -> Pace | None:
    """Return what a float's pace was called; None where nobody looked, or nothing floats."""
    if rig.float_ is None or luck.chances[4] >= world.pace_seen:
        return None
    return pace_called(ran.pace + world.eye * float(luck.spread[4]))


def fish(
    rig: Rig, hidden: Hidden, random: np.random.Generator, world: World = WORLD, *, drift_m: float
) -> DriftEnd:
    """Fish one drift of ``drift_m``. Every rig draws the same luck in the same order."""
    luck = Luck.of(random)
    ran = run(rig, hidden, luck, Presented(drift_m), world)
    if ran is None:
        return DriftEnd("clean", None, 0.0)
    return DriftEnd(came_to(ran, luck, world), pace_seen(rig, ran, luck, world), float(ran.in_zone.mean()))
