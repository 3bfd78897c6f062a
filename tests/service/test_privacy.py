"""Nobody sees another's: every route of the OpenAPI document walked as nobody, as a stranger and as a reader of a share.

The walk is made from the document: a route that is new fails it until it is said what it is.
"""

import json
from collections.abc import Iterator
from typing import Any

import psycopg
import pytest
from fastapi.testclient import TestClient
from httpx2 import Response

from deriva.core.record.blur import METRES_PER_DEGREE, moved
from deriva.service.store.models import Base
from root import ROOT
from tests.service.anglers import Bank, account, at, new_id

PUBLIC = {
    "read_session", "sign_in", "sign_in_as_demo", "sign_out", "sign_up", "confirm", "forgot", "reset", "list_letters",
    "health", "ready",
}  # fmt: skip
"""Routes that ask for nobody: they say nothing of any angler."""

OWN_ALONE = {
    "list_sessions", "change_angler", "change_password", "leave", "stay", "list_rivers", "list_beats", "read_box",
    "add_starter_box", "list_outings", "list_shares", "list_shared", "export_everything", "list_schools", "sync",
    "list_questions", "list_parts", "ask_the_log", "list_behind", "look_back", "find_outings", "list_retired",
    "list_formats", "read_schema", "foretell_more", "list_strips", "list_evidence", "put_evidence", "weigh_evidence",
    "read_trial", "begin_trial", "end_trial",
    "read_calibration", "reckon_with_eye", "list_practice",
}  # fmt: skip
"""Routes that name nothing: they speak of whoever asks."""

COMPUTED = {
    "column", "advice", "tune", "path", "least_change", "coach_on_the_bank", "plan_the_day", "look_ahead", "compare", "marches",
    "build", "build_card", "missing_flies", "preview_import", "cast", "lift", "say_why", "help_once", "lift_off",
}  # fmt: skip
"""Routes that compute from what they are sent."""

READER_MAY = {"list_shared", "read_shared"}


def operations() -> list[tuple[str, str, str, list[str]]]:
    """Return (method, path, operation, names in the path) of every route of the document."""
    paths = json.loads((ROOT / "openapi.json").read_text(encoding="utf-8"))["paths"]
    return [
        (
            method.upper(),
            path,
            op["operationId"],
            [p["name"] for p in op.get("parameters", []) if p["in"] == "path"],
        )
        for path, ops in paths.items()
        for method, op in ops.items()
    ]


OPERATIONS = operations()
OF_A_YEAR = {"read_season", "tell_of_water"}
"""Routes that name no row."""

NAMED = [one for one in OPERATIONS if one[3] and one[2] not in OF_A_YEAR]


