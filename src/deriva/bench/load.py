"""Fifty anglers, and five hundred, log at once through POST /api/sync, against the same rows inserted by a route that does
nothing else, and by bare asyncpg, in the same run.
"""

import asyncio
import statistics
import tempfile
import time
from collections.abc import Awaitable, Callable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from uuid import UUID

import asyncpg
import orjson
import psycopg
from uuid_utils.compat import uuid7

from deriva.bench.seed import Seed
from deriva.service.serving import free_port, kill_app, scratch_cluster, start_app, started, uvicorn
from deriva.service.store.address import sync_url
from deriva.service.store.cluster import Cluster
from deriva.service.store.schema import migrate

BATCHES, TAPS = 8, 5
"""Each angler sends so many batches of so many drifts, one after the other."""


@dataclass(frozen=True, slots=True)
class Enrolled:
    """An angler who can log: token, id, the rig that is on, and a device."""

    token: str
    angler: UUID
    setting: UUID
    device: UUID


def enrol(url: str, count: int) -> list[Enrolled]:
    """Write anglers with a beat, a lie, an outing, a stop and a rig; return what each needs to log."""
    made = []
    with psycopg.connect(sync_url(url), autocommit=True) as rows:
        seed = Seed(rows)
        for n in range(count):
            token = f"load {n}"
            angler = seed.angler(token)
            beat = seed.beat(angler, seed.river(angler))
            stop = seed.stop(angler, seed.outing(angler, beat), seed.lie(angler, beat))
            made.append(
                Enrolled(seed.session(angler, token), angler, seed.setting(angler, stop), UUID(str(uuid7())))
            )
    return made


class Line:
    """A connection to a service, spoken to without a library: the client must not be what is measured."""

    def __init__(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter, head: str) -> None:
        self.reader, self.writer, self.head = reader, writer, head

    @classmethod
    async def to(cls, port: int, token: str) -> "Line":
        """Connect."""
        reader, writer = await asyncio.open_connection("127.0.0.1", port)
        head = (
            f"POST /api/sync HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\nCookie: deriva_session={token}\r\n"
            "Content-Type: application/json\r\nContent-Length: "
        )
        return cls(reader, writer, head)

    async def ask(self, body: bytes) -> Any:  # noqa: ANN401 - whatever is answered
        """Send a body; return what is answered. Raises RuntimeError for anything but a 200."""
        self.writer.write(f"{self.head}{len(body)}\r\n\r\n".encode() + body)
        head = (await self.reader.readuntil(b"\r\n\r\n")).lower()
        length = int(head.split(b"content-length: ")[1].split(b"\r\n")[0])
        answer = await self.reader.readexactly(length)
        if b" 200 " not in head[:16]:
            raise RuntimeError(answer.decode())
        return orjson.loads(answer)


def batch_of(one: Enrolled, batch: int) -> bytes:
    """Return the events of one batch, as they go over the wire."""
    at = datetime.now(UTC).isoformat()
    body = {"setting_id": str(one.setting), "at": at, "outcome": "clean"}
    return orjson.dumps(
        [
            {
                "id": str(uuid7()), "sequence": TAPS * batch + k, "kind": "drifts", "record": str(uuid7()), "at": at,
                "zone": "UTC", "body": body,
            }
            for k in range(TAPS)
        ]
    )  # fmt: skip


Talk = Callable[[Line], Awaitable[None]]


async def _together(port: int, talks: Sequence[tuple[Enrolled, Talk]]) -> float:
    """Let everybody talk at once; return drifts a second."""
    lines = [await Line.to(port, one.token) for one, _ in talks]
    began = time.perf_counter()
    await asyncio.gather(*(talk(line) for line, (_, talk) in zip(lines, talks, strict=True)))
    rate = len(talks) * BATCHES * TAPS / (time.perf_counter() - began)
    for line in lines:
        line.writer.close()
    return rate


