"""Finding the unknowns of a balance: the height of the lowest body, and under a float the speed, with which the line ends where
it must.

Kernels of :mod:`deriva.core.drift.steady`. Scalar, standard library only.
"""

import math
from typing import NamedTuple

from deriva.core._jit import jit
from deriva.core.drift.balance import GROUNDING_SPAN, climb, hang
from deriva.core.drift.structures import Bodies, Mesh, Shape, Stream

SCAN = 6
"""Heights, from the surface down, at which a tip's rig is tried before the bracket is closed."""

TOLERANCE = 1e-6
"""Residual, relative to depth and to the float's drag, at which the search stops; up to the second it still counts."""


SETTLED_WITHIN = 1e-3

LIES_WITHIN = 0.1
"""What a rig that lies on the bed may leave: with line on the stones the pull changes sign in a jump, and how it lies
there is loose anyway."""

FOLD_HEIGHTS, FOLD_SPEEDS = 20, 50
"""Heights, above the bed and again with the bed taking weight, and speeds, at which a rig between two branches is
looked for."""


NEAR_STEP, NEAR_STEPS = 0.02, 4
"""How far about a height that is known already a tip's rig is looked for, in depths, at first; twice as far each time."""

ROUGHLY = 1e-4
"""As :data:`TOLERANCE`, for what is mixed with what marches say, which are rounded to twice that."""


class Near(NamedTuple):
    """Where a rig is known to hang, nearly: height of its lowest body above where it lies, m, and the float's pace over the
    surface speed; not numbers where nothing is known. ``within``: how closely it is to be found, as :data:`TOLERANCE`.
    """

    height: float
    pace: float
    within: float


UNKNOWN = Near(math.nan, math.nan, TOLERANCE)


class FloatRig(NamedTuple):
    """A rig under a float: its line, bodies and water, the float's drag area m², the length of the line m, and the force N that
    residuals are told in.
    """

    mesh: Mesh
    bodies: Bodies
    water: Stream
    float_area: float
    length: float
    scale: float


@jit
def _residual(
    q: float,
    v: float,
    rig: FloatRig,
    shape: Shape,
) -> tuple[float, float]:
    """Return (height of the top end off the surface, horizontal force left on the float), both made relative."""
    depth, us = rig.water.depth, rig.water.speed
    fx, _ = climb(q, v, rig.mesh, rig.bodies, rig.water, False, shape)
    own = 0.5 * rig.water.rho * rig.float_area * abs(us - v) * (us - v)
    return (shape.z[len(shape.z) - 1] - depth) / depth, (fx - own) / rig.scale


@jit
def _branch_height(
    v: float,
    from_above: bool,
    rig: FloatRig,
    shape: Shape,
) -> tuple[float, float, float]:
    """For a float held at speed v, find the height q at which the line ends at the surface; return (q, r1, r2).

    Where there is more than one, the highest (``from_above``) or the lowest: a scan brackets it, false position and
    bisection in turn close the bracket.
    """
    depth = rig.water.depth
    deepest = -(GROUNDING_SPAN + rig.length)
    a = depth if from_above else deepest
    ra, _ = _residual(a, v, rig, shape)
    b, rb, r2 = a, ra, 0.0
    for k in range(SCAN + 3):
        if from_above:
            b = depth * (1.0 - (k + 1) / SCAN) if k < SCAN else deepest * (k - SCAN) / 2.0
        else:
            b = -0.5 * GROUNDING_SPAN if k == 0 else min(depth, 0.02 * depth * 1.7**k)
        rb, r2 = _residual(b, v, rig, shape)
        if (rb > 0.0) != (ra > 0.0):
            break
        a, ra = b, rb
    q, r1, side = b, rb, 0
    for k in range(60):
        if abs(r1) < TOLERANCE or (ra > 0.0) == (rb > 0.0) or abs(b - a) < 1e-10:
            break
        q = 0.5 * (a + b) if k % 4 == 3 else (a * rb - b * ra) / (rb - ra)
        r1, r2 = _residual(q, v, rig, shape)
        if (r1 > 0.0) == (rb > 0.0):
            b, rb = q, r1
            ra *= 0.5 if side == 1 else 1.0
            side = 1
        else:
            a, ra = q, r1
            rb *= 0.5 if side == -1 else 1.0
            side = -1
    return q, r1, r2


