"""The failure drill: a primary and a replica that holds every commit too, two processes of the service, anglers who log
without pause; the primary is killed, the replica promoted. Nothing that was acknowledged may be missing; how long writes
waited is said.
"""

import asyncio
import shutil
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from uuid import UUID

import orjson
import psycopg

from deriva.bench.load import Enrolled, Line, batch_of, enrol
from deriva.service.serving import free_port, kill_app, start_app
from deriva.service.store.address import sync_url
from deriva.service.store.cluster import Cluster, data_folder
from deriva.service.store.schema import migrate

ANGLERS, BEFORE_S, AFTER_S, AGAIN_S = 20, 6.0, 12.0, 0.2
ROUNDS = 3


@dataclass
class Logged:
    """What one angler was told is kept, and the longest that a batch waited."""

    kept: list[str] = field(default_factory=list)
    waited_s: float = 0.0


@contextmanager
def pair() -> Iterator[tuple[Cluster, Cluster]]:
    """Run a primary that acknowledges nothing which the replica does not have."""
    base = Path(tempfile.mkdtemp(prefix="deriva-"))
    base.chmod(0o711)
    primary = Cluster(data_folder(base / "primary"))
    replica = Cluster(data_folder(base / "replica"))
    try:
        primary.start()
        replica = primary.copied_to(replica.folder)
        with psycopg.connect(sync_url(primary.url("postgres")), autocommit=True) as rows:
            rows.execute("alter system set synchronous_standby_names = '*'")
            rows.execute("select pg_reload_conf()")
        yield primary, replica
    finally:
        for one in (primary, replica):
            one.destroy()
        shutil.rmtree(base, ignore_errors=True)


async def fish(port: int, one: Enrolled, logged: Logged, until: float) -> None:
    """Log batch after batch; what is not acknowledged is sent again, as a phone does."""
    line: Line | None = None
    number = 0
    head = b'{"version":1,"device":"%s","cursor":' % str(one.device).encode()
    while time.monotonic() < until:
        events = batch_of(one, number)
        number, began = number + 1, time.monotonic()
        while True:
            try:
                line = line or await Line.to(port, one.token)
                got = await line.ask(head + b'0,"events":%s}' % events)
            except (OSError, EOFError, RuntimeError, IndexError):
                line = None
                if time.monotonic() > until + AFTER_S:
                    return
                await asyncio.sleep(AGAIN_S)
                continue
            logged.kept += [taken["id"] for taken in got["taken"]]
            logged.waited_s = max(logged.waited_s, time.monotonic() - began)
            break


async def under_load(port: int, anglers: list[Enrolled], primary: Cluster, replica: Cluster) -> list[Logged]:
    """Kill the primary while everybody logs, and promote the replica."""
    logged = [Logged() for _ in anglers]
    until = time.monotonic() + BEFORE_S + AFTER_S
    fishing = [
        asyncio.create_task(fish(port, one, log, until)) for one, log in zip(anglers, logged, strict=True)
    ]
    await asyncio.sleep(BEFORE_S)
    await asyncio.to_thread(primary.stop, "immediate")
    await asyncio.to_thread(replica.promote)
    await asyncio.gather(*fishing)
    return logged


def drill() -> bool:
    """Go through it once, and say how it went; return whether nothing was lost."""
    with pair() as (primary, replica):
        primary.create("deriva")
        migrate(primary.url("deriva"))
        anglers = enrol(sync_url(primary.url("deriva")), ANGLERS)
        ports = primary.port, replica.port
        both = "&".join(f"host=127.0.0.1:{port}" for port in ports)
        port = free_port()
        url = f"postgresql+asyncpg://deriva@/deriva?{both}&target_session_attrs=primary"
        app = start_app(url, port=port, log=Path(tempfile.mkdtemp()) / "app.log", processes=2, warm=False)
        try:
            logged = asyncio.run(under_load(port, anglers, primary, replica))
        finally:
            kill_app(app)
        with psycopg.connect(sync_url(replica.url("deriva"))) as rows:
            there = {row for (row,) in rows.execute("select id from change").fetchall()}
            gaps = rows.execute(
                "select count(*) from (select angler_id from change group by angler_id"
                " having max(position) <> count(*)) g"
            ).fetchone()
    kept = [UUID(one) for log in logged for one in log.kept]
    lost = sum(one not in there for one in kept)
    waited = max(log.waited_s for log in logged)
    print(
        orjson.dumps(
            {"acknowledged": len(kept), "lost": lost, "logs with a gap": gaps and gaps[0], "longest wait, s": round(waited, 1)}
        ).decode()
    )  # fmt: skip
    return lost == 0 and gaps == (0,) and len(kept) > 0


if __name__ == "__main__":
    whole = [drill() for _ in range(ROUNDS)]
    sys.exit(0 if all(whole) else 1)
