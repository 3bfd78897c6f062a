"""What the kernels of the drift take, by name: numba and plain Python both read named tuples."""

from typing import NamedTuple

from deriva.core._jit import Places, Vector


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
