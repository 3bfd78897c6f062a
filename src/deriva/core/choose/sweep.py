"""The wide look: thousands of settings of one kind of rig, each over all the likely depths and speeds, in one compiled
sweep.

Rigs that differ in the depth setting alone are one family, and a settled rig does not know how long its line is: it
knows how high its lowest fly hangs. So the sweep turns the question round. For a dozen heights of the fly, from the
surface down, it marches up the line *once* to where that meets the surface (and, for a tight line, on to the tip); what
has been used up is the setting that hangs so. All settings of the family are then read off between those heights, in the
order in which a sinking fly meets them. A dozen marches stand for some forty searches.

The kernels are those of the close look (:mod:`deriva.core.advice.evaluate`). Needs numpy and numba; without them there is
no sweep.
"""

import heapq
import math
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from deriva.core._jit import Vector, jit_free, jit_inline
from deriva.core.choose.candidates import families, settings
from deriva.core.choose.criteria import ZONE_WEIGHT, bed_value, carry_value, pace_value
from deriva.core.choose.evaluate import PACE_ERROR, fishable_m, hang_rate
from deriva.core.choose.search import Search, price
from deriva.core.choose.zone import strike_zone
from deriva.core.choose.zone_time import over_scatter, time_in_zone, with_dry
from deriva.core.drift.marches import MARKS, Hold, Marks, lay, march
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.sinking import FLOAT_SHAPE, TIP_SHAPE, load, share_sunk, tau_at
from deriva.core.drift.structures import Bodies, Mesh, Shape, Stream, level_weight
from deriva.core.drift.touching import height_spread, touch_chance
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.rigs.assemble import assemble
from deriva.core.rigs.parts import hangs
from deriva.core.tackle.body import Body
from deriva.core.water.profile import PROFILE_CODE, speed_at, stone_height, z0_of
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity

Array = NDArray[np.float64]
Places = NDArray[np.int64]
Flags = NDArray[np.bool_]

PIECES = 20
MOST_BODIES = 3
ROOM = PIECES + 4 * MOST_BODIES + 4

THREADS = 2

LONGER = -1.0
"""Share that stands for a setting longer than any mark."""

LIFTED = 1e9
"""Pace that stands for a fly that the tip lifts to the surface."""


class Kin(NamedTuple):
    """Families (F) as the kernels take them.

    Bodies and hooks of each; of each body (F, B) how far up the line it is tied in, and what
    :class:`deriva.core.drift.structures.Bodies` holds; diameter m and weight N/m of the line in the water; weight N and drag N
    at 1 m/s of the bodies together; drag area m² of the float, height m and pace of the tip; length m and weight N/m of the
    line above the setting.
    """

    bodies: Places
    hooks: Places
    above: Array
    weight: Array
    diameter: Array
    dressing: Array
    dressing_diameter: Array
    tag: Array
    tag_diameter: Array
    tag_weight: Array
    line_diameter: Array
    line_weight: Array
    load: Array
    load_drag: Array
    float_area: Array
    tip_height: Array
    tip_pace: Array
    upper_length: Array
    upper_weight: Array


class Waters(NamedTuple):
    """The likely waters (N), the one believed first: depth, speed, profile, z0, zone from and to, height of the stones; and the
    error of the tip's pace.
    """

    depth: Array
    speed: Array
    profile: Places
    z0: Array
    zone_low: Array
    zone_high: Array
    stones: Array
    pace_error: Array


class Member(NamedTuple):
    """One family of :class:`Kin`, without its bodies: plain numbers, which cost nothing to hand on."""

    hooks: int
    radius: float
    line_diameter: float
    load: float
    load_drag: float
    tip_height: float
    upper_length: float


class SweptWater(NamedTuple):
    """One water of :class:`Waters`."""

    water: Stream
    zone_low: float
    zone_high: float
    stones: float


class SweptKind(NamedTuple):
    """What holds for all families of a kind: tip or float, whether that is a dry, the length of drift, how often a fly among
    the stones hangs up, and the water's density and viscosity.
    """

    tip: bool
    dry: bool
    drift_m: float
    hang_rate: float
    rho: float
    mu: float


class Seen(NamedTuple):
    """What the kernels write, family by setting (F, S): see :class:`Glance`."""

    zone_share: Array
    believed: Array
    hang_chance: Array
    touch_chance: Array
    fly_pace: Array
    load_n: Array
    found: Array


@jit_inline
def _between(values: Vector, low: int, high: int, share: float) -> float:
    """Return the value a share of the way from one mark to another."""
    first, last = float(values[low]), float(values[high])
    return first + share * (last - first)


