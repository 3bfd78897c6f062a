"""What the ordinary calls cost one angler with two million drifts among two hundred with ten thousand each, against what they
cost before the log had grown.
"""

import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import httpx2 as httpx
import psycopg
from uuid_utils.compat import uuid7

from deriva.bench.grown import DRIFTS_AN_OUTING, Grown, grow
from deriva.service.serving import free_port, kill_app, scratch_cluster, start_app
from deriva.service.store.address import sync_url
from deriva.service.store.schema import migrate

BEFORE, AFTER, OTHERS, OTHERS_OUTINGS = 120, 10_000, 200, 50
"""Outings of the angler before and after, other anglers, and outings of each. Before, a page of outings is full and a lie has
as many readings as are looked at: what a page has more to count is not growth.
"""
CALLS, PATIENCE_S = 30, 600.0
TAPS = 5

Call = Callable[[httpx.Client, Grown], httpx.Response]


def _sync(client: httpx.Client, cursor: int | None, taps: int = 0, setting: str = "") -> httpx.Response:
    now = time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime())
    body = {"setting_id": setting, "at": now, "outcome": "clean"}
    events = [
        {"id": str(uuid7()), "sequence": k, "kind": "drifts", "record": str(uuid7()), "at": now, "zone": "UTC", "body": body}
        for k in range(taps)
    ]  # fmt: skip
    return client.post(
        "/api/sync", json={"version": 1, "device": str(uuid7()), "cursor": cursor, "events": events}
    )


def _tap(client: httpx.Client, grown: Grown) -> httpx.Response:
    return _sync(client, None, TAPS, str(grown.setting))


def _ask(client: httpx.Client, by: str, **more: Any) -> httpx.Response:  # noqa: ANN401
    return client.post("/api/learn/answers", json={"by": by, **more})


def _here(grown: Grown) -> dict[str, Any]:
    water = {"flow_class": "normal", "temperature_c": 11.0, "light": "day", "kind": "run"}
    return {"place": "beat", "id": str(grown.beat), **water}


def _set_up(client: httpx.Client, grown: Grown) -> None:
    """Show as many answers beside the rig as may be, and begin a trial."""
    here = [{"dimension": "beat", "part": str(grown.beat)}]
    asked = [
        {"by": by, "measure": measure, "only": here}
        for by in ("bead", "fly", "setting")
        for measure in ("takes", "fish")
    ]
    trial = {"by": "bead", "first": "2.0", "second": "3.0"}
    client.put("/api/learn/evidence", json={"questions": asked}).raise_for_status()
    client.put("/api/learn/trial", json=trial).raise_for_status()


def _drawn(client: httpx.Client, grown: Grown) -> httpx.Response:
    """Ask for a page of outings as they are drawn small."""
    page = client.get("/api/outings", params={"after": str(grown.middle)}).json()
    return client.get("/api/strips", params={"outing": [one["id"] for one in page]})


CALLS_MADE: dict[str, Call] = {
    "outings, the newest": lambda c, _: c.get("/api/outings"),
    "outings, from the middle": lambda c, g: c.get("/api/outings", params={"after": str(g.middle)}),
    "outings found by words": lambda c, _: c.get("/api/search", params={"find": "low fish"}),
    "a page of outings and their strips": _drawn,
    "a year beside the river": lambda c, _: c.get("/api/seasons/2026"),
    "ledger": lambda c, g: c.get(f"/api/outings/{g.middle}"),
    "CSV": lambda c, g: c.get(f"/api/files/csv?outing={g.middle}"),
    "today": lambda c, g: c.get(f"/api/beats/{g.beat}/today"),
    "beats": lambda c, _: c.get("/api/beats"),
    "box": lambda c, _: c.get("/api/box"),
    "shares": lambda c, _: c.get("/api/shares"),
    "a pull of 200 changes": lambda c, _: _sync(c, 1),
    "five drifts logged": _tap,
    "what can be asked": lambda c, _: c.get("/api/learn/questions"),
    "takes by bead": lambda c, _: _ask(c, "bead"),
    "fish an hour by lie": lambda c, _: _ask(c, "lie", measure="fish", per="hour"),
    "takes by hour": lambda c, _: _ask(c, "hour"),
    "takes by flow in one month": lambda c, _: _ask(c, "flow", only=[{"dimension": "month", "part": "6"}]),
    "takes by rise or fall": lambda c, _: _ask(c, "trend"),
    "fish an hour in the zone by rank": lambda c, _: _ask(c, "ranked", measure="fish", per="zone_hour"),
    "fish by which fly took": lambda c, _: _ask(c, "took", measure="fish"),
    "fish by moment": lambda c, _: _ask(c, "moment", measure="fish"),
    "takes by school": lambda c, _: _ask(c, "school_depth"),
    "how right it was": lambda c, _: c.get("/api/learn/calibration"),
    "what a fly can be narrowed to": lambda c, _: c.get("/api/learn/parts", params={"dimension": "took"}),
    "what was fished here": lambda c, g: c.post("/api/learn/here", json=_here(g)),
    "evidence beside the rig": lambda c, g: c.post("/api/learn/evidence/here", json=_here(g)),
    "how a trial stands": lambda c, _: c.get("/api/learn/trial"),
    "outings behind a bead": lambda c, _: c.post(
        "/api/learn/outings", json={"question": {"by": "bead"}, "part": "2.5"}
    ),
}


