"""Outings with their stops, settings, drifts and fish."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
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


async def outings(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Outing, str]]:
    """Return the angler's outings, newest first, each with its beat's name."""
    statement = (
        select(Outing, Beat.name)
        .join(Beat, Beat.id == Outing.beat_id)
        .where(Outing.angler_id == angler_id, Outing.gone.is_(False))
        .order_by(Outing.started_at.desc())
    )
    return [(outing, beat) for outing, beat in (await session.execute(statement)).all()]


async def outcomes(session: AsyncSession, angler_id: UUID) -> dict[UUID, list[str]]:
    """Return how the standing drifts of every outing ended."""
    statement = (
        select(Stop.outing_id, Drift.outcome)
        .join(Setting, Setting.stop_id == Stop.id)
        .join(Drift, Drift.setting_id == Setting.id)
        .where(Drift.angler_id == angler_id, Drift.undone.is_(False))
    )
    found: dict[UUID, list[str]] = {}
    for outing_id, outcome in (await session.execute(statement)).all():
        found.setdefault(outing_id, []).append(outcome)
    return found


async def stops(session: AsyncSession, angler_id: UUID, outing_id: UUID) -> Sequence[tuple[Stop, str]]:
    """Return an outing's stops in time, each with its lie's name."""
    statement = (
        select(Stop, Lie.name)
        .join(Lie, Lie.id == Stop.lie_id)
        .where(Stop.angler_id == angler_id, Stop.outing_id == outing_id)
        .order_by(Stop.at, Stop.id)
    )
    return [(stop, lie) for stop, lie in (await session.execute(statement)).all()]


async def log_of(
    session: AsyncSession, angler_id: UUID, outing_id: UUID
) -> tuple[Sequence[Setting], Sequence[Drift], Sequence[Catch]]:
    """Return an outing's settings, standing drifts and standing catches, each in time."""
    mine = Stop.outing_id == outing_id, Stop.angler_id == angler_id
    settings = (
        select(Setting).join(Stop, Stop.id == Setting.stop_id).where(*mine).order_by(Setting.at, Setting.id)
    )
    drifts = (
        select(Drift)
        .join(Setting, Setting.id == Drift.setting_id)
        .join(Stop, Stop.id == Setting.stop_id)
        .where(*mine, Drift.undone.is_(False))
        .order_by(Drift.at, Drift.id)
    )
    catches = (
        select(Catch)
        .join(Drift, Drift.id == Catch.drift_id)
        .join(Setting, Setting.id == Drift.setting_id)
        .join(Stop, Stop.id == Setting.stop_id)
        .where(*mine, Catch.undone.is_(False), Drift.undone.is_(False))
        .order_by(Catch.at, Catch.id)
    )
    return (
        (await session.execute(settings)).scalars().all(),
        (await session.execute(drifts)).scalars().all(),
        (await session.execute(catches)).scalars().all(),
    )
