"""What a stranger can do from outside: nothing that stops, fills, confuses or outlives the service."""

import asyncio
import json
import logging
import socket
import stat
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path
from typing import Any

import httpx2 as httpx
import psycopg
import pytest
import sqlalchemy as sql
from fastapi import FastAPI
from fastapi.testclient import TestClient
from sqlalchemy.engine import AdaptedConnection
from starlette.types import ASGIApp, Receive, Scope, Send

from deriva.bench.shell import attacks, played
from deriva.service.api.guard import AT_ONCE, SMALL_BODY_BYTES, Guard
from deriva.service.schemas.base import MOST_FAULTS
from deriva.service.serve import HEADERS_BYTES
from deriva.service.serving import free_port, kill_app, start_app
from deriva.service.store.address import sync_url
from deriva.service.store.backup import backup
from deriva.service.store.cluster import Cluster
from deriva.service.store.models import Lie
from deriva.service.usecases import caps
from deriva.service.usecases.account import LETTER_TO
from tests.databases import fresh
from tests.pooler import past_the_pooler
from tests.service.anglers import SETUP, Bank, at, batch, count, event, new_id
from tests.situations import CONTRACT

HUGE = "9" * 400
LONGEST_WAIT_S, MOST_MEMORY_BYTES = 15.0, 500_000_000


def test_faults__a_body_with_a_hundred_thousand_is_answered_with_a_few(client: TestClient) -> None:
    crowd = client.post("/api/advice", json={f"x{k}": k for k in range(60_000)} | CONTRACT)
    assert crowd.status_code == 422
    assert "fields came, where there are 10" in crowd.text
    many = client.post("/api/advice", json={f"x{k}": k for k in range(60)} | CONTRACT)
    said = many.json()["faults"]
    assert len(said) == MOST_FAULTS + 1
    assert said[-1]["message"] == "and 40 more things are wrong"


@pytest.mark.parametrize(
    "path", ["/api/session", "/api/account", "/api/account/forgot", "/api/account/reset"]
)
def test_public_routes__read_no_more_than_an_address_and_a_password_take(
    client: TestClient, path: str
) -> None:
    answer = client.post(path, json={f"x{k}": k for k in range(SMALL_BODY_BYTES)})
    assert answer.status_code == 413


NO_NUMBERS = ("NaN", "Infinity", "-Infinity", "1e999", HUGE, f"-{HUGE}", str(2**70))
JSON = {"content-type": "application/json"}


def test_setup__takes_no_number_that_is_none_and_the_export_stays_readable(bank: Bank) -> None:
    _, stop, setting = bank.begin()
    for field in ("lead_m", "tippet_x", "point_bead_mm", "shot_g"):
        wrong = bank.setting(stop, setup={**SETUP, field: "@"})
        for number in NO_NUMBERS:
            # the good drift beside it is stored
            good = event("drifts", new_id(), bank.drift(setting), 1)
            text = json.dumps(batch(event("settings", new_id(), wrong), good)).replace('"@"', number)
            synced = bank.client.post("/api/sync", content=text, headers=JSON)
            assert synced.status_code in (200, 400), (field, number, synced.text)
            if synced.status_code == 200:
                assert [one["id"] for one in synced.json()["taken"]] == [good["id"]]
    assert bank.client.get("/api/export").status_code == 200


def test_situation__takes_no_number_that_is_none(client: TestClient) -> None:
    for field in ("depth_m", "surface_speed_m_s", "undertow"):
        for number in ("NaN", "1e999", HUGE):
            body = {**CONTRACT, "water": {**CONTRACT["water"], field: "@"}}
            answer = client.post("/api/advice", content=json.dumps(body).replace('"@"', number), headers=JSON)
            assert answer.status_code == 422, (field, number)
            assert len(answer.text) < 1000


def test_address__of_any_length_and_kind_is_answered(client: TestClient) -> None:
    for path in ("/" + "a" * 300, "/" + "b/" * 400, "/%00", "/..%2f..%2fetc%2fpasswd", "/assets/../../x"):
        assert client.get(path).status_code in (200, 404), path
    assert client.get("/" + "a" * 300).status_code == 404
    assert client.head("/").status_code == 200
    assert "root:" not in client.get("/..%2f..%2f..%2f..%2f..%2fetc/passwd").text


def test_host__that_is_not_ours_is_not_answered(client: TestClient) -> None:
    for host in ("evil.example.org", "evil.example.org:8420", "", "[::1", "127.0.0.1.evil.example.org"):
        answer = client.get("/api/session", headers={"host": host})
        assert answer.status_code == 421, host
    for host in ("testserver", "127.0.0.1:8420", "localhost", "[::1]:80"):
        assert client.get("/api/session", headers={"host": host}).status_code == 200
    assert client.get("/api/health", headers={"host": "10.0.0.7"}).status_code == 200  # whoever watches


