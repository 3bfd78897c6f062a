"""What the kernels of the drift take, by name: numba and plain Python both read named tuples."""

import math
from collections.abc import Sequence
from typing import NamedTuple

from deriva.core._jit import Places, Vector, vector
from deriva.core.model.column import Column
from deriva.core.tackle.body import Body
from deriva.core.water.profile import PROFILE_CODE, z0_of
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity


class Stream(NamedTuple):
    """A column of water: depth m, surface speed m/s, profile code, z0 m, density kg/m³, viscosity Pa·s."""

    depth: float
    speed: float
    profile: int
    z0: float
    rho: float
    mu: float


class Mesh(NamedTuple):
    """Pieces of line from the lowest body up: length and diameter m, weight per length N/m in water and in air, and the body at
    the upper end of each (-1 for none).
    """

    length: Vector
    diameter: Vector
    in_water: Vector
    in_air: Vector
    body: Places


class Bodies(NamedTuple):
    """Bodies from the lowest up: submerged weight N, diameter m, drag area of the dressing m², its diameter m; then the tag's
    length m (0: the body sits on the line), diameter m and submerged weight N/m.
    """

    weight: Vector
    diameter: Vector
    dressing: Vector
    dressing_diameter: Vector
    tag: Vector
    tag_diameter: Vector
    tag_weight: Vector


class Shape(NamedTuple):
    """Where the nodes of the line lie, from the lowest body up: across and above the bed, m. Kernels fill it."""

    x: Vector
    z: Vector


def stream_of(water: Column) -> Stream:
    """Return a column as the kernels take it."""
    return Stream(
        water.depth_m,
        water.surface_speed_m_s,
        PROFILE_CODE[water.profile],
        z0_of(water.bed_ks_m),
        density(temperature_c=water.temperature_c),
        dynamic_viscosity(temperature_c=water.temperature_c),
    )


def level_weight(*, diameter_m: float, density_kg_m3: float, in_kg_m3: float = 0.0) -> float:
    """Return the weight of level line, N/m, in something of a density; in air by default."""
    return (density_kg_m3 - in_kg_m3) * math.pi * diameter_m**2 / 4.0 * GRAVITY_M_S2


def sunk(bodies: Sequence[Body], rho: float) -> tuple[Bodies, tuple[int, ...]]:
    """Return bodies in water of a density as the kernels take them, from the lowest up, and where each stood."""
    order = sorted(range(len(bodies)), key=lambda i: -bodies[i].along_m)
    upwards = [bodies[i] for i in order]
    return Bodies(
        vector((b.mass_kg - rho * b.displaced_m3) * GRAVITY_M_S2 for b in upwards),
        vector(b.diameter_m for b in upwards),
        vector(b.dressing_area_m2 for b in upwards),
        vector(b.dressing_diameter_m for b in upwards),
        vector(b.tag_m for b in upwards),
        vector(b.tag_diameter_m for b in upwards),
        vector(
            level_weight(diameter_m=b.tag_diameter_m, density_kg_m3=b.tag_density_kg_m3, in_kg_m3=rho)
            for b in upwards
        ),
    ), tuple(order)
