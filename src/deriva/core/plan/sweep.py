"""The wide look: thousands of settings of one kind of rig, the promising ones over the likely depths and speeds, in one
compiled sweep.

The kernels are those of the close look (:mod:`deriva.core.advice.evaluate`); what is left out is said there: a setting for
which the quick solver finds no answer is passed over. Needs numpy and numba; without them there is no sweep.
"""

import math
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from deriva.core._jit import jit_free
from deriva.core.advice.evaluate import PACE_ERROR, fishable_m, hang_rate
from deriva.core.advice.sample import among, time_in_zone, until_hung
from deriva.core.advice.situation import Situation
from deriva.core.advice.zone import strike_zone
from deriva.core.drift.balance import SETTLED_WITHIN, march, solve_float, solve_tip
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.sinking import FLOAT_SHAPE, TIP_SHAPE, load, tau_at, wet_line
from deriva.core.rigs.spec import Rig, assemble
from deriva.core.water.profile import PROFILE_CODE, speed_at, stone_height
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity

Array = NDArray[np.float64]
Places = NDArray[np.int64]

PIECES = 16
TOLERANCE = 1e-4
PROMISING = 0.85
"""A setting is looked at over all likely waters where in the water believed it fishes this share of the best so far."""
MOST_BODIES, MOST_SECTIONS = 3, 2
ROOM = PIECES + 2 * (MOST_BODIES + MOST_SECTIONS) + 4
THREADS = 2


@jit_free
def _lay(
    n_bodies: int,
    along: Array,
    n_sections: int,
    sections: Array,
    rho: float,
    ds: Array,
    dia: Array,
    w_sub: Array,
    w_air: Array,
    body_at: Places,
    node_of: Places,
) -> int:
    """Divide a line from its lower end up at its bodies and changes of section; return the number of pieces.

    ``sections`` holds length, diameter and density, from the top end down.
    """
    length = 0.0
    for s in range(n_sections):
        length += sections[s, 0]
    cuts = np.empty(MOST_BODIES + MOST_SECTIONS + 2)
    cuts[0] = length
    count = 1
    upper = 0.0
    for k in range(n_sections + n_bodies):
        place = along[k - n_sections] if k >= n_sections else upper
        if k < n_sections:
            upper += sections[k, 0]
        at = count
        new = True
        for c in range(count):
            if abs(cuts[c] - place) < 1e-9:
                new = False
        if not new:
            continue
        while at > 0 and cuts[at - 1] < place:
            cuts[at] = cuts[at - 1]
            at -= 1
        cuts[at] = place
        count += 1
    n = 0
    at = 1
    for c in range(count - 1):
        bottom, top = cuts[c], cuts[c + 1]
        middle = 0.5 * (top + bottom)
        section, upper = 0, 0.0
        for s in range(n_sections):
            if upper <= middle:
                section = s
            upper += sections[s, 0]
        d, material = sections[section, 1], sections[section, 2]
        area = math.pi * d * d / 4.0
        pieces = max(2, int(PIECES * (bottom - top) / length + 0.5))
        for _ in range(pieces):
            ds[n], dia[n] = (bottom - top) / pieces, d
            w_sub[n], w_air[n] = (material - rho) * area * GRAVITY_M_S2, material * area * GRAVITY_M_S2
            body_at[n] = -1
            n += 1
        while at < n_bodies and along[at] >= top - 1e-9:
            if body_at[n - 1] >= 0:
                ds[n], dia[n], w_sub[n], w_air[n], body_at[n] = 0.0, d, 0.0, 0.0, -1
                n += 1
            body_at[n - 1] = at
            node_of[at] = n
            at += 1
    return n


