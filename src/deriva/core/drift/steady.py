"""Steady drift: the shape that a rig settles into, and the speed at which it then travels.

The frame moves with the top end at speed V. From the lowest body up, with arc length s and tension vector F,

    dx/ds = F_x/|F|,  dz/ds = F_z/|F|,  dF/ds = −(drag per length) + (0, weight per length),

starting from F = (−drag on the body, its submerged weight) and adding each further body where it sits. A float
leaves two unknowns, the height of the lowest body and V, fixed by the top ending at the surface and by the float's
own drag holding the line's pull. A rod tip prescribes V and leaves one. Where the line is longer than the water is
deep, the unknown goes on below zero: first the bed takes up the lowest body's weight, then line lies along it.

Standard library only: the same code runs compiled on the server and as plain Python on the phone.
"""

import math
from dataclasses import dataclass

from deriva.core._jit import Vector, int_vector, jit, vector
from deriva.core.drift.drag import TANGENTIAL_COEFFICIENT, cylinder_cd_at
from deriva.core.drift.scenario import Body, Scenario
from deriva.core.drift.settling import body_drag, settling_velocity
from deriva.core.errors import NotConverged
from deriva.core.water.profile import PROFILE_CODE, speed_at
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity

Mesh = tuple[Vector, Vector, Vector, Vector, list[int]]
"""Pieces from the lowest body up: length, diameter, weight per length in water and in air, and the body at the upper
end of each (-1 for none)."""

Bodies = tuple[Vector, Vector, Vector, Vector]
"""From the lowest up: submerged weight N, diameter m, drag area of the dressing m², its diameter m."""

Column = tuple[float, float, int, float, float, float]
"""Depth m, surface speed m/s, profile code, z0 m, density kg/m³, viscosity Pa·s."""

PIECES = 28
"""Midpoint steps along the line; agrees with the converged reference to 0.2 % in depth."""

GROUNDING_SPAN = 0.05
"""Length, m, over which the unknown below zero hands the lowest body's weight to the bed, and within which the line
lifting off the bed takes up a further body's weight (a parametrisation, not physics)."""

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
def _march(
    q: float, v: float, mesh: Mesh, bodies: Bodies, water: Column, air: bool, xs: Vector, zs: Vector
) -> tuple[float, float]:
    """Integrate from the lowest body to the top end for unknowns (q, v); fill the shape and return (fx, fz)."""
    ds, dia, w_sub, w_air, body_at = mesh
    b_weight, b_dia, b_dress, b_dress_dia = bodies
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
            u = speed_at(max(z, 0.5 * b_dia[b]), depth, us, profile, z0) - v
            fx -= body_drag(u, rho, mu, b_dia[b], b_dress[b], b_dress_dia[b])
            fz += b_weight[b] * min(1.0, max(0.0, (s - laid) / GROUNDING_SPAN)) if laid > 0.0 else b_weight[b]
        xs[k + 1] = x
        zs[k + 1] = z
    return fx, fz


@jit
def _residual(
    q: float,
    v: float,
    mesh: Mesh,
    bodies: Bodies,
    water: Column,
    float_area: float,
    scale: float,
    xs: Vector,
    zs: Vector,
) -> tuple[float, float]:
    """Return (height of the top end off the surface, horizontal force left on the float), both made relative."""
    depth, us, _, _, rho, _ = water
    fx, _ = _march(q, v, mesh, bodies, water, False, xs, zs)
    own = 0.5 * rho * float_area * abs(us - v) * (us - v)
    return (zs[len(zs) - 1] - depth) / depth, (fx - own) / scale


@jit
def _branch_height(
    v: float,
    from_above: bool,
    mesh: Mesh,
    bodies: Bodies,
    water: Column,
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
    water: Column,
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
    mesh: Mesh, bodies: Bodies, water: Column, float_area: float, scale: float, xs: Vector, zs: Vector
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
def _solve_float(
    mesh: Mesh, bodies: Bodies, water: Column, float_area: float, length: float, xs: Vector, zs: Vector
) -> tuple[float, float, float]:
    """Find (q, v) for a float: damped Broyden from a good start; two nested false positions where that fails."""
    depth, us, _, _, rho, _ = water
    b_weight = bodies[0]
    scale = max(0.5 * rho * float_area * us * us, 0.02 * b_weight[0], 1e-9)
    q_lo = -(GROUNDING_SPAN + length)
    q_hi = depth
    q = min(max(depth - 0.96 * length, -0.5 * GROUNDING_SPAN), 0.95 * depth)
    v = 0.88 * us
    r1, r2 = _residual(q, v, mesh, bodies, water, float_area, scale, xs, zs)
    fresh = False
    a = b = c = d = 0.0
    for _ in range(30):
        if abs(r1) <= TOLERANCE and abs(r2) <= TOLERANCE:
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
    q: float, v: float, mesh: Mesh, bodies: Bodies, water: Column, height: float, xs: Vector, zs: Vector
) -> float:
    """Return by how much the line's top end passes the rod tip, m: line to spare lets the fly sink further."""
    _march(q, v, mesh, bodies, water, True, xs, zs)
    return zs[len(zs) - 1] - water[0] - height


