"""The practice river and its games: properties, and what was planted found again."""

from dataclasses import replace
from typing import Any, get_args

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from deriva.core.choose.sweep import wide
from deriva.core.errors import DerivaError
from deriva.core.practice.cast import Cast, DrillName, Game
from deriva.core.practice.drills import BY_NAME, DRILLS, MAKE, Drill, as_judged, waters
from deriva.core.practice.game import Drifted, check, fished, is_over, look, told
from deriva.core.practice.hints import hint, why
from deriva.core.practice.players import tied_by_thumb
from deriva.core.practice.review import passed, reveal, sentences
from deriva.core.practice.score import beside, best_cast, counted, first_cast, knowing, presenting, score

SEEDS = st.integers(0, 999_999)
DRILL = st.sampled_from(DRILLS)


def cast_for(drill: str, seed: int, **how: Any) -> Cast:  # noqa: ANN401
    one = BY_NAME[drill]  # type: ignore[index]
    tied = tied_by_thumb(as_judged(one.name, seed, 1, None, None), one.kinds[0])
    return replace(Cast(one.kinds[0], tied.depth_setting_m, tied.point.bead_mm), **how)


def played(drill: str, seed: int, drifts: int, **how: Any) -> Game:  # noqa: ANN401
    return Game(drill, seed, (cast_for(drill, seed, **how),) * drifts)  # type: ignore[arg-type]


@settings(max_examples=25, deadline=None)
@given(DRILL, SEEDS, st.sampled_from([0.5, 2.0, 6.0]))
def test_game__is_a_function_of_its_casts_and_no_drift_is_longer_in_the_zone_than_it_lasts(
    drill: Drill, seed: int, up: float
) -> None:
    game = played(drill.name, seed, 3, up_m=up)
    check(game)
    once, again = fished(game), fished(replace(game))
    assert [(one.outcome, one.zone_s, one.at_s) for one in once] == [
        (one.outcome, one.zone_s, one.at_s) for one in again
    ]
    reach = waters(drill.name, seed).reach_m
    for one in once:
        assert one.ran is not None
        assert 0.0 <= one.zone_s <= one.ran.until_s + 0.05
        passing = 2.0 * reach / (0.3 * one.ran.speed_m_s)  # no fly goes at under a third of the current
        assert one.zone_s <= max(passing, float(one.ran.t_s[-1]))
    assert once[0].at_s < once[1].at_s < once[2].at_s
    assert not is_over(game, once)


@settings(max_examples=20, deadline=None)
@given(DRILL, SEEDS)
def test_look__shows_what_would_show_whoever_looks_and_is_said_in_words(drill: Drill, seed: int) -> None:
    """What was logged, and whether somebody struck, changes nothing of what is to be seen."""
    game = played(drill.name, seed, 2)
    last = replace(game.casts[-1], strike_s=0.5, outcome="fish", pace="faster")
    seen = look(game)
    assert look(replace(game, casts=(game.casts[0], last))) == seen
    assert len(seen.x_m) == len(seen.dip)
    assert all(0.0 <= one <= 1.0 for one in seen.dip)
    assert all(0.0 <= one.at_s <= seen.ends_s for one in seen.said)
    shows = max(seen.dip) > 0.0 or bool(seen.knock_s) or seen.wake_s is not None
    assert shows == bool(seen.said)


def takes_in(seed: int) -> list[tuple[int, Drifted]]:
    game = played("tick_or_take", seed, 10, up_m=2.0)
    return [(k, one) for k, one in enumerate(fished(game)) if one.take is not None]


def test_strike__in_time_hooks_mostly_and_early_or_late_never() -> None:
    hooked = struck = 0
    for seed in range(6):
        found = takes_in(seed)
        if not found:
            continue
        k, one = found[0]
        assert one.take is not None
        game = played("tick_or_take", seed, k + 1, up_m=2.0)

        def struck_at(at: float, game: Game = game) -> Drifted:
            return fished(replace(game, casts=(*game.casts[:-1], replace(game.casts[-1], strike_s=at))))[-1]

        in_time = struck_at(one.take.at_s + 0.3)
        assert in_time.struck in ("hooked", "pricked")
        assert in_time.outcome in ("fish", "missed")
        hooked, struck = hooked + (in_time.struck == "hooked"), struck + 1
        early = struck_at(one.take.at_s - 0.2)
        assert early.struck in ("at nothing", "at a stone")
        assert early.outcome not in ("fish", "missed")
        assert early.zone_s <= one.zone_s
        late = struck_at(one.take.at_s + one.take.holds_s + 0.2)
        if late.struck != "missed it":  # the drift was over by then
            assert (late.struck, late.outcome) == ("late", "missed")
        assert "too late" in told(replace(in_time, struck="late", outcome="missed"))
    assert struck >= 4
    assert hooked >= struck / 2


def test_fish__that_were_hooked_take_no_more() -> None:
    for seed in range(4):
        game = played("free", seed, 1, up_m=2.0)
        there = waters("free", seed).lanes[0].shoal.there
        hooked = 0
        for _ in range(14):
            one = fished(game)[-1]
            if one.take is not None:
                struck = replace(game.casts[-1], strike_s=one.take.at_s + 0.1)
                game = replace(game, casts=(*game.casts[:-1], struck))
                hooked += 1
            game = replace(game, casts=(*game.casts, cast_for("free", seed, up_m=2.0)))
        assert hooked <= there


