"""Truth: where the trade looks for fish in each water (common practice, no source)."""

from dataclasses import replace
from typing import get_args

import pytest
from hypothesis import given, settings

from deriva.core.advice.lies import MOST_DRIFTS, judge_lie, working_order
from deriva.core.advice.situation import LieWater, Place, Situation, WaterKind
from deriva.core.advice.today import day_cautions, sentence
from deriva.core.advice.wording import plain
from deriva.core.water.flow import AgainstNormal, FlowClass, Trend
from tests.core.advice.situations import RUN, SITUATIONS


def at(kind: WaterKind, **water: object) -> Situation:
    return replace(RUN, water=replace(LieWater(1.0, 0.5, kind), **water))  # type: ignore[arg-type]


def score(kind: WaterKind, **water: object) -> float:
    return judge_lie(at(kind, **water)).score


@given(SITUATIONS)
@settings(max_examples=60)
def test_judgement__is_a_share_with_a_reason_and_a_number_of_drifts(situation: Situation) -> None:
    judged = judge_lie(situation)
    assert 0.0 <= judged.score <= 1.0
    assert judged.reasons
    assert 1 <= judged.drifts <= MOST_DRIFTS
    assert judged.minutes >= 1
    assert judged.lane_m > 0.2


def test_high_water__the_edges_before_the_run() -> None:
    assert score("run") > score("bank_edge")
    assert score("bank_edge", flow_class="much_above_normal") > score("run", flow_class="much_above_normal")


def test_low_water__cover_before_the_open_glide() -> None:
    gain = score("undercut", flow_class="below_normal") / score("undercut")
    assert gain > score("glide", flow_class="below_normal") / score("glide")


def test_warm_and_cold__riffles_then_and_pools_now() -> None:
    assert score("riffle", temperature_c=17.5) > score("pool", temperature_c=17.5)
    assert score("pool", temperature_c=4.0) > score("riffle", temperature_c=4.0)
    assert "oxygen" in " ".join(judge_lie(at("riffle", temperature_c=17.5)).reasons)


def test_drifts__a_prime_lie_deserves_more_and_narrow_lanes_too() -> None:
    """A few drifts a lane in an ordinary slot, 20-30 in a prime one."""
    keen = judge_lie(at("run", temperature_c=13.0, clarity_m=2.0))
    dirty = judge_lie(at("run", temperature_c=13.0, clarity_m=0.2))
    assert dirty.lane_m < keen.lane_m
    assert dirty.drifts > keen.drifts
    assert judge_lie(at("seam", temperature_c=13.0)).drifts >= 8


def test_order__back_to_front_near_to_far_and_edges_first_when_high() -> None:
    here = [
        (50.0, at("run")), (10.0, at("pool")), (10.0, replace(at("glide"), place=Place(3.0))), (80.0, at("bank_edge")),
    ]  # fmt: skip
    assert working_order(here) == [2, 1, 0, 3]
    high: list[tuple[float, Situation]] = [
        (along, replace(s, water=replace(s.water, flow_class="above_normal"))) for along, s in here
    ]
    assert working_order(high)[0] == 3
    assert sorted(working_order(here)) == [0, 1, 2, 3]


def normal(flow_class: FlowClass) -> AgainstNormal:
    return AgainstNormal(0.5, flow_class, 2.0, 3.0, 4.0, 19)


@pytest.mark.parametrize("flow_class", get_args(FlowClass))
def test_sentence__says_how_it_stands_and_what_that_means(flow_class: FlowClass) -> None:
    said = plain(
        sentence(normal(flow_class), Trend(-0.03, 0.0, "falling"), clarity_m=0.4, temperature_c=12.0)
    )
    assert said.startswith("The river is ")
    assert said.endswith(".")
    assert "falling" in said
    assert "coloured" in said
    assert ("falling and clearing" in said) == (flow_class in ("above_normal", "much_above_normal"))


def test_sentence__cold_and_warm_water_say_where_to_look() -> None:
    """About 2 °C torpid: on the nose, soft deep water, the warmest hours; from 17 up into the riffles."""
    cold, warm = (sentence(normal("normal"), None, clarity_m=None, temperature_c=t) for t in (3.0, 17.5))
    assert "on the nose" in cold
    assert "broken water" in warm
    assert "edges" in sentence(normal("above_normal"), None, clarity_m=None, temperature_c=3.0)
    assert "read it at the lie" in sentence(None, None, clarity_m=None, temperature_c=None)


def test_day_cautions__gravest_first() -> None:
    said = day_cautions(
        normal("much_above_normal"), Trend(0.12, 0.0, "rising"), temperature_c=20.5, age_h=30.0
    )
    assert said[0].startswith("Stop")
    assert any("Rising by 12 %" in text for text in said)
    assert any("30 hours ago" in text for text in said)
    assert said[-1] == "Local rules and the fishery's word come first."
    assert day_cautions(normal("normal"), None, temperature_c=12.0, age_h=0.2) == said[-1:]
