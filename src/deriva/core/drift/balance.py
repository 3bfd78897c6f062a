"""The balance of a rig in its frame: climbing up the line from the lowest body, piece by piece.

Kernels of :mod:`deriva.core.drift.steady`, which has the equations; :mod:`deriva.core.drift.search` finds the unknowns that
make the line end where it must. Scalar, standard library only.
"""

import math

from deriva.core._jit import jit, jit_inline
from deriva.core.drift.drag import TANGENTIAL_COEFFICIENT, cylinder_cd_at
from deriva.core.drift.settling import body_drag
from deriva.core.drift.structures import Bodies, Mesh, Shape, Stream
from deriva.core.water.profile import speed_at

GROUNDING_SPAN = 0.05
"""Length, m, over which the unknown below zero hands the lowest body's weight to the bed, and within which the line
lifting off the bed takes up a further body's weight (a parametrisation, not physics)."""

TAG_SWEEPS = 4
"""Repetitions that find how a tag hangs: it turns the fly's height, and so its drag, by little."""

SPLASH_M = 0.03
"""Depth over which a fly that is lifted out on its tag loses its drag, m (it breaks a jump, no physics)."""


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
    depth, us, profile, z0, rho, mu = water
    diameter, dressing, dressed = bodies.diameter[b], bodies.dressing[b], bodies.dressing_diameter[b]
    radius, length = 0.5 * diameter, bodies.tag[b]
    if length <= 0.0:
        u = speed_at(max(z, radius), depth, us, profile, z0) - v
        return -body_drag(u, rho, mu, diameter, dressing, dressed), bodies.weight[b], x, z
    tx, tz = 0.0, 1.0
    fx = fz = low = 0.0
    for _ in range(TAG_SWEEPS):
        low = max(radius, z - length * tz)
        wet = min(1.0, max(0.0, (depth - low) / SPLASH_M)) if air else 1.0
        u = speed_at(low, depth, us, profile, z0) - v
        fx, fz = -wet * body_drag(u, rho, mu, diameter, dressing, dressed), bodies.weight[b]
        wet = min(wet, (depth - low) / max(z - low, 1e-9)) if air and z > depth else wet
        u = speed_at(0.5 * (z + low), depth, us, profile, z0) - v
        gx, gz = line_drag(u, 0.0, tx, tz, bodies.tag_diameter[b], rho, mu)
        gx, gz = max(0.0, wet) * gx, max(0.0, wet) * gz
        mx = fx - 0.5 * length * gx
        mz = fz + 0.5 * length * (bodies.tag_weight[b] - gz)
        size = math.sqrt(mx * mx + mz * mz) + 1e-30
        tx, tz = mx / size, mz / size
        fx -= length * gx
        fz += length * (bodies.tag_weight[b] - gz)
    return fx, fz, x - length * tx, max(radius, z - length * tz)


@jit_inline
def _piece(
    x: float,
    z: float,
    fx: float,
    fz: float,
    gx: float,
    gz: float,
    step: float,
    diameter: float,
    in_water: float,
    in_air: float,
    v: float,
    water: Stream,
    air: bool,
) -> tuple[float, float, float, float, float, float]:
    """Kernel: climb along one piece for ``step`` metres, by midpoint steps; return (x, z, fx, fz) and the drag (gx, gz) per
    length at its middle. As far as the middle the drag last found is reckoned with: as near for half the evaluations.

    Under a rod tip a piece ends at the surface, where drag stops, and what is left of it goes on in the air.
    """
    depth, us, profile, z0, rho, mu = water
    while step > 0.0:
        wet = not air or z < depth
        weight = in_water
        if not wet:
            gx, gz, weight = 0.0, 0.0, in_air
        h, tx, tz = step, 0.0, 1.0
        crosses = False
        for _ in range(3):
            mx = fx - 0.5 * h * gx
            mz = fz + 0.5 * h * (weight - gz)
            size = math.sqrt(mx * mx + mz * mz) + 1e-30
            tx, tz = mx / size, mz / size
            if not (air and wet) or (not crosses and z + h * tz <= depth):
                break
            crosses = True
            h = min(step, (depth - z) / max(tz, 1e-6))
        if wet:
            z_mid = z + 0.5 * h * tz
            gx, gz = line_drag(speed_at(z_mid, depth, us, profile, z0) - v, 0.0, tx, tz, diameter, rho, mu)
        fx -= h * gx
        fz += h * (weight - gz)
        x += h * tx
        z = depth if crosses and h < step else z + h * tz
        step -= h
    return x, z, fx, fz, gx, gz


@jit
def _drag_here(
    z: float, fx: float, fz: float, diameter: float, v: float, water: Stream
) -> tuple[float, float]:
    """Kernel: drag per length of line that runs along its tension (fx, fz), N/m."""
    depth, us, profile, z0, rho, mu = water
    size = math.sqrt(fx * fx + fz * fz) + 1e-30
    return line_drag(speed_at(z, depth, us, profile, z0) - v, 0.0, fx / size, fz / size, diameter, rho, mu)


@jit
def climb(
    q: float, v: float, mesh: Mesh, bodies: Bodies, water: Stream, air: bool, shape: Shape
) -> tuple[float, float]:
    """Kernel: integrate from the lowest body to the top end for unknowns (q, v); fill the shape and return (fx, fz).

    Above zero ``q`` is how high the lowest body hangs. Below, the bed first takes up its weight, then line lies along it.
    """
    # taken out of their structures once: a compiled loop counts every reference that it makes
    ds, line_dia, in_water, in_air, body_at = mesh
    xs, zs = shape
    depth, us, profile, z0, rho, mu = water
    z = 0.5 * bodies.diameter[0] + max(q, 0.0)
    x = s = 0.0
    laid = lying = max(0.0, -q - GROUNDING_SPAN)
    u = speed_at(z, depth, us, profile, z0) - v
    fx = -body_drag(u, rho, mu, bodies.diameter[0], bodies.dressing[0], bodies.dressing_diameter[0])
    fz = bodies.weight[0] * (1.0 - min(1.0, max(0.0, -q / GROUNDING_SPAN)))
    gx, gz = _drag_here(z, fx, fz, line_dia[0], v, water)
    xs[0] = x
    zs[0] = z
    for k in range(len(ds)):
        step = ds[k]
        s += step
        if lying > 0.0:
            flat = min(lying, step)
            lying -= flat
            step -= flat
            along = 1.0 if fx >= 0.0 else -1.0
            u = speed_at(z, depth, us, profile, z0) - v
            flat_x, _ = line_drag(u, 0.0, along, 0.0, line_dia[k], rho, mu)
            fx -= flat_x * flat
            x += along * flat
        x, z, fx, fz, gx, gz = _piece(
            x, z, fx, fz, gx, gz, step, line_dia[k], in_water[k], in_air[k], v, water, air
        )
        b = body_at[k]
        if b > 0:
            own_x, own_z, _, _ = hang(x, z, v, b, bodies, water, air)
            fx += own_x
            fz += own_z * min(1.0, max(0.0, (s - laid) / GROUNDING_SPAN)) if laid > 0.0 else own_z
            gx, gz = _drag_here(z, fx, fz, line_dia[k], v, water)
        xs[k + 1] = x
        zs[k + 1] = z
    return fx, fz
