"""The tank test: a fly dropped in still water, timed over a known depth, tells how much its dressing drags."""

import math
from dataclasses import replace

from deriva.core.drift.settling import body_drag
from deriva.core.errors import Impossible
from deriva.core.ranges import Range
from deriva.core.tackle.body import Body
from deriva.core.tackle.flies import FACTOR, Fly, fly_body
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity

TANK_DEPTH_M = Range(0.1, 3.0, "m", "a jar to a swimming pool")
TANK_TIME_S = Range(0.1, 60.0, "s", "shorter cannot be timed by thumb")

STEPS_A_SECOND = 400


def fall_time(body: Body, *, depth_m: float, temperature_c: float) -> float:
    """Return the seconds in which a body let go at rest sinks so far in still water (added mass of a sphere)."""
    rho, mu = density(temperature_c=temperature_c), dynamic_viscosity(temperature_c=temperature_c)
    weight = (body.mass_kg - rho * body.displaced_m3) * GRAVITY_M_S2
    if weight <= 0.0:
        raise Impossible("a fly lighter than the water it displaces does not sink", field="fly")
    moved = body.mass_kg + 0.5 * rho * body.displaced_m3
    dt, speed, sunk, t = 1.0 / STEPS_A_SECOND, 0.0, 0.0, 0.0
    while sunk < depth_m:
        drag = body_drag(
            max(speed, 1e-9), rho, mu, body.diameter_m, body.dressing_area_m2, body.dressing_diameter_m
        )
        # drag taken implicitly: a light fly reaches its speed within a step
        after = (speed + dt * weight / moved) / (1.0 + dt * drag / (moved * max(speed, 1e-9)))
        sunk += 0.5 * (speed + after) * dt
        speed, t = after, t + dt
    return t - (sunk - depth_m) / max(speed, 1e-9)


def tank_factor(fly: Fly, *, depth_m: float, time_s: float, temperature_c: float) -> float:
    """Return the drag factor that takes the place of the fly's dressing class, from a timed fall.

    Raises Impossible, saying which times would be possible, for a fall that no dressing makes.
    """
    TANK_DEPTH_M.check("depth_m", depth_m)
    TANK_TIME_S.check("time_s", time_s)

    def takes(factor: float) -> float:
        body = fly_body(replace(fly, drag_factor=factor), along_m=1.0)
        return fall_time(body, depth_m=depth_m, temperature_c=temperature_c)

    lo, hi = FACTOR.lo, FACTOR.hi
    quickest, slowest = takes(lo), takes(hi)
    if not quickest <= time_s <= slowest:
        raise Impossible(
            f"time_s = {time_s:g}: this fly takes between {quickest:.2f} and {slowest:.1f} s over {depth_m:g} m, "
            "however it is dressed; time it again, or look at its bead",
            field="time_s",
        )
    for _ in range(50):
        middle = math.sqrt(lo * hi)
        lo, hi = (middle, hi) if takes(middle) < time_s else (lo, middle)
    return math.sqrt(lo * hi)