async def through_the_service(port: int, anglers: list[Enrolled]) -> tuple[float, list[float]]:
    """Return drifts a second, and the time to each batch's acknowledgement."""
    waits: list[float] = []

    async def prepared(one: Enrolled) -> Talk:
        head = b'{"version":1,"device":"%s","cursor":' % str(one.device).encode()
        line = await Line.to(port, one.token)
        cursor = (await line.ask(head + b'null,"events":[]}'))["cursor"]
        line.writer.close()
        batches = [batch_of(one, n) for n in range(BATCHES)]

        async def fish(line: Line) -> None:
            newest = cursor
            for batch in batches:
                sent = time.perf_counter()
                got = await line.ask(head + b'%d,"events":%s}' % (newest, batch))
                waits.append(time.perf_counter() - sent)
                if len(got["taken"]) != TAPS:
                    raise RuntimeError(f"not all was taken: {got}")
                newest = got["cursor"]

        return fish

    return await _together(port, [(one, await prepared(one)) for one in anglers]), waits


async def through_a_bare_route(port: int, anglers: list[Enrolled]) -> float:
    """Return drifts a second through a route that inserts what it is sent, and does nothing else."""

    def prepared(one: Enrolled) -> Talk:
        whose = {"angler_id": one.angler, "setting_id": one.setting, "at": datetime.now(UTC)}
        batches = [
            orjson.dumps({"rows": [{"id": str(uuid7()), **whose} for _ in range(TAPS)]})
            for _ in range(BATCHES)
        ]

        async def fish(line: Line) -> None:
            for batch in batches:
                await line.ask(batch)

        return fish

    return await _together(port, [(one, prepared(one)) for one in anglers])


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
    rate = len(anglers) * BATCHES * TAPS / (time.perf_counter() - began)
    await pool.close()
    return rate


async def measure(cluster: Cluster, processes: int, count: int) -> dict[str, float]:
    """Return the figures with so many processes of the service and so many anglers, on a database of its own."""
    name = f"load_{processes}_{count}"
    cluster.create(name)
    migrate(cluster.url(name))
    url = sync_url(cluster.url(name))
    anglers = enrol(url, count)
    port = free_port()
    log = Path(tempfile.mkdtemp()) / "app.log"
    app = await asyncio.to_thread(
        lambda: start_app(cluster.url(name), port=port, log=log, processes=processes)
    )
    try:
        await through_the_service(port, anglers)  # warm
        rate, waits = await through_the_service(port, anglers)
    finally:
        kill_app(app)
    command = uvicorn("deriva.bench.bare_route:create", port)
    settings = {"DERIVA_BARE_URL": url}
    other = await asyncio.to_thread(
        lambda: started(command, port=port, log=log, path="/healthy", settings=settings)
    )
    try:
        await through_a_bare_route(port, anglers)
        route = await through_a_bare_route(port, anglers)
    finally:
        kill_app(other)
    await bare(url, anglers)
    plain = await bare(url, anglers)
    p50, p95 = statistics.median(waits), statistics.quantiles(waits, n=20)[-1]
    return {
        "anglers": count, "processes": processes, "rate": rate, "route": route, "bare": plain, "p50_ms": 1000 * p50,
        "p95_ms": 1000 * p95,
    }  # fmt: skip


def load() -> list[dict[str, Any]]:
    """Return the rows of the load figures: by bare inserts, by a bare route, and the slow acknowledgements by the middling."""
    with scratch_cluster(durable=True) as cluster:
        found = [asyncio.run(measure(cluster, *case)) for case in ((1, 50), (2, 50), (1, 500))]
    rows: list[dict[str, Any]] = []
    for one in found:
        who = f"{one['anglers']:.0f} anglers, {one['processes']:.0f} process(es)"
        raw = f"{one['rate']:.0f} drifts/s; bare route {one['route']:.0f}/s, bare inserts {one['bare']:.0f}/s"
        waits = f"acknowledged after {one['p50_ms']:.0f} ms, p95 {one['p95_ms']:.0f} ms"
        rows += [
            {"what": f"drifts logged, {who} / bare inserts", "ratio": one["rate"] / one["bare"], "raw": raw},
            {"what": f"drifts logged, {who} / a bare route", "ratio": one["rate"] / one["route"], "raw": raw},
            {
                "what": f"acknowledgement p95 / median, {who}",
                "ratio": one["p95_ms"] / one["p50_ms"],
                "raw": waits,
            },
        ]
    return rows
