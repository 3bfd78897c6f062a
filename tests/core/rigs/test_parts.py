"""The advisor's parts. Truth: the trade's figures (common practice, no source) and the published limits."""

import math
from dataclasses import replace
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.core.choose.candidates import candidates
from deriva.core.choose.criteria import ramp
from deriva.core.choose.customary import customary_setting
from deriva.core.choose.zone import strike_zone
from deriva.core.drift.steady import steady_drift
from deriva.core.errors import Impossible
from deriva.core.model.caution import LOCAL_RULES
from deriva.core.model.logged import Outcome
from deriva.core.model.quantity import plain, qty
from deriva.core.model.rig import RIG_KINDS, Rig
from deriva.core.model.situation import Fish, School
from deriva.core.model.water import DECILE_Z, Water
from deriva.core.record.tally import tally
from deriva.core.rigs.assemble import assemble
from deriva.core.rigs.limits import limits
from deriva.core.rigs.parts import tip_pace
from deriva.core.say.cautions import cautions
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.floats import INDICATORS
from tests.core.situations import CLEAR_FLAT, RUN


@pytest.mark.parametrize(("depth", "in_use"), [(0.45, 0.20), (1.05, 0.75), (1.0, 0.7), (2.0, 1.4)])
def test_thumb__dry_dropper_by_depth(depth: float, in_use: float) -> None:
    """20 cm in 45 cm of water, 75 cm in a 1.05 m pool, 0.7-1.4 m on slow flats 1-2 m deep."""
    lo, hi = customary_setting(replace(RUN, water=replace(RUN.water, depth_m=depth)), "dry_dropper")
    assert lo <= in_use <= hi


def test_thumb__float_at_1_5_to_2_depths_in_fast_water_and_one_in_slow() -> None:
    fast, slow = (
        replace(RUN, water=replace(RUN.water, depth_m=1.0, surface_speed_m_s=us)) for us in (1.0, 0.2)
    )
    assert customary_setting(fast, "indicator") == pytest.approx((1.5, 2.0), abs=0.01)
    lo, hi = customary_setting(slow, "indicator")
    assert lo <= 1.0 <= hi
    assert customary_setting(replace(fast, school=School(depth="depth")), "indicator") == (lo, hi)


def test_zone__slow_layer_by_the_bed_unless_they_feed_higher() -> None:
    bed = strike_zone(Fish("bottom"), depth_m=1.0, temperature_c=11.0)
    assert (bed.low_m, bed.high_m) == (0.0, 0.25)
    assert strike_zone(Fish("bottom"), depth_m=1.0, temperature_c=3.0).high_m < bed.high_m
    assert strike_zone(Fish("bottom", "grayling"), depth_m=1.0, temperature_c=11.0).high_m < bed.high_m
    assert strike_zone(Fish("mid"), depth_m=1.0, temperature_c=11.0).low_m > bed.high_m
    assert strike_zone(Fish("surface"), depth_m=1.0, temperature_c=11.0).high_m == 1.0


@pytest.mark.parametrize("depth", [1.5, 2.0, 3.5])
def test_zone__of_what_rises_through_deep_water_is_where_it_is_fished(depth: float) -> None:
    """Common practice, no source: 60 to 90 cm below a small float, in water much deeper than that."""
    zone = strike_zone(Fish("mid"), depth_m=depth, temperature_c=11.0)
    down = (depth - zone.high_m, depth - zone.low_m)
    assert 0.4 <= down[0] <= 0.6
    assert 0.9 <= down[1] <= 1.1


def test_depths__five_equal_shares_of_a_log_normal_belief() -> None:
    water = Water(1.2, 0.5, depth_sd_m=0.3)
    depths = water.depths()
    assert depths[2] == pytest.approx(1.2)
    sigma = math.sqrt(math.log1p(0.25**2))
    assert math.log(depths[-1] / 1.2) == pytest.approx(1.2815516 * sigma)
    assert sum(DECILE_Z) == 0.0
    assert list(depths) == sorted(depths)


