"""The march of a drift through time: one compiled loop over steps, on plain arrays.

Lumped masses joined by inextensible segments that carry tension only. Drag is stiff against such small masses, so it
is taken implicitly: with A = M/Δt + K (mass with added mass, and linearised drag, each 2×2 per node),

    v = A⁻¹ (M v_old/Δt + K u + W + Σ tensions),

and the tensions are those that bring every segment to its length at the end of the step: one tridiagonal solve,
iterated on the directions at the end of the step, with slack segments released and bodies on the bed held.
"""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from deriva.core._jit import jit_fast, jit_inline
from deriva.core.drift.drag import TANGENTIAL_COEFFICIENT, cylinder_cd_at, sphere_cd_at
from deriva.core.drift.structures import Stream
from deriva.core.water.profile import speed_at
from deriva.core.water.properties import GRAVITY_M_S2

Array = NDArray[np.float64]
Nodes = NDArray[np.int64]
Flags = NDArray[np.bool_]

SWEEPS = 60
LENGTH_TOLERANCE = 2e-4
"""Most Newton sweeps on the lengths in a step, and the relative length error at which they stop. Two or three do as a
rule; a fly striking the bed slackens the line above it piece by piece, which takes up to fifty."""

WILD = 3.0
"""Relative stretch in a sweep at which it is given up."""


FLOAT, TIP, FREE = 0, 1, 2
"""What holds the top end."""


class Segments(NamedTuple):
    """Segments of line and tags (J), each from node ``up`` to the node after its own number, the line's own first: length m,
    diameter m, density kg/m³. The first ``chain`` are the line's.
    """

    length: Array
    diameter: Array
    density: Array
    up: Nodes
    chain: int


class Weights(NamedTuple):
    """Bodies (B): the node that each sits at, mass kg, displaced volume m³, diameter m; dressing's area m² and diameter m."""

    node: Nodes
    mass: Array
    volume: Array
    diameter: Array
    dressing: Array
    dressing_diameter: Array


class TopEnd(NamedTuple):
    """What holds the top end, with a float's mass kg (added mass included) and drag area m²."""

    kind: int
    mass: float
    area: float


class Hand(NamedTuple):
    """What a hand does with a rod tip: until when, s, at which speed downstream and lift, m/s."""

    until: Array
    speed: Array
    lift: Array


class Pair(NamedTuple):
    """A value across and one up for every node (N)."""

    x: Array
    z: Array


class Matrix(NamedTuple):
    """A symmetric 2×2 matrix for every node (N)."""

    xx: Array
    xz: Array
    zz: Array


class System(NamedTuple):
    """The tensions' equations: one row a segment (J)."""

    lower: Array
    diag: Array
    upper: Array
    rhs: Array


class Record(NamedTuple):
    """What is recorded: frames of the nodes (T, N) and of the pull on the top end (T, 2: downstream and down, N, its mean since
    the frame before), and when each body first touched the bed, s (B; below zero: not yet).
    """

    x: Array
    z: Array
    pull: Array
    touched: Array


@jit_inline
def _load(
    place: Pair, speed: Pair, line: Segments, weights: Weights, top: TopEnd, water: Stream, size: Array,
    mass: Matrix, drag: Matrix, weight: Array, current: Array,
) -> float:  # fmt: skip
    """Sum up mass, drag and weight of every node: halves of its segments, then its bodies; return the largest stretch."""
    x, z = place
    vx, vz = speed
    seg_len, seg_dia, seg_rho, up, _ = line
    mxx, mxz, mzz = mass
    cxx, cxz, czz = drag
    depth, us, profile, z0, rho, mu = water
    g = GRAVITY_M_S2
    worst = 0.0
    for i in range(len(x)):
        mxx[i] = mxz[i] = mzz[i] = cxx[i] = cxz[i] = czz[i] = weight[i] = 0.0
        current[i] = speed_at(z[i], depth, us, profile, z0)
    for j in range(len(seg_len)):
        p, q = up[j], j + 1
        dx, dz = x[q] - x[p], z[q] - z[p]
        size[j] = np.sqrt(dx * dx + dz * dz) + 1e-12
        tx, tz = dx / size[j], dz / size[j]
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
            if z[i] > depth and top.kind != FLOAT:
                continue
            weight[i] += added * g
            mxx[i] += added * pxx
            mxz[i] += added * pxz
            mzz[i] += added * pzz
            cxx[i] += kn * pxx + kt * tx * tx
            cxz[i] += kn * pxz + kt * tx * tz
            czz[i] += kn * pzz + kt * tz * tz
    b_node, b_mass, b_volume, b_dia, b_dress, b_dress_dia = weights
    for b in range(len(b_node)):
        i = b_node[b]
        m = b_mass[b]
        weight[i] -= m * g
        if z[i] <= depth or top.kind == FLOAT:
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
    if top.kind == FLOAT:
        mxx[0] += top.mass
        cxx[0] += 0.5 * rho * top.area * abs(us - vx[0])
    return worst


