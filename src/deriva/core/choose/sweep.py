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
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from deriva.core._jit import jit_free
from deriva.core.choose.candidates import families, settings
from deriva.core.choose.criteria import ZONE_WEIGHT, bed_value, carry_value, pace_value
from deriva.core.choose.evaluate import PACE_ERROR, fishable_m, hang_rate
from deriva.core.choose.search import price
from deriva.core.choose.zone import strike_zone
from deriva.core.choose.zone_time import among, time_in_zone, until_hung, with_dry
from deriva.core.drift.balance import GROUNDING_SPAN, Bodies, Mesh, Stream, hang, march
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.sinking import FLOAT_SHAPE, TIP_SHAPE, load, tau_at
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.rigs.assemble import assemble
from deriva.core.rigs.parts import hangs
from deriva.core.water.profile import PROFILE_CODE, speed_at, stone_height, z0_of
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity

Array = NDArray[np.float64]
Places = NDArray[np.int64]
Flags = NDArray[np.bool_]

PIECES = 20
MOST_BODIES = 3
ROOM = PIECES + 4 * MOST_BODIES + 4

HEIGHTS = 16
"""Heights of the lowest fly marched from, from the surface to the bed, closer together by the bed."""

LYING = 3
"""Further ones with the bed taking the fly's weight, and with line along it."""

CLOSER_BY_THE_BED = 2.2
LEFT = 1e-3
LEFT_LYING = 0.1
"""What the pull on a float may be off, as a share of its drag, where a pace is found; and with the fly on the bed."""

THREADS = 2


@jit_free
def _lay(
    n_bodies: int, above: Array, longest: float, d: float, w_sub: float, mesh: Mesh, node_of: Places
) -> int:
    """Divide ``longest`` metres of level line from its lower end up at its bodies; return the number of pieces.

    In the air it weighs nothing here: what hangs between water and tip is added where it matters.
    """
    ds, dia, in_water, in_air, body_at = mesh
    n = 0
    below = 0.0
    for b in range(1, n_bodies + 1):
        end = above[b] if b < n_bodies else longest
        pieces = int(PIECES * (end - below) / longest + 0.5)
        pieces = max(2, pieces) if end > below + 1e-9 else 0
        if pieces == 0:  # two bodies in one place
            ds[n], dia[n], in_water[n], in_air[n], body_at[n] = 0.0, d, 0.0, 0.0, -1
            n += 1
        for _ in range(pieces):
            ds[n], dia[n], in_water[n], in_air[n], body_at[n] = (end - below) / pieces, d, w_sub, 0.0, -1
            n += 1
        if b < n_bodies:
            body_at[n - 1] = b
            node_of[b] = n
        below = end
    return n


@jit_free
def _met(ds: Array, zs: Array, n: int, depth: float) -> float:
    """Return the line used up from the lower end to the surface, m; -1 where it does not get there."""
    s = 0.0
    for k in range(n):
        if zs[k + 1] >= depth:
            rise = zs[k + 1] - zs[k]
            return s + ds[k] * min(1.0, max(0.0, (depth - zs[k]) / rise)) if rise > 0.0 else s
        s += ds[k]
    return -1.0


@jit_free
def _float_pace(
    q: float,
    start: float,
    area: float,
    scale: float,
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    xs: Array,
    zs: Array,
) -> tuple[float, float, float]:
    """Find the pace at which a float's drag holds the pull of a rig whose fly hangs at ``q``; return (pace, pull down, what
    is left). Secant steps from ``start``, kept within what a float can do.
    """
    us, rho = water[1], water[4]
    v, w = start, start * 0.99
    fx, _ = march(q, v, mesh, bodies, water, True, xs, zs)
    r = (fx - 0.5 * rho * area * abs(us - v) * (us - v)) / scale
    gx, gz = march(q, w, mesh, bodies, water, True, xs, zs)
    s = (gx - 0.5 * rho * area * abs(us - w) * (us - w)) / scale
    for _ in range(12):
        if abs(s) < LEFT or s == r:
            break
        step = -s * (w - v) / (s - r)
        step = min(0.3 * us, max(-0.3 * us, step))
        v, r = w, s
        w = min(1.6 * us, max(0.0, w + step))
        gx, gz = march(q, w, mesh, bodies, water, True, xs, zs)
        s = (gx - 0.5 * rho * area * abs(us - w) * (us - w)) / scale
    return w, gz, abs(s)


