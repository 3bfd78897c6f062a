"""Truth: Elliott, Hurley & Fryer 1995 (from memory), the rule of ten degrees by trigonometry, Barrett and others 1992."""

from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.core.water.appetite import (
    KNEELING_M,
    LEAST_MOVE_M,
    MOVES_M,
    STANDING_M,
    THERMAL,
    Species,
    appetite,
    moves,
    standoff,
)
from deriva.core.water.clarity import clarity


def test_appetite__growth_limits_of_brown_trout() -> None:
    """3.56, 13.11, 19.48 °C; about 10-16 everything works, about 2 torpid (common practice)."""
    low, best, high = THERMAL["brown trout"].growth_c
    assert (low, best, high) == (3.56, 13.11, 19.48)
    assert appetite(temperature_c=best) == 1.0
    assert appetite(temperature_c=high) == 0.0
    assert appetite(temperature_c=2.0) == appetite(temperature_c=low) == 0.1
    assert appetite(temperature_c=11.0) == appetite(temperature_c=15.5) == 1.0


@pytest.mark.parametrize("species", get_args(Species))
def test_appetite__is_full_at_the_optimum_and_none_at_the_upper_limit(species: Species) -> None:
    """Rainbow trout: best near 17.2, none at 23 °C (Hokanson, Kleiner & Thorslund 1977, from memory)."""
    _, best, high = THERMAL[species].growth_c
    assert appetite(temperature_c=best, species=species) == 1.0
    assert appetite(temperature_c=high, species=species) == 0.0
    assert appetite(temperature_c=18.0, species="rainbow trout") > appetite(temperature_c=18.0)
    assert appetite(temperature_c=12.0, species="char") == appetite(temperature_c=12.0)


@given(st.floats(0.0, 30.0), st.floats(0.02, 10.0))
def test_moves__never_further_than_a_keen_fish_in_clear_water(t: float, boots: float) -> None:
    assert LEAST_MOVE_M <= moves(temperature_c=t, clarity_m=boots) <= MOVES_M


def test_moves__less_far_in_coloured_water_by_what_it_sees() -> None:
    at = {ntu: moves(temperature_c=13.0, clarity_m=clarity(turbidity_fnu=ntu)) for ntu in (5.0, 15.0, 30.0)}
    assert at[15.0] / at[5.0] == pytest.approx(0.80)
    assert at[30.0] / at[5.0] == pytest.approx(0.45)


@pytest.mark.parametrize(("height", "metres"), [(STANDING_M, 9.6), (KNEELING_M, 5.7)])
def test_standoff__rule_of_ten_degrees(height: float, metres: float) -> None:
    """1.7 m tall: 9.6 m; kneeling, 1.0 m: 5.7 m (height over the tangent of 10°)."""
    assert standoff(height_m=height, clarity_m=3.0) == pytest.approx(metres, abs=0.05)
    assert standoff(height_m=height, clarity_m=0.25) < 0.6 * metres
