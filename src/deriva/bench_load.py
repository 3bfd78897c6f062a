"""Fifty anglers log at once through POST /api/sync, against the same rows inserted by bare asyncpg in the same run."""

import asyncio
import hashlib
import statistics
import tempfile
import time
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import asyncpg
import httpx2 as httpx
from uuid_utils.compat import uuid7

from deriva.service.serving import free_port, kill_app, scratch_cluster, start_app
from deriva.service.store.cluster import Cluster
from deriva.service.store.engine import migrate

ANGLERS, BATCHES, TAPS = 50, 8, 5
"""So many anglers, each sending so many batches of so many drifts, one after the other."""


async def enrol(db: asyncpg.Connection) -> list[dict[str, Any]]:
    """Write anglers with a beat, a lie, an outing, a stop and a rig; return what each needs to log."""
    made = []
    for n in range(ANGLERS):
        ids = {name: uuid7() for name in ("angler", "river", "beat", "lie", "outing", "stop", "setting")}
        token = f"load {n}"
        angler = ids["angler"]
        await db.execute(
            "insert into angler (id, name, units, school, demo) values ($1, $2, 'metric', '{}', false)",
            angler,
            token,
        )
        await db.execute("insert into river (id, angler_id, name) values ($1, $2, 'R')", ids["river"], angler)
        await db.execute(
            "insert into beat (id, angler_id, river_id, name, position, rules, rules_text, wading_allowed)"
            " values ($1, $2, $3, 'B', 0, '{}', '', true)", ids["beat"], angler, ids["river"],
        )  # fmt: skip
        await db.execute(
            "insert into lie (id, angler_id, beat_id, name, kind, bed, along_m, notes)"
            " values ($1, $2, $3, 'L', 'run', 'gravel', 1, '')", ids["lie"], angler, ids["beat"],
        )  # fmt: skip
        await db.execute(
            "insert into outing (id, angler_id, beat_id, started_at, conditions) values ($1, $2, $3, now(), '{}')",
            ids["outing"], angler, ids["beat"],
        )  # fmt: skip
        await db.execute(
            "insert into stop (id, angler_id, outing_id, lie_id, at, situation) values ($1, $2, $3, $4, now(), '{}')",
            ids["stop"], angler, ids["outing"], ids["lie"],
        )  # fmt: skip
        await db.execute(
            "insert into setting (id, angler_id, stop_id, at, rig, depth_setting_m, point_bead_mm, setup)"
            " values ($1, $2, $3, now(), 'euro', 1, 3, '{}')", ids["setting"], angler, ids["stop"],
        )  # fmt: skip
        await db.execute(
            "insert into sign_in (token_hash, angler_id, expires_at) values ($1, $2, now() + interval '1 day')",
            hashlib.sha256(token.encode()).hexdigest(), angler,
        )  # fmt: skip
        made.append({"token": token, "angler": angler, "setting": ids["setting"], "device": str(uuid7())})
    return made


async def through_the_service(address: str, anglers: list[dict[str, Any]]) -> tuple[float, list[float]]:
    """Return drifts a second, and the time to each batch's acknowledgement."""
    waits: list[float] = []

    async def fish(client: httpx.AsyncClient, one: dict[str, Any]) -> None:
        cookies = {"cookie": f"deriva_session={one['token']}"}
        cursor: int | None = None
        sequence = 0
        for _ in range(BATCHES):
            events = []
            for _ in range(TAPS):
                sequence += 1
                at = datetime.now(UTC).isoformat()
                body = {"setting_id": str(one["setting"]), "at": at, "outcome": "clean"}
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
                json={"version": 1, "device": one["device"], "cursor": cursor, "events": events},
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


async def bare(url: str, anglers: list[dict[str, Any]]) -> float:
    """Return drifts a second with nothing but inserts, a transaction a batch, as many at once."""
    pool = await asyncpg.create_pool(url, min_size=16, max_size=16)

    async def fish(one: dict[str, Any]) -> None:
        for _ in range(BATCHES):
            rows = [(uuid7(), one["angler"], one["setting"], datetime.now(UTC)) for _ in range(TAPS)]
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
    anglers = await enrol(db)
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
