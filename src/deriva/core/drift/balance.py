"""The balance of a rig in its frame: marching up the line, and finding the unknowns that make it end where it must.

Kernels of :mod:`deriva.core.drift.steady`, which has the equations. Scalar, standard library only.
"""

import math

from deriva.core._jit import Places, Vector, jit
from deriva.core.drift.drag import TANGENTIAL_COEFFICIENT, cylinder_cd_at
from deriva.core.drift.settling import body_drag
from deriva.core.water.profile import speed_at

Mesh = tuple[Vector, Vector, Vector, Vector, Places]
"""Pieces from the lowest body up: length, diameter, weight per length in water and in air, and the body at the upper
end of each (-1 for none)."""

Bodies = tuple[Vector, Vector, Vector, Vector, Vector, Vector, Vector]
"""From the lowest up: submerged weight N, diameter m, drag area of the dressing m², its diameter m; then the tag's length
m (0: the body sits on the line), diameter m and submerged weight N/m."""

Stream = tuple[float, float, int, float, float, float]
"""Depth m, surface speed m/s, profile code, z0 m, density kg/m³, viscosity Pa·s."""

GROUNDING_SPAN = 0.05
"""Length, m, over which the unknown below zero hands the lowest body's weight to the bed, and within which the line
lifting off the bed takes up a further body's weight (a parametrisation, not physics)."""

SCAN = 6
"""Heights, from the surface down, at which a tip's rig is tried before the bracket is closed."""

TOLERANCE = 1e-6
"""Residual, relative to depth and to the float's drag, at which the search stops; up to the second it still counts."""

GUESSED_WITHIN = 0.06
"""How far a guessed height may be off, as a share of the depth, to bracket the answer."""

TAG_SWEEPS = 4
"""Repetitions that find how a tag hangs: it turns the fly's height, and so its drag, by little."""

SPLASH_M = 0.03
"""Depth over which a fly that is lifted out on its tag loses its drag, m (it breaks a jump, no physics)."""

SETTLED_WITHIN = 1e-3
LIES_WITHIN = 0.1
"""What a rig that lies on the bed may leave: with line on the stones the pull changes sign in a jump, and how it lies
there is loose anyway."""

FOLD_HEIGHTS, FOLD_SPEEDS = 20, 50
"""Heights, above the bed and again with the bed taking weight, and speeds, at which a rig between two branches is
looked for."""


@jit
def line_drag(
    ux: float, uz: float, tx: float, tz: float, diameter: float, rho: float, mu: float
) -> tuple[float, float]:
    """Kernel: drag per length (N/m) of line with unit tangent t in the relative flow u."""
    along = ux * tx + uz * tz
    nx = ux - along * tx
    nz = uz - along * tz
    across = math.sqrt(nx * nx + nz * nz)
    normal = 0.5 * rho * diameter * cylinder_cd_at(rho * across * diameter / mu) * across
    tangential = 0.5 * rho * math.pi * diameter * TANGENTIAL_COEFFICIENT * abs(along) * along
    return normal * nx + tangential * tx, normal * nz + tangential * tz


@jit
def hang(
    x: float, z: float, v: float, b: int, bodies: Bodies, water: Stream, air: bool
) -> tuple[float, float, float, float]:
    """Kernel: (force across, force down, x, z) of body ``b``, whose line passes at (x, z).

    A tag is one straight piece: its direction is that of the tension at its middle, found by repetition. Where a rod tip
    lifts it out, drag leaves it over the last centimetres, so that the balance has no jump.
    """
    b_weight, b_dia, b_dress, b_dress_dia, tag, tag_dia, tag_weight = bodies
    depth, us, profile, z0, rho, mu = water
    radius = 0.5 * b_dia[b]
    length = tag[b]
    if length <= 0.0:
        u = speed_at(max(z, radius), depth, us, profile, z0) - v
        return -body_drag(u, rho, mu, b_dia[b], b_dress[b], b_dress_dia[b]), b_weight[b], x, z
    tx, tz = 0.0, 1.0
    fx = fz = low = 0.0
    for _ in range(TAG_SWEEPS):
        low = max(radius, z - length * tz)
        wet = min(1.0, max(0.0, (depth - low) / SPLASH_M)) if air else 1.0
        u = speed_at(low, depth, us, profile, z0) - v
        fx, fz = -wet * body_drag(u, rho, mu, b_dia[b], b_dress[b], b_dress_dia[b]), b_weight[b]
        wet = min(wet, (depth - low) / max(z - low, 1e-9)) if air and z > depth else wet
        u = speed_at(0.5 * (z + low), depth, us, profile, z0) - v
        gx, gz = line_drag(u, 0.0, tx, tz, tag_dia[b], rho, mu)
        gx, gz = max(0.0, wet) * gx, max(0.0, wet) * gz
        mx = fx - 0.5 * length * gx
        mz = fz + 0.5 * length * (tag_weight[b] - gz)
        size = math.sqrt(mx * mx + mz * mz) + 1e-30
        tx, tz = mx / size, mz / size
        fx -= length * gx
        fz += length * (tag_weight[b] - gz)
    return fx, fz, x - length * tx, max(radius, z - length * tz)


