"""Files of a gauge's past: all of it or nothing, in the background, with progress and a way to stop."""

import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path
from typing import Any
from uuid import UUID

import psycopg
import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from deriva.service.formats.read import Format
from deriva.service.formats.samples import Parameter, Sample
from deriva.service.main import build
from deriva.service.settings import Settings
from deriva.service.store import bulk
from deriva.service.store.handed import Handed
from deriva.service.store.take_in import take_in
from deriva.service.usecases.imports import MOST_AT_ONCE
from deriva.standins.app import WRITERS, rdb
from deriva.standins.marrowen import series
from tests.databases import key_of
from tests.service.anglers import Bank, count, faults, new_id
from tests.service.mauled import mauled

KINDS: tuple[Format, ...] = ("csv", "rdb", "waterml")
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
    written = "select at, xmin::text from gauge_value order by at"
    before: dict[datetime, str] = dict(rows.execute(written).fetchall())
    again = send(bank.client, gauge, csv_of([(times[5], 50.0), *values]))
    assert again["state"] == "done"
    now: dict[datetime, str] = dict(rows.execute(written).fetchall())
    assert [at for at in now if now[at] != before[at]] == times[
        7:9
    ]  # what is there already is not written again
    assert rows.execute("select array_agg(value order by at) from gauge_value").fetchone() == (
        [float(k + 1) for k in range(200)],
    )


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
        (
            csv_of([(START, 1.0), (START + timedelta(hours=1), "3..1")]),
            "csv",
            "line 3, column flow[m3/s]: '3..1'",
        ),
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
    gauge: str, rows: psycopg.Connection, database: str, tmp_path: Path, data: st.DataObject
) -> None:
    kind = data.draw(st.sampled_from(KINDS))
    path = tmp_path / "past"
    path.write_bytes(data.draw(mauled(WRITERS[kind](series(START, 5), START).encode())))
    before, row = count(rows, "gauge_value"), begun(rows)
    stored = take_in(_handed(database, row, gauge, path, kind))
    if stored is None:
        assert count(rows, "gauge_value") == before
        found = rows.execute("select state, message from job where id = %s", (row,)).fetchone()
        assert found is not None
        assert found[0] == "failed"
        assert "went wrong here" not in found[1]
        assert len(found[1]) > 20
    wild = "select count(*) from gauge_value where value in ('nan', 'infinity', '-infinity')"
    assert rows.execute(wild).fetchone() == (0,)


def _handed(database: str, row: str, gauge: str, path: Path, kind: Format) -> Handed:
    angler, which = key_of(database, "gauge", UUID(gauge))
    return Handed(database, angler, UUID(row), which, path, kind)


def begun(rows: psycopg.Connection, *, alive: str = "0 seconds") -> str:
    """Write down an import that runs, and was last heard of so long ago; return its id."""
    row = new_id()
    rows.execute(
        "insert into job (id, angler_id, gauge_id, state, rows, share, message, started_at, alive_at)"
        " select %s, angler_id, id, 'running', 7, 0.5, '', now(), now() - cast(%s as interval) from gauge",
        (row, alive),
    )
    return row


