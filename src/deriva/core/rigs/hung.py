"""How a rig hangs, read off marches of its family that are kept, in whatever water a lie may have.

A family is what differs in the depth setting alone. It is marched in waters on a grid of depths and speeds that does not
depend on the reading; between four of them everything is read off at equal heights of the lowest fly over the depth, so that a
fly that comes to lie on the bed does so at a place of its own and is not smeared. What is kept may have been reckoned here or
sent along: it is rounded the same way, and so says the same.

How near that is to a direct solve: tests/core/rigs/test_hung.py.
"""

import math
from array import array
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache
from typing import NamedTuple

from deriva.core.drift.marches import CLOSER_BY_THE_BED, HEIGHTS, MARKS, NONE, UNIT, Marching, Mark
from deriva.core.drift.search import ROUGHLY, UNKNOWN, Near
from deriva.core.drift.sinking import load, tau_at
from deriva.core.drift.steady import SteadyDrift, steady_drift
from deriva.core.errors import DerivaError
from deriva.core.model.column import Column
from deriva.core.model.rig import Rig
from deriva.core.model.water import Water
from deriva.core.ranges import DEPTH_M, DEPTH_SETTING_M, SURFACE_SPEED_M_S, TEMPERATURE_C, Range
from deriva.core.rigs.assemble import SIGHTER_CLEARANCE_M, assemble
from deriva.core.water.profile import BED_KS, BedKind, ProfileKind

DEPTH_STEP, SPEED_STEP = 0.15, 0.20
"""Steps of the grid, in logarithms: waters 16 % apart in depth and 22 % in speed."""

SPACING_STEP_M = 0.2
"""Two flies are marched at whole multiples of it; what they are apart more or less, the upper one hangs higher or lower, as far
as the line between them is upright."""

WARMTH_STEP_C = 4.0
"""Marches are made at whole multiples of it: water two degrees warmer is 5 % thinner, and a fly hangs less than 1 % deeper."""

PIECES = 28
"""Midpoint steps along the line that is laid out, which is some two depths long."""

REACH = 2.0
"""Line laid out, in depths."""

FURTHEST_ON = 3.0
"""So many marks beyond the last it is guessed from the last two where a rig hangs: where the search begins."""

NO_TIP = 0.86
"""Stands for the pace of a tip under a float, where there is none."""

FAMILIES, MARCHES, BETWEEN = 384, 400, 2048
"""So many are kept of families, of the marches of each, and of those between others: about a lie there are some 30, each with
seventy, and 75 waters of a belief. At the most some 80 MB."""

LEAST_ABOVE_M = 0.1
"""Line laid out above the upper fly at the least."""


class March(NamedTuple):
    """One family in one water, in :data:`UNIT` s, by height of the lowest fly; :data:`NONE` where nothing hangs so: line used
    below the surface (for a tip, below its clearance) and height of the upper fly over the depth, pace over the surface speed.
    """

    used: "array[int]"
    upper: "array[int]"
    pace: "array[int]"


class Hung(NamedTuple):
    """A settled rig: height of its lowest and upper fly over the bed, m (the upper below nought where there is none), its pace
    over the surface speed, and whether the lowest fly lies on the bed.
    """

    low_m: float
    upper_m: float
    pace: float
    grounded: bool


class Between(NamedTuple):
    """A march between four others, m: by height of the lowest fly, from the surface down, where something hangs so."""

    used: list[float]
    low: list[float]
    upper: list[float]
    pace: list[float]
    lies: list[bool]


Node = tuple[int, int, ProfileKind]
"""A water of the grid: steps of depth and of speed from 1 m and 1 m/s, and how the current is layered."""

FamilyKey = tuple[Rig, BedKind, float]
"""A family by name: one rig that stands for it, the bed, and how warm the water is that it is marched in, °C."""


def _edges(span: Range, step: float) -> tuple[int, int]:
    """Return the first step of a grid within a range, and the last that has another after it."""
    return math.ceil(math.log(span.lo) / step), math.floor(math.log(span.hi) / step) - 1


FIRST_DEPTH, LAST_DEPTH = _edges(DEPTH_M, DEPTH_STEP)
FIRST_SPEED, LAST_SPEED = _edges(SURFACE_SPEED_M_S, SPEED_STEP)


def _share(height: float) -> float:
    """Return a height of the lowest fly over the depth by its place among the marks; nought where it lies."""
    return float(max(0.0, 1.0 - height / HEIGHTS) ** CLOSER_BY_THE_BED)


SHARES = tuple(_share(p) for p in range(MARKS))


