"""Backing the database up into one file and putting it back, with PostgreSQL's own tools (pg_dump's custom format)."""

import os
import subprocess
from contextlib import suppress
from pathlib import Path

from deriva.service.store.address import environment, sync_connect
from deriva.service.store.cluster import binaries
from deriva.service.store.models import Base

GONE_TABLES = ("secret", "gauge_import")
"""What earlier schemas had."""

FUNCTIONS = (
    "take_new", "forget_gauge_values", "count_effort", "count_effort_of", "count_caught", "count_caught_of",
)  # fmt: skip


class BackupError(RuntimeError):
    """pg_dump or pg_restore failed; the message is its last word."""


def _last_word(said: bytes, tool: str) -> str:
    lines = said.decode(errors="replace").strip().splitlines()
    return lines[-1] if lines else f"{tool} failed"


def accounts_in(database_url: str) -> int:
    """Return how many accounts are in a database; none where it has no tables yet."""
    with sync_connect(database_url) as connection:
        there = connection.execute("select to_regclass('account')").fetchone()
        if there is None or there[0] is None:
            return 0
        found = connection.execute("select count(*) from account").fetchone()
        return 0 if found is None else int(found[0])


def backup(database_url: str, file: Path) -> None:
    """Write everything to a file. It is there whole or not at all."""
    part = file.with_name(file.name + ".part")
    try:
        part.touch(
            mode=0o600
        )  # it holds every address and every hash: nobody else may read it, from its first byte on
        part.chmod(0o600)
        done = subprocess.run(  # noqa: S603 - PostgreSQL's own tools
            [binaries() / "pg_dump", "--format=custom", "--no-owner", f"--file={part}"],
            env=os.environ | environment(database_url), capture_output=True, check=False,
        )  # fmt: skip
        if done.returncode:
            raise BackupError(_last_word(done.stderr, "pg_dump"))
        part.replace(file)
    finally:
        part.unlink(missing_ok=True)


def _clearing() -> bytes:
    """Return the statements that remove what is Deriva's, of this schema or of one before, and nothing else."""
    tables = ", ".join(f'"{name}"' for name in (*Base.metadata.tables, *GONE_TABLES, "alembic_version"))
    return f"begin; drop table if exists {tables} cascade; drop function if exists {', '.join(FUNCTIONS)} cascade;\n".encode()


def restore(database_url: str, file: Path) -> None:
    """Put a backup in the place of what is in the database, all in one transaction: it succeeds whole or changes nothing.

    What was backed up may have been of an older schema, and what is there now may be parted.
    """
    if not file.is_file():
        raise BackupError(f"{file} is not there")
    tools = binaries()
    with subprocess.Popen(  # noqa: S603
        [tools / "psql", "--no-psqlrc", "--quiet", "--set=ON_ERROR_STOP=1", "--file=-"],
        env=os.environ | environment(database_url), stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE,
    ) as psql:  # fmt: skip
        assert psql.stdin is not None  # noqa: S101 - it was asked for
        assert psql.stderr is not None  # noqa: S101
        with suppress(BrokenPipeError):
            psql.stdin.write(_clearing())
            psql.stdin.flush()
        read = subprocess.run(  # noqa: S603
            [tools / "pg_restore", "--no-owner", "--file=-", str(file)],
            stdout=psql.stdin, stderr=subprocess.PIPE, check=False,
        )  # fmt: skip
        with suppress(BrokenPipeError):
            if read.returncode == 0:  # else what was read so far is thrown away with the connection
                psql.stdin.write(b"commit;\n")
            psql.stdin.close()
        refused = psql.stderr.read()
    if psql.returncode:
        raise BackupError(_last_word(refused, "psql"))
    if read.returncode:
        raise BackupError(_last_word(read.stderr, "pg_restore"))
