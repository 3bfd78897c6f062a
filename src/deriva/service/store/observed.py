"""What was read at lies, and the flow at which it was."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import TypeVar
from uuid import UUID

from sqlalchemy import ColumnElement, Select, select, text, true
from sqlalchemy.ext.asyncio import AsyncSession
from sqlalchemy.orm import aliased

from deriva.service.store.models import (
    Gauge,
    Lie,
    Reading,
    Sounding,
)

MOST_READINGS, MOST_SOUNDINGS = 24, 120
"""So many of a lie count: a page must not grow with the years. The bed of two dozen readings ago is another bed, and a lie has
about ten spots."""

Seen = TypeVar("Seen", Reading, Sounding)


def _newest_a_lie(table: type[Seen], angler_id: UUID, *which: ColumnElement[bool], most: int) -> Select[Seen]:
    """Select the newest rows of every lie of the angler's: from lie to lie down an index, however many there are."""
    newest = (
        select(table)
        .where(table.angler_id == Lie.angler_id, table.lie_id == Lie.id, *which)
        .order_by(table.at.desc(), table.id.desc())
        .limit(most)
        .lateral()
    )
    return (
        select(aliased(table, newest)).select_from(Lie).join(newest, true()).where(Lie.angler_id == angler_id)
    )


async def newest_readings(session: AsyncSession, angler_id: UUID) -> dict[UUID, Reading]:
    """Return the newest reading of every lie of the angler's that has one."""
    statement = _newest_a_lie(Reading, angler_id, most=1)
    return {reading.lie_id: reading for reading in (await session.execute(statement)).scalars()}


async def readings_with_flow(session: AsyncSession, angler_id: UUID) -> Sequence[Reading]:
    """Return the newest readings of the angler's lies at a known flow, in time, but for those carried and not seen."""
    statement = _newest_a_lie(
        Reading, angler_id, Reading.flow_m3_s.is_not(None), Reading.depth_how != "flow", most=MOST_READINGS
    )
    return sorted((await session.execute(statement)).scalars(), key=lambda one: (one.at, one.id))


async def all_readings(session: AsyncSession, angler_id: UUID) -> Sequence[Reading]:
    """Return the newest readings of every lie of the angler's, in time."""
    statement = _newest_a_lie(Reading, angler_id, most=MOST_READINGS)
    return sorted((await session.execute(statement)).scalars(), key=lambda one: (one.at, one.id))


FLOW_WITHIN = timedelta(hours=3)
"""How far from a reading the gauge's value may lie to be the flow of that reading."""


async def soundings(session: AsyncSession, angler_id: UUID) -> Sequence[Sounding]:
    """Return what was found of the bottom at the spots of the angler's lies, the newest of each lie."""
    statement = _newest_a_lie(Sounding, angler_id, Sounding.gone.is_(False), most=MOST_SOUNDINGS)
    return (await session.execute(statement)).scalars().all()


async def soundings_until(
    session: AsyncSession, angler_id: UUID, lie_id: UUID, at: datetime
) -> Sequence[Sounding]:
    """Return what had been found of the bottom at the spots of a lie by then, in time."""
    upto = (Sounding.lie_id == lie_id, Sounding.gone.is_(False), Sounding.at <= at)
    found = await session.execute(_newest_a_lie(Sounding, angler_id, *upto, most=MOST_SOUNDINGS))
    return sorted(found.scalars(), key=lambda one: (one.at, one.id))


async def reading_at(session: AsyncSession, angler_id: UUID, lie_id: UUID, at: datetime) -> Reading | None:
    """Return how a lie had been read last by then."""
    upto = (Reading.lie_id == lie_id, Reading.at <= at)
    return (await session.execute(_newest_a_lie(Reading, angler_id, *upto, most=1))).scalar_one_or_none()


SEEN_AT_A_FLOW = ("reading", "sounding")


async def fill_flows(session: AsyncSession, gauge: Gauge) -> None:
    """Give what was seen on the gauge's river and has no flow yet the gauge's at its time: the nearest value within
    three hours, or else the mean of its day.
    """
    for table in SEEN_AT_A_FLOW:
        await session.execute(
            text(
                f"update {table} r set flow_m3_s = coalesce("  # noqa: S608 - two names of our own
                " (select v.value from gauge_value v where v.angler_id = :angler and v.gauge_id = :gauge"
                "   and v.parameter = 'flow' and not v.daily"
                "   and v.value is not null"
                "   and v.at between r.at - cast(:within as interval) and r.at + cast(:within as interval)"
                "   order by abs(extract(epoch from v.at - r.at)) limit 1),"
                " (select v.value from gauge_value v where v.angler_id = :angler and v.gauge_id = :gauge"
                "   and v.parameter = 'flow' and v.daily"
                "   and v.value is not null"
                "   and v.at between r.at - interval '12 hours' and r.at + interval '12 hours' limit 1))"
                " from lie l, beat b where r.flow_m3_s is null and r.angler_id = :angler"
                " and l.angler_id = :angler and l.id = r.lie_id and b.angler_id = :angler and b.id = l.beat_id"
                " and b.river_id = :river"
            ),
            {"gauge": gauge.id, "within": FLOW_WITHIN, "river": gauge.river_id, "angler": gauge.angler_id},
        )