def _timed(address: str, token: str, grown: Grown) -> dict[str, float]:
    """Return the p95 of each call, ms."""
    found = {}
    with httpx.Client(base_url=address, cookies={"deriva_session": token}, timeout=PATIENCE_S) as client:
        _set_up(client, grown)
        for what, call in CALLS_MADE.items():
            waits = []
            for n in range(CALLS + 3):
                began = time.perf_counter()
                answer = call(client, grown)
                if n >= 3:
                    waits.append(1000.0 * (time.perf_counter() - began))
                answer.raise_for_status()
            found[what] = statistics.quantiles(waits, n=20)[-1]
    return found


def _memory_mb(pid: int) -> float:
    status = Path(f"/proc/{pid}/status").read_text()
    return int(next(line.split()[1] for line in status.splitlines() if line.startswith("VmHWM"))) / 1024.0


def _taken_away(address: str, token: str) -> tuple[float, float]:
    """Take everything away; return the seconds that it takes, and how many MB it is."""
    began, size = time.perf_counter(), 0
    with (
        httpx.Client(base_url=address, cookies={"deriva_session": token}, timeout=PATIENCE_S) as client,
        client.stream("GET", "/api/export") as answer,
    ):
        answer.raise_for_status()
        for part in answer.iter_bytes():
            size += len(part)
    return time.perf_counter() - began, size / 1e6


def growth(after: int = AFTER, others: int = OTHERS) -> list[dict[str, Any]]:
    """Return the rows: each call's p95 when the log has grown, against the same before."""
    with scratch_cluster(durable=True) as cluster:
        cluster.create("grown")
        url = cluster.url("grown")
        migrate(url)
        port = free_port()
        app = start_app(url, port=port, log=Path(tempfile.mkdtemp()) / "app.log")
        address = f"http://127.0.0.1:{port}"
        try:
            with psycopg.connect(sync_url(url), autocommit=True) as rows:
                small = grow(rows, "small", outings=BEFORE)
                rows.execute("analyze")
                before = _timed(address, "small", small)
                rows.execute("set session_replication_role = replica")  # what is written here hangs together
                began = time.perf_counter()
                for n in range(others):
                    grow(rows, f"other {n}", outings=OTHERS_OUTINGS)
                big = grow(rows, "big", outings=after)
                rows.execute("vacuum analyze")
                written_s = time.perf_counter() - began
            grown = _timed(address, "big", big)
            memory = _memory_mb(app.pid)
            took_s, size_mb = _taken_away(address, "big")
            after_export = _memory_mb(app.pid)
        finally:
            kill_app(app)
    said = f"{after * DRIFTS_AN_OUTING:,} drifts among {others} anglers, written in {written_s:.0f} s"
    return [
        {"what": f"{what}, p95 grown / before", "ratio": ms / before[what], "raw": f"{ms:.0f} / {before[what]:.0f} ms; {said}"}
        for what, ms in grown.items()
    ] + [
        {
            "what": "memory after taking everything away / before",
            "ratio": after_export / memory,
            "raw": f"{after_export:.0f} / {memory:.0f} MB; {size_mb:.0f} MB in {took_s:.0f} s",
        }
    ]  # fmt: skip
