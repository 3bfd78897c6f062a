"""Rivers with their gauges, beats and lies."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Beat,
    Gauge,
    Lie,
    River,
)


async def beats(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Beat, str]]:
    """Return the angler's beats in order, each with its river's name."""
    statement = (
        select(Beat, River.name)
        .join(River, (River.angler_id == Beat.angler_id) & (River.id == Beat.river_id))
        .where(Beat.angler_id == angler_id)
        .order_by(Beat.position)
    )
    return [(beat, river) for beat, river in (await session.execute(statement)).all()]


async def lies(session: AsyncSession, angler_id: UUID) -> Sequence[Lie]:
    """Return the angler's lies, from downstream up."""
    statement = select(Lie).where(Lie.angler_id == angler_id).order_by(Lie.along_m)
    return (await session.execute(statement)).scalars().all()


async def gauge_of_river(session: AsyncSession, angler_id: UUID, river_id: UUID) -> Gauge | None:
    """Return the first gauge of a river of the angler's."""
    statement = (
        select(Gauge).where(Gauge.angler_id == angler_id, Gauge.river_id == river_id).order_by(Gauge.id)
    )
    return (await session.execute(statement)).scalars().first()


async def rivers_of(session: AsyncSession, angler_id: UUID, lies: set[UUID]) -> Sequence[UUID]:
    """Return the rivers on which some of the angler's lies are."""
    statement = (
        select(Beat.river_id)
        .join(Lie, (Lie.angler_id == Beat.angler_id) & (Lie.beat_id == Beat.id))
        .where(Lie.angler_id == angler_id, Lie.id.in_(lies))
        .distinct()
    )
    return (await session.execute(statement)).scalars().all()


async def rivers(session: AsyncSession, angler_id: UUID) -> Sequence[River]:
    """Return the angler's rivers by name."""
    return (
        (await session.execute(select(River).where(River.angler_id == angler_id).order_by(River.name)))
        .scalars()
        .all()
    )
