"""A private PostgreSQL cluster of the project's own: on loopback, on a free port, run by a user that is not root.

PostgreSQL refuses root, so root steps down to Debian's `postgres` user. The data folder lives in the project; where
that user may not pass through the folders above it, under /var/lib/postgresql, named after the project's path.
"""

import hashlib
import os
import shutil
import socket
import subprocess
from dataclasses import dataclass
from pathlib import Path

FAST = ("fsync=off", "synchronous_commit=off", "full_page_writes=off", "autovacuum=off")


class ClusterError(RuntimeError):
    """PostgreSQL could not be found, made or started; the message says what to do."""


def binaries() -> Path:
    """Return the folder of initdb and pg_ctl: the newest that Debian installed."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: int(p.parts[-3]))
    if not found:
        raise ClusterError("PostgreSQL is not installed: run `make setup` (it installs Debian's package)")
    return found[-1].parent


def _as_owner() -> list[str]:
    if os.geteuid() != 0:
        return []
    return ["setpriv", "--reuid=postgres", "--regid=postgres", "--init-groups", "--"]


def _run(*command: str | Path) -> subprocess.CompletedProcess[str]:
    return subprocess.run(  # noqa: S603 - our own commands
        [*_as_owner(), *map(str, command)], capture_output=True, text=True, check=False, cwd="/"
    )


def data_folder(wanted: Path) -> Path:
    """Return ``wanted``, or a folder that the server's user can reach if it cannot reach that."""
    wanted = wanted.absolute()
    parent = wanted.parent
    if os.geteuid() != 0 or _run("test", "-x", parent).returncode == 0:
        return wanted
    name = "deriva-" + hashlib.sha256(str(wanted).encode()).hexdigest()[:12]
    return Path("/var/lib/postgresql") / name


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@dataclass(frozen=True)
class Cluster:
    """A cluster in ``folder``. Demo clusters are durable; ``fast`` ones are thrown away after tests."""

    folder: Path
    fast: bool = False

    @property
    def running(self) -> bool:
        """Return whether the server answers for this folder."""
        return (
            self.folder.exists() and _run(binaries() / "pg_ctl", "-D", self.folder, "status").returncode == 0
        )

    @property
    def port(self) -> int:
        """Return the port the running server listens on."""
        return int((self.folder / "postmaster.pid").read_text().splitlines()[3])

    def url(self, database: str) -> str:
        """Return the address of a database in the running cluster."""
        return f"postgresql+asyncpg://deriva@127.0.0.1:{self.port}/{database}"

    def _make_folder(self) -> None:
        self.folder.mkdir(parents=True, exist_ok=True)
        if os.geteuid() == 0:
            shutil.chown(self.folder, "postgres", "postgres")
        self.folder.chmod(0o700)

    def start(self, port: int | None = None) -> None:
        """Make the cluster if it is new, start it if it is down, on a free port or on one that is given, and wait until it
        answers.
        """
        if self.running:
            return
        bin_ = binaries()
        if (
            not (self.folder / "PG_VERSION").exists()
            and _run("test", "-e", self.folder / "PG_VERSION").returncode
        ):
            self._make_folder()
            # Loopback only, and reached by this machine's users alone: trust is enough for demo and tests.
            made = _run(
                bin_ / "initdb", "-D", self.folder, "-U", "deriva", "-A", "trust", "-E", "UTF8", "--locale=C.UTF-8",
                *(["--no-sync"] if self.fast else []),
            )  # fmt: skip
            if made.returncode:
                raise ClusterError(f"initdb failed: {made.stderr.strip()}")
        settings = [
            f"port={port or _free_port()}",
            "listen_addresses=127.0.0.1",
            "unix_socket_directories=",
            "max_connections=60",
        ]
        if self.fast:
            settings += FAST
        options = " ".join(f"-c {setting}" for setting in settings)
        log = self.folder / "server.log"
        started = _run(
            bin_ / "pg_ctl", "-D", self.folder, "-l", log, "-w", "-t", "60", "-o", options, "start"
        )
        if started.returncode:
            tail = _run("tail", "-5", log).stdout
            raise ClusterError(f"PostgreSQL did not start: {started.stderr.strip()}\n{tail}")

    def stop(self, mode: str = "fast") -> None:
        """Stop the server if it runs; ``immediate`` is a pulled plug."""
        if self.running:
            _run(binaries() / "pg_ctl", "-D", self.folder, "-m", mode, "-w", "stop")

    def create(self, database: str) -> None:
        """Create a database if it is not there."""
        psql: list[str | Path] = [
            binaries() / "psql",
            "-h",
            "127.0.0.1",
            "-p",
            str(self.port),
            "-U",
            "deriva",
            "-d",
            "postgres",
            "-At",
            "-c",
        ]
        known = f"select 1 from pg_database where datname = '{database}'"  # noqa: S608 - a name of our own
        if _run(*psql, known).stdout.strip() != "1":
            made = _run(*psql, f'create database "{database}"')
            if made.returncode:
                raise ClusterError(f"could not create {database}: {made.stderr.strip()}")

    def copied_to(self, folder: Path) -> "Cluster":
        """Make a replica that follows this running server, and start it; it answers questions, and takes nothing in."""
        replica = Cluster(folder)
        replica._make_folder()
        made = _run(
            binaries() / "pg_basebackup", "-D", folder, "-h", "127.0.0.1", "-p", str(self.port), "-U", "deriva",
            "--write-recovery-conf", "--checkpoint=fast",
        )  # fmt: skip
        if made.returncode:
            raise ClusterError(f"pg_basebackup failed: {made.stderr.strip()}")
        replica.start()
        return replica

    def promote(self) -> None:
        """Make a replica the server that takes things in."""
        done = _run(binaries() / "pg_ctl", "-D", self.folder, "-w", "promote")
        if done.returncode:
            raise ClusterError(f"the replica was not promoted: {done.stderr.strip()}")

    def destroy(self) -> None:
        """Stop the server and remove its folder."""
        self.stop("immediate")
        shutil.rmtree(self.folder, ignore_errors=True)
