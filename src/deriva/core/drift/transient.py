"""Transient drift: a rig from the moment its flies land.

Lumped masses joined by inextensible segments that carry tension only. Drag is stiff against such small masses, so it
is taken implicitly: with A = M/Δt + K (mass with added mass, and linearised drag, each 2×2 per node),

    v = A⁻¹ (M v_old/Δt + K u + W + Σ tensions),

and the tensions are those that bring every segment to its length at the end of the step: one tridiagonal solve,
iterated on the directions at the end of the step, with slack segments released and bodies on the bed held. Needs numpy;
it runs on the server.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from deriva.core._jit import jit_fast
from deriva.core.drift.drag import TANGENTIAL_COEFFICIENT, cylinder_cd_at, sphere_cd_at
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.steady import SteadyDrift, steady_drift
from deriva.core.errors import NotConverged
from deriva.core.ranges import DURATION_S
from deriva.core.water.profile import PROFILE_CODE, speed_at
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity

Array = NDArray[np.float64]
Nodes = NDArray[np.int64]

SEGMENTS = 20
STEP_S = 0.04 / 3
"""Resolution: times to sink within 3 % of a converged solver on every reference case, the end within 0.3 % of the steady
drift, halving the step changes the time to 80 % of the depth by 0.6 % at most."""

SHORTEST_STEP_S = 0.0002
STRETCH_ALLOWED = 0.001
"""A run whose segments lengthen by more than this is repeated with half the step."""

FRAME_S = 0.04
"""Time between recorded frames: 25 a second, what the eye needs to see a drift at real speed."""

SWEEPS = 60
LENGTH_TOLERANCE = 2e-4
"""Most Newton sweeps on the lengths in a step, and the relative length error at which they stop. Two or three do as a
rule; a fly striking the bed slackens the line above it piece by piece, which takes up to fifty."""

Entry = Literal["straight", "tuck", "heap", "lead"]
"""How the cast lands: line straight, flies upstream of the top end; flies first, driven in, their line in a heap above
them; line in a loose heap; line straight, flies downstream of the top end, leading it."""

ENTRY_SPREAD: dict[Entry, float] = {"straight": 1.0, "tuck": 0.1, "heap": 0.4}
"""How far the flies land upstream of the top end, as a share of the line between (common practice, no source)."""

TUCK_M_S = 1.5
"""Speed at which a tuck drives the flies through the surface (common practice, no source)."""

WILD = 3.0
"""Relative stretch in a sweep at which it is given up."""


@jit_fast
def _run(
    x: Array,
    z: Array,
    vx: Array,
    vz: Array,
    seg_len: Array,
    seg_dia: Array,
    seg_rho: Array,
    up: Nodes,
    body_node: Nodes,
    bodies: tuple[Array, Array, Array, Array, Array],
    top: tuple[int, float, float],
    phases: tuple[Array, Array, Array],
    water: tuple[float, float, int, float, float, float],
    dt: float,
    steps: int,
    every: int,
    out_x: Array,
    out_z: Array,
    out_pull: Array,
    touched: Array,
) -> float:
    """Advance ``steps`` steps, recording every ``every``-th; return the largest relative stretch seen.

    Segment ``j`` runs from node ``up[j]`` down to node ``j + 1``: the line's own first, each from the node before, then
    the tags, each from where it is tied in. ``out_pull`` (frames, 2) takes the line's pull on the top end, N: downstream
    and down.
    """
    n = len(seg_len)
    chain = n
    while up[chain - 1] != chain - 1:
        chain -= 1
    kind, top_mass, top_area = top
    phase_ends, phase_speed, phase_lift = phases
    depth, us, profile, z0, rho, mu = water
    b_mass, b_volume, b_dia, b_dress, b_dress_dia = bodies
    g = GRAVITY_M_S2
    cxx, cxz, czz, bx, bz = (
        np.empty(n + 1),
        np.empty(n + 1),
        np.empty(n + 1),
        np.empty(n + 1),
        np.empty(n + 1),
    )
    mxx, mxz, mzz = np.empty(n + 1), np.empty(n + 1), np.empty(n + 1)
    weight, current = np.empty(n + 1), np.empty(n + 1)
    axx, axz, azz = np.zeros(n + 1), np.zeros(n + 1), np.zeros(n + 1)
    sx, sz = np.empty(n + 1), np.empty(n + 1)  # velocities without tension
    floor = np.zeros(n + 1)
    ex, ez, size = np.empty(n), np.empty(n), np.empty(n)
    gxx, gxz, gzz = np.empty(n + 1), np.empty(n + 1), np.empty(n + 1)
    lower, diag, upper, rhs, tension = np.empty(n), np.empty(n), np.empty(n), np.empty(n), np.zeros(n)
    taut = np.ones(n, dtype=np.bool_)
    held = np.zeros(n + 1, dtype=np.bool_)
    for b in range(len(body_node)):
        floor[body_node[b]] = 0.5 * b_dia[b]
    worst = 0.0
    frame = phase = since = 0
    pulled_x = pulled_z = 0.0
    for step in range(steps + 1):
        if step % every == 0:
            for i in range(n + 1):
                out_x[frame, i] = x[i]
                out_z[frame, i] = z[i]
            out_pull[frame, 0] = pulled_x / max(1, since)
            out_pull[frame, 1] = pulled_z / max(1, since)
            pulled_x = pulled_z = 0.0
            since = 0
            frame += 1
        while phase < len(phase_ends) - 1 and step * dt >= phase_ends[phase]:
            phase += 1
        tip_vx, tip_vz = phase_speed[phase], phase_lift[phase]
        # Mass, drag and weight of every node: halves of its segments, then its bodies.
        for i in range(n + 1):
            mxx[i] = mxz[i] = mzz[i] = cxx[i] = cxz[i] = czz[i] = weight[i] = 0.0
            current[i] = speed_at(z[i], depth, us, profile, z0)
            held[i] = False
        for j in range(n):
            p, q = up[j], j + 1
            dx, dz = x[q] - x[p], z[q] - z[p]
            size[j] = np.sqrt(dx * dx + dz * dz) + 1e-12
            tx, tz = dx / size[j], dz / size[j]
            ex[j], ez[j] = tx, tz
            worst = max(worst, size[j] / seg_len[j] - 1.0)
            half = 0.5 * seg_len[j]
            d = seg_dia[j]
            area = np.pi * d * d / 4.0
            m = seg_rho[j] * area * half
            # the coefficients are those of the segment's middle, the motion that of each end
            wx = 0.5 * (current[p] - vx[p] + current[q] - vx[q])
            wz = -0.5 * (vz[p] + vz[q])
            along = wx * tx + wz * tz
            nx, nz = wx - along * tx, wz - along * tz
            across = np.sqrt(nx * nx + nz * nz)
            kn = 0.5 * rho * d * cylinder_cd_at(rho * across * d / mu) * across * half
            kt = 0.5 * rho * np.pi * d * TANGENTIAL_COEFFICIENT * abs(along) * half
            added = rho * area * half
            pxx, pxz, pzz = 1.0 - tx * tx, -tx * tz, 1.0 - tz * tz
            for i in (p, q):
                mxx[i] += m
                mzz[i] += m
                weight[i] -= m * g
                if z[i] > depth and kind != 0:
                    continue
                weight[i] += added * g
                mxx[i] += added * pxx
                mxz[i] += added * pxz
                mzz[i] += added * pzz
                cxx[i] += kn * pxx + kt * tx * tx
                cxz[i] += kn * pxz + kt * tx * tz
                czz[i] += kn * pzz + kt * tz * tz
        for b in range(len(body_node)):
            i = body_node[b]
            m = b_mass[b]
            weight[i] -= m * g
            if z[i] <= depth or kind == 0:
                m += 0.5 * rho * b_volume[b]
                weight[i] += rho * b_volume[b] * g
                wx, wz = current[i] - vx[i], -vz[i]
                w = np.sqrt(wx * wx + wz * wz)
                k = sphere_cd_at(rho * w * b_dia[b] / mu) * np.pi * b_dia[b] ** 2 / 4.0
                if b_dress[b] > 0.0:
                    k += cylinder_cd_at(rho * w * b_dress_dia[b] / mu) * b_dress[b]
                k *= 0.5 * rho * w
                cxx[i] += k
                czz[i] += k
            mxx[i] += m
            mzz[i] += m
        if kind == 0:
            mxx[0] += top_mass
            cxx[0] += 0.5 * rho * top_area * abs(us - vx[0])
        for i in range(n + 1):
            bx[i] = (mxx[i] * vx[i] + mxz[i] * vz[i]) / dt + cxx[i] * current[i]
            bz[i] = (mxz[i] * vx[i] + mzz[i] * vz[i]) / dt + cxz[i] * current[i] + weight[i]
            cxx[i] += mxx[i] / dt
            cxz[i] += mxz[i] / dt
            czz[i] += mzz[i] / dt
        # Tensions along the line as it will lie at the end of the step: Newton on the lengths, with segments
        # released where they would push and nodes held where they would enter the bed.
        for j in range(n):  # what lies slack stays so until the step would stretch it
            taut[j] = size[j] >= seg_len[j] * (1.0 - 5.0 * LENGTH_TOLERANCE)
        if kind == 1:  # a rod tip goes where the hand goes
            vx[0], vz[0] = tip_vx, tip_vz
        settled = found = False
        for sweep in range(SWEEPS + 1):
            wild = False
            for j in range(n):
                p, q = up[j], j + 1
                dx = x[q] - x[p] + dt * (vx[q] - vx[p])
                dz = z[q] - z[p] + dt * (vz[q] - vz[p])
                size[j] = np.sqrt(dx * dx + dz * dz) + 1e-12
                ex[j], ez[j] = dx / size[j], dz / size[j]
                off = size[j] / seg_len[j] - 1.0
                if not taut[j] and off > LENGTH_TOLERANCE:
                    taut[j] = True
                if not off <= LENGTH_TOLERANCE or (taut[j] and off < -LENGTH_TOLERANCE):
                    settled = False
                if not off <= WILD:
                    wild = True
            found = settled
            if settled or wild or sweep == SWEEPS:
                break
            settled = True
            # Nodes without tension, each held near its last guess by the stiffness that taut neighbours give a
            # line across itself: without it the sweeps overshoot where the tension is high for the mass.
            for i in range(n + 1):
                gxx[i] = gxz[i] = gzz[i] = 0.0
            for j in range(n):
                k = dt * tension[j] / seg_len[j]
                kxx, kxz, kzz = k * (1.0 - ex[j] * ex[j]), -k * ex[j] * ez[j], k * (1.0 - ez[j] * ez[j])
                for i in (up[j], j + 1):
                    gxx[i] += kxx
                    gxz[i] += kxz
                    gzz[i] += kzz
            for i in range(n + 1):
                if i == 0 and kind == 1:
                    sx[0], sz[0] = tip_vx, tip_vz
                    continue
                qxx, qxz, qzz = cxx[i] + gxx[i], cxz[i] + gxz[i], czz[i] + gzz[i]
                px = bx[i] + gxx[i] * vx[i] + gxz[i] * vz[i]
                pz = bz[i] + gxz[i] * vx[i] + gzz[i] * vz[i]
                if (i == 0 and kind == 0) or held[i]:  # a float rides on the surface, a body lies on the bed
                    rise = 0.0 if i == 0 and kind == 0 else (floor[i] - z[i]) / dt
                    axx[i], axz[i], azz[i] = 1.0 / qxx, 0.0, 0.0
                    sx[i], sz[i] = (px - qxz * rise) / qxx, rise
                else:
                    det = qxx * qzz - qxz * qxz
                    axx[i], axz[i], azz[i] = qzz / det, -qxz / det, qxx / det
                    sx[i] = axx[i] * px + axz[i] * pz
                    sz[i] = axz[i] * px + azz[i] * pz
            for j in range(n):
                if not taut[j]:
                    lower[j], diag[j], upper[j], rhs[j] = 0.0, 1.0, 0.0, 0.0
                    continue
                p, q = up[j], j + 1
                hx, hz = axx[p] * ex[j] + axz[p] * ez[j], axz[p] * ex[j] + azz[p] * ez[j]
                lx, lz = axx[q] * ex[j] + axz[q] * ez[j], axz[q] * ex[j] + azz[q] * ez[j]
                diag[j] = -(hx * ex[j] + hz * ez[j] + lx * ex[j] + lz * ez[j]) - 1e-12
                if j < chain:
                    upper[j] = lx * ex[j + 1] + lz * ez[j + 1] if j < chain - 1 else 0.0
                    lower[j] = hx * ex[j - 1] + hz * ez[j - 1] if j > 0 else 0.0
                else:  # a tag hangs between the pieces of line above and below its knot
                    lower[j] = hx * ex[p - 1] + hz * ez[p - 1] if taut[p - 1] else 0.0
                    upper[j] = -(hx * ex[p] + hz * ez[p]) if taut[p] else 0.0
                rhs[j] = (
                    (seg_len[j] - size[j]) / dt
                    + ex[j] * (vx[q] - vx[p] - sx[q] + sx[p])
                    + ez[j] * (vz[q] - vz[p] - sz[q] + sz[p])
                )
            # A tag's tension enters those of two neighbours only: taken out of both, the line's system stays
            # tridiagonal.
            for j in range(chain, n):
                p = up[j]
                into_upper, into_lower = lower[j] / diag[j], upper[j] / diag[j]
                if taut[p - 1]:
                    diag[p - 1] -= lower[j] * into_upper
                    upper[p - 1] -= lower[j] * into_lower
                    rhs[p - 1] -= rhs[j] * into_upper
                if taut[p]:
                    diag[p] -= upper[j] * into_lower
                    lower[p] -= upper[j] * into_upper
                    rhs[p] -= rhs[j] * into_lower
            for j in range(1, chain):
                f = lower[j] / diag[j - 1]
                diag[j] -= f * upper[j - 1]
                rhs[j] -= f * rhs[j - 1]
            tension[chain - 1] = rhs[chain - 1] / diag[chain - 1]
            for j in range(chain - 2, -1, -1):
                tension[j] = (rhs[j] - upper[j] * tension[j + 1]) / diag[j]
            for j in range(chain, n):
                p = up[j]
                tension[j] = (rhs[j] - lower[j] * tension[p - 1] - upper[j] * tension[p]) / diag[j]
            for j in range(n):
                if tension[j] < 0.0:
                    taut[j] = False
                    tension[j] = 0.0
            for i in range(n + 1):
                gxx[i] = gzz[i] = 0.0
            for j in range(n):
                px, pz = tension[j] * ex[j], tension[j] * ez[j]
                gxx[up[j]] += px
                gzz[up[j]] += pz
                gxx[j + 1] -= px
                gzz[j + 1] -= pz
            for i in range(n + 1):
                vx[i] = sx[i] + axx[i] * gxx[i] + axz[i] * gzz[i]
                vz[i] = sz[i] + axz[i] * gxx[i] + azz[i] * gzz[i]
                if (i > 0 or kind == 2) and not held[i] and z[i] + dt * vz[i] < floor[i] - 1e-9:
                    held[i] = True
                    settled = False
        if not found:
            # No set of tensions was found: every node goes as it would without, and is then drawn in, from the top
            # down, to where its line still reaches. It costs the motion of one step, and no line.
            for i in range(n + 1):
                if i == 0 and kind == 1:
                    continue
                det = cxx[i] * czz[i] - cxz[i] * cxz[i]
                vx[i] = (czz[i] * bx[i] - cxz[i] * bz[i]) / det
                vz[i] = (cxx[i] * bz[i] - cxz[i] * bx[i]) / det
                if i == 0 and kind == 0:
                    vx[0], vz[0] = bx[0] / cxx[0], 0.0
                vz[i] = max(vz[i], (floor[i] - z[i]) / dt)
            for j in range(n):
                p, q = up[j], j + 1
                dx = x[q] - x[p] + dt * (vx[q] - vx[p])
                dz = z[q] - z[p] + dt * (vz[q] - vz[p])
                reach = seg_len[j] / (np.sqrt(dx * dx + dz * dz) + 1e-12)
                if reach < 1.0:
                    vx[q] = vx[p] + (x[p] - x[q] + reach * dx) / dt
                    vz[q] = vz[p] + (z[p] - z[q] + reach * dz) / dt
                tension[j] = 0.0
        pulled_x += tension[0] * ex[0]
        pulled_z -= tension[0] * ez[0]
        since += 1
        for i in range(n + 1):
            x[i] += dt * vx[i]
            z[i] += dt * vz[i]
        for b in range(len(body_node)):
            if held[body_node[b]] and touched[b] < 0.0:
                touched[b] = (step + 1) * dt
    return worst


@dataclass(frozen=True, slots=True)
class TipPhase:
    """What a hand does with the rod tip until a time: its speed downstream and its lift, m/s."""

    until_s: float
    speed_m_s: float
    lift_m_s: float = 0.0


@dataclass(frozen=True, slots=True)
class TransientDrift:
    """A drift over time: frames of ``t_s`` (T), bodies (T, B) in the order of the scenario, line nodes (T, N) that
    sit ``along_m`` (N) from the top end, the bodies or their tags being tied in at ``body_knots`` (B).

    ``x`` runs downstream from where the top end started. ``t50_s`` and its kin are the first times at which the
    lowest body has sunk to that share of its steady depth, None where it has not within the run. ``touch_s`` is each
    body's first contact with the bed. ``pull_n`` (T, 2) is the line's pull on the top end, downstream and down, its mean
    since the frame before. ``stretch`` is the largest relative lengthening of any segment (a check).
    """

    t_s: Array
    top_x_m: Array
    body_x_m: Array
    body_depth_m: Array
    line_x_m: Array
    line_height_m: Array
    along_m: Array
    body_knots: tuple[int, ...]
    t50_s: float | None
    t80_s: float | None
    t95_s: float | None
    touch_s: tuple[float | None, ...]
    pull_n: Array
    stretch: float
    steady: SteadyDrift


def _first_time(t: Array, values: Array, target: float) -> float | None:
    above = np.nonzero(values >= target)[0]
    if len(above) == 0:
        return None
    k = int(above[0])
    if k == 0:
        return float(t[0])
    share = (target - values[k - 1]) / (values[k] - values[k - 1])
    return float(t[k - 1] + share * (t[k] - t[k - 1]))


@dataclass(frozen=True, slots=True)
class _Laid:
    """A rig as segments (J), each from node ``up`` to the node after its own number: the line's, then the tags'.

    ``along`` (J + 1) is how far each node is from the top end; ``body_node`` and ``knot`` (B) are where each body sits and
    where on the line it is tied in.
    """

    length: Array
    diameter: Array
    density: Array
    up: Nodes
    along: Array
    body_node: Nodes
    knot: Nodes

    @property
    def line_nodes(self) -> int:
        """Number of nodes on the line itself."""
        return len(self.along) - int(np.sum(self.body_node != self.knot))


def _lay_out(scenario: Scenario, segments: int) -> _Laid:
    """Divide the line at its bodies and changes of section, and hang the tags from it."""
    length = scenario.line_length_m
    ends = np.cumsum([section.length_m for section in scenario.line])
    cuts = sorted({0.0, *(float(e) for e in ends), *(body.along_m for body in scenario.bodies)})
    cuts = [c for k, c in enumerate(cuts) if k == 0 or c - cuts[k - 1] > 1e-6]
    lengths: list[float] = []
    sections: list[int] = []
    for upper, lower in pairwise(cuts):
        count = max(2, round(segments * (lower - upper) / length))
        section = int(np.searchsorted(ends, 0.5 * (upper + lower)))
        lengths += [(lower - upper) / count] * count
        sections += [section] * count
    nodes = np.concatenate([[0.0], np.cumsum(lengths)])
    knot = np.array(
        [int(np.argmin(np.abs(nodes - body.along_m))) for body in scenario.bodies], dtype=np.int64
    )
    body_node = knot.copy()
    diameters = [scenario.line[s].diameter_m for s in sections]
    densities = [scenario.line[s].density_kg_m3 for s in sections]
    up, along = list(range(len(lengths))), list(nodes)
    for b, body in enumerate(scenario.bodies):
        if body.tag_m > 0.0:
            lengths.append(body.tag_m)
            diameters.append(body.tag_diameter_m)
            densities.append(body.tag_density_kg_m3)
            up.append(int(knot[b]))
            along.append(float(nodes[knot[b]]) + body.tag_m)
            body_node[b] = len(lengths)
    return _Laid(
        np.array(lengths),
        np.array(diameters),
        np.array(densities),
        np.array(up, dtype=np.int64),
        np.array(along),
        body_node,
        knot,
    )


def _entered(entry: Entry, along: Array, hanging: float) -> tuple[Array, float]:
    """Return where the nodes lie along the surface at the start, and how fast the flies go down."""
    out = np.maximum(0.0, along - hanging)
    if entry == "lead":
        return out, 0.0
    return -ENTRY_SPREAD[entry] * out, TUCK_M_S if entry == "tuck" else 0.0


def transient_drift(
    scenario: Scenario,
    *,
    duration_s: float,
    entry: Entry = "straight",
    phases: Sequence[TipPhase] = (),
    segments: int = SEGMENTS,
    step_s: float = STEP_S,
) -> TransientDrift:
    """Run a drift from the flies landing for ``duration_s``.

    Start: by ``entry``; line straight along the surface upstream of the top end (for a rod tip, of the point below it),
    everything at the surface speed, where nothing else is said. A rod tip goes at its own speed, or through ``phases``,
    the last of which lasts. Raises :class:`NotConverged` if the line came apart.
    """
    DURATION_S.check("duration_s", duration_s)
    steady = steady_drift(scenario)
    water, top = scenario.water, scenario.top
    rho = density(temperature_c=water.temperature_c)
    mu = dynamic_viscosity(temperature_c=water.temperature_c)
    laid = _lay_out(scenario, segments)
    along, body_node = laid.along, laid.body_node
    nodes, on_line = len(along), laid.line_nodes
    hanging = top.height_m if top.kind == "tip" else 0.0
    # A float is a half-sunk sphere: its drag area is half its section, and half the sunk half moves with it.
    diameter = np.sqrt(8.0 * top.drag_area_m2 / np.pi)
    top_mass = top.mass_kg + 0.5 * rho * np.pi * diameter**3 / 12.0
    kind = {"float": 0, "tip": 1, "free": 2}[top.kind]
    hand = tuple(phases) or (TipPhase(np.inf, top.speed_m_s),)
    schedule = (
        np.array([one.until_s for one in hand]),
        np.array([one.speed_m_s for one in hand]),
        np.array([one.lift_m_s for one in hand]),
    )
    start_x, sinking = _entered(entry, along, hanging)
    bodies = scenario.bodies
    while True:
        every = max(1, round(FRAME_S / step_s))
        frames = max(1, round(duration_s / step_s)) // every + 1
        out_x, out_z = np.empty((frames, nodes)), np.empty((frames, nodes))
        pull = np.empty((frames, 2))
        touched = np.full(len(bodies), -1.0)
        stretch = _run(
            start_x.copy(),
            water.depth_m + np.maximum(0.0, hanging - along),
            np.full(nodes, water.surface_speed_m_s),
            np.where(np.isin(np.arange(nodes), body_node), -sinking, 0.0),
            laid.length,
            laid.diameter,
            laid.density,
            laid.up,
            body_node,
            (
                np.array([b.mass_kg for b in bodies]),
                np.array([b.displaced_m3 for b in bodies]),
                np.array([b.diameter_m for b in bodies]),
                np.array([b.dressing_area_m2 for b in bodies]),
                np.array([b.dressing_diameter_m for b in bodies]),
            ),
            (kind, float(top_mass), top.drag_area_m2),
            schedule,
            (
                water.depth_m,
                water.surface_speed_m_s,
                PROFILE_CODE[water.profile],
                water.bed_ks_m / 30.0,
                rho,
                mu,
            ),
            step_s,
            (frames - 1) * every,
            every,
            out_x,
            out_z,
            pull,
            touched,
        )
        if np.isfinite(out_x).all() and stretch < STRETCH_ALLOWED:
            break
        if step_s <= SHORTEST_STEP_S:
            raise NotConverged(f"the drift came apart: a segment stretched by {stretch:.1%}")
        step_s /= 2.0
    t: Array = np.arange(frames, dtype=np.float64) * (every * step_s)
    body_depth = water.depth_m - out_z[:, body_node]
    lowest = int(np.argmax([b.along_m for b in bodies]))
    target = steady.body_depth_m[lowest] - (0.5 * bodies[lowest].diameter_m if steady.grounded else 0.0)
    t50, t80, t95 = (_first_time(t, body_depth[:, lowest], share * target) for share in (0.50, 0.80, 0.95))
    return TransientDrift(
        t_s=t,
        top_x_m=out_x[:, 0],
        body_x_m=out_x[:, body_node],
        body_depth_m=body_depth,
        line_x_m=out_x[:, :on_line],
        line_height_m=out_z[:, :on_line],
        along_m=along[:on_line],
        body_knots=tuple(int(node) for node in laid.knot),
        t50_s=t50,
        t80_s=t80,
        t95_s=t95,
        touch_s=tuple(float(s) if s >= 0.0 else None for s in touched),
        pull_n=pull,
        stretch=float(stretch),
        steady=steady,
    )
