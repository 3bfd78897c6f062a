"""The invented river Marrowen at gauge MRW-02: rain, snow melt, low summers and warm afternoons, from one seed.

Everything is a function of absolute time, so any stretch of it, live or years back, can be had without running up to it.
It is a toy that looks right: storms rise in hours and fall over days, the melt swells April and May, August is low.
"""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import cache, lru_cache

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

SEED = 20
EPOCH = datetime(2000, 1, 1, tzinfo=UTC)
STEP = timedelta(minutes=15)
MEMORY_DAYS = 21
"""How long a storm is felt in the flow."""


@dataclass(frozen=True, slots=True)
class Series:
    """Equally spaced values from ``start`` on, SI."""

    start: datetime
    step: timedelta
    flow_m3_s: Array
    stage_m: Array
    temperature_c: Array
    turbidity_fnu: Array
    rain_mm_h: Array
    air_c: Array
    wind_m_s: Array
    cloud: Array
    thunder: Array

    def time(self, k: int) -> datetime:
        """Return the time of the ``k``-th value."""
        return self.start + k * self.step


@dataclass(frozen=True, slots=True)
class _Day:
    """What chance gave one day."""

    rain_mm: float
    rain_at_h: float
    rain_for_h: float
    warmth: float
    wind: float
    cloud: float
    noise: float


@cache
def _day(number: int) -> _Day:
    rng = np.random.default_rng([SEED, number])
    season = np.cos(2.0 * np.pi * (number % 365.25 - 10.0) / 365.25)  # wet winters
    wet = rng.random() < 0.30 + 0.10 * season
    rain = float(rng.gamma(0.9, 9.0)) if wet else 0.0
    return _Day(
        rain_mm=rain,
        rain_at_h=float(rng.uniform(0.0, 24.0)),
        rain_for_h=float(rng.uniform(2.0, 10.0)),
        warmth=float(rng.normal(0.0, 1.4)),
        wind=float(rng.gamma(2.0, 1.4)),
        cloud=float(np.clip(rng.beta(1.2, 1.2) + (0.3 if wet else -0.1), 0.0, 1.0)),
        noise=float(rng.normal(0.0, 0.08)),
    )


def _year_factor(year: int) -> float:
    return float(np.exp(np.random.default_rng([SEED, 10_000_000 + year]).normal(0.0, 0.22)))


def _storm(hours: Array) -> Array:
    """Return the flow that a millimetre of rain gives, ``hours`` after it fell: a quick peak and a slow tail, m³/s."""
    after = np.maximum(hours, 0.0)
    quick = after / 7.0 * np.exp(1.0 - after / 7.0)
    slow = (1.0 - np.exp(-after / 12.0)) * np.exp(-after / 96.0)
    return 0.16 * quick + 0.06 * slow


@lru_cache(maxsize=8)  # twenty years are asked for again by everybody who reads the gauge anew
def series(start: datetime, count: int, step: timedelta = STEP) -> Series:
    """Return ``count`` values from ``start`` (an aware time, taken back to a whole step)."""
    whole = int((start - EPOCH) / step)
    begin = EPOCH + whole * step
    hours: Array = (begin - EPOCH) / timedelta(hours=1) + np.arange(count, dtype=np.float64) * (
        step / timedelta(hours=1)
    )
    first, last = int(hours[0] // 24) - MEMORY_DAYS, int(hours[-1] // 24) + 1
    days = {number: _day(number) for number in range(first, last + 1)}

    def daily(name: str) -> Array:
        numbers = np.array(sorted(days), dtype=np.float64)
        values = np.array([getattr(days[int(n)], name) for n in numbers])
        return np.asarray(np.interp(hours, 24.0 * numbers + 12.0, values), dtype=np.float64)

    of_year = hours / 24.0 % 365.25
    hour = hours % 24.0
    years = np.array([_year_factor(int(2000 + h / 24.0 / 365.25)) for h in hours[:: max(1, count // 400)]])
    factor = np.interp(np.arange(count), np.arange(len(years)) * max(1, count // 400), years)
    base = 1.9 + 0.9 * np.cos(2.0 * np.pi * (of_year - 45.0) / 365.25)
    melt = 2.2 * np.exp(-0.5 * ((of_year - 118.0) / 20.0) ** 2)
    quick = np.zeros(count)
    rain = np.zeros(count)
    for number, day in days.items():
        if day.rain_mm <= 0.0:
            continue
        fell = 24.0 * number + day.rain_at_h
        low, high = np.searchsorted(hours, (fell, fell + 24.0 * MEMORY_DAYS))
        quick[low:high] += day.rain_mm * _storm(hours[low:high] - fell)
        low, high = np.searchsorted(hours, (fell, fell + day.rain_for_h))
        rain[low:high] += day.rain_mm / day.rain_for_h
    flow = (base + melt) * factor * (1.0 + 0.3 * daily("noise")) + quick
    swing = 1.7 * (1.0 - 0.6 * daily("cloud")) * np.sin(2.0 * np.pi * (hour - 9.5) / 24.0)
    season = 9.3 - 7.0 * np.cos(2.0 * np.pi * (of_year - 22.0) / 365.25)
    air = season + 2.5 * daily("warmth") + 4.0 * np.sin(2.0 * np.pi * (hour - 9.0) / 24.0)
    warm = np.maximum(0.1, season + 0.8 * daily("warmth") + swing - np.minimum(1.5, 0.4 * quick))
    return Series(
        start=begin,
        step=step,
        flow_m3_s=flow,
        stage_m=0.12 + 0.34 * flow**0.4,
        temperature_c=warm,
        turbidity_fnu=1.8 * np.exp(daily("noise")) + 5.0 * quick**1.2,
        rain_mm_h=rain,
        air_c=air,
        wind_m_s=daily("wind") * (0.7 + 0.5 * np.clip(np.sin(2.0 * np.pi * (hour - 9.0) / 24.0), 0.0, 1.0)),
        cloud=daily("cloud"),
        thunder=np.clip((air - 15.0) / 8.0, 0.0, 1.0)
        * np.clip(rain / 3.0, 0.0, 1.0),  # warm air and hard rain
    )
