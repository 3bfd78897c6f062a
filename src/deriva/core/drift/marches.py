"""Marches: how a rig hangs for every setting of its line, from climbing the line a few times instead of searching.

A settled rig does not know how long its line is: it knows how high its lowest fly hangs. So the question is turned round. For
some heights of the fly, from the surface down, the line is climbed *once* to where that meets the surface (and, for a tight
line, on to the tip); what has been used up is the setting that hangs so. All settings of rigs that differ in nothing else are
then read off between those heights, in the order in which a sinking fly meets them. A dozen climbs stand for some forty
searches. Kernels: compiled on the server, as they stand on the phone.
"""

import math
from collections.abc import Sequence
from typing import NamedTuple

from deriva.core._jit import (
    Places,
    Vector,
    first_of,
    int_vector,
    jit_free,
    jit_inline,
    numbers,
    vector,
    whole_numbers,
)
from deriva.core.drift.balance import GROUNDING_SPAN, climb, hang
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.structures import Bodies, Mesh, Shape, Stream, level_weight, stream_of, sunk

HEIGHTS = 16
"""Heights of the lowest fly marched from, from the surface to the bed, closer together by the bed."""

LYING = 3
"""Further ones with the bed taking the fly's weight, and with line along it."""

MARKS = HEIGHTS + 1 + LYING

CLOSER_BY_THE_BED = 2.2

UNIT = 1.0 / 4096.0
"""What is kept of a march is rounded to this share of the depth, or of the surface speed."""

MOST = 65534
NONE = 65535
"""Stands where nothing hangs so."""

LEFT = 3e-4
LEFT_LYING = 0.1
"""What the pull on a float may be off, as a share of its drag, where a pace is found; and with the fly on the bed."""


class Hold(NamedTuple):
    """What holds the line: a tip or a float; the float's drag area m²; the tip's height m and pace over the bubbles'; length m
    and weight N/m of the line above the setting.
    """

    tip: bool
    float_area: float
    tip_height: float
    tip_pace: float
    upper_length: float
    upper_weight: float


class Marks(NamedTuple):
    """Heights of the lowest fly that the line was climbed from (P), in the order in which a sinking fly meets them: which of
    the heights, the setting that hangs so, pace and pull there, heights of the lowest and the upper fly, and whether the
    lowest lies on the bed.
    """

    height: Places
    used: Vector
    pace: Vector
    pull: Vector
    low: Vector
    upper: Vector
    lies: Vector


@jit_free
def lay(
    above: Vector, diameter: float, weight: float, longest: float, pieces: int, mesh: Mesh, node_of: Places
) -> int:
    """Kernel: divide ``longest`` metres of level line from its lower end up at its bodies, tied in ``above`` it; return the
    number of pieces.

    In the air it weighs nothing here: what hangs between water and tip is added where it matters.
    """
    count = len(above)
    n = 0
    below = 0.0
    for b in range(1, count + 1):
        end = above[b] if b < count else longest
        parts = int(pieces * (end - below) / longest + 0.5)
        parts = max(2, parts) if end > below + 1e-9 else 0
        for k in range(max(1, parts)):  # two bodies in one place: a piece of no length between them
            mesh.length[n] = (end - below) / parts if parts > 0 else 0.0
            mesh.diameter[n] = diameter
            mesh.in_water[n] = weight if parts > 0 else 0.0
            mesh.in_air[n] = 0.0
            mesh.body[n] = b if b < count and k == max(1, parts) - 1 else -1
            n += 1
        if b < count:
            node_of[b] = n
        below = end
    return n


@jit_inline
def _met(mesh: Mesh, shape: Shape, depth: float) -> float:
    """Return the line used up from the lower end to the surface, m; -1 where it does not get there."""
    s = 0.0
    for k in range(len(mesh.length)):
        if shape.z[k + 1] >= depth:
            rise = shape.z[k + 1] - shape.z[k]
            return s + mesh.length[k] * min(1.0, max(0.0, (depth - shape.z[k]) / rise)) if rise > 0.0 else s
        s += mesh.length[k]
    return -1.0


