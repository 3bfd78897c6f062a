"""The day at a beat: what fits into it, in which order, and what is left out as it slips."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from deriva.core.day.lies import LEAST_DRIFTS, MINUTES_A_DRIFT
from deriva.core.day.plan import MOVE_MIN, NOT_TODAY, DayAsked, DayPlan, Due, Made, plan_day
from deriva.core.errors import Impossible
from deriva.core.model.quantity import plain

BEAT = (
    Due("a", "Tail", 0.5, 10),
    Due("b", "Glide", 0.3, 8),
    Due("c", "Seam", 0.9, 20),
    Due("d", "Pool", 0.7, 10),
)
WHOLE_MIN = 48 * MINUTES_A_DRIFT + 4 * MOVE_MIN


def made(*lies: tuple[str, int], every_min: float = 1.0, ago_min: float = 0.0) -> tuple[Made, ...]:
    """Drifts at lie after lie, the last of them so long ago."""
    there = [lie for lie, times in lies for _ in range(times)]
    return tuple(Made(lie, ago_min + every_min * (len(there) - 1 - k)) for k, lie in enumerate(there))


def stays(plan: DayPlan) -> list[tuple[str, int]]:
    return [(leg.lie, leg.drifts) for leg in plan.legs]


def test_day__long_enough_is_all_of_it_from_the_tail_up() -> None:
    plan = plan_day(DayAsked(BEAT, ends_min=WHOLE_MIN + 30.0))
    assert stays(plan) == [("a", 10), ("b", 8), ("c", 20), ("d", 10)]
    assert (plan.left_out, plan.done) == ((), ())
    assert round(plan.spare_min, 6) == 30.0
    assert plain(plan.said) == "Time for all of it, and 30 min to spare: go over Seam again."


def test_day__too_short_drops_the_least_and_keeps_the_order() -> None:
    """A prime lie is worth its twenty to thirty drifts; what gives way is the poorest water (common practice, no source)."""
    plan = plan_day(DayAsked(BEAT, ends_min=WHOLE_MIN - 8 * MINUTES_A_DRIFT - MOVE_MIN))
    assert stays(plan) == [("a", 10), ("c", 20), ("d", 10)]
    assert plain(plan.said) == "No time for Glide, worth least today."
    shorter = plan_day(DayAsked(BEAT, ends_min=26 * MINUTES_A_DRIFT + 2 * MOVE_MIN))
    assert stays(shorter) == [("c", 20), ("d", 6)]
    assert (
        plain(shorter.said) == "Only 6 of 10 drifts for Pool. No time for Tail and Glide, worth least today."
    )
    assert plan_day(DayAsked(BEAT, ends_min=3.0)).said == "No time for another lie."


def test_day__slips_and_is_planned_again_from_where_one_stands() -> None:
    slow = made(("a", 10), ("c", 12), every_min=3.0)
    asked = DayAsked(BEAT, slow, "c", ends_min=60.0)
    # twenty drifts of the usual 1.2 min and the twenty gaps of 3 min at one lie: a walk is none
    assert round(asked.pace_min, 6) == (20 * 1.2 + 20 * 3.0) / 40
    plan = plan_day(asked)
    # b was gone past, and comes after all that is ahead
    assert stays(plan) == [("c", 8), ("d", 10), ("b", 5)]
    assert plan.legs[0].begins_min == 0.0
    assert plan.done == ("a",)
    assert plain(plan.said) == "You take 2.1 min a drift. Only 5 of 8 drifts for Glide."
    onward = plan_day(replace(asked, moves_on=True))
    assert stays(onward)[0] == ("d", 10)
    assert onward.left == ("c",)
    late = plan_day(DayAsked(BEAT, slow, "c", ends_min=45.0))
    assert late.left_out == ("b",)
    assert plain(late.said) == "You take 2.1 min a drift. No time to go back to Glide."


def test_day__that_is_fished_out_says_so() -> None:
    plan = plan_day(DayAsked(BEAT, made(("a", 10), ("b", 8), ("c", 20), ("d", 10)), "d"))
    assert stays(plan) == []
    assert plan.done == ("a", "b", "c", "d")
    assert "Nothing is left" in plan.said
    assert plan_day(DayAsked(())).said == "No lie here has been read."
    with pytest.raises(Impossible, match="twice"):
        DayAsked((*BEAT, BEAT[0]))


def test_hours__are_as_said_else_the_best_else_until_dark() -> None:
    assert DayAsked(BEAT, begins_min=30.0, ends_min=200.0, best_from_min=60.0).hours_min == (30.0, 200.0)
    day = DayAsked(BEAT, best_from_min=60.0, best_until_min=300.0, dark_min=400.0)
    assert day.hours_min == (60.0, 300.0)
    assert plan_day(day).legs[0].begins_min == 60.0 + MOVE_MIN
    assert replace(day, here="a").hours_min == (0.0, 300.0)  # who fishes has begun
    assert replace(day, best_from_min=-250.0, best_until_min=10.0).hours_min == (0.0, 400.0)
    assert replace(day, ends_min=-5.0).hours_min == (60.0, 300.0)  # it was said of what is over
    assert DayAsked(BEAT).hours_min == (0.0, 240.0)


def test_day__too_warm_or_closed_is_not_planned_unless_one_fishes_or_says_when() -> None:
    """Water over 20 °C is left alone: no hour of it is worth fishing (hours.py)."""
    hot = DayAsked(BEAT, dark_min=500.0, worth_it=False)
    assert (plan_day(hot).legs, plan_day(hot).left_out, plan_day(hot).said) == ((), (), NOT_TODAY)
    assert plan_day(replace(hot, ends_min=200.0)).legs
    assert plan_day(replace(hot, here="a")).legs


LIES = st.lists(st.tuples(st.floats(0.0, 1.0), st.integers(5, 30)), min_size=1, max_size=8).map(
    lambda some: tuple(Due(f"l{k}", f"Lie {k}", score, drifts) for k, (score, drifts) in enumerate(some))
)


@settings(max_examples=100)
@given(LIES, st.floats(0.1, 300.0), st.integers(0, 7), st.integers(0, 40))
def test_plan__fits_in_its_order_and_leaves_out_nothing_better(
    lies: tuple[Due, ...], minutes: float, at: int, had: int
) -> None:
    here = lies[at % len(lies)].lie
    asked = DayAsked(lies, made((here, had)), here if had else None, ends_min=minutes)
    plan = plan_day(asked)
    assert plan.said
    ends = 0.0
    for leg in plan.legs:
        assert leg.begins_min >= ends - 1e-6
        assert 1 <= leg.drifts <= leg.of
        assert leg.drifts >= min(leg.of, LEAST_DRIFTS)
        ends = leg.ends_min
    assert ends <= minutes + 1e-6
    assert abs(plan.spare_min + ends - minutes) < 1e-6
    each = [*plan.done, *plan.left_out, *plan.left, *(leg.lie for leg in plan.legs)]
    assert sorted(each) == sorted(one.lie for one in lies)
    start = at % len(lies) if had else 0
    order = [one.lie for one in (*lies[start:], *lies[:start])]
    assert [order.index(leg.lie) for leg in plan.legs] == sorted(order.index(leg.lie) for leg in plan.legs)
    left = {one.lie: one.drifts - (had if one.lie == here else 0) for one in lies}
    best = max(lies[start:], key=lambda one: (left[one.lie] > 0, one.score))
    if left[best.lie] > 0 and MOVE_MIN + min(left[best.lie], LEAST_DRIFTS) * plan.pace_min <= minutes:
        assert best.lie in {leg.lie for leg in plan.legs}
