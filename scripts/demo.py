"""Start or stop the demo: its own PostgreSQL cluster (durable, kept between runs), the gauge's stand-in and the app."""

import argparse
import asyncio
import os
import subprocess
import sys

from deriva.service.serving import answers, demo_settings, start_app, start_standin, stop_app
from deriva.service.store.cluster import Cluster, ClusterError, data_folder
from deriva.service.store.schema import migrate
from deriva.service.usecases.demo import seed_database
from root import ROOT

RUN = ROOT / ".run"
PIDS = (RUN / "app.pid", RUN / "standin.pid")
DATABASE = "deriva_demo"


def cluster() -> Cluster:
    """Return the demo's cluster."""
    return Cluster(data_folder(ROOT / ".pg"))


def stop() -> None:
    """Stop what this script started."""
    for pid in PIDS:
        if pid.exists():
            stop_app(int(pid.read_text()))
            pid.unlink()


def start(port: int) -> None:
    """Start cluster, stand-in (on the next port) and app, and wait for an answer."""
    stop()
    address = f"http://127.0.0.1:{port}"
    if answers(address):
        sys.exit(f"Something else already answers at {address}: choose another with `make demo PORT=8421`")
    db = cluster()
    db.start()
    db.create(DATABASE)
    migrate(db.url(DATABASE))
    RUN.mkdir(exist_ok=True)
    app_pid, standin_pid = PIDS
    standin_pid.write_text(str(start_standin(port=port + 1, log=RUN / "standin.log").pid))
    gauges = f"http://127.0.0.1:{port + 1}"
    asyncio.run(seed_database(db.url(DATABASE), gauges=gauges))
    app_pid.write_text(str(start_app(db.url(DATABASE), port=port, log=RUN / "app.log", gauges=gauges).pid))
    print(f"Deriva is running at {address}  (stop it with `make stop`; the data stays)")
    print(f"Its API is described at {address}/api.html")


VITE = "http://localhost:5173"


def develop(port: int) -> None:
    """Run the demo with the service reloading on every change, and Vite in front of it, until interrupted."""
    start(port)
    app_pid, _ = PIDS
    stop_app(int(app_pid.read_text()))
    gauges = f"http://127.0.0.1:{port + 1}"
    settings = demo_settings(cluster().url(DATABASE), port=port, gauges=gauges, gauge_every_s=300.0)
    service = [
        sys.executable,
        "-m",
        "uvicorn",
        "--factory",
        "deriva.service.main:create",
        "--port",
        str(port),
    ]
    both = (
        subprocess.Popen(
            [*service, "--reload", "--reload-dir", str(ROOT / "src")],
            env={**os.environ, **settings, "DERIVA_SITE": VITE},
        ),
        subprocess.Popen(["npm", "--prefix", str(ROOT / "web"), "run", "dev"]),  # noqa: S607
    )
    try:
        for one in both:
            one.wait()
    except KeyboardInterrupt:
        pass
    finally:
        for one in both:
            one.terminate()
        stop()


def main() -> None:
    """Run the command."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("what", choices=("start", "stop", "dev"))
    parser.add_argument("--port", type=int, default=8420)
    arguments = parser.parse_args()
    try:
        if arguments.what == "start":
            start(arguments.port)
        elif arguments.what == "dev":
            develop(arguments.port)
        else:
            stop()
            cluster().stop()
    except (ClusterError, RuntimeError) as error:
        sys.exit(str(error))


if __name__ == "__main__":
    main()