def test_origin__is_the_site_s_also_where_a_proxy_rewrites_the_host(
    app_of: Callable[..., TestClient],
) -> None:
    client = app_of(site="https://deriva.example.org", demo=True, smtp_host="")
    headers = {"host": "127.0.0.1:9000", "origin": "https://deriva.example.org"}
    assert client.post("/api/session/demo", headers=headers).status_code == 200
    headers["origin"] = "https://deriva.example.org.evil.example"
    assert client.post("/api/session/demo", headers=headers).status_code == 403


def test_place__may_be_asked_of_the_browser_by_the_site_itself(client: TestClient) -> None:
    policy = client.get("/").headers["permissions-policy"]
    assert "geolocation=(self)" in policy
    assert "camera=()" in policy


def test_clock__a_year_ahead_does_not_outlive_what_is_read_later(bank: Bank) -> None:
    ahead = (datetime.now(UTC) + timedelta(days=365)).isoformat()
    bank.kept("readings", bank.reading(at=ahead, depth_m=1.9))
    bank.kept("readings", bank.reading(at=datetime.now(UTC).isoformat(), depth_m=0.7))
    lie = bank.client.get("/api/beats").json()[0]["lies"][0]
    assert lie["reading"]["depth_m"] == 0.7


def test_record__first_a_drift_then_an_older_catch_has_both_rows(
    bank: Bank, rows: psycopg.Connection
) -> None:
    _, _, setting = bank.begin()
    drift = bank.kept("drifts", bank.drift(setting, outcome="fish"))
    event = {
        "id": new_id(), "sequence": 1, "kind": "catches", "record": drift, "at": at(-600), "zone": "UTC",
        "body": bank.fish(drift),
    }  # fmt: skip
    batch = {"version": 1, "device": new_id(), "cursor": None, "events": [event]}
    assert [one["id"] for one in bank.client.post("/api/sync", json=batch).json()["taken"]] == [event["id"]]
    assert count(rows, "catch") == 1


def at_once(*asks: Callable[[], Any]) -> list[int]:
    with ThreadPoolExecutor(len(asks)) as threads:
        return [answer.status_code for answer in threads.map(lambda ask: ask(), asks)]


def test_change__two_anglers_on_one_new_id_are_answered(bank: Bank, stranger: Bank) -> None:
    for _ in range(3):
        batches = []
        change = new_id()
        for one in (bank, stranger):
            body = one.outing()
            event = {
                "id": change, "sequence": 1, "kind": "outings", "record": new_id(), "at": at(1), "zone": "UTC", "body": body,
            }  # fmt: skip
            batch = {"version": 1, "device": new_id(), "cursor": None, "events": [event]}
            batches.append(partial(one.client.post, "/api/sync", json=batch))
        assert at_once(*batches) == [200, 200]


def test_starter__six_at_once_is_one(bank: Bank, rows: psycopg.Connection) -> None:
    rows.execute("delete from box_item")
    assert set(at_once(*[partial(bank.client.post, "/api/box/starter")] * 6)) == {200}
    kinds = rows.execute("select kind, form, hook, bead_mm, size_mm, tone, mark from box_item").fetchall()
    assert len(kinds) == len(set(kinds))


def test_places__are_not_without_end(bank: Bank, monkeypatch: pytest.MonkeyPatch) -> None:
    lies = [lie for one in bank.beats for lie in one["lies"]]
    monkeypatch.setattr(caps, "MOST", {Lie: (len(lies), "lies")})
    lie = {"beat_id": bank.beat["id"], "name": "One more", "kind": "run", "bed": "gravel", "along_m": 900.0}
    assert "no more are kept" in bank.write("lies", lie)[1][None]
    bank.kept("lies", {**lie, "name": "Changed"}, bank.lie["id"])


def test_one_angler__never_holds_every_connection(bank: Bank, stranger: Bank) -> None:
    def batch() -> Any:  # noqa: ANN401
        body = {"version": 1, "device": new_id(), "cursor": None, "events": []}
        return bank.client.post("/api/sync", json=body)

    codes = at_once(*[batch] * 40, lambda: stranger.client.get("/api/outings"))
    assert set(codes) == {200}
    assert AT_ONCE < 8  # of the connections that are kept open


def test_database_down__is_503_and_says_that_nothing_is_lost(
    cluster: Cluster, app_of: Callable[..., TestClient]
) -> None:
    with fresh(cluster, "goes_away") as name:
        client = app_of(database_url=cluster.url(name), demo=True, smtp_host="")
        client.post("/api/session/demo")
        with psycopg.connect(sync_url(cluster.url("postgres")), autocommit=True) as server:
            server.execute(f"alter database {name} allow_connections false")
            server.execute(
                "select pg_terminate_backend(pid) from pg_stat_activity where datname = %s", (name,)
            )
            for path in ("/api/beats", "/api/outings", "/api/session"):
                answer = client.get(path)
                assert answer.status_code == 503, path
                assert "kept on your device" in answer.text
            server.execute(f"alter database {name} allow_connections true")
        assert client.get("/api/beats").status_code == 200


