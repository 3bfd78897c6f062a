"""What those who plan cost those who do not: a call of the session and a tap, alone and beside eight anglers who plan without
pause.
"""

import contextlib
import itertools
import statistics
import tempfile
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

import httpx2 as httpx
import psycopg

from deriva.bench.shell import angler_at, played
from deriva.service.serving import scratch_cluster
from deriva.service.store.address import sync_url

PLANNERS, CALLS, PLANS = 8, 100, 30


def _timed(call: Callable[[], object], calls: int) -> list[float]:
    """Return how long each call takes, s."""
    call()
    took: list[float] = []
    for _ in range(calls):
        began = time.perf_counter()
        call()
        took.append(time.perf_counter() - began)
    return took


def _p95(took: Sequence[float]) -> float:
    return statistics.quantiles(took, n=20)[-1]


def _plan(client: httpx.Client, centimetres: int) -> None:
    """Ask for advice in a water that was not asked for before."""
    water = {"depth_m": 0.5 + centimetres / 100.0, "depth_sd_m": 0.4, "surface_speed_m_s": 0.6}
    client.post("/api/advice", json={"water": water}).raise_for_status()


@contextlib.contextmanager
def _planning(clients: Sequence[httpx.Client]) -> Iterator[None]:
    """Let every client plan without pause."""
    over = threading.Event()

    def plan(client: httpx.Client, first: int) -> None:
        for k in itertools.count(first):
            if over.is_set():
                return
            _plan(client, k % 100)

    threads = [threading.Thread(target=plan, args=(client, 12 * k)) for k, client in enumerate(clients)]
    for one in threads:
        one.start()
    try:
        yield
    finally:
        over.set()
        for one in threads:
            one.join()


def _row(what: str, alone: Sequence[float], beside: Sequence[float]) -> dict[str, Any]:
    quiet, busy = (1000 * statistics.median(took) for took in (alone, beside))
    return {
        "what": f"{what} beside {PLANNERS} who plan / alone",
        "ratio": busy / quiet,
        "raw": f"{busy:.1f} ms (p95 {1000 * _p95(beside):.1f}) against {quiet:.1f} (p95 {1000 * _p95(alone):.1f})",
    }


def planners() -> list[dict[str, Any]]:
    """Return a row a call: how much longer it takes beside those who plan; and a plan alone beside a tap."""
    with tempfile.TemporaryDirectory() as folder, scratch_cluster() as cluster:
        cluster.create("planners")
        with played(cluster, "planners", Path(folder)) as on:
            with psycopg.connect(sync_url(cluster.url("planners")), autocommit=True) as rows:
                clients = [angler_at(rows, on.address, f"planner {k}")[0] for k in range(PLANNERS)]
            _plan(clients[0], 0)  # by now the workers are there
            calls: dict[str, Callable[[], object]] = {
                "who is signed in": lambda: on.careful.get("/api/session").raise_for_status(),
                "a tap": on.tap,
            }
            alone = {what: _timed(call, CALLS) for what, call in calls.items()}
            waters = itertools.count(1)
            plan = _timed(lambda: _plan(clients[0], next(waters)), PLANS)
            with _planning(clients):
                beside = {what: _timed(call, CALLS) for what, call in calls.items()}
    tap = statistics.median(alone["a tap"])
    return [
        *(_row(what, alone[what], beside[what]) for what in calls),
        {
            "what": "a plan alone / a tap alone",
            "ratio": statistics.median(plan) / tap,
            "raw": f"{1000 * statistics.median(plan):.0f} ms (p95 {1000 * _p95(plan):.0f}) against {1000 * tap:.1f}",
        },
    ]