@jit_free
def _sweep(
    first: int,
    last: int,
    tip: bool,
    dry: bool,
    settings: Array,
    fits: Flags,
    counts: Places,
    above: Array,
    bodies: Array,
    line: Array,
    tops: Array,
    samples: Array,
    fluid: tuple[float, float],
    drift_m: float,
    rate: float,
    out: Array,
) -> None:
    """Judge the families from ``first`` to ``last`` at every setting (S) that ``fits`` (F, S).

    counts (F, 2): bodies, hooks. above (F, B): how far up the line each body is tied in. bodies (F, B, 7): as the march
    takes them. line (F, 4): diameter, weight per length in water; of the bodies, weight and drag. tops (F, 5): float
    area, tip height, pace of the tip, length and weight per length of the line above the setting. samples (N, 8): depth,
    speed, profile, z0, zone from and to, height of the stones, error of the pace; the first is the water believed.
    out (F, S, 5): share in the zone, chance to hang up, fly's pace, settled load, share of samples found.
    """
    rho, mu = fluid
    ds, dia, w_sub, w_air = np.empty(ROOM), np.empty(ROOM), np.empty(ROOM), np.empty(ROOM)
    body_at = np.empty(ROOM, dtype=np.int64)
    node_of = np.zeros(MOST_BODIES, dtype=np.int64)
    xs, zs = np.empty(ROOM + 1), np.empty(ROOM + 1)
    points = HEIGHTS + 1 + LYING
    used, pace, pull = np.empty(points), np.empty(points), np.empty(points)
    low_at, upper_at, lies = np.empty(points), np.empty(points), np.empty(points)
    shape = TIP_SHAPE if tip else FLOAT_SHAPE
    longest = settings[len(settings) - 1] + 0.05
    for f in range(first, last):
        nb, hooks = counts[f, 0], counts[f, 1]
        n = _lay(nb, above[f], longest, line[f, 0], line[f, 1], (ds, dia, w_sub, w_air, body_at), node_of)
        mesh = (ds[:n], dia[:n], w_sub[:n], w_air[:n], body_at[:n])
        mine = (
            bodies[f, :nb, 0].copy(),
            bodies[f, :nb, 1].copy(),
            bodies[f, :nb, 2].copy(),
            bodies[f, :nb, 3].copy(),
            bodies[f, :nb, 4].copy(),
            bodies[f, :nb, 5].copy(),
            bodies[f, :nb, 6].copy(),
        )
        for k in range(len(samples)):
            depth, us, profile, z0 = samples[k, 0], samples[k, 1], int(samples[k, 2]), samples[k, 3]
            low, high, stones, error = samples[k, 4], samples[k, 5], samples[k, 6], samples[k, 7]
            water = (depth, us, profile, z0, rho, mu)
            scale = max(0.5 * rho * tops[f, 0] * us * us, 0.02 * mine[0][0], 1e-9)
            v = max(0.0, tops[f, 2] + error) * us if tip else us
            marched = 0
            for p in range(points):
                if p <= HEIGHTS:
                    q = depth * math.pow(1.0 - p / HEIGHTS, CLOSER_BY_THE_BED)
                else:
                    q = -GROUNDING_SPAN - longest * (p - HEIGHTS - 1) / LYING
                if tip:
                    fx, fz = march(q, v, mesh, mine, water, True, xs[: n + 1], zs[: n + 1])
                elif p == 0:
                    continue  # no line in the water: no float
                else:
                    v, fz, left = _float_pace(
                        q, v, tops[f, 0], scale, mesh, mine, water, xs[: n + 1], zs[: n + 1]
                    )
                    fx = 0.0
                    if left > (LEFT if q >= 0.0 else LEFT_LYING):
                        v = 0.88 * us
                        continue
                wet = _met(ds, zs, n, depth)
                used[marched] = wet
                if wet < 0.0:  # longer than any setting; what more of it lies on the bed is line for line
                    used[marched] = longest + 0.1
                    if q < 0.0 and marched > 0:
                        used[marched] = used[marched - 1] + longest / LYING
                elif tip:  # straight on to the tip, bent by the weight of what hangs in the air
                    air = tops[f, 1]
                    for _ in range(3):
                        down = fz + 0.5 * tops[f, 4] * air
                        air = tops[f, 1] * math.sqrt(fx * fx + down * down) / max(down, 1e-9)
                    used[marched] = wet + air - tops[f, 3]
                pace[marched], pull[marched] = v, fz
                low_at[marched], lies[marched] = zs[0], 1.0 if q < 0.0 else 0.0
                upper_at[marched] = 0.0
                if hooks > 1:
                    at = node_of[1]
                    _, _, _, upper_at[marched] = hang(xs[at], zs[at], v, 1, mine, water, True)
                marched += 1
                if used[marched - 1] > longest:
                    break
            for s in range(len(settings)):
                if not fits[f, s] or (k > 0 and out[f, s, 4] < 0.0):
                    continue
                place = 0
                while place < marched and used[place] < settings[s]:
                    place += 1
                lifted = tip and place == 0
                grounded = place < marched and lies[place] > 0.0
                if place == marched or (k == 0 and grounded):
                    if k == 0:
                        out[f, s, 4] = -1.0  # nobody sets a rig to lie on the bed
                    continue
                share = 0.0
                one = max(0, place - 1)
                if place > 0 and used[place] > used[one]:
                    share = (settings[s] - used[one]) / (used[place] - used[one])
                going = pace[one] + share * (pace[place] - pace[one])
                lowest = low_at[one] + share * (low_at[place] - low_at[one])
                deepest = depth if grounded else max(0.0, depth - lowest)
                duration = drift_m / max(0.02, going)
                tau = tau_at(
                    tip, deepest, us, line[f, 2], line[f, 3],
                    max(0.01, settings[s] + tops[f, 3] - tops[f, 1]), line[f, 0],
                )  # fmt: skip
                best = towed = 0.0
                for fly in range(hooks):
                    height = lowest if fly == 0 else upper_at[one] + share * (upper_at[place] - upper_at[one])
                    settled = depth if grounded and fly == 0 else max(0.0, depth - height)
                    _, stays = time_in_zone(settled, depth, low, high, tau, shape, duration)
                    if stays > best or fly == 0:
                        best = stays
                        towed = going / max(1e-6, speed_at(max(height, stones), depth, us, profile, z0))
                deep = among(lowest - 0.5 * mine[1][0], stones, grounded)
                useful, hung = until_hung(best, rate * deep, tau, shape, duration)
                if dry and high >= depth:
                    useful = with_dry(useful, duration)
                out[f, s, 0] += useful / duration
                out[f, s, 1] += hung
                out[f, s, 4] += 1.0
                if k == 0:
                    out[f, s, 2] = 1e9 if lifted else towed
                    out[f, s, 3] = pull[one] + share * (pull[place] - pull[one])
        for s in range(len(settings)):
            found = out[f, s, 4]
            if found > 0.0:
                out[f, s, 0] /= found
                out[f, s, 1] /= found
            out[f, s, 4] = max(0.0, found) / len(samples)


