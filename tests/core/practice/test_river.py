"""The hidden river: each thing that chance does, held against the law that it is stated to follow."""

import math
from dataclasses import replace

import numpy as np
import pytest
from scipy import signal, stats

from deriva.core.model.rig import Rig
from deriva.core.model.situation import Fish, Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.practice.river import (
    DROP_ABOVE_M,
    HELD,
    LIFTS,
    MENDED,
    Luck,
    Presented,
    Ran,
    _ground,
    _wander,
    fish,
    pace_called,
    run,
)
from deriva.core.practice.seen import FISH_HOLDS_S, TOUCH, events, shown, takes, touches
from deriva.core.practice.world import WORLD, Hidden, World, as_it_is, bed_as_it_is, hidden_waters, misjudged
from deriva.core.rigs.resolve import resolve
from deriva.core.tackle.flies import DRAG_FACTOR
from worlds import worlds

WATER = Water(1.0, 0.5, "run", 0.02, "cobble", 1.5, 11.0, speed_sd_m_s=0.01)
HERE = Situation(WATER, Place(6.0), Fish("bottom"))
STILL = replace(WORLD, turbulence_m=1e-6, cast_share=0.0, unfelt=0.0, unfelt_slow=0.0, weed=0.0)
HIDDEN = Hidden(HERE, HERE, 1)
HOW = Presented(6.5, 4.0)


def rig(setting: float, bead: float = 3.0, kind: str = "indicator") -> Rig:
    return resolve(Tuning(kind, setting, bead), HERE)  # type: ignore[arg-type]


def luck(seed: int) -> Luck:
    return Luck.of(np.random.default_rng(seed))


def ran(
    setting: float, seed: int = 1, hidden: Hidden = HIDDEN, how: Presented = HOW, world: World = STILL
) -> Ran:
    found = run(rig(setting), hidden, luck(seed), how, world)
    assert found is not None
    return found


def test_current__lifts_a_fly_as_a_first_order_filter_of_noise_does() -> None:
    """scipy's own filter on the same kicks: an autoregression that forgets in ``turbulence_s``."""
    step, steps = 0.04, 4000
    found = _wander(np.random.default_rng(3), steps, step, WORLD)
    keeps = math.exp(-step / WORLD.turbulence_s)
    kicks = np.random.default_rng(3).standard_normal(steps) * WORLD.turbulence_m
    kicks[1:] *= math.sqrt(1.0 - keeps**2)
    assert found == pytest.approx(signal.lfilter([1.0], [1.0, -keeps], kicks))
    assert found.std() == pytest.approx(WORLD.turbulence_m, rel=0.2)


def test_waters__are_misjudged_by_as_much_as_the_world_says() -> None:
    off = np.random.default_rng(5).standard_normal((3000, 6))
    found = [misjudged(WATER, Place(6.0), Fish("bottom"), k, off=one) for k, one in enumerate(off)]
    depth = np.log([one.judged.water.depth_m / one.truth.water.depth_m for one in found])
    assert depth.std() == pytest.approx(WORLD.depth_error_ln, rel=0.06)
    assert np.log([one.roughness for one in found]).std() == pytest.approx(WORLD.roughness_ln, rel=0.06)
    assert np.log([one.drag for one in found]).std() == pytest.approx(WORLD.drag_ln, rel=0.06)
    assert np.std([one.bias_m for one in found]) == pytest.approx(WORLD.bias_m, rel=0.06)
    # the judge owns to as much as he is off by
    assert found[0].judged.water.spread_m == pytest.approx(
        WORLD.depth_error_ln * found[0].judged.water.depth_m
    )


def test_fly_and_bed__are_as_they_are_here() -> None:
    rough = replace(HIDDEN, roughness=1.5, drag=1.2)
    column = WATER.column()
    assert bed_as_it_is(column, rough).bed_ks_m == pytest.approx(1.5 * column.bed_ks_m)
    assert bed_as_it_is(column, replace(rough, roughness=1e3)).bed_ks_m <= WATER.depth_m / 2.0
    point = as_it_is(rig(1.0), rough).point
    assert point.drag_factor == pytest.approx(1.2 * DRAG_FACTOR[point.dressing])


def test_luck__is_the_same_whatever_is_fished() -> None:
    """Stones, casts and current of the k-th drift do not depend on the rig."""
    first, second = np.random.default_rng(7), np.random.default_rng(7)
    for setting in (0.5, 1.2):
        fish(rig(setting), HIDDEN, first, drift_m=6.0)
        fish(rig(0.9, 2.0), HIDDEN, second, drift_m=6.0)
        assert first.bit_generator.state == second.bit_generator.state


def test_drift__of_a_short_rig_touches_nothing_and_of_a_long_one_drags() -> None:
    short, long = ran(0.4), ran(1.5)
    assert touches(short) == []
    assert not short.felt
    assert not short.in_zone.any()
    assert touches(long)
    assert long.inside.max() > TOUCH
    assert long.heights_m[0].min() >= 0.0
    assert long.in_zone.mean() > 0.5
    zone = long.zone
    there = (long.heights_m >= zone.low_m) & (long.heights_m <= zone.high_m)
    assert np.array_equal(long.in_zone, there.any(axis=0) & (long.t_s <= long.until_s))


