"""The same database with all that is an angler's parted by angler: PostgreSQL's own partitions, as a proof that nothing asks
across anglers, and the statements that part it over many machines.
"""

from collections.abc import Iterator

import psycopg

from deriva.service.store.address import sync_url
from deriva.service.store.models import Base

PARTS = 4


BY = {"angler": "id"}
"""What a table is parted by, where that is not ``angler_id``."""

HEAD = """\
-- The database parted over machines by angler, with the Citus extension of PostgreSQL: written by `make docs` from the tables,
-- to be run once on an empty database after `deriva migrate`. Tried so far on PostgreSQL's own partitions alone
-- (`make partitioned`); docs/decisions/0017-growth-and-many-machines.md says what that shows and what it does not.
"""


def distributed() -> list[str]:
    """Return the tables that are parted by angler beside the angler itself, parents before children."""
    return [table.name for table in Base.metadata.sorted_tables if "angler_id" in table.primary_key.columns]


def directories() -> list[str]:
    """Return the tables that are looked up before it is known who asks: small, and whole on every machine."""
    return [table.name for table in Base.metadata.sorted_tables if table.name not in (*distributed(), *BY)]


def statements() -> Iterator[str]:
    """Go through the statements that part the database over machines."""
    for table in Base.metadata.sorted_tables:
        for key in table.foreign_key_constraints:
            if table.name in directories() and key.referred_table.name in BY:
                yield f"alter table {table.name} drop constraint fk_{table.name}_{key.referred_table.name};"
    for name in directories():
        yield f"select create_reference_table('{name}');"
    (first, column), *_ = BY.items()
    yield f"select create_distributed_table('{first}', '{column}');"
    for name in distributed():
        yield f"select create_distributed_table('{name}', 'angler_id', colocate_with => '{first}');"


def script() -> str:
    """Return all of it as a file."""
    return HEAD + "\n" + "\n".join(statements()) + "\n"


def part(database_url: str) -> None:
    """Part the tables of a database by angler, each into :data:`PARTS` of PostgreSQL's own; what is in them stays."""
    with psycopg.connect(sync_url(database_url)) as rows:
        names = distributed()
        references = rows.execute(
            "select conrelid::regclass::text, conname, pg_get_constraintdef(oid) from pg_constraint"
            " where contype = 'f' and conrelid::regclass::text = any(%s)",
            ([*names, *(f'"{name}"' for name in names)],),
        ).fetchall()
        triggers = rows.execute(
            "select tgrelid::regclass::text, tgname, pg_get_triggerdef(oid) from pg_trigger where not tgisinternal"
        ).fetchall()
        for table, name, _ in references:
            rows.execute(f"alter table {table} drop constraint {name}")
        for name in names:
            written = rows.execute(
                "select string_agg(quote_ident(attname), ', ' order by attnum) from pg_attribute"
                " where attrelid = %s::regclass and attnum > 0 and not attisdropped and attgenerated = ''",
                (f'"{name}"',),
            ).fetchone()
            assert written is not None  # noqa: S101 - an aggregate has one row
            rows.execute(f'alter table "{name}" rename to whole')
            rows.execute(f'create table "{name}" (like whole including all) partition by hash (angler_id)')
            for k in range(PARTS):
                rows.execute(
                    f'create table "{name}_{k}" partition of "{name}" for values with (modulus {PARTS}, remainder {k})'
                )
            rows.execute(f'insert into "{name}" ({written[0]}) select {written[0]} from whole')  # noqa: S608
            rows.execute("drop table whole")
        for table, name, definition in references:
            rows.execute(f"alter table {table} add constraint {name} {definition}")
        for _, _, definition in triggers:
            rows.execute(definition)
