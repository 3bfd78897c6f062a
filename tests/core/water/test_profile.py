"""Truth: the integral of each law by `scipy`, and ratios of the log law from open-channel texts."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from deriva.core.errors import OutOfRange
from deriva.core.water.profile import (
    BED_KS,
    PROFILE_CODE,
    ProfileKind,
    current_speed,
    is_shallow_for_stones,
    mean_to_surface,
    profile_over,
    stone_height,
)

KS = 0.03
DEPTHS = st.floats(0.2, 4.0)
BEDS = st.sampled_from(sorted(BED_KS.values()))
PROFILES = st.sampled_from(sorted(PROFILE_CODE))


@pytest.mark.parametrize(
    ("ratio", "mean"), [(2, 0.760), (5, 0.802), (10, 0.825), (20, 0.844), (50, 0.863), (100, 0.875)]
)
def test_log_law__mean_over_surface_by_depth_over_ks(ratio: float, mean: float) -> None:
    """Nikuradse's rough-bed law, integrated; any open-channel text."""
    assert mean_to_surface(depth_m=ratio * KS, bed_ks_m=KS) == pytest.approx(mean, abs=0.001)


@pytest.mark.parametrize(("ratio", "share"), [(5, 0.54), (20, 0.64), (100, 0.71)])
def test_log_law__speed_at_a_tenth_of_the_depth(ratio: float, share: float) -> None:
    depth = ratio * KS
    speed = current_speed(height_m=0.1 * depth, depth_m=depth, surface_speed_m_s=1.0, bed_ks_m=KS)
    assert speed == pytest.approx(share, abs=0.006)


def test_log_law__mean_speed_stands_at_0_6_of_the_depth_below_the_surface() -> None:
    """The field rule of stream gauging: measure at 0.6 of the depth (0.37 of it above the bed)."""
    depth, ks = 1.0, 0.02
    at = current_speed(height_m=0.37 * depth, depth_m=depth, surface_speed_m_s=1.0, bed_ks_m=ks)
    assert at == pytest.approx(mean_to_surface(depth_m=depth, bed_ks_m=ks), abs=0.003)


def test_power_law__mean_is_six_sevenths() -> None:
    assert mean_to_surface(depth_m=1.0, bed_ks_m=0.04, profile="power") == pytest.approx(6 / 7)


def test_float_method__coefficient_of_natural_beds() -> None:
    """0.84-0.90 of the surface speed (ISO 748; Rantz and others 1982; both from memory), for metre-deep gravel."""
    assert 0.84 <= mean_to_surface(depth_m=1.0, bed_ks_m=BED_KS["gravel"]) <= 0.90


@given(DEPTHS, BEDS, PROFILES, st.floats(0.05, 3.0))
def test_profile__mean_is_the_integral(depth: float, ks: float, profile: ProfileKind, us: float) -> None:
    if ks > 0.5 * depth:
        return

    def speed(z: float) -> float:
        return current_speed(height_m=z, depth_m=depth, surface_speed_m_s=us, bed_ks_m=ks, profile=profile)

    area, _ = quad(speed, 0.0, depth, points=[ks / 30.0, ks / 3.5, 0.1 * depth], limit=200)
    ratio = mean_to_surface(depth_m=depth, bed_ks_m=ks, profile=profile)
    assert ratio * us * depth == pytest.approx(area, rel=1e-4)
    assert speed(depth) == pytest.approx(us)
    assert speed(0.0) == (us if profile == "uniform" else 0.0)


@given(DEPTHS, BEDS)
def test_profile__rises_to_the_surface_but_for_an_undertow(depth: float, ks: float) -> None:
    if ks > 0.5 * depth:
        return
    heights = [depth * k / 20 for k in range(1, 21)]

    def speeds(profile: ProfileKind) -> list[float]:
        at = {"depth_m": depth, "surface_speed_m_s": 0.7, "bed_ks_m": ks}
        return [current_speed(height_m=z, profile=profile, **at) for z in heights]

    assert all(a <= b for a, b in pairwise(speeds("log")))
    assert all(a <= b for a, b in pairwise(speeds("stones")))
    assert all(a <= b + 1e-12 for a, b in zip(speeds("stones"), speeds("log"), strict=True))
    assert all(a <= b for a, b in pairwise(speeds("power")))
    assert all(a > b for a, b in pairwise(speeds("undertow")))


def test_stones__stand_up_by_their_d84_and_make_thin_water() -> None:
    """ks is about 3.5 D84 (Hey 1979, from memory); the log law wants a depth of about 3 ks."""
    assert 3.5 * stone_height(bed_ks_m=0.12) == pytest.approx(0.12)
    assert is_shallow_for_stones(depth_m=0.35, bed_ks_m=0.12)
    assert profile_over(depth_m=0.35, bed_ks_m=0.12) == "stones"
    assert profile_over(depth_m=0.37, bed_ks_m=0.12) == "log"
    assert not is_shallow_for_stones(depth_m=0.37, bed_ks_m=0.12)


def test_profile__refuses_what_is_no_river() -> None:
    with pytest.raises(OutOfRange, match="depth_m = 12"):
        current_speed(height_m=0.1, depth_m=12.0, surface_speed_m_s=1.0, bed_ks_m=0.04)