def test_hang_ups__come_by_the_metre_that_is_dragged_through_stones() -> None:
    """Exponential in the way among stones, at the rate of the bed: counted over drifts with one path and their own chance."""
    path = ran(1.5)
    way = float(np.sum(path.inside * np.abs(np.diff(path.x_m, prepend=path.x_m[0]))))
    expected = 1.0 - math.exp(-way * dict(STILL.hung_per_m)["cobble"])
    hung = 0
    drifts = 120
    for seed in range(drifts):
        one = luck(seed)
        same = replace(one, spread=luck(1).spread, stones=luck(1).stones, current=luck(1).current)
        found = run(rig(1.5), HIDDEN, same, HOW, STILL)
        assert found is not None
        hung += found.hung_s is not None
    low, high = stats.binom.interval(0.999, drifts, expected)
    assert low <= hung <= high


def test_drop_off__lies_above_the_fish_and_is_as_high_as_it_is_said() -> None:
    hidden = replace(HIDDEN, drop_m=0.5)
    x = np.linspace(0.0, 6.0, 200)
    ground = _ground(hidden, HOW, x)
    assert ground[0] == pytest.approx(0.5, abs=0.01)
    assert ground[-1] == pytest.approx(0.0, abs=0.01)
    assert ground[np.searchsorted(x, 4.0 - DROP_ABOVE_M)] == pytest.approx(0.25, abs=0.06)
    assert (np.diff(ground) <= 1e-12).all()
    assert touches(ran(1.0, hidden=hidden))[0][0] < 4.0 / WATER.surface_speed_m_s


def test_fed_downstream__the_float_is_held_back_and_its_flies_are_lifted() -> None:
    up, down = ran(0.9), ran(0.9, how=replace(HOW, direction="down"))
    assert HELD[0] <= down.held <= HELD[1]
    assert down.pace == pytest.approx(up.pace * (1.0 - down.held))
    lifted = float(np.median(down.heights_m[0][-40:] - up.heights_m[0][-40:]))
    assert lifted == pytest.approx(LIFTS * down.held * WATER.depth_m, abs=0.02)


def test_belly__drags_the_float_later_by_the_right_mend() -> None:
    hidden = replace(HIDDEN, under_line=1.6)
    none = ran(0.9, hidden=hidden).drags_s
    assert none is not None
    right = ran(0.9, hidden=hidden, how=replace(HOW, mend="upstream")).drags_s
    wrong = ran(0.9, hidden=hidden, how=replace(HOW, mend="downstream")).drags_s
    assert wrong is not None
    assert wrong < none
    assert right is None or right == pytest.approx(MENDED * none)
    assert ran(0.9).drags_s is None


def test_pace__is_called_as_on_the_bank() -> None:
    assert [pace_called(one) for one in (0.8, 0.97, 1.05)] == ["slower", "same", "faster"]


def test_takes__come_by_the_second_that_a_fly_passes_fish() -> None:
    """Exponential in the seconds in the zone near them: keen a second and fish."""
    path = ran(1.2)
    near = np.ones(len(path.t_s), dtype=bool)
    seconds = float(path.in_zone.sum() * (path.t_s[1] - path.t_s[0]))
    drawn = [takes(path, 2, 0.05, near, np.random.default_rng(k)) for k in range(400)]
    low, high = stats.binom.interval(0.999, 400, 1.0 - math.exp(-2 * 0.05 * seconds))
    assert low <= sum(one is not None for one in drawn) <= high
    for one in drawn:
        if one is not None:
            assert path.in_zone[np.searchsorted(path.t_s, one.at_s)]
            assert FISH_HOLDS_S[0] <= one.holds_s <= FISH_HOLDS_S[1]
    assert takes(path, 0, 0.5, near, np.random.default_rng(1)) is None
    assert takes(path, 2, 9.0, ~near, np.random.default_rng(1)) is None


def test_shown__is_still_where_nothing_happened_and_dips_where_a_fish_took() -> None:
    quiet = ran(0.4)
    assert events(quiet, luck(1), None, STILL) == []
    seen = shown(quiet, luck(1), None, STILL, tip=False)
    assert max(seen.dip) == 0.0
    assert seen.said == ()
    top = float(quiet.top_x_m[-1])
    assert seen.x_m[-1] == pytest.approx(top, rel=0.05)
    taken = takes(ran(1.2), 5, 5.0, np.ones(len(ran(1.2).t_s), dtype=bool), np.random.default_rng(2))
    assert taken is not None
    told = shown(ran(1.2), luck(1), taken, replace(STILL, unfelt=1.0), tip=True)
    assert taken.at_s == pytest.approx(min(told.knock_s, key=lambda at: abs(at - taken.at_s)), abs=0.02)
    assert max(told.dip) > 0.0
    floating = shown(ran(1.2), luck(1), taken, replace(STILL, unfelt=1.0), tip=False)
    assert floating.knock_s == ()  # nothing is felt through slack
    assert floating.x_m[-1] < float(ran(1.2).top_x_m[-1])  # it stopped for a while


def test_waters__of_the_bench_are_the_same_for_a_seed() -> None:
    assert hidden_waters(4, 51) == hidden_waters(4, 51)
    assert hidden_waters(4, 51)[:2] == hidden_waters(2, 51)
    assert hidden_waters(2, 52) != hidden_waters(2, 51)


def test_worlds__that_differ_in_one_thing_can_all_be_fished() -> None:
    """The rivers that the coach is tried in beside the bench's (`scripts/worlds.py`): each is another, with waters to fish."""
    others = [world for _, world in worlds()]
    assert others[0] == WORLD
    assert len(set(others)) == len(others)
    for world in others:
        for hidden in hidden_waters(4, 53, world):
            drifted = fish(rig(0.9), hidden, np.random.default_rng(1), world, drift_m=6.0)
            assert 0.0 <= drifted.share <= 1.0
