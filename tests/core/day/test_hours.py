"""The best of the day. Truth: a made-up river whose temperature is known at every hour; appetite after Elliott, Hurley &
Fryer 1995 (tested by itself); the rest is common practice, no source."""

import math
from collections.abc import Callable

import pytest

from deriva.core.day.hours import Hour, best_hours, carry_temperature, is_worth_it, keenness, warming
from deriva.core.water.light import Light


def past(river: Callable[[float], float], hours: int = 72) -> list[tuple[float, float]]:
    return [(float(h), river(float(h))) for h in range(-hours, 1)]


def swing(mean: float, drift: float = 0.0) -> Callable[[float], float]:
    """A daily swing of 2 °C, warmest six hours from now, with a drift in °C a day."""
    return lambda h: mean + drift * h / 24.0 + 2.0 * math.sin(2.0 * math.pi * h / 24.0)


def test_carried_temperature__repeats_the_day_and_keeps_what_is_off() -> None:
    steady = swing(11.0)
    for ahead in (0.0, 3.0, 6.0, 12.0, 23.0):
        assert carry_temperature(past(steady), ahead_h=ahead) == pytest.approx(steady(ahead), abs=0.05)
    # a cold front an hour ago: the next hours stay cold, and come back towards the days before
    front = [(h, t - 3.0 if h > -1.5 else t) for h, t in past(steady)]
    soon, later = (carry_temperature(front, ahead_h=h) or 0.0 for h in (1.0, 20.0))
    assert soon == pytest.approx(steady(1.0) - 3.0, abs=0.15)
    assert later == pytest.approx(steady(20.0) - 3.0 * (1.0 - 20.0 / 48.0), abs=0.15)
    assert carry_temperature(past(steady, 30), ahead_h=2.0) is None


@pytest.mark.parametrize("drift", [0.0, 0.8, -0.5])
def test_warming__is_the_drift_of_the_daily_mean(drift: float) -> None:
    assert warming(past(swing(9.0, drift))) == pytest.approx(drift, abs=1e-9)


def day(mean: float, *, first_h: int = 0, thunder: float = 0.0) -> list[Hour]:
    """Hours from a dawn: sun up for 14 h, noon at 7, water warmest at 10."""
    hours = []
    for k in range(first_h, 24):
        height = 55.0 * math.sin(math.pi * (k - 0.0) / 14.0) if k <= 14 else -15.0
        water = mean + 2.0 * math.sin(2.0 * math.pi * (k - 4.0) / 24.0)
        hours.append(Hour(float(k), water, Light(height, 180.0, 0.1), thunder))
    return hours


def test_best_hours__cold_days_the_warm_afternoon_hot_days_the_cool_morning() -> None:
    cold, hot = best_hours(day(6.0)), best_hours(day(17.5))
    assert cold is not None
    assert hot is not None
    assert 7.0 <= cold.from_h <= 10.0 < cold.until_h
    assert "warmest" in cold.reason
    assert hot.from_h == 0.0
    assert hot.until_h <= 5.0
    assert "coolest" in hot.reason
    too_hot = best_hours(day(18.5))
    assert too_hot is not None
    assert "20 °C" in too_hot.reason


def test_no_hour_is_worth_it__in_thunder_by_night_or_over_twenty_degrees() -> None:
    assert best_hours(day(11.0, thunder=0.5)) is None
    assert best_hours(day(23.0)) is None
    assert best_hours([]) is None
    hot = day(23.0)
    assert not is_worth_it(hot, best_hours(hot), closed=False)
    assert is_worth_it([], None, closed=False)  # nothing is known of them
    fair = day(11.0)
    assert is_worth_it(fair, best_hours(fair), closed=False)
    assert not is_worth_it([], None, closed=True)
    assert keenness(Hour(0.0, 12.0, Light(-20.0, 0.0, 0.0))) == 0.0
    assert keenness(Hour(0.0, 12.0, None)) == 1.0
