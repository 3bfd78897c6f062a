"""What was fished, as columns: counts by outing and by whatever is asked, added up by the database."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    ColumnElement,
    Float,
    Numeric,
    Select,
    String,
    Text,
    and_,
    case,
    cast,
    column,
    extract,
    func,
    literal,
    literal_column,
    select,
    text,
    true,
    tuple_,
)
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.learn.answer import Row
from deriva.core.learn.dimensions import DIMENSIONS, DimensionName, within
from deriva.core.learn.effort import MOST_OUTINGS
from deriva.core.learn.foretell import ENGINE
from deriva.core.learn.question import Measure, Question
from deriva.core.water.flow import STEADY_PER_H
from deriva.service.store.models import Beat, Drift, Effort, Foretold, Lie, Outing, River
from deriva.service.store.outings import AT_BEAT

AT_RIVER = and_(Beat.angler_id == River.angler_id, Beat.river_id == River.id)


def _sun_hour() -> ColumnElement[float]:
    """Return the hour by the sun: at noon it is highest, to a quarter of an hour; null where the river has no place."""
    utc = extract("epoch", func.timezone("UTC", Effort.at)) / 3600.0 + River.longitude / 15.0
    return cast(utc - 24.0 * func.floor(utc / 24.0), Float)


def _keys() -> dict[DimensionName, ColumnElement[Any]]:
    """Return what each part of a dimension is known by."""
    measured: dict[DimensionName, ColumnElement[Any]] = {
        "setting": Effort.share.expression,
        "temperature": Effort.temperature_c.expression,
        "clarity": Effort.clarity_m.expression,
        "depth": Effort.depth_m.expression,
        "speed": Effort.surface_speed_m_s.expression,
        "wind": Effort.wind_m_s.expression,
        "hour": _sun_hour(),
        "zone": 100.0 * Foretold.in_zone,
    }
    said: dict[DimensionName, ColumnElement[Any]] = {
        "rig": Effort.rig.expression,
        "bead": cast(func.round(cast(Effort.bead_mm, Numeric), 1), String),
        "fly": Effort.fly.expression,
        "hook": cast(Effort.hook, String),
        "lie": cast(Effort.lie_id, String),
        "kind": Effort.kind.expression,
        "lane": case((Effort.lane > 0, cast(Effort.lane, String))),
        "beat": cast(Beat.id, String),
        "flow": Effort.flow_class.expression,
        "light": Effort.light.expression,
        "month": cast(extract("month", Effort.at), String),
        "trend": literal_column("flows.trend", Text),
    }
    parted = {
        name: cast(func.width_bucket(value, literal(list(DIMENSIONS[name].edges), ARRAY(Float))), String)
        for name, value in measured.items()
    }
    return {**said, **parted}


KEYS = _keys()

HITS: dict[Measure, ColumnElement[int]] = {
    "takes": Effort.fish + Effort.missed,
    "fish": Effort.fish.expression,
    "hung": Effort.hung.expression,
}


OUTLINE: tuple[DimensionName, ...] = (
    "rig", "bead", "hook", "fly", "kind", "lie", "flow", "light", "temperature", "setting", "hour",
)  # fmt: skip
"""What is looked over to see what can be asked."""


def _is_foretold(question: Question) -> bool:
    """Return whether a question rests on what the drift engine says of the settings."""
    return question.per == "zone_hour" or "zone" in _asked(question)


def _asked(question: Question) -> set[DimensionName]:
    return {question.by, *(only.dimension for only in question.only)}


TREND_H = 6.0
"""Over so many hours before an outing it is looked whether the river rose or fell (stated here)."""

TREND = text(
    "select case when slope > :steady then 'rising' when slope < -:steady then 'falling' else 'steady' end as trend from ("
    " select ln(late.value / early.value) / :hours as slope"
    " from (select id from gauge where gauge.angler_id = :angler and gauge.river_id = beat.river_id order by id limit 1) g"
    " cross join lateral (select value from gauge_value v where v.angler_id = :angler and v.gauge_id = g.id"
    " and v.parameter = 'flow' and not v.daily and v.value > 0 and v.at <= newest.started_at"
    " and v.at > newest.started_at - interval '3 hours' order by v.at desc limit 1) late"
    " cross join lateral (select value from gauge_value v where v.angler_id = :angler and v.gauge_id = g.id"
    " and v.parameter = 'flow' and not v.daily and v.value > 0 and v.at <= newest.started_at - make_interval(hours => :whole)"
    " and v.at > newest.started_at - make_interval(hours => :whole + 3) order by v.at desc limit 1) early) change"
).columns(column("trend", Text))
"""Whether the river rose or fell before an outing, by its gauge; nothing where the gauge does not say."""


def _fished(
    statement: Select[*tuple[Any, ...]], angler_id: UUID, *, foretold: bool = False, trend: bool = False
) -> Select[*tuple[Any, ...]]:
    """Let a statement read what an angler fished on the newest outings, with all that it can be asked by; ``foretold``: of
    settings of which the drift engine has said what they do; ``trend``: on outings of which a gauge says how the river went.
    """
    newest = (
        select(Outing.id, Outing.beat_id, Outing.started_at)
        .where(Outing.angler_id == angler_id, Outing.gone.is_(False))
        .order_by(Outing.started_at.desc(), Outing.id.desc())
        .limit(MOST_OUTINGS)
        .cte("newest")
        .prefix_with("materialized")
    )
    fished = (
        statement.select_from(newest)
        .join(Effort, and_(Effort.angler_id == angler_id, Effort.outing_id == newest.c.id))
        .join(Beat, and_(Beat.angler_id == angler_id, Beat.id == newest.c.beat_id))
        .join(River, AT_RIVER)
    )
    if trend:
        known = {"angler": angler_id, "steady": STEADY_PER_H, "hours": TREND_H, "whole": int(TREND_H)}
        fished = fished.join(TREND.bindparams(**known).lateral("flows"), true())
    if not foretold:
        return fished
    of = and_(Foretold.angler_id == angler_id, Foretold.setting_id == Effort.setting_id)
    return fished.join(Foretold, and_(of, Foretold.engine == ENGINE, Foretold.in_zone.is_not(None)))


def _only(question: Question) -> list[ColumnElement[bool]]:
    return [KEYS[only.dimension] == only.part for only in question.only]


def _read(found: Sequence[Any]) -> list[Row]:
    places: dict[UUID, int] = {}
    return [
        Row(places.setdefault(outing, len(places)), key, tuple(water), hits, drifts, minutes / 60.0)
        for outing, key, *water, hits, drifts, minutes in found
    ]


def _groups(by: DimensionName) -> list[ColumnElement[Any]]:
    return [Effort.outing_id.expression, KEYS[by], *(func.coalesce(KEYS[name], "") for name in within(by))]


async def rows(session: AsyncSession, angler_id: UUID, question: Question) -> list[Row]:
    """Return what an angler fished of what is asked, by outing, part and water."""
    groups = _groups(question.by)
    minutes_of = Effort.minutes * Foretold.in_zone if question.per == "zone_hour" else Effort.minutes
    sums = func.sum(HITS[question.measure]), func.sum(Effort.drifts), func.sum(minutes_of)
    statement = (
        _fished(
            select(*groups, *sums),
            angler_id,
            foretold=_is_foretold(question),
            trend="trend" in _asked(question),
        )
        .where(KEYS[question.by].is_not(None), *_only(question))
        .group_by(*groups)
    )
    return _read((await session.execute(statement)).all())


SET_BEFORE = timedelta(hours=36)
"""What was set longer ago is not on the rod any more (stated here)."""


async def rows_since(session: AsyncSession, angler_id: UUID, by: DimensionName, since: datetime) -> list[Row]:
    """Return the takes and drifts since a moment, by outing, part and water, without their hours: what was on the rod then
    counts from there on.
    """
    groups = _groups(by)
    of_effort = and_(
        Drift.angler_id == angler_id,
        Drift.setting_id == Effort.setting_id,
        func.coalesce(Drift.lane, 0) == Effort.lane,
        Drift.undone.is_(False),
        Drift.at >= since,
    )
    took = func.count().filter(Drift.outcome.in_(("fish", "missed")))
    statement = (
        _fished(select(*groups, took, func.count(), literal(0.0)), angler_id)
        .join(Drift, of_effort)
        .where(KEYS[by].is_not(None), Effort.at >= since - SET_BEFORE)
        .group_by(*groups)
    )
    return _read((await session.execute(statement)).all())


async def behind(
    session: AsyncSession, angler_id: UUID, question: Question, part: str, *, most: int
) -> Sequence[tuple[Outing, str]]:
    """Return the newest outings on which a part of what is asked was fished, each with its beat's name."""
    fished = (
        _fished(
            select(Effort.outing_id),
            angler_id,
            foretold=_is_foretold(question),
            trend="trend" in _asked(question),
        )
        .where(KEYS[question.by] == part, *_only(question))
        .distinct()
    )
    statement = (
        select(Outing, Beat.name)
        .join(Beat, AT_BEAT)
        .where(Outing.angler_id == angler_id, Outing.id.in_(fished))
        .order_by(Outing.started_at.desc(), Outing.id.desc())
        .limit(most)
    )
    return [(outing, beat) for outing, beat in (await session.execute(statement)).all()]


