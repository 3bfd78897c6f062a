"""What was fished, as columns: counts by outing and by whatever is asked, added up by the database."""

from collections import Counter
from collections.abc import Collection, Sequence
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    CTE,
    ColumnElement,
    Float,
    FromClause,
    Integer,
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
    join,
    literal,
    literal_column,
    select,
    text,
    true,
    tuple_,
)
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.choose.schools import Question as Disputed
from deriva.core.learn.answer import Row
from deriva.core.learn.dimensions import DIMENSIONS, OF_FISH, SCHOOL_OF, DimensionName, within
from deriva.core.learn.effort import MOST_OUTINGS
from deriva.core.learn.foretell import ENGINE
from deriva.core.learn.question import Measure, Question
from deriva.core.water.flow import STEADY_PER_H
from deriva.service.store.models import (
    Beat,
    Caught,
    Drift,
    Effort,
    Foretold,
    Lie,
    Outing,
    River,
    Setting,
    Stop,
)
from deriva.service.store.outings import AT_BEAT

AT_RIVER = and_(Beat.angler_id == River.angler_id, Beat.river_id == River.id)


def _sun_hour() -> ColumnElement[float]:
    """Return the hour by the sun: at noon it is highest, to a quarter of an hour; null where the river has no place."""
    utc = extract("epoch", func.timezone("UTC", Effort.at)) / 3600.0 + River.longitude / 15.0
    return cast(utc - 24.0 * func.floor(utc / 24.0), Float)


def _several(kind: tuple[str, ...]) -> ColumnElement[Any]:
    return literal(list(kind), ARRAY(String))


_WITH_DROPPER = Setting.setup["dropper_form"].astext.is_not(None)
_UNDER_DRY = Setting.rig == "dry_dropper"

TOOK = func.unnest(
    case(
        (and_(_UNDER_DRY, _WITH_DROPPER), _several(("point", "dropper", "dry"))),
        (_UNDER_DRY, _several(("point", "dry"))),
        (_WITH_DROPPER, _several(("point", "dropper"))),
        else_=_several(()),
    )
).table_valued(column("fly", String), name="hung_on").render_derived()  # fmt: skip
"""The flies that hung on a rig, where there was more than one."""

MOMENT = (
    func.unnest(_several(DIMENSIONS["moment"].parts()))
    .table_valued(column("phase", String), name="went_by")
    .render_derived()
)
"""The moments that every drift goes through."""


def _side(asked: Disputed, name: DimensionName) -> ColumnElement[Any]:
    """Return the side of a school that stood at a stop: what is not said is the first; "long" meant as computed in form 1."""
    usual = DIMENSIONS[name].parts()[0]
    said = func.coalesce(Stop.situation["school"][asked].astext, usual)
    return said if asked != "depth" else case((and_(Stop.form == 1, said == "long"), usual), else_=said)


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
        "took": TOOK.c.fly,
        "moment": MOMENT.c.phase,
        "ranked": Foretold.ranked.expression,
        **{name: _side(asked, name) for asked, name in SCHOOL_OF.items()},
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


OF_THE_SETTING: frozenset[DimensionName] = frozenset({"took", *SCHOOL_OF.values()})
"""What stands with a setting and its stop, and is asked too rarely to be copied to what was fished with it."""

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


def _newest(angler_id: UUID) -> CTE:
    return (
        select(Outing.id, Outing.beat_id, Outing.started_at)
        .where(Outing.angler_id == angler_id, Outing.gone.is_(False))
        .order_by(Outing.started_at.desc(), Outing.id.desc())
        .limit(MOST_OUTINGS)
        .cte("newest")
        .prefix_with("materialized")
    )


