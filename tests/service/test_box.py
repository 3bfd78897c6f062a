"""The box, the schools and the plan at their doors: what is counted, what binds the advice, what is refused."""

import io
import re
from typing import Any

import pytest
from fastapi.testclient import TestClient
from pypdf import PdfReader

from deriva.core.drift.tank import tank_factor
from deriva.core.tackle.flies import Fly
from tests.service.anglers import Bank, at, faults, new_id
from tests.situations import CONTRACT

NYMPH: dict[str, Any] = {
    "kind": "nymph", "form": "dubbed mayfly nymph", "hook": 14, "bead_mm": 3.0, "dressing": "dubbed", "count": 4,
}  # fmt: skip
TUNING: dict[str, Any] = {"rig": "indicator", "depth_setting_m": 0.6, "point_bead_mm": 2.5}
DOORS = ("/api/changes", "/api/compare", "/api/build", "/api/build.pdf")


def asked(door: str, tuning: dict[str, Any]) -> dict[str, Any]:
    both = {"first": tuning, "second": {**tuning, "depth_setting_m": 1.1}}
    return {"situation": CONTRACT, **(both if door == "/api/compare" else {"tuning": tuning})}


def items(bank: Bank) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = bank.client.get("/api/box").json()["items"]
    return found


def put(bank: Bank, item: dict[str, Any], item_id: str | None = None) -> str:
    made = item_id or new_id()
    answer = bank.client.put(f"/api/box/{made}", json=item)
    assert answer.status_code == 200, answer.text
    return made


def situation(bank: Bank) -> dict[str, Any]:
    lies = bank.client.get("/api/beats").json()[0]["lies"]
    found: dict[str, Any] = lies[0]["situation"]
    return found


def test_box__an_empty_one_binds_nobody_and_one_tap_fills_it(stranger: Bank) -> None:
    assert items(stranger) == []
    filled = stranger.client.post("/api/box/starter").json()["items"]
    assert len(filled) >= 20
    assert {one["kind"] for one in filled} == {"nymph", "dry", "float"}
    assert stranger.client.post("/api/box/starter").json()["items"] == filled  # a second tap adds nothing


def test_box__what_is_left_binds_the_advice(bank: Bank) -> None:
    for one in items(bank):
        if one["kind"] == "nymph":
            assert bank.client.delete(f"/api/box/{one['id']}").status_code == 200
    put(bank, NYMPH | {"bead_mm": 2.0, "hook": 16})
    now = situation(bank)
    assert now["box"]["beads_mm"] == [2.0]
    ranked = bank.client.post("/api/advice", json=now).json()["ranked"]
    assert {one["setup"]["point_bead_mm"] for one in ranked if one["setup"]} == {2.0}
    assert all("fly" in {c["name"] for c in one["criteria"]} for one in ranked if one["setup"])


def test_box__a_box_of_flies_that_are_all_lost_says_what_to_relax(bank: Bank) -> None:
    for one in items(bank):
        bank.client.delete(f"/api/box/{one['id']}")
    put(bank, NYMPH | {"count": 0})
    advice = bank.client.post("/api/advice", json=situation(bank)).json()
    assert all(one["score"] == 0.0 for one in advice["ranked"])
    assert "No weighted fly" in advice["ranked"][0]["reasons"][0]["text"]
    assert any("look beyond your box" in said for said in advice["relax"])


def test_box__a_lost_fly_comes_off_the_count_until_it_is_counted_again_or_taken_back(bank: Bank) -> None:
    for one in items(bank):
        bank.client.delete(f"/api/box/{one['id']}")
    mine = put(bank, NYMPH)
    bank.client.put(f"/api/box/{new_id()}", json=NYMPH | {"hook": 16})
    _, _, setting = bank.begin()  # its point is the dubbed nymph, hook 14, 3.0 mm
    later = "2099-01-01T10:00:00+00:00"
    lost = bank.kept("drifts", bank.drift(setting, at=later, outcome="lost_fly"))
    bank.kept("drifts", bank.drift(setting, at=at(-100_000), outcome="lost_fly"))  # before it was counted

    def left() -> dict[int, tuple[int, int]]:
        return {one["hook"]: (one["lost"], one["left"]) for one in items(bank)}

    assert left() == {14: (1, 3), 16: (0, 4)}
    bank.kept("drifts", bank.drift(setting, at=later, outcome="lost_fly", undone=True), lost)
    assert left()[14] == (0, 4)
    bank.kept("drifts", bank.drift(setting, at="2026-11-01T10:00:00+00:00", outcome="lost_fly"))
    put(bank, NYMPH | {"count": 9}, mine)
    assert left()[14] == (0, 9)


@pytest.mark.parametrize("kind", ["nymph", "dry", "float"])
def test_box__of_one_kind_alone_is_counted(bank: Bank, kind: str) -> None:
    for one in items(bank):
        if one["kind"] != kind or one["count"] > 6:
            bank.client.delete(f"/api/box/{one['id']}")
    if kind == "nymph":  # and bare flies alone
        put(bank, NYMPH | {"bead_mm": None})
    assert {one["kind"] for one in items(bank)} == {kind}
    assert bank.client.get("/api/beats").status_code == 200