@jit_inline
def _push(
    speed: Pair, mass: Matrix, drag: Matrix, weight: Array, current: Array, dt: float, pushed: Pair
) -> None:
    """Set up the step without tension, A v = b: b goes to ``pushed``, and A = M/Δt + K takes the place of ``drag``."""
    vx, vz = speed
    mxx, mxz, mzz = mass
    cxx, cxz, czz = drag
    bx, bz = pushed
    for i in range(len(vx)):
        bx[i] = (mxx[i] * vx[i] + mxz[i] * vz[i]) / dt + cxx[i] * current[i]
        bz[i] = (mxz[i] * vx[i] + mzz[i] * vz[i]) / dt + cxz[i] * current[i] + weight[i]
        cxx[i] += mxx[i] / dt
        cxz[i] += mxz[i] / dt
        czz[i] += mzz[i] / dt


@jit_inline
def _look(
    place: Pair, speed: Pair, line: Segments, dt: float, taut: Flags, ends: Pair, size: Array
) -> tuple[bool, bool]:
    """Look at every segment as it will lie: fill its direction and size; return whether lengths are right, and whether the
    sweep has gone wild. What would be stretched is taut.
    """
    x, z = place
    vx, vz = speed
    seg_len, _, _, up, _ = line
    ex, ez = ends
    right, wild = True, False
    for j in range(len(seg_len)):
        p, q = up[j], j + 1
        dx = x[q] - x[p] + dt * (vx[q] - vx[p])
        dz = z[q] - z[p] + dt * (vz[q] - vz[p])
        size[j] = np.sqrt(dx * dx + dz * dz) + 1e-12
        ex[j], ez[j] = dx / size[j], dz / size[j]
        off = size[j] / seg_len[j] - 1.0
        if not taut[j] and off > LENGTH_TOLERANCE:
            taut[j] = True
        if not off <= LENGTH_TOLERANCE or (taut[j] and off < -LENGTH_TOLERANCE):
            right = False
        if not off <= WILD:
            wild = True
    return right, wild


@jit_inline
def _slacken(
    place: Pair, speed: Pair, line: Segments, top: TopEnd, dt: float, held: Flags, floor: Array, ends: Pair,
    tension: Array, whole: Matrix, pushed: Pair, stiff: Matrix, inverse: Matrix, free: Pair,
) -> None:  # fmt: skip
    """Find how every node would go without tension, each held near its last guess by the stiffness that taut neighbours give a
    line across itself: without it the sweeps overshoot where the tension is high for the mass.
    """
    _, z = place
    vx, vz = speed
    seg_len, _, _, up, _ = line
    ex, ez = ends
    gxx, gxz, gzz = stiff
    cxx, cxz, czz = whole
    axx, axz, azz = inverse
    bx, bz = pushed
    sx, sz = free
    for i in range(len(vx)):
        gxx[i] = gxz[i] = gzz[i] = 0.0
    for j in range(len(seg_len)):
        k = dt * tension[j] / seg_len[j]
        kxx, kxz, kzz = k * (1.0 - ex[j] * ex[j]), -k * ex[j] * ez[j], k * (1.0 - ez[j] * ez[j])
        for i in (up[j], j + 1):
            gxx[i] += kxx
            gxz[i] += kxz
            gzz[i] += kzz
    for i in range(len(vx)):
        if i == 0 and top.kind == TIP:  # a rod tip goes where the hand goes
            sx[0], sz[0] = vx[0], vz[0]
            continue
        qxx, qxz, qzz = cxx[i] + gxx[i], cxz[i] + gxz[i], czz[i] + gzz[i]
        px = bx[i] + gxx[i] * vx[i] + gxz[i] * vz[i]
        pz = bz[i] + gxz[i] * vx[i] + gzz[i] * vz[i]
        if (i == 0 and top.kind == FLOAT) or held[i]:  # a float rides on the surface, a body lies on the bed
            rise = 0.0 if i == 0 and top.kind == FLOAT else (floor[i] - z[i]) / dt
            axx[i], axz[i], azz[i] = 1.0 / qxx, 0.0, 0.0
            sx[i], sz[i] = (px - qxz * rise) / qxx, rise
        else:
            det = qxx * qzz - qxz * qxz
            axx[i], axz[i], azz[i] = qzz / det, -qxz / det, qxx / det
            sx[i] = axx[i] * px + axz[i] * pz
            sz[i] = axz[i] * px + azz[i] * pz