@past_the_pooler
def test_connection__that_ends_just_before_it_is_used_is_a_503(bank: Bank, cluster: Cluster) -> None:
    """The server's last word is read after the connection was tested, and that it is gone only after the question."""

    def ended(connection: AdaptedConnection, *_: object) -> None:
        pid = connection.driver_connection.get_server_pid()
        with psycopg.connect(sync_url(cluster.url("postgres")), autocommit=True) as server:
            server.execute("select pg_terminate_backend(%s, 10000)", (pid,))
        for _turn in range(2):  # the next turn reads the word, the one after it the end
            connection.run_async(lambda _: asyncio.sleep(0))

    app = bank.client.app
    assert isinstance(app, FastAPI)
    pool = app.state.at_once.engine.pool
    sql.event.listen(pool, "checkout", ended)
    stop = bank.stop(new_id())
    answers = [
        bank.client.post("/api/sync", json=batch(event("stops", new_id(), stop)) | {"cursor": 0}),
        bank.client.get("/api/beats"),
    ]
    sql.event.remove(pool, "checkout", ended)
    assert [(one.status_code, one.json()["faults"][0]["code"]) for one in answers] == [
        (503, "NO_DATABASE")
    ] * 2
    assert bank.client.get("/api/beats").status_code == 200


def test_logs__say_nothing_of_what_was_asked(bank: Bank, caplog: pytest.LogCaptureFixture) -> None:
    caplog.set_level(logging.INFO)
    bank.kept("rivers", {"name": "Secret brook"})
    bank.client.post("/api/session", json={"email": "secret@example.org", "password": "secret secret secret"})
    assert "ecret" not in caplog.text


@past_the_pooler
def test_backup__is_read_by_nobody_else(database: str, tmp_path: Path) -> None:
    file = tmp_path / "all.backup"
    backup(database, file)
    assert stat.S_IMODE(file.stat().st_mode) == 0o600


def test_headers__that_never_end_are_hung_up_on(cluster: Cluster, tmp_path: Path) -> None:
    with fresh(cluster, "headers") as name:
        port = free_port()
        app = start_app(cluster.url(name), port=port, log=tmp_path / "app.log", warm=False)
        try:
            with socket.create_connection(("127.0.0.1", port), timeout=60) as line:
                line.sendall(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\n")
                sent = 0
                with pytest.raises(OSError):
                    while sent < 400 * HEADERS_BYTES:
                        line.sendall(b"X-Long: " + b"a" * 8000 + b"\r\n")
                        sent += 8010
                assert sent < 300 * HEADERS_BYTES
        finally:
            kill_app(app)


@pytest.mark.long
def test_attacks__delay_nobody_else_s_tap_for_long_and_fit_in_memory(
    cluster: Cluster, tmp_path: Path
) -> None:
    """The bound is a generous one, for a slow and busy machine; `deriva bench` has the figures."""
    cluster.create("attacked")
    with played(cluster, "attacked", tmp_path) as on:
        for cost in attacks(on, share=0.05):
            assert cost.worst_s < LONGEST_WAIT_S, cost
            assert cost.memory_bytes < MOST_MEMORY_BYTES, cost


@pytest.mark.long
def test_proxy__that_is_trusted_says_from_where_and_no_other_does(cluster: Cluster, tmp_path: Path) -> None:
    """What `docs/settings.md` says a proxy must set, against the server as it is run for real."""

    def ask(address: str, forwarded: str) -> int:
        body, headers = {"email": "mia@example.org"}, {"x-forwarded-for": forwarded}
        return httpx.post(
            f"{address}/api/account/forgot", json=body, headers=headers, timeout=60.0
        ).status_code

    with fresh(cluster, "proxied") as name:
        for trusted, counted in (("127.0.0.1", 200), ("192.0.2.1", 429)):
            port = free_port()
            with pytest.MonkeyPatch.context() as patch:
                patch.setenv("DERIVA_PROXIES", trusted)
                app = start_app(cluster.url(name), port=port, log=tmp_path / "app.log", warm=False)
            try:
                address = f"http://127.0.0.1:{port}"
                spoofed = "198.51.100.7, "  # from outside, and handed through: what the proxy appends counts
                tries = 0
                while ask(address, f"{spoofed}203.0.113.{trusted[:3]}") != 429:
                    tries += 1
                    assert tries <= 2 * LETTER_TO.most  # a span of time may have ended in between
                assert ask(address, f"{spoofed}203.0.113.200") == counted
            finally:
                kill_app(app)


async def _never_ends(_: Scope, __: Receive, ___: Send) -> None:
    try:
        await asyncio.Event().wait()
    finally:  # as a connection is put back to a server that hangs
        await asyncio.Event().wait()


async def _has_a_limit_of_its_own(_: Scope, __: Receive, ___: Send) -> None:
    raise TimeoutError


@pytest.mark.parametrize("app", [_never_ends, _has_a_limit_of_its_own])
def test_what_hangs__is_given_up_and_said_so(app: ASGIApp) -> None:
    guard = Guard(
        app, limit=1000, seconds=0.01, site="http://testserver", hosts=frozenset({"testserver"}), cookie="it"
    )
    answer = TestClient(guard).get("/api/anything")
    assert (answer.status_code, answer.json()["faults"][0]["code"]) == (503, "TOO_SLOW")