@jit
def _speed_at_height(
    q: float,
    fastest: bool,
    rig: FloatRig,
    shape: Shape,
) -> tuple[float, float, float]:
    """For a fly held at height q, find the highest or the lowest speed at which the line ends at the surface.

    Return (v, r1, r2); r1 is 1 where there is none.
    """
    us = rig.water.speed
    a = us * (1.2 if fastest else 0.2)
    ra, _ = _residual(q, a, rig, shape)
    b, rb, r2 = a, ra, 0.0
    for k in range(FOLD_SPEEDS):
        share = (k + 1) / FOLD_SPEEDS
        b = us * (1.2 - share if fastest else 0.2 + share)
        rb, r2 = _residual(q, b, rig, shape)
        if (rb > 0.0) != (ra > 0.0):
            break
        a, ra = b, rb
    if (rb > 0.0) == (ra > 0.0):
        return b, 1.0, r2
    v, r1 = b, rb
    for _ in range(60):
        v = 0.5 * (a + b)
        r1, r2 = _residual(q, v, rig, shape)
        if abs(r1) < TOLERANCE or abs(b - a) < 1e-12:
            break
        if (r1 > 0.0) == (ra > 0.0):
            a = v
        else:
            b = v
    return v, r1, r2


@jit
def _between_branches(rig: FloatRig, shape: Shape) -> tuple[float, float, float]:
    """Find (q, v, residual) between the branch that a fly meets from above and the one by the bed, where the speed no
    longer tells the height: here the height leads, down to a fly whose weight the bed takes, and the speed follows.
    """
    depth = rig.water.depth
    best, q_best, v_best = 1e9, 0.0, rig.water.speed
    for fastest in (False, True):
        hi, g_hi, known = 0.0, 0.0, False
        for k in range(2 * FOLD_HEIGHTS):
            if k < FOLD_HEIGHTS:
                lo = 0.95 * depth * (1.0 - k / FOLD_HEIGHTS) ** 2  # closer together by the bed
            else:
                lo = -GROUNDING_SPAN * (k - FOLD_HEIGHTS) / FOLD_HEIGHTS
            v, r1, g_lo = _speed_at_height(lo, fastest, rig, shape)
            here = abs(r1) < SETTLED_WITHIN
            if known and here and (g_lo > 0.0) != (g_hi > 0.0):
                a, b = lo, hi
                for _ in range(60):
                    q = 0.5 * (a + b)
                    v, r1, r2 = _speed_at_height(q, fastest, rig, shape)
                    if max(abs(r1), abs(r2)) < best:
                        best, q_best, v_best = max(abs(r1), abs(r2)), q, v
                    if best < 10.0 * TOLERANCE or abs(b - a) < 1e-12:
                        break
                    if (r2 > 0.0) == (g_lo > 0.0):
                        a = q
                    else:
                        b = q
                if best < SETTLED_WITHIN:
                    return q_best, v_best, best
            hi, g_hi, known = lo, g_lo, here
    return q_best, v_best, best


@jit
def _slopes(
    q: float, v: float, r1: float, r2: float, rig: FloatRig, shape: Shape
) -> tuple[float, float, float, float]:
    """Return the slopes of both residuals over height and speed, by small steps."""
    hq = 1e-4 * rig.water.depth if q > 0.0 else -1e-2 * GROUNDING_SPAN
    hv = 1e-3 * rig.water.speed
    p1, p2 = _residual(q + hq, v, rig, shape)
    s1, s2 = _residual(q, v + hv, rig, shape)
    return (p1 - r1) / hq, (s1 - r1) / hv, (p2 - r2) / hq, (s2 - r2) / hv


@jit
def _broyden(q: float, v: float, rig: FloatRig, tolerance: float, shape: Shape) -> tuple[float, float, float]:
    """Step from a start towards the balance, damped, correcting the slopes as it goes; return (q, v, what is left)."""
    depth, us = rig.water.depth, rig.water.speed
    q_lo, q_hi = -(GROUNDING_SPAN + rig.length), depth
    r1, r2 = _residual(q, v, rig, shape)
    fresh = False
    a = b = c = d = 0.0
    for _ in range(30):
        if abs(r1) <= tolerance and abs(r2) <= tolerance:
            break
        was_fresh = fresh
        if not fresh:
            a, b, c, d = _slopes(q, v, r1, r2, rig, shape)
            was_fresh = False
            fresh = True
        det = a * d - b * c
        if det == 0.0 or math.isnan(det):
            break
        dq = -(d * r1 - b * r2) / det
        dv = -(a * r2 - c * r1) / det
        shrink = max(1.0, abs(dq) / (0.3 * depth), abs(dv) / (0.2 * us))
        size = abs(r1) + abs(r2)
        step, n1, n2, tq, tv = 2.0 / shrink, r1, r2, 0.0, 0.0
        for _ in range(5):
            step *= 0.5
            tq = min(max(q + step * dq, q_lo), q_hi) - q
            tv = min(max(v + step * dv, 0.0), 1.6 * us) - v
            n1, n2 = _residual(q + tq, v + tv, rig, shape)
            if abs(n1) + abs(n2) < (1.0 - 0.1 * step) * size:
                break
        norm = tq * tq + tv * tv
        if abs(n1) + abs(n2) >= size:
            if was_fresh:  # the slopes were old ones: try again with new
                fresh = False
                continue
            break
        if abs(n1) + abs(n2) > 0.5 * size:
            fresh = False
        elif norm > 0.0:
            # Broyden's rank-one correction: (Δr − J·Δ) Δᵀ / |Δ|²
            e1 = (n1 - r1 - a * tq - b * tv) / norm
            e2 = (n2 - r2 - c * tq - d * tv) / norm
            a, b, c, d = a + e1 * tq, b + e1 * tv, c + e2 * tq, d + e2 * tv
        q, v, r1, r2 = q + tq, v + tv, n1, n2
    return q, v, max(abs(r1), abs(r2))