def test_stop__leaves_nothing_behind(
    bank: Bank,
    gauge: str,
    rows: psycopg.Connection,
    database: str,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setattr(bulk, "REPORT_EVERY", 50)
    row = begun(rows)
    path = tmp_path / "past.csv"
    path.write_bytes(csv_of([(START + timedelta(hours=k), 1.0 + k) for k in range(500)]))
    assert bank.client.delete(f"/api/imports/{row}").json()["state"] == "cancelling"
    take_in(_handed(database, row, gauge, path, "csv"))
    ended = bank.client.get(f"/api/imports/{row}").json()
    assert (ended["state"], ended["message"]) == ("cancelled", "Stopped; nothing was taken in.")
    assert count(rows, "gauge_value") == 0
    assert (
        bank.client.delete(f"/api/imports/{row}").json()["state"] == "cancelled"
    )  # it has ended, and stays so


def test_import__of_a_service_that_was_stopped_has_failed_and_one_that_is_alive_runs_on(
    bank: Bank, gauge: str, rows: psycopg.Connection, database: str
) -> None:
    stopped, alive = begun(rows, alive="5 minutes"), begun(rows)
    with TestClient(build(Settings(database_url=database, demo=True))):  # another process of the service
        pass
    found = bank.client.get(f"/api/imports/{stopped}").json()
    assert (found["state"], found["message"]) == ("failed", "The service was stopped; nothing was taken in.")
    assert bank.client.get(f"/api/imports/{alive}").json()["state"] == "running"
    assert gauge


def test_import__waits_its_turn_and_only_so_many_of_an_angler_s(
    bank: Bank, gauge: str, rows: psycopg.Connection
) -> None:
    for _ in range(MOST_AT_ONCE):
        begun(rows)
    params = {"gauge_id": gauge, "kind": "csv"}
    answer = bank.client.put(f"/api/imports/{new_id()}", params=params, content=csv_of([(START, 1.0)]))
    assert answer.status_code == 429
    assert count(rows, "job") == MOST_AT_ONCE


def test_import__one_id_six_times_at_once_is_one(bank: Bank, gauge: str) -> None:
    row, text = new_id(), csv_of([(START, 1.0)])
    params = {"gauge_id": gauge, "kind": "csv"}
    with ThreadPoolExecutor(6) as threads:
        put = partial(bank.client.put, f"/api/imports/{row}", params=params, content=text)
        answers = list(threads.map(lambda _: put(), range(6)))
    assert {answer.status_code for answer in answers} == {200}
    assert send(bank.client, gauge, text, row=row)["state"] == "done"


def test_words__where_a_number_is_due_are_missing_values_and_the_rest_is_kept(
    bank: Bank, gauge: str, rows: psycopg.Connection
) -> None:
    times = [START + timedelta(minutes=15 * k) for k in range(6)]
    values = [1.0, "Ice", 0, -5, "1e308", 2.0]
    assert send(bank.client, gauge, csv_of(list(zip(times, values, strict=True))))["state"] == "done"
    stored = rows.execute("select value, worth from gauge_value order by at").fetchall()
    assert stored == [
        (1.0, "good"), (None, "ice"), (None, "missing"), (None, "missing"), (None, "missing"), (2.0, "good"),
    ]  # fmt: skip


def test_upload__that_breaks_off_or_is_too_large_leaves_no_file(
    bank: Bank, gauge: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(tempfile, "tempdir", str(tmp_path))

    def broken() -> Iterator[bytes]:
        yield b"time,flow[m3/s]\n"
        raise ConnectionError("gone")

    params = {"gauge_id": gauge, "kind": "csv"}
    assert bank.client.put(f"/api/imports/{new_id()}", params=params, content=broken()).status_code == 503
    send(bank.client, gauge, csv_of([(START, 1.0)]))
    while list(tmp_path.iterdir()):  # the last one is removed when it has been taken in
        pass


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
    known = Settings(database_url=database, demo=True, file_limit_bytes=1000, site="http://testserver")
    with TestClient(build(known)) as small:
        small.post("/api/session/demo")
        answer = small.put(
            f"/api/imports/{new_id()}", params={"gauge_id": gauge, "kind": "csv"}, content=b"x" * 2000
        )
        assert answer.status_code == 413


def test_preview__says_what_a_file_is_read_as_and_stores_nothing(
    bank: Bank, gauge: str, rows: psycopg.Connection
) -> None:
    def asked(text: bytes, kind: str) -> dict[str, Any]:
        answer = bank.client.post("/api/imports/preview", params={"kind": kind}, content=text)
        assert answer.status_code == 200, answer.text
        found: dict[str, Any] = answer.json()
        return found

    values = series(START, 2000)
    for kind in KINDS:
        text = WRITERS[kind](values, START).encode()
        assert len(text) > 65_536  # it is cut, in the middle of a line
        seen = asked(text, kind)
        assert seen["fault"] is None
        assert seen["counts"]["flow"] > 100
        assert seen["first"][0]["value"] == pytest.approx(float(values.flow_m3_s[0]), rel=1e-3)
    words = asked(csv_of([(START, "Ice"), (START + timedelta(hours=1), 2.0)]), "csv")
    assert (words["missing"], words["first"][0]["worth"]) == (1, "ice")
    assert "line 2, column time" in asked(b"time,flow[m3/s]\nyesterday,3\n", "csv")["fault"]
    assert count(rows, "gauge_value") == 0
    assert gauge


@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    files=st.lists(
        st.lists(
            st.tuples(st.sampled_from(("flow", "temperature")), st.integers(0, 9), st.none() | st.integers(1, 30)), max_size=14
        ),
        min_size=1, max_size=3,
    )
)  # fmt: skip
def test_samples__in_whatever_order_the_later_of_two_stands(
    gauge: str, rows: psycopg.Connection, database: str, files: list[list[tuple[Parameter, int, int | None]]]
) -> None:
    """Whether they go straight into the table or beside it first: a dictionary says what has to be there."""
    rows.execute("delete from gauge_value")
    wanted: dict[tuple[str, datetime], float | None] = {}
    for file in files:
        found = [
            Sample(
                parameter,
                START + timedelta(hours=hour),
                value,
                "missing" if value is None else "good",
                "a\\b",
            )
            for parameter, hour, value in file
        ]
        assert bulk.copy_samples(
            database, key_of(database, "gauge", UUID(gauge)), found, daily=False, report=lambda _: None
        ) == len(found)
        wanted |= {(one.parameter, one.at): one.value for one in found}
    stored = rows.execute("select parameter, at, value, code from gauge_value").fetchall()
    assert {(parameter, at): value for parameter, at, value, _ in stored} == wanted
    assert {code for *_, code in stored} <= {"a\\b"}


def test_gauge__takes_its_values_with_it_and_no_other_s(gauge: str, rows: psycopg.Connection) -> None:
    rows.execute(
        "insert into gauge (id, angler_id, river_id, name, format, url)"
        " select %s, angler_id, river_id, 'other', 'csv', '/o' from gauge",
        (new_id(),),
    )
    rows.execute(
        "insert into gauge_value (angler_id, gauge_id, parameter, daily, at, value, worth, code)"
        " select angler_id, id, 'flow', false, now(), 1, 'good', '' from gauge"
    )
    rows.execute("delete from gauge where id = %s", (gauge,))
    assert count(rows, "gauge_value") == 1
    rows.execute("delete from angler")  # whatever way they go
    assert count(rows, "gauge_value") == 0
