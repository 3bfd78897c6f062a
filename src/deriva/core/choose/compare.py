"""Two rigs as set, over all the water that they might meet: where which is longer in the zone."""

from collections.abc import Sequence
from dataclasses import dataclass

from deriva.core.choose.evaluate import share_at
from deriva.core.errors import NotConverged
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Situation
from deriva.core.ranges import Range

DEPTHS_M = Range(0.3, 2.5, "m", "the depths that nymphs are fished at")
SPEEDS_M_S = Range(0.1, 1.5, "m/s", "the currents that trout are fished in")

Steps = tuple[int, int]
"""Of how many depths and speeds a map is."""

FINE: Steps = (12, 15)
COARSE: Steps = (6, 8)
"""What a device works out by itself: a third of the waters, for every one of which both rigs are settled."""


@dataclass(frozen=True, slots=True)
class Map:
    """Shares of the drift in the zone, row by row (D, S) at ``depths_m`` and ``speeds_m_s``; None where no drift settles."""

    depths_m: tuple[float, ...]
    speeds_m_s: tuple[float, ...]
    shares: tuple[tuple[float | None, ...], ...]


def _steps(span: Range, count: int) -> tuple[float, ...]:
    return tuple(round(span.lo + (span.hi - span.lo) * k / (count - 1), 3) for k in range(count))


def zone_map(rig: Rig, situation: Situation, steps: Steps = FINE) -> Map:
    """Return the map of one rig in water of the lie's kind, bed and temperature, but of any depth and speed."""
    depths, speeds = _steps(DEPTHS_M, steps[0]), _steps(SPEEDS_M_S, steps[1])

    def at(depth: float, speed: float) -> float | None:
        try:
            return share_at(rig, situation, depth_m=depth, surface_speed_m_s=speed)
        except NotConverged:
            return None

    return Map(depths, speeds, tuple(tuple(at(depth, speed) for speed in speeds) for depth in depths))


BETTER = 0.02
"""A difference in share that is more than the settings' steps."""


def better_over(a: Map, b: Map, *, margin: float = BETTER) -> tuple[float, float]:
    """Return the shares of the map's water over which the first and the second rig are better by more than a margin."""
    pairs = [
        (x, y) for row, other in zip(a.shares, b.shares, strict=True) for x, y in zip(row, other, strict=True)
    ]
    first = sum((x or 0.0) > (y or 0.0) + margin for x, y in pairs)
    second = sum((y or 0.0) > (x or 0.0) + margin for x, y in pairs)
    return first / len(pairs), second / len(pairs)


@dataclass(frozen=True, slots=True)
class Turn:
    """A depth, m, at which the better of two rigs changes, and whether the first is the better in shallower water."""

    depth_m: float
    first_above: bool


WORTH_SAYING = 0.1 / FINE[0]
"""Share of a drift, on the mean over the depths of the map, that fishing each rig in its own depths must bring over the better
one alone: less is no rule to keep in mind (stated here)."""


def turning_depth(a: Map, b: Map, *, speed_m_s: float) -> Turn | None:
    """Return the depth below and above which one of two rigs is the better, in water of about a speed; None where the better
    one alone does as well.
    """
    column = min(range(len(a.speeds_m_s)), key=lambda k: abs(a.speeds_m_s[k] - speed_m_s))
    gains: Sequence[float] = [
        (row[column] or 0.0) - (other[column] or 0.0) for row, other in zip(a.shares, b.shares, strict=True)
    ]
    alone = max(0.0, sum(gains))  # over the second rig alone
    splits = [
        (worth, k, first_above)
        for k in range(1, len(gains))
        for worth, first_above in ((sum(gains[:k]), True), (sum(gains[k:]), False))
    ]
    worth, k, first_above = max(splits)
    if worth < alone + WORTH_SAYING * len(gains):
        return None
    (d, e), (g, h) = a.depths_m[k - 1 : k + 1], gains[k - 1 : k + 1]
    share = g / (g - h) if g * h < 0.0 else 0.5
    return Turn(d + (e - d) * share, first_above)
