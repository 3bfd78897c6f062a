"""The core's doors on the phone: the same question, the same answer as through the service, without its libraries."""

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from deriva.core.choose.compare import COARSE
from deriva.core.choose.near import around
from deriva.core.choose.search import best_of
from deriva.core.coach.ask import Asked
from deriva.core.coach.card import search_card, written
from deriva.core.model.rig import RIG_KINDS
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.portable import answer
from deriva.core.read import read_noun, write_noun
from deriva.core.rigs.packed import pack
from deriva.core.say import plans
from deriva.core.say.column import drawn_column
from deriva.service.schemas.coach import StepOut
from deriva.service.schemas.plan import BuildOut, ChangesOut, CompareOut
from deriva.service.usecases.rigging import coach, rank, tune
from deriva.service.views.advice import advice_out, coach_out, ranked_out

SITUATIONS: list[dict[str, Any]] = [
    {"water": {"depth_m": 1.0, "surface_speed_m_s": 0.6}},
    {
        "water": {
            "kind": "glide", "depth_m": 1.4, "depth_sd_m": 0.3, "surface_speed_m_s": 0.35, "bed": "cobble",
            "clarity_m": 0.8, "temperature_c": 8, "flow_class": "above_normal", "undertow": False, "speed_sd_m_s": 0.05,
        },
        "place": {"distance_m": 9, "wading_allowed": False, "wind_m_s": 4, "tight_casting": True},
        "fish": {
            "feeding": None, "species": "grayling", "rises": "none",
            "found": [{"stage": "shrimp", "body_mm": 12.0, "where": "bed"}],
        },
        "rules": {"max_flies": 1, "added_weight": False, "barbless": True, "lead": False, "release": True},
        "school": {"depth": "depth", "bottom": "near"},
        "box": {"beads_mm": [2.0, 2.5, 3.0, 3.5], "floats_mm": [13.0, 16.0], "dries": [], "flies": None},
    },
]  # fmt: skip
DRIFTS: list[dict[str, Any]] = [
    {"depth_setting_m": 0.9, "point_bead_mm": 2.5, "outcome": "clean", "pace": "faster"},
    {"depth_setting_m": 0.9, "point_bead_mm": 2.5, "outcome": "clean"},
    {"depth_setting_m": 1.1, "point_bead_mm": 3.0, "outcome": "tick", "pace": None},
    {"depth_setting_m": 1.1, "point_bead_mm": 3.0, "outcome": "fish"},
]

WITHOUT = """
import sys, json
class Absent:
    def find_spec(self, name, path=None, target=None):
        if name.split(".")[0] in ("numpy", "numba", "scipy", "pydantic", "pydantic_core", "fastapi", "sqlalchemy"):
            raise ImportError(name)
sys.meta_path.insert(0, Absent())
from deriva.core.portable import answer
print(json.dumps([answer(door, asked) for door, asked in json.load(sys.stdin)]))
"""


def on_the_phone(asked: list[tuple[str, Any]]) -> list[dict[str, Any]]:
    """Answer in a Python that has the standard library and no more."""
    done = subprocess.run(
        [sys.executable, "-c", WITHOUT], input=json.dumps(asked), capture_output=True, text=True, check=True
    )
    answers: list[dict[str, Any]] = json.loads(done.stdout)
    return answers


def test_coach__fish_on_the_upper_fly_say_that_they_feed_higher() -> None:
    fish = {"depth_setting_m": 1.1, "point_bead_mm": 3.0, "outcome": "fish"}

    def notes(*drifts: dict[str, Any]) -> list[str]:
        asked = {"situation": SITUATIONS[0], "rig": "euro", "drifts": [fish | one for one in drifts]}
        noted: Any = answer("coach", {"asked": asked})["answer"]
        return list(noted["notes"])

    upper = {"fly": "dropper", "phase": "drift"}
    point = {"fly": "point", "phase": "drift"}
    assert notes(upper, point) == []
    assert notes(point, point, point, upper, upper) == []
    assert "feed higher" in notes(upper, {"fly": "point", "phase": "swing"}, point)[0]


@pytest.mark.parametrize("rig", ["euro", "indicator"])
def test_coach__plain_python_gives_the_compiled_advice(rig: str) -> None:
    asked = [{"situation": s, "rig": rig, "drifts": DRIFTS[:n]} for s in SITUATIONS for n in (1, 4)]
    for question, got in zip(asked, on_the_phone([("coach", {"asked": one}) for one in asked]), strict=True):
        want = coach_out(coach(read_noun(Asked, question))).model_dump(by_alias=True)
        assert got["answer"]["advice"] == want["advice"]
        assert got["answer"]["rule_of_thumb"] == want["rule_of_thumb"]
        assert got["answer"]["notes"] == want["notes"]
        assert got["answer"]["depth_belief_m"] == pytest.approx(want["depth_belief_m"], rel=1e-6)


