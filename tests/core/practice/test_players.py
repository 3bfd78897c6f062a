"""Who fishes beside one: each by the rule that is said of it, and by what was logged alone."""

from dataclasses import replace

import pytest

from deriva.bench.learners import PACE_STEP_M, by_pace, by_weight
from deriva.core.model.logged import LoggedDrift, Outcome, Pace
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.practice.players import SOUND_M, as_is, by_thumb, reset, sounding, tied_by_thumb
from deriva.core.rigs.resolve import resolve

SLOW = Situation(Water(1.0, 0.4, "run", 0.3), Place(6.0))
FAST = Situation(Water(1.0, 0.8, "run", 0.3), Place(6.0))
ON = resolve(Tuning("indicator", 1.0, 3.0), SLOW)


def logged(*outcomes: Outcome, rig: Rig = ON, pace: Pace | None = None) -> list[LoggedDrift]:
    return [LoggedDrift(rig, one, pace) for one in outcomes]


def test_sounder__goes_down_by_a_step_until_it_touches_and_half_a_step_back() -> None:
    after = sounding(SLOW, ON, logged("clean"))
    assert after.depth_setting_m == pytest.approx(1.0 + SOUND_M)
    touched = [*logged("clean"), LoggedDrift(after, "tick")]
    back = sounding(SLOW, after, touched)
    assert back.depth_setting_m == pytest.approx(1.0 + 0.5 * SOUND_M)
    later = [*touched, *logged("clean", rig=back)]
    assert sounding(SLOW, back, later) == by_thumb(SLOW, back, later)


def test_nobody__changes_what_cannot_hang() -> None:
    assert reset(ON, 1.0, 3.0, SLOW) is ON
    assert reset(ON, 99.0, 3.0, SLOW) is ON
    assert as_is(SLOW, ON, logged("hung", "hung", "hung")) is ON


def test_thumb__ties_one_fly_at_the_customary_length() -> None:
    tied = tied_by_thumb(SLOW, "indicator")
    assert tied.dropper is None
    assert 0.95 <= tied.depth_setting_m / SLOW.water.depth_m <= 2.0
    assert tied_by_thumb(FAST, "indicator").depth_setting_m > tied.depth_setting_m


def test_lesson_of_weight__hangs_a_heavier_bead_in_fast_water_once_the_line_is_long() -> None:
    long = replace(resolve(Tuning("indicator", 1.5, 3.0), FAST))
    heavier = by_weight(FAST, long, logged("clean", rig=long))
    assert heavier.point.bead_mm == 3.5
    assert heavier.depth_setting_m == long.depth_setting_m
    assert by_weight(SLOW, long, logged("clean", rig=long)).depth_setting_m > long.depth_setting_m
    # once it has touched, the rule of thumb goes on
    assert by_weight(FAST, long, logged("tick", "clean", rig=long)).point.bead_mm == 3.0


def test_lesson_of_pace__takes_a_larger_step_where_the_float_says_that_nothing_is_down() -> None:
    quick = by_pace(SLOW, ON, logged("clean", pace="faster"))
    assert quick.depth_setting_m == pytest.approx(1.0 + PACE_STEP_M)
    slower = by_pace(SLOW, ON, logged("clean", pace="slower"))
    assert slower.depth_setting_m == pytest.approx(1.0 + SOUND_M)
    assert by_pace(SLOW, ON, logged("clean")).depth_setting_m == pytest.approx(1.0 + SOUND_M)