@jit
def _solve_tip(
    v: float, height: float, mesh: Mesh, bodies: Bodies, water: Column, length: float, xs: Vector, zs: Vector
) -> tuple[float, float, bool]:
    """Find q for a rod tip that travels at v.

    A strong current can hold a fly at more than one height. The fly comes from the surface, so the highest answer is
    the one it meets: a scan down brackets it, false position (Illinois) and bisection in turn close the bracket.
    """
    depth = water[0]
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
    q, r, side = lo, r_lo, 0
    for k in range(80):
        if abs(r) < TOLERANCE * depth or hi - lo < 1e-10:
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


@dataclass(frozen=True, slots=True)
class SteadyDrift:
    """A settled rig. Bodies in the order of the scenario; the shape runs from the top end down.

    ``body_speed_ratio`` is each body's speed over the current's at its own depth (inf where the water stands);
    ``offset_m`` is the lowest body's distance upstream of the top end, ``entry_offset_m`` that of the point where a
    rod tip's line enters the water (0 for a float: it enters there); ``lifted`` says that a rod tip pulls the
    fly to the surface; ``sinking_speed_m_s`` is given for a free rig, which settles on the bed.
    """

    body_depth_m: tuple[float, ...]
    body_x_m: tuple[float, ...]
    top_speed_ratio: float
    body_speed_ratio: tuple[float, ...]
    offset_m: float
    entry_offset_m: float
    tension_n: float
    top_angle_deg: float
    grounded: bool
    lifted: bool
    shape_x_m: tuple[float, ...]
    shape_height_m: tuple[float, ...]
    sinking_speed_m_s: float | None = None


@dataclass(frozen=True, slots=True)
class _Problem:
    """A scenario as the kernels take it."""

    mesh: Mesh
    bodies: Bodies
    water: Column
    order: tuple[int, ...]
    node_of_body: tuple[int, ...]


def _pose(scenario: Scenario, pieces: int) -> _Problem:
    """Lay out the pieces from the lowest body up, with a node at every body and at every change of line."""
    water = scenario.water
    rho = density(temperature_c=water.temperature_c)
    mu = dynamic_viscosity(temperature_c=water.temperature_c)
    length = scenario.line_length_m
    order = sorted(range(len(scenario.bodies)), key=lambda i: -scenario.bodies[i].along_m)
    ds: list[float] = []
    dia: list[float] = []
    w_sub: list[float] = []
    w_air: list[float] = []
    body_at: list[int] = []
    node_of_body = [0] * len(order)

    spans: list[
        tuple[float, float, float, float]
    ] = []  # (upper end, lower end, diameter, density), along the line
    upper = 0.0
    for section in scenario.line:
        spans.append((upper, upper + section.length_m, section.diameter_m, section.density_kg_m3))
        upper += section.length_m
    cuts = sorted({length, *(s[0] for s in spans), *(b.along_m for b in scenario.bodies)}, reverse=True)
    at = 1  # bodies[0] of the kernel is the start of the march
    for k in range(len(cuts) - 1):
        top, bottom = cuts[k + 1], cuts[k]
        middle = 0.5 * (top + bottom)
        _, _, diameter, material = next(s for s in reversed(spans) if s[0] <= middle)
        area = math.pi * diameter * diameter / 4.0
        count = max(2, round(pieces * (bottom - top) / length))
        for _ in range(count):
            ds.append((bottom - top) / count)
            dia.append(diameter)
            w_sub.append((material - rho) * area * GRAVITY_M_S2)
            w_air.append(material * area * GRAVITY_M_S2)
            body_at.append(-1)
        while at < len(order) and scenario.bodies[order[at]].along_m >= top - 1e-9:
            if body_at[-1] >= 0:  # two bodies in one place: a piece of no length between them
                ds.append(0.0)
                dia.append(diameter)
                w_sub.append(0.0)
                w_air.append(0.0)
                body_at.append(-1)
            body_at[-1] = at
            node_of_body[at] = len(ds)
            at += 1
    sunk = [scenario.bodies[i] for i in order]
    return _Problem(
        mesh=(vector(ds), vector(dia), vector(w_sub), vector(w_air), int_vector(body_at)),
        bodies=(
            vector((b.mass_kg - rho * b.displaced_m3) * GRAVITY_M_S2 for b in sunk),
            vector(b.diameter_m for b in sunk),
            vector(b.dressing_area_m2 for b in sunk),
            vector(b.dressing_diameter_m for b in sunk),
        ),
        water=(
            water.depth_m,
            water.surface_speed_m_s,
            PROFILE_CODE[water.profile],
            water.bed_ks_m / 30.0,
            rho,
            mu,
        ),
        order=tuple(order),
        node_of_body=tuple(node_of_body),
    )


