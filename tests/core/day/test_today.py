"""The day in words. Truth: the trade's judgements (common practice, no source) and the published rules named below."""

from typing import get_args

import pytest

from deriva.core.day.today import sentence
from deriva.core.model.beat import Season
from deriva.core.model.quantity import plain
from deriva.core.say.cautions import NO_WADING, Crossing, Sky, day_cautions, rules_cautions, way_caution
from deriva.core.water.flow import AgainstNormal, FlowClass, Trend


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
    assert [one.code for one in said] == ["spate", "warm_stop", "rising", "gauge_silent", "local_rules"]
    assert [one.level for one in said] == ["stop", "stop", "caution", "caution", "note"]
    assert "Rising by 12 %" in said[2].text
    assert "30 hours ago" in said[3].text
    assert day_cautions(normal("normal"), None, temperature_c=12.0, age_h=0.2) == said[-1:]
    shut = rules_cautions(Season((3, 15), (9, 30)), (1, 1), wading_allowed=True)
    storm = day_cautions(None, None, temperature_c=None, age_h=None, sky=Sky(0.4), beat=shut)
    assert [one.code for one in storm] == ["closed", "storm", "local_rules"]
    assert "lightning rod" in storm[1].text
    assert "30 min after the last" in storm[1].text  # US National Weather Service, the 30-30 rule


@pytest.mark.parametrize(
    ("day", "is_open"),
    [((3, 14), False), ((3, 15), True), ((9, 30), True), ((10, 1), False), ((1, 1), False)],
)
def test_season__from_its_first_day_to_its_last(day: tuple[int, int], is_open: bool) -> None:
    season, winter = Season((3, 15), (9, 30)), Season((10, 1), (3, 14))
    assert season.is_open(day) is is_open
    assert winter.is_open(day) is not is_open  # a season over the turn of the year is the rest of it
    said = rules_cautions(season, day, wading_allowed=True)
    assert bool(said) is not is_open
    assert rules_cautions(None, day, wading_allowed=False) == (NO_WADING,)
    if said:
        assert "15 March to 30 September" in said[0].text


def test_way__names_what_nobody_should_wade_through() -> None:
    """Over 1.2 m, or depth × speed over either published limit (Cox, Shand & Blacka 2010; USGS field rule)."""
    tail, pool, run = Crossing("Tail", 0.5, 0.4), Crossing("Pool", 1.3, 0.2), Crossing("Run", 0.9, 1.1)
    (said,) = way_caution([tail, pool, run])
    assert "Pool" in said.text
    assert "Run" in said.text
    assert "Tail" not in said.text
    assert way_caution([tail]) == ()


def test_sentence__without_a_normal_says_what_it_wants() -> None:
    said = sentence(None, Trend(0.0, 0.0, "steady"), clarity_m=None, temperature_c=None, years_lacking=4)
    assert said == "The river is steady: 4 more years of its past would say what is normal."
