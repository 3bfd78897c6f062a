"""PgBouncer in front of a cluster, in transaction mode and with few connections, so that each is handed on often."""

import os
import subprocess
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import psycopg
import pytest

from deriva.service.serving import free_port
from deriva.service.store.cluster import Cluster
from deriva.service.store.engine import SETTINGS

POOLED = os.environ.get("DERIVA_POOLED") == "1"
"""Whether all tests of the service go through the pooler."""

past_the_pooler = pytest.mark.skipif(POOLED, reason="what PostgreSQL's own tools do is done past the pooler")

CONNECTIONS = 3
"""Fewer than the service asks side by side."""


@dataclass(frozen=True)
class Pooler:
    """A pooler that answers at a port."""

    port: int

    def url(self, database: str) -> str:
        """Return the address of a database behind it."""
        return f"postgresql+asyncpg://deriva@127.0.0.1:{self.port}/{database}?pooler=transaction"


@contextmanager
def pooler(cluster: Cluster) -> Iterator[Pooler]:
    """Run a pooler in front of a running cluster."""
    port = free_port()
    told = "; ".join(f"set {name} = '{value}'" for name, value in SETTINGS.items())
    with tempfile.TemporaryDirectory() as folder:
        Path(folder).chmod(0o755)
        users, config, log = (Path(folder, name) for name in ("users.txt", "pgbouncer.ini", "log"))
        users.write_text('"deriva" ""\n')
        config.write_text(
            f"""[databases]
* = host=127.0.0.1 port={cluster.port} connect_query='{told.replace("'", "''")}'
[pgbouncer]
listen_addr = 127.0.0.1
listen_port = {port}
unix_socket_dir =
auth_type = trust
auth_file = {users}
pool_mode = transaction
default_pool_size = {CONNECTIONS}
max_client_conn = 200
server_login_retry = 1
logfile = {log}
"""
        )
        log.touch()
        log.chmod(0o666)
        as_owner = ["-u", "postgres"] if os.geteuid() == 0 else []
        process = subprocess.Popen(["/usr/sbin/pgbouncer", "-q", *as_owner, str(config)])
        try:
            listening(port, process)
            yield Pooler(port)
            fatal = [line for line in log.read_text().splitlines() if " FATAL " in line]
            assert fatal == [], "the pooler ended by itself, and what failed after that failed for it"
        finally:
            process.terminate()
            process.wait()


def listening(port: int, process: subprocess.Popen[bytes]) -> None:
    """Return once the pooler answers."""
    while True:
        assert process.poll() is None, "the pooler has ended"
        try:
            psycopg.connect(f"postgresql://deriva@127.0.0.1:{port}/postgres", connect_timeout=10).close()
        except psycopg.OperationalError:
            continue
        return
