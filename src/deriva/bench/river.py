"""Hidden waters to fish: what is there, what it was judged to be, and one drift after another with all that luck does to it.

Depth and speed are misjudged; the bed is rougher or smoother and the fly drags more or less than the books say; the lane
slopes; the hand holds the tip too high or too low all through a stop. Stones lie anew in each drift, casts differ, the current
lifts and drops a fly, the eye misreads the pace, some ticks go unfelt and some weed is taken for one. The drift itself is the
transient engine's; nothing here is the coach's own likelihood. Spreads are stated here, no source.
"""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from deriva.core.choose.evaluate import fishable_m, hang_rate
from deriva.core.choose.zone import strike_zone
from deriva.core.choose.zone_time import ENDS
from deriva.core.drift.bed import SPACING
from deriva.core.drift.transient import transient_drift
from deriva.core.errors import DerivaError
from deriva.core.model.column import Column
from deriva.core.model.logged import Outcome, Pace
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Fish, Place, Situation
from deriva.core.model.water import Water
from deriva.core.ranges import BED_KS_M
from deriva.core.rigs.assemble import assemble
from deriva.core.tackle.flies import DRAG_FACTOR, Fly
from deriva.core.water.profile import BedKind, stone_height

Array = NDArray[np.float64]

BEDS: tuple[BedKind, ...] = ("gravel", "cobble")
LOST_OF_HUNG = 0.25


@dataclass(frozen=True)
class World:
    """How far what is there differs from what the books say, and one drift from another. Standard deviations but for shares.

    ``*_ln`` are of natural logarithms; ``hand_m`` is from drift to drift, ``bias_m`` all through a stop.
    """

    depth_error_ln: float = 0.35
    speed_error_ln: float = 0.25
    roughness_ln: float = 0.45
    drag_ln: float = 0.12
    slope: float = 0.01
    bias_m: float = 0.05
    hand_m: float = 0.05
    cast_share: float = 0.05
    turbulence_m: float = 0.025
    turbulence_s: float = 0.6
    eye: float = 0.05
    pace_seen: float = 0.5
    unfelt: float = 0.2
    unfelt_slow: float = 0.4
    weed: float = 0.03
    longest_s: float = 20.0
    """A drift is lifted by then."""
    stone_ln: float = 0.3
    stone_middle: float = 0.75


WORLD = World()


@dataclass(frozen=True)
class Hidden:
    """A water as it is, as it was judged, what is constant through a stop at it, and the seed of its luck."""

    truth: Situation
    judged: Situation
    seed: int
    roughness: float = 1.0
    drag: float = 1.0
    slope: float = 0.0
    bias_m: float = 0.0


def hidden_waters(count: int, seed: int, world: World = WORLD) -> list[Hidden]:
    """Return seeded waters of 0.4 to 2.2 m, misjudged."""
    random = np.random.default_rng(seed)
    found = []
    for k in range(count):
        depth, speed = float(random.uniform(0.4, 2.2)), float(random.uniform(0.25, 0.9))
        off = random.standard_normal(6)
        wrong = float(np.clip(depth * math.exp(world.depth_error_ln * off[0]), 0.25, 3.5))
        wrong_speed = float(np.clip(speed * math.exp(world.speed_error_ln * off[1]), 0.1, 1.6))
        bed = BEDS[k % 2]
        truth = Water(depth, speed, "run", 0.02 * depth, bed, 1.5, 11.0, speed_sd_m_s=0.02 * speed)
        judged = Water(
            wrong,
            wrong_speed,
            "run",
            world.depth_error_ln * wrong,
            bed,
            1.5,
            11.0,
            speed_sd_m_s=world.speed_error_ln * wrong_speed,
        )
        place, fish = Place(6.0), Fish("bottom")
        found.append(
            Hidden(
                Situation(truth, place, fish),
                Situation(judged, place, fish),
                1000 * seed + k,
                roughness=math.exp(world.roughness_ln * float(off[2])),
                drag=math.exp(world.drag_ln * float(off[3])),
                slope=world.slope * float(off[4]),
                bias_m=world.bias_m * float(off[5]),
            )
        )
    return found


def _dragging(fly: Fly, by: float) -> Fly:
    own = DRAG_FACTOR[fly.dressing] if fly.drag_factor is None else fly.drag_factor
    return replace(fly, drag_factor=min(20.0, max(0.05, own * by)))


def as_it_is(rig: Rig, hidden: Hidden) -> Rig:
    """Return a rig with flies that drag as they do in this water."""
    dropper = None if rig.dropper is None else _dragging(rig.dropper, hidden.drag)
    return replace(rig, point=_dragging(rig.point, hidden.drag), dropper=dropper)


