"""How deep a fly runs among stones, against the same stones drawn one by one."""

import math

import numpy as np
import pytest
from scipy.integrate import quad
from scipy.stats import lognorm

from deriva.core.choose.zone_time import until_hung
from deriva.core.drift.touching import EDDY_M, STONES_LN, deep_as_met

D84_M = 0.06


def among(under_m: float) -> float:
    """Return the mean share of the stones that a height is under, by quadrature over their sizes."""
    if under_m <= 0.0:
        return 1.0
    sizes = lognorm(STONES_LN, scale=D84_M * math.exp(-STONES_LN))
    assert sizes.cdf(D84_M) == pytest.approx(0.8413, abs=1e-4)  # what D84 means
    found: float = quad(lambda top: (1.0 - under_m / top) * sizes.pdf(top), under_m, np.inf)[0]
    return found


@pytest.mark.parametrize("under_m", [0.0, 0.01, 0.03, 0.05, 0.08, 0.12])
def test_fly__runs_as_deep_among_stones_as_the_mean_over_their_sizes(under_m: float) -> None:
    lifted_and_dropped = 0.5 * (among(under_m - EDDY_M) + among(under_m + EDDY_M))
    assert deep_as_met(under_m, D84_M, False) == pytest.approx(lifted_and_dropped, abs=1e-6)


def test_fly__that_lies_on_the_bed_is_lifted_off_it_now_and_then() -> None:
    lies = deep_as_met(0.0, D84_M, True)
    assert lies == deep_as_met(0.5, D84_M, True) == deep_as_met(-0.1, D84_M, False)
    assert 0.5 < lies < 1.0
    heights = [deep_as_met(k / 200, D84_M, False) for k in range(60)]
    assert heights == sorted(heights, reverse=True)
    assert heights[-1] == pytest.approx(0.0, abs=1e-6)


@pytest.mark.parametrize("rate", [0.0, 1e-30, 1e-17, 1e-12, 1e-6])
def test_rate__of_next_to_nothing_takes_nothing_from_a_drift(rate: float) -> None:
    stays, chance = until_hung(8.0, rate, 2.0, 1.0, 15.0)
    assert stays == pytest.approx(8.0, abs=1e-4)
    assert 0.0 <= chance <= 15.0 * rate
