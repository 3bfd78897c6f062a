"""The computing routes say what the core says, and the document of the service is what is committed."""

import json
import re
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.model.situation import Situation
from deriva.core.read import read_noun
from deriva.core.water.profile import current_speed, mean_to_surface
from deriva.service.main import build
from deriva.service.settings import Settings
from tests.service.conftest import SITE
from tests.situations import CONTRACT

ROOT = Path(__file__).parents[2]


def test_advice__is_the_core_s(client: TestClient) -> None:
    out = client.post("/api/advice", json=CONTRACT).json()
    ours = advise(read_noun(Situation, CONTRACT), wide)
    assert [one["rig"] for one in out["ranked"]] == [judged.kind for judged in ours.ranked]
    assert [one["score"] for one in out["ranked"] if one["setup"]] == [judged.score for judged in ours.usable]
    for one in out["ranked"]:
        assert {why["number"] for why in one["why"]} >= {
            "zone_share",
            "fly_depth",
            "lead",
            "pace",
            "hang_chance",
        }
        assert one["picture"]["line"][0]["x_m"] == 0.0
        low, high = one["limits"]["least_m"], one["limits"]["most_m"]
        assert low <= one["setup"]["depth_setting_m"] <= high
        assert one["setup"]["point_bead_mm"] in one["limits"]["beads_mm"]


def test_column__is_the_core_s(client: TestClient) -> None:
    out = client.post("/api/column", json=CONTRACT).json()
    for point in out["profile"]:
        speed = current_speed(
            height_m=point["height_m"], depth_m=1.1, surface_speed_m_s=0.3, bed_ks_m=out["bed_ks_m"]
        )
        assert point["speed_m_s"] == pytest.approx(speed)
    assert out["mean_ratio"] == pytest.approx(mean_to_surface(depth_m=1.1, bed_ks_m=out["bed_ks_m"]))
    assert out["depth_p10_m"] < 1.1 < out["depth_p90_m"]


def test_tune_and_path__follow_the_setting(client: TestClient) -> None:
    tuning = {"rig": "indicator", "depth_setting_m": 0.6, "point_bead_mm": 2.0}
    shallow, deep = (
        client.post(
            "/api/tune", json={"situation": CONTRACT, "tuning": {**tuning, "depth_setting_m": d}}
        ).json()
        for d in (0.6, 0.9)
    )
    assert shallow["numbers"]["fly_depth_m"] < deep["numbers"]["fly_depth_m"]
    path = client.post("/api/path", json={"situation": CONTRACT, "tuning": tuning}).json()
    assert path["body_depth_m"][0][-1] == pytest.approx(shallow["numbers"]["fly_depth_m"], rel=0.03)
    frames, nodes = len(path["line_x_m"]), len(path["line_x_m"][0])
    assert frames * path["frame_s"] >= path["ends_s"]
    assert path["body_knots"][0] == nodes - 1
    assert path["body_parts"][0] == "point"
    assert path["top"] == "float"
    assert path["sighter_points"] == 0
    euro = client.post("/api/path", json={"situation": CONTRACT, "tuning": {**tuning, "rig": "euro"}}).json()
    assert 1 < euro["sighter_points"] < nodes


def test_openapi__committed_is_what_is_served(client: TestClient) -> None:
    served = client.get("/api/openapi.json").json()
    assert json.loads((ROOT / "openapi.json").read_text()) == served
    for path, item in served["paths"].items():
        for method, operation in item.items():
            assert {"401", "422"} <= operation["responses"].keys(), (method, path)


def test_demo_start__is_the_only_one_with_a_button(database: str) -> None:
    with TestClient(build(Settings(database_url=database, demo=False, site=SITE))) as client:
        assert client.get("/api/session").json() == {
            "demo_start": False, "first_run": True, "sign_up": True, "letters": False, "angler": None,
        }  # fmt: skip
        assert client.post("/api/session/demo").status_code == 404


def test_bank__waits_for_little_script(client: TestClient) -> None:
    """What a first visit to the pad fetches before it can be tapped: its file, the app's, and all that these import."""

    def text(name: str) -> str:
        return client.get(f"/assets/{name}").text

    def travels(name: str) -> int:
        with client.stream("GET", f"/assets/{name}", headers={"Accept-Encoding": "br"}) as sent:
            return int(sent.headers["content-length"])

    entry = set(re.findall(r"/assets/([\w-]+\.js)", client.get("/").text))
    opens = " ".join(text(name) for name in entry)
    waiting = [*entry, *(found for found in re.findall(r"(?:app|BankScreen)-[\w-]+\.js", opens))]
    waited: set[str] = set()
    while waiting:
        name = waiting.pop()
        if name not in waited:
            waited.add(name)
            waiting += re.findall(r"""(?:from|import)\s*["']\./([\w-]+\.js)["']""", text(name))
    assert {name.split("-")[0] for name in waited} >= {"door", "libraries", "app", "BankScreen"}
    assert sum(travels(name) for name in waited) < 150_000


def test_pages__are_the_built_front_end(client: TestClient) -> None:
    index = client.get("/lie/anything/read")
    assert '<div id="root">' in index.text
    assert index.headers["cache-control"] == "no-cache"
    script = next(part for part in index.text.split('"') if part.startswith("/assets/libraries-"))
    plain = client.get(script, headers={"Accept-Encoding": "identity, br; q=0.0"})
    assert "immutable" in plain.headers["cache-control"]
    assert "content-encoding" not in plain.headers
    packed = client.get(script, headers={"Accept-Encoding": "deflate, gzip"})
    assert packed.headers["content-encoding"] == "gzip"
    assert packed.content == plain.content
    with client.stream("GET", script, headers={"Accept-Encoding": "gzip, deflate, br"}) as smallest:
        assert smallest.headers["content-encoding"] == "br"
        assert smallest.headers["vary"] == "Accept-Encoding"
        assert smallest.headers["content-type"] == plain.headers["content-type"]
        assert (
            int(smallest.headers["content-length"])
            < int(packed.headers["content-length"])
            < len(plain.content)
        )
    started = client.get("/engine/engine.json").json()["started"]  # packed as it lies: not what it is sent in
    with client.stream("GET", started) as memory:
        assert memory.headers["content-type"] == "application/gzip"
        assert "content-encoding" not in memory.headers
    assert client.get("/api/health").json()["status"] == "ok"