@jit_free
def _sweep(
    first: int,
    last: int,
    tip: bool,
    counts: Places,
    along: Array,
    bodies: Array,
    sections: Array,
    tops: Array,
    loads: Array,
    samples: Array,
    fluid: tuple[float, float],
    drift_m: float,
    rate: float,
    out: Array,
) -> None:
    """Judge the settings from ``first`` to ``last``.

    counts (C, 3): bodies, hooks, sections. bodies (C, 3, 4): weight, diameter, dressing area and diameter. tops (C, 3):
    float area, tip height, pace of the tip. loads (C, 4): weight, drag, wet line, its diameter. samples (S, 8): depth,
    speed, profile, z0, zone from and to, height of the stones, error of the pace; the first is the water believed.
    out (C, 5): share in the zone, chance to hang up, fly's pace, settled load, share of samples found.
    """
    rho, mu = fluid
    ds, dia, w_sub, w_air = np.empty(ROOM), np.empty(ROOM), np.empty(ROOM), np.empty(ROOM)
    body_at = np.empty(ROOM, dtype=np.int64)
    node_of = np.zeros(MOST_BODIES, dtype=np.int64)
    xs, zs = np.empty(ROOM + 1), np.empty(ROOM + 1)
    heights, paces, answered = np.zeros(len(samples)), np.zeros(len(samples)), np.zeros(len(samples))
    shape = TIP_SHAPE if tip else FLOAT_SHAPE
    last_height = last_pace = last_length = top_share = 0.0
    for c in range(first, last):
        nb, hooks, ns = counts[c, 0], counts[c, 1], counts[c, 2]
        n = _lay(nb, along[c], ns, sections[c], rho, ds, dia, w_sub, w_air, body_at, node_of)
        mesh = (ds[:n], dia[:n], w_sub[:n], w_air[:n], body_at[:n])
        mine = (
            bodies[c, :nb, 0].copy(),
            bodies[c, :nb, 1].copy(),
            bodies[c, :nb, 2].copy(),
            bodies[c, :nb, 3].copy(),
        )
        length = 0.0
        for s in range(ns):
            length += sections[c, s, 0]
        n_samples = len(samples)
        useful = hanging = found = 0.0
        for k in range(n_samples):
            answered[k] = 0.0
        for k in range(n_samples):
            depth, us, profile, z0 = samples[k, 0], samples[k, 1], int(samples[k, 2]), samples[k, 3]
            low, high, stones, error = samples[k, 4], samples[k, 5], samples[k, 6], samples[k, 7]
            water = (depth, us, profile, z0, rho, mu)
            lifted = False
            near, guess, pace = -1, 0.0, 0.0
            for m in range(k):  # the nearest water that has an answer gives the start
                if answered[m] > 0.0 and (
                    near < 0 or abs(samples[m, 0] - depth) <= abs(samples[near, 0] - depth)
                ):
                    near = m
            if near < 0 and k == 0 and last_length > 0.0:  # the setting before was much like this one
                guess = last_height - (length - last_length)
                pace = last_pace if guess > 0.0 else 0.0
            if near >= 0:
                guess = heights[near] + depth - samples[near, 0]
                pace = paces[near] / samples[near, 1] * us if guess > 0.0 else 0.0
            if tip:
                v = max(0.0, tops[c, 2] + error) * us
                q, left, lifted = solve_tip(
                    v, tops[c, 1], mesh, mine, water, length, xs[: n + 1], zs[: n + 1], guess, TOLERANCE
                )
            else:
                q, v, left = solve_float(
                    mesh, mine, water, tops[c, 0], length, xs[: n + 1], zs[: n + 1], max(0.0, guess), pace, TOLERANCE,
                    False,
                )  # fmt: skip
                if not left < SETTLED_WITHIN and pace > 0.0:
                    q, v, left = solve_float(
                        mesh,
                        mine,
                        water,
                        tops[c, 0],
                        length,
                        xs[: n + 1],
                        zs[: n + 1],
                        0.0,
                        0.0,
                        TOLERANCE,
                        False,
                    )
            if not left < SETTLED_WITHIN:
                if k == 0:
                    break
                continue
            grounded = q < 0.0
            if grounded and k == 0:
                break  # nobody sets a rig to lie on the bed
            _, fz = march(q, v, mesh, mine, water, tip, xs[: n + 1], zs[: n + 1])
            heights[k], paces[k], answered[k] = q, v, 1.0 if q > 0.0 else 0.0
            deepest = depth if grounded else max(0.0, depth - zs[0])
            tau = tau_at(tip, deepest, us, loads[c, 0], loads[c, 1], loads[c, 2], loads[c, 3])
            duration = drift_m / max(0.02, v)
            best = towed = 0.0
            for fly in range(hooks):
                height = zs[node_of[fly]] if fly > 0 else zs[0]
                settled = depth if grounded and fly == 0 else max(0.0, depth - height)
                _, stays = time_in_zone(settled, depth, low, high, tau, shape, duration)
                if stays > best or fly == 0:
                    best = stays
                    towed = v / max(1e-6, speed_at(max(height, stones), depth, us, profile, z0))
            deep = among(zs[0] - 0.5 * bodies[c, 0, 1], stones, grounded)
            share, hung = until_hung(best, rate * deep, tau, shape, duration)
            share /= duration
            useful += share
            hanging += hung
            found += 1.0
            if k == 0 and q > 0.0:
                last_height, last_pace, last_length = q, v, length
            if k == 0 and share / duration < PROMISING * top_share:
                found = 0.0
                break  # in the water believed it fishes far less than another
            if k == 0:
                top_share = max(top_share, share / duration)
            if k == 0:
                out[c, 2] = 1e9 if lifted else towed
                out[c, 3] = fz
        if found > 0.0:
            out[c, 0], out[c, 1], out[c, 4] = useful / found, hanging / found, found / n_samples


