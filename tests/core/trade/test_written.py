"""What is explained of the trade: whole, and in words that are explained themselves (common practice, no source)."""

import json
import re
from typing import Any, get_args

import pytest

from deriva.core.glossary import SYMBOLS, WORDS, page
from deriva.core.model.logged import Outcome
from deriva.core.model.rig import RIG_KINDS
from deriva.core.model.situation import Place, Situation
from deriva.core.model.water import Water
from deriva.core.trade import first_hour
from deriva.core.trade.casts import casts_for
from deriva.core.trade.written import written, written_first_hour
from root import ROOT


def test_words__are_one_glossary_for_the_screens_and_the_docs() -> None:
    told = written()["words"]
    assert {one["word"] for one in told} <= {one.word for one in WORDS}
    for one in (*WORDS, *SYMBOLS):
        assert f"| {one.word} |" in page()
    forms = [form for one in told for form in one["forms"]]
    assert len(set(forms)) == len(forms)


def test_app__carries_what_the_core_explains() -> None:
    for name, told in (("trade", written()), ("firstHour", written_first_hour())):
        kept = json.loads((ROOT / f"web/src/features/trade/{name}.json").read_text(encoding="utf-8"))
        assert kept == json.loads(json.dumps(told))


def test_knots__are_all_that_a_build_asks_for_with_three_steps_and_a_strength_each() -> None:
    knots = {one["name"]: one for one in written()["knots"]}
    assert set(knots) == {
        "clinch", "surgeon", "perfection", "loop_to_loop", "to_the_bend", "to_a_ring", "to_the_eye",
    }  # fmt: skip
    for one in knots.values():
        assert len(one["steps"]) == 3
        assert 0.5 < one["keeps"] < 1.0
        assert one["fails"]


def test_lists__begin_with_local_rules_and_mark_what_can_hurt() -> None:
    told = written()
    assert "Local rules" in told["first_word"]
    grave = {one["name"] for one in told["lists"] if one["grave"]}
    assert grave == {"stepping_in", "releasing", "hook_in_skin", "fallen_in"}
    whole = " ".join(point for one in told["lists"] for point in one["points"])
    for mind in ("glasses", "power line", "redds", "wet hands", "head first", "clean", "dry"):
        assert re.search(mind, whole, re.I), mind


def test_at_a_lie__is_told_what_the_water_shows_how_it_is_covered_and_each_rig_fished() -> None:
    """Common practice, no source: what a drift stands or falls with."""
    told = {one["name"]: " ".join([*one["steps"], one["fault"]]) for one in written()["at_a_lie"]}
    assert set(told) == {"signs", "cover", *RIG_KINDS}
    for name, minds in {
        "signs": ("seam", "drops off", "leave bubbles", "faster than the top", "sound it"),
        "cover": ("below the fish", "near before far", "two steps up"),
        "euro": ("sighter hangs", "strike", "hesitation"),
        "indicator": (
            "mend upstream|upstream where the line lies on faster",
            "feed as fast",
            "slower than the bubbles",
        ),
        "dry_dropper": ("straight up- or downstream", "begins to sink", "dry it"),
    }.items():
        for mind in minds:
            assert re.search(mind, told[name], re.I), (name, mind)


def at(water: Water | None = None, **place: Any) -> Situation:  # noqa: ANN401
    return Situation(water or Water(0.6, 0.4), Place(**place))


@pytest.mark.parametrize(
    ("situation", "names"),
    [
        (at(distance_m=6.0), []),
        (at(distance_m=4.0, cover=("branches",)), ["bow"]),
        (at(distance_m=7.0, tight_casting=True), ["roll"]),
        (at(distance_m=6.0, wind_m_s=7.0), ["lob"]),
        (at(Water(0.6, 0.4, under_line_ratio=1.6)), ["reach"]),
        (at(Water(1.2, 0.8)), ["tuck"]),
        (at(Water(0.6, 0.4, "drop_off")), ["tuck"]),
        (at(distance_m=10.0), ["oval"]),
        (at(Water(1.2, 0.8), distance_m=10.0, wind_m_s=7.0), ["lob", "tuck"]),
    ],
)
def test_casts__are_named_where_the_place_asks_for_them(situation: Situation, names: list[str]) -> None:
    """Common practice, no source."""
    assert [one.name for one in casts_for(situation)] == names
    assert {one.name for one in casts_for(situation)} <= {one["name"] for one in written()["casts"]}


def test_troubles__are_each_told_apart_and_answered() -> None:
    told = written()["troubles"]
    assert len(told) >= 10
    for one in told:
        assert len(one["cases"]) >= 2
        assert all(case["when"] and case["do"] for case in one["cases"])


def test_first_hour__shares_its_drifts_from_near_to_far_and_says_what_to_do_after_each() -> None:
    hour = written_first_hour()
    for lanes, shares in enumerate(hour["turns"], 1):
        assert len(shares) == lanes
        assert sum(shares) == first_hour.DRIFTS
        assert max(shares) - min(shares) <= 1
    assert set(hour["after"]) == set(get_args(Outcome))
    assert {one["outcome"] for one in hour["keys"]} <= set(get_args(Outcome))