def test_hang__plain_python_draws_the_compiled_rig() -> None:
    tunings = [
        {"rig": "euro", "depth_setting_m": 1.2, "point_bead_mm": 3.0, "flies": 1},
        {"rig": "dry_dropper", "depth_setting_m": 0.8, "point_bead_mm": 2.0, "float": None, "shot_g": 0.0},
    ]
    asked = [{"situation": SITUATIONS[0], "tuning": one} for one in tunings]
    for question, got in zip(asked, on_the_phone([("hang", one) for one in asked]), strict=True):
        situation = read_noun(Situation, question["situation"])
        ranked = ranked_out(tune(situation, read_noun(Tuning, question["tuning"])), situation)
        want = ranked.model_dump(by_alias=True)
        setup = want["setup"]
        assert set(got["answer"]["setup"]) == set(setup)
        for name, value in setup.items():
            close = pytest.approx(value, rel=1e-6) if isinstance(value, float) else value
            assert got["answer"]["setup"][name] == close
        drawn, expected = got["answer"]["picture"], want["picture"]
        assert drawn["bodies"][0]["part"] == "point"
        assert drawn["bodies"][0]["height_m"] == pytest.approx(expected["bodies"][0]["height_m"], rel=1e-6)
        assert [p["x_m"] for p in drawn["line"]] == pytest.approx(
            [p["x_m"] for p in expected["line"]], abs=1e-6
        )


def test_advice__is_set_anew_for_water_that_was_read_again() -> None:
    """Packed as read, asked half as deep again and faster: the same rigs otherwise, nearly as good as a whole search's."""
    read = {"water": {"depth_m": 1.0, "surface_speed_m_s": 0.6, "bed": "cobble"}}
    again = {"water": {"depth_m": 1.5, "surface_speed_m_s": 0.8, "bed": "cobble"}}
    advised = rank(read_noun(Situation, read)).advice.usable
    tunings = [Tuning.of(one.rig) for one in advised]
    packed = write_noun(pack(read_noun(Situation, read), tunings))
    given = {"tunings": write_noun(tuple(tunings)), "read_as": read}
    kept, column, said = on_the_phone(
        [("keep", packed), ("column", {"situation": again}), ("advise", {"situation": again, **given})]
    )
    assert kept["answer"]["families"] == sum(len(one["marches"]) for one in packed["rigs"])
    situation = read_noun(Situation, again)
    drawn = write_noun(drawn_column(situation))
    assert set(column["answer"]) == set(drawn)
    for name in ("depth_p90_m", "zone_high_m", "zone_speed_m_s", "turbidity_fnu"):
        assert column["answer"][name] == pytest.approx(drawn[name])
    want = advice_out(rank(situation)).model_dump(mode="json", by_alias=True)
    got: Any = said["answer"]
    assert set(got) == set(want)
    assert got["cautions"] == want["cautions"]
    assert {one["rig"] for one in got["ranked"]} == {one["rig"] for one in want["ranked"]}
    for one in got["ranked"]:
        assert one["setup"] is not None
        whole = next(other for other in want["ranked"] if other["rig"] == one["rig"])
        assert set(one) == set(whole)
        assert one["score"] == pytest.approx(whole["score"], rel=0.2)
        assert one["setup"]["depth_setting_m"] == pytest.approx(whole["setup"]["depth_setting_m"], rel=0.3)
    first = got["ranked"][0]
    tuned = {
        "situation": again,
        "tuning": write_noun(Tuning(first["rig"], first["setup"]["depth_setting_m"], 3.0)),
    }
    (alone,) = on_the_phone([("tune", tuned)])
    here = tune(situation, read_noun(Tuning, tuned["tuning"]))
    assert alone["answer"]["zone_share"] == pytest.approx(here.evaluation.zone_share, abs=0.02)


def test_plans__plain_python_says_what_the_compiled_core_says() -> None:
    """How to tie it, two rigs compared, the least change among the rigs that are known, and what the coach will say next."""
    situation = read_noun(Situation, SITUATIONS[0])
    first, second = Tuning("euro", 1.2, 3.0), Tuning("indicator", 1.0, 2.5)
    asked = {
        "situation": SITUATIONS[0],
        "rig": "indicator",
        "drifts": DRIFTS[:2],
        "tuning": write_noun(second),
    }
    rig = {"situation": SITUATIONS[0], "tuning": write_noun(first)}
    both = {"situation": SITUATIONS[0], "first": write_noun(first), "second": write_noun(second)}
    tied, changed, card = on_the_phone(
        [
            ("build", {**rig, "background": "bright"}),
            ("change", {**rig, "tunings": [write_noun(first), write_noun(second)]}),
            ("card", {"asked": asked}),
        ]
    )
    parts: list[Any] = [  # one way that drifts end after the other
        answer("card", {"asked": asked, "tunings": [], "part": k})["answer"]
        for k in range(card["answer"]["parts"])
    ]
    assert [one for part in parts for one in part["steps"]] == card["answer"]["steps"]
    want = plans.written_build(plans.tie(plans.ToTie(situation, first, "bright")))
    assert BuildOut.model_validate(tied["answer"]) == BuildOut.model_validate(want)
    whole = CompareOut.model_validate(
        plans.written_comparison(plans.compare(situation, first, second, COARSE))
    )
    assert CompareOut.model_validate(answer("compare", both)["answer"]) == whole  # compiled here
    least = ChangesOut.model_validate(
        plans.written_changes(plans.change(situation, first, around([first, second])))
    )
    assert [one["words"] for one in changed["answer"]["options"]] == [one.words for one in least.options]
    assert changed["answer"]["reason"] == least.reason
    steps = written(search_card(read_noun(Asked, asked), around([second])))
    assert [StepOut.model_validate(one) for one in card["answer"]["steps"]] == [
        StepOut.model_validate(one) for one in steps
    ]


