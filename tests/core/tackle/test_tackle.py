"""Truth: trade tables (common practice, no source, from memory), geometry by `scipy`, and Archimedes."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from deriva.core.drift.settling import settling_velocity
from deriva.core.errors import OutOfRange
from deriva.core.tackle.beads import BORE_MM, LADDER_MM, SLOT_MM, bead_mass, bead_volume, ladder_step
from deriva.core.tackle.flies import DRAG_FACTOR, Fly, fly_body, hook_mass, shank_mm
from deriva.core.tackle.floats import DRIES, INDICATORS, indicator
from deriva.core.tackle.materials import TUNGSTEN_BEAD
from deriva.core.tackle.tippet import tippet_diameter, tippet_for_hook


@pytest.mark.parametrize(("mm", "grams"), [(2.0, 0.05), (2.5, 0.11), (3.0, 0.19), (3.5, 0.31), (4.0, 0.47)])
def test_bead_mass__within_15_per_cent_of_the_trade_table(mm: float, grams: float) -> None:
    """Slotted tungsten beads as sold: common practice, no source, from memory."""
    assert 1000.0 * bead_mass(diameter_mm=mm) == pytest.approx(grams, rel=0.15)


@given(st.floats(2.0, 5.0))
def test_bead_volume__is_a_sphere_less_bore_and_slot(mm: float) -> None:
    r, bore = mm / 2.0, BORE_MM / 2.0
    bored, _ = quad(lambda x: 2.0 * math.pi * x * 2.0 * math.sqrt(max(0.0, r * r - x * x)), bore, r)
    slot = SLOT_MM * (math.pi * r * r / 2.0 - BORE_MM * r)
    assert 1e9 * bead_volume(diameter_mm=mm) == pytest.approx(bored - slot, rel=1e-3)
    assert bead_mass(diameter_mm=mm) < TUNGSTEN_BEAD * math.pi / 6.0 * (mm / 1000.0) ** 3


def test_ladder__steps_one_rung_and_stops_at_the_ends() -> None:
    assert ladder_step(3.0, 1) == 3.5
    assert ladder_step(3.1, -1) == 2.5
    assert ladder_step(4.0, 1) == LADDER_MM[-1]
    assert ladder_step(2.0, -1) == LADDER_MM[0]


@pytest.mark.parametrize(("x", "inch"), [(3, 0.008), (5, 0.006), (6, 0.005), (7, 0.004)])
def test_tippet__eleven_less_x_thousandths_of_an_inch(x: int, inch: float) -> None:
    """The trade's standard: 5X is 0.006 in, 0.152 mm."""
    assert tippet_diameter(x=x) == pytest.approx(inch * 0.0254)


@pytest.mark.parametrize("hook", range(8, 23, 2))
def test_tippet__hook_over_three_to_over_four(hook: int) -> None:
    """Common practice, no source; 3X and 7X are the ends of what is fished."""
    x = tippet_for_hook(hook=hook)
    assert 3 <= x <= 7
    assert x in (3, 7) or hook / 4 - 0.5 <= x <= hook / 3 + 0.5


def test_fly__a_dubbed_14_on_a_3_mm_bead_weighs_and_sinks_as_they_do() -> None:
    """Plausible figures of the trade, no source: about 0.26 g, 0.35-0.5 m/s in still water."""
    body = fly_body(Fly("dubbed mayfly nymph", 14, 3.0, "dubbed"), along_m=1.0)
    assert 1000.0 * body.mass_kg == pytest.approx(0.26, rel=0.12)
    assert 0.35 <= settling_velocity(body=body, temperature_c=10.0) <= 0.50


@given(st.sampled_from(LADDER_MM), st.integers(8, 20))
def test_fly__bulk_slows_and_weight_hurries(mm: float, hook: int) -> None:
    speeds = {
        kind: settling_velocity(body=fly_body(Fly("nymph", hook, mm, kind), along_m=1.0), temperature_c=10.0)
        for kind in DRAG_FACTOR
    }
    assert speeds["slim"] > speeds["dubbed"] > speeds["soft"]
    heavier = fly_body(Fly("nymph", hook, mm + 0.5, "dubbed"), along_m=1.0)
    assert settling_velocity(body=heavier, temperature_c=10.0) > speeds["dubbed"]


def test_hook__gets_shorter_and_lighter_with_its_number() -> None:
    lengths = [shank_mm(hook=hook) for hook in range(6, 22, 2)]
    masses = [hook_mass(hook=hook) for hook in range(6, 22, 2)]
    assert lengths == sorted(lengths, reverse=True)
    assert masses == sorted(masses, reverse=True)
    with pytest.raises(OutOfRange, match="hook = 40"):
        shank_mm(hook=40)


@given(st.floats(6.0, 25.0))
def test_float__carries_its_volume_less_its_weight(mm: float) -> None:
    one = indicator(diameter_mm=mm)
    volume = math.pi * (mm / 1000.0) ** 3 / 6.0
    assert one.carries_n == pytest.approx((1000.0 * volume - one.mass_kg) * 9.80665)


def test_floats_and_dries__carry_more_as_they_grow_and_a_small_dry_carries_a_small_bead() -> None:
    """A small CDC dry carries only an unweighted fly or a 2.0-2.5 mm bead, foam a small tungsten one (common practice)."""
    for sizes in (INDICATORS, DRIES):
        assert [f.carries_n for f in sizes] == sorted(f.carries_n for f in sizes)

    def in_water(mm: float) -> float:
        body = fly_body(Fly("nymph", 16, mm, "slim"), along_m=1.0)
        return (body.mass_kg - 1000.0 * body.displaced_m3) * 9.80665

    cdc, foam = DRIES[0], DRIES[-1]
    assert in_water(2.0) < cdc.carries_n < in_water(3.0)
    assert foam.carries_n > in_water(3.5)
