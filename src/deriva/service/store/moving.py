"""One angler, with all that is theirs, from one database to another, while taps arrive.

Every row of the angler's is held first, the angler's own before all others, as a tap does too: so nothing is written meanwhile,
and what wants to be waits. The copy is committed before the original is taken away. Whatever breaks off between the two,
as long as the original is there it is what counts, and the next try puts it in the place of a copy.

A tap that has waited finds nobody signed in where the angler was. It was not acknowledged, so the device keeps it and sends it
again, to wherever it is led by then.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from uuid import UUID

import psycopg
from psycopg import errors, sql
from sqlalchemy import Table

from deriva.service.store.address import sync_connect
from deriva.service.store.engine import SCHEMA
from deriva.service.store.models import Base

DERIVED = ("effort", "caught")
"""What the database counts by itself as the rows arrive."""

WHERE = "select current_database(), inet_server_addr(), inet_server_port(), pg_postmaster_start_time()"


class NotMoved(RuntimeError):
    """The angler is where they were; the message says why."""


@dataclass(frozen=True, slots=True)
class Moved:
    """Who was moved, and how many rows of each table."""

    angler_id: UUID
    rows: dict[str, int]


def _owner(table: Table) -> str | None:
    """Return the column that says whose a row is; None where rows are nobody's."""
    by = {"angler": "id", "account": "id"}.get(table.name)
    return by or next((name for name in ("angler_id", "account_id") if name in table.c), None)


OWNED: tuple[tuple[Table, str], ...] = tuple(
    (table, owner)
    for table in Base.metadata.sorted_tables
    if table.name not in DERIVED and (owner := _owner(table)) is not None
)
"""What is an angler's, parents before their children, each with the column that says so."""


def _id_of(at: psycopg.Connection, address: str) -> UUID | None:
    """Return the angler of an address, held from now on."""
    found = at.execute("select id from account where email = %s", (address.lower(),)).fetchone()
    if found is None:
        return None
    held = at.execute("select id from angler where id = %s for update", found).fetchone()
    return None if held is None else held[0]


def _named(table: Table, owner: str) -> dict[str, sql.Composable]:
    stored = [sql.Identifier(column.name) for column in table.c if column.computed is None]
    return {
        "table": sql.Identifier(table.name),
        "owner": sql.Identifier(owner),
        "columns": sql.SQL(", ").join(stored),
    }


def _hold(at: psycopg.Connection, angler: UUID) -> None:
    for table, owner in OWNED:
        held = sql.SQL("select from {table} where {owner} = %s for update").format(**_named(table, owner))
        at.execute(held, (angler,))


def _copy(here: psycopg.Connection, there: psycopg.Connection, angler: UUID) -> dict[str, int]:
    """Copy all that is the angler's; return how many rows of each table went, and as many came."""
    counts: dict[str, int] = {}
    for table, owner in OWNED:
        named = _named(table, owner)
        out = sql.SQL(
            "copy (select {columns} from {table} where {owner} = {angler}) to stdout (format binary)"
        ).format(**named, angler=sql.Literal(angler))
        into = sql.SQL("copy {table} ({columns}) from stdin (format binary)").format(**named)
        with here.cursor() as read, there.cursor() as write:
            with read.copy(out) as source, write.copy(into) as target:
                for part in source:
                    target.write(part)
            if read.rowcount != write.rowcount:
                raise NotMoved(f"{read.rowcount} rows of {table.name} went, and {write.rowcount} came")
            counts[table.name] = read.rowcount
    return counts


@contextmanager
def _both(here_url: str, there_url: str) -> Iterator[tuple[psycopg.Connection, psycopg.Connection]]:
    """Open both databases. Raises :class:`NotMoved` where one is not what it should be."""
    with sync_connect(here_url) as here, sync_connect(there_url) as there:
        for at, name in ((here, "this database"), (there, "the other database")):
            try:
                found = at.execute("select version_num from alembic_version").fetchone()
            except errors.UndefinedTable:
                found = None
            if found != (SCHEMA,):
                raise NotMoved(
                    f"{name} has schema {found and found[0]}, {SCHEMA} is wanted: `deriva migrate` first"
                )
        if here.execute(WHERE).fetchone() == there.execute(WHERE).fetchone():
            raise NotMoved("both are one and the same database")
        yield here, there


def move(here_url: str, there_url: str, address: str) -> Moved:
    """Move the angler of an address. Raises :class:`NotMoved`, and psycopg's errors where a database does not answer."""
    with _both(here_url, there_url) as (here, there):
        angler = _id_of(here, address)
        if angler is None:
            raise NotMoved(f"there is no account of {address} in this database")
        taken = there.execute("select id from account where email = %s", (address.lower(),)).fetchone()
        if taken is not None and taken[0] != angler:
            raise NotMoved(f"another account of {address} is in the other database")
        _hold(here, angler)
        there.execute("delete from angler where id = %s", (angler,))  # a copy of a try that broke off
        counts = _copy(here, there, angler)
        there.commit()
        here.execute("delete from angler where id = %s", (angler,))
        here.commit()
        return Moved(angler, counts)
