"""Backing the database up into one file and putting it back, with PostgreSQL's own tools (pg_dump's custom format)."""

import os
import subprocess
from pathlib import Path

import psycopg
from sqlalchemy.engine import make_url

from deriva.service.store.bulk import sync_url
from deriva.service.store.cluster import binaries


class BackupError(RuntimeError):
    """pg_dump or pg_restore failed; the message is its last word."""


def _run(tool: str, *arguments: str, database_url: str) -> None:
    url = make_url(database_url)
    where = {
        "PGHOST": url.host or "127.0.0.1",
        "PGPORT": str(url.port or 5432),
        "PGUSER": url.username or "deriva",
        "PGDATABASE": url.database or "deriva",
    }
    if url.password is not None:
        where["PGPASSWORD"] = str(url.password)  # not on the command line, where everybody may read it
    done = subprocess.run(  # noqa: S603 - PostgreSQL's own tools
        [binaries() / tool, *arguments], env=os.environ | where, capture_output=True, text=True, check=False
    )
    if done.returncode:
        said = done.stderr.strip().splitlines()
        raise BackupError(said[-1] if said else f"{tool} failed")


def accounts_in(database_url: str) -> int:
    """Return how many accounts are in a database; none where it has no tables yet."""
    with psycopg.connect(sync_url(database_url)) as connection:
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
        _run("pg_dump", "--format=custom", "--no-owner", f"--file={part}", database_url=database_url)
        part.replace(file)
    finally:
        part.unlink(missing_ok=True)


def restore(database_url: str, file: Path) -> None:
    """Put a backup in the place of what is in the database, all in one transaction: it succeeds whole or changes nothing."""
    if not file.is_file():
        raise BackupError(f"{file} is not there")
    _run(
        "pg_restore", "--clean", "--if-exists", "--no-owner", "--single-transaction",
        f"--dbname={make_url(database_url).database}", str(file), database_url=database_url,
    )  # fmt: skip
