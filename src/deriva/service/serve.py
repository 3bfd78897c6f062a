"""Running the service for real: checked before it starts, behind a proxy or not, in as many processes as there are cores."""

import asyncio
import os
import signal
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from typing import Any, NoReturn

import uvicorn
from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

from deriva.service.settings import Settings

HEADERS_BYTES = 65_536
STOPS_WITHIN_S = 10
SILENT_FOR_S = 120
"""A process that says nothing for so long is hung, and another takes its place. One that has just been started says nothing
until it is loaded, which takes seconds where the machine is slow and busy: taken for hung, it would be started for ever.
"""


class NotReady(RuntimeError):
    """Something is missing that the service cannot run without; the message says what to do."""


class Bounded(HttpToolsProtocol):
    """The server's own protocol, which reads headers without end: this one hangs up on those that have none."""

    pending = 0

    def on_headers_complete(self) -> None:
        """Begin to count anew."""
        self.pending = -1
        super().on_headers_complete()

    def on_message_complete(self) -> None:
        """Begin to count anew for the next request."""
        self.pending = 0
        super().on_message_complete()

    def data_received(self, data: bytes) -> None:
        """Take in what came, unless it is too much before the headers are done."""
        if self.pending >= 0:
            self.pending += len(data)
        super().data_received(data)
        if self.pending > HEADERS_BYTES:
            self.transport.close()


def check(settings: Settings) -> None:
    """Raise :class:`NotReady` where the site or the schema is missing."""
    from deriva.service.main import BUILD_IT  # noqa: PLC0415
    from deriva.service.store.engine import connect, readiness  # noqa: PLC0415

    if not (settings.web_dist / "index.html").is_file():
        raise NotReady(f"there is no built site in {settings.web_dist}: {BUILD_IT}")

    async def trouble() -> str | None:
        engine, sessions = connect(settings.database_url)
        try:
            return await readiness(sessions)
        finally:
            await engine.dispose()

    found = asyncio.run(trouble())
    if found is not None:
        raise NotReady(f"{found} `deriva migrate` makes the schema of DERIVA_DATABASE_URL.")


def options(settings: Settings) -> dict[str, Any]:
    """Return how the server is run, but for where."""
    return {
        "factory": True,
        "http": Bounded,
        "log_config": None,  # the service logs each request once, without ids
        "access_log": False,
        "server_header": False,
        "proxy_headers": bool(settings.proxies),
        "forwarded_allow_ips": settings.proxies,
        "timeout_graceful_shutdown": STOPS_WITHIN_S,
        "timeout_worker_healthcheck": SILENT_FOR_S,
    }


@contextmanager
def _counts(port: int) -> Iterator[None]:
    """Serve the counts of all processes together, on loopback, while what they are kept in is there."""
    from prometheus_client import CollectorRegistry, start_http_server  # noqa: PLC0415
    from prometheus_client.multiprocess import MultiProcessCollector  # noqa: PLC0415

    with tempfile.TemporaryDirectory(prefix="deriva-counts-") as counts:
        os.environ["PROMETHEUS_MULTIPROC_DIR"] = counts
        registry = CollectorRegistry()
        MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
        start_http_server(port, addr="127.0.0.1", registry=registry)
        yield


def _end(*_: object) -> NoReturn:
    raise SystemExit


def serve(settings: Settings, *, host: str, port: int, workers: int) -> None:
    """Run the service until it is stopped; raises :class:`NotReady`."""
    check(settings)
    # the server, stopped, raises the signal once more: what is put away after it is to be put away
    signal.signal(signal.SIGTERM, _end)
    with nullcontext() if settings.metrics_port is None else _counts(settings.metrics_port):
        sys.stderr.write(f"Deriva is running at {settings.site} (listening at {host}:{port})\n")
        uvicorn.run("deriva.service.main:create", host=host, port=port, workers=workers, **options(settings))
