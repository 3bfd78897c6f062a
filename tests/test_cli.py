"""The headless commands. Truth: the contract of fields, and the core behind them."""

import json
import subprocess
import sys
from pathlib import Path
from typing import Any, NamedTuple

import pytest
from typer.testing import CliRunner

from deriva.cli import app
from tests.situations import CONTRACT, DRIFT, water


class Done(NamedTuple):
    returncode: int
    stdout: str
    stderr: str


def run(command: str, given: object, tmp_path: Path | None = None) -> Done:
    text = given if isinstance(given, str) else json.dumps(given)
    source = "-"
    if tmp_path is not None:
        (tmp_path / "in.json").write_text(text)
        source = str(tmp_path / "in.json")
    done = CliRunner().invoke(app, [command, source], input=text)
    assert done.exception is None or isinstance(done.exception, SystemExit)
    return Done(done.exit_code, done.stdout, done.stderr)


def answer(command: str, given: object) -> Any:  # noqa: ANN401
    done = run(command, given)
    assert done.returncode == 0, done.stderr
    assert done.stderr == ""
    return json.loads(done.stdout)


def test_drift__writes_the_fields_of_the_contract() -> None:
    out = answer("drift", DRIFT)
    steady, transient = out["steady"], out["transient"]
    assert 0.8 < steady["body_depth_m"][0] < 1.0
    assert 0.78 < steady["top_speed_ratio"] < 0.93
    assert steady["offset_m"] > 0
    assert steady["tension_n"] > 0
    assert steady["grounded"] is False
    assert len(steady["body_speed_ratio"]) == 1
    frames = len(transient["t_s"])
    assert (
        len(transient["top_x_m"])
        == len(transient["body_x_m"][0])
        == len(transient["body_depth_m"][0])
        == frames
    )
    assert transient["t_s"][-1] == pytest.approx(10, abs=0.05)
    assert 0 < transient["t50_s"] < transient["t80_s"] < transient["t95_s"]
    assert transient["body_depth_m"][0][-1] == pytest.approx(steady["body_depth_m"][0], rel=0.01)


def test_advise__writes_the_fields_of_the_contract() -> None:
    out = answer("advise", CONTRACT)
    assert {one["rig"] for one in out["ranked"]} == {"euro", "indicator", "dry_dropper"}
    assert "⟦" not in json.dumps(out, ensure_ascii=False)
    for one in out["ranked"]:
        assert {"rig", "score", "zone_share", "reasons", "warnings", "setup"} <= one.keys()
        assert all({"for", "text"} <= reason.keys() for reason in one["reasons"])
        assert {
            "flies", "point_bead_mm", "depth_setting_m", "dropper_spacing_m", "tippet_x", "shot_g", "float", "lead_m",
        } <= one["setup"].keys()  # fmt: skip
    assert out["cautions"][-1] == "Local rules and the fishery's word come first."
    lo, hi = out["rule_of_thumb"]["depth_setting_m"]
    assert 0 < lo < hi


def test_advise__needs_depth_and_speed_alone(tmp_path: Path) -> None:
    done = run("advise", {"water": {"depth_m": 0.9, "surface_speed_m_s": 0.6}}, tmp_path)
    assert done.returncode == 0
    assert len(json.loads(done.stdout)["ranked"]) == 3


def test_advise__three_situations_three_best_rigs() -> None:
    near_fast = {**water(kind="pocket", depth_m=0.7, surface_speed_m_s=1.0), "place": {"distance_m": 4}}
    far_deep = {
        **water(kind="pool", depth_m=1.9, surface_speed_m_s=0.45, bed="gravel"),
        "place": {"distance_m": 14, "wind_m_s": 5},
    }
    clear_flat = {
        **water(kind="glide", depth_m=0.6, surface_speed_m_s=0.25, bed="gravel", clarity_m=2.8),
        "place": {"distance_m": 10, "wind_m_s": 1}, "fish": {"feeding": "mixed"},
    }  # fmt: skip
    best = [answer("advise", one)["ranked"][0]["rig"] for one in (near_fast, far_deep, clear_flat)]
    assert best == ["euro", "indicator", "dry_dropper"]


