"""The single dry, and the questions of school. Truth: the trade (common practice, no source)."""

from dataclasses import replace

import pytest
from hypothesis import given, settings

from deriva.core.choose.schools import DISAGREEMENTS, matters
from deriva.core.choose.search import advise
from deriva.core.choose.single_dry import single_dry
from deriva.core.choose.sweep import wide
from deriva.core.model.situation import Fish, Rules, Situation
from deriva.core.read import read_noun, write_noun
from deriva.service.usecases import rigging
from deriva.service.views.advice import headless_advice, plain_json
from tests.core.situations import CLEAR_FLAT, POCKETS, RUN, SITUATIONS

RISING = replace(CLEAR_FLAT, fish=Fish(rises="bubbles"))


def test_dry__is_offered_where_they_are_to_be_had_on_the_surface() -> None:
    steady, bulging = single_dry(RISING), single_dry(replace(CLEAR_FLAT, fish=Fish(rises="no_bubbles")))
    assert steady is not None
    assert bulging is not None
    assert steady.score > bulging.score
    lower = single_dry(replace(CLEAR_FLAT, fish=Fish("mid", rises="bubbles")))  # what the angler says stands
    assert lower is not None
    assert lower.score < steady.score
    assert single_dry(replace(RUN, fish=Fish())) is None
    cold = replace(RUN, water=replace(RUN.water, temperature_c=4.0), light="dusk")
    assert single_dry(cold) is None  # too cold to rise, and none does
    rising_cold = single_dry(replace(cold, fish=Fish(rises="bubbles")))
    assert rising_cold is not None  # never "too cold to rise" while they are rising


def test_dry__at_dusk_is_a_large_one() -> None:
    day, dusk = single_dry(RISING), single_dry(replace(RISING, light="dusk"))
    assert day is not None
    assert dusk is not None
    assert dusk.dry.size_mm > day.dry.size_mm


def test_dry__leads_where_they_rise_and_one_fly_is_allowed() -> None:
    one = replace(RISING, rules=Rules(max_flies=1))
    advice = advise(one, wide)
    assert advice.single_dry is not None
    assert advice.single_dry.score > advice.usable[0].score
    ranked = plain_json(headless_advice(rigging.rank(one)))["ranked"]  # type: ignore[index]
    assert ranked[0]["rig"] == "dry"
    assert {entry["rig"] for entry in ranked} == {"dry", "euro", "indicator", "dry_dropper"}
    assert ranked[0]["setup"]["flies"] == 0
    assert ranked[0]["setup"]["depth_setting_m"] is None
    assert any("one fly" in reason["text"] for reason in ranked[0]["reasons"])


@given(SITUATIONS)
@settings(max_examples=6)
def test_school__that_is_not_asked_changes_nothing(situation: Situation) -> None:
    asked = matters(situation)
    mine = advise(situation, wide)
    for one in DISAGREEMENTS:
        for side in one.sides:
            school = write_noun(situation.school) | {one.question: side.value}
            other = replace(situation, school=read_noun(type(situation.school), school))
            if one.question not in asked:
                theirs = advise(other, wide)
                assert [j.rig for j in theirs.usable] == [j.rig for j in mine.usable]


@pytest.mark.parametrize("question", [one.question for one in DISAGREEMENTS])
def test_school__that_is_asked_changes_what_is_advised_somewhere(question: str) -> None:
    cold = replace(RUN, water=replace(RUN.water, temperature_c=3.0))
    sides = next(one for one in DISAGREEMENTS if one.question == question).sides

    def changes(situation: Situation) -> bool:
        said = set()
        for side in sides:
            school = read_noun(type(situation.school), write_noun(situation.school) | {question: side.value})
            usable = advise(replace(situation, school=school), wide).usable
            said.add(tuple((one.rig, round(one.score, 6)) for one in usable))
        return len(said) > 1

    assert any(changes(one) for one in (RUN, POCKETS, cold, replace(RUN, rules=Rules(max_flies=3))))
