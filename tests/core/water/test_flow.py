"""Truth: the Weibull position and USGS classes, `scipy.stats`, and recessions whose rate is known."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import linregress, mstats

from deriva.core.water.flow import against_normal, flow_class, quantile, rank_share, recession, trend

FLOWS = st.lists(st.floats(0.1, 100.0), min_size=5, max_size=60)


def test_rank_share__weibull_position() -> None:
    """r/(n + 1): the largest of nine stands at 0.9 (any text of hydrology)."""
    others = [float(k) for k in range(1, 9)]
    assert rank_share(100.0, others) == pytest.approx(8.5 / 9.0)
    assert rank_share(0.5, others) == pytest.approx(0.5 / 9.0)
    assert rank_share(4.0, others) == pytest.approx((3 + 0.5 + 0.5) / 9.0)


@given(FLOWS, st.floats(0.05, 0.95))
def test_quantile__weibull_as_scipy_has_it(values: list[float], share: float) -> None:
    assert quantile(values, share) == pytest.approx(
        float(mstats.mquantiles(values, [share], alphap=0, betap=0)[0])
    )


@pytest.mark.parametrize(
    ("share", "name"),
    [
        (0.05, "much_below_normal"), (0.10, "below_normal"), (0.24, "below_normal"), (0.25, "normal"), (0.75, "normal"),
        (0.76, "above_normal"), (0.90, "much_above_normal"), (0.99, "much_above_normal"),
    ],
)  # fmt: skip
def test_flow_class__usgs_convention(share: float, name: str) -> None:
    """Below the 10th percentile, 10-24, 25-75, 76-90, over 90 (USGS convention)."""
    assert flow_class(share) == name


def test_against_normal__a_middling_flow_is_normal_and_few_years_say_nothing() -> None:
    same_days = [float(q) for q in range(1, 101)]
    judged = against_normal(50.0, same_days, years=12)
    assert judged is not None
    assert judged.flow_class == "normal"
    assert (judged.low_m3_s, judged.high_m3_s) == pytest.approx((25.25, 75.75))
    high = against_normal(99.5, same_days, years=12)
    assert high is not None
    assert high.flow_class == "much_above_normal"
    assert against_normal(50.0, same_days, years=4) is None


@given(st.floats(-0.2, 0.2), st.integers(0, 1000))
def test_trend__is_the_slope_of_the_logarithm(per_h: float, seed: int) -> None:
    hours = [0.25 * k for k in range(24)]
    noise = np.random.default_rng(seed).normal(0.0, 0.01, 24)
    flows = [5.0 * math.exp(per_h * h + e) for h, e in zip(hours, noise, strict=True)]
    found = trend(hours, flows)
    assert found.per_h == pytest.approx(math.expm1(linregress(hours, np.log(flows)).slope), abs=1e-9)
    if abs(per_h) > 0.03:
        assert found.direction == ("rising" if per_h > 0 else "falling")


@given(st.floats(6.0, 200.0), st.floats(1.1, 5.0))
def test_recession__half_life_and_arrival_are_those_it_was_made_with(half_life: float, excess: float) -> None:
    hours = [float(k) for k in range(13)]
    flows = [10.0 * 0.5 ** (h / half_life) for h in hours]
    target = flows[-1] / excess
    found = recession(hours, flows, target_m3_s=target)
    if half_life > math.log(2.0) / 0.0025:
        return
    assert found is not None
    assert found.half_life_h == pytest.approx(half_life)
    assert found.reached_in_h == pytest.approx(half_life * math.log2(excess))
    assert found.earliest_h < found.reached_in_h < found.latest_h


def test_recession__a_rising_or_a_low_river_has_none() -> None:
    hours = [0.0, 1.0, 2.0, 3.0, 4.0]
    assert recession(hours, [5.0, 5.5, 6.0, 7.0, 8.0], target_m3_s=4.0) is None
    assert recession(hours, [5.0, 4.8, 4.6, 4.4, 4.2], target_m3_s=4.5) is None
