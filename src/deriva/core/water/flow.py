"""Flow against normal, which way it goes, and when it will be down again."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from deriva.core.errors import Impossible
from deriva.core.ranges import FLOW_M3_S

FlowClass = Literal["much_below_normal", "below_normal", "normal", "above_normal", "much_above_normal"]
Direction = Literal["rising", "steady", "falling"]

LIMITS: tuple[tuple[float, FlowClass], ...] = (
    (0.10, "much_below_normal"),
    (0.25, "below_normal"),
    (0.75, "normal"),
    (0.90, "above_normal"),
)
"""Upper ends of the classes, as shares of the years that were lower on this day (USGS convention)."""

STEADY_PER_H = 0.01
"""Change of flow an hour, as a share, within which a river is said to be steady (common practice, no source)."""

LEAST_YEARS = 5
"""Fewer values than this for a day make no normal to speak of (common practice, no source)."""


def rank_share(value: float, others: Sequence[float]) -> float:
    """Return the Weibull plotting position of ``value`` among ``others``: r/(n + 1), ties in the middle of their ranks."""
    below = sum(other < value for other in others)
    equal = sum(other == value for other in others)
    return (below + 0.5 * equal + 0.5) / (len(others) + 1.0)


def quantile(others: Sequence[float], share: float) -> float:
    """Return the value at a share of the Weibull plotting positions, on straight lines between; the ends stand."""
    ranked = sorted(others)
    if not ranked:
        raise Impossible("no values to take a quantile of", field="flow_m3_s")
    place = min(max(share * (len(ranked) + 1.0) - 1.0, 0.0), len(ranked) - 1.0)
    low = int(place)
    high = min(low + 1, len(ranked) - 1)
    return ranked[low] + (place - low) * (ranked[high] - ranked[low])


def flow_class(share: float) -> FlowClass:
    """Return the class of a flow by the share of years that were lower on this day.

    >>> flow_class(0.30), flow_class(0.95)
    ('normal', 'much_above_normal')
    """
    return next(
        (name for limit, name in LIMITS if share < limit or (limit == 0.75 and share == limit)),
        "much_above_normal",
    )


@dataclass(frozen=True, slots=True)
class AgainstNormal:
    """A flow against the same days of other years: its share and class, and the normal band, m³/s."""

    share: float
    flow_class: FlowClass
    low_m3_s: float
    median_m3_s: float
    high_m3_s: float
    years: int


def against_normal(flow_m3_s: float, same_days: Sequence[float], *, years: int) -> AgainstNormal | None:
    """Judge a flow against those of the same days of other years; None where there are too few years to say."""
    if years < LEAST_YEARS:
        return None
    FLOW_M3_S.check("flow_m3_s", flow_m3_s)
    share = rank_share(flow_m3_s, same_days)
    low, median, high = (quantile(same_days, q) for q in (0.25, 0.5, 0.75))
    return AgainstNormal(share, flow_class(share), low, median, high, years)


@dataclass(frozen=True, slots=True)
class Trend:
    """Which way the flow goes: change an hour as a share of it, the scatter about that line, and the word for it."""

    per_h: float
    scatter: float
    direction: Direction


def _line(hours: Sequence[float], logs: Sequence[float]) -> tuple[float, float, float]:
    """Return slope, its standard error, and the scatter of a least-squares line."""
    n = len(hours)
    mx, my = sum(hours) / n, sum(logs) / n
    sxx = sum((x - mx) ** 2 for x in hours)
    if n < 2 or sxx == 0.0:
        return 0.0, 0.0, 0.0
    slope = sum((x - mx) * (y - my) for x, y in zip(hours, logs, strict=True)) / sxx
    left = sum((y - my - slope * (x - mx)) ** 2 for x, y in zip(hours, logs, strict=True))
    scatter = math.sqrt(left / max(1, n - 2))
    return slope, scatter / math.sqrt(sxx), scatter


def trend(hours: Sequence[float], flows_m3_s: Sequence[float]) -> Trend:
    """Return the trend of flows at ``hours`` (rising numbers; the last is now)."""
    slope, _, scatter = _line(hours, [math.log(FLOW_M3_S.clamp(q)) for q in flows_m3_s])
    direction: Direction = (
        "rising" if slope > STEADY_PER_H else "falling" if slope < -STEADY_PER_H else "steady"
    )
    return Trend(math.expm1(slope), scatter, direction)


@dataclass(frozen=True, slots=True)
class Recession:
    """A falling limb, ln Q = ln Q₀ − k·t: hours until the target is reached, and that with k out by two standard
    errors either way (``latest_h`` is inf where the fall may have ended)."""

    half_life_h: float
    reached_in_h: float
    earliest_h: float
    latest_h: float


def recession(hours: Sequence[float], flows_m3_s: Sequence[float], *, target_m3_s: float) -> Recession | None:
    """Fit the falling limb and carry it forward to a target; None where the river is not falling or is there already.

    An exponential recession is the common first form (any text of hydrology). Real ones slow down as the ground takes
    over from the hill, so the later end is the likelier.
    """
    FLOW_M3_S.check("target_m3_s", target_m3_s)
    if len(hours) < 4 or flows_m3_s[-1] <= target_m3_s:
        return None
    slope, error, scatter = _line(hours, [math.log(FLOW_M3_S.clamp(q)) for q in flows_m3_s])
    if slope >= -STEADY_PER_H / 4.0:
        return None
    fall = math.log(flows_m3_s[-1] / target_m3_s)
    spread = 2.0 * max(error, 0.1 * abs(slope))  # a straight line is never that sure of a curve
    slowest = -slope - spread
    return Recession(
        half_life_h=math.log(2.0) / -slope,
        reached_in_h=fall / -slope,
        earliest_h=max(0.0, (fall - scatter) / (-slope + spread)),
        latest_h=(fall + scatter) / slowest if slowest > 0.0 else math.inf,
    )


WINDOW_DAYS = 7
DAYS_IN_YEAR = 365.25


def same_days(history: Sequence[tuple[float, float]], day_of_year: float) -> list[float]:
    """Return the flows of ``history`` (day of the year, m³/s) within a week of a day, around the turn of the year too."""
    half = DAYS_IN_YEAR / 2.0
    return [
        flow for day, flow in history if abs((day - day_of_year + half) % DAYS_IN_YEAR - half) <= WINDOW_DAYS
    ]
