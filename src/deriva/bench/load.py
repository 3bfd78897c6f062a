"""Fifty anglers log at once through POST /api/sync, against the same rows inserted by bare asyncpg in the same run."""

import asyncio
import statistics
import tempfile
import time
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from uuid import UUID

import asyncpg
import httpx2 as httpx
import psycopg
from uuid_utils.compat import uuid7

from deriva.bench.seed import Seed
from deriva.service.serving import free_port, kill_app, scratch_cluster, start_app
from deriva.service.store.bulk import sync_url
from deriva.service.store.cluster import Cluster
from deriva.service.store.schema import migrate

ANGLERS, BATCHES, TAPS = 50, 8, 5
"""So many anglers, each sending so many batches of so many drifts, one after the other."""


@dataclass(frozen=True, slots=True)
class Enrolled:
    """An angler who can log: token, id, the rig that is on, and a device."""

    token: str
    angler: UUID
    setting: UUID
    device: UUID


def enrol(url: str) -> list[Enrolled]:
    """Write anglers with a beat, a lie, an outing, a stop and a rig; return what each needs to log."""
    made = []
    with psycopg.connect(sync_url(url), autocommit=True) as rows:
        seed = Seed(rows)
        for n in range(ANGLERS):
            token = f"load {n}"
            angler = seed.angler(token)
            beat = seed.beat(angler, seed.river(angler))
            stop = seed.stop(angler, seed.outing(angler, beat), seed.lie(angler, beat))
            made.append(
                Enrolled(seed.session(angler, token), angler, seed.setting(angler, stop), UUID(str(uuid7())))
            )
    return made


async def through_the_service(address: str, anglers: list[Enrolled]) -> tuple[float, list[float]]:
    """Return drifts a second, and the time to each batch's acknowledgement."""
    waits: list[float] = []

    async def fish(client: httpx.AsyncClient, one: Enrolled) -> None:
        cookies = {"cookie": f"deriva_session={one.token}"}
        cursor: int | None = None
        sequence = 0
        for _ in range(BATCHES):
            events = []
            for _ in range(TAPS):
                sequence += 1
                at = datetime.now(UTC).isoformat()
                body = {"setting_id": str(one.setting), "at": at, "outcome": "clean"}
                events.append(
                    {
                        "id": str(uuid7()),
                        "sequence": sequence,
                        "kind": "drifts",
                        "record": str(uuid7()),
                        "at": at,
                        "zone": "UTC",
                        "body": body,
                    }
                )
            sent = time.perf_counter()
            answer = await client.post(
                "/api/sync", headers=cookies,
                json={"version": 1, "device": str(one.device), "cursor": cursor, "events": events},
            )  # fmt: skip
            answer.raise_for_status()
            waits.append(time.perf_counter() - sent)
            got = answer.json()
            if len(got["taken"]) != TAPS:
                raise RuntimeError(f"not all was taken: {got}")
            cursor = got["cursor"]

    limits = httpx.Limits(max_connections=ANGLERS)
    async with httpx.AsyncClient(base_url=address, timeout=60.0, limits=limits) as client:
        began = time.perf_counter()
        await asyncio.gather(*(fish(client, one) for one in anglers))
        return ANGLERS * BATCHES * TAPS / (time.perf_counter() - began), waits


async def bare(url: str, anglers: list[Enrolled]) -> float:
    """Return drifts a second with nothing but inserts, a transaction a batch, as many at once."""
    pool = await asyncpg.create_pool(url, min_size=16, max_size=16)

    async def fish(one: Enrolled) -> None:
        for _ in range(BATCHES):
            rows = [(uuid7(), one.angler, one.setting, datetime.now(UTC)) for _ in range(TAPS)]
            async with pool.acquire() as db, db.transaction():
                await db.executemany(
                    "insert into drift (id, angler_id, setting_id, at, outcome, undone)"
                    " values ($1, $2, $3, $4, 'clean', false)",
                    rows,
                )

    began = time.perf_counter()
    await asyncio.gather(*(fish(one) for one in anglers))
    rate = ANGLERS * BATCHES * TAPS / (time.perf_counter() - began)
    await pool.close()
    return rate


async def measure(cluster: Cluster, processes: int) -> dict[str, float]:
    """Return the figures with so many processes of the service, on a database of its own."""
    name = f"load_{processes}"
    cluster.create(name)
    migrate(cluster.url(name))
    url = cluster.url(name).replace("+asyncpg", "")
    db = await asyncpg.connect(url)
    anglers = enrol(url)
    port = free_port()
    log = Path(tempfile.mkdtemp()) / "app.log"
    app = await asyncio.to_thread(
        lambda: start_app(cluster.url(name), port=port, log=log, processes=processes)
    )
    try:
        address = f"http://127.0.0.1:{port}"
        await through_the_service(address, anglers)  # warm
        rate, waits = await through_the_service(address, anglers)
    finally:
        kill_app(app)
    plain = await bare(url, anglers)
    await db.close()
    p95 = statistics.quantiles(waits, n=20)[-1]
    return {
        "processes": processes, "ratio": rate / plain, "drifts_per_s": rate, "bare_per_s": plain,
        "ack_p50_ms": 1000 * statistics.median(waits), "ack_p95_ms": 1000 * p95,
    }  # fmt: skip


def load() -> list[dict[str, Any]]:
    """Return the rows of the load figure, with one and with two processes of the service."""
    with scratch_cluster(durable=True) as cluster:
        found = [asyncio.run(measure(cluster, processes)) for processes in (1, 2)]
    return [
        {
            "what": f"drifts logged, {ANGLERS} anglers, {row['processes']} process(es) / bare inserts",
            "ratio": row["ratio"],
            "raw": f"{row['drifts_per_s']:.0f}/s / {row['bare_per_s']:.0f}/s; acknowledged after"
            f" {row['ack_p50_ms']:.0f} ms, p95 {row['ack_p95_ms']:.0f} ms",
        }
        for row in found
    ]