def test_box__a_dry_lost_alone_comes_off_its_own_count(bank: Bank) -> None:
    _, stop, _ = bank.begin()
    before = {one["id"]: one["left"] for one in items(bank)}
    dry = next(one for one in items(bank) if one["kind"] == "dry")
    alone = bank.kept("settings", bank.dry(stop, setup={"float": dry["form"], "tippet_x": 4}))
    bank.kept("drifts", bank.drift(alone, at="2099-01-01T10:00:00+00:00", outcome="lost_fly"))
    assert {one["id"]: one["left"] for one in items(bank)} == before | {dry["id"]: dry["left"] - 1}


def test_box__a_tank_test_takes_the_place_of_the_dressing(bank: Bank) -> None:
    tank = {"depth_m": 0.5, "time_s": 1.4, "temperature_c": 15.0}
    mine = put(bank, NYMPH | {"tank": tank})
    one = next(one for one in items(bank) if one["id"] == mine)
    fly = Fly("dubbed mayfly nymph", 14, 3.0, "dubbed")
    assert one["drag_factor"] == pytest.approx(tank_factor(fly, depth_m=0.5, time_s=1.4, temperature_c=15.0))
    assert one["sinks_m_s"] == pytest.approx(0.5 / 1.4, rel=0.12)
    flies = situation(bank)["box"]["flies"]
    assert one["drag_factor"] in {fly["drag_factor"] for fly in flies}


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        ({"count": -1}, "nymph.count", "outside 0 to 999"),
        ({"count": 2.5}, "nymph.count", "a whole number is wanted"),
        ({"hook": 99}, "nymph.hook", "outside 2 to 26"),
        ({"bead_mm": 40}, "nymph.bead_mm", "outside 1.5 to 6"),
        ({"form": " "}, "nymph.form", ""),
        ({"form": "x" * 90}, "nymph.form", ""),
        ({"material": "lead"}, "nymph.material", "one of tungsten, brass"),
        ({"kind": "boat"}, None, "boat"),
        ({"colour": "red"}, "nymph.colour", "not a field"),
        ({"tank": {"depth_m": 0.5, "time_s": 0.12}}, "tank.time_s", "this fly takes between"),
        ({"tank": {"depth_m": 9, "time_s": 2}}, "nymph.tank.depth_m", "outside 0.1 to 3"),
    ],
)
def test_box__refuses_by_name_and_keeps_what_it_had(
    bank: Bank, change: dict[str, Any], field: str | None, words: str
) -> None:
    before = items(bank)
    answer = bank.client.put(f"/api/box/{new_id()}", json=NYMPH | change)
    assert answer.status_code == 422
    found = faults(answer)
    assert field in found, found
    assert words in found[field]
    assert items(bank) == before


@pytest.mark.parametrize(
    "item", [{"kind": "float", "size_mm": 12.5, "count": 1}, {"kind": "dry", "form": "a cork", "count": 1}]
)
def test_box__only_floats_and_dries_whose_carrying_is_known(bank: Bank, item: dict[str, Any]) -> None:
    answer = bank.client.put(f"/api/box/{new_id()}", json=item)
    assert answer.status_code == 422
    assert "is not one of" in answer.text


def test_box__another_angler_s_is_not_there(bank: Bank, stranger: Bank) -> None:
    mine = items(bank)
    assert stranger.client.delete(f"/api/box/{mine[0]['id']}").status_code == 404
    assert items(stranger) == []
    assert stranger.client.put(f"/api/box/{mine[0]['id']}", json=NYMPH).status_code == 200  # one of their own
    assert len(items(stranger)) == 1
    assert items(bank) == mine


def test_missing__says_what_a_thin_box_lacks(bank: Bank) -> None:
    deep = {
        **CONTRACT,
        "water": {**CONTRACT["water"], "kind": "run", "surface_speed_m_s": 0.9},
        "place": {"distance_m": 5},
    }
    thin = {
        "beads_mm": [2.0],
        "flies": [{"form": "midge pupa", "hook": 18, "bead_mm": 2.0, "dressing": "slim"}],
    }
    lacks = bank.client.post("/api/box/missing", json={**deep, "box": thin}).json()
    assert lacks
    assert all(one["fly"]["bead_mm"] >= 2.5 or one["fly"]["form"] != "midge pupa" for one in lacks)
    assert all(one["gain"] > 0.0 for one in lacks)
    assert bank.client.post("/api/box/missing", json={**deep, "box": None}).json() == []


def test_school__of_the_angler_and_of_one_lie(bank: Bank) -> None:
    asks = bank.client.get("/api/schools").json()
    assert {one["question"] for one in asks} >= {"depth", "flies", "heavy", "weight", "pace"}
    one_fly = {"flies": "one", "bottom": "near"}
    assert bank.client.put("/api/angler", json={"school": one_fly}).json()["school"]["flies"] == "one"
    assert bank.client.get("/api/session").json()["angler"]["units"] == "metric"  # what was not sent stays
    assert situation(bank)["school"]["flies"] == "one"
    lie = bank.lie["id"]
    assert bank.client.put(f"/api/lies/{lie}/school", json={"school": {"flies": "two"}}).status_code == 200
    lies = bank.client.get("/api/beats").json()[0]["lies"]
    assert lies[0]["school"]["flies"] == lies[0]["situation"]["school"]["flies"] == "two"
    assert lies[1]["situation"]["school"]["flies"] == "one"
    bank.client.put(f"/api/lies/{lie}/school", json={"school": None})
    assert situation(bank)["school"]["flies"] == "one"