@jit_free
def _float_pace(
    q: float, start: float, slope: float, area: float, scale: float, mesh: Mesh, bodies: Bodies, water: Stream,
    shape: Shape,
) -> tuple[float, float, float, float]:  # fmt: skip
    """Find the pace at which a float's drag holds the pull of a rig whose fly hangs at ``q``; return (pace, pull down, what
    is left, slope of that over the pace). Secant steps from ``start`` and the ``slope`` at another height (0: not known), kept
    within what a float can do.
    """
    us, half = water.speed, 0.5 * water.rho * area
    v = w = start
    r = s = gz = 0.0
    for k in range(14):
        gx, gz = climb(q, w, mesh, bodies, water, True, shape)
        s = (gx - half * abs(us - w) * (us - w)) / scale
        if k > 0 and w != v and s != r:
            slope = (s - r) / (w - v)
        if abs(s) < LEFT or (k > 0 and s == r):
            break
        step = -0.01 * w if slope == 0.0 else -s / slope
        step = min(0.3 * us, max(-0.3 * us, step))
        v, r = w, s
        w = min(1.6 * us, max(0.0, w + step))
    return w, gz, abs(s), slope


@jit_inline
def _to_the_tip(wet: float, fx: float, fz: float, hold: Hold) -> float:
    """Return the setting of a tight line that meets the surface after ``wet`` metres: on to the tip it is straight but for the
    weight of what hangs in the air.
    """
    air = hold.tip_height
    for _ in range(3):
        down = fz + 0.5 * hold.upper_weight * air
        air = hold.tip_height * math.sqrt(fx * fx + down * down) / max(down, 1e-9)
    return wet + air - hold.upper_length


@jit_free
def march(
    hold: Hold, longest: float, mesh: Mesh, bodies: Bodies, upper_node: int, water: Stream, shape: Shape, marks: Marks,
    first: float, enough: float,
) -> int:  # fmt: skip
    """Kernel: climb the line from every height of the lowest fly, from the ``first`` (0: the surface; it may be between two)
    down to the bed, or until ``enough`` line is used; return how many marks there are. ``upper_node`` is where an upper fly is
    tied in, 0 where there is none.
    """
    depth, us = water.depth, water.speed
    area = hold.float_area
    scale = max(0.5 * water.rho * area * us * us, 0.02 * bodies.weight[0], 1e-9)
    v = hold.tip_pace * us if hold.tip else us
    before, slope = v, 0.0
    count = 0
    for k in range(MARKS):
        p = first + k
        if p > MARKS - 1:
            break
        if p <= HEIGHTS:
            q = depth * math.pow(1.0 - p / HEIGHTS, CLOSER_BY_THE_BED)
        else:
            q = -GROUNDING_SPAN - longest * (p - HEIGHTS - 1) / LYING
        fx = fz = 0.0
        if hold.tip:
            fx, fz = climb(q, v, mesh, bodies, water, True, shape)
        elif p == 0.0:
            continue  # no line in the water: no float
        else:
            start = max(0.0, 2.0 * v - before) if q >= 0.0 else v
            before = v
            v, fz, left, slope = _float_pace(q, start, slope, area, scale, mesh, bodies, water, shape)
            if left > (LEFT if q >= 0.0 else LEFT_LYING):
                v = before = 0.88 * us
                slope = 0.0
                continue
        wet = _met(mesh, shape, depth)
        marks.used[count] = wet
        if wet < 0.0:  # longer than any setting; what more of it lies on the bed is line for line
            marks.used[count] = longest + 0.1
            if q < 0.0 and count > 0:
                marks.used[count] = marks.used[count - 1] + longest / LYING
        elif hold.tip:
            marks.used[count] = _to_the_tip(wet, fx, fz, hold)
        marks.height[count] = int(p)
        marks.pace[count], marks.pull[count] = v, fz
        marks.low[count], marks.lies[count] = shape.z[0], 1.0 if q < 0.0 else 0.0
        marks.upper[count] = 0.0
        if upper_node > 0:
            _, _, _, marks.upper[count] = hang(
                shape.x[upper_node], shape.z[upper_node], v, 1, bodies, water, True
            )
        count += 1
        if marks.used[count - 1] > enough:
            break
    return count


@jit_inline
def _rounded(value: float) -> int:
    return int(min(float(MOST), max(0.0, math.floor(value / UNIT + 0.5))))


