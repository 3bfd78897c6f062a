"""The doors of the drift and of what is set up: every new field refuses what cannot be, and the answers hold together.

Truth: the core's own ranges, and what no drift can do."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.service.anglers import Bank, faults, new_id
from tests.situations import CONTRACT

TUNINGS: dict[str, dict[str, Any]] = {
    "euro": {"rig": "euro", "depth_setting_m": 1.2, "point_bead_mm": 3.0},
    "indicator": {"rig": "indicator", "depth_setting_m": 1.0, "point_bead_mm": 2.5},
    "dry_dropper": {"rig": "dry_dropper", "depth_setting_m": 0.9, "point_bead_mm": 2.0},
}


def path(client: TestClient, rig: str, **how: Any) -> dict[str, Any]:  # noqa: ANN401
    answer = client.post("/api/path", json={"situation": CONTRACT, "tuning": TUNINGS[rig], **how})
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


@pytest.mark.parametrize("rig", TUNINGS)
@pytest.mark.parametrize("entry", ["straight", "tuck", "heap", "lead"])
def test_path__its_rows_are_as_long_as_its_frames(client: TestClient, rig: str, entry: str) -> None:
    out = path(client, rig, entry=entry)
    frames = len(out["line_x_m"])
    flies = sum(part != "shot" for part in out["body_parts"])
    assert len(out["top_pace"]) == len(out["pull_g"]) == len(out["line_height_m"]) == frames
    assert [len(row) for row in out["body_depth_m"]] == [frames] * len(out["body_parts"])
    assert [len(row) for row in out["fly_pace"]] == [frames] * flies
    assert (out["sighter_deg"] is None) == (rig != "euro")
    assert (out["mend"] is None) == (rig == "euro")
    assert all(0.0 <= touch["hang_chance"] < 1.0 for touch in out["touches"])
    assert all(0.0 <= touch["t_s"] <= out["ends_s"] for touch in out["touches"])
    shown = {"top_pace", "fly_pace", "pull", "touches"} | ({"sighter"} if rig == "euro" else set())
    assert {why["number"] for why in out["why"]} == shown
    assert (out["reached_s"] is None) == (out["reached_m"] is None)


def test_path__a_swing_follows_the_drift_and_is_a_tip_s_alone(client: TestClient) -> None:
    plain, swung = path(client, "euro"), path(client, "euro", swing=True)
    assert plain["swing_from_s"] is None
    assert swung["swing_from_s"] == pytest.approx(swung["ends_s"])
    assert len(swung["line_x_m"]) > len(plain["line_x_m"])
    assert swung["body_depth_m"][0][-1] < max(swung["body_depth_m"][0]) - 0.1
    assert path(client, "indicator", swing=True)["swing_from_s"] is None


def test_path__a_tip_that_stands_still_lets_the_flies_pass(client: TestClient) -> None:
    dead, still = path(client, "euro"), path(client, "euro", handling="still")
    middle = len(still["top_pace"]) // 2
    assert still["top_pace"][middle] == pytest.approx(0.0, abs=1e-6)
    assert still["sighter_deg"][middle] < dead["sighter_deg"][middle]


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"entry": "sideways"}, "entry"),
        ({"handling": "hard"}, "handling"),
        ({"swing": "perhaps"}, "swing"),
        ({"situation": CONTRACT | {"fish": {"rises": "many"}}}, "situation.fish.rises"),
        (
            {"situation": CONTRACT | {"fish": {"found": [{"stage": "egg", "body_mm": 0, "where": "bed"}]}}},
            "situation.fish.found.0.body_mm",
        ),
    ],
)
def test_path__refuses_and_names_the_field(client: TestClient, change: dict[str, Any], field: str) -> None:
    answer = client.post("/api/path", json={"situation": CONTRACT, "tuning": TUNINGS["euro"]} | change)
    assert answer.status_code == 422
    assert field in faults(answer)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"rules": {"season_first": "13-01"}}, "rules.season_first"),
        ({"rules": {"season_last": "31 December"}}, "rules.season_last"),
        ({"flows_to_deg": 400.0}, "flows_to_deg"),
        ({"species": "pike"}, "species"),
        ({"rules": {"max_flies": 9}}, "rules.max_flies"),
    ],
)
def test_beat__refuses_and_names_the_field(bank: Bank, change: dict[str, Any], field: str) -> None:
    body = {"river_id": bank.beat["river_id"], "name": "Mill reach", "position": 4} | change
    answer = bank.client.put(f"/api/beats/{new_id()}", json=body)
    assert answer.status_code == 422
    assert field in faults(answer)


def test_beat__of_a_name_alone_has_the_ordinary_rules(bank: Bank) -> None:
    made = new_id()
    body = {"river_id": bank.beat["river_id"], "name": "Mill reach", "position": 4}
    assert bank.client.put(f"/api/beats/{made}", json=body).status_code == 200
    found = next(one for one in bank.client.get("/api/beats").json() if one["id"] == made)
    assert found["rules"]["lead"] is False
    assert found["rules"]["max_flies"] == 2
    assert found["wading_allowed"]