class Family:
    """Rigs that differ in the depth setting alone, over one bed in water of one warmth: their marches, made when first asked
    for unless they were sent along. What is kept of them changes how soon something is answered, and where a search begins;
    never which rigs are looked at.
    """

    def __init__(self, rig: Rig, bed: BedKind, temperature_c: float) -> None:
        self.rig, self.bed, self.temperature_c = rig, bed, temperature_c
        self.marches: dict[Node, March | None] = {}
        self.base_m = SIGHTER_CLEARANCE_M if rig.float_ is None else 0.0
        self._last: tuple[tuple[int, ProfileKind], Marching] | None = None
        line = assemble(rig, Column(1.0, 1.0, 0.01))
        self.radius_m = 0.5 * line.bodies[0].diameter_m
        self.weight_n, self.drag_n = load(line.bodies)
        self.line_m = line.line[-1].diameter_m
        self.above_m = line.line_length_m - rig.depth_setting_m - line.top.height_m

    def tau_s(self, setting_m: float, deepest_m: float, speed_m_s: float) -> float:
        """Return τ of the sinking curve at a setting, s."""
        wet = setting_m + self.above_m
        return tau_at(
            self.rig.float_ is None,
            max(0.02, deepest_m),
            speed_m_s,
            self.weight_n,
            self.drag_n,
            wet,
            self.line_m,
        )

    def at(self, rig: Rig, water: Column) -> Hung | None:
        """Return how a rig of the family hangs in a water; None where that cannot be read off."""
        return self.read(rig, _mixed(self, *_place(water)))

    def read(self, rig: Rig, marks: Between | None) -> Hung | None:
        """Return how a rig of the family hangs by its march in a water; None where that has no line so long."""
        if marks is None:
            return None
        setting_m, used = rig.depth_setting_m, marks.used
        high = next((k for k, at in enumerate(used) if at >= setting_m), 0)
        if used[high] < setting_m:
            return None  # longer than any that was marched
        low, share = max(0, high - 1), 0.0
        if used[high] > used[low]:
            share = (setting_m - used[low]) / (used[high] - used[low])

        def part(values: list[float]) -> float:
            return values[low] + share * (values[high] - values[low])

        lowest, upper = part(marks.low), -1.0
        if rig.dropper_spacing_m is not None and self.rig.dropper_spacing_m is not None:
            hangs, apart = part(marks.upper), self.rig.dropper_spacing_m
            upright = min(1.0, max(0.0, (hangs + rig.dropper_tag_m - lowest) / apart))
            upper = max(0.0, hangs + (rig.dropper_spacing_m - apart) * upright)
        return Hung(lowest, upper, part(marks.pace), marks.lies[high])

    def near(self, rig: Rig, water: Column) -> Near:
        """Return about where a rig of the family hangs in a water, also on a line that is longer than any that was marched,
        from marches that are there already: to make them costs more than a search.
        """
        if not all(node in self.marches for node in corners(water)):
            return UNKNOWN
        found = self.at(rig, water)
        if found is not None:
            return Near(found.low_m - self.radius_m, found.pace, ROUGHLY)
        marks = _mixed(self, *_place(water))
        if marks is None or len(marks.used) < 2:
            return UNKNOWN
        on = (rig.depth_setting_m - marks.used[-1]) / max(1e-6, marks.used[-1] - marks.used[-2])
        on = min(on, FURTHEST_ON)
        low = marks.low[-1] + on * (marks.low[-1] - marks.low[-2])
        pace = marks.pace[-1] + on * (marks.pace[-1] - marks.pace[-2])
        return Near(max(0.0, low - self.radius_m), pace, ROUGHLY)

    def mix(self, depth_m: float, speed_m_s: float, profile: ProfileKind) -> Between | None:
        """Return the march in a water between four of the grid."""
        about = _about(depth_m, speed_m_s, profile)
        four = [one for node, _ in about if (one := self.march(node)) is not None]
        if len(four) < len(about):
            return None
        a, b, c, d = (share * UNIT for _, share in about)

        def mixed(of: Iterable["array[int]"]) -> list[float]:
            return [a * i + b * j + c * k + d * n for i, j, k, n in zip(*of, strict=True)]

        used, pace = mixed(one.used for one in four), mixed(one.pace for one in four)
        upper = mixed(one.upper for one in four) if self.rig.dropper is not None else None
        hangs = [p for p, at in enumerate(zip(*(one.used for one in four), strict=True)) if max(at) < NONE]
        found = Between(
            [self.base_m + depth_m * used[p] for p in hangs],
            [self.radius_m + depth_m * SHARES[p] for p in hangs],
            [depth_m * upper[p] for p in hangs] if upper else [],
            [pace[p] for p in hangs],
            [p > HEIGHTS for p in hangs],
        )
        return found if hangs else None

    @property
    def key(self) -> FamilyKey:
        """What tells the family from others, also from itself when it was forgotten and is made anew."""
        return self.rig, self.bed, self.temperature_c

    def take(self, marches: Mapping[Node, March | None]) -> None:
        """Keep marches that were sent along."""
        self.marches.update(marches)
        self._forget()

    def _forget(self) -> None:
        """Let go of what was kept first: this family has been everywhere, and about any one lie there are some seventy."""
        while len(self.marches) > MARCHES:
            del self.marches[next(iter(self.marches))]

    def march(self, node: Node) -> March | None:
        """Return the march in one water of the grid; None where the rig cannot be in it."""
        if node in self.marches:
            return self.marches.get(node)
        (made,) = self.in_waters((node,))
        return made

    def in_waters(self, nodes: Sequence[Node]) -> list[March | None]:
        """Return the marches in some waters of the grid, those of one depth made together."""
        found = {node: self.marches[node] for node in nodes if node in self.marches}
        missing: dict[tuple[int, ProfileKind], list[int]] = {}
        for depth, speed, profile in nodes:
            if (depth, speed, profile) not in found:
                missing.setdefault((depth, profile), []).append(speed)
        for (depth, profile), speeds in missing.items():
            made = self._climbed(depth, profile, speeds)
            found.update(zip(((depth, speed, profile) for speed in speeds), made, strict=True))
        self.marches.update(found)
        self._forget()
        return [found[node] for node in nodes]

    def _climbed(self, depth: int, profile: ProfileKind, speeds: Sequence[int]) -> list[March | None]:
        deep, last = (depth, profile), self._last
        fast = [math.exp(SPEED_STEP * speed) for speed in speeds]
        try:
            if last is None or last[0] != deep:
                last = self._last = deep, self.marching(math.exp(DEPTH_STEP * depth), fast[0], profile)
        except DerivaError:
            return [None] * len(speeds)
        kept = array("H", last[1].rounded(fast, self.base_m))
        fields = [kept[k : k + MARKS] for k in range(0, len(kept), MARKS)]
        return [March(*fields[k : k + 3]) for k in range(0, len(fields), 3)]

    def marching(
        self, depth_m: float, speed_m_s: float, profile: ProfileKind, pace_error: float = 0.0
    ) -> Marching:
        """Lay the family out in a water, to be marched. Raises :class:`DerivaError` where it cannot be in it."""
        column = Column(depth_m, speed_m_s, min(BED_KS[self.bed], depth_m / 2.0), self.temperature_c, profile)
        ends = (self.rig.dropper_spacing_m or 0.0) + LEAST_ABOVE_M
        longest = DEPTH_SETTING_M.clamp(self.base_m + max(REACH * depth_m, ends))
        scenario = assemble(replace(self.rig, depth_setting_m=longest), column, pace_error=pace_error)
        return Marching(scenario, pieces=PIECES)