@jit
def _by_branches(q: float, v: float, rig: FloatRig, shape: Shape) -> tuple[float, float, float]:
    """Find (q, v, what is left) where current and line can balance at more than one height.

    First the branch that a fly meets from above is followed over v; it may end in a fold, and then the answer lies on the
    branch by the bed, or between the two.
    """
    best, q_best, v_best = 1e9, q, v
    for from_above in (True, False):
        lo, hi = 0.0, 1.6 * rig.water.speed
        _, _, g_lo = _branch_height(lo, from_above, rig, shape)
        _, _, g_hi = _branch_height(hi, from_above, rig, shape)
        side = 0
        for k in range(60):
            if (g_lo > 0.0) == (g_hi > 0.0) or hi - lo < 1e-9:
                break
            v = 0.5 * (lo + hi) if k % 3 == 2 else (lo * g_hi - hi * g_lo) / (g_hi - g_lo)
            q, r1, r2 = _branch_height(v, from_above, rig, shape)
            if max(abs(r1), abs(r2)) < best:
                best, q_best, v_best = max(abs(r1), abs(r2)), q, v
            if best < 10.0 * TOLERANCE:
                break
            if r2 > 0.0:
                hi, g_hi = v, r2
                g_lo *= 0.5 if side == 1 else 1.0
                side = 1
            else:
                lo, g_lo = v, r2
                g_hi *= 0.5 if side == -1 else 1.0
                side = -1
        if best < SETTLED_WITHIN:
            break
    if best >= SETTLED_WITHIN:
        q, v, left = _between_branches(rig, shape)
        if left < best:
            return q, v, left
    return q_best, v_best, best


@jit
def solve_float(
    near: Near, mesh: Mesh, bodies: Bodies, water: Stream, float_area: float, length: float, shape: Shape
) -> tuple[float, float, float]:
    """Find (q, v, what is left) for a float: damped Broyden from ``near`` or a good start; nested false positions where that
    fails.
    """
    depth, us = water.depth, water.speed
    scale = max(0.5 * water.rho * float_area * us * us, 0.02 * bodies.weight[0], 1e-9)
    rig = FloatRig(mesh, bodies, water, float_area, length, scale)
    if not math.isnan(near.height):
        q, v, left = _broyden(near.height, near.pace * us, rig, near.within, shape)
        if left <= near.within:
            return q, v, left
    start = min(max(depth - 0.96 * length, -0.5 * GROUNDING_SPAN), 0.95 * depth)
    q, v, left = _broyden(start, 0.88 * us, rig, TOLERANCE, shape)
    if left <= TOLERANCE:
        return q, v, left
    return _by_branches(q, v, rig, shape)


@jit
def _spare(
    q: float, v: float, mesh: Mesh, bodies: Bodies, water: Stream, height: float, shape: Shape
) -> float:
    """Return by how much the line's top end passes the rod tip, m: line to spare lets the fly sink further."""
    climb(q, v, mesh, bodies, water, True, shape)
    return shape.z[len(shape.z) - 1] - water.depth - height


@jit
def _close(
    lo: float,
    r_lo: float,
    hi: float,
    r_hi: float,
    v: float,
    height: float,
    within: float,
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    shape: Shape,
) -> tuple[float, float, bool]:
    """Close a bracket of heights between which the line just reaches the tip, by false position and bisection in turn."""
    depth = water.depth
    q, r, side = lo, r_lo, 0
    for k in range(80):
        if abs(r) < within * depth or hi - lo < 1e-10:
            break
        q = 0.5 * (lo + hi) if k % 4 == 3 else (lo * r_hi - hi * r_lo) / (r_hi - r_lo)
        r = _spare(q, v, mesh, bodies, water, height, shape)
        if r > 0.0:
            hi, r_hi = q, r
            r_lo *= 0.5 if side == 1 else 1.0
            side = 1
        else:
            lo, r_lo = q, r
            r_hi *= 0.5 if side == -1 else 1.0
            side = -1
    return q, abs(r) / depth, False


