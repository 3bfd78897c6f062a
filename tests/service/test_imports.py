"""Files of a gauge's past: all of it or nothing, in the background, with progress and a way to stop."""

from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import UUID

import psycopg
import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from deriva.service.main import build
from deriva.service.settings import Settings
from deriva.service.store import bulk
from deriva.service.usecases.imports import take_in
from deriva.standins.app import WRITERS, rdb
from deriva.standins.marrowen import series
from tests.service.anglers import Bank, count, faults, new_id
from tests.service.mauled import mauled

START = datetime(2020, 1, 1, tzinfo=UTC)


@pytest.fixture
def gauge(rows: psycopg.Connection) -> str:
    made = new_id()
    rows.execute(
        "insert into gauge (id, angler_id, river_id, name, format, url)"
        " select %s, angler_id, id, 'MRW-02', 'rdb', '/iv' from river where angler_id in (select id from angler where demo)",
        (made,),
    )
    return made


def csv_of(values: list[tuple[datetime, object]]) -> bytes:
    return ("time,flow[m3/s]\n" + "".join(f"{at.isoformat()},{value}\n" for at, value in values)).encode()


def send(
    client: TestClient, gauge: str, text: bytes, kind: str = "csv", row: str | None = None
) -> dict[str, Any]:
    """Send a file, and return how its import ended."""
    row = row or new_id()
    answer = client.put(f"/api/imports/{row}", params={"gauge_id": gauge, "kind": kind}, content=text)
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    while found["state"] in ("running", "cancelling"):
        found = client.get(f"/api/imports/{row}").json()
    return found


def test_file__duplicates_and_disorder_end_as_one_series(
    bank: Bank, gauge: str, rows: psycopg.Connection
) -> None:
    times = [START + timedelta(minutes=15 * k) for k in range(200)]
    values: list[tuple[datetime, object]] = [(at, k + 1) for k, at in enumerate(times)]
    done = send(bank.client, gauge, csv_of([*values[::-1], (times[7], 99.0), (times[8], "")]))
    assert (done["state"], done["rows"], done["share"]) == ("done", 202, 1.0)
    assert count(rows, "gauge_value") == 200
    stored = rows.execute("select value from gauge_value order by at").fetchall()
    assert [stored[k][0] for k in (6, 7, 8, 9)] == [7.0, 99.0, None, 10.0]
    again = send(bank.client, gauge, csv_of(values))
    assert again["state"] == "done"
    assert count(rows, "gauge_value") == 200


def test_years__of_quarter_hours_and_readings_get_their_flow(
    bank: Bank, gauge: str, rows: psycopg.Connection
) -> None:
    row = bank.kept("readings", bank.reading(at=(START + timedelta(days=10)).isoformat()))
    values = series(START, 96 * 30)
    done = send(bank.client, gauge, rdb(values, START + timedelta(days=400)).encode(), kind="rdb")
    assert (done["state"], done["rows"]) == ("done", 4 * 96 * 30)  # four parameters
    flow = rows.execute("select flow_m3_s from reading where id = %s", (row,)).fetchone()
    assert flow is not None
    assert flow[0] == pytest.approx(float(values.flow_m3_s[960]), rel=1e-3)


@pytest.mark.parametrize(
    ("text", "kind", "said"),
    [
        (csv_of([(START, 1.0), (START + timedelta(hours=1), "x")]), "csv", "line 3, column flow[m3/s]: 'x'"),
        (b"time,flow[m3/s]\n", "csv", "no value in this file"),
        (b"\x00\xff\x00", "rdb", "line 1, column 1"),
        (b"<a/>", "waterml", "no observation"),
    ],
)
def test_malformed__names_the_place_and_stores_nothing(
    bank: Bank, gauge: str, rows: psycopg.Connection, text: bytes, kind: str, said: str
) -> None:
    ended = send(bank.client, gauge, text, kind)
    assert ended["state"] == "failed"
    assert said.lower() in ended["message"].lower()
    assert count(rows, "gauge_value") == 0