class Descent:
    """A tight line's march in one water that goes down as far as is asked: a thumb asks for one setting after the other."""

    def __init__(self, kin: Family, depth_m: float, speed_m_s: float, marching: Marching) -> None:
        self._kin, self._depth_m, self._speed_m_s, self._marching = kin, depth_m, speed_m_s, marching
        self._marks: list[Mark] = []

    def to(self, setting_m: float) -> Between:
        """Return how a line of about this length hangs; or the first height, where none so long does."""
        marks, speed = self._marks, self._speed_m_s
        if not marks or (marks[-1].used_m < setting_m and marks[-1].height < MARKS - 1):
            # on from the last height over the bed: how much line lies is reckoned from one mark to the next
            while marks and marks[-1].height > HEIGHTS:
                marks.pop()
            last = marks.pop().height if marks else 0
            marks += self._marching.at(speed, last, setting_m)
        beyond = next((k for k, one in enumerate(marks) if one.used_m >= setting_m), 0)
        near = [(float(one.height), one) for one in marks[max(0, beyond - 1) : beyond + 1]]
        # climbed once more between: the heights at which a slow tip holds a fly up lie on a bow
        if len(near) == 2 and near[1][0] <= HEIGHTS:
            (high, before), (_, after) = near
            at = high + (setting_m - before.used_m) / (after.used_m - before.used_m)
            near[1:1] = [(at, one) for one in self._marching.at(speed, at, 0.0)]
        return Between(
            [one.used_m for _, one in near],
            [self._kin.radius_m + self._depth_m * _share(height) for height, _ in near],
            [one.upper_m for _, one in near] if self._kin.rig.dropper is not None else [],
            [one.pace_m_s / speed for _, one in near],
            [height > HEIGHTS for height, _ in near],
        )


def _place(water: Column) -> tuple[float, float, ProfileKind]:
    return water.depth_m, water.surface_speed_m_s, water.profile


