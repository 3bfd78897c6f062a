"""A hidden water: what is there, what it was judged to be, who swims in it, and how far chance goes.

Depth and speed are misjudged; the bed is rougher or smoother and the fly drags more or less than the books say; the lane
slopes or drops; the hand holds the tip too high or too low all through a stop. Every spread and its range is stated here, no
source, but where one is named.
"""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from deriva.core.model.column import Column
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Fish, Place, Situation
from deriva.core.model.water import Water
from deriva.core.ranges import BED_KS_M, DEPTH_SD_M
from deriva.core.tackle.flies import DRAG_FACTOR, Fly
from deriva.core.water.profile import BedKind

Array = NDArray[np.float64]
Bools = NDArray[np.bool_]

BEDS: tuple[BedKind, ...] = ("gravel", "cobble")


@dataclass(frozen=True)
class World:
    """How far what is there differs from what the books say, and one drift from another. Standard deviations but for shares.

    ``*_ln`` are of natural logarithms; ``hand_m`` is from drift to drift, ``bias_m`` all through a stop.
    """

    depth_error_ln: float = 0.35
    """Depth by eye, 0.2 to 0.5: half as deep as it is happens to practitioners (common practice, no source)."""
    speed_error_ln: float = 0.25
    """Speed by eye, 0.1 to 0.3."""
    roughness_ln: float = 0.45
    """The bed's ks against its kind's, 0.2 to 0.7: twice or half is ordinary within a class of stones."""
    drag_ln: float = 0.12
    """A fly's drag against its dressing's, 0.05 to 0.2."""
    slope: float = 0.01
    """Of the bed along the lane, 0 to 0.03."""
    bias_m: float = 0.05
    """What the hand holds the tip too high or low by, 0 to 0.1."""
    hand_m: float = 0.05
    """The same from drift to drift, 0.02 to 0.1."""
    cast_share: float = 0.05
    """A cast lands in water that is deeper or faster by so much, 0.02 to 0.1."""
    turbulence_m: float = 0.025
    """How far the current lifts and drops a fly, 0.01 to 0.05."""
    turbulence_s: float = 0.6
    """How soon it forgets, 0.3 to 1.2 s."""
    eye: float = 0.05
    """What the eye misreads a pace by, as a share of the bubbles', 0.02 to 0.1."""
    pace_seen: float = 0.5
    """Share of the drifts whose pace is looked at."""
    unfelt: float = 0.2
    """Share of the touches that go unfelt, 0.1 to 0.4; ``unfelt_slow`` more of them where the water is slow."""
    unfelt_slow: float = 0.4
    weed: float = 0.03
    """Share of the drifts in which weed is taken for a touch, 0 to 0.1."""
    longest_s: float = 20.0
    """A drift is lifted by then."""
    stone_ln: float = 0.3
    """How the stones of one bed differ in height, 0.2 to 0.4, about ``stone_middle`` of D84."""
    stone_middle: float = 0.75
    hung_per_m: tuple[tuple[BedKind, float], ...] = (
        ("sand", 0.03), ("gravel", 0.15), ("cobble", 0.30), ("boulder", 0.50),
    )  # fmt: skip
    """Hang-ups a metre of a fly that is dragged deep among the stones."""
    roots: float = 1.5
    """Roots hold so much oftener."""
    felt_hung: float = 0.5
    """A tight line feels the bed and is lifted: share of the hang-ups."""
    hung_ends: float = 0.4
    """Share of the hang-ups that end the drift in the zone: of the others one was lifted out in time."""
    lost_of_hung: float = 0.25


WORLD = World()


@dataclass(frozen=True)
class Shoal:
    """Who swims in a lane: how many that would take, how keen and how easily put down. Stated here, no source.

    ``keen``: takes a second of a fly that passes one in the zone, 0.02 to 0.3. ``wary``: share of that which a hang-up, or a
    strike at nothing, takes away, 0 to 0.6.
    """

    there: int = 0
    keen: float = 0.08
    wary: float = 0.15


@dataclass(frozen=True)
class Hidden:
    """A water as it is, as it was judged, what is constant through a stop at it, and the seed of its luck.

    ``drop_m``: how much shallower it is above the lie than in it. ``under_line``: the speed of the water under the line over
    the lane's; None where the line lies on the lane's own water.
    """

    truth: Situation
    judged: Situation
    seed: int
    roughness: float = 1.0
    drag: float = 1.0
    slope: float = 0.0
    bias_m: float = 0.0
    drop_m: float = 0.0
    under_line: float | None = None
    shoal: Shoal = Shoal()
    name: str = ""


def misjudged(
    water: Water, place: Place, fish: Fish, seed: int, *, off: Array, world: World = WORLD
) -> Hidden:
    """Return a hidden water around what is there; ``off`` (6) are standard normal: how far each thing is off.

    Its truth is known to 2 %; the judged water carries the spreads that its judge would own to.
    """
    depth, speed = water.depth_m, water.surface_speed_m_s
    wrong = float(np.clip(depth * math.exp(world.depth_error_ln * off[0]), 0.25, 3.5))
    wrong_speed = float(np.clip(speed * math.exp(world.speed_error_ln * off[1]), 0.1, 1.6))
    truth = replace(water, depth_sd_m=0.02 * depth, speed_sd_m_s=0.02 * speed)
    judged = replace(
        water,
        depth_m=wrong,
        surface_speed_m_s=wrong_speed,
        depth_sd_m=DEPTH_SD_M.clamp(world.depth_error_ln * wrong),
        speed_sd_m_s=world.speed_error_ln * wrong_speed,
    )
    return Hidden(
        Situation(truth, place, fish),
        Situation(judged, place, fish),
        seed,
        roughness=math.exp(world.roughness_ln * float(off[2])),
        drag=math.exp(world.drag_ln * float(off[3])),
        slope=world.slope * float(off[4]),
        bias_m=world.bias_m * float(off[5]),
    )


def hidden_waters(count: int, seed: int, world: World = WORLD) -> list[Hidden]:
    """Return seeded waters of 0.4 to 2.2 m, misjudged."""
    random = np.random.default_rng(seed)
    found = []
    for k in range(count):
        depth, speed = float(random.uniform(0.4, 2.2)), float(random.uniform(0.25, 0.9))
        water = Water(depth, speed, "run", None, BEDS[k % 2], 1.5, 11.0)
        off = random.standard_normal(6)
        found.append(misjudged(water, Place(6.0), Fish("bottom"), 1000 * seed + k, off=off, world=world))
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