class Owned:
    """One row of everything that an angler can have, and a good body for every route that names one."""

    def __init__(self, bank: Bank, rows: psycopg.Connection) -> None:
        self.bank = bank
        self.angler = bank.client.get("/api/session").json()["angler"]["id"]
        outing, stop, setting = bank.begin()
        drift = bank.kept("drifts", bank.drift(setting, outcome="fish"))
        river = bank.beat["river_id"]
        beat = {k: bank.beat[k] for k in ("river_id", "name", "position")}
        gauge = {"river_id": river, "name": "G-1", "format": "csv", "url": "/g.csv"}
        item = {"kind": "float", "size_mm": 13.0, "count": 2}
        share = {"reader": "reader@example.org", "outing_id": outing, "blur_m": 1000.0}
        self.ids = {
            "river_id": river,
            "gauge_id": new_id(),
            "beat_id": bank.beat["id"],
            "lie_id": bank.lie["id"],
            "reading_id": bank.kept("readings", bank.reading()),
            "item_id": new_id(),
            "import_id": new_id(),
            "sounding_id": bank.kept("soundings", bank.sounding()),
            "note_id": bank.kept("notes", {"outing_id": outing, "at": at(5), "text": "Alder all day."}),
            "outing_id": outing,
            "stop_id": stop,
            "setting_id": setting,
            "drift_id": drift,
            "catch_id": bank.kept("catches", bank.fish(drift)),
            "share_id": bank.kept("shares", share),
            "name": "csv",
            "game_id": new_id(),
            "session_id": bank.client.get("/api/sessions").json()[0]["id"],
        }
        rows.execute(
            "insert into gauge (id, angler_id, river_id, name, format, url) select %s, angler_id, id, 'G', 'csv', '/g'"
            " from river where id = %s",
            (self.ids["gauge_id"], river),
        )
        rows.execute(
            "insert into job (id, angler_id, gauge_id, state, rows, share, message, started_at)"
            " select %s, angler_id, id, 'reading', 0, 0, '', now() from gauge where id = %s",
            (self.ids["import_id"], self.ids["gauge_id"]),
        )
        rows.execute(
            "insert into box_item (id, angler_id, kind, form, material, size_mm, count, counted_at, gone)"
            " select %s, angler_id, 'float', 'float', 'tungsten', 13, 2, now(), false from river where id = %s",
            (self.ids["item_id"], river),
        )
        rows.execute(
            "insert into foretold (angler_id, setting_id, engine, in_zone, tick, hung)"
            " select angler_id, id, 1, 0.5, 0.1, 0.0 from setting where id = %s",
            (setting,),
        )
        cast = {"rig": "indicator", "depth_setting_m": 1.2, "point_bead_mm": 3.0}
        game = {"game": {"drill": "first_depth", "seed": 1, "casts": [cast]}}
        bank.client.put(f"/api/practice/games/{self.ids['game_id']}", json=game).raise_for_status()
        self.bodies: dict[str, dict[str, Any]] = {
            "finish": game,
            "put_river": {"name": "Taken"},
            "put_gauge": gauge,
            "put_beat": beat,
            "put_lie_school": {"school": None},
            "put_box_item": item,
            "put_share": share,
        }

    def ask(
        self, client: TestClient, method: str, path: str, operation: str, *, fresh: bool = False
    ) -> Response:
        """Ask for a row of theirs; ``fresh`` under an id that is new, hanging it under theirs by its body."""
        path = path.replace("{year}", "2026")
        for name, row in self.ids.items():
            path = path.replace("{" + name + "}", new_id() if fresh else row)
        queries = {
            "begin_import": {"gauge_id": self.ids["gauge_id"], "kind": "csv"},
            "begin_log_import": {"format": "json"},
            "list_strips": {"outing": self.ids["outing_id"]},
            "write_file": {"outing": self.ids["outing_id"]},
        }
        return client.request(method, path, json=self.bodies.get(operation), params=queries.get(operation))


@pytest.fixture
def owned(bank: Bank, rows: psycopg.Connection) -> Owned:
    state: Any = getattr(bank.client.app, "state")  # noqa: B009 - an ASGI app has none by its type
    state.settings = state.settings.model_copy(update={"gauges": "http://127.0.0.1:9"})
    return Owned(bank, rows)


@pytest.fixture
def reader(stranger: Bank, rows: psycopg.Connection) -> Iterator[Bank]:
    account(rows, stranger, "reader@example.org")
    yield stranger


def everything(rows: psycopg.Connection, owned: Owned) -> dict[str, list[Any]]:
    """Return what every table holds, of the owner's where it holds anglers' rows."""
    found = {}
    for table in Base.metadata.sorted_tables:
        if table.name not in ("sign_in", "attempt"):
            whose = "where angler_id = %s" if "angler_id" in table.c else ""
            query = f'select * from "{table.name}" {whose} order by 1, 2'  # noqa: S608
            found[table.name] = rows.execute(query, (owned.angler,) if whose else ()).fetchall()
    return found


FREE = {"put_river", "put_box_item", "begin_log_import", "finish"}
"""What hangs under nothing: an id that another has is free to use, and says nothing of the other's."""


def test_routes__are_each_said_to_be_public_own_computed_or_named() -> None:
    said = PUBLIC | OWN_ALONE | COMPUTED | OF_A_YEAR | {operation for _, _, operation, _ in NAMED}
    assert {operation for _, _, operation, _ in OPERATIONS} == said
    assert not PUBLIC & (OWN_ALONE | COMPUTED)


def test_nobody__is_answered_only_where_it_is_public(owned: Owned) -> None:
    nobody = TestClient(owned.bank.client.app, raise_server_exceptions=False)
    nobody.portal = owned.bank.client.portal
    for method, path, operation, _ in OPERATIONS:
        if operation in PUBLIC:
            continue
        answer = owned.ask(nobody, method, path, operation)
        assert answer.status_code in (401, 422), (operation, answer.status_code)
        if answer.status_code == 422:  # the body is read first: it says what is wrong with it and no more
            assert "faults" in answer.json()
            assert operation in OWN_ALONE | COMPUTED