@dataclass(frozen=True, slots=True)
class Glance:
    """What a sweep found of each setting (C): share of the drift in the zone, chance to hang up, pace of the fly over its
    water's, settled load, N, and the share of the samples for which there was an answer (0: no setting to speak of)."""

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
    # from the water believed outwards, each beside one that has been answered
    order = [*waters[believed::-1], *waters[believed + 1 :]]
    errors = sorted(PACE_ERROR, key=abs) if tip else [0.0]
    rows = []
    for depth, speed, error in [(d, u, e) for e in errors for d, u in order]:
        column = water.column(depth, speed)
        zone = strike_zone(feeding=situation.fish.level, depth_m=depth, temperature_c=water.temperature_c)
        rows.append(
            (depth, speed, PROFILE_CODE[column.profile], column.bed_ks_m / 30.0, zone.low_m, zone.high_m,
             stone_height(bed_ks_m=column.bed_ks_m), error)
        )  # fmt: skip
    return np.array(rows, dtype=np.float64)


def _packed(scenarios: Sequence[Scenario], rho: float) -> tuple[Places, Array, Array, Array, Array, Array]:
    count = len(scenarios)
    counts = np.zeros((count, 3), dtype=np.int64)
    along, bodies = np.zeros((count, MOST_BODIES)), np.zeros((count, MOST_BODIES, 4))
    sections, tops, loads = np.zeros((count, MOST_SECTIONS, 3)), np.zeros((count, 3)), np.zeros((count, 4))
    for c, s in enumerate(scenarios):
        counts[c, 0], counts[c, 2] = len(s.bodies), len(s.line)
        for b, body in enumerate(s.bodies):
            along[c, b] = body.along_m
            bodies[c, b] = (
                (body.mass_kg - rho * body.displaced_m3) * GRAVITY_M_S2,
                body.diameter_m,
                body.dressing_area_m2,
                body.dressing_diameter_m,
            )
        for k, section in enumerate(s.line):
            sections[c, k] = section.length_m, section.diameter_m, section.density_kg_m3
        tops[c] = s.top.drag_area_m2, s.top.height_m, s.top.speed_m_s / s.water.surface_speed_m_s
        loads[c] = *load(s.bodies), wet_line(s), s.line[-1].diameter_m
    return counts, along, bodies, sections, tops, loads


def sweep(rigs: Sequence[Rig], situation: Situation) -> Glance:
    """Judge many settings of one kind of rig. They must all be of the same kind, and not none."""
    tip = rigs[0].float_ is None
    column = situation.water.column()
    # dealt out to the threads, the heavy ones first: most of them get down, and the rest are measured against them
    likely = sorted(range(len(rigs)), key=lambda k: (k % THREADS, -(rigs[k].point.bead_mm or 0.0)))
    scenarios = [assemble(rigs[k], column) for k in likely]
    rho = density(temperature_c=column.temperature_c)
    fluid = (rho, dynamic_viscosity(temperature_c=column.temperature_c))
    counts, along, bodies, sections, tops, loads = _packed(scenarios, rho)
    counts[:, 1] = [2 if rigs[k].dropper is not None else 1 for k in likely]
    out = np.zeros((len(rigs), 5))
    samples = _samples(situation, tip=tip)
    edges = np.linspace(0, len(rigs), THREADS + 1).astype(int)

    def part(k: int) -> None:
        _sweep(
            int(edges[k]), int(edges[k + 1]), tip, counts, along, bodies, sections, tops, loads, samples, fluid,
            fishable_m(situation, rigs[0].kind), hang_rate(rigs[0], situation), out,
        )  # fmt: skip

    with ThreadPoolExecutor(THREADS) as pool:
        list(pool.map(part, range(THREADS)))
    found = np.empty_like(out)
    found[likely] = out
    return Glance(found[:, 0], found[:, 1], found[:, 2], found[:, 3], found[:, 4])
