"""A full disk, a server without a connection to spare, a disk that hangs, a clock that is a year off, amid a stream of taps:
the service says so by name, nothing acknowledged is lost, and it goes on when it is over.

`make crash` runs twenty rounds; one of those that need no waiting runs with every test.
"""

import os
import random
import signal
import subprocess
import tempfile
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, ExitStack, contextmanager, suppress
from functools import partial
from pathlib import Path
from threading import Semaphore, Thread

import httpx2 as httpx
import psycopg
import pytest

from deriva.service.serving import kill_app
from deriva.service.store.address import sync_url
from deriva.service.store.cluster import Cluster, data_folder
from tests.crash.phones import PATIENCE_S, Service, Stream, all_sent, begun, stopped, whole
from tests.databases import fresh, make_template

ROUNDS = int(os.environ.get("DERIVA_STRAIT_ROUNDS", "1"))
SEED = int(os.environ.get("DERIVA_CRASH_SEED", "20261128"))

DISK_MB = 256
"""Room for the server, its template and its log, and not much more."""

MANY = 24
"""More than the service has connections."""

NAMED = {"NO_DATABASE", "TOO_SLOW", "SIGNED_OUT"}

REQUEST_S = 2.0
"""What takes longer is given up, where that is waited for."""

ASKED = 2
"""One question may be under way as something begins or ends."""

Strait = Callable[[Service], AbstractContextManager[None]]


def answering(service: Service, port: int) -> None:
    """Start the server until it answers: where it had no room for its log it ends, and may be about to."""
    while True:
        service.cluster.start(port)
        with suppress(psycopg.OperationalError), service.rows():
            return


@contextmanager
def disk_full(service: Service) -> Iterator[None]:
    disk = service.cluster.folder.parent
    assert disk.is_mount()
    ballast, port = disk / "ballast", service.cluster.port
    try:
        with ballast.open("wb", buffering=0) as out, suppress(OSError):
            while True:
                out.write(bytes(65536))
        yield
    finally:
        ballast.unlink()
        answering(service, port)


@contextmanager
def no_connection_to_spare(service: Service) -> Iterator[None]:
    with ExitStack() as taken, service.rows() as rows:
        rows.autocommit = True
        others = "from pg_stat_activity where backend_type = 'client backend' and application_name <> 'taken'"
        rows.execute("set application_name = 'taken'")
        address = sync_url(service.cluster.url(service.database))
        while True:
            with suppress(psycopg.OperationalError):
                while True:
                    taken.enter_context(psycopg.connect(address, application_name="taken"))
            if not rows.execute(f"select pg_terminate_backend(pid) {others}").fetchall():
                break
        yield


@contextmanager
def pool_taken(service: Service) -> Iterator[None]:
    answers: list[httpx.Response] = []

    def ask(k: int) -> None:
        cookies = {"deriva_session": f"nobody {k}"}
        answers.append(httpx.get(f"{service.address}/api/session", cookies=cookies, timeout=PATIENCE_S))

    askers = [Thread(target=ask, args=(k,), daemon=True) for k in range(MANY)]
    with service.rows() as rows:
        rows.execute("lock table angler, sign_in in access exclusive mode")
        for one in askers:
            one.start()
        yield
    for one in askers:
        one.join(PATIENCE_S)
    assert len(answers) == MANY
    assert {one.json()["faults"][0]["code"] for one in answers} <= NAMED


@contextmanager
def disk_hangs(service: Service) -> Iterator[None]:
    """Stop every process of the server, as one that waits for a disk stands still."""
    first = int((service.cluster.folder / "postmaster.pid").read_text().split()[0])
    os.kill(first, signal.SIGSTOP)  # it starts no more of them
    children = Path(f"/proc/{first}/task/{first}/children").read_text().split()
    processes = [first, *map(int, children)]
    try:
        for one in processes[1:]:
            os.kill(one, signal.SIGSTOP)
        yield
    finally:
        for one in processes:
            os.kill(one, signal.SIGCONT)


@contextmanager
def clock_off(service: Service, *, by: str) -> Iterator[None]:
    clock = Path(service.settings["FAKETIME_TIMESTAMP_FILE"])
    clock.write_text(by)
    yield
    clock.write_text("+0d")


