"""What is due to be read, taken by one process at a time."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import Select, or_, select, update
from sqlalchemy.ext.asyncio import AsyncSession
from sqlalchemy.orm import InstrumentedAttribute

from deriva.service.store.models import (
    Gauge,
    River,
)
from deriva.service.store.owned import Key


async def take_due_gauges(
    session: AsyncSession, now: datetime, *, until: datetime, most: int
) -> Sequence[Key]:
    """Take the gauges that are due, of whatever angler, for this process alone; those that answered last come first."""
    due = (
        select(Gauge.angler_id, Gauge.id)
        .where(Gauge.url.is_not(None), or_(Gauge.due_at.is_(None), Gauge.due_at <= now))
        .order_by(Gauge.failures, Gauge.due_at)
        .limit(most)
        .with_for_update(skip_locked=True)
    )
    return await _taken(session, Gauge, Gauge.due_at, due, until)


async def take_due_weather(
    session: AsyncSession, now: datetime, *, until: datetime, most: int
) -> Sequence[Key]:
    """Take the rivers whose weather is due, for this process alone."""
    due = (
        select(River.angler_id, River.id)
        .where(River.weather_url.is_not(None), or_(River.weather_due_at.is_(None), River.weather_due_at <= now))
        .order_by(River.weather_failures, River.weather_due_at)
        .limit(most)
        .with_for_update(skip_locked=True)
    )  # fmt: skip
    return await _taken(session, River, River.weather_due_at, due, until)


async def _taken(
    session: AsyncSession,
    table: type[Gauge] | type[River],
    column: InstrumentedAttribute[datetime | None],
    due: Select[UUID, UUID],
    until: datetime,
) -> Sequence[Key]:
    """Move on when something is due; return which it was."""
    found = due.cte("due")
    statement = (
        update(table)
        .where(table.angler_id == found.c.angler_id, table.id == found.c.id)
        .values({column: until})
        .returning(table.angler_id, table.id)
    )
    return [(angler, row) for angler, row in (await session.execute(statement)).all()]
