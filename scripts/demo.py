"""Start or stop the demo: its own PostgreSQL cluster (durable, kept between runs) and the app."""

import argparse
import asyncio
import os
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path

from deriva.service.store.cluster import Cluster, ClusterError, data_folder
from deriva.service.store.engine import connect, migrate
from deriva.service.usecases.demo import seed

ROOT = Path(__file__).parent.parent
RUN = ROOT / ".run"
PID = RUN / "app.pid"
DATABASE = "deriva_demo"
WAIT_S = 40


def cluster() -> Cluster:
    """Return the demo's cluster."""
    return Cluster(data_folder(ROOT / ".pg"))


async def seeded(url: str) -> None:
    """Put the demo data in, once."""
    engine, sessions = connect(url)
    async with sessions.begin() as session:
        await seed(session)
    await engine.dispose()


def answers(address: str) -> bool:
    """Return whether the app answers."""
    try:
        with urllib.request.urlopen(address + "/api/health", timeout=2) as response:  # noqa: S310 - our own loopback
            return bool(response.status == 200)
    except (urllib.error.URLError, OSError):
        return False


def stop_app() -> None:
    """Stop the app if this script started one."""
    if not PID.exists():
        return
    pid = int(PID.read_text())
    command = Path(f"/proc/{pid}/cmdline")
    if command.exists() and b"deriva.service.main" in command.read_bytes():
        os.kill(pid, signal.SIGTERM)
        deadline = time.monotonic() + 10
        while command.exists() and command.read_bytes() and time.monotonic() < deadline:
            time.sleep(0.1)
    PID.unlink()


def start(port: int) -> None:
    """Start cluster and app, and wait for an answer."""
    stop_app()
    address = f"http://127.0.0.1:{port}"
    if answers(address):
        sys.exit(f"Something else already answers at {address}: choose another with `make demo PORT=8421`")
    db = cluster()
    db.start()
    db.create(DATABASE)
    migrate(db.url(DATABASE))
    asyncio.run(seeded(db.url(DATABASE)))
    RUN.mkdir(exist_ok=True)
    with (RUN / "app.log").open("ab") as log:
        app = subprocess.Popen(
            [sys.executable, "-m", "uvicorn", "--factory", "deriva.service.main:create", "--host", "127.0.0.1",
             "--port", str(port), "--log-level", "warning"],
            cwd=ROOT, stdout=log, stderr=log, start_new_session=True,
            env=os.environ | {"DERIVA_DATABASE_URL": db.url(DATABASE), "DERIVA_DEMO": "1", "DERIVA_WEB_DIST": str(ROOT / "web/dist")},
        )  # fmt: skip
    PID.write_text(str(app.pid))
    deadline = time.monotonic() + WAIT_S
    while not answers(address):
        if app.poll() is not None or time.monotonic() > deadline:
            sys.exit(f"The app did not start; the last lines of {RUN / 'app.log'} say why.")
        time.sleep(0.1)
    print(f"Deriva is running at {address}  (stop it with `make stop`; the data stays)")


def main() -> None:
    """Run the command."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("what", choices=("start", "stop"))
    parser.add_argument("--port", type=int, default=8420)
    arguments = parser.parse_args()
    try:
        if arguments.what == "start":
            start(arguments.port)
        else:
            stop_app()
            cluster().stop()
    except ClusterError as error:
        sys.exit(str(error))


if __name__ == "__main__":
    main()