STRAITS: dict[str, Strait] = {
    "disk full": disk_full,
    "no connection to spare": no_connection_to_spare,
    "pool taken": pool_taken,
    "disk hangs": disk_hangs,
    "clock a year ahead": partial(clock_off, by="+365d"),
    "clock a year back": partial(clock_off, by="-365d"),
}
HARMLESS = {"clock a year back"}
"""In these everything is taken in."""

WAITED_FOR = {"pool taken", "disk hangs"}
"""In these a request is given up only after its time."""


@contextmanager
def small_disk() -> Iterator[Path]:
    """Mount a disk that the server's user can reach, and that nothing else is on."""
    folder = Path(tempfile.mkdtemp(prefix="deriva-"))
    mount = ["/usr/bin/mount", "-t", "tmpfs", "-o", f"size={DISK_MB}m,mode=0711", "tmpfs", str(folder)]
    subprocess.run(mount, check=True)
    try:
        yield folder
    finally:
        subprocess.run(["/usr/bin/umount", "--lazy", str(folder)], check=True)
        folder.rmdir()


@contextmanager
def served(disk: Path, folder: Path) -> Iterator[Service]:
    """Run the service by a clock that can be set, and its server on a disk that can be filled."""
    clock = folder / "clock"
    clock.write_text("+0d")
    library = next(Path("/usr/lib").glob("*/faketime/libfaketime.so.1"))
    settings = {
        "LD_PRELOAD": str(library), "FAKETIME_TIMESTAMP_FILE": str(clock), "FAKETIME_NO_CACHE": "1",
        "FAKETIME_DONT_FAKE_MONOTONIC": "1",
    }  # fmt: skip
    cluster = Cluster(data_folder(disk / "pg"))
    try:
        cluster.start()
        with psycopg.connect(sync_url(cluster.url("postgres")), autocommit=True) as rows:
            for setting in ("max_wal_size = '48MB'", "min_wal_size = '32MB'"):
                rows.execute(f"alter system set {setting}")
            rows.execute("select pg_reload_conf()")
        make_template(cluster)
        with fresh(cluster, "straits") as database:
            service = Service(cluster, database, folder / "app.log", settings=settings)
            service.start()
            try:
                yield service
            finally:
                kill_app(service.app)
    finally:
        cluster.destroy()


def again(stream: Stream, answered: Semaphore, times: int) -> None:
    """Wait until a phone has been answered so from now on."""
    while answered.acquire(blocking=False):
        pass
    for _ in range(times):
        came = answered.acquire(timeout=PATIENCE_S)
        assert stream.broke is None, repr(stream.broke)
        assert came, stream.refusals


def through(service: Service, strait: Strait, streams: list[Stream], *, harmless: bool) -> None:
    """Go through a strait while phones tap: before it all is taken in, in it they are told so, after it all is again."""
    for stream in streams:
        stream.start()
    for stream in streams:
        again(stream, stream.acknowledged, 1)
    with strait(service):
        for stream in streams:
            again(stream, stream.acknowledged if harmless else stream.refused, ASKED)
    for stream in streams:
        again(stream, stream.acknowledged, ASKED)
    stopped(streams)
    assert [stream.broke for stream in streams] == [None, None]


@pytest.mark.long
@pytest.mark.skipif(os.geteuid() != 0, reason="a small disk is mounted, which only root may")
def test_straits__are_said_by_name_and_nothing_acknowledged_is_lost(tmp_path: Path) -> None:
    chance = random.Random(SEED)
    with small_disk() as disk, served(disk, tmp_path) as service:
        phones, setting = begun(service, tmp_path)
        if ROUNDS > 1:
            kill_app(service.app)
            service.settings["DERIVA_REQUEST_S"] = str(REQUEST_S)
            service.start()
        for _ in range(ROUNDS):
            for name in [name for name in STRAITS if ROUNDS > 1 or name not in WAITED_FOR]:
                streams = [
                    Stream(phone, service.address, setting, random.Random(chance.random()), named=NAMED)
                    for phone in phones
                ]
                through(service, STRAITS[name], streams, harmless=name in HARMLESS)
                whole(service, phones)
        all_sent(service, phones)
