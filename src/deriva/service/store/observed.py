"""What was read at lies, and the flow at which it was."""

from collections.abc import Sequence
from datetime import timedelta
from uuid import UUID

from sqlalchemy import select, text
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Gauge,
    Reading,
    Sounding,
)


async def newest_readings(session: AsyncSession, angler_id: UUID) -> dict[UUID, Reading]:
    """Return the newest reading of every lie of the angler's that has one."""
    statement = (
        select(Reading)
        .where(Reading.angler_id == angler_id)
        .ext(distinct_on(Reading.lie_id))
        .order_by(Reading.lie_id, Reading.at.desc(), Reading.id.desc())
    )
    return {reading.lie_id: reading for reading in (await session.execute(statement)).scalars()}


async def readings_with_flow(session: AsyncSession, angler_id: UUID) -> Sequence[Reading]:
    """Return every reading of the angler's at a known flow, in time, but for those that were carried and not seen."""
    statement = (
        select(Reading)
        .where(Reading.angler_id == angler_id, Reading.flow_m3_s.is_not(None), Reading.depth_how != "flow")
        .order_by(Reading.at, Reading.id)
    )
    return (await session.execute(statement)).scalars().all()


FLOW_WITHIN = timedelta(hours=3)
"""How far from a reading the gauge's value may lie to be the flow of that reading."""


async def soundings(session: AsyncSession, angler_id: UUID) -> Sequence[Sounding]:
    """Return all that was found of the bottom at the spots of the angler's lies."""
    statement = select(Sounding).where(Sounding.angler_id == angler_id, Sounding.gone.is_(False))
    return (await session.execute(statement)).scalars().all()


SEEN_AT_A_FLOW = ("reading", "sounding")


async def fill_flows(session: AsyncSession, gauge: Gauge) -> None:
    """Give what was seen on the gauge's river and has no flow yet the gauge's at its time: the nearest value within
    three hours, or else the mean of its day.
    """
    for table in SEEN_AT_A_FLOW:
        await session.execute(
            text(
                f"update {table} r set flow_m3_s = coalesce("  # noqa: S608 - two names of our own
                " (select v.value from gauge_value v where v.gauge_id = :gauge and v.parameter = 'flow' and not v.daily"
                "   and v.value is not null"
                "   and v.at between r.at - cast(:within as interval) and r.at + cast(:within as interval)"
                "   order by abs(extract(epoch from v.at - r.at)) limit 1),"
                " (select v.value from gauge_value v where v.gauge_id = :gauge and v.parameter = 'flow' and v.daily"
                "   and v.value is not null"
                "   and v.at between r.at - interval '12 hours' and r.at + interval '12 hours' limit 1))"
                " from lie l, beat b where r.flow_m3_s is null and l.id = r.lie_id and b.id = l.beat_id"
                " and b.river_id = :river and r.angler_id = :angler"
            ),
            {"gauge": gauge.id, "within": FLOW_WITHIN, "river": gauge.river_id, "angler": gauge.angler_id},
        )
