"""No ordinary call costs more as a log grows: what the database reads for each is looked at, on a small log of many years."""

from collections.abc import Iterator
from typing import Any

import psycopg
import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from sqlalchemy import event as of_engine

from deriva.bench.grown import DRIFTS_AN_OUTING, Grown, grow
from tests.pooler import past_the_pooler
from tests.service.anglers import batch, event, new_id

OUTINGS = 60
WHO = "of many years"

STOPS_AN_OUTING = 4

READS_MOST = 4 * DRIFTS_AN_OUTING
"""So many rows may be read of a table in one step of a query: a page of the log, of which there are fifteen."""

A_PAGE_OF_OUTINGS = 50 * DRIFTS_AN_OUTING

CALLS = {
    "/api/outings": A_PAGE_OF_OUTINGS, "/api/outings?after={middle}": A_PAGE_OF_OUTINGS, "/api/outings/{middle}": READS_MOST,
    "/api/files/csv?outing={middle}": READS_MOST, "/api/beats": READS_MOST, "/api/beats/{beat}/today": READS_MOST,
    "/api/box": READS_MOST, "/api/shares": READS_MOST, "/api/shared": READS_MOST, "/api/session": READS_MOST,
    "/api/learn/calibration": A_PAGE_OF_OUTINGS,
    "sync": READS_MOST,
}  # fmt: skip


@pytest.fixture
def grown(rows: psycopg.Connection) -> Iterator[Grown]:
    made = grow(rows, WHO, outings=OUTINGS)
    rows.execute("analyze")
    for by_choice in (
        "seqscan",
        "hashjoin",
        "mergejoin",
    ):  # of a small database the planner reads the whole by choice
        rows.execute(f"set enable_{by_choice} = off")
    yield made


def signed_in(client: TestClient) -> None:
    client.cookies.clear()
    client.cookies.set("deriva_session", WHO)


def nodes(plan: dict[str, Any]) -> Iterator[dict[str, Any]]:
    yield plan
    for below in plan.get("Plans", ()):
        yield from nodes(below)


def read_rows(node: dict[str, Any]) -> float:
    removed = sum(value for name, value in node.items() if name.startswith("Rows Removed"))
    read: float = node["Actual Loops"] * (node["Actual Rows"] + removed)
    return read


def test_calls__read_no_table_whole_and_no_more_than_a_page_of_the_log(
    client: TestClient, service: FastAPI, grown: Grown, rows: psycopg.Connection
) -> None:
    asked: list[tuple[str, tuple[Any, ...]]] = []
    engine = service.state.sessions.kw["bind"].sync_engine

    def heard(_c: object, _u: object, statement: str, parameters: tuple[Any, ...], *_: object) -> None:
        if statement.startswith(("SELECT", "WITH")) and "FOR UPDATE" not in statement:
            asked.append((statement, parameters))

    signed_in(client)
    named = {"middle": grown.middle, "beat": grown.beat}
    for path, most in CALLS.items():
        asked.clear()
        of_engine.listen(engine, "before_cursor_execute", heard)
        if path == "sync":
            drift = {"setting_id": str(grown.setting), "at": "2026-06-01T12:00:00Z", "outcome": "clean"}
            answer = client.post("/api/sync", json=batch(event("drifts", new_id(), drift)))
        else:
            answer = client.get(path.format(**named))
        of_engine.remove(engine, "before_cursor_execute", heard)
        assert answer.status_code == 200, path
        assert asked, path
        for statement, parameters in asked:
            for node in _plan(rows, statement, parameters):
                assert node["Node Type"] != "Seq Scan", (path, node["Relation Name"], statement)
                assert "Relation Name" not in node or read_rows(node) <= most, (
                    path,
                    node["Node Type"],
                    statement,
                )


def _plan(rows: psycopg.Connection, statement: str, parameters: tuple[Any, ...]) -> Iterator[dict[str, Any]]:
    """Run a statement of the service's and return the steps that the database took."""
    numbered = statement.replace("%", "%%")
    for n in range(len(parameters), 0, -1):
        numbered = numbered.replace(f"${n}", f"%(p{n})s")
    told = {f"p{n}": value for n, value in enumerate(parameters, 1)}
    found = rows.execute(f"explain (analyze, format json) {numbered}", told).fetchone()
    assert found is not None
    return nodes(found[0][0]["Plan"])


def test_outings__come_in_pages_without_a_gap(client: TestClient, grown: Grown) -> None:
    del grown
    signed_in(client)
    first = client.get("/api/outings").json()
    second = client.get("/api/outings", params={"after": first[-1]["id"]}).json()
    assert (len(first), len(second)) == (50, OUTINGS - 50)
    started = [one["started_at"] for one in first + second]
    assert started == sorted(started, reverse=True)
    assert len({one["id"] for one in first + second}) == OUTINGS
    assert {one["tally"]["drifts"] for one in first + second} == {
        DRIFTS_AN_OUTING - 8
    }  # one of each rig's was taken back
    assert client.get("/api/outings", params={"after": second[-1]["id"]}).json() == []
    assert client.get("/api/outings", params={"after": new_id()}).status_code == 404


@past_the_pooler
def test_pages__are_planned_for_who_asks(client: TestClient, rows: psycopg.Connection) -> None:
    """By what is usual of others, who have an outing or two, a page of a long log was looked for through all of it."""
    for n in range(8):
        grow(rows, f"other {n}", outings=1)
    grow(rows, WHO, outings=2 * OUTINGS)
    rows.execute("vacuum analyze")
    # as after five questions
    rows.execute(f"alter database {rows.info.dbname} set plan_cache_mode = force_generic_plan")
    rows.execute(ENDED)
    signed_in(client)
    before = fetched(rows)
    page = client.get("/api/outings").json()
    rows.execute(ENDED)
    assert (
        fetched(rows)["stop"] - before["stop"] <= STOPS_AN_OUTING * len(page) < STOPS_AN_OUTING * 2 * OUTINGS
    )


ENDED = (
    "select pg_terminate_backend(pid, 10000) from pg_stat_activity"
    " where datname = current_database() and pid <> pg_backend_pid()"
)
"""Ends the service's connections: what they have counted is told then, and what they are told, when they begin."""


def fetched(rows: psycopg.Connection) -> dict[str, int]:
    """Return how many rows of each table were read by an index so far."""
    rows.execute("select pg_stat_force_next_flush()")
    rows.execute("select pg_stat_clear_snapshot()")
    told = rows.execute("select relname, coalesce(idx_tup_fetch, 0) from pg_stat_user_tables")
    return {name: int(read) for name, read in told.fetchall()}


def test_counts__of_who_is_new_to_the_server_read_what_they_count_and_no_more(
    rows: psycopg.Connection,
) -> None:
    """The server has looked at others' logs, and not yet at one that is written all at once, as a file that is taken in."""
    for n in range(3):
        grow(rows, f"other {n}", outings=OUTINGS // 3)
    rows.execute("analyze")
    before = fetched(rows)
    grow(rows, WHO, outings=OUTINGS)
    read = {name: count - before[name] for name, count in fetched(rows).items()}
    drifts = OUTINGS * DRIFTS_AN_OUTING
    counted = ("caught", "effort", "drift", "catch")
    assert all(read[name] <= 10 * drifts for name in counted), read
    assert max(read["caught"], read["effort"], read["catch"]) <= drifts / 4, read
