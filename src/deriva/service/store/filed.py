"""Imports of files: begun, running, fallen silent."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Job,
)


async def begin_import(
    session: AsyncSession, angler_id: UUID, import_id: UUID, gauge_id: UUID | None, *, now: datetime
) -> bool:
    """Write down that an import begins; return False where one of this id has begun before."""
    kind = "log" if gauge_id is None else "gauge"
    statement = insert(Job).values(
        id=import_id, angler_id=angler_id, kind=kind, gauge_id=gauge_id, state="running", rows=0, share=0.0, message="",
        started_at=now, alive_at=now,
    )  # fmt: skip
    made = await session.execute(statement.on_conflict_do_nothing().returning(Job.id))
    return made.scalar_one_or_none() is not None


async def running_imports(session: AsyncSession, angler_id: UUID) -> int:
    """Return how many imports of an angler's have not ended."""
    statement = select(func.count()).where(Job.angler_id == angler_id, Job.ended_at.is_(None))
    return (await session.execute(statement)).scalar_one()


async def end_silent_imports(
    session: AsyncSession, angler_id: UUID, *, since: datetime, message: str
) -> None:
    """Mark as failed what has not ended, and has not been heard of since then."""
    await session.execute(
        update(Job)
        .where(Job.angler_id == angler_id, Job.ended_at.is_(None), Job.alive_at < since)
        .values(state="failed", rows=0, message=message, ended_at=func.now())
    )