@pytest.mark.parametrize(
    ("drill", "how", "says"),
    [
        ("first_depth", {"depth_setting_m": 0.4, "point_bead_mm": 2.0}, "over the zone"),
        ("hatch", {"depth_setting_m": 2.6, "point_bead_mm": 4.0, "up_m": 6.0}, "fed higher up"),
        ("mend", {"mend": "none", "up_m": 5.0}, "mend as the flies land"),
        ("first_depth", {"up_m": 0.0}, "further up"),
        ("high_water", {"lane": 2}, "where nobody was"),
    ],
)
def test_review__says_first_what_cost_most(drill: str, how: dict[str, Any], says: str) -> None:
    found = 0
    for seed in range(5):
        game = played(drill, seed, 6, **how)
        said = sentences(game, fished(game))
        assert len(said) <= 3
        found += bool(said) and says in said[0]
    assert found >= 4


def test_review__counts_takes_paces_and_what_was_logged_wrongly() -> None:
    game = played("pace", 3, 6, pace="slower", outcome="fish")
    drifts = fished(game)
    seen = reveal(game, drifts)
    assert seen.paces_called == 6
    assert 0 <= seen.paces_right <= 6
    assert any("the log says other than what happened" in one for one in seen.sentences)
    assert passed(game, replace(seen, paces_right=6), 0.0)
    assert not passed(game, replace(seen, paces_right=3), 1.0)
    right = tuple(replace(one.cast, outcome=one.outcome) for one in drifts)
    put_right = replace(game, casts=right)
    assert not any("the log says" in one for one in reveal(put_right, fished(put_right)).sentences)
    assert len(seen.paths) == 6
    deep = seen.sections[0]
    assert deep.depth_m == waters("pace", 3).lanes[0].truth.water.depth_m
    assert all(-0.2 <= z <= 1.5 * deep.depth_m for path in seen.paths for z in path.height_m)


def test_knowing__is_not_beaten_by_the_rule_of_thumb_and_the_coach_stands_between() -> None:
    """Seeds 100 and 101, never used for setting; all three fish the same drifts with the same luck."""
    sums = {"thumb": 0.0, "coach": 0.0, "knowing": 0.0}
    for seed in range(100, 102):
        game = played("first_depth", seed, 8)
        rig = tied_by_thumb(as_judged("first_depth", seed, 1, None, None), "indicator")
        for one in beside(game, first_cast(game, rig)):
            sums[one.name] += sum(one.zone_s)
    assert sums["knowing"] > sums["coach"] > sums["thumb"]


def test_score__of_the_best_cast_is_about_one_and_its_luck_spans_it() -> None:
    inside = 0
    for seed in range(2):
        best = knowing("first_depth", seed, "indicator")
        assert best is not None
        game = Game("first_depth", seed, (best,) * 15)
        drifts = fished(game)
        one = score(game, drifts, sum(counted(game, drifts)))
        assert one.share == pytest.approx(1.0)
        assert one.low <= one.high
        inside += one.low <= 1.0 <= one.high
    assert inside == 2


def test_hint__is_the_coach_s_word_on_what_was_logged_and_why_tells_nothing_hidden() -> None:
    game = played("first_depth", 42, 4, outcome="clean", pace="faster", depth_setting_m=0.6)
    assert hint(game, wide).action in ("deeper", "heavier")
    drift = fished(game)[-1]
    said = why(drift)
    assert "of the bubbles" in said
    assert f"{waters('first_depth', 42).lanes[0].truth.water.depth_m:g}" not in said
    fed = fished(replace(game, casts=(replace(game.casts[0], direction="down"),)))[0]
    assert "held back" in why(fed)
    assert fed.ran is not None
    assert drift.ran is not None
    assert fed.ran.pace < drift.ran.pace


def test_mend__the_right_way_keeps_the_drift_alive_and_the_wrong_one_ends_it_sooner() -> None:
    for seed in range(4):
        right = presenting(Game("mend", seed), cast_for("mend", seed)).mend
        assert right == (
            "upstream" if (waters("mend", seed).lanes[0].under_line or 1.0) > 1.0 else "downstream"
        )
        wrong = "downstream" if right == "upstream" else "upstream"
        last = {
            way: fished(played("mend", seed, 1, mend=way))[0].ran for way in ("none", right, wrong)
        }  # fmt: skip
        until = {way: ran.until_s for way, ran in last.items() if ran is not None}
        assert until[wrong] <= until["none"] <= until[right]
        assert until[wrong] < until[right]


@pytest.mark.parametrize(
    ("drill", "how", "field"),
    [
        ("hatch", {"rig": "euro"}, "casts.0.rig"),
        ("first_depth", {"lane": 2}, "casts.0.lane"),
        ("first_depth", {"up_m": -1.0}, "up_m"),
    ],
)
def test_game__refuses_by_name_what_the_drill_does_not_give(
    drill: str, how: dict[str, Any], field: str
) -> None:
    with pytest.raises(DerivaError) as caught:
        check(played(drill, 1, 1, **how))
    assert caught.value.field == field
    with pytest.raises(DerivaError, match="gives 15"):
        check(played("first_depth", 1, 16))


def test_drills__are_all_made_and_fish_are_where_they_are_said_to_be() -> None:
    assert set(MAKE) == set(BY_NAME) == set(get_args(DrillName))
    for drill in DRILLS:
        for seed in (0, 1):
            assert max(one.shoal.there for one in waters(drill.name, seed).lanes) > 0 or drill.name == "free"
    for name in ("hatch", "high_water"):
        best = best_cast(Game(name, 5))
        assert best is not None
        assert best.lane == 1
