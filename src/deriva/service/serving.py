"""Run the app as it is really run, from the folder that has the built front end: for the demo, screenshots, tests, load."""

import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

from deriva.service.store.cluster import Cluster, data_folder

STARTS_WITHIN_S = 120.0
"""Long, since a build machine may be slow and busy; a process that dies is seen at once."""
STOPS_WITHIN_S = 10.0
LOOK_AGAIN_S = 0.05

ROOM_BYTES = 2 << 30
"""What a throw-away cluster may come to; containers often have 64 MB of memory as a disk."""


def free_port() -> int:
    """Return a port on loopback that nobody listens on now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def answers(address: str, path: str = "/api/health") -> bool:
    """Return whether something answers at ``address``."""
    try:
        with urllib.request.urlopen(address + path, timeout=2) as response:  # noqa: S310 - our own loopback
            return bool(response.status in (200, 204))
    except (urllib.error.URLError, OSError):
        return False


def wait_for(port: int, path: str, log: Path, *, alive: Callable[[], bool]) -> None:
    """Return once something answers at ``path``; raises RuntimeError with its last words if it died or takes too long."""
    deadline = time.monotonic() + STARTS_WITHIN_S
    while not answers(f"http://127.0.0.1:{port}", path):
        if not alive() or time.monotonic() > deadline:
            raise RuntimeError(f"Nothing answered at port {port}:\n{log.read_text()[-2000:]}")
        time.sleep(LOOK_AGAIN_S)


def demo_settings(
    database_url: str, *, port: int, gauges: str = "", gauge_every_s: float = 300.0
) -> dict[str, str]:
    """Return the environment of an app on the demo start's settings; ``gauges``: where its gauges are read, if anywhere."""
    return {
        "DERIVA_DATABASE_URL": database_url,
        "DERIVA_DEMO": "1",
        "DERIVA_GAUGES": gauges,
        "DERIVA_GAUGE_EVERY_S": str(gauge_every_s),
        "DERIVA_SITE": f"http://127.0.0.1:{port}",
    }


def started(
    command: list[str], *, port: int, log: Path, path: str, settings: dict[str, str]
) -> subprocess.Popen[bytes]:
    """Start a server and return once it answers at ``path``; raises RuntimeError with its last words."""
    with log.open("ab") as out:
        app = subprocess.Popen(  # noqa: S603 - our own command
            command, stdout=out, stderr=out, start_new_session=True, env=os.environ | settings
        )
    wait_for(port, path, log, alive=lambda: app.poll() is None)
    return app


def start_app(
    database_url: str,
    *,
    port: int,
    log: Path,
    gauges: str = "",
    gauge_every_s: float = 300.0,
    processes: int = 1,
    warm: bool = True,
    more: Mapping[str, str] | None = None,
) -> subprocess.Popen[bytes]:
    """Start the app on the demo start's settings, in so many processes; ``warm``: ready to compute at once; ``more``: of its
    environment.
    """
    command = [sys.executable, "-m", "deriva.cli", "serve", "--port", str(port), "--workers", str(processes)]
    settings = demo_settings(database_url, port=port, gauges=gauges, gauge_every_s=gauge_every_s)
    settings |= {"DERIVA_WARM": str(warm)} | dict(more or {})
    return started(command, port=port, log=log, path="/api/ready", settings=settings)


def uvicorn(app: str, port: int) -> list[str]:
    """Return the command that serves an app by its maker."""
    command = [sys.executable, "-m", "uvicorn", "--factory", app, "--host", "127.0.0.1", "--port", str(port)]
    return [*command, "--log-level", "warning", "--no-access-log"]


def start_standin(*, port: int, log: Path) -> subprocess.Popen[bytes]:
    """Start the stand-in for the gauge."""
    return started(uvicorn("deriva.standins.app:create", port), port=port, log=log, path="/iv", settings={})


def stop_app(pid: int) -> None:
    """Stop an app that was started here, if it still runs."""
    command = Path(f"/proc/{pid}/cmdline")
    if not command.exists() or b"deriva" not in command.read_bytes():
        return
    os.kill(pid, signal.SIGTERM)
    deadline = time.monotonic() + STOPS_WITHIN_S
    while command.exists() and command.read_bytes() and time.monotonic() < deadline:
        time.sleep(LOOK_AGAIN_S)


def kill_app(app: subprocess.Popen[bytes]) -> None:
    """Kill an app as a power cut would, every process of it, and wait until it is gone."""
    os.killpg(app.pid, signal.SIGKILL)
    app.wait(STOPS_WITHIN_S)


@contextmanager
def scratch_cluster(*, durable: bool = False) -> Iterator[Cluster]:
    """Run a throw-away PostgreSQL cluster, in memory where there is room; ``durable`` as the demo's is."""
    memory = Path("/dev/shm")  # noqa: S108 - a folder of our own in it, made by mkdtemp
    roomy = memory.is_dir() and shutil.disk_usage(memory).free >= ROOM_BYTES
    base = Path(tempfile.mkdtemp(prefix="deriva-", dir=memory if roomy else None))
    base.chmod(0o711)
    cluster = Cluster(data_folder(base / "pg"), fast=not durable)
    try:
        cluster.start()
        yield cluster
    finally:
        cluster.destroy()
        shutil.rmtree(base, ignore_errors=True)
