"""What a stranger, or a careless angler, costs everybody else: each attack is played over HTTP on a service that runs as it is
run for real, while another angler goes on logging; how long that one waits, and how much memory the service takes.
"""

import contextlib
import json
import tempfile
import time
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Any

import httpx2 as httpx
import psycopg
from uuid_utils.compat import uuid7

from deriva.bench.seed import Seed
from deriva.service.serving import free_port, kill_app, scratch_cluster, start_app, start_standin
from deriva.service.store.address import sync_url
from deriva.service.store.cluster import Cluster
from deriva.service.store.schema import migrate
from deriva.standins.hostile import Harm

PATIENCE_S = 120.0
BEADS = (2.0, 2.5, 3.0, 3.5, 4.0)
SITUATION: dict[str, Any] = {
    "water": {"depth_m": 1.1, "depth_sd_m": 0.4, "surface_speed_m_s": 0.6},
    "box": {
        "beads_mm": list(BEADS),
        "flies": [
            {"form": f"nymph {k}", "hook": 10 + k % 8, "bead_mm": BEADS[k % len(BEADS)]} for k in range(200)
        ],
    },
}


@dataclass(frozen=True, slots=True)
class Cost:
    """What an attack cost: the tap that waited longest and the middling one, s; the longest wait of a request that does
    nothing, which is how long the loop was held; and the memory that the service took, bytes.
    """

    attack: str
    worst_s: float
    loop_s: float
    median_s: float
    memory_bytes: int


def _memory(pid: int) -> int:
    status = Path(f"/proc/{pid}/status").read_text()
    return 1024 * int(next(line.split()[1] for line in status.splitlines() if line.startswith("VmHWM")))