@jit_free
def _read_off(
    setting: float, count: int, one: Member, sample: SweptWater, job: SweptKind, marks: Marks
) -> tuple[float, float, float, float, float]:
    """Read one setting off between the marks: share of the drift in the zone (below zero where the rig is longer than any mark,
    or lies on the bed), chance to hang up, chance to touch, pace of the fly over its water's, pull.
    """
    _, used, at_pace, at_pull, at_low, at_upper, lies = marks
    depth, us = sample.water.depth, sample.water.speed
    high = 0
    while high < count and used[high] < setting:
        high += 1
    if high == count:
        return LONGER, 0.0, 0.0, 0.0, 0.0
    grounded = lies[high] > 0.0
    low, share = max(0, high - 1), 0.0
    if high > 0 and used[high] > used[low]:
        share = (setting - used[low]) / (used[high] - used[low])
    pace, lowest = _between(at_pace, low, high, share), _between(at_low, low, high, share)
    deepest = depth if grounded else max(0.0, depth - lowest)
    duration = job.drift_m / max(0.02, pace)
    wet = max(0.01, setting + one.upper_length - one.tip_height)
    tau = tau_at(job.tip, deepest, us, one.load, one.load_drag, wet, one.line_diameter)
    shape = TIP_SHAPE if job.tip else FLOAT_SHAPE
    best = towed = 0.0
    upper = -1.0
    for fly in range(one.hooks):
        height = lowest if fly == 0 else _between(at_upper, low, high, share)
        settled = depth if grounded and fly == 0 else max(0.0, depth - height)
        if fly > 0:
            upper = settled
        _, stays = time_in_zone(settled, depth, sample.zone_low, sample.zone_high, tau, shape, duration)
        if stays > best or fly == 0:
            best = stays
            around = speed_at(max(height, sample.stones), depth, us, sample.water.profile, sample.water.z0)
            towed = pace / max(1e-6, around)
    spread = height_spread(depth, job.tip)
    sunk = deepest * share_sunk(duration, tau, shape)
    touch = touch_chance(depth - sunk - one.radius, sample.stones, spread, grounded)
    useful, hung = over_scatter(
        deepest, upper, depth, sample.zone_low, sample.zone_high, tau, shape, duration,
        one.radius, sample.stones, job.hang_rate * max(0.02, pace), grounded, spread, False,
    )  # fmt: skip
    if job.dry and sample.zone_high >= depth:
        useful = with_dry(useful, duration)
    if job.tip and high == 0:
        towed = LIFTED
    pull = _between(at_pull, low, high, share)
    return min(1.0, useful / duration), hung, touch, towed, -pull - 1.0 if grounded else pull


@jit_inline
def _add(f: int, s: int, believed: bool, found: tuple[float, float, float, float, float], seen: Seen) -> None:
    """Add what a setting is worth in one water; in the water believed nobody sets a rig to lie on the bed."""
    useful, hung, touching, towed, pull = found
    grounded = pull < 0.0
    if useful < 0.0 or (believed and grounded):
        if believed:
            seen.found[f, s] = -1.0
        return
    seen.zone_share[f, s] += useful
    seen.hang_chance[f, s] += hung
    seen.touch_chance[f, s] += touching
    seen.found[f, s] += 1.0
    if believed:
        seen.believed[f, s] = useful
        seen.fly_pace[f, s] = towed
        seen.load_n[f, s] = pull


@jit_free
def _sweep(
    first: int, last: int, lengths: Array, fits: Flags, job: SweptKind, kin: Kin, waters: Waters, seen: Seen
) -> None:
    """Judge the families from ``first`` to ``last`` at every setting (S) that ``fits`` (F, S)."""
    ds, dia, wet, dry = np.empty(ROOM), np.empty(ROOM), np.empty(ROOM), np.empty(ROOM)
    body_at = np.empty(ROOM, dtype=np.int64)
    node_of = np.zeros(MOST_BODIES, dtype=np.int64)
    p = MARKS
    marks = Marks(
        np.empty(p, dtype=np.int64), np.empty(p), np.empty(p), np.empty(p), np.empty(p), np.empty(p), np.empty(p)
    )  # fmt: skip
    xs, zs = np.empty(ROOM + 1), np.empty(ROOM + 1)
    longest = lengths[len(lengths) - 1] + 0.05
    for f in range(first, last):
        nb = kin.bodies[f]
        n = lay(
            kin.above[f, :nb], kin.line_diameter[f], kin.line_weight[f], longest, PIECES,
            Mesh(ds, dia, wet, dry, body_at), node_of,
        )  # fmt: skip
        mesh = Mesh(ds[:n], dia[:n], wet[:n], dry[:n], body_at[:n])
        bodies = Bodies(
            kin.weight[f, :nb], kin.diameter[f, :nb], kin.dressing[f, :nb], kin.dressing_diameter[f, :nb],
            kin.tag[f, :nb], kin.tag_diameter[f, :nb], kin.tag_weight[f, :nb],
        )  # fmt: skip
        shape = Shape(xs[: n + 1], zs[: n + 1])
        one = Member(
            kin.hooks[f], 0.5 * kin.diameter[f, 0], kin.line_diameter[f], kin.load[f], kin.load_drag[f],
            kin.tip_height[f], kin.upper_length[f],
        )  # fmt: skip
        for k in range(len(waters.depth)):
            hold = Hold(
                job.tip, kin.float_area[f], kin.tip_height[f], max(0.0, kin.tip_pace[f] + waters.pace_error[k]),
                kin.upper_length[f], kin.upper_weight[f],
            )  # fmt: skip
            water = Stream(waters.depth[k], waters.speed[k], waters.profile[k], waters.z0[k], job.rho, job.mu)
            sample = SweptWater(water, waters.zone_low[k], waters.zone_high[k], waters.stones[k])
            upper_node = node_of[1] if one.hooks > 1 else 0
            count = march(hold, longest, mesh, bodies, upper_node, water, shape, marks, 0.0, longest)
            for s in range(len(lengths)):
                if fits[f, s] and not (k > 0 and seen.found[f, s] < 0.0):
                    _add(f, s, k == 0, _read_off(lengths[s], count, one, sample, job, marks), seen)
        for s in range(len(lengths)):
            found = seen.found[f, s]
            if found > 0.0:
                seen.zone_share[f, s] /= found
                seen.hang_chance[f, s] /= found
                seen.touch_chance[f, s] /= found
            seen.found[f, s] = max(0.0, found) / len(waters.depth)