def test_school__another_angler_s_lie_is_not_there(bank: Bank, stranger: Bank) -> None:
    assert stranger.client.put(f"/api/lies/{bank.lie['id']}/school", json={"school": None}).status_code == 404
    answer = bank.client.put(f"/api/lies/{bank.lie['id']}/school", json={"school": {"flies": "nine"}})
    assert "one of two, one" in faults(answer)["school.flies"]


def test_changes__slides_the_float_first(client: TestClient) -> None:
    out = client.post("/api/changes", json=asked("/api/changes", TUNING)).json()
    assert out["advised"] is not None
    advised = out["options"][out["advised"]]
    assert advised["kind"] == "depth"
    assert "Slide the float up" in advised["words"]
    assert advised["setup"]["depth_setting_m"] > TUNING["depth_setting_m"]
    assert [one["seconds"] for one in out["options"]] == sorted(one["seconds"] for one in out["options"])


def test_compare__marks_the_lie_with_its_spread(client: TestClient) -> None:
    out = client.post("/api/compare", json=asked("/api/compare", TUNING)).json()
    assert len(out["first"]) == len(out["second"]) == len(out["depths_m"])
    assert out["depth_p10_m"] < out["depth_m"] < out["depth_p90_m"]
    assert out["speed_p10_m_s"] < out["speed_m_s"] < out["speed_p90_m_s"]
    assert "deeper, the" in out["words"][0]
    assert "Of all the water" in out["words"][1]


def test_build__is_a_document_that_names_itself_and_adds_up(client: TestClient) -> None:
    out = client.post("/api/build", json=asked("/api/build", TUNING | {"flies": 2})).json()
    assert out["format"] == "deriva-build/1"
    below = [one["length_m"] for one in out["sections"] if "tippet" in one["name"]]
    assert sum(below) == pytest.approx(0.6)
    assert out["tied"][-1]["part"] == "point"


@pytest.mark.parametrize(("units", "length"), [("metric", "60 cm"), ("us", "2 ft 0 in")])
def test_build__card_has_a_front_and_a_back_that_any_reader_opens(
    client: TestClient, units: str, length: str
) -> None:
    client.put("/api/angler", json={"units": units})
    answer = client.post("/api/build.pdf", json=asked("/api/build", TUNING | {"flies": 1}))
    assert answer.headers["content-type"] == "application/pdf"
    pages = PdfReader(io.BytesIO(answer.content)).pages
    assert len(pages) == 2
    back = " ".join(pages[1].extract_text().split())
    assert "What comes next" in back
    assert re.search(r"\d hung up( in a row)?: (shallower|lighter)", back)
    assert (" cm with" in back) == (units == "metric")
    assert float(pages[0].mediabox.width) == pytest.approx(105 / 25.4 * 72, abs=1)
    text = " ".join(pages[0].extract_text().split())
    for words in ("Indicator", length, "dubbed mayfly nymph (hare's ear), size 16", "Leader", "Local rules"):
        assert words in text


@pytest.mark.parametrize("door", DOORS)
@pytest.mark.parametrize(
    ("change", "code"),
    [({"rig": "boat"}, 422), ({"depth_setting_m": 99}, 422), ({"flies": 3}, 422), ({"float": "a cork"}, 422)],
)
def test_plan__refuses_what_cannot_be(
    client: TestClient, door: str, change: dict[str, Any], code: int
) -> None:
    answer = client.post(door, json=asked(door, TUNING | change))
    assert answer.status_code == code
    assert answer.json()["faults"][0]["field"]


def test_coach__is_asked_with_the_whole_rig_that_is_on(client: TestClient) -> None:
    drifts = [{"depth_setting_m": 0.6, "point_bead_mm": 2.5, "outcome": "clean"}] * 4
    body = {"situation": CONTRACT, "rig": "indicator", "drifts": drifts, "tuning": TUNING | {"flies": 1}}
    out = client.post("/api/coach", json=body).json()
    assert out["advice"]["action"] in ("deeper", "heavier")
    assert out["depth_belief_m"]["p50"] > 1.0
    heavy = client.post("/api/coach", json=body | {"drifts": [drifts[0] | {"point_bead_mm": 9}]})
    assert "outside 1.5 to 6" in faults(heavy)["drifts.0.point_bead_mm"]
    client.cookies.clear()
    assert client.post("/api/coach", json=body).status_code == 401


@pytest.mark.parametrize("door", DOORS)
def test_plan__asks_who_is_there(client: TestClient, door: str) -> None:
    client.cookies.clear()
    assert client.post(door, json=asked(door, TUNING)).status_code == 401