async def names(session: AsyncSession, angler_id: UUID) -> dict[str, str]:
    """Return what an angler's lies and beats are called, by their ids."""
    found: dict[str, str] = {}
    for table in (Lie, Beat):
        statement = select(table.id, table.name).where(table.angler_id == angler_id)
        found |= {str(row): name for row, name in (await session.execute(statement)).all()}
    return found


async def parts(session: AsyncSession, angler_id: UUID, dimension: DimensionName) -> dict[str, int]:
    """Return the parts of a dimension that were fished, most drifts first, each with its drifts."""
    part = KEYS[dimension]
    drifts = func.sum(Effort.drifts)
    fished = _fished(
        select(part, drifts), angler_id, foretold=dimension == "zone", trend=dimension == "trend"
    )
    statement = fished.where(part.is_not(None)).group_by(part)
    found = (await session.execute(statement.order_by(drifts.desc(), part))).all()
    return {key: int(count) for key, count in found}


async def outline(session: AsyncSession, angler_id: UUID) -> dict[DimensionName, dict[str, int]]:
    """Return the drifts of every part of what is commonly asked by."""
    keys = [KEYS[name] for name in OUTLINE]
    sets = func.grouping_sets(*(tuple_(key) for key in keys))
    which = [func.grouping(key) for key in keys]
    statement = _fished(select(*which, *keys, func.sum(Effort.drifts)), angler_id).group_by(sets)
    found: dict[DimensionName, dict[str, int]] = {name: {} for name in OUTLINE}
    for row in (await session.execute(statement)).all():
        place = next(k for k in range(len(keys)) if row[k] == 0)
        key = row[len(keys) + place]
        if key is not None:
            found[OUTLINE[place]][key] = int(row[-1])
    return found