@jit_free
def march_rounded(
    hold: Hold, base: float, longest: float, mesh: Mesh, bodies: Bodies, upper_node: int, water: Stream, shape: Shape,
    marks: Marks, speeds: Vector, rounded: Places,
) -> None:  # fmt: skip
    """Kernel: march in water as fast as each of ``speeds`` (N) and write (N, 3, MARKS), in :data:`UNIT` s: line used beyond
    ``base`` metres and height of the upper fly over the depth, pace over the surface speed.
    """
    depth = water.depth
    at = 0
    for n in range(len(speeds)):
        us = speeds[n]
        stream = Stream(depth, us, water.profile, water.z0, water.rho, water.mu)
        count = march(hold, longest, mesh, bodies, upper_node, stream, shape, marks, 0.0, longest)
        for k in range(at, at + 3 * MARKS):
            rounded[k] = NONE
        for k in range(count):
            height = at + marks.height[k]
            rounded[height] = _rounded((marks.used[k] - base) / depth)
            rounded[height + MARKS] = _rounded(marks.upper[k] / depth)
            rounded[height + 2 * MARKS] = _rounded(marks.pace[k] / us)
        at += 3 * MARKS


class Mark(NamedTuple):
    """One height of the lowest fly, by its place among the :data:`MARKS`: the setting that hangs so, m, the pace there, m/s,
    and how high the upper fly hangs, m (nought where there is none).
    """

    height: int
    used_m: float
    pace_m_s: float
    upper_m: float


def _zeros(count: int) -> Vector:
    return vector([0.0] * count)


class Marching:
    """One rig in water of one depth, its lowest piece of line as long as any that is to be read off and in so many pieces, to
    be marched at one speed after another, by one thread. A tip keeps its pace over the bubbles'.
    """

    def __init__(self, scenario: Scenario, *, pieces: int) -> None:
        self._water, top, level = stream_of(scenario.water), scenario.top, scenario.line[-1]
        self._bodies, order = sunk(scenario.bodies, self._water.rho)
        above = vector(scenario.line_length_m - scenario.bodies[k].along_m for k in order)
        node_of = int_vector([0] * len(order))
        room = pieces + 4 * len(order)
        rough = Mesh(_zeros(room), _zeros(room), _zeros(room), _zeros(room), int_vector([0] * room))
        in_water = level_weight(
            diameter_m=level.diameter_m, density_kg_m3=level.density_kg_m3, in_kg_m3=self._water.rho
        )
        n = lay(above, level.diameter_m, in_water, level.length_m, pieces, rough, node_of)
        self._mesh = Mesh(
            first_of(rough.length, n),
            first_of(rough.diameter, n),
            first_of(rough.in_water, n),
            first_of(rough.in_air, n),
            first_of(rough.body, n),
        )
        upper = scenario.line[0] if top.kind == "tip" else None
        self._hold = Hold(
            tip=upper is not None,
            float_area=top.drag_area_m2,
            tip_height=top.height_m,
            tip_pace=top.speed_m_s / self._water.speed,
            upper_length=upper.length_m if upper else 0.0,
            upper_weight=level_weight(diameter_m=upper.diameter_m, density_kg_m3=upper.density_kg_m3)
            if upper
            else 0.0,
        )
        self._longest = level.length_m
        # written over by every march: to lay them out anew for each costs a good part of what it does
        self._shape = Shape(_zeros(n + 1), _zeros(n + 1))
        self._marks = Marks(int_vector([0] * MARKS), *(_zeros(MARKS) for _ in range(6)))
        self._upper_node = int(node_of[1]) if len(order) > 1 else 0

    def at(self, speed_m_s: float, first: float = 0.0, enough_m: float = math.inf) -> list[Mark]:
        """March it in water that runs so fast at the surface, a tight line also from the ``first`` height on, which may be
        between two; until ``enough_m`` is used, or all of it.
        """
        water = self._water._replace(speed=speed_m_s)
        marks, enough = self._marks, min(enough_m, self._longest)
        count = march(
            self._hold, self._longest, self._mesh, self._bodies, self._upper_node, water, self._shape, marks,
            first, enough,
        )  # fmt: skip
        heights = [int(marks.height[k]) for k in range(count)]
        found = (numbers(one) for one in (marks.used, marks.pace, marks.upper))
        return [Mark(*one) for one in zip(heights, *found, strict=False)]

    def rounded(self, speeds_m_s: Sequence[float], base_m: float) -> list[int]:
        """March it in water that runs as fast as each of some speeds; return, in :data:`UNIT` s, of one after the other all
        :data:`MARKS` of the line used beyond ``base_m``, then of the height of the upper fly, then of the pace.
        """
        rounded = int_vector([0] * (3 * MARKS * len(speeds_m_s)))
        march_rounded(
            self._hold, base_m, self._longest, self._mesh, self._bodies, self._upper_node, self._water, self._shape,
            self._marks, vector(speeds_m_s), rounded,
        )  # fmt: skip
        return whole_numbers(rounded)
