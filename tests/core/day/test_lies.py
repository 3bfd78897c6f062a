"""Truth: where the trade looks for fish in each water (common practice, no source)."""

from dataclasses import replace

from hypothesis import given, settings

from deriva.core.day.lies import MOST_DRIFTS, judge_lie, working_order
from deriva.core.model.situation import Fish, Place, Situation
from deriva.core.model.water import Water, WaterKind
from deriva.core.water.light import Light
from tests.core.situations import RUN, SITUATIONS


def at(kind: WaterKind, **water: object) -> Situation:
    return replace(RUN, water=replace(Water(1.0, 0.5, kind), **water))  # type: ignore[arg-type]


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
    # a seam: 20 to 30 from a stance when it is prime, 5 to 10 when not (common practice, no source)
    assert 20 <= judge_lie(at("seam", temperature_c=13.0)).drifts <= 30
    assert 5 <= judge_lie(at("seam", temperature_c=13.0, depth_m=0.3)).drifts <= 10


def test_light__bright_sun_on_smooth_clear_water_against_shade_and_low_light() -> None:
    bright, low = Light(50.0, 180.0, 0.1), Light(4.0, 270.0, 0.1)
    open_glide, shaded = at("glide", clarity_m=2.0), at("undercut", clarity_m=2.0)
    assert (
        judge_lie(open_glide, bright).score < judge_lie(open_glide).score < judge_lie(open_glide, low).score
    )
    assert judge_lie(shaded, bright).score > judge_lie(shaded).score
    assert any("see you first" in reason for reason in judge_lie(open_glide, bright).reasons)
    deserved = {judge_lie(open_glide, light).drifts for light in (None, bright, low)}
    assert len(deserved) == 1, "the drifts are one number all day, on Today as on the bank"


def test_level__where_food_is_carried_together_when_they_feed_high() -> None:
    rising = replace(at("seam"), fish=Fish(rises="bubbles"))
    assert judge_lie(rising).score >= judge_lie(at("seam")).score
    assert any("feed high" in reason for reason in judge_lie(rising).reasons)


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
