"""Bubbles, soundings and wading. Truth: arithmetic, and the published rules."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.core.errors import OutOfRange
from deriva.core.model.water import Water
from deriva.core.say.cautions import heed
from deriva.core.water.profile import BedKind
from deriva.core.water.sounding import depth_sd
from deriva.core.water.timing import DISTANCE_ERROR, bubble_speed
from deriva.core.water.wading import FOOT_M, Wading, wading


def test_bubble__three_metres_in_four_seconds() -> None:
    timed = bubble_speed(distance_m=3.0, seconds=4.0)
    assert timed.speed_m_s == pytest.approx(0.75)
    # by hand: √(2)·0.25/4 = 8.8 % of the thumb and 8 % of the distance, in quadrature 11.9 %
    assert timed.error_m_s == pytest.approx(0.75 * 0.1193, abs=0.001)


@given(st.floats(1.0, 30.0), st.floats(2.0, 60.0))
def test_bubble__a_longer_watch_is_a_better_one(distance: float, seconds: float) -> None:
    speed = distance / seconds
    if not 0.01 <= speed <= 4.0 or not 2.0 * distance <= 50.0:
        return
    once, twice = (
        bubble_speed(distance_m=k * distance, seconds=k * seconds).error_m_s / speed for k in (1.0, 2.0)
    )
    assert DISTANCE_ERROR < twice < once


@pytest.mark.parametrize(
    ("distance", "seconds", "field"), [(0.1, 4, "distance"), (3, 0.0, "seconds"), (50, 0.3, "speed")]
)
def test_bubble__names_what_is_wrong(distance: float, seconds: float, field: str) -> None:
    with pytest.raises(OutOfRange, match=field):
        bubble_speed(distance_m=distance, seconds=seconds)


def test_sounding__a_staff_beats_a_line_beats_the_eye() -> None:
    assert (
        depth_sd(depth_m=1.0, how="staff")
        < depth_sd(depth_m=1.0, how="line")
        < depth_sd(depth_m=1.0, how="eye")
    )


@pytest.mark.parametrize(
    ("depth", "speed", "hazard"),
    [
        (0.5, 1.1, "low"),
        (0.7, 1.0, "moderate"),
        (0.9, 1.0, "significant"),
        (1.1, 1.1, "extreme"),
        (1.25, 0.1, "extreme"),
        (0.2, 3.1, "extreme"),
    ],
)
def test_wading__classes_of_cox_shand_blacka_2010(depth: float, speed: float, hazard: str) -> None:
    """Cox, Shand & Blacka 2010: adults 0.6 / 0.8 / 1.2 m²/s, limits of 1.2 m and 3.0 m/s (from memory)."""
    assert wading(depth_m=depth, mean_speed_m_s=speed).hazard == hazard


@given(st.floats(0.1, 1.19), st.floats(0.05, 2.9))
def test_wading__never_laxer_than_either_rule(depth: float, speed: float) -> None:
    """USGS field rule, depth (ft) × speed (ft/s) ≥ 10 (from memory), against the classes above."""
    judged = wading(depth_m=depth, mean_speed_m_s=speed)
    if depth / FOOT_M * speed / FOOT_M >= 10.0 or depth * speed >= 0.8:
        assert not judged.wade
    assert judged.product_m2_s == pytest.approx(depth * speed)


def test_wading__the_two_rules_all_but_agree() -> None:
    """10 ft²/s is 0.93 m²/s: between `significant` and `extreme` of the other source, so that one binds first."""
    assert math.isclose(10.0 * FOOT_M**2, 0.929, abs_tol=1e-3)
    assert not wading(depth_m=0.85, mean_speed_m_s=1.0).wade


@given(st.floats(0.05, 1.19), st.floats(0.05, 3.5), st.sampled_from(["sand", "gravel", "cobble", "boulder"]))
def test_heed__says_by_its_table_what_the_rules_say(depth: float, surface: float, bed: BedKind) -> None:
    """A look-up in the row at or below the depth is never laxer than the rules, and at a row's own depth it is the rules."""
    table = heed(bed, wading_allowed=True)
    row = next(k for k, deep in enumerate(table.depths_m) if deep >= depth)

    def judged(depth_m: float) -> Wading:
        water = Water(depth_m=depth_m, surface_speed_m_s=surface, bed=bed)
        return wading(depth_m=depth_m, mean_speed_m_s=water.mean_speed_m_s)

    if not judged(depth).wade:
        assert surface >= table.never_m_s[row] * (1.0 - 1e-9)
    if abs(surface - table.never_m_s[row]) > 1e-6:
        assert judged(table.depths_m[row]).wade == (surface < table.never_m_s[row])
    if abs(surface - table.staff_m_s[row]) > 1e-6:
        assert (judged(table.depths_m[row]).hazard == "low") == (surface < table.staff_m_s[row])