@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(data=st.data())
def test_mauled__is_all_taken_in_or_nothing_with_a_reason(
    bank: Bank, gauge: str, rows: psycopg.Connection, data: st.DataObject
) -> None:
    kind = data.draw(st.sampled_from(sorted(WRITERS)))
    text = data.draw(mauled(WRITERS[kind](series(START, 5), START).encode()))
    before = count(rows, "gauge_value")
    ended = send(bank.client, gauge, text, kind)
    assert ended["state"] in ("done", "failed"), ended
    assert "went wrong here" not in ended["message"], ended
    if ended["state"] == "failed":
        assert count(rows, "gauge_value") == before
        assert len(ended["message"]) > 20
    wild = "select count(*) from gauge_value where value in ('nan', 'infinity', '-infinity')"
    assert rows.execute(wild).fetchone() == (0,)


def test_stop__leaves_nothing_behind(
    bank: Bank,
    gauge: str,
    rows: psycopg.Connection,
    database: str,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr(bulk, "REPORT_EVERY", 50)
    row = new_id()
    rows.execute(
        "insert into gauge_import (id, angler_id, gauge_id, state, rows, share, message, started_at)"
        " select %s, angler_id, id, 'running', 0, 0, '', now() from gauge",
        (row,),
    )
    path = tmp_path / "past.csv"
    path.write_bytes(csv_of([(START + timedelta(hours=k), 1.0 + k) for k in range(500)]))
    assert bank.client.delete(f"/api/imports/{row}").json()["state"] == "cancelling"
    take_in(database, UUID(row), UUID(gauge), path, "csv")
    ended = bank.client.get(f"/api/imports/{row}").json()
    assert (ended["state"], ended["message"]) == ("cancelled", "Stopped; nothing was taken in.")
    assert count(rows, "gauge_value") == 0
    assert (
        bank.client.delete(f"/api/imports/{row}").json()["state"] == "cancelled"
    )  # it has ended, and stays so


def test_stopped_service__leaves_no_import_running(
    bank: Bank, gauge: str, rows: psycopg.Connection, database: str
) -> None:
    row = new_id()
    rows.execute(
        "insert into gauge_import (id, angler_id, gauge_id, state, rows, share, message, started_at)"
        " select %s, angler_id, id, 'running', 7, 0.5, '', now() from gauge",
        (row,),
    )
    with TestClient(build(Settings(database_url=database, demo=True))):  # another start of the service
        pass
    found = bank.client.get(f"/api/imports/{row}").json()
    assert (found["state"], found["message"]) == ("failed", "The service was stopped; nothing was taken in.")
    assert gauge


def test_import__twice_is_one_and_another_s_is_not_there(
    bank: Bank, stranger: Bank, gauge: str, rows: psycopg.Connection
) -> None:
    row = new_id()
    send(bank.client, gauge, csv_of([(START, 1.0)]), row=row)
    assert send(bank.client, gauge, csv_of([(START, 2.0)]), row=row)["rows"] == 1
    assert rows.execute("select value from gauge_value").fetchall() == [(1.0,)]
    for method in ("GET", "DELETE"):
        assert stranger.client.request(method, f"/api/imports/{row}").status_code == 404
    params = {"gauge_id": gauge, "kind": "csv"}
    assert stranger.client.put(f"/api/imports/{row}", params=params, content=b"").status_code == 404
    assert stranger.client.put(f"/api/imports/{new_id()}", params=params, content=b"").status_code == 404


def test_bad_request__names_the_field_and_too_large_is_said(bank: Bank, gauge: str, database: str) -> None:
    answer = bank.client.put(
        f"/api/imports/{new_id()}", params={"gauge_id": gauge, "kind": "xls"}, content=b"x"
    )
    assert answer.status_code == 422
    assert set(faults(answer)) == {"kind"}
    with TestClient(build(Settings(database_url=database, demo=True, file_limit_bytes=1000))) as small:
        small.post("/api/session/demo")
        answer = small.put(
            f"/api/imports/{new_id()}", params={"gauge_id": gauge, "kind": "csv"}, content=b"x" * 2000
        )
        assert answer.status_code == 413