@dataclass(frozen=True, slots=True)
class Glance:
    """What a sweep found of each family at each setting (F, S): share of the drift in the zone, chance to hang up, pace of
    the fly over its water's, settled load, N, and the share of the samples for which there was an answer (0: no setting to
    speak of).
    """

    zone_share: Array
    hang_chance: Array
    fly_pace: Array
    load_n: Array
    found: Array


def _samples(situation: Situation, *, tip: bool) -> Array:
    """Return the likely waters, the one believed first: five depths, each with a speed, and a tip's errors of pace."""
    water = situation.water
    waters = list(zip(water.depths(), water.speeds(), strict=True))
    believed = len(waters) // 2
    order = [waters[believed], *waters[:believed], *waters[believed + 1 :]]
    errors = sorted(PACE_ERROR, key=abs) if tip else [0.0]
    rows = []
    for depth, speed, error in [(d, u, e) for e in errors for d, u in order]:
        column = water.column(depth, speed)
        zone = strike_zone(feeding=situation.fish.level, depth_m=depth, temperature_c=water.temperature_c)
        rows.append(
            (depth, speed, PROFILE_CODE[column.profile], z0_of(column.bed_ks_m), zone.low_m, zone.high_m,
             stone_height(bed_ks_m=column.bed_ks_m), error)
        )  # fmt: skip
    return np.array(rows, dtype=np.float64)