@pytest.mark.parametrize(
    ("command", "given", "lines"),
    [
        ("advise", water(depth_m=0), ["water.depth_m = 0 is outside 0.05 to 4 m"]),
        ("advise", water(depth_m=12), ["water.depth_m = 12 is outside 0.05 to 4 m"]),
        ("advise", water(surface_speed_m_s=-1), ["water.surface_speed_m_s = -1 is outside 0.01 to 4 m/s"]),
        ("advise", {"water": {"depth_m": 1}}, ["water.surface_speed_m_s is missing"]),
        ("advise", water(depth_m="deep"), ["water.depth_m = 'deep': a number is wanted"]),
        ("advise", {}, ["water is missing"]),
        ("advise", "nonsense", ["this is not JSON"]),
        ("advise", water(depth_m=9, clarity_m=-1, colour="green"), ["water.depth_m = 9", "water.clarity_m = -1", "colour is"]),
        ("drift", {**DRIFT, "bodies": []}, ["bodies"]),
        ("drift", {**DRIFT, "bodies": [{"along_m": 1.2, "mass_g": 0.01, "diameter_mm": 5.0}]}, ["it would float"]),
        ("drift", {**DRIFT, "water": {**DRIFT["water"], "depth_m": 0.06}}, ["stones would stand out"]),
    ],
)  # fmt: skip
def test_bad_input__exits_2_with_a_line_a_fault_and_writes_nothing(
    command: str, given: object, lines: list[str]
) -> None:
    done = run(command, given)
    assert done.returncode == 2
    assert done.stdout == ""
    said = done.stderr.strip().splitlines()
    assert len(said) == len(lines)
    for line, wanted in zip(said, lines, strict=True):
        assert wanted in line


COACH: dict[str, Any] = {
    "situation": {"water": {"kind": "run", "depth_m": 1.1, "depth_sd_m": 0.35, "surface_speed_m_s": 0.5}},
    "rig": "dry_dropper",
    "drifts": [{"depth_setting_m": 0.7, "point_bead_mm": 2.5, "outcome": "clean", "pace": "faster"}] * 3,
}


def test_coach__writes_the_fields_of_the_contract() -> None:
    out = answer("coach", COACH)
    assert (
        0.05
        < out["depth_belief_m"]["p10"]
        < out["depth_belief_m"]["p50"]
        < out["depth_belief_m"]["p90"]
        < 4.0
    )
    assert set(out["advice"]) >= {"action", "depth_setting_m", "point_bead_mm", "reason", "float"}
    assert out["advice"]["action"] == "deeper"
    assert out["advice"]["depth_setting_m"] > 0.7
    assert out["rule_of_thumb"]["action"] == "hold"
    assert {one["outcome"] for one in out["next"]} == {
        "clean",
        "tick",
        "hung",
    }  # the search card, two changes deep
    assert any(one["then"] for one in out["next"])
    assert 0.0 < out["taking_fish"] < 1.0
    assert "⟦" not in json.dumps(out, ensure_ascii=False)
    assert answer("coach", COACH) == out  # the same drifts, the same advice


def test_coach__before_the_first_drift_begins_from_the_advisor_s_rig() -> None:
    out = answer("coach", {**COACH, "drifts": []})
    assert out["rule_of_thumb"] is None
    assert out["depth_belief_m"]["p50"] == pytest.approx(1.1, rel=0.05)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"rig": "boat"}, "rig = 'boat'"),
        ({"drifts": [{"depth_setting_m": 0.7, "point_bead_mm": 2.5, "outcome": "snagged"}]}, "'snagged'"),
        (
            {"drifts": [{"depth_setting_m": 70, "point_bead_mm": 2.5, "outcome": "tick"}]},
            "outside 0.1 to 6 m",
        ),
        ({"drifts": [{"depth_setting_m": 0.7, "point_bead_mm": 6.0, "outcome": "tick"}]}, "drifts.0"),
        ({"situation": {"water": {"depth_m": 1.1}}}, "surface_speed_m_s is missing"),
    ],
)
def test_coach__exits_2_naming_what_is_wrong(change: dict[str, Any], words: str) -> None:
    done = run("coach", {**COACH, **change})
    assert done.returncode == 2
    assert words in done.stderr
    assert done.stdout == ""


def test_missing_file__is_said() -> None:
    done = subprocess.run(
        [sys.executable, "-c", "from deriva.cli import main; main()", "drift", "/nowhere.json"],
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert done.returncode == 2
    assert "/nowhere.json: could not be read" in done.stderr


def test_lines__are_answered_one_by_one_and_a_faulty_one_stops_nothing() -> None:
    asked = [water(), {"water": {"depth_m": 99}}, water(depth_m=0.6)]
    text = "\n".join(json.dumps(one) for one in asked) + "\nnonsense\n"
    done = subprocess.run(
        [sys.executable, "-c", "from deriva.cli import main; main()", "advise", "--lines", "-"],
        input=text, capture_output=True, text=True, check=True,
    )  # fmt: skip
    first, faulty, last, nonsense = [json.loads(line) for line in done.stdout.splitlines()]
    assert first == answer("advise", asked[0])
    assert {one["field"] for one in faulty["faults"]} == {"water.depth_m", "water.surface_speed_m_s"}
    assert last["ranked"][0]["score"] > 0.0
    assert "not JSON" in nonsense["faults"][0]["message"]


def test_explain__says_every_criterion_of_every_rig() -> None:
    said = run("explain", water()).stdout
    for name in ("zone", "bed", "reach", "families", "weight and trouble"):
        assert said.count(name) >= 3
