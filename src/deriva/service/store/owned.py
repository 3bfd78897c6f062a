"""Rows that are an angler's: written under the ids their writers made, and found by whose they are.

Every function that touches an angler's rows takes the angler's id: nothing else keeps anglers apart.
"""

from collections.abc import Collection, Mapping
from typing import Any, TypeVar
from uuid import UUID

from sqlalchemy import func, inspect, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import IntegrityError
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Owned,
)

KEY = ("angler_id", "id")

Key = tuple[UUID, UUID]
"""Whose a row is, and its id: what it takes to find one."""

Row = TypeVar("Row", bound=Owned)


class NotYours(LookupError):
    """The row, or the one it hangs under, is not this angler's. Whether it exists at all is not said."""

    def __init__(self, what: str) -> None:
        super().__init__(what)
        self.what = what


async def put(
    session: AsyncSession,
    table: type[Owned],
    angler_id: UUID,
    row_id: UUID,
    values: dict[str, Any],
    *,
    replace: bool,
) -> None:
    """Write a row under the id its writer made: once, however often it is sent.

    With ``replace`` a later version takes the place of the earlier; without, the first one stands.
    """
    statement = (
        insert(table)
        .values(id=row_id, angler_id=angler_id, **values)
        .on_conflict_do_update(index_elements=KEY, set_=values if replace else {"id": row_id})
    )
    try:
        await session.execute(statement)
    except IntegrityError as error:
        if "foreign key" in str(error.orig):
            raise NotYours(str(inspect(table).local_table.name)) from None
        raise


async def put_many(
    session: AsyncSession,
    table: type[Owned],
    angler_id: UUID,
    rows: Mapping[UUID, dict[str, Any]],
    *,
    replace: bool,
    keep: Collection[str] = (),
) -> None:
    """Write rows under the ids their writers made.

    With ``replace`` a later version takes the place of the earlier, but for the columns to ``keep``; without, the first stands.
    """
    if not rows:
        return
    target = inspect(table).local_table
    statement = insert(target)
    named = next(iter(rows.values()))
    fresh = {name: statement.excluded[name] for name in named if name not in keep} if replace else {}
    once = (
        statement.on_conflict_do_update(index_elements=KEY, set_=fresh)
        if fresh
        else statement.on_conflict_do_nothing(index_elements=KEY)
    )
    # the rows go in beside the statement, which is then compiled once for any number of them
    values = [{"id": row, "angler_id": angler_id, **one} for row, one in rows.items()]
    await session.execute(once, values)


async def owned(
    session: AsyncSession, table: type[Owned], angler_id: UUID, rows: Collection[UUID]
) -> set[UUID]:
    """Return which of these rows are the angler's."""
    statement = select(table.id).where(table.angler_id == angler_id, table.id.in_(rows))
    return set((await session.execute(statement)).scalars()) if rows else set()


async def get_owned(
    session: AsyncSession, table: type[Row], angler_id: UUID, row_id: UUID, *, hold: bool = False
) -> Row:
    """Return a row of the angler's, or raise :class:`NotYours`. With ``hold`` whoever is changing it is waited for."""
    statement = select(table).where(table.id == row_id, table.angler_id == angler_id)
    if hold:
        statement = statement.with_for_update(key_share=True)
    row = (await session.execute(statement)).scalar_one_or_none()
    if row is None:
        raise NotYours(getattr(table, "__tablename__", "row"))
    return row


async def count_of(session: AsyncSession, table: type[Owned], angler_id: UUID, *, but: UUID) -> int:
    """Return how many rows of a table an angler has beside one."""
    statement = select(func.count()).select_from(table).where(table.angler_id == angler_id, table.id != but)
    return (await session.execute(statement)).scalar_one()