def _packed(scenarios: Sequence[Scenario], rho: float) -> tuple[Places, Array, Array, Array, Array]:
    count = len(scenarios)
    counts = np.zeros((count, 2), dtype=np.int64)
    above, bodies = np.zeros((count, MOST_BODIES)), np.zeros((count, MOST_BODIES, 7))
    lines, tops = np.zeros((count, 4)), np.zeros((count, 5))
    for f, s in enumerate(scenarios):
        counts[f, 0] = len(s.bodies)
        for b, body in enumerate(s.bodies):
            above[f, b] = s.line_length_m - body.along_m
            tag_area = math.pi * body.tag_diameter_m**2 / 4.0
            bodies[f, b] = (
                (body.mass_kg - rho * body.displaced_m3) * GRAVITY_M_S2,
                body.diameter_m,
                body.dressing_area_m2,
                body.dressing_diameter_m,
                body.tag_m,
                body.tag_diameter_m,
                (body.tag_density_kg_m3 - rho) * tag_area * GRAVITY_M_S2,
            )
        wet = s.line[-1]
        area = math.pi * wet.diameter_m**2 / 4.0
        lines[f] = wet.diameter_m, (wet.density_kg_m3 - rho) * area * GRAVITY_M_S2, *load(s.bodies)
        dry, weight = 0.0, 0.0
        if len(s.line) > 1:
            dry = s.line[0].length_m
            weight = s.line[0].density_kg_m3 * math.pi * s.line[0].diameter_m ** 2 / 4.0 * GRAVITY_M_S2
        pace = s.top.speed_m_s / s.water.surface_speed_m_s
        tops[f] = s.top.drag_area_m2, s.top.height_m, pace, dry, weight
    return counts, above, bodies, lines, tops


def sweep(kin: Sequence[Rig], lengths_m: Sequence[float], situation: Situation) -> Glance:
    """Judge kin of one kind of rig at every setting (m, shortest first). Neither may be empty."""
    kind, tip = kin[0].kind, kin[0].float_ is None
    column = situation.water.column()
    rigs = [replace(family, depth_setting_m=lengths_m[-1]) for family in kin]
    rho = density(temperature_c=column.temperature_c)
    fluid = (rho, dynamic_viscosity(temperature_c=column.temperature_c))
    counts, above, bodies, lines, tops = _packed([assemble(rig, column) for rig in rigs], rho)
    counts[:, 1] = [2 if rig.dropper is not None else 1 for rig in rigs]
    lengths = np.array(lengths_m, dtype=np.float64)
    fits = np.array([[hangs(family.dropper_spacing_m, setting) for setting in lengths_m] for family in kin])
    out = np.zeros((len(kin), len(lengths_m), 5))
    samples = _samples(situation, tip=tip)
    edges = np.linspace(0, len(kin), THREADS + 1).astype(int)

    def part(k: int) -> None:
        _sweep(
            int(edges[k]), int(edges[k + 1]), tip, kind == "dry_dropper", lengths, fits, counts, above, bodies, lines, tops,
            samples, fluid, fishable_m(situation, kind), hang_rate(rigs[0], situation), out,
        )  # fmt: skip

    with ThreadPoolExecutor(THREADS) as pool:
        list(pool.map(part, range(THREADS)))
    return Glance(out[..., 0], out[..., 1], out[..., 2], out[..., 3], out[..., 4])


CLOSE_LOOKS = 6
"""Settings of a kind that are looked at closely after the sweep."""


def wide(kind: RigKind, situation: Situation) -> Sequence[Rig]:
    """Return the best few of a sweep over all settings of a kind: a :data:`deriva.core.choose.search.Search`.

    Within a kind the other criteria hardly differ from setting to setting; they are left to the close look.
    """
    kin, lengths = list(families(situation, kind)), settings(situation, kind)
    if not kin or not lengths:
        return []
    seen = sweep(kin, lengths, situation)
    worths: list[tuple[float, int, int]] = []
    for f, family in enumerate(kin):
        asks, carries = (
            price(family, situation),
            math.inf if family.float_ is None else family.float_.carries_n,
        )
        for s in range(len(lengths)):
            if seen.found[f, s] <= 0.0:
                continue
            carry = carries / max(float(seen.load_n[f, s]), 1e-9)
            score = (
                float(seen.zone_share[f, s]) ** ZONE_WEIGHT
                * bed_value(float(seen.hang_chance[f, s]), situation)
                * pace_value(float(seen.fly_pace[f, s]))
                * carry_value(carry)
            )
            worths.append((score - asks, f, s))
    best = heapq.nlargest(CLOSE_LOOKS, worths)
    return [replace(kin[f], depth_setting_m=lengths[s]) for _, f, s in best]
