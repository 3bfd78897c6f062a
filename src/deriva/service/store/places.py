"""Rivers with their gauges, beats and lies; and those that are not fished any more."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import delete, exists, select
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Beat,
    Gauge,
    Lie,
    Outing,
    River,
    Stop,
)


async def beats(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Beat, str]]:
    """Return the beats that the angler fishes in order, each with its river's name."""
    statement = (
        select(Beat, River.name)
        .join(River, (River.angler_id == Beat.angler_id) & (River.id == Beat.river_id))
        .where(Beat.angler_id == angler_id, Beat.retired.is_(False))
        .order_by(Beat.position)
    )
    return [(beat, river) for beat, river in (await session.execute(statement)).all()]


async def lies(session: AsyncSession, angler_id: UUID) -> Sequence[Lie]:
    """Return the lies that the angler fishes, from downstream up."""
    statement = (
        select(Lie).where(Lie.angler_id == angler_id, Lie.retired.is_(False)).order_by(Lie.along_m, Lie.id)
    )
    return (await session.execute(statement)).scalars().all()


async def retired_beats(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Beat, str, bool]]:
    """Return the beats that are not fished any more, each with its river's name and whether it ever was."""
    fished = exists().where(Outing.angler_id == Beat.angler_id, Outing.beat_id == Beat.id)
    statement = (
        select(Beat, River.name, fished)
        .join(River, (River.angler_id == Beat.angler_id) & (River.id == Beat.river_id))
        .where(Beat.angler_id == angler_id, Beat.retired.is_(True))
        .order_by(Beat.position)
    )
    return [(beat, river, was) for beat, river, was in (await session.execute(statement)).all()]


async def retired_lies(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Lie, str, bool]]:
    """Return the lies that are not fished any more, each with its beat's name and whether it ever was."""
    fished = exists().where(Stop.angler_id == Lie.angler_id, Stop.lie_id == Lie.id)
    statement = (
        select(Lie, Beat.name, fished)
        .join(Beat, (Beat.angler_id == Lie.angler_id) & (Beat.id == Lie.beat_id))
        .where(Lie.angler_id == angler_id, Lie.retired.is_(True))
        .order_by(Beat.position, Lie.along_m)
    )
    return [(lie, beat, was) for lie, beat, was in (await session.execute(statement)).all()]


async def remove_unfished(
    session: AsyncSession, angler_id: UUID, table: type[Beat | Lie], row_id: UUID
) -> bool:
    """Remove a beat or lie with what was read of it; False where something was fished there, and it stays."""
    fished = (
        exists().where(Outing.angler_id == angler_id, Outing.beat_id == row_id)
        if table is Beat
        else exists().where(Stop.angler_id == angler_id, Stop.lie_id == row_id)
    )
    statement = delete(table).where(table.angler_id == angler_id, table.id == row_id, ~fished)
    return bool((await session.execute(statement.returning(table.id))).scalars().all())


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