def test_stranger__finds_nothing_under_any_id_and_changes_nothing(
    owned: Owned, stranger: Bank, rows: psycopg.Connection
) -> None:
    before = everything(rows, owned)
    for method, path, operation, _ in NAMED:
        if operation in FREE:
            continue
        answer = owned.ask(stranger.client, method, path, operation)
        assert answer.status_code == 404, (operation, answer.status_code, answer.text)
        assert "of yours" in answer.json()["faults"][0]["message"]
        if operation in owned.bodies and operation != "put_lie_school":
            hung = owned.ask(stranger.client, method, path, operation, fresh=True)
            assert hung.status_code == 404, (operation, hung.status_code, hung.text)
    for method, path, operation, _ in NAMED:
        if operation in FREE:
            assert owned.ask(stranger.client, method, path, operation).status_code == 200
    assert everything(rows, owned) == before


def test_stranger__is_told_of_nothing_in_any_list(owned: Owned, stranger: Bank) -> None:
    for method, path, operation, _ in OPERATIONS:
        if operation in OWN_ALONE and method == "GET":
            text = stranger.client.get(path).text
            for name, row in owned.ids.items():
                assert name == "name" or row not in text, operation
    export = stranger.client.get("/api/export").json()
    mine = stranger.client.get("/api/session").json()["angler"]["id"]
    assert {
        row["angler_id"] for table in export["tables"].values() for row in table if "angler_id" in row
    } == {mine}


def test_reader__reads_the_share_and_nothing_beside_it(
    owned: Owned, reader: Bank, rows: psycopg.Connection
) -> None:
    listed = reader.client.get("/api/shared").json()
    assert [(one["kind"], one["owner"]) for one in listed] == [("outing", "Demo angler")]
    shared = reader.client.get(f"/api/shared/{owned.ids['share_id']}").json()
    assert shared["outing"]["stops"][0]["settings"][0]["drifts"][0]["outcome"] == "fish"
    assert shared["outing"]["notes"] == []  # what was noted is the owner's
    before = everything(rows, owned)
    for method, path, operation, _ in NAMED:
        if operation not in READER_MAY | FREE:
            answer = owned.ask(reader.client, method, path, operation)
            assert answer.status_code == 404, (operation, answer.status_code)
    assert everything(rows, owned) == before
    owned.bank.client.delete(f"/api/shares/{owned.ids['share_id']}")
    assert reader.client.get(f"/api/shared/{owned.ids['share_id']}").status_code == 404
    assert reader.client.get("/api/shared").json() == []


def test_share__of_a_beat_moves_its_place_always_the_same_way(owned: Owned, reader: Bank) -> None:
    bank = owned.bank
    place = {"name": "Marrowen", "latitude": 47.0, "longitude": -15.0}
    bank.kept("rivers", place, owned.ids["river_id"])
    body = {"reader": "Reader@Example.org", "beat_id": bank.beat["id"], "blur_m": 5000.0}
    share = bank.kept("shares", body)
    seen = {reader.client.get(f"/api/shared/{share}").text for _ in range(3)}
    bank.kept("shares", body, share)
    seen.add(reader.client.get(f"/api/shared/{share}").text)
    assert len(seen) == 1
    beat = json.loads(seen.pop())["beat"]
    assert (beat["latitude"], beat["longitude"]) != (47.0, -15.0)
    assert abs(beat["latitude"] - 47.0) * METRES_PER_DEGREE <= 5000.0
    assert all(lie["along_m"] is None for lie in beat["lies"])
    assert len(beat["lies"]) == len(bank.beat["lies"])
    assert beat["rules"]["max_flies"] == bank.beat["rules"]["max_flies"]
    assert beat["rules_text"] == bank.beat["rules_text"]
    exact = bank.kept("shares", {**body, "blur_m": 0.0})
    beat = reader.client.get(f"/api/shared/{exact}").json()["beat"]
    assert (beat["latitude"], beat["longitude"]) == (47.0, -15.0)
    assert beat["lies"][0]["along_m"] is not None


