"""Steady drift: the shape that a rig settles into, and the speed at which it then travels.

The frame moves with the top end at speed V. From the lowest body up, with arc length s and tension vector F,

    dx/ds = F_x/|F|,  dz/ds = F_z/|F|,  dF/ds = −(drag per length) + (0, weight per length),

starting from F = (−drag on the body, its submerged weight) and adding each further body where it sits, or what its tag
pulls with where that is tied in. A float leaves two unknowns, the height of the lowest body and V, fixed by the top ending
at the surface and by the float's own drag holding the line's pull. A rod tip prescribes V and leaves one. Where the line is
longer than the water is deep, the unknown goes on below zero: first the bed takes up the lowest body's weight, then line
lies along it.

Standard library only: the same code runs compiled on the server and as plain Python on the phone.
"""

import math
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate

from deriva.core._jit import int_vector, numbers, vector
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.search import (
    LIES_WITHIN,
    SETTLED_WITHIN,
    UNKNOWN,
    Near,
    settle_from_tip,
    settle_under_float,
)
from deriva.core.drift.settling import settling_velocity
from deriva.core.drift.structures import Bodies, Mesh, Shape, Stream, stream_of, sunk
from deriva.core.errors import NotConverged
from deriva.core.tackle.body import Body
from deriva.core.water.profile import speed_at
from deriva.core.water.properties import GRAVITY_M_S2

PIECES = 28
"""Midpoint steps along the line; agrees with the converged reference to 0.2 % in depth."""


@dataclass(frozen=True, slots=True)
class SteadyDrift:
    """A settled rig. Bodies in the order of the scenario; the shape runs from the top end down.

    ``body_knot`` is the point of the shape at which each body, or its tag, is tied in. ``body_speed_ratio`` is each body's
    speed over the current's at its own depth (inf where the water stands); ``offset_m`` is the lowest body's distance
    upstream of the top end, ``entry_offset_m`` that of the point where a rod tip's line enters the water (0 for a float: it
    enters there); ``lifted`` says that a rod tip pulls the fly to the surface; ``sinking_speed_m_s`` is given for a free
    rig, which settles on the bed.
    """

    body_depth_m: tuple[float, ...]
    body_x_m: tuple[float, ...]
    body_knot: tuple[int, ...]
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
    water: Stream
    order: tuple[int, ...]
    node_of_body: tuple[int, ...]


def _pose(scenario: Scenario, pieces: int) -> _Problem:
    """Lay out the pieces from the lowest body up, with a node at every body and at every change of line."""
    water = scenario.water
    stream = stream_of(water)
    rho = stream.rho
    length = scenario.line_length_m
    bodies, order = sunk(scenario.bodies, rho)
    ds: list[float] = []
    dia: list[float] = []
    w_sub: list[float] = []
    w_air: list[float] = []
    body_at: list[int] = []
    node_of_body = [0] * len(order)

    starts = [0.0, *accumulate(section.length_m for section in scenario.line[:-1])]
    cuts = sorted({length, *starts, *(b.along_m for b in scenario.bodies)}, reverse=True)
    at = 1  # bodies[0] of the kernel is where the climb starts
    for k in range(len(cuts) - 1):
        top, bottom = cuts[k + 1], cuts[k]
        middle = 0.5 * (top + bottom)
        section = scenario.line[bisect_right(starts, middle) - 1]
        diameter, material = section.diameter_m, section.density_kg_m3
        area = math.pi * diameter * diameter / 4.0
        count = max(2, round(pieces * (bottom - top) / length))
        ds += [(bottom - top) / count] * count
        dia += [diameter] * count
        w_sub += [(material - rho) * area * GRAVITY_M_S2] * count
        w_air += [material * area * GRAVITY_M_S2] * count
        body_at += [-1] * count
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
    return _Problem(
        mesh=Mesh(vector(ds), vector(dia), vector(w_sub), vector(w_air), int_vector(body_at)),
        bodies=bodies,
        water=stream,
        order=order,
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
        body_knot=(0,) * count,
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


def _entry_x(xs: Sequence[float], zs: Sequence[float], depth: float) -> float:
    """Return where the line crosses the surface, between the two nodes about it."""
    for k in range(len(zs) - 1):
        if zs[k + 1] >= depth > zs[k]:
            return float(xs[k] + (xs[k + 1] - xs[k]) * (depth - zs[k]) / (zs[k + 1] - zs[k]))
    return float(xs[0])


def steady_drift(scenario: Scenario, *, pieces: int = PIECES, near: Near = UNKNOWN) -> SteadyDrift:
    """Solve the steady drift of a rig (equations in the module's docstring); sooner where it is known to hang ``near``.

    Raises :class:`NotConverged`, naming the residual, where no settled drift was found.
    """
    if scenario.top.kind == "free":
        return _free(scenario)
    problem = _pose(scenario, pieces)
    water = scenario.water
    length = scenario.line_length_m
    nodes = len(problem.mesh.length) + 1
    shape = Shape(vector([0.0] * nodes), vector([0.0] * nodes))
    count = len(scenario.bodies)
    hung = Shape(vector([0.0] * count), vector([0.0] * count))
    is_tip = scenario.top.kind == "tip"
    lifted = False
    if is_tip:
        v = scenario.top.speed_m_s
        q, residual, lifted, fx, fz = settle_from_tip(
            near, v, scenario.top.height_m, problem.mesh, problem.bodies, problem.water, length, shape, hung
        )
    else:
        area = scenario.top.drag_area_m2
        q, v, residual, fx, fz = settle_under_float(
            near, problem.mesh, problem.bodies, problem.water, area, length, shape, hung
        )
    if not residual < (SETTLED_WITHIN if q >= 0.0 else LIES_WITHIN):
        raise NotConverged(
            f"the steady drift did not settle: residual {residual:.2g} of the depth or float drag"
        )
    grounded = bool(q < 0.0)
    xs, zs = numbers(shape.x), numbers(shape.z)
    x_top = xs[-1]
    depths, across, ratios, knots = [0.0] * count, [0.0] * count, [0.0] * count, [0] * count
    hung_x, hung_z = numbers(hung.x), numbers(hung.z)
    for rank, index in enumerate(problem.order):
        z = hung_z[rank]
        knots[index] = nodes - 1 - problem.node_of_body[rank]
        depths[index] = max(0.0, water.depth_m - z)
        across[index] = hung_x[rank] - x_top
        u = speed_at(z, water.depth_m, water.surface_speed_m_s, problem.water.profile, problem.water.z0)
        ratios[index] = float(v / u) if u > 1e-6 else math.inf
    if grounded:
        depths[problem.order[0]] = water.depth_m
    return SteadyDrift(
        body_depth_m=tuple(depths),
        body_x_m=tuple(across),
        body_knot=tuple(knots),
        top_speed_ratio=float(v) / water.surface_speed_m_s,
        body_speed_ratio=tuple(ratios),
        offset_m=-across[problem.order[0]],
        entry_offset_m=x_top - _entry_x(xs, zs, water.depth_m) if is_tip else 0.0,
        tension_n=math.hypot(fx, fz),
        top_angle_deg=math.degrees(math.atan2(fx, fz)),
        grounded=grounded,
        lifted=bool(lifted),
        shape_x_m=tuple(x - x_top for x in reversed(xs)),
        shape_height_m=tuple(reversed(zs)),
    )