def _about(depth_m: float, speed_m_s: float, profile: ProfileKind) -> list[tuple[Node, float]]:
    """Return the four waters of the grid about one, each with its share in it."""
    d, u = math.log(depth_m) / DEPTH_STEP, math.log(speed_m_s) / SPEED_STEP
    i = min(LAST_DEPTH, max(FIRST_DEPTH, math.floor(d)))
    j = min(LAST_SPEED, max(FIRST_SPEED, math.floor(u)))
    d, u = d - i, u - j
    return [
        ((i + a, j + b, profile), (d if a else 1.0 - d) * (u if b else 1.0 - u))
        for a in (0, 1)
        for b in (0, 1)
    ]


def corners(water: Column) -> list[Node]:
    """Return the four waters of the grid that a water is mixed of."""
    return [node for node, _ in _about(*_place(water))]


def waters_about(water: Water, *, depth_m: tuple[float, float], speed_m_s: tuple[float, float]) -> list[Node]:
    """Return the waters of the grid that stand about depths and speeds from one to another at a lie."""
    (i, last_i), (j, last_j) = (
        (max(first, math.floor(math.log(low) / step)), min(last + 1, math.ceil(math.log(high) / step)))
        for (low, high), step, first, last in (
            (depth_m, DEPTH_STEP, FIRST_DEPTH, LAST_DEPTH),
            (speed_m_s, SPEED_STEP, FIRST_SPEED, LAST_SPEED),
        )
    )
    return [
        (k, n, profile)
        for k in range(i, last_i + 1)
        for profile in _layered(water, k, depth_m)
        for n in range(j, last_j + 1)
    ]


def _layered(water: Water, step: int, depth_m: tuple[float, float]) -> Iterable[ProfileKind]:
    """Return how the current may be layered in waters between a step of depth and the next ones: where it turns thin over its
    stones between two steps, both are mixed either way.
    """
    low, high = depth_m
    about = (min(high, max(low, math.exp(DEPTH_STEP * (step + side)))) for side in (-1, 1))
    return dict.fromkeys(water.column(depth).profile for depth in about)


@lru_cache(maxsize=BETWEEN)
def _mixed(kin: Family, depth_m: float, speed_m_s: float, profile: ProfileKind) -> Between | None:
    return kin.mix(depth_m, speed_m_s, profile)


@lru_cache(maxsize=FAMILIES)
def _family(rig: Rig, bed: BedKind, temperature_c: float) -> Family:
    return Family(rig, bed, temperature_c)


@lru_cache(maxsize=BETWEEN)
def _descent(
    kin: Family, depth_m: float, speed_m_s: float, profile: ProfileKind, pace_error: float
) -> "Descent | None":
    try:
        return Descent(kin, depth_m, speed_m_s, kin.marching(depth_m, speed_m_s, profile, pace_error))
    except DerivaError:
        return None


def _longest(rig: Rig) -> Rig:
    """Return a rig on the longest line there is, its flies as far apart as the nearest that are marched: a shorter line often
    has them nearer together.
    """
    spacing = rig.dropper_spacing_m
    if spacing is not None:
        spacing = max(SPACING_STEP_M, round(SPACING_STEP_M * round(spacing / SPACING_STEP_M), 2))
    return replace(rig, depth_setting_m=DEPTH_SETTING_M.hi, dropper_spacing_m=spacing)


@lru_cache(maxsize=FAMILIES)
def family(rig: Rig, bed: BedKind, temperature_c: float) -> Family:
    """Return the family of a rig over a bed, in water as warm as the nearest that is marched."""
    warmth = TEMPERATURE_C.clamp(WARMTH_STEP_C * round(temperature_c / WARMTH_STEP_C))
    pace = rig.tip_pace if rig.float_ is None else NO_TIP
    return _family(replace(_longest(rig), tip_pace=pace), bed, warmth)


def as_hung(rig: Rig, column: Column, steady: SteadyDrift) -> Hung:
    """Return a rig that was solved as one that is read off."""
    heights = [column.depth_m - depth for depth in steady.body_depth_m]
    upper = heights[1] if rig.dropper is not None else -1.0
    return Hung(heights[0], upper, steady.top_speed_ratio, steady.grounded)


def hung(rig: Rig, water: Water, column: Column) -> Hung | None:
    """Return how a rig hangs in one column of a lie's water: read off, or solved where it cannot be; None where it does not
    settle.
    """
    kin = family(rig, water.bed, water.temperature_c)
    found = kin.at(rig, column)
    if found is not None:
        return found
    try:
        steady = steady_drift(assemble(rig, column), pieces=PIECES, near=kin.near(rig, column))
    except DerivaError:
        return None
    return as_hung(rig, column, steady)


def off_pace(rig: Rig, water: Water, column: Column, pace_error: float) -> Hung | None:
    """Return how a tight line hangs in one column of a lie's water with an error of its tip's pace; None where that cannot be
    read off. It is marched in this very water, by one thread.
    """
    kin = _family(_longest(rig), water.bed, water.temperature_c)
    down = _descent(kin, *_place(column), pace_error)
    return None if down is None else kin.read(rig, down.to(rig.depth_setting_m))