@dataclass(frozen=True)
class Besieged:
    """A service with an angler who logs, another who does not mean well, and a gauge that means harm."""

    address: str
    pid: int
    careful: httpx.Client
    greedy: httpx.Client
    gauges: str
    river: str

    def tap(self) -> float:
        """Send an empty batch, which finds the session, holds the log and looks for changes, as a tap does; return its time."""
        body = {"version": 1, "device": str(uuid7()), "cursor": 0, "events": []}
        began = time.perf_counter()
        assert self.careful.post("/api/sync", json=body).status_code == 200  # noqa: S101 - a bench that fails is none
        return time.perf_counter() - began

    def during(self, attack: str, blows: list[Callable[[], object]]) -> Cost:
        """Tap without pause while every blow of an attack falls at once."""
        with ThreadPoolExecutor(len(blows) + 1) as threads:
            falling = [threads.submit(blow) for blow in blows]
            asking = threads.submit(self._asked, falling)
            taps = [self.tap()]
            while not all(one.done() for one in falling):
                taps.append(self.tap())
            for one in falling:
                one.result()
        taps.sort()
        return Cost(
            attack=attack,
            worst_s=taps[-1],
            loop_s=asking.result(),
            median_s=taps[len(taps) // 2],
            memory_bytes=_memory(self.pid),
        )

    def _asked(self, falling: list[Future[object]]) -> float:
        """Ask for what takes no work, over and over, while blows fall; return the longest wait."""
        worst = 0.0
        with httpx.Client(base_url=self.address, timeout=PATIENCE_S) as client:
            client.get("/api/health")
            while not all(one.done() for one in falling):
                began = time.perf_counter()
                client.get("/api/health")
                worst = max(worst, time.perf_counter() - began)
        return worst


def angler_at(rows: psycopg.Connection, address: str, name: str) -> tuple[httpx.Client, str]:
    """Write an angler with a river into the database; return a client that is signed in there, and the river."""
    seed = Seed(rows)
    angler = seed.angler(name)
    river = seed.river(angler)
    seed.session(angler, name)
    client = httpx.Client(base_url=address, cookies={"deriva_session": name}, timeout=PATIENCE_S)
    return client, str(river)


@contextlib.contextmanager
def played(cluster: Cluster, database: str, folder: Path) -> Iterator[Besieged]:
    """Run a service and what attacks it on a database that has nothing in it yet."""
    url = cluster.url(database)
    migrate(url)
    port, gauge_port = free_port(), free_port()
    address, gauges = f"http://127.0.0.1:{port}", f"http://127.0.0.1:{gauge_port}"
    standin = start_standin(port=gauge_port, log=folder / "standin.log")
    app = start_app(url, port=port, log=folder / "app.log", gauges=gauges, gauge_every_s=3600.0)
    try:
        with psycopg.connect(sync_url(url), autocommit=True) as rows:
            careful, _ = angler_at(rows, address, "careful")
            greedy, river = angler_at(rows, address, "greedy")
        with careful, greedy:
            yield Besieged(address, app.pid, careful, greedy, gauges, river)
    finally:
        kill_app(app)
        kill_app(standin)


def attacks(on: Besieged, *, share: float = 1.0) -> Iterator[Cost]:
    """Play each attack; ``share`` of its size, for a test that has not the time for all of it."""
    coach = {
        "situation": SITUATION,
        "rig": "indicator",
        "drifts": [
            {"depth_setting_m": 0.5 + 0.005 * k, "point_bead_mm": BEADS[k % len(BEADS)], "outcome": "clean"}
            for k in range(int(400 * share))
        ],
    }
    wrong = json.dumps({f"x{k}": k for k in range(int(60_000 * share))})
    slow = {"name": "X", "email": "x@example.org", "password": "p@$$w0rd1!l0v3y0u" * 4 + "0oO0"}
    yield on.during("quiet", [lambda: [on.tap() for _ in range(int(200 * share))]])
    yield on.during(
        "passwords that are slow to judge", [lambda: on.greedy.post("/api/account", json=slow)] * 5
    )
    yield on.during(
        "bodies of wrong fields", [lambda: on.greedy.post("/api/advice", content=wrong, headers=JSON)] * 4
    )
    yield on.during("four coaches of 400 drifts", [lambda: on.greedy.post("/api/coach", json=coach)] * 4)
    yield on.during("eighty batches of one angler", [lambda: _batches(on.greedy, int(20 * share))] * 4)
    kinds = [
        one for one in Harm if share >= 1.0 or one not in (Harm.HANG, Harm.DRIP)
    ]  # those take their time
    yield on.during("a hostile gauge", [partial(_read, on, kind) for kind in kinds])
    text = _past(int(15_000_000 * share))
    yield on.during("files of a gauge's past", [lambda: _file(on, text) for _ in range(3)])


JSON = {"content-type": "application/json"}


def _batches(client: httpx.Client, many: int) -> None:
    for _ in range(many):
        client.post("/api/sync", json={"version": 1, "device": str(uuid7()), "cursor": 0, "events": []})


def _gauge(on: Besieged, path: str, kind: str) -> str:
    gauge = str(uuid7())
    body = {"river_id": on.river, "name": "G", "format": kind, "url": path}
    answer = on.greedy.put(f"/api/gauges/{gauge}", json=body)
    assert answer.status_code == 200, answer.text  # noqa: S101
    return gauge


def _read(on: Besieged, kind: Harm) -> None:
    gauge = _gauge(on, f"/hostile/{kind}", "waterml" if kind is Harm.XML else "csv")
    on.greedy.post(f"/api/gauges/{gauge}/read")


def _past(size: int) -> bytes:
    line = "2020-01-01T{:02}:{:02}:00Z,{}\n"
    rows = (line.format(k // 60 % 24, k % 60, k % 97 / 10 + 1) for k in range(size // 30))
    return ("time,flow[m3/s]\n" + "".join(rows)).encode()


def _file(on: Besieged, text: bytes) -> None:
    gauge, row = _gauge(on, "/none", "csv"), uuid7()
    where = f"/api/imports/{row}"
    answer = on.greedy.put(where, params={"gauge_id": gauge, "kind": "csv"}, content=text)
    while answer.status_code == 200 and answer.json()["state"] in ("running", "cancelling"):
        time.sleep(0.1)
        answer = on.greedy.get(where)


def shell() -> list[dict[str, Any]]:
    """Return a row an attack: how much longer the longest tap waits than one does in quiet."""
    with tempfile.TemporaryDirectory() as folder, scratch_cluster() as cluster:
        cluster.create("shell")
        with played(cluster, "shell", Path(folder)) as on:
            costs = list(attacks(on))
    quiet = costs[0]
    return [
        {
            "what": f"a tap's longest wait: {cost.attack}",
            "ratio": cost.worst_s / quiet.median_s,
            "raw": f"{1000 * cost.worst_s:,.0f} ms, middling {1000 * cost.median_s:,.0f} ms;"
            f" loop held {1000 * cost.loop_s:,.0f} ms; {cost.memory_bytes / 1e6:,.0f} MB",
        }
        for cost in costs
    ]
