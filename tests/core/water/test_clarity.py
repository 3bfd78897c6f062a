"""Truth: Myre & Shaw 2006 and Barrett, Grossman & Rosenfeld 1992, both from memory."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.core.errors import OutOfRange
from deriva.core.water.clarity import clarity, reaction_share, turbidity
from deriva.core.water.flow import same_days


@pytest.mark.parametrize(("ntu", "tube_cm"), [(10.0, 53.2), (50.0, 18.3), (100.0, 11.6)])
def test_clarity__turbidity_tube(ntu: float, tube_cm: float) -> None:
    """244.13·NTU^−0.662 by hand: 10^0.662 = 4.592, 50^0.662 = 13.33, 100^0.662 = 21.09."""
    assert 100.0 * clarity(turbidity_fnu=ntu) == pytest.approx(tube_cm, rel=0.005)


@given(st.floats(0.5, 500.0))
def test_clarity__there_and_back(ntu: float) -> None:
    if 0.03 < clarity(turbidity_fnu=ntu) < 9.9:
        assert turbidity(clarity_m=clarity(turbidity_fnu=ntu)) == pytest.approx(ntu)


@pytest.mark.parametrize(
    ("ntu", "share"), [(1, 1.0), (5, 1.0), (15, 0.80), (22.5, 0.625), (30, 0.45), (400, 0.45)]
)
def test_reaction_distance__falls_with_turbidity(ntu: float, share: float) -> None:
    """15 NTU 80 %, 30 NTU 45 % of that in 4-6 NTU (Barrett and others 1992)."""
    assert reaction_share(turbidity_fnu=ntu) == pytest.approx(share)


def test_clarity__refuses_what_is_no_water() -> None:
    with pytest.raises(OutOfRange, match="turbidity_fnu"):
        clarity(turbidity_fnu=-1.0)


def test_same_days__reach_around_the_turn_of_the_year() -> None:
    history = [(3.0, 1.0), (362.0, 2.0), (180.0, 3.0), (8.0, 4.0)]
    assert same_days(history, 364.0) == [1.0, 2.0]
    assert same_days(history, 1.0) == [1.0, 2.0, 4.0]
