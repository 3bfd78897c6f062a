"""What is due to be read, taken by one process at a time."""

from collections.abc import Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import Select, or_, select, update
from sqlalchemy.ext.asyncio import AsyncSession
from sqlalchemy.orm import InstrumentedAttribute
from sqlalchemy.sql.dml import ReturningUpdate

from deriva.service.store.models import (
    Gauge,
    River,
)


async def take_due_gauges(
    session: AsyncSession, now: datetime, *, until: datetime, most: int
) -> Sequence[UUID]:
    """Take the gauges that are due, of whatever angler, for this process alone; those that answered last come first."""
    due = (
        select(Gauge.id)
        .where(Gauge.url.is_not(None), or_(Gauge.due_at.is_(None), Gauge.due_at <= now))
        .order_by(Gauge.failures, Gauge.due_at)
        .limit(most)
        .with_for_update(skip_locked=True)
    )
    return (await session.execute(select_taken(Gauge, Gauge.due_at, due, until))).scalars().all()


async def take_due_weather(
    session: AsyncSession, now: datetime, *, until: datetime, most: int
) -> Sequence[UUID]:
    """Take the rivers whose weather is due, for this process alone."""
    due = (
        select(River.id)
        .where(River.weather_url.is_not(None), or_(River.weather_due_at.is_(None), River.weather_due_at <= now))
        .order_by(River.weather_failures, River.weather_due_at)
        .limit(most)
        .with_for_update(skip_locked=True)
    )  # fmt: skip
    return (await session.execute(select_taken(River, River.weather_due_at, due, until))).scalars().all()


def select_taken(
    table: type[Gauge] | type[River],
    column: InstrumentedAttribute[datetime | None],
    due: Select[UUID],
    until: datetime,
) -> ReturningUpdate[UUID]:
    """Return the statement that moves on when something is due, and says which."""
    found = due.cte("due")
    return update(table).where(table.id.in_(select(found.c.id))).values({column: until}).returning(table.id)