def _free(scenario: Scenario) -> SteadyDrift:
    """A rig that nothing holds sinks until it lies on the bed and stays with the water there."""
    depth = scenario.water.depth_m
    count = len(scenario.bodies)
    lowest: Body = max(scenario.bodies, key=lambda body: body.along_m)
    return SteadyDrift(
        body_depth_m=(depth,) * count,
        body_x_m=(0.0,) * count,
        top_speed_ratio=0.0,
        body_speed_ratio=(0.0,) * count,
        offset_m=0.0,
        entry_offset_m=0.0,
        tension_n=0.0,
        top_angle_deg=0.0,
        grounded=True,
        lifted=False,
        shape_x_m=(0.0,),
        shape_height_m=(0.0,),
        sinking_speed_m_s=settling_velocity(body=lowest, temperature_c=scenario.water.temperature_c),
    )


def _entry_x(xs: Vector, zs: Vector, depth: float) -> float:
    """Return where the line crosses the surface, between the two nodes about it."""
    for k in range(len(zs) - 1):
        if zs[k + 1] >= depth > zs[k]:
            return float(xs[k] + (xs[k + 1] - xs[k]) * (depth - zs[k]) / (zs[k + 1] - zs[k]))
    return float(xs[0])


def steady_drift(scenario: Scenario, *, pieces: int = PIECES) -> SteadyDrift:
    """Solve the steady drift of a rig (equations in the module's docstring).

    Raises :class:`NotConverged`, naming the residual, where no settled drift was found.
    """
    if scenario.top.kind == "free":
        return _free(scenario)
    problem = _pose(scenario, pieces)
    water = scenario.water
    length = scenario.line_length_m
    nodes = len(problem.mesh[0]) + 1
    xs, zs = vector([0.0] * nodes), vector([0.0] * nodes)
    is_tip = scenario.top.kind == "tip"
    lifted = False
    if is_tip:
        v = scenario.top.speed_m_s
        q, residual, lifted = _solve_tip(
            v, scenario.top.height_m, problem.mesh, problem.bodies, problem.water, length, xs, zs
        )
    else:
        q, v, residual = _solve_float(
            problem.mesh, problem.bodies, problem.water, scenario.top.drag_area_m2, length, xs, zs
        )
    if not residual < (SETTLED_WITHIN if q >= 0.0 else LIES_WITHIN):
        raise NotConverged(
            f"the steady drift did not settle: residual {residual:.2g} of the depth or float drag"
        )
    fx, fz = _march(q, v, problem.mesh, problem.bodies, problem.water, is_tip, xs, zs)
    grounded = bool(q < 0.0)

    count = len(scenario.bodies)
    depths, across, ratios = [0.0] * count, [0.0] * count, [0.0] * count
    x_top = float(xs[nodes - 1])
    for rank, index in enumerate(problem.order):
        node = problem.node_of_body[rank]
        z = float(zs[node])
        depths[index] = max(0.0, water.depth_m - z)
        across[index] = float(xs[node]) - x_top
        u = speed_at(z, water.depth_m, water.surface_speed_m_s, problem.water[2], problem.water[3])
        ratios[index] = float(v / u) if u > 1e-6 else math.inf
    if grounded:
        depths[problem.order[0]] = water.depth_m
    return SteadyDrift(
        body_depth_m=tuple(depths),
        body_x_m=tuple(across),
        top_speed_ratio=float(v) / water.surface_speed_m_s,
        body_speed_ratio=tuple(ratios),
        offset_m=-across[problem.order[0]],
        entry_offset_m=x_top - _entry_x(xs, zs, water.depth_m) if is_tip else 0.0,
        tension_n=math.hypot(fx, fz),
        top_angle_deg=math.degrees(math.atan2(fx, fz)),
        grounded=grounded,
        lifted=bool(lifted),
        shape_x_m=tuple(float(x) - x_top for x in reversed(xs)),
        shape_height_m=tuple(float(z) for z in reversed(zs)),
    )
