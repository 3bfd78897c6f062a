"""Outings with their stops, settings, drifts and fish."""

from collections.abc import Collection, Sequence
from datetime import datetime
from uuid import UUID

from sqlalchemy import and_, func, literal, select, tuple_
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Beat,
    Catch,
    Drift,
    Lie,
    Outing,
    Setting,
    Stop,
)

AT_BEAT = and_(Beat.angler_id == Outing.angler_id, Beat.id == Outing.beat_id)
AT_LIE = and_(Lie.angler_id == Stop.angler_id, Lie.id == Stop.lie_id)
OF_STOP = and_(Setting.angler_id == Stop.angler_id, Setting.stop_id == Stop.id)
OF_SETTING = and_(Drift.angler_id == Setting.angler_id, Drift.setting_id == Setting.id)
OF_DRIFT = and_(Catch.angler_id == Drift.angler_id, Catch.drift_id == Drift.id)
"""How one hangs under another: always with the angler, whose rows lie together."""


async def outings(
    session: AsyncSession, angler_id: UUID, *, before: tuple[datetime, UUID] | None, most: int
) -> Sequence[tuple[Outing, str]]:
    """Return the angler's outings, newest first, each with its beat's name: so many that began before one, or the newest."""
    statement = (
        select(Outing, Beat.name)
        .join(Beat, AT_BEAT)
        .where(Outing.angler_id == angler_id, Outing.gone.is_(False))
        .order_by(Outing.started_at.desc(), Outing.id.desc())
        .limit(most)
    )
    if before is not None:
        statement = statement.where(tuple_(Outing.started_at, Outing.id) < tuple_(*map(literal, before)))
    return [(outing, beat) for outing, beat in (await session.execute(statement)).all()]


async def outcomes(
    session: AsyncSession, angler_id: UUID, outing_ids: Collection[UUID]
) -> dict[UUID, dict[str, int]]:
    """Return how many standing drifts of some outings ended how."""
    statement = (
        select(Stop.outing_id, Drift.outcome, func.count())
        .join(Setting, OF_STOP)
        .join(Drift, OF_SETTING)
        .where(Stop.angler_id == angler_id, Stop.outing_id.in_(outing_ids), Drift.undone.is_(False))
        .group_by(Stop.outing_id, Drift.outcome)
    )
    found: dict[UUID, dict[str, int]] = {}
    for outing_id, outcome, count in (await session.execute(statement)).all():
        found.setdefault(outing_id, {})[outcome] = count
    return found


async def stops(session: AsyncSession, angler_id: UUID, outing_id: UUID) -> Sequence[tuple[Stop, str]]:
    """Return an outing's stops in time, each with its lie's name."""
    statement = (
        select(Stop, Lie.name)
        .join(Lie, AT_LIE)
        .where(Stop.angler_id == angler_id, Stop.outing_id == outing_id)
        .order_by(Stop.at, Stop.id)
    )
    return [(stop, lie) for stop, lie in (await session.execute(statement)).all()]


async def log_of(
    session: AsyncSession, angler_id: UUID, outing_id: UUID
) -> tuple[Sequence[Setting], Sequence[Drift], Sequence[Catch]]:
    """Return an outing's settings, standing drifts and standing catches, each in time."""
    mine = Stop.outing_id == outing_id, Stop.angler_id == angler_id
    settings = select(Setting).join(Stop, OF_STOP).where(*mine).order_by(Setting.at, Setting.id)
    drifts = (
        select(Drift)
        .join(Setting, OF_SETTING)
        .join(Stop, OF_STOP)
        .where(*mine, Drift.undone.is_(False))
        .order_by(Drift.at, Drift.id)
    )
    catches = (
        select(Catch)
        .join(Drift, OF_DRIFT)
        .join(Setting, OF_SETTING)
        .join(Stop, OF_STOP)
        .where(*mine, Catch.undone.is_(False), Drift.undone.is_(False))
        .order_by(Catch.at, Catch.id)
    )
    return (
        (await session.execute(settings)).scalars().all(),
        (await session.execute(drifts)).scalars().all(),
        (await session.execute(catches)).scalars().all(),
    )