@jit_inline
def _equations(
    speed: Pair, line: Segments, dt: float, taut: Flags, ends: Pair, size: Array, inverse: Matrix, free: Pair,
    system: System,
) -> None:  # fmt: skip
    """Write down the tensions that bring every taut segment to its length: a row each, a slack one's tension nought.

    A tag's tension enters those of two neighbours only: taken out of both, the line's system stays tridiagonal.
    """
    vx, vz = speed
    seg_len, _, _, up, chain = line
    ex, ez = ends
    axx, axz, azz = inverse
    sx, sz = free
    lower, diag, upper, rhs = system
    n = len(seg_len)
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


@jit_inline
def _solve(line: Segments, system: System, taut: Flags, tension: Array) -> None:
    """Solve for the tensions, the line's by elimination, then the tags'; a segment that would push is slack."""
    lower, diag, upper, rhs = system
    up, chain = line.up, line.chain
    n = len(tension)
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


@jit_inline
def _draw(
    place: Pair, speed: Pair, line: Segments, top: TopEnd, dt: float, held: Flags, floor: Array, ends: Pair,
    tension: Array, inverse: Matrix, free: Pair, pull: Pair,
) -> bool:  # fmt: skip
    """Let the tensions draw the nodes; return whether one more has to be held, since it would enter the bed."""
    _, z = place
    vx, vz = speed
    up = line.up
    ex, ez = ends
    axx, axz, azz = inverse
    sx, sz = free
    tx, tz = pull
    for i in range(len(vx)):
        tx[i] = tz[i] = 0.0
    for j in range(len(tension)):
        px, pz = tension[j] * ex[j], tension[j] * ez[j]
        tx[up[j]] += px
        tz[up[j]] += pz
        tx[j + 1] -= px
        tz[j + 1] -= pz
    more = False
    for i in range(len(vx)):
        vx[i] = sx[i] + axx[i] * tx[i] + axz[i] * tz[i]
        vz[i] = sz[i] + axz[i] * tx[i] + azz[i] * tz[i]
        if (i > 0 or top.kind == FREE) and not held[i] and z[i] + dt * vz[i] < floor[i] - 1e-9:
            held[i] = True
            more = True
    return more


@jit_inline
def _give_up(
    place: Pair, speed: Pair, line: Segments, top: TopEnd, dt: float, floor: Array, whole: Matrix,
    pushed: Pair, tension: Array,
) -> None:  # fmt: skip
    """Take a step for which no set of tensions was found: every node goes as it would without, and is then drawn in, from the
    top down, to where its line still reaches. It costs the motion of one step, and no line.
    """
    x, z = place
    vx, vz = speed
    seg_len, _, _, up, _ = line
    cxx, cxz, czz = whole
    bx, bz = pushed
    for i in range(len(vx)):
        if i == 0 and top.kind == TIP:
            continue
        det = cxx[i] * czz[i] - cxz[i] * cxz[i]
        vx[i] = (czz[i] * bx[i] - cxz[i] * bz[i]) / det
        vz[i] = (cxx[i] * bz[i] - cxz[i] * bx[i]) / det
        if i == 0 and top.kind == FLOAT:
            vx[0], vz[0] = bx[0] / cxx[0], 0.0
        vz[i] = max(vz[i], (floor[i] - z[i]) / dt)
    for j in range(len(seg_len)):
        p, q = up[j], j + 1
        dx = x[q] - x[p] + dt * (vx[q] - vx[p])
        dz = z[q] - z[p] + dt * (vz[q] - vz[p])
        reach = seg_len[j] / (np.sqrt(dx * dx + dz * dz) + 1e-12)
        if reach < 1.0:
            vx[q] = vx[p] + (x[p] - x[q] + reach * dx) / dt
            vz[q] = vz[p] + (z[p] - z[q] + reach * dz) / dt
        tension[j] = 0.0


