"""Free fall: the speed at which a body sinks in still water."""

import math

from deriva.core._jit import jit
from deriva.core.drift.drag import cylinder_cd_at, sphere_cd_at
from deriva.core.errors import Impossible
from deriva.core.tackle.body import Body
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity


@jit
def body_drag(
    speed: float, rho: float, mu: float, diameter: float, dressing_area: float, dressing_diameter: float
) -> float:
    """Kernel: drag on a fly, N, signed like ``speed`` (m/s): bead as a sphere plus dressing as a cylinder."""
    v = abs(speed)
    force = sphere_cd_at(rho * v * diameter / mu) * math.pi * diameter * diameter / 4.0
    if dressing_area > 0.0:
        force += cylinder_cd_at(rho * v * dressing_diameter / mu) * dressing_area
    return 0.5 * rho * v * speed * force


def settling_velocity(*, body: Body, temperature_c: float) -> float:
    """Return the terminal velocity, m/s (down), of a body in still water; raises Impossible for one that floats."""
    rho = density(temperature_c=temperature_c)
    mu = dynamic_viscosity(temperature_c=temperature_c)
    weight = (body.mass_kg - rho * body.displaced_m3) * GRAVITY_M_S2
    if weight <= 0.0:
        raise Impossible("a body lighter than the water it displaces does not sink", field="mass_g")
    lo, hi = 0.0, 20.0
    for _ in range(60):
        mid = 0.5 * (lo + hi)
        drag = body_drag(mid, rho, mu, body.diameter_m, body.dressing_area_m2, body.dressing_diameter_m)
        lo, hi = (mid, hi) if drag < weight else (lo, mid)
    return 0.5 * (lo + hi)