@jit
def march(
    q: float, v: float, mesh: Mesh, bodies: Bodies, water: Stream, air: bool, xs: Vector, zs: Vector
) -> tuple[float, float]:
    """Integrate from the lowest body to the top end for unknowns (q, v); fill the shape and return (fx, fz)."""
    ds, dia, w_sub, w_air, body_at = mesh
    b_weight, b_dia, b_dress, b_dress_dia = bodies[0], bodies[1], bodies[2], bodies[3]
    depth, us, profile, z0, rho, mu = water
    radius = 0.5 * b_dia[0]
    z = radius + max(q, 0.0)
    x = 0.0
    laid = max(0.0, -q - GROUNDING_SPAN)
    lying = laid
    s = 0.0
    carried = 1.0 - min(1.0, max(0.0, -q / GROUNDING_SPAN))
    u = speed_at(z, depth, us, profile, z0) - v
    fx = -body_drag(u, rho, mu, b_dia[0], b_dress[0], b_dress_dia[0])
    fz = b_weight[0] * carried
    xs[0] = x
    zs[0] = z
    for k in range(len(ds)):
        step = ds[k]
        s += step
        d = dia[k]
        if lying > 0.0:
            flat = min(lying, step)
            lying -= flat
            step -= flat
            along = 1.0 if fx >= 0.0 else -1.0
            u = speed_at(z, depth, us, profile, z0) - v
            gx, gz = line_drag(u, 0.0, along, 0.0, d, rho, mu)
            fx -= gx * flat
            x += along * flat
        while step > 0.0:
            size = math.sqrt(fx * fx + fz * fz) + 1e-30
            sx = fx / size
            sz = fz / size
            wet = not air or z < depth
            gx, gz, w = 0.0, 0.0, w_air[k]
            if wet:
                gx, gz = line_drag(speed_at(z, depth, us, profile, z0) - v, 0.0, sx, sz, d, rho, mu)
                w = w_sub[k]
            h = step
            crosses = False
            for _ in range(3):
                mx = fx - 0.5 * h * gx
                mz = fz + 0.5 * h * (w - gz)
                size = math.sqrt(mx * mx + mz * mz) + 1e-30
                tx = mx / size
                tz = mz / size
                if not (air and wet) or (not crosses and z + h * tz <= depth):
                    break
                crosses = True  # end the piece at the surface: drag stops there
                h = min(step, (depth - z) / max(tz, 1e-6))
            if wet:
                z_mid = z + 0.5 * h * sz
                gx, gz = line_drag(speed_at(z_mid, depth, us, profile, z0) - v, 0.0, tx, tz, d, rho, mu)
            fx -= h * gx
            fz += h * (w - gz)
            x += h * tx
            z = depth if crosses and h < step else z + h * tz
            step -= h
        b = body_at[k]
        if b > 0:
            own_x, own_z, _, _ = hang(x, z, v, b, bodies, water, air)
            fx += own_x
            fz += own_z * min(1.0, max(0.0, (s - laid) / GROUNDING_SPAN)) if laid > 0.0 else own_z
        xs[k + 1] = x
        zs[k + 1] = z
    return fx, fz


@jit
def _residual(
    q: float,
    v: float,
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    float_area: float,
    scale: float,
    xs: Vector,
    zs: Vector,
) -> tuple[float, float]:
    """Return (height of the top end off the surface, horizontal force left on the float), both made relative."""
    depth, us, _, _, rho, _ = water
    fx, _ = march(q, v, mesh, bodies, water, False, xs, zs)
    own = 0.5 * rho * float_area * abs(us - v) * (us - v)
    return (zs[len(zs) - 1] - depth) / depth, (fx - own) / scale


