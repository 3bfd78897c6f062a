"""The record. Truth: standard weights and intervals as published (named below; from memory), and `scipy`."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from deriva.core.errors import Impossible
from deriva.core.record.effort import rate
from deriva.core.record.weight import standard_weight
from deriva.core.water.window import window_across, window_cone_deg


@pytest.mark.parametrize(
    ("species", "grams"),
    [
        ("rainbow trout", 701),  # Simpkins & Hubert 1996
        ("brown trout", 684),  # Milewski & Brown 1994
        ("brook trout", 773),  # Hyatt & Hubert 2001
        ("Cutthroat Trout ", 750),  # Kruse & Hubert 1997
        ("mountain whitefish", 651),  # Rogers, Bergersen & Smith 1996
    ],
)
def test_weight__of_a_fish_of_400_mm(species: str, grams: int) -> None:
    assert standard_weight(species=species, length_mm=400.0) == pytest.approx(grams, abs=1.0)


def test_weight__is_not_made_up_for_others() -> None:
    assert standard_weight(species="grayling", length_mm=350.0) is None


@given(st.integers(0, 60), st.integers(1, 60))
def test_rate__is_the_jeffreys_interval(fish: int, more: int) -> None:
    """Brown, Cai & DasGupta 2001: Beta(x + ½, n - x + ½), its ends put to 0 and 1 where nothing or all was caught."""
    drifts = fish + more
    found = rate(fish=fish, drifts=drifts)
    assert found is not None
    posterior = stats.beta(fish + 0.5, drifts - fish + 0.5)
    assert found.median == pytest.approx(posterior.median(), rel=1e-6)
    assert found.high == pytest.approx(posterior.ppf(0.95), rel=1e-6)
    assert found.low == pytest.approx(posterior.ppf(0.05) if fish else 0.0, rel=1e-6)


def test_rate__needs_a_drift_and_no_more_fish_than_drifts() -> None:
    assert rate(fish=0, drifts=0) is None
    with pytest.raises(Impossible, match="fish = 4"):
        rate(fish=4, drifts=3)


def test_window__is_a_cone_of_97_degrees() -> None:
    """Snell's law with n = 1.333: full cone 97.2°."""
    assert window_cone_deg() == pytest.approx(97.2, abs=0.05)
    assert window_across(depth_m=1.0) == pytest.approx(2.0 / math.sqrt(1.333**2 - 1.0), rel=1e-9)
