"""The best of the day: how the water warms, and the hours in which trout feed and an angler sees.

The water's temperature hours ahead is carried from the last days; what the hours are worth follows from appetite
(Elliott, Hurley & Fryer 1995) and from light (common practice, no source).
"""

from collections.abc import Sequence
from dataclasses import dataclass

from deriva.core.model.quantity import qty
from deriva.core.ranges import TEMPERATURE_C
from deriva.core.water.appetite import appetite
from deriva.core.water.light import Light
from deriva.core.water.warmth import LIGHT_FROM_C, STOP_C, WARM_FISH_C, WARMEST_HOUR_BELOW_C

DAY_H = 24.0
NEAR_H = 0.75
MEMORY_H = 24.0
"""How long a warmer or colder day than those before is taken to stay so."""

THUNDER = 0.3
"""Chance of thunder in an hour from which it is no hour to hold a long rod (common practice, no source)."""

SHARE_OF_BEST = 0.8
LOW_SUN, BRIGHT_SUN, TWILIGHT = 1.1, 0.8, 0.9


def _same_hours(past: Sequence[tuple[float, float]], hour: float) -> list[float]:
    return [
        value
        for at, value in past
        if abs((at - hour + DAY_H / 2.0) % DAY_H - DAY_H / 2.0) <= NEAR_H and at < hour
    ]


def carry_temperature(past: Sequence[tuple[float, float]], *, ahead_h: float) -> float | None:
    """Return the water's temperature some hours ahead, °C, from the past as (hours from now, negative; °C).

    The mean of the same hour of the last days, and on it what now differs from that by, fading over a day. None where
    there are not yet two days.
    """
    if not past or past[0][0] > -2.0 * DAY_H + NEAR_H:
        return None
    same, same_now = _same_hours(past, ahead_h), _same_hours(past[:-1], 0.0)
    if not same or not same_now:
        return None
    off = past[-1][1] - sum(same_now) / len(same_now)
    value = sum(same) / len(same) + off * max(0.0, 1.0 - ahead_h / (2.0 * MEMORY_H))
    return TEMPERATURE_C.clamp(value)


def warming(past: Sequence[tuple[float, float]]) -> float | None:
    """Return by how much a day warmed against the one before, °C: the mean of the last 24 h less that of those before."""
    last = [value for at, value in past if -DAY_H < at <= 0.0]
    before = [value for at, value in past if -2.0 * DAY_H < at <= -DAY_H]
    if len(last) < DAY_H / 2.0 or len(before) < DAY_H / 2.0:
        return None
    return sum(last) / len(last) - sum(before) / len(before)


@dataclass(frozen=True, slots=True)
class Hour:
    """An hour ahead: hours from now, the water's temperature, the light, the chance of thunder."""

    ahead_h: float
    water_c: float
    light: Light | None
    thunder: float = 0.0


def keenness(hour: Hour, species: str = "brown trout") -> float:
    """Return 0..1: what an hour is worth, by appetite, light and safety."""
    if hour.water_c >= STOP_C or hour.thunder >= THUNDER:
        return 0.0
    value = appetite(temperature_c=TEMPERATURE_C.clamp(hour.water_c), species=species)
    if hour.light is None:
        return value
    if hour.light.phase == "night":
        return 0.0
    if hour.light.phase == "twilight":
        value *= TWILIGHT
    elif hour.water_c >= LIGHT_FROM_C and hour.light.phase == "low":
        value *= LOW_SUN
    elif hour.water_c >= LIGHT_FROM_C and hour.light.bright:
        value *= BRIGHT_SUN
    return min(1.0, value)


@dataclass(frozen=True, slots=True)
class Best:
    """The best run of hours, from the first to the end of the last, hours from now; and why."""

    from_h: float
    until_h: float
    reason: str

    def holds(self, hour: Hour) -> bool:
        """Return whether an hour belongs to the run."""
        return self.from_h <= hour.ahead_h < self.until_h


def is_worth_it(hours: Sequence[Hour], best: Best | None, *, closed: bool) -> bool:
    """Return whether there is anything to plan: it is open, and an hour ahead is worth it, or none is known."""
    return not closed and (best is not None or not hours)


def _reason(run: Sequence[Hour], others: Sequence[Hour]) -> str:
    warmest, coolest = max(h.water_c for h in run), min(h.water_c for h in run)
    lit = [h for h in others if h.light is None or h.light.phase != "night"]
    if any(h.water_c >= STOP_C for h in lit):
        return f"before and after the water passes {qty(STOP_C, '°C', 0)}"
    if warmest < WARMEST_HOUR_BELOW_C:
        return f"the water is at its warmest, {qty(warmest, '°C', 1)}"
    if max(h.water_c for h in lit) >= WARM_FISH_C:
        return f"the water is at its coolest, {qty(coolest, '°C', 1)}"
    if all(h.light is not None and h.light.phase in ("low", "twilight") for h in run):
        return "the sun is low, and the water right"
    return "water and light are both right"


def best_hours(hours: Sequence[Hour], species: str = "brown trout") -> Best | None:
    """Return the best run of hours ahead; None where no hour is worth fishing.

    Of equal hours the earlier: an angler who can go now goes now.
    """
    values = [keenness(hour, species) for hour in hours]
    if not values or max(values) <= 0.0:
        return None
    enough = SHARE_OF_BEST * max(values)
    first = values.index(max(values))
    start, end = first, first
    while start > 0 and values[start - 1] >= enough:
        start -= 1
    while end + 1 < len(values) and values[end + 1] >= enough:
        end += 1
    return Best(hours[start].ahead_h, hours[end].ahead_h + 1.0, _reason(hours[start : end + 1], hours))
