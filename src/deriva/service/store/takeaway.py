"""All that is an angler's, for taking away."""

from typing import Any
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Base,
)

NOT_EXPORTED = {"sign_in": ("token_hash",), "account": ("hashed_password",)}
"""Columns that open doors: they are nobody's to read, not even their owner's."""


async def all_rows(session: AsyncSession, angler_id: UUID) -> dict[str, list[dict[str, Any]]]:
    """Return every row that is an angler's, by table: the account and its sessions, and what files and gauges brought."""
    tables = [(table, table.c.angler_id) for table in Base.metadata.sorted_tables if "angler_id" in table.c]
    account = Base.metadata.tables["account"]
    wanted = [
        (table, select(table).where(owner == angler_id))
        for table, owner in [*tables, (account, account.c.id)]
    ]
    for name, key, parent in (("gauge_value", "gauge_id", "gauge"), ("weather_hour", "river_id", "river")):
        table, above = Base.metadata.tables[name], Base.metadata.tables[parent]
        wanted.append(
            (
                table,
                select(table).join(above, above.c.id == table.c[key]).where(above.c.angler_id == angler_id),
            )
        )
    found: dict[str, list[dict[str, Any]]] = {}
    for table, statement in wanted:
        name = str(table.name)
        hidden = NOT_EXPORTED.get(name, ())
        rows = await session.execute(statement)
        found[name] = [{str(k): v for k, v in row.items() if str(k) not in hidden} for row in rows.mappings()]
    return found
