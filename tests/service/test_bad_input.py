"""Bad input: 4xx, naming the field, what came and what is allowed; never a 500; nothing is stored."""

import json
from typing import Any

import psycopg
import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.service.anglers import Bank, at, batch, count, event, faults, new_id
from tests.situations import CONTRACT, water


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        ({"depth_m": 0}, "depth_m", "depth_m = 0 is outside 0.05 to 4 m"),
        ({"depth_m": 12}, "depth_m", "depth_m = 12 is outside 0.05 to 4 m"),
        ({"depth_m": "waist"}, "depth_m", "'waist'"),
        ({"depth_m": None}, "depth_m", "number"),
        (
            {"speed": {"how": "typed", "surface_speed_m_s": -0.4}},
            "speed.typed.surface_speed_m_s",
            "-0.4 is outside",
        ),
        ({"speed": {"how": "typed"}}, "speed.typed.surface_speed_m_s", "missing"),
        (
            {"speed": {"how": "bubbles", "distance_m": 3, "seconds": 0}},
            "speed.bubbles.seconds",
            "0 is outside",
        ),
        (
            {"speed": {"how": "bubbles", "distance_m": 50, "seconds": 0.3}},
            "surface_speed_m_s",
            "166.667 is outside",
        ),
        ({"temperature_c": 60}, "temperature_c", "60 is outside 0 to 30 °C"),
        ({"depth_how": "sonar"}, "depth_how", "one of eye, line, staff, drifts, flow"),
        ({"at": "yesterday"}, "at", "'yesterday'"),
        ({"at": "2026-06-01T12:00:00"}, "at", "timezone"),
        ({"at": "0001-01-01T00:00:00+14:00"}, "at", "2000 to 2099"),
        ({"colour": "green"}, "colour", "not a field here"),
    ],
)
def test_reading__names_field_and_limits(
    bank: Bank, rows: psycopg.Connection, change: dict[str, Any], field: str, words: str
) -> None:
    before = count(rows, "reading")
    _, wrong = bank.write("readings", bank.reading(**change))
    assert words in wrong[field]
    assert count(rows, "reading") == before


def test_speed__absent_is_said(bank: Bank) -> None:
    body = bank.reading()
    del body["speed"]
    assert bank.write("readings", body)[1] == {"speed": "speed is missing"}


def test_lie__that_is_not_yours(bank: Bank, stranger: Bank) -> None:
    for lie in (stranger.lie["id"], new_id()):
        _, wrong = bank.write("readings", {**bank.reading(), "lie_id": lie})
        assert wrong == {None: "There is no such lie of yours."}


@pytest.mark.parametrize("path", ["/api/advice", "/api/column", "/api/tune", "/api/path"])
def test_body__without_fields_too_large_or_no_json(client: TestClient, path: str) -> None:
    empty = client.post(path, json={})
    assert empty.status_code == 422
    assert any("missing" in message for message in faults(empty).values())
    big = client.post(path, content=b"[" + b"1," * 1_000_000 + b"1]")
    assert big.status_code == 413
    assert "1000000 bytes" in big.json()["faults"][0]["message"]
    unstated = client.post(path, content=(b"x" * 100_000 for _ in range(20)))
    assert unstated.status_code == 413
    nonsense = client.post(path, content=b"{depth", headers={"content-type": "application/json"})
    assert nonsense.status_code == 400
    assert "not JSON" in nonsense.json()["faults"][0]["message"]


def test_several_faults__are_all_said(client: TestClient) -> None:
    body = water(depth_m=0, clarity_m=99, kind="lagoon")
    assert set(faults(client.post("/api/advice", json=body))) == {
        "water.depth_m",
        "water.clarity_m",
        "water.kind",
    }


def test_rig_heavier_than_its_dry__says_what_would_do(client: TestClient) -> None:
    tuning = {
        "rig": "dry_dropper",
        "depth_setting_m": 0.8,
        "point_bead_mm": 4.0,
        "float": "size 16 CDC caddis",
    }
    for path in ("/api/tune", "/api/path"):
        answer = client.post(path, json={"situation": CONTRACT, "tuning": tuning})
        assert answer.status_code == 422
        said = faults(answer)["tuning.point_bead_mm"]
        assert "carries" in said
        assert "a bead up to 2.5 mm or the size" in said