@jit
def _branch_height(
    v: float,
    from_above: bool,
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    length: float,
    float_area: float,
    scale: float,
    xs: Vector,
    zs: Vector,
) -> tuple[float, float, float]:
    """For a float held at speed v, find the height q at which the line ends at the surface; return (q, r1, r2).

    Where there is more than one, the highest (``from_above``) or the lowest: a scan brackets it, false position and
    bisection in turn close the bracket.
    """
    depth = water[0]
    deepest = -(GROUNDING_SPAN + length)
    a = depth if from_above else deepest
    ra, _ = _residual(a, v, mesh, bodies, water, float_area, scale, xs, zs)
    b, rb, r2 = a, ra, 0.0
    for k in range(SCAN + 3):
        if from_above:
            b = depth * (1.0 - (k + 1) / SCAN) if k < SCAN else deepest * (k - SCAN) / 2.0
        else:
            b = -0.5 * GROUNDING_SPAN if k == 0 else min(depth, 0.02 * depth * 1.7**k)
        rb, r2 = _residual(b, v, mesh, bodies, water, float_area, scale, xs, zs)
        if (rb > 0.0) != (ra > 0.0):
            break
        a, ra = b, rb
    q, r1, side = b, rb, 0
    for k in range(60):
        if abs(r1) < TOLERANCE or (ra > 0.0) == (rb > 0.0) or abs(b - a) < 1e-10:
            break
        q = 0.5 * (a + b) if k % 4 == 3 else (a * rb - b * ra) / (rb - ra)
        r1, r2 = _residual(q, v, mesh, bodies, water, float_area, scale, xs, zs)
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
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    float_area: float,
    scale: float,
    xs: Vector,
    zs: Vector,
) -> tuple[float, float, float]:
    """For a fly held at height q, find the highest or the lowest speed at which the line ends at the surface.

    Return (v, r1, r2); r1 is 1 where there is none.
    """
    us = water[1]
    a = us * (1.2 if fastest else 0.2)
    ra, _ = _residual(q, a, mesh, bodies, water, float_area, scale, xs, zs)
    b, rb, r2 = a, ra, 0.0
    for k in range(FOLD_SPEEDS):
        share = (k + 1) / FOLD_SPEEDS
        b = us * (1.2 - share if fastest else 0.2 + share)
        rb, r2 = _residual(q, b, mesh, bodies, water, float_area, scale, xs, zs)
        if (rb > 0.0) != (ra > 0.0):
            break
        a, ra = b, rb
    if (rb > 0.0) == (ra > 0.0):
        return b, 1.0, r2
    v, r1 = b, rb
    for _ in range(60):
        v = 0.5 * (a + b)
        r1, r2 = _residual(q, v, mesh, bodies, water, float_area, scale, xs, zs)
        if abs(r1) < TOLERANCE or abs(b - a) < 1e-12:
            break
        if (r1 > 0.0) == (ra > 0.0):
            a = v
        else:
            b = v
    return v, r1, r2


@jit
def _between_branches(
    mesh: Mesh, bodies: Bodies, water: Stream, float_area: float, scale: float, xs: Vector, zs: Vector
) -> tuple[float, float, float]:
    """Find (q, v, residual) between the branch that a fly meets from above and the one by the bed, where the speed no
    longer tells the height: here the height leads, down to a fly whose weight the bed takes, and the speed follows.
    """
    depth = water[0]
    best, q_best, v_best = 1e9, 0.0, water[1]
    for fastest in (False, True):
        hi, g_hi, known = 0.0, 0.0, False
        for k in range(2 * FOLD_HEIGHTS):
            if k < FOLD_HEIGHTS:
                lo = 0.95 * depth * (1.0 - k / FOLD_HEIGHTS) ** 2  # closer together by the bed
            else:
                lo = -GROUNDING_SPAN * (k - FOLD_HEIGHTS) / FOLD_HEIGHTS
            v, r1, g_lo = _speed_at_height(lo, fastest, mesh, bodies, water, float_area, scale, xs, zs)
            here = abs(r1) < SETTLED_WITHIN
            if known and here and (g_lo > 0.0) != (g_hi > 0.0):
                a, b = lo, hi
                for _ in range(60):
                    q = 0.5 * (a + b)
                    v, r1, r2 = _speed_at_height(q, fastest, mesh, bodies, water, float_area, scale, xs, zs)
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
def solve_float(
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    float_area: float,
    length: float,
    xs: Vector,
    zs: Vector,
    q: float,
    v: float,
    tolerance: float,
    patient: bool,
) -> tuple[float, float, float]:
    """Find (q, v) for a float: damped Broyden from a good start; two nested false positions where that fails.

    A start of one's own has a ``v`` above zero. Without ``patient`` the slow searches are left out.
    """
    depth, us, _, _, rho, _ = water
    b_weight = bodies[0]
    scale = max(0.5 * rho * float_area * us * us, 0.02 * b_weight[0], 1e-9)
    q_lo = -(GROUNDING_SPAN + length)
    q_hi = depth
    if v <= 0.0:
        q = min(max(depth - 0.96 * length, -0.5 * GROUNDING_SPAN), 0.95 * depth)
        v = 0.88 * us
    r1, r2 = _residual(q, v, mesh, bodies, water, float_area, scale, xs, zs)
    fresh = False
    a = b = c = d = 0.0
    for _ in range(30):
        if abs(r1) <= tolerance and abs(r2) <= tolerance:
            return q, v, max(abs(r1), abs(r2))
        was_fresh = fresh
        if not fresh:
            hq = 1e-4 * depth if q > 0.0 else -1e-2 * GROUNDING_SPAN
            hv = 1e-3 * us
            p1, p2 = _residual(q + hq, v, mesh, bodies, water, float_area, scale, xs, zs)
            s1, s2 = _residual(q, v + hv, mesh, bodies, water, float_area, scale, xs, zs)
            a, c = (p1 - r1) / hq, (p2 - r2) / hq
            b, d = (s1 - r1) / hv, (s2 - r2) / hv
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
            n1, n2 = _residual(q + tq, v + tv, mesh, bodies, water, float_area, scale, xs, zs)
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
    if not patient:
        return q, v, max(abs(r1), abs(r2))
    # Where current and line can balance at more than one height, first the branch that a fly meets from above is
    # followed over v; it may end in a fold, and then the answer lies on the branch by the bed.
    best, q_best, v_best = 1e9, q, v
    for from_above in (True, False):
        lo, hi = 0.0, 1.6 * us
        _, _, g_lo = _branch_height(lo, from_above, mesh, bodies, water, length, float_area, scale, xs, zs)
        _, _, g_hi = _branch_height(hi, from_above, mesh, bodies, water, length, float_area, scale, xs, zs)
        side = 0
        for k in range(60):
            if (g_lo > 0.0) == (g_hi > 0.0) or hi - lo < 1e-9:
                break
            v = 0.5 * (lo + hi) if k % 3 == 2 else (lo * g_hi - hi * g_lo) / (g_hi - g_lo)
            q, r1, r2 = _branch_height(v, from_above, mesh, bodies, water, length, float_area, scale, xs, zs)
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
        q, v, left = _between_branches(mesh, bodies, water, float_area, scale, xs, zs)
        if left < best:
            return q, v, left
    return q_best, v_best, best