def test_share__for_an_address_that_nobody_confirmed_is_read_by_nobody(
    owned: Owned, stranger: Bank, rows: psycopg.Connection
) -> None:
    account(rows, stranger, "reader@example.org")
    rows.execute("update account set is_verified = false")
    assert stranger.client.get("/api/shared").json() == []
    assert stranger.client.get(f"/api/shared/{owned.ids['share_id']}").status_code == 404


@pytest.mark.parametrize(
    "change",
    [
        {"beat_id": None},
        {"outing_id": "0197a000-0000-7000-8000-000000000000"},
        {"blur_m": -1.0},
        {"reader": "x"},
    ],
)
def test_share__of_two_things_or_none_is_refused(bank: Bank, change: dict[str, Any]) -> None:
    body = {"reader": "reader@example.org", "beat_id": bank.beat["id"], **change}
    assert bank.put("shares", body)[1].status_code == 422


def test_export__has_every_table_of_an_angler_s_and_nothing_that_opens_a_door(
    owned: Owned, rows: psycopg.Connection
) -> None:
    account(rows, owned.bank, "demo@example.org")
    gauge, river = owned.ids["gauge_id"], owned.ids["river_id"]
    rows.execute(
        "insert into gauge_value (angler_id, gauge_id, parameter, daily, at, value, worth, code)"
        " select angler_id, id, 'flow', false, now(), 3.5, 'good', '' from gauge where id = %s",
        (gauge,),
    )
    rows.execute(
        "insert into weather_hour (angler_id, river_id, at, air_c, wind_m_s, cloud, rain_mm_h, thunder)"
        " select angler_id, id, now(), 10, 2, 0.5, 0, 0 from river where id = %s",
        (river,),
    )
    shared = {"reader": "reader@example.org", "beat_id": owned.bank.beat["id"], "blur_m": 2000.0}
    owned.bank.kept("shares", shared)
    export = owned.bank.client.get("/api/export").json()
    wanted = {t.name for t in Base.metadata.sorted_tables if "angler_id" in t.c}
    assert set(export["tables"]) == wanted | {"account"}
    assert {table for table, found in export["tables"].items() if not found} == set()
    assert export["tables"]["account"][0]["email"] == "demo@example.org"
    assert export["tables"]["gauge_value"][0]["value"] == 3.5
    assert "token" not in json.dumps(export)
    assert "password" not in json.dumps(export)


def test_share__another_distance_or_another_draw_would_give_the_place_away(
    owned: Owned, reader: Bank
) -> None:
    bank = owned.bank
    bank.kept("rivers", {"name": "Marrowen", "latitude": 47.0, "longitude": -15.0}, owned.ids["river_id"])
    body = {"reader": "reader@example.org", "beat_id": bank.beat["id"], "blur_m": 5000.0}
    other = bank.client.get("/api/beats").json()[1]
    shares = [bank.kept("shares", body) for _ in range(3)]
    shares.append(bank.kept("shares", {**body, "beat_id": other["id"]}))
    places = set()
    for one in shares:
        beat = reader.client.get(f"/api/shared/{one}").json()["beat"]
        places.add((beat["latitude"], beat["longitude"]))
    assert len(places) == 1
    for row in (shares[0], None):
        answer = bank.put("shares", {**body, "blur_m": 2000.0}, row)[1]
        assert answer.status_code == 422
        assert "5 km" in answer.json()["faults"][0]["message"]


@pytest.mark.parametrize("turn", [0.0, 0.25, 0.7])
@pytest.mark.parametrize("stretch", [0.0, 0.4, 1.0])
def test_moved__is_as_far_off_as_drawn(turn: float, stretch: float) -> None:
    """Against the haversine (R. W. Sinnott, Virtues of the Haversine, Sky and Telescope 68(2), 1984; quoted from memory)."""
    from math import asin, cos, radians, sin, sqrt  # noqa: PLC0415

    lat, lon = moved(latitude=60.0, longitude=179.99, by_m=5000.0, turn=turn, stretch=stretch)
    dp, dl = radians(lat - 60.0), radians(lon - 179.99)
    h = sin(dp / 2) ** 2 + cos(radians(60.0)) * cos(radians(lat)) * sin(dl / 2) ** 2
    assert 2 * 6371_000 * asin(sqrt(h)) == pytest.approx(5000.0 * sqrt(stretch), abs=5.0)
    assert -180.0 <= lon < 180.0
