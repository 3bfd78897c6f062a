"""The made-up seasons before they are written: days, habits, and waters that are misread as their readings own to."""

import random
import statistics
from dataclasses import replace
from datetime import UTC, datetime

import numpy as np
import pytest

from deriva.core.model.situation import Place, Situation
from deriva.core.model.water import Water
from deriva.service.usecases.demo_seasons import (
    AT_DUSK,
    BY_BEAD,
    BY_KIND,
    FORMS,
    KEEN,
    OUTINGS,
    SEASON,
    STATES,
    Day,
    days,
    habit,
    hidden_on,
    keenness,
)

NOW = datetime(2026, 11, 28, tzinfo=UTC)
MILD = Day(datetime(2026, 6, 1, 10, tzinfo=UTC), "normal", 12.0, 0.0)


def seasons(now: datetime = NOW, seed: int = 20) -> list[Day]:
    """Return the days as the demo draws them, or as it would from another seed."""
    return days(random.Random(seed), now)


def test_days__are_of_the_last_two_whole_seasons_and_the_same_until_the_next_is_over() -> None:
    found = seasons()
    assert len(found) == OUTINGS >= 60
    assert {one.at.year for one in found} == {2025, 2026}
    assert all(SEASON[0] <= one.at.month <= SEASON[1] for one in found)
    assert [one.at for one in found] == sorted(one.at for one in found)
    assert seasons(datetime(2027, 3, 1, tzinfo=UTC)) == found
    assert {one.at.year for one in seasons(datetime(2026, 7, 1, tzinfo=UTC))} == {2024, 2025}


def test_days__are_high_in_spring_and_low_and_warm_in_summer() -> None:
    found = [one for seed in range(20) for one in seasons(seed=seed)]  # two seasons may be otherwise by luck
    spring = [one for one in found if one.at.month in (4, 5)]
    summer = [one for one in found if one.at.month in (7, 8)]
    warmth = [statistics.mean(one.temperature_c for one in some) for some in (spring, summer)]
    heights = [statistics.mean(one.height for one in some) for some in (spring, summer)]
    assert warmth[0] + 3.0 < warmth[1]
    assert heights[0] > heights[1]
    for state in STATES:  # clear when low, and called by what the gauge would say
        of = [one for one in found if one.state == state]
        assert len({(one.clarity_m, one.flow_class, one.height) for one in of}) == 1
    clear = {one.state: one.clarity_m for one in found}
    assert clear["low"] > clear["normal"] > clear["high"]


def test_habit__is_heavy_in_high_water_which_the_log_has_to_see_through() -> None:
    rng = random.Random(1)
    beads = {state: [habit(rng, replace(MILD, state=state)) for _ in range(400)] for state in ("low", "high")}
    for some in beads.values():
        assert all(bead <= 2.5 for kind, bead in some if kind == "dry_dropper")
    of = {state: statistics.mean(bead for _, bead in some) for state, some in beads.items()}
    assert of["high"] > of["low"] + 0.3


def test_keenness__is_what_was_planted_and_multiplies() -> None:
    best = {state: max(beads, key=lambda mm: beads[mm]) for state, beads in BY_BEAD.items()}
    assert best == {"low": 2.5, "normal": 3.0, "high": 4.0}
    form, liked = max(FORMS, key=lambda one: one[1])
    plain = keenness(MILD, "run", bead_mm=2.5, form=form, dusk=False)
    assert KEEN / 5 < plain < 5 * KEEN
    dusk = keenness(MILD, "run", bead_mm=2.5, form=form, dusk=True)
    assert np.log(dusk / plain) == pytest.approx(AT_DUSK)
    other = keenness(MILD, "run", bead_mm=2.5, form=min(FORMS, key=lambda one: one[1])[0], dusk=False)
    assert np.log(plain / other) == pytest.approx(liked - min(one[1] for one in FORMS))
    for kind, more in BY_KIND.items():
        assert np.log(keenness(MILD, kind, bead_mm=2.5, form=form, dusk=False) / plain) == pytest.approx(more)
    for warmth in (5.0, 19.0):
        off = keenness(replace(MILD, temperature_c=warmth), "run", bead_mm=2.5, form=form, dusk=False)
        assert off < 0.7 * plain


@pytest.mark.parametrize(("spread", "how_far"), [(0.02, 0.02), (0.25, 0.25)])
def test_waters__are_misread_by_as_much_as_their_readings_own_to(spread: float, how_far: float) -> None:
    here = Situation(Water(1.2, 0.5, depth_sd_m=spread * 1.2, speed_sd_m_s=0.05), Place(6.0))
    luck = np.random.default_rng(3)
    found = [hidden_on(luck, here, MILD, dusk=False) for _ in range(600)]
    assert {one.truth.water.depth_m for one in found} == {1.2}  # at its normal height
    off = np.log([one.judged.water.depth_m / 1.2 for one in found])
    assert float(off.std()) == pytest.approx(how_far, rel=0.12, abs=0.004)
    assert abs(float(off.mean())) < 3.0 * how_far / np.sqrt(600) + 0.002
    for one in found[:20]:
        assert one.judged.water.spread_m == pytest.approx(spread * one.judged.water.depth_m, abs=0.01)
        assert (one.judged.month, one.judged.light) == (6, "day")


def test_waters__rise_with_the_river_and_are_read_in_its_colour() -> None:
    here = Situation(Water(1.0, 0.5, depth_sd_m=0.05), Place(6.0))
    luck = np.random.default_rng(3)
    depths = []
    for state in STATES:
        day = replace(MILD, state=state)
        one = hidden_on(luck, here, day, dusk=True)
        depths.append(one.truth.water.depth_m)
        assert one.truth.water.surface_speed_m_s == pytest.approx(0.5 * one.truth.water.depth_m, abs=0.011)
        for water in (one.truth.water, one.judged.water):
            assert (water.clarity_m, water.flow_class) == (day.clarity_m, day.flow_class)
        assert one.judged.light == "dusk"
    assert depths == sorted(depths)
    assert depths[1] == 1.0
