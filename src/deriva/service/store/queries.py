"""Queries: functions that take a session and flush at most; a use case owns the transaction.

Every function that touches an angler's rows takes the angler's id: this is the one place that keeps anglers apart.
"""

from collections.abc import Sequence
from datetime import datetime
from typing import Any, TypeVar
from uuid import UUID

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import distinct_on, insert
from sqlalchemy.exc import IntegrityError
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Angler,
    Base,
    Beat,
    Catch,
    Drift,
    Lie,
    Outing,
    Owned,
    Reading,
    River,
    Setting,
    SignIn,
    Stop,
)

Row = TypeVar("Row", bound=Owned)


class NotYours(LookupError):
    """The row, or the one it hangs under, is not this angler's. Whether it exists at all is not said."""

    def __init__(self, what: str) -> None:
        super().__init__(what)
        self.what = what


async def put(
    session: AsyncSession,
    table: type[Base],
    angler_id: UUID,
    row_id: UUID,
    values: dict[str, Any],
    *,
    replace: bool,
) -> None:
    """Write a row under the id its writer made: once, however often it is sent.

    With ``replace`` a later version takes the place of the earlier; without, the first one stands.
    """
    columns = table.__table__.c
    statement = (
        insert(table)
        .values(id=row_id, angler_id=angler_id, **values)
        .on_conflict_do_update(
            index_elements=["id"],
            set_=values if replace else {"id": row_id},
            where=columns.angler_id == angler_id,
        )
        .returning(columns.id)
    )
    try:
        stored = (await session.execute(statement)).scalar_one_or_none()
    except IntegrityError as error:
        if "foreign key" in str(error.orig):
            raise NotYours(table.__tablename__) from None
        raise
    if stored is None:
        raise NotYours(table.__tablename__)


async def get_owned(session: AsyncSession, table: type[Row], angler_id: UUID, row_id: UUID) -> Row:
    """Return a row of the angler's, or raise :class:`NotYours`."""
    statement = select(table).where(table.id == row_id, table.angler_id == angler_id)
    row = (await session.execute(statement)).scalar_one_or_none()
    if row is None:
        raise NotYours(getattr(table, "__tablename__", "row"))
    return row


async def angler_of_token(session: AsyncSession, token_hash: str, now: datetime) -> Angler | None:
    """Return who a session token signs in, if it still does."""
    statement = select(Angler).join(SignIn).where(SignIn.token_hash == token_hash, SignIn.expires_at > now)
    return (await session.execute(statement)).scalar_one_or_none()


async def demo_angler(session: AsyncSession) -> Angler | None:
    """Return the demo angler, if the database was seeded with one."""
    return (await session.execute(select(Angler).where(Angler.demo))).scalars().first()


async def forget_token(session: AsyncSession, token_hash: str) -> None:
    """End a session."""
    await session.execute(delete(SignIn).where(SignIn.token_hash == token_hash))


async def beats(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Beat, str]]:
    """Return the angler's beats in order, each with its river's name."""
    statement = (
        select(Beat, River.name)
        .join(River, River.id == Beat.river_id)
        .where(Beat.angler_id == angler_id)
        .order_by(Beat.position)
    )
    return [(beat, river) for beat, river in (await session.execute(statement)).all()]


async def lies(session: AsyncSession, angler_id: UUID) -> Sequence[Lie]:
    """Return the angler's lies, from downstream up."""
    statement = select(Lie).where(Lie.angler_id == angler_id).order_by(Lie.along_m)
    return (await session.execute(statement)).scalars().all()


async def newest_readings(session: AsyncSession, angler_id: UUID) -> dict[UUID, Reading]:
    """Return the newest reading of every lie of the angler's that has one."""
    statement = (
        select(Reading)
        .where(Reading.angler_id == angler_id)
        .ext(distinct_on(Reading.lie_id))
        .order_by(Reading.lie_id, Reading.at.desc(), Reading.id.desc())
    )
    return {reading.lie_id: reading for reading in (await session.execute(statement)).scalars()}


async def outings(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Outing, str]]:
    """Return the angler's outings, newest first, each with its beat's name."""
    statement = (
        select(Outing, Beat.name)
        .join(Beat, Beat.id == Outing.beat_id)
        .where(Outing.angler_id == angler_id)
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