@jit_fast
def march(
    place: Pair,
    speed: Pair,
    line: Segments,
    weights: Weights,
    top: TopEnd,
    hand: Hand,
    water: Stream,
    dt: float,
    steps: int,
    every: int,
    record: Record,
) -> float:
    """Advance ``steps`` steps, recording every ``every``-th; return the largest relative stretch seen."""
    nodes, n = len(place.x), len(line.length)
    drag = Matrix(np.empty(nodes), np.empty(nodes), np.empty(nodes))
    mass = Matrix(np.empty(nodes), np.empty(nodes), np.empty(nodes))
    inverse = Matrix(np.zeros(nodes), np.zeros(nodes), np.zeros(nodes))
    stiff = Matrix(np.empty(nodes), np.empty(nodes), np.empty(nodes))
    pushed, free = Pair(np.empty(nodes), np.empty(nodes)), Pair(np.empty(nodes), np.empty(nodes))
    pull, ends = Pair(np.empty(nodes), np.empty(nodes)), Pair(np.empty(n), np.empty(n))
    weight, current, size = np.empty(nodes), np.empty(nodes), np.empty(n)
    system = System(np.empty(n), np.empty(n), np.empty(n), np.empty(n))
    tension, floor = np.zeros(n), np.zeros(nodes)
    taut, held = np.ones(n, dtype=np.bool_), np.zeros(nodes, dtype=np.bool_)
    x, z = place
    vx, vz = speed
    ex, ez = ends
    seg_len, body_node, touched = line.length, weights.node, record.touched
    out_x, out_z, out_pull = record.x, record.z, record.pull
    until, hand_speed, hand_lift = hand
    for b in range(len(body_node)):
        floor[body_node[b]] = 0.5 * weights.diameter[b]
    worst = 0.0
    frame = phase = since = 0
    pulled_x = pulled_z = 0.0
    for step in range(steps + 1):
        if step % every == 0:
            for i in range(nodes):
                out_x[frame, i] = x[i]
                out_z[frame, i] = z[i]
            out_pull[frame, 0] = pulled_x / max(1, since)
            out_pull[frame, 1] = pulled_z / max(1, since)
            pulled_x = pulled_z = 0.0
            since = 0
            frame += 1
        while phase < len(until) - 1 and step * dt >= until[phase]:
            phase += 1
        worst = max(worst, _load(place, speed, line, weights, top, water, size, mass, drag, weight, current))
        _push(speed, mass, drag, weight, current, dt, pushed)
        for i in range(nodes):
            held[i] = False
        for j in range(n):  # what lies slack stays so until the step would stretch it
            taut[j] = size[j] >= seg_len[j] * (1.0 - 5.0 * LENGTH_TOLERANCE)
        if top.kind == TIP:
            vx[0], vz[0] = hand_speed[phase], hand_lift[phase]
        # Tensions along the line as it will lie at the end of the step: Newton on the lengths, with segments released
        # where they would push and nodes held where they would enter the bed.
        found = more = False
        for sweep in range(SWEEPS + 1):
            right, wild = _look(place, speed, line, dt, taut, ends, size)
            found = right and not more and sweep > 0
            if found or wild or sweep == SWEEPS:
                break
            _slacken(
                place, speed, line, top, dt, held, floor, ends, tension, drag, pushed, stiff, inverse, free
            )
            _equations(speed, line, dt, taut, ends, size, inverse, free, system)
            _solve(line, system, taut, tension)
            more = _draw(place, speed, line, top, dt, held, floor, ends, tension, inverse, free, pull)
        if not found:
            _give_up(place, speed, line, top, dt, floor, drag, pushed, tension)
        pulled_x += tension[0] * ex[0]
        pulled_z -= tension[0] * ez[0]
        since += 1
        for i in range(nodes):
            x[i] += dt * vx[i]
            z[i] += dt * vz[i]
        for b in range(len(body_node)):
            if held[body_node[b]] and touched[b] < 0.0:
                touched[b] = (step + 1) * dt
    return worst
