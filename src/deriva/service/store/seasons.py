"""A year of outings beside the river, and outings drawn small: what was fished where, how deep, and how each drift ended."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from sqlalchemy import (
    ColumnElement,
    Float,
    ScalarSelect,
    UnaryExpression,
    and_,
    cast,
    extract,
    func,
    select,
    text,
)
from sqlalchemy.dialects.postgresql import aggregate_order_by
from sqlalchemy.ext.asyncio import AsyncSession
from sqlalchemy.orm import InstrumentedAttribute

from deriva.service.store.columns import found_for
from deriva.service.store.models import Beat, Drift, Effort, Lie, Outing, Setting, Stop
from deriva.service.store.outings import AT_BEAT, AT_LIE, OF_SETTING, OF_STOP
from deriva.service.store.over_river import outing_began

MOST = 400
"""So many outings of a year are drawn: one a day, and more."""


@dataclass(frozen=True, slots=True)
class Fished:
    """An outing in a year: where and when, drifts and fish."""

    id: UUID
    beat: str
    at: datetime
    drifts: int
    fish: int


@dataclass(frozen=True, slots=True)
class Block:
    """A setting as it was fished at a lie: seconds from the outing's start to where it began and to each drift, and how that
    ended; the water's depth and the setting's, m.
    """

    outing: UUID
    lie: str
    from_s: float
    depth_m: float | None
    set_m: float | None
    at_s: Sequence[float]
    ended: Sequence[str]


NEAR = timedelta(days=1)
"""No river is so far from Greenwich: what began within a year there began within the year here, and so much more."""


async def fished(session: AsyncSession, angler_id: UUID, *, since: datetime, until: datetime) -> list[Fished]:
    """Return the newest outings between two times, by the sun over their rivers, the oldest first."""
    began = func.timezone("UTC", outing_began())
    newest = (
        select(Outing.id, Outing.started_at, Beat.name)
        .join(Beat, AT_BEAT)
        .where(
            Outing.angler_id == angler_id,
            Outing.gone.is_(False),
            Outing.started_at >= since - NEAR,  # down an index
            Outing.started_at < until + NEAR,
            began >= since,
            began < until,
        )
        .order_by(Outing.started_at.desc())
        .limit(MOST)
        .subquery()
    )
    sums = (
        select(
            func.coalesce(func.sum(Effort.drifts), 0).label("drifts"),
            func.coalesce(func.sum(Effort.fish), 0).label("fish"),
        )
        .where(Effort.angler_id == angler_id, Effort.outing_id == newest.c.id)
        .lateral()
    )
    rows = await session.execute(
        select(newest.c.id, newest.c.name, newest.c.started_at, sums.c.drifts, sums.c.fish)
        .join(sums, text("true"))
        .order_by(newest.c.started_at)
    )
    return [Fished(row, beat, at, int(drifts), int(fish)) for row, beat, at, drifts, fish in rows.all()]


async def years(session: AsyncSession, angler_id: UUID) -> list[int]:
    """Return the years with outings, by the sun over their rivers, the newest first."""

    def at_the(end: UnaryExpression[datetime]) -> ScalarSelect[datetime]:
        mine = select(outing_began()).where(Outing.angler_id == angler_id, Outing.gone.is_(False))
        return mine.order_by(end).limit(1).scalar_subquery()

    ends = select(at_the(Outing.started_at.asc()), at_the(Outing.started_at.desc()))
    first, last = (await session.execute(ends)).one()
    return [] if first is None or last is None else list(range(last.year, first.year - 1, -1))


async def daily_flows(
    session: AsyncSession, angler_id: UUID, *, since: datetime, until: datetime
) -> dict[str, list[tuple[datetime, float]]]:
    """Return the daily mean flows of the angler's rivers between two times, by the river's name: the gauge's own, or else the
    means of what it said that day.
    """
    statement = text(
        "select river.name, day, coalesce(max(mean) filter (where daily), max(mean) filter (where not daily))"
        " from river join gauge on gauge.angler_id = river.angler_id and gauge.river_id = river.id"
        " cross join lateral (select date_trunc('day', at) as day, daily, avg(value) as mean from gauge_value v"
        " where v.angler_id = gauge.angler_id and v.gauge_id = gauge.id and v.parameter = 'flow'"
        " and v.value is not null and v.at >= :since and v.at < :until group by 1, 2) days"
        " where river.angler_id = :angler group by river.id, river.name, day order by river.name, day"
    )
    found: dict[str, list[tuple[datetime, float]]] = {}
    rows = await session.execute(statement, {"angler": angler_id, "since": since, "until": until})
    for river, day, flow in rows.all():
        found.setdefault(river, []).append((day, float(flow)))
    return found


async def blocks(session: AsyncSession, angler_id: UUID, outings: Sequence[UUID]) -> list[Block]:
    """Return some outings setting by setting, in time; what was set and not fished is left out."""
    began = Outing.started_at

    def after(at: InstrumentedAttribute[datetime]) -> ColumnElement[float]:
        return cast(extract("epoch", at - began), Float)

    order = aggregate_order_by
    statement = (
        select(
            Stop.outing_id,
            Lie.name,
            after(Setting.at),
            Stop.depth_m,
            Setting.depth_setting_m,
            func.array_agg(order(after(Drift.at), Drift.at, Drift.id)),
            func.array_agg(order(Drift.outcome, Drift.at, Drift.id)),
        )
        .join(Outing, and_(Outing.angler_id == Stop.angler_id, Outing.id == Stop.outing_id))
        .join(Lie, AT_LIE)
        .join(Setting, OF_STOP)
        .join(Drift, OF_SETTING)
        .where(Stop.angler_id == angler_id, Stop.outing_id.in_(outings), Drift.undone.is_(False))
        .group_by(
            Stop.outing_id,
            Stop.id,
            Stop.depth_m,
            Lie.name,
            Setting.id,
            Setting.at,
            Setting.depth_setting_m,
            began,
        )
        .order_by(Stop.outing_id, Setting.at)
    )
    return [
        Block(outing, lie, max(0.0, min(first, times[0])), depth, to, times, ends)
        for outing, lie, first, depth, to, times, ends in (await found_for(session, statement)).all()
    ]