@pytest.mark.parametrize(
    ("change", "code", "field"),
    [
        ({"rig": "spinning"}, "WRONG_TYPE", "rig"),
        ({"situation": None}, "WRONG_TYPE", "situation"),
        ({"situation": {"water": {"depth_m": 1.0}}}, "WRONG_TYPE", "situation.water.surface_speed_m_s"),
        ({"situation": {"water": {"depth_m": 99, "surface_speed_m_s": 0.5}}}, "OUT_OF_RANGE", "situation.water.depth_m"),
        ({"drifts": "many"}, "WRONG_TYPE", "drifts"),
        ({"drifts": [{**DRIFTS[0], "outcome": "eaten"}]}, "WRONG_TYPE", "drifts.0.outcome"),
        ({"drifts": [{**DRIFTS[0], "depth_setting_m": True}]}, "WRONG_TYPE", "drifts.0.depth_setting_m"),
        ({"drifts": [{**DRIFTS[0], "colour": "red"}]}, "WRONG_TYPE", "drifts.0.colour"),
        ({"tuning": {"rig": "euro", "depth_setting_m": 1.0, "point_bead_mm": 77.0}}, "OUT_OF_RANGE", None),
    ],
)  # fmt: skip
def test_answer__bad_question_is_a_fault_that_names_the_field(
    change: dict[str, Any], code: str, field: str | None
) -> None:
    asked = {"situation": SITUATIONS[0], "rig": "euro", "drifts": DRIFTS, **change}
    fault = answer("coach", {"asked": asked})["fault"]
    assert isinstance(fault, dict)
    assert fault["code"] == code
    assert field is None or fault["field"] == field
    assert fault["message"]


def test_water__that_only_equals_the_last_is_read_anew() -> None:
    """What was read is not read again; and true is not one, though Python has it so."""
    tuning = {"rig": "euro", "depth_setting_m": 1.0, "point_bead_mm": 3.0}

    def tuned(**rules: object) -> dict[str, Any]:
        situation = SITUATIONS[0] | {"rules": {"max_flies": 2} | rules}
        return answer("tune", {"situation": situation, "tuning": tuning})

    tuned(added_weight=True)  # what it keeps is where the next search begins: from then on to the last bit
    first = tuned(added_weight=True)
    assert tuned(added_weight=True) == first
    assert first["answer"] != tuned(max_flies=1)["answer"]
    for wrong in ({"max_flies": True}, {"added_weight": 1}):
        fault: Any = tuned(**wrong)["fault"]
        assert fault["field"] == f"situation.rules.{next(iter(wrong))}"
    assert tuned(added_weight=True) == first


def test_other_rigs__are_looked_through_once_for_words_on_the_same_water() -> None:
    """A stop without a take: from some drift on every word asks whether another rig would do better now."""
    situation = {
        "water": {
            "kind": "run",
            "depth_m": 1.2,
            "depth_sd_m": 0.25,
            "surface_speed_m_s": 0.9,
            "bed": "cobble",
        }
    }
    on = {"depth_setting_m": 1.4, "point_bead_mm": 4.0}
    tuning = {"rig": "euro"} | on
    asked = {"situation": situation, "rig": "euro", "tuning": tuning}
    best_of.cache_clear()  # whatever was asked before in this process
    words = 0
    for k in range(1, 20):
        drifts = [on | {"outcome": "clean" if n % 5 else "tick"} for n in range(k)]
        said: Any = answer("coach", {"asked": asked | {"drifts": drifts}, "tunings": [tuning]})["answer"]
        words += said["advice"]["action"] in ("change_fly", "change_rig")
    found = best_of.cache_info()
    assert words >= 4
    assert 0 < found.misses <= len(RIG_KINDS) * words / 2
    assert found.hits > 0


def test_core__imports_nothing_that_a_phone_lacks() -> None:
    # every file that the phone is given is used by it: none is shipped for nothing
    from engine import portable_modules  # noqa: PLC0415

    files = portable_modules()
    assert "deriva/core/portable.py" in files
    assert not any("transient" in name or "sweep" in name for name in files)
    assert all(Path("src", name).is_file() for name in files)
