"""What is said of a game at its end: by lanes, by bars, and whatever was fished."""

from dataclasses import replace
from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from deriva.core.model.rig import RigKind
from deriva.core.practice.cast import Cast, DrillName, Game, LandsHow
from deriva.core.practice.drills import BY_NAME, DRILLS, Bar, as_judged, waters
from deriva.core.practice.game import BEAD_S, CAST_S, RIG_S, SET_S, fished, is_over
from deriva.core.practice.players import tied_by_thumb
from deriva.core.practice.review import POINTS, passed, reveal, sentences
from deriva.core.practice.score import best_lane, counted, counts, first_cast


def cast(drill: DrillName = "high_water", seed: int = 5, kind: RigKind = "indicator") -> Cast:
    return first_cast(
        Game(drill, seed, (Cast(kind, 1.0, 3.0),)), tied_by_thumb(as_judged(drill, seed, 1, None, None), kind)
    )


def test_seconds__count_only_where_fish_are() -> None:
    game = Game("high_water", 5, tuple(replace(cast(), lane=1 + k % 2) for k in range(6)))
    drifts = fished(game)
    assert [counts(game, lane) for lane in (1, 2)] == [True, False]
    assert best_lane("high_water", 5) == 1
    told = counted(game, drifts)
    assert told[1::2] == (0.0, 0.0, 0.0)
    assert told[::2] == tuple(one.zone_s for one in drifts[::2])
    seen = reveal(game, drifts)
    assert [one.name for one in seen.sections] == ["the soft edge", "the main current"]
    assert [one.lane for one in seen.paths] == [1, 2, 1, 2, 1, 2]


def test_clock__goes_by_what_was_changed_and_ends_the_game() -> None:
    one = cast("clock", 3)
    longer = replace(one, depth_setting_m=round(one.depth_setting_m + 0.1, 2))
    heavier = replace(longer, point_bead_mm=3.5)
    tight = replace(heavier, rig="euro", depth_setting_m=1.2)
    walked = replace(tight, lane=2)
    game = Game("clock", 3, (one, one, longer, heavier, tight, walked))
    drifts = fished(game)
    lasted = [
        after.at_s - before.at_s - (after.ran.until_s if after.ran else 0.0)
        for before, after in pairwise(drifts)
    ]
    changes = [0.0, SET_S, BEAD_S, RIG_S, waters("clock", 3).lane_s]
    assert lasted == pytest.approx([CAST_S + one for one in changes])
    assert not is_over(game, drifts)
    minutes = BY_NAME["clock"].minutes
    assert minutes is not None
    back_and_forth = tuple(replace(one, lane=1 + k % 2) for k in range(20))
    late = Game("clock", 3, back_and_forth)
    assert fished(late)[-1].at_s > 60.0 * minutes
    assert is_over(late, fished(late))


@pytest.mark.parametrize(
    ("bar", "seen", "share", "through"),
    [
        (Bar("zone", 0.6), {}, 0.6, True),
        (Bar("zone", 0.6), {}, 0.59, False),
        (Bar("takes", 0.5), {"takes": 4, "struck_in_time": 2, "false_strikes": 4}, 0.0, True),
        (Bar("takes", 0.5), {"takes": 4, "struck_in_time": 2, "false_strikes": 5}, 1.0, False),
        (Bar("takes", 0.5), {"takes": 4, "struck_in_time": 1, "false_strikes": 0}, 1.0, False),
        (Bar("takes", 0.5), {"takes": 0, "struck_in_time": 0, "false_strikes": 0}, 1.0, False),
        (Bar("pace", 0.75), {"paces_called": 8, "paces_right": 6}, 0.0, True),
        (Bar("pace", 0.75), {"paces_called": 8, "paces_right": 5}, 1.0, False),
        (Bar("pace", 0.75), {"paces_called": 0, "paces_right": 0}, 1.0, False),
    ],
)
def test_bar__is_passed_by_what_it_measures_alone(
    bar: Bar, seen: dict[str, Any], share: float, through: bool
) -> None:
    name = next(one.name for one in DRILLS if one.bar.measure == bar.measure and one.bar.least == bar.least)
    game = Game(name, 1, (cast(name, 1, BY_NAME[name].kinds[0]),))
    revealed = replace(reveal(game, fished(game)), **seen)
    assert passed(game, revealed, share) is through
    assert f"{100 * bar.least:.0f} %" in bar.words


@settings(max_examples=30, deadline=None)
@given(
    st.sampled_from(DRILLS),
    st.integers(0, 500),
    st.lists(
        st.tuples(
            st.sampled_from([0.4, 0.9, 1.6, 3.0]), st.sampled_from([2.0, 3.0, 4.0]), st.sampled_from([0.0, 3.0, 9.0]),
            st.sampled_from(["straight", "tuck", "heap"]), st.sampled_from([None, 0.1, 3.0, 25.0]),
        ),
        min_size=1,
        max_size=4,
    ),
)  # fmt: skip
def test_reveal__of_whatever_was_fished_is_whole_and_says_three_things_at_most(
    drill: object, seed: int, ways: list[tuple[float, float, float, LandsHow, float | None]]
) -> None:
    named = next(one for one in DRILLS if one is drill)
    lanes = len(waters(named.name, seed).lanes)
    casts = tuple(
        Cast(named.kinds[0], line, bead, up, 1 + k % lanes, entry, strike_s=strike)
        for k, (line, bead, up, entry, strike) in enumerate(ways)
    )
    game = Game(named.name, seed, casts)
    drifts = fished(game)
    seen = reveal(game, drifts)
    assert len(seen.sections) == lanes
    assert len(seen.paths) == sum(one.ran is not None for one in drifts)
    for path in seen.paths:
        assert 1 <= len(path.x_m) == len(path.height_m) <= POINTS
        assert (
            list(path.x_m) == sorted(path.x_m)
            or path.outcome in ("hung", "lost_fly")
            or named.name == "undertow"
        )
    said = sentences(game, drifts)
    assert len(said) <= 3
    assert len(set(said)) == len(said)
    assert all(one.endswith((".", "!")) for one in said)
    assert seen.struck_in_time <= seen.takes <= len(casts)
