"""All that is an angler's, for taking away."""

from collections.abc import Awaitable, Callable, Iterator
from uuid import UUID

from sqlalchemy import text
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Base,
)

NOT_EXPORTED = {"sign_in": ("token_hash",), "account": ("hashed_password",)}
"""Columns that open doors: they are nobody's to read, not even their owner's."""

Write = Callable[[bytes], Awaitable[None]]


class TakingAway(Exception):
    """All that is an angler's is being written out already."""


async def alone(session: AsyncSession, angler_id: UUID) -> None:
    """Hold an angler's taking away until the transaction ends; raises :class:`TakingAway` where another does."""
    statement = text("select pg_try_advisory_xact_lock(hashtextextended('takeaway ' || :angler, 0))")
    if not (await session.execute(statement, {"angler": str(angler_id)})).scalar_one():
        raise TakingAway


def tables() -> Iterator[str]:
    """Go through the tables that have rows of an angler's: whatever has an angler is among them, so that none is forgotten."""
    for table in Base.metadata.sorted_tables:
        if "angler_id" in table.c or table.name == "account":
            yield table.name


async def write_rows(session: AsyncSession, angler_id: UUID, name: str, write: Write) -> None:
    """Write the rows of a table that are an angler's as the members of a JSON array, as PostgreSQL itself writes them: however
    many there are, they are not held in memory.
    """
    table = Base.metadata.tables[name]
    owner = "id" if name == "account" else "angler_id"
    columns = ", ".join(f'"{c.name}"' for c in table.c if c.name not in NOT_EXPORTED.get(name, ()))
    order = " order by position" if "position" in table.c else ""
    query = (
        f"select case when row_number() over () > 1 then ',' else '' end || row_to_json(one)::text"  # noqa: S608
        f' from (select {columns} from "{name}" where {owner} = $1{order}) one'
    )
    raw = (await (await session.connection()).get_raw_connection()).driver_connection
    assert raw is not None  # noqa: S101 - an open connection has one
    # a row a line: neither of the two signs stands in a text of JSON, so nothing is escaped
    await raw.copy_from_query(query, angler_id, output=write, format="csv", delimiter="\x01", quote="\x02")