@given(st.floats(0.6, 2.5), st.sampled_from(["gravel", "cobble"]))
def test_tip_pace__leaves_the_line_nearly_plumb(depth: float, bed: str) -> None:
    """0.86-0.91 of the surface speed over ordinary beds (independent solver): there the fly hangs deepest."""
    situation = replace(RUN, water=Water(depth, 0.7, bed="gravel" if bed == "gravel" else "cobble"))
    pace = tip_pace(situation)
    assert 0.78 <= pace <= 0.93
    rig = Rig("euro", depth + 0.15, Fly("nymph", 12, 3.5, "slim"), None, None, 5, tip_pace=pace)
    column = situation.water.column()
    here = steady_drift(assemble(rig, column)).body_depth_m[0]
    for other in (pace - 0.15, pace + 0.2):
        assert steady_drift(assemble(replace(rig, tip_pace=other), column)).body_depth_m[0] < here
    assert tip_pace(replace(situation, school=School(pace="lead"))) == pytest.approx(pace + 0.05)


def test_candidates__heavy_fly_first_or_at_the_point() -> None:
    for rig in candidates(replace(RUN, school=School(heavy="first")), "euro"):
        assert rig.dropper is not None
        assert (rig.dropper.bead_mm or 0.0) >= (rig.point.bead_mm or 0.0)
    assert all(rig.dropper is None for rig in candidates(replace(RUN, school=School(flies="one")), "euro"))


def test_limits__reach_every_setting_that_is_advised() -> None:
    for situation in (RUN, CLEAR_FLAT):
        for kind in RIG_KINDS:
            by_hand = limits(situation, kind)
            for rig in candidates(situation, kind):
                assert by_hand.depth_setting_m.lo <= rig.depth_setting_m <= by_hand.depth_setting_m.hi
                assert rig.point.bead_mm in by_hand.beads_mm


def test_rig__keeps_its_parts_together() -> None:
    fly = Fly("nymph", 14, 3.0, "dubbed")
    with pytest.raises(Impossible, match="takes no float"):
        Rig("euro", 1.2, fly, None, None, 5, float_=INDICATORS[0])
    with pytest.raises(Impossible, match="needs a float"):
        Rig("indicator", 1.2, fly, None, None, 5)
    with pytest.raises(Impossible, match="does not fit"):
        Rig("euro", 0.4, fly, fly, 0.45, 5)
    shot = Rig("indicator", 1.2, fly, None, None, 5, shot_g=0.2, float_=INDICATORS[1])
    bodies = assemble(shot, RUN.water.column()).bodies
    assert bodies[0].along_m - bodies[1].along_m == pytest.approx(0.20)  # 15-25 cm in use


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"temperature_c": 20.5}, "Stop: at 20.5 °C"),
        ({"temperature_c": 18.5}, "Warm at 18.5 °C"),
        ({"temperature_c": 2.0}, "Wear a belt"),
        ({"depth_m": 1.5}, "over the waist"),
        ({"surface_speed_m_s": 1.4}, "Do not wade the lie itself"),
        ({"flow_class": "much_above_normal"}, "never wade alone"),
    ],
)
def test_cautions__say_what_could_hurt(change: dict[str, object], words: str) -> None:
    """Stop at 20 °C, care from 18 (practice of authorities); wading after the published rules; cold, high water."""
    said = cautions(replace(RUN, water=replace(RUN.water, **change)))  # type: ignore[arg-type]
    assert any(words in plain(one.text) for one in said)
    assert said[-1] == LOCAL_RULES


def test_wording__takes_marks_off() -> None:
    assert (
        plain(f"lands {qty(1.604, 'm', 1)} above in {qty(5, 'm/s air', 0)}") == "lands 1.6 m above in 5 m/s"
    )


@given(st.floats(-10, 10), st.floats(-5, 5), st.floats(-5, 5))
def test_ramp__stays_between_nought_and_one(x: float, one: float, nought: float) -> None:
    if abs(one - nought) > 1e-6:
        assert 0.0 <= ramp(x, one, nought) <= 1.0
        assert ramp(one, one, nought) == pytest.approx(1.0)
        assert ramp(nought, one, nought) == pytest.approx(0.0)


def test_tally__a_lost_fly_was_a_hang_up_and_a_missed_take_no_touch() -> None:
    counted = tally(dict.fromkeys(get_args(Outcome), 1))
    assert (counted.drifts, counted.touches, counted.hung, counted.fish, counted.missed) == (6, 3, 2, 1, 1)