def bed_as_it_is(column: Column, hidden: Hidden) -> Column:
    """Return a column over the bed of this water, which is rougher or smoother than its kind's."""
    rough = BED_KS_M.clamp(column.bed_ks_m * hidden.roughness)
    return replace(column, bed_ks_m=min(column.depth_m / 2.0, rough))


def _wander(random: np.random.Generator, steps: int, step_s: float, world: World) -> Array:
    """Return how the current lifts and drops a fly along a drift, m: it forgets in ``turbulence_s``."""
    keeps = math.exp(-step_s / world.turbulence_s)
    kicks = random.standard_normal(steps) * world.turbulence_m
    found = np.empty(steps)
    found[0] = kicks[0]
    for k in range(1, steps):
        found[k] = keeps * found[k - 1] + math.sqrt(1.0 - keeps * keeps) * kicks[k]
    return found


@dataclass(frozen=True)
class DriftEnd:
    """How one drift ended, what was seen of the pace, and the share of it that was spent in the zone."""

    outcome: Outcome
    pace: Pace | None
    share: float


def fish(rig: Rig, hidden: Hidden, random: np.random.Generator, world: World = WORLD) -> DriftEnd:
    """Fish one drift. Every rig draws the same luck in the same order."""
    luck, chances = random.standard_normal(5), random.uniform(size=5)
    stones, current = (
        np.random.default_rng(random.integers(2**32)),
        np.random.default_rng(random.integers(2**32)),
    )
    water = hidden.truth.water
    depth = max(0.2, water.depth_m * (1.0 + world.cast_share * float(luck[0])))
    speed = max(0.08, water.surface_speed_m_s * (1.0 + world.cast_share * float(luck[1])))
    column = bed_as_it_is(water.column(depth, speed), hidden)
    zone = strike_zone(feeding="bottom", depth_m=depth, temperature_c=water.temperature_c)
    tip = rig.float_ is None
    ends = min(world.longest_s, fishable_m(hidden.truth, rig.kind) / (0.85 * speed))
    try:
        scenario = assemble(as_it_is(rig, hidden), column, pace_error=0.04 * float(luck[2]) if tip else 0.0)
        run = transient_drift(scenario, duration_s=ends)
    except DerivaError:
        return DriftEnd("clean", None, 0.0)
    t = run.t_s
    flies = 1 + (rig.dropper is not None)
    off = _wander(current, len(t), float(t[1] - t[0]), world)
    if tip:
        off = off + hidden.bias_m + world.hand_m * float(luck[3])
    x = run.body_x_m[:, 0]
    ground = hidden.slope * (x - float(x.mean()))
    radius = 0.5 * scenario.bodies[0].diameter_m
    low = np.maximum(depth - run.body_depth_m[:, 0] + off - ground, radius)
    d84 = stone_height(bed_ks_m=column.bed_ks_m)
    places = np.floor((x - float(x.min())) / (SPACING * d84)).astype(int)
    sizes = world.stone_middle * np.exp(world.stone_ln * stones.standard_normal(int(places.max()) + 1))
    tops = d84 * sizes[places]
    inside = np.clip((tops - (low - radius)) / tops, 0.0, 1.0)
    dragged = np.cumsum(inside * np.abs(np.diff(x, prepend=x[0])))
    hangs = np.nonzero(dragged * hang_rate(rig, hidden.truth) > -math.log(max(1e-12, float(chances[0]))))[0]
    until = float(t[-1])
    if len(hangs) and chances[1] < ENDS:
        until = float(t[hangs[0]])
    heights = [low] + [depth - run.body_depth_m[:, k] + off - ground for k in range(1, flies)]
    there = np.any([(h >= zone.low_m) & (h <= zone.high_m) for h in heights], axis=0) & (t <= until)
    outcome: Outcome = "clean"
    if len(hangs):
        outcome = "lost_fly" if chances[2] < LOST_OF_HUNG else "hung"
    else:
        slow = min(1.0, max(0.0, (0.4 - speed) / 0.3))
        felt = inside.max() > 0.0 and chances[3] > world.unfelt + world.unfelt_slow * slow
        outcome = "tick" if felt or chances[3] < world.weed else "clean"
    pace: Pace | None = None
    if not tip and chances[4] < world.pace_seen:
        half = len(t) // 2
        going = float(run.top_x_m[-1] - run.top_x_m[half]) / max(1e-6, float(t[-1] - t[half])) / speed
        seen = going + world.eye * float(luck[4])
        pace = "slower" if seen < 0.95 else "faster" if seen > 1.0 else "same"
    return DriftEnd(outcome, pace, float(there.mean()))
