"""The log of writings: what was taken in, in which order, and what others have not heard of yet."""

from collections.abc import Collection, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import func, select, update
from sqlalchemy.dialects.postgresql import distinct_on, insert
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Angler,
    LogEntry,
    Outing,
)


async def hold_log(session: AsyncSession, angler_id: UUID) -> int:
    """Hold an angler's log until the transaction ends; return the position of its newest change."""
    statement = select(Angler.changes).where(Angler.id == angler_id).with_for_update()
    return (await session.execute(statement)).scalar_one()


async def known_changes(
    session: AsyncSession, angler_id: UUID, ids: Collection[UUID]
) -> dict[UUID, datetime]:
    """Return of when those of these changes are that have been taken in before."""
    if not ids:
        return {}
    statement = select(LogEntry.id, LogEntry.at).where(LogEntry.angler_id == angler_id, LogEntry.id.in_(ids))
    return dict((await session.execute(statement)).all())


async def newest_changes(
    session: AsyncSession, angler_id: UUID, kind: str, records: Collection[UUID]
) -> dict[UUID, tuple[datetime, UUID, int]]:
    """Return the order (time, device, sequence) of the writing that stands, of those records of a kind that have one."""
    if not records:
        return {}
    statement = (
        select(LogEntry.record, LogEntry.at, LogEntry.device, LogEntry.sequence)
        .where(LogEntry.angler_id == angler_id, LogEntry.kind == kind, LogEntry.record.in_(records))
        .ext(distinct_on(LogEntry.record))
        .order_by(LogEntry.record, LogEntry.at.desc(), LogEntry.device.desc(), LogEntry.sequence.desc())
    )
    return {row: (at, device, seq) for row, at, device, seq in (await session.execute(statement)).all()}


async def add_changes(session: AsyncSession, angler_id: UUID, changes: Sequence[dict[str, Any]]) -> None:
    """Add to the history of the angler's log, which must be held; the positions go on from its newest."""
    if not changes:
        return
    await session.execute(insert(LogEntry), [{"angler_id": angler_id, **one} for one in changes])
    newest = changes[-1]["position"]
    await session.execute(update(Angler).where(Angler.id == angler_id).values(changes=newest))


async def open_outing_position(session: AsyncSession, angler_id: UUID, newest: int) -> int:
    """Return the position before the first change of an outing that is still open; that of the newest if none is."""
    statement = (
        select(func.min(LogEntry.position))
        .join(Outing, (Outing.angler_id == LogEntry.angler_id) & (Outing.id == LogEntry.record))
        .where(
            LogEntry.angler_id == angler_id,
            LogEntry.filed.is_(False),
            Outing.angler_id == angler_id,
            Outing.ended_at.is_(None),
            Outing.gone.is_(False),
        )
    )
    first = (await session.execute(statement)).scalar_one_or_none()
    return newest if first is None else first - 1


async def changes_after(
    session: AsyncSession, angler_id: UUID, position: int, *, but_of: UUID, most: int
) -> Sequence[LogEntry]:
    """Return an angler's changes after a position, but those of one device and those out of a file, in order."""
    statement = (
        select(LogEntry)
        .where(
            LogEntry.angler_id == angler_id,
            LogEntry.position > position,
            LogEntry.device != but_of,
            LogEntry.filed.is_(False),
        )
        .order_by(LogEntry.position)
        .limit(most)
    )
    return (await session.execute(statement)).scalars().all()