class _Fished:
    """What an angler fished on the newest outings, beside all that it is asked by. ``engine``: of settings of which the drift
    engine has said what they do.
    """

    def __init__(
        self, angler_id: UUID, asked: Collection[DimensionName] = (), *, engine: bool = False
    ) -> None:
        """Join what is needed to ask by some things."""
        newest = _newest(angler_id)
        of_beat = and_(Beat.angler_id == angler_id, Beat.id == newest.c.beat_id)
        self.hits = dict(HITS)
        self._rows: FromClause = (
            join(newest, Effort, and_(Effort.angler_id == angler_id, Effort.outing_id == newest.c.id))
            .join(Beat, of_beat)
            .join(River, AT_RIVER)
        )
        if "trend" in asked:
            known = {"angler": angler_id, "steady": STEADY_PER_H, "hours": TREND_H, "whole": int(TREND_H)}
            self._rows = self._rows.join(TREND.bindparams(**known).lateral("flows"), true())
        if engine or any(DIMENSIONS[name].of_engine for name in asked):
            of = and_(Foretold.angler_id == angler_id, Foretold.setting_id == Effort.setting_id)
            said = Foretold.in_zone if engine or "zone" in asked else Foretold.ranked
            self._rows = self._rows.join(Foretold, and_(of, Foretold.engine == ENGINE, said.is_not(None)))
        if OF_THE_SETTING.intersection(asked):
            of = and_(Setting.angler_id == angler_id, Setting.id == Effort.setting_id)
            at = and_(Stop.angler_id == angler_id, Stop.id == Setting.stop_id)
            self._rows = self._rows.join(Setting, of).join(Stop, at)
        self.of_fish = [name for name in OF_FISH if name in asked]
        if self.of_fish:
            self._count_fish(angler_id, newest)

    def _count_fish(self, angler_id: UUID, newest: CTE) -> None:
        """Beside every part that a drift had, put the fish of which it was said that it was this."""
        said = {"took": TOOK, "moment": MOMENT}
        of_caught = Caught.__table__.c
        where = [of_caught[name] for name in ("outing_id", "setting_id", "lane")]
        what = [(said[name], next(iter(said[name].c.keys()))) for name in self.of_fish]
        groups = [*where, *(of_caught[name] for _, name in what)]
        caught = (
            select(*groups, cast(func.sum(Caught.fish), Integer).label("fish"))
            .where(Caught.angler_id == angler_id, Caught.outing_id.in_(select(newest.c.id)))
            .group_by(*groups)
            .subquery("took")
        )
        same = [caught.c[one.name] == Effort.__table__.c[one.name] for one in where]
        for parts, name in what:
            self._rows = self._rows.join(parts, true())
            same.append(caught.c[name] == parts.c[name])
        self._rows = self._rows.join(caught, and_(*same), isouter=True)
        self.hits["fish"] = func.coalesce(caught.c.fish, 0)

    def select(self, *columns: Any) -> Select[*tuple[Any, ...]]:  # noqa: ANN401 - whatever is wanted of them
        """Read something of it."""
        return select(*columns).select_from(self._rows)


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
    in_zone = question.per == "zone_hour"
    fished = _Fished(angler_id, question.dimensions, engine=in_zone)
    groups = _groups(question.by)
    minutes_of = Effort.minutes * Foretold.in_zone if in_zone else Effort.minutes
    sums = func.sum(fished.hits[question.measure]), func.sum(Effort.drifts), func.sum(minutes_of)
    statement = (
        fished.select(*groups, *sums)
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
        _Fished(angler_id, (by,))
        .select(*groups, took, func.count(), literal(0.0))
        .join(Drift, of_effort)
        .where(KEYS[by].is_not(None), Effort.at >= since - SET_BEFORE)
        .group_by(*groups)
    )
    return _read((await session.execute(statement)).all())


async def behind(
    session: AsyncSession, angler_id: UUID, question: Question, part: str, *, most: int
) -> Sequence[tuple[Outing, str]]:
    """Return the newest outings on which a part of what is asked was fished, each with its beat's name: those with such a fish,
    where that is all that is known.
    """
    fished = _Fished(angler_id, question.dimensions, engine=question.per == "zone_hour")
    taken = [fished.hits["fish"] > 0] if fished.of_fish else []
    on = fished.select(Effort.outing_id).where(KEYS[question.by] == part, *_only(question), *taken).distinct()
    statement = (
        select(Outing, Beat.name)
        .join(Beat, AT_BEAT)
        .where(Outing.angler_id == angler_id, Outing.id.in_(on))
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
    fished = _Fished(angler_id, (dimension,))
    statement = fished.select(part, drifts).where(part.is_not(None)).group_by(part)
    found = (await session.execute(statement.order_by(drifts.desc(), part))).all()
    return {key: int(count) for key, count in found}


async def outline(session: AsyncSession, angler_id: UUID) -> dict[DimensionName, dict[str, int]]:
    """Return the drifts of every part of what is commonly asked by."""
    keys = [KEYS[name] for name in OUTLINE]
    sets = func.grouping_sets(*(tuple_(key) for key in keys))
    which = [func.grouping(key) for key in keys]
    statement = _Fished(angler_id).select(*which, *keys, func.sum(Effort.drifts)).group_by(sets)
    found: dict[DimensionName, dict[str, int]] = {name: {} for name in OUTLINE}
    for row in (await session.execute(statement)).all():
        place = next(k for k in range(len(keys)) if row[k] == 0)
        key = row[len(keys) + place]
        if key is not None:
            found[OUTLINE[place]][key] = int(row[-1])
    return found | await _outline_of_fish(session, angler_id)


async def _outline_of_fish(session: AsyncSession, angler_id: UUID) -> dict[DimensionName, dict[str, int]]:
    statement = (
        select(Caught.fly, Caught.phase, func.sum(Caught.fish))
        .where(Caught.angler_id == angler_id, Caught.outing_id.in_(select(_newest(angler_id).c.id)))
        .group_by(Caught.fly, Caught.phase)
    )
    took: Counter[str] = Counter()
    moment: Counter[str] = Counter()
    for fly, phase, fish in (await session.execute(statement)).all():
        took[fly] += int(fish)
        moment[phase] += int(fish)
    return {"took": took, "moment": moment}
