"""Truth: Leopold & Maddock 1953 (exponents), synthetic rivers whose exponents are known, and Bayes by brute force."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from deriva.core.errors import Impossible, OutOfRange
from deriva.core.water.geometry import (
    DEPTH_EXPONENT,
    EXPONENT_SD,
    SCATTER,
    SPEED_EXPONENT,
    WIDTH_EXPONENT,
    Observed,
    carry,
    fit_rating,
)


def test_exponents__add_up_to_one() -> None:
    """Width × depth × speed is the flow: b + f + m = 1 (Leopold & Maddock 1953)."""
    assert pytest.approx(1.0) == WIDTH_EXPONENT + DEPTH_EXPONENT + SPEED_EXPONENT


@given(st.floats(0.2, 0.7), st.floats(0.3, 2.0), st.integers(0, 10**6))
@settings(max_examples=40)
def test_rating__recovers_a_known_exponent_from_synthetic_readings(f: float, c: float, seed: int) -> None:
    rng = np.random.default_rng(seed)
    flows = np.exp(rng.uniform(math.log(0.5), math.log(30.0), 60))
    seen = [Observed(float(q), float(c * q**f * math.exp(rng.normal(0.0, 0.05))), 0.05) for q in flows]
    rating = fit_rating(seen, exponent=DEPTH_EXPONENT)
    assert rating.exponent == pytest.approx(f, abs=4.0 * rating.exponent_sd)
    assert rating.exponent_sd < 0.02
    there = carry(rating, flow_m3_s=5.0)
    assert there.value == pytest.approx(c * 5.0**f, rel=0.06)


def test_one_reading__is_carried_by_the_published_exponent() -> None:
    rating = fit_rating([Observed(2.0, 0.8, 0.05)], exponent=DEPTH_EXPONENT)
    assert rating.exponent == pytest.approx(DEPTH_EXPONENT)
    assert rating.exponent_sd == pytest.approx(EXPONENT_SD)
    assert carry(rating, flow_m3_s=2.0).value == pytest.approx(0.8)
    assert carry(rating, flow_m3_s=4.0).value == pytest.approx(0.8 * 2.0**DEPTH_EXPONENT)
    at_home, away, far = (carry(rating, flow_m3_s=q).relative_sd for q in (2.0, 4.0, 16.0))
    assert math.hypot(0.05, SCATTER) < at_home < away < far


def test_eye__counts_less_than_the_staff() -> None:
    staff, eye = Observed(2.0, 0.8, 0.05), Observed(2.0, 1.2, 0.25)
    both = carry(fit_rating([staff, eye], exponent=DEPTH_EXPONENT), flow_m3_s=2.0)
    assert abs(both.value - 0.8) < abs(both.value - 1.2) / 4.0
    assert both.relative_sd < carry(fit_rating([eye], exponent=DEPTH_EXPONENT), flow_m3_s=2.0).relative_sd


def test_posterior__is_that_of_bayes_by_brute_force() -> None:
    seen = [Observed(1.0, 0.5, 0.1), Observed(3.0, 0.9, 0.2), Observed(6.0, 1.0, 0.05)]
    rating = fit_rating(seen, exponent=DEPTH_EXPONENT)
    levels, slopes = np.linspace(-1.5, 1.0, 801), np.linspace(-0.2, 1.0, 801)
    a, b = np.meshgrid(levels, slopes, indexing="ij")
    log_p = -0.5 * ((b - DEPTH_EXPONENT) / EXPONENT_SD) ** 2
    for one in seen:
        sd = math.hypot(one.relative_error, SCATTER)
        log_p += -0.5 * ((math.log(one.value) - a - b * (math.log(one.flow_m3_s) - rating.centre)) / sd) ** 2
    p = np.exp(log_p - log_p.max())
    p /= p.sum()
    assert rating.level == pytest.approx(float((p * a).sum()), abs=2e-3)
    assert rating.exponent == pytest.approx(float((p * b).sum()), abs=2e-3)
    assert rating.exponent_sd == pytest.approx(
        math.sqrt(float((p * (b - rating.exponent) ** 2).sum())), rel=0.01
    )


def test_rating__refuses_nothing_and_nonsense() -> None:
    with pytest.raises(Impossible, match="at least one"):
        fit_rating([], exponent=DEPTH_EXPONENT)
    with pytest.raises(Impossible, match="above zero"):
        fit_rating([Observed(1.0, 0.0, 0.1)], exponent=DEPTH_EXPONENT)
    with pytest.raises(OutOfRange, match="flow_m3_s = -1"):
        carry(fit_rating([Observed(1.0, 0.5, 0.1)], exponent=DEPTH_EXPONENT), flow_m3_s=-1.0)