@jit
def _bracket_near(
    q: float, v: float, height: float, mesh: Mesh, bodies: Bodies, water: Stream, shape: Shape
) -> tuple[float, float, float, float]:
    """Look about a height for two between which the line just reaches the tip; return them and what it has to spare at
    each, the lower first. Where there are none so near, both have line to spare or both want some.
    """
    r = _spare(q, v, mesh, bodies, water, height, shape)
    lo, r_lo, hi, r_hi = q, r, q, r
    step = NEAR_STEP * water.depth
    for _ in range(NEAR_STEPS):
        if r > 0.0:
            lo = hi - step
            r_lo = _spare(lo, v, mesh, bodies, water, height, shape)
            if r_lo <= 0.0 or lo <= 0.0:
                break
            hi, r_hi = lo, r_lo
        else:
            hi = min(water.depth, lo + step)
            r_hi = _spare(hi, v, mesh, bodies, water, height, shape)
            if r_hi > 0.0 or hi >= water.depth:
                break
            lo, r_lo = hi, r_hi
        step *= 2.0
    return lo, r_lo, hi, r_hi


@jit
def solve_tip(
    near: Near,
    v: float,
    height: float,
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    length: float,
    shape: Shape,
) -> tuple[float, float, bool]:
    """Find q for a rod tip that travels at v.

    A strong current can hold a fly at more than one height. The fly comes from the surface, so the highest answer is
    the one it meets: a scan down brackets it, false position (Illinois) and bisection in turn close the bracket. Where
    it is known to be ``near`` a height, it is looked for there first.
    """
    depth = water.depth
    if near.height > 0.0:  # never where there is none
        lo, r_lo, hi, r_hi = _bracket_near(near.height, v, height, mesh, bodies, water, shape)
        if r_lo <= 0.0 < r_hi:
            return _close(lo, r_lo, hi, r_hi, v, height, near.within, mesh, bodies, water, shape)
    hi = depth
    r_hi = _spare(hi, v, mesh, bodies, water, height, shape)
    if r_hi < 0.0:
        return hi, 0.0, True  # even with the fly at the surface the line is pulled too flat to reach it
    lo, r_lo = hi, r_hi
    for k in range(SCAN + 2):
        q = depth * (1.0 - (k + 1) / SCAN) if k < SCAN else -(GROUNDING_SPAN + length * (k - SCAN))
        r = _spare(q, v, mesh, bodies, water, height, shape)
        if r <= 0.0:
            lo, r_lo = q, r
            break
        hi, r_hi = q, r
    if r_lo > 0.0:
        return hi, r_hi / depth, False
    return _close(lo, r_lo, hi, r_hi, v, height, near.within, mesh, bodies, water, shape)


@jit
def _hang_all(
    v: float, mesh: Mesh, bodies: Bodies, water: Stream, air: bool, shape: Shape, hung: Shape
) -> None:
    """Fill in where every body hangs on a settled line, the lowest first."""
    _, _, hung.x[0], hung.z[0] = hang(shape.x[0], shape.z[0], v, 0, bodies, water, air)
    for k in range(len(mesh.body)):
        b = mesh.body[k]
        if b > 0:
            _, _, hung.x[b], hung.z[b] = hang(shape.x[k + 1], shape.z[k + 1], v, b, bodies, water, air)


@jit
def settle_under_float(
    near: Near,
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    float_area: float,
    length: float,
    shape: Shape,
    hung: Shape,
) -> tuple[float, float, float, float, float]:
    """Settle a rig under a float: fill the shape of its line and where its bodies hang; return (q, v, what is left, pull
    across, pull down).
    """
    q, v, left = solve_float(near, mesh, bodies, water, float_area, length, shape)
    fx, fz = climb(q, v, mesh, bodies, water, False, shape)
    _hang_all(v, mesh, bodies, water, False, shape, hung)
    return q, v, left, fx, fz


@jit
def settle_from_tip(
    near: Near,
    v: float,
    height: float,
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    length: float,
    shape: Shape,
    hung: Shape,
) -> tuple[float, float, bool, float, float]:
    """Settle a rig from a rod tip that travels at v, as under a float; return (q, what is left, whether the line is
    too flat to let the fly down, pull across, pull down).
    """
    q, left, lifted = solve_tip(near, v, height, mesh, bodies, water, length, shape)
    fx, fz = climb(q, v, mesh, bodies, water, True, shape)
    _hang_all(v, mesh, bodies, water, True, shape, hung)
    return q, left, lifted, fx, fz