@dataclass(frozen=True, slots=True)
class Glance:
    """What a sweep found of each family at each setting (F, S).

    Share of the drift in the zone, over all the water and in the water believed; chance to hang up; chance to
    touch; pace of the fly over its water's; settled load, N; and the share of the samples for
    which there was an answer (0: no setting to speak of).
    """

    zone_share: Array
    believed: Array
    hang_chance: Array
    touch_chance: Array
    fly_pace: Array
    load_n: Array
    found: Array


def _waters(situation: Situation, *, tip: bool) -> Waters:
    """Return the likely waters: five depths, each with a speed, and a tip's errors of pace."""
    water = situation.water
    waters = list(zip(water.depths(), water.speeds(), strict=True))
    believed = len(waters) // 2
    order = [waters[believed], *waters[:believed], *waters[believed + 1 :]]
    errors = sorted(PACE_ERROR, key=abs) if tip else [0.0]
    drawn = [(water.column(d, u), e) for e in errors for d, u in order]
    columns = [column for column, _ in drawn]
    zones = [
        strike_zone(situation.fish, depth_m=one.depth_m, temperature_c=water.temperature_c) for one in columns
    ]
    return Waters(
        depth=np.array([one.depth_m for one in columns]),
        speed=np.array([one.surface_speed_m_s for one in columns]),
        profile=np.array([PROFILE_CODE[one.profile] for one in columns], dtype=np.int64),
        z0=np.array([z0_of(one.bed_ks_m) for one in columns]),
        zone_low=np.array([zone.low_m for zone in zones]),
        zone_high=np.array([zone.high_m for zone in zones]),
        stones=np.array([stone_height(bed_ks_m=one.bed_ks_m) for one in columns]),
        pace_error=np.array([error for _, error in drawn]),
    )


def _by_body(scenarios: Sequence[Scenario], of: Callable[[Scenario, Body], float]) -> Array:
    found = np.zeros((len(scenarios), MOST_BODIES))
    for f, scenario in enumerate(scenarios):
        for b, body in enumerate(scenario.bodies):
            found[f, b] = of(scenario, body)
    return found


