"""What is due to be read, taken by one process at a time, and once for all who follow it."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import and_, func, or_, select, text, update
from sqlalchemy.ext.asyncio import AsyncSession
from sqlalchemy.orm import InstrumentedAttribute

from deriva.service.store.models import (
    Gauge,
    River,
)
from deriva.service.store.owned import Key

Column = InstrumentedAttribute[Any]


@dataclass(frozen=True, slots=True)
class Lease:
    """Who is due ``now`` is taken, with all that follow the same and are due ``soon``, and left to this process ``until``."""

    now: datetime
    soon: datetime
    until: datetime


@dataclass(frozen=True, slots=True)
class _Kind:
    """What is read: by which columns two follow the same, when it is due, and how often in a row it failed."""

    table: type[Gauge] | type[River]
    source: Sequence[Column]
    due_at: Column
    failures: Column


STATIONS = _Kind(Gauge, (Gauge.url, Gauge.format, Gauge.daily_url), Gauge.due_at, Gauge.failures)
WEATHERS = _Kind(River, (River.weather_url,), River.weather_due_at, River.weather_failures)


async def take_due_gauges(session: AsyncSession, lease: Lease, *, most: int) -> Sequence[Sequence[Key]]:
    """Take the stations that are due, for this process alone, those that answered last first: of each the gauges, of whatever
    angler, that follow it.
    """
    return await _taken(session, STATIONS, lease, most)


async def take_due_weather(session: AsyncSession, lease: Lease, *, most: int) -> Sequence[Sequence[Key]]:
    """Take the places whose weather is due, for this process alone: of each the rivers there."""
    return await _taken(session, WEATHERS, lease, most)


async def _taken(session: AsyncSession, kind: _Kind, lease: Lease, most: int) -> Sequence[Sequence[Key]]:
    """Move on when something is due; return which it was, by its source. What a file is being taken in for is left out.

    One process at a time does so: two that each held a follower of what both take would wait for each other.
    """
    table, source, due_at = kind.table, kind.source, kind.due_at
    await session.execute(text("select pg_advisory_xact_lock(7302)"))
    stations = (
        select(*source)
        .where(source[0].is_not(None), or_(due_at.is_(None), due_at <= lease.now))
        .group_by(*source)
        .order_by(func.min(kind.failures), func.min(due_at))
        .limit(most)
        .cte("stations")
    )
    same = and_(*(column.is_not_distinct_from(stations.c[column.key]) for column in source))
    found = (
        select(table.angler_id, table.id)
        .join(stations, same)
        .where(or_(due_at.is_(None), due_at <= lease.soon))
        .with_for_update(of=table, skip_locked=True)
        .cte("due")
    )
    statement = (
        update(table)
        .where(table.angler_id == found.c.angler_id, table.id == found.c.id)
        .values({due_at: lease.until})
        .returning(*source, table.angler_id, table.id)
    )
    followers: defaultdict[tuple[Any, ...], list[Key]] = defaultdict(list)
    for *of, angler, row in (await session.execute(statement)).all():
        followers[tuple(of)].append((angler, row))
    return list(followers.values())
