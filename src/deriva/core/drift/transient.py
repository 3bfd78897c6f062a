"""Transient drift: a rig from the moment its flies land.

The rig is laid out as nodes and segments, marched through time (`march`), and read off as frames and times to sink.
Needs numpy; it runs on the server.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np

from deriva.core.drift.march import (
    FLOAT,
    FREE,
    TIP,
    Array,
    Hand,
    Nodes,
    Pair,
    Record,
    Segments,
    TopEnd,
    Weights,
    march,
)  # fmt: skip
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.steady import SteadyDrift, steady_drift
from deriva.core.drift.structures import Stream
from deriva.core.errors import NotConverged
from deriva.core.ranges import DURATION_S
from deriva.core.water.profile import PROFILE_CODE, z0_of
from deriva.core.water.properties import density, dynamic_viscosity

SEGMENTS = 20
STEP_S = 0.04 / 3
"""Resolution: times to sink within 3 % of a converged solver on every reference case, the end within 0.3 % of the steady
drift, halving the step changes the time to 80 % of the depth by 0.6 % at most."""

SHORTEST_STEP_S = 0.0002
STRETCH_ALLOWED = 0.001
"""A run whose segments lengthen by more than this is repeated with half the step."""

FRAME_S = 0.04
"""Time between recorded frames: 25 a second, what the eye needs to see a drift at real speed."""

Entry = Literal["straight", "tuck", "heap", "lead"]
"""How the cast lands: line straight, flies upstream of the top end; flies first, driven in, their line in a heap above
them; line in a loose heap; line straight, flies downstream of the top end, leading it."""

ENTRY_SPREAD: dict[Entry, float] = {"straight": 1.0, "tuck": 0.1, "heap": 0.4}
"""How far the flies land upstream of the top end, as a share of the line between (common practice, no source)."""

TUCK_M_S = 1.5
"""Speed at which a tuck drives the flies through the surface (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class TipPhase:
    """What a hand does with the rod tip until a time: its speed downstream and its lift, m/s."""

    until_s: float
    speed_m_s: float
    lift_m_s: float = 0.0


@dataclass(frozen=True, slots=True)
class TransientDrift:
    """A drift over time: frames of ``t_s`` (T), bodies (T, B) in the order of the scenario, line nodes (T, N) that
    sit ``along_m`` (N) from the top end, the bodies or their tags being tied in at ``body_knots`` (B).

    ``x`` runs downstream from where the top end started. ``t50_s`` and its kin are the first times at which the
    lowest body has sunk to that share of its steady depth, None where it has not within the run. ``touch_s`` is each
    body's first contact with the bed. ``pull_n`` (T, 2) is the line's pull on the top end, downstream and down, its mean
    since the frame before. ``stretch`` is the largest relative lengthening of any segment (a check).
    """

    t_s: Array
    top_x_m: Array
    body_x_m: Array
    body_depth_m: Array
    line_x_m: Array
    line_height_m: Array
    along_m: Array
    body_knots: tuple[int, ...]
    t50_s: float | None
    t80_s: float | None
    t95_s: float | None
    touch_s: tuple[float | None, ...]
    pull_n: Array
    stretch: float
    steady: SteadyDrift


def _first_time(t: Array, values: Array, target: float) -> float | None:
    above = np.nonzero(values >= target)[0]
    if len(above) == 0:
        return None
    k = int(above[0])
    if k == 0:
        return float(t[0])
    share = (target - values[k - 1]) / (values[k] - values[k - 1])
    return float(t[k - 1] + share * (t[k] - t[k - 1]))


@dataclass(frozen=True, slots=True)
class _Laid:
    """A rig as segments (J), each from node ``up`` to the node after its own number: the line's, then the tags'.

    ``along`` (J + 1) is how far each node is from the top end; ``body_node`` and ``knot`` (B) are where each body sits and
    where on the line it is tied in.
    """

    length: Array
    diameter: Array
    density: Array
    up: Nodes
    along: Array
    body_node: Nodes
    knot: Nodes

    @property
    def line_nodes(self) -> int:
        """Number of nodes on the line itself."""
        return len(self.along) - int(np.sum(self.body_node != self.knot))


def _lay_out(scenario: Scenario, segments: int) -> _Laid:
    """Divide the line at its bodies and changes of section, and hang the tags from it."""
    length = scenario.line_length_m
    ends = np.cumsum([section.length_m for section in scenario.line])
    cuts = sorted({0.0, *(float(e) for e in ends), *(body.along_m for body in scenario.bodies)})
    cuts = [c for k, c in enumerate(cuts) if k == 0 or c - cuts[k - 1] > 1e-6]
    lengths: list[float] = []
    sections: list[int] = []
    for upper, lower in pairwise(cuts):
        count = max(2, round(segments * (lower - upper) / length))
        section = int(np.searchsorted(ends, 0.5 * (upper + lower)))
        lengths += [(lower - upper) / count] * count
        sections += [section] * count
    nodes = np.concatenate([[0.0], np.cumsum(lengths)])
    knot = np.array(
        [int(np.argmin(np.abs(nodes - body.along_m))) for body in scenario.bodies], dtype=np.int64
    )
    body_node = knot.copy()
    diameters = [scenario.line[s].diameter_m for s in sections]
    densities = [scenario.line[s].density_kg_m3 for s in sections]
    up, along = list(range(len(lengths))), list(nodes)
    for b, body in enumerate(scenario.bodies):
        if body.tag_m > 0.0:
            lengths.append(body.tag_m)
            diameters.append(body.tag_diameter_m)
            densities.append(body.tag_density_kg_m3)
            up.append(int(knot[b]))
            along.append(float(nodes[knot[b]]) + body.tag_m)
            body_node[b] = len(lengths)
    return _Laid(
        np.array(lengths),
        np.array(diameters),
        np.array(densities),
        np.array(up, dtype=np.int64),
        np.array(along),
        body_node,
        knot,
    )


def _entered(entry: Entry, along: Array, hanging: float) -> tuple[Array, float]:
    """Return where the nodes lie along the surface at the start, and how fast the flies go down."""
    out = np.maximum(0.0, along - hanging)
    if entry == "lead":
        return out, 0.0
    return -ENTRY_SPREAD[entry] * out, TUCK_M_S if entry == "tuck" else 0.0


def transient_drift(
    scenario: Scenario,
    *,
    duration_s: float,
    entry: Entry = "straight",
    phases: Sequence[TipPhase] = (),
    segments: int = SEGMENTS,
    step_s: float = STEP_S,
) -> TransientDrift:
    """Run a drift from the flies landing for ``duration_s``.

    Start: by ``entry``; line straight along the surface upstream of the top end (for a rod tip, of the point below it),
    everything at the surface speed, where nothing else is said. A rod tip goes at its own speed, or through ``phases``,
    the last of which lasts. Raises :class:`NotConverged` if the line came apart.
    """
    DURATION_S.check("duration_s", duration_s)
    steady = steady_drift(scenario)
    water, top = scenario.water, scenario.top
    rho = density(temperature_c=water.temperature_c)
    mu = dynamic_viscosity(temperature_c=water.temperature_c)
    laid = _lay_out(scenario, segments)
    along, body_node = laid.along, laid.body_node
    nodes, on_line = len(along), laid.line_nodes
    hanging = top.height_m if top.kind == "tip" else 0.0
    # A float is a half-sunk sphere: its drag area is half its section, and half the sunk half moves with it.
    diameter = np.sqrt(8.0 * top.drag_area_m2 / np.pi)
    top_mass = top.mass_kg + 0.5 * rho * np.pi * diameter**3 / 12.0
    held = TopEnd({"float": FLOAT, "tip": TIP, "free": FREE}[top.kind], float(top_mass), top.drag_area_m2)
    moves = tuple(phases) or (TipPhase(np.inf, top.speed_m_s),)
    hand = Hand(
        np.array([one.until_s for one in moves]),
        np.array([one.speed_m_s for one in moves]),
        np.array([one.lift_m_s for one in moves]),
    )
    line = Segments(laid.length, laid.diameter, laid.density, laid.up, laid.line_nodes - 1)
    weights = Weights(
        body_node,
        np.array([b.mass_kg for b in scenario.bodies]),
        np.array([b.displaced_m3 for b in scenario.bodies]),
        np.array([b.diameter_m for b in scenario.bodies]),
        np.array([b.dressing_area_m2 for b in scenario.bodies]),
        np.array([b.dressing_diameter_m for b in scenario.bodies]),
    )
    stream = Stream(
        water.depth_m, water.surface_speed_m_s, PROFILE_CODE[water.profile], z0_of(water.bed_ks_m), rho, mu
    )
    start_x, sinking = _entered(entry, along, hanging)
    bodies = scenario.bodies
    while True:
        every = max(1, round(FRAME_S / step_s))
        frames = max(1, round(duration_s / step_s)) // every + 1
        out_x, out_z = np.empty((frames, nodes)), np.empty((frames, nodes))
        pull = np.empty((frames, 2))
        touched = np.full(len(bodies), -1.0)
        place = Pair(start_x.copy(), water.depth_m + np.maximum(0.0, hanging - along))
        speed = Pair(
            np.full(nodes, water.surface_speed_m_s),
            np.where(np.isin(np.arange(nodes), body_node), -sinking, 0.0),
        )
        stretch = march(
            place, speed, line, weights, held, hand, stream, step_s, (frames - 1) * every, every,
            Record(out_x, out_z, pull, touched),
        )  # fmt: skip
        if np.isfinite(out_x).all() and stretch < STRETCH_ALLOWED:
            break
        if step_s <= SHORTEST_STEP_S:
            raise NotConverged(f"the drift came apart: a segment stretched by {stretch:.1%}")
        step_s /= 2.0
    t: Array = np.arange(frames, dtype=np.float64) * (every * step_s)
    body_depth = water.depth_m - out_z[:, body_node]
    lowest = int(np.argmax([b.along_m for b in bodies]))
    target = steady.body_depth_m[lowest] - (0.5 * bodies[lowest].diameter_m if steady.grounded else 0.0)
    t50, t80, t95 = (_first_time(t, body_depth[:, lowest], share * target) for share in (0.50, 0.80, 0.95))
    return TransientDrift(
        t_s=t,
        top_x_m=out_x[:, 0],
        body_x_m=out_x[:, body_node],
        body_depth_m=body_depth,
        line_x_m=out_x[:, :on_line],
        line_height_m=out_z[:, :on_line],
        along_m=along[:on_line],
        body_knots=tuple(int(node) for node in laid.knot),
        t50_s=t50,
        t80_s=t80,
        t95_s=t95,
        touch_s=tuple(float(s) if s >= 0.0 else None for s in touched),
        pull_n=pull,
        stretch=float(stretch),
        steady=steady,
    )