def _kin(scenarios: Sequence[Scenario], hooks: Sequence[int], rho: float) -> Kin:
    """Return families as the kernels take them. A section of line above the one that is set is a tight line's sighter."""
    wet = [scenario.line[-1] for scenario in scenarios]
    upper = [scenario.line[0] if len(scenario.line) > 1 else None for scenario in scenarios]
    loads = [load(scenario.bodies) for scenario in scenarios]
    return Kin(
        bodies=np.array([len(scenario.bodies) for scenario in scenarios], dtype=np.int64),
        hooks=np.array(hooks, dtype=np.int64),
        above=_by_body(scenarios, lambda s, b: s.line_length_m - b.along_m),
        weight=_by_body(scenarios, lambda _, b: (b.mass_kg - rho * b.displaced_m3) * GRAVITY_M_S2),
        diameter=_by_body(scenarios, lambda _, b: b.diameter_m),
        dressing=_by_body(scenarios, lambda _, b: b.dressing_area_m2),
        dressing_diameter=_by_body(scenarios, lambda _, b: b.dressing_diameter_m),
        tag=_by_body(scenarios, lambda _, b: b.tag_m),
        tag_diameter=_by_body(scenarios, lambda _, b: b.tag_diameter_m),
        tag_weight=_by_body(
            scenarios,
            lambda _, b: level_weight(
                diameter_m=b.tag_diameter_m, density_kg_m3=b.tag_density_kg_m3, in_kg_m3=rho
            ),
        ),
        line_diameter=np.array([one.diameter_m for one in wet]),
        line_weight=np.array(
            [
                level_weight(diameter_m=one.diameter_m, density_kg_m3=one.density_kg_m3, in_kg_m3=rho)
                for one in wet
            ]
        ),
        load=np.array([weight for weight, _ in loads]),
        load_drag=np.array([drag for _, drag in loads]),
        float_area=np.array([scenario.top.drag_area_m2 for scenario in scenarios]),
        tip_height=np.array([scenario.top.height_m for scenario in scenarios]),
        tip_pace=np.array([s.top.speed_m_s / s.water.surface_speed_m_s for s in scenarios]),
        upper_length=np.array([0.0 if one is None else one.length_m for one in upper]),
        upper_weight=np.array(
            [
                0.0
                if one is None
                else level_weight(diameter_m=one.diameter_m, density_kg_m3=one.density_kg_m3)
                for one in upper
            ]
        ),
    )


def sweep(kin: Sequence[Rig], lengths_m: Sequence[float], situation: Situation) -> Glance:
    """Judge families of one kind of rig at every setting (m, shortest first). Neither may be empty."""
    kind, tip = kin[0].kind, kin[0].float_ is None
    column = situation.water.column()
    rigs = [replace(family, depth_setting_m=lengths_m[-1]) for family in kin]
    rho = density(temperature_c=column.temperature_c)
    job = SweptKind(
        tip=tip,
        dry=kind == "dry_dropper",
        drift_m=fishable_m(situation, kind),
        hang_rate=hang_rate(rigs[0], situation),
        rho=rho,
        mu=dynamic_viscosity(temperature_c=column.temperature_c),
    )
    hooks = [2 if rig.dropper is not None else 1 for rig in rigs]
    packed = _kin([assemble(rig, column) for rig in rigs], hooks, rho)
    lengths = np.array(lengths_m, dtype=np.float64)
    fits = np.array([[hangs(family.dropper_spacing_m, setting) for setting in lengths_m] for family in kin])
    size = (len(kin), len(lengths_m))
    seen = Seen(*(np.zeros(size) for _ in Seen._fields))
    waters = _waters(situation, tip=tip)
    edges = np.linspace(0, len(kin), THREADS + 1).astype(int)

    def part(k: int) -> None:
        _sweep(int(edges[k]), int(edges[k + 1]), lengths, fits, job, packed, waters, seen)

    with ThreadPoolExecutor(THREADS) as pool:
        list(pool.map(part, range(THREADS)))
    return Glance(*seen)


CLOSE_LOOKS = 6
"""Settings of a kind that are looked at closely after the sweep."""


def _best_few(kind: RigKind, situation: Situation) -> Sequence[Rig]:
    """Return the best few of a sweep over all settings of a kind.

    Within a kind the other criteria hardly differ from setting to setting; they are left to the close look.
    """
    kin, lengths = list(families(situation, kind)), settings(situation, kind)
    if not kin or not lengths:
        return []
    seen = sweep(kin, lengths, situation)
    asks = np.array([price(family, situation) for family in kin])
    # the other criteria take away from what the zone share promises: in its order most need not be reckoned
    promise = seen.zone_share**ZONE_WEIGHT - asks[:, None]
    among_fish = seen.believed > 0.0
    best: list[tuple[bool, float, int, int]] = []
    for place in np.lexsort((-promise.ravel(), ~among_fish.ravel())):
        f, s = divmod(int(place), len(lengths))
        if seen.found[f, s] <= 0.0:
            continue
        if len(best) == CLOSE_LOOKS and (bool(among_fish[f, s]), float(promise[f, s])) <= best[0][:2]:
            break
        carrier = kin[f].float_
        carries = math.inf if carrier is None else carrier.carries_n
        score = (
            float(seen.zone_share[f, s]) ** ZONE_WEIGHT
            * bed_value(float(seen.hang_chance[f, s]), float(seen.touch_chance[f, s]), situation)
            * pace_value(float(seen.fly_pace[f, s]))
            * carry_value(carries / max(float(seen.load_n[f, s]), 1e-9))
        )
        heapq.heappush(best, (bool(among_fish[f, s]), score - float(asks[f]), f, s))
        if len(best) > CLOSE_LOOKS:
            heapq.heappop(best)
    return [replace(kin[f], depth_setting_m=lengths[s]) for _, _, f, s in sorted(best, reverse=True)]


wide = Search(_best_few)