@jit
def _spare(
    q: float, v: float, mesh: Mesh, bodies: Bodies, water: Stream, height: float, xs: Vector, zs: Vector
) -> float:
    """Return by how much the line's top end passes the rod tip, m: line to spare lets the fly sink further."""
    march(q, v, mesh, bodies, water, True, xs, zs)
    return zs[len(zs) - 1] - water[0] - height


@jit
def _close(
    lo: float,
    r_lo: float,
    hi: float,
    r_hi: float,
    v: float,
    height: float,
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    xs: Vector,
    zs: Vector,
    tolerance: float,
) -> tuple[float, float, bool]:
    """Close a bracket of heights between which the line just reaches the tip, by false position and bisection in turn."""
    depth = water[0]
    q, r, side = lo, r_lo, 0
    for k in range(80):
        if abs(r) < tolerance * depth or hi - lo < 1e-10:
            break
        q = 0.5 * (lo + hi) if k % 4 == 3 else (lo * r_hi - hi * r_lo) / (r_hi - r_lo)
        r = _spare(q, v, mesh, bodies, water, height, xs, zs)
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
def solve_tip(
    v: float,
    height: float,
    mesh: Mesh,
    bodies: Bodies,
    water: Stream,
    length: float,
    xs: Vector,
    zs: Vector,
    guess: float,
    tolerance: float,
) -> tuple[float, float, bool]:
    """Find q for a rod tip that travels at v.

    A strong current can hold a fly at more than one height. The fly comes from the surface, so the highest answer is
    the one it meets: a scan down brackets it, false position (Illinois) and bisection in turn close the bracket. A
    ``guess`` above zero, from water that differs little, is tried first.
    """
    depth = water[0]
    hi = depth
    if guess > 0.0:
        hi, lo = min(0.98 * depth, guess + GUESSED_WITHIN * depth), guess - GUESSED_WITHIN * depth
        r_hi = _spare(hi, v, mesh, bodies, water, height, xs, zs)
        r_lo = _spare(lo, v, mesh, bodies, water, height, xs, zs)
        if r_lo <= 0.0 < r_hi:
            return _close(lo, r_lo, hi, r_hi, v, height, mesh, bodies, water, xs, zs, tolerance)
        hi = depth
    r_hi = _spare(hi, v, mesh, bodies, water, height, xs, zs)
    if r_hi < 0.0:
        return hi, 0.0, True  # even with the fly at the surface the line is pulled too flat to reach it
    lo, r_lo = hi, r_hi
    for k in range(SCAN + 2):
        q = depth * (1.0 - (k + 1) / SCAN) if k < SCAN else -(GROUNDING_SPAN + length * (k - SCAN))
        r = _spare(q, v, mesh, bodies, water, height, xs, zs)
        if r <= 0.0:
            lo, r_lo = q, r
            break
        hi, r_hi = q, r
    if r_lo > 0.0:
        return hi, r_hi / depth, False
    return _close(lo, r_lo, hi, r_hi, v, height, mesh, bodies, water, xs, zs, tolerance)