@pytest.mark.parametrize("species", ["", "a\0b", "x" * 61, "\ud800", 5, None])
def test_words__that_no_database_keeps(bank: Bank, species: object) -> None:
    _, _, setting = bank.begin()
    drift = bank.kept("drifts", bank.drift(setting, outcome="fish"))
    text = '{"drift_id": "%s", "at": "%s", "species": %s, "fly": "point", "phase": "drop"}'
    as_json = {"\ud800": '"\\ud800"', "a\0b": '"a\\u0000b"', None: "null"}.get(species, f'"{species}"')  # type: ignore[call-overload]
    body = text % (drift, at(5), 5 if species == 5 else as_json)
    sent = json.dumps(batch(event("catches", new_id(), {}))).replace('"body": {}', f'"body": {body}')
    answer = bank.client.post("/api/sync", content=sent, headers={"content-type": "application/json"})
    if answer.status_code == 200:
        assert answer.json()["refused"][0]["faults"]
    else:
        assert answer.status_code == 400
        assert answer.json()["faults"]


def test_addresses__that_are_not_there(client: TestClient) -> None:
    assert client.get("/api/nothing").status_code == 404
    assert client.get("/api/outings/not-an-id").status_code == 422
    assert client.get(f"/api/outings/{new_id()}").json()["faults"][0]["code"] == "NOT_FOUND"
    assert client.delete("/api/beats").status_code == 405
    for path in ("/..%2f..%2fetc/passwd", "/%00", "/assets/../../pyproject.toml"):
        assert "<title>Deriva</title>" in client.get(path).text


JSON = st.recursive(
    st.none() | st.booleans() | st.integers(-(10**6), 10**6) | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=6), inner, max_size=3),
    max_leaves=6,
)


def grafted(draw: st.DrawFn, body: Any) -> Any:  # noqa: ANN401
    """Return a good body with one place in it replaced by anything."""
    if isinstance(body, dict) and body and draw(st.booleans()):
        name = draw(st.sampled_from(sorted(body)))
        return {**body, name: grafted(draw, body[name])}
    return draw(JSON)


@given(st.data())
@settings(max_examples=120, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_anything__grafted_into_a_good_body_is_never_a_500(bank: Bank, data: st.DataObject) -> None:
    goods: dict[str, Any] = {
        "POST /api/advice": CONTRACT,
        "POST /api/column": CONTRACT,
        "POST /api/tune": {
            "situation": CONTRACT,
            "tuning": {"rig": "euro", "depth_setting_m": 1.2, "point_bead_mm": 3.0},
        },
        "POST /api/sync": batch(
            event("readings", new_id(), bank.reading()),
            event("outings", new_id(), bank.outing()),
            event("stops", new_id(), bank.stop(new_id())),
            event("drifts", new_id(), bank.drift(new_id())),
            event("catches", new_id(), bank.fish(new_id())),
        ),
    }
    where = data.draw(st.sampled_from(sorted(goods)))
    method, path = where.split()
    body = goods[where]
    if path == "/api/sync" and data.draw(
        st.booleans()
    ):  # within one of the writings, or anywhere in the batch
        one = data.draw(st.sampled_from(body["events"]))
        body = {**body, "events": [{**one, "body": grafted(data.draw, one["body"])}]}  # type: ignore[arg-type]
    else:
        body = grafted(data.draw, body)  # type: ignore[arg-type]
    text = json.dumps(body).encode(
        "utf-8", "surrogatepass"
    )  # NaN and Infinity go as such, as some clients send them
    answer = bank.client.request(method, path, content=text, headers={"content-type": "application/json"})
    assert answer.status_code < 500, answer.text
    if answer.status_code >= 400:
        assert answer.json()["faults"]
