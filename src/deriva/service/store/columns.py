"""Much of a log at once: planned for the angler who asks, handed over by columns."""

from typing import Any

from sqlalchemy import CompoundSelect, Result, Select, func, select, text
from sqlalchemy.ext.asyncio import AsyncSession

_PLANNED = text("set local plan_cache_mode = force_custom_plan")
"""A plan that is made for whatever angler comes takes a log of many years for one of few, and then minutes instead of
milliseconds.
"""


async def found_for(
    session: AsyncSession, statement: Select[*tuple[Any, ...]] | CompoundSelect[*tuple[Any, ...]]
) -> Result[*tuple[Any, ...]]:
    """Return what a statement finds, planned for what it asks."""
    await session.execute(_PLANNED)
    return await session.execute(statement)


async def columns_of(session: AsyncSession, statement: Select[*tuple[Any, ...]]) -> list[list[Any]]:
    """Return what a statement finds, by columns, in one piece: row by row it takes longer to hand over than to find."""
    found = statement.subquery("found")
    columns = (await found_for(session, select(*(func.array_agg(one) for one in found.c)))).one()
    return [one or [] for one in columns]
