"""What was fished, as columns: counts by outing and by whatever is asked, added up by the database."""

from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from datetime import datetime, timedelta
from functools import cache
from itertools import compress
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
    Time,
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
    union_all,
)
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.choose.schools import Question as Disputed
from deriva.core.learn.answer import Tally
from deriva.core.learn.dimensions import DIMENSIONS, SCHOOL_OF, WATERS, DimensionName, within
from deriva.core.learn.effort import MOST_OUTINGS
from deriva.core.learn.foretell import ENGINE
from deriva.core.learn.question import Measure, Only, Per, Question
from deriva.core.water.flow import STEADY_PER_H
from deriva.service.store.columns import columns_of, found_for
from deriva.service.store.foretelling import NOT_KNOWN
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
from deriva.service.store.over_river import AT_RIVER, over_river


def _sun_hour() -> ColumnElement[float]:
    """Return the hour by the sun: at noon it is highest, to a quarter of an hour; null where the river has no place."""
    return cast(extract("epoch", cast(over_river(Effort.at, River.longitude), Time)) / 3600.0, Float)


_WITH_DROPPER = Setting.setup["dropper_form"].astext.is_not(None)
_UNDER_DRY = Setting.rig == "dry_dropper"

HUNG_ON: dict[tuple[bool, bool], tuple[str, ...]] = {
    (True, True): ("point", "dropper", "dry"),
    (True, False): ("point", "dry"),
    (False, True): ("point", "dropper"),
    (False, False): (),
}
"""The flies that hung on a rig, where there was more than one, by whether it hung under a dry and whether it had a dropper."""

SAID_OF_FISH: dict[DimensionName, ColumnElement[str]] = {
    "took": Caught.fly.expression,
    "moment": Caught.phase.expression,
}
"""What only a fish says."""


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
        "gauged": cast(literal_column("gauged.flow"), Float),
    }
    said: dict[DimensionName, ColumnElement[Any]] = {
        "rig": Effort.rig.expression,
        "bead": cast(func.round(cast(Effort.bead_mm, Numeric), 1), String),
        "fly": Effort.fly.expression,
        "hook": cast(Effort.hook, String),
        "lie": cast(Effort.lie_id, String),
        "kind": Effort.kind.expression,
        "lane": case((Effort.lane > 0, cast(Effort.lane, String))),
        "beat": cast(literal_column("newest.beat_id"), String),
        "flow": Effort.flow_class.expression,
        "light": Effort.light.expression,
        "month": cast(extract("month", over_river(Effort.at, func.coalesce(River.longitude, 0.0))), String),
        "trend": cast(literal_column("flows.trend"), String),
        "ranked": func.nullif(Foretold.ranked, NOT_KNOWN),
        **{name: _side(asked, name) for asked, name in SCHOOL_OF.items()},
    }
    parted = {
        name: cast(func.width_bucket(value, literal(list(DIMENSIONS[name].edges), ARRAY(Float))), String)
        for name, value in measured.items()
    }
    return {**said, **parted}


KEYS = _keys()

APART = "\x1f"
"""Stands between the parts of a water where they are one word: no part has it in it."""

WATER: dict[DimensionName, ColumnElement[str]] = {name: func.coalesce(KEYS[name], "") for name in WATERS}

HITS: dict[Measure, ColumnElement[int]] = {
    "takes": Effort.fish + Effort.missed,
    "fish": Effort.fish.expression,
    "hung": Effort.hung.expression,
}


OUTLINE: tuple[DimensionName, ...] = (
    "rig", "bead", "hook", "fly", "kind", "lie", "flow", "light", "temperature", "setting", "hour",
)  # fmt: skip
"""What is looked over to see what can be asked."""

OUTLINED = 150
"""So many outings are looked over for it, the newest: what can be asked of them, can be asked of all."""


OF_THE_RIVER: frozenset[DimensionName] = frozenset({"hour", "month", "trend", "gauged"})
"""What hangs on where the river is, and on its gauge."""

OF_THE_SETTING: frozenset[DimensionName] = frozenset({"took", *SCHOOL_OF.values()})
"""What stands with a setting and its stop, and is asked too rarely to be copied to what was fished with it."""

TREND_H = 6.0
"""Over so many hours before an outing it is looked whether the river rose or fell (stated here)."""

_GAUGED = (
    "select value from gauge_value v where v.angler_id = :angler and v.gauge_id = g.id and v.parameter = 'flow' and not v.daily"
    " and v.value > 0 and v.at <= {at} and v.at > {at} - interval '3 hours' order by v.at desc limit 1"
)
_GAUGE = "(select id from gauge where gauge.angler_id = :angler and gauge.river_id = beat.river_id order by id limit 1) g"

_THEN = _GAUGED.format(at="newest.started_at")
_BEFORE = _GAUGED.format(at="newest.started_at - make_interval(hours => :whole)")

TREND = text(
    "select case when slope > :steady then 'rising' when slope < -:steady then 'falling' else 'steady' end as trend from ("  # noqa: S608 - our own
    f" select ln(late.value / early.value) / :hours as slope from {_GAUGE}"
    f" cross join lateral ({_THEN}) late cross join lateral ({_BEFORE}) early) change"
).columns(column("trend", Text))
"""Whether the river rose or fell before an outing, by its gauge; nothing where the gauge does not say."""

FLOW = text(
    f"select late.value as flow from {_GAUGE} cross join lateral ({_THEN}) late"  # noqa: S608 - our own
).columns(column("flow", Float))
"""How much the river had as an outing began, by its gauge; nothing where the gauge does not say."""


PLACE: ColumnElement[int] = literal_column("newest.place", Integer).label("outing")
"""An outing's place among those that are looked at: a number is added up by faster than an id, and handed over."""


def _newest(angler_id: UUID, most: int) -> CTE:
    newest = Outing.started_at.desc(), Outing.id.desc()
    place = cast(func.row_number().over(order_by=newest), Integer).label("place")
    return (
        select(Outing.id, Outing.beat_id, Outing.started_at, place)
        .where(Outing.angler_id == angler_id, Outing.gone.is_(False))
        .order_by(*newest)
        .limit(most)
        .cte("newest")
        .prefix_with("materialized")
    )


class _Fished:
    """What an angler fished on the newest outings, beside all that it is asked by. ``engine``: of settings of which the drift
    engine has said what they do.
    """

    def __init__(
        self,
        angler_id: UUID,
        asked: Collection[DimensionName] = (),
        *,
        engine: bool = False,
        most: int = MOST_OUTINGS,
    ) -> None:
        """Join what is needed to ask by some things."""
        newest = _newest(angler_id, most)
        self._rows: FromClause = join(
            newest, Effort, and_(Effort.angler_id == angler_id, Effort.outing_id == newest.c.id)
        )
        # not where it is not wanted: the server takes the outings for a few then, and sorts
        if OF_THE_RIVER.intersection(asked):
            of_beat = and_(Beat.angler_id == angler_id, Beat.id == newest.c.beat_id)
            self._rows = self._rows.join(Beat, of_beat).join(River, AT_RIVER)
        if "trend" in asked:
            known = {"angler": angler_id, "steady": STEADY_PER_H, "hours": TREND_H, "whole": int(TREND_H)}
            self._rows = self._rows.join(TREND.bindparams(**known).lateral("flows"), true())
        if "gauged" in asked:
            self._rows = self._rows.join(FLOW.bindparams(angler=angler_id).lateral("gauged"), true())
        if engine or any(DIMENSIONS[name].of_engine for name in asked):
            of = and_(Foretold.angler_id == angler_id, Foretold.setting_id == Effort.setting_id)
            said = Foretold.in_zone if engine or "zone" in asked else Foretold.ranked
            self._rows = self._rows.join(Foretold, and_(of, Foretold.engine == ENGINE, said.is_not(None)))
        if OF_THE_SETTING.intersection(asked):
            of = and_(Setting.angler_id == angler_id, Setting.id == Effort.setting_id)
            # with the outing, though the stop says which: else all stops there are were read
            at = and_(Stop.angler_id == angler_id, Stop.outing_id == newest.c.id, Stop.id == Setting.stop_id)
            self._rows = self._rows.join(Setting, of).join(Stop, at)
        self._is_fished = and_(
            Caught.angler_id == angler_id,
            Caught.outing_id == Effort.outing_id,
            Caught.setting_id == Effort.setting_id,
            Caught.lane == Effort.lane,
        )
        self._all_fish = and_(Caught.angler_id == angler_id, Caught.outing_id.in_(select(newest.c.id)))

    def count_fish(self, parts: Mapping[str, ColumnElement[bool]]) -> list[ColumnElement[int]]:
        """Join the fish; return how many drifts brought one of each part: two fish of one drift are one such drift."""
        where = [Caught.__table__.c[name] for name in ("outing_id", "setting_id", "lane")]
        fish = func.sum(Caught.fish)
        count = [cast(fish.filter(is_so), Integer).label(f"of_{k}") for k, is_so in enumerate(parts.values())]
        caught = select(*where, *count).where(self._all_fish).group_by(*where).subquery("took")
        same = [caught.c[one.name] == Effort.__table__.c[one.name] for one in where]
        self._rows = self._rows.join(caught, and_(*same), isouter=True)
        return [func.least(func.coalesce(caught.c[one.name], 0), Effort.drifts) for one in count]

    def narrow_to_fish(self, is_so: ColumnElement[bool]) -> None:
        """Keep what brought fish of which something is so."""
        self._rows = self._rows.join(Caught, and_(self._is_fished, is_so))

    def select(self, *columns: Any) -> Select[*tuple[Any, ...]]:  # noqa: ANN401 - whatever is wanted of them
        """Read something of it."""
        return select(*columns).select_from(self._rows)


def _only(asked: Iterable[Only]) -> list[ColumnElement[bool]]:
    return [KEYS[one.dimension] == one.part for one in asked if one.dimension in KEYS]


def _of_fish(asked: Iterable[Only]) -> list[ColumnElement[bool]]:
    """Return what is asked of the fish."""
    return [SAID_OF_FISH[one.dimension] == one.part for one in asked if one.dimension in SAID_OF_FISH]


def _tally(*columns: list[Any]) -> Tally:
    """Return what was counted from outings, parts, waters, hits, drifts and minutes."""
    parts = columns[1]
    if None in parts:
        known = [part is not None for part in parts]
        columns = tuple(list(compress(one, known)) for one in columns)
    outings, parts, water, hits, drifts, minutes = columns
    parted = {one: tuple(one.split(APART)) for one in set(water)}
    return Tally(
        outings, parts, [parted[one] for one in water], hits, drifts, [one / 60.0 for one in minutes]
    )


@cache
def _joined(names: tuple[DimensionName, ...]) -> ColumnElement[str]:
    """Return the parts of a water as one: to add up by one word takes the server less than by four."""
    joined = WATER[names[0]]
    for name in names[1:]:
        joined = joined + APART + WATER[name]
    return joined


def _water(by: DimensionName) -> ColumnElement[str]:
    return _joined(within(by))


def _groups(by: DimensionName) -> list[ColumnElement[Any]]:
    return [PLACE, KEYS[by], _water(by)]


async def tally(session: AsyncSession, angler_id: UUID, question: Question) -> Tally:
    """Return what an angler fished of what is asked, by outing, part and water."""
    (found,) = await tallies(session, angler_id, (question,))
    return found


async def tallies(session: AsyncSession, angler_id: UUID, questions: Sequence[Question]) -> list[Tally]:
    """Return the same for each of some questions: those of the same drifts are added up in one reading of them."""
    of_fish = {one for one in questions if not SAID_OF_FISH.keys().isdisjoint(one.dimensions)}
    together: dict[tuple[Per, tuple[Only, ...], DimensionName | None], list[Question]] = {}
    for one in dict.fromkeys(questions):
        if one not in of_fish:
            joined = one.by if _is_joined(one.by) else None
            together.setdefault((one.per, one.only, joined), []).append(one)
    found = {one: await _tally_of_fish(session, angler_id, one) for one in of_fish}
    for asked in together.values():
        found |= await _tallies_together(session, angler_id, asked)
    return [found[one] for one in questions]


def _is_joined(name: DimensionName) -> bool:
    """Return whether something stands elsewhere than with what was fished: where it is asked, only what has it is looked at."""
    return name in OF_THE_RIVER or name in OF_THE_SETTING or DIMENSIONS[name].of_engine


def _effort(question: Question) -> tuple[ColumnElement[int], ColumnElement[float]]:
    """Return the drifts, and the minutes that are asked for."""
    in_zone = question.per == "zone_hour"
    minutes = Effort.minutes * Foretold.in_zone if in_zone else Effort.minutes
    return func.sum(Effort.drifts), func.sum(minutes)


def _fished(angler_id: UUID, questions: Iterable[Question]) -> _Fished:
    """Return what an angler fished, beside all that some questions ask by."""
    asked = {name for one in questions for name in one.dimensions}
    return _Fished(angler_id, asked, engine=any(one.per == "zone_hour" for one in questions))


async def _tallies_together(
    session: AsyncSession, angler_id: UUID, questions: Sequence[Question]
) -> dict[Question, Tally]:
    """Return the tallies of questions that differ only in what is counted, and by what."""
    sets = {one.by: _groups(one.by) for one in questions}
    hits = {one.measure: func.sum(HITS[one.measure]) for one in questions}
    groups = list(dict.fromkeys(group for groups in sets.values() for group in groups))
    which = [func.grouping(KEYS[by]) for by in sets]
    statement = (
        _fished(angler_id, questions)
        .select(*which, *groups, *hits.values(), *_effort(questions[0]))
        .where(*_only(questions[0].only))
        .group_by(func.grouping_sets(*(tuple_(*one) for one in sets.values())))
    )
    columns = await columns_of(session, statement)
    in_set = {by: [left == 0 for left in columns.pop(0)] for by in sets}
    of_group = dict(zip(groups, columns, strict=False))
    *counts, drifts, minutes = columns[len(groups) :]
    of_hits = dict(zip(hits, counts, strict=True))
    found: dict[Question, Tally] = {}
    for by, its_groups in sets.items():
        here = [
            is_so and part is not None for is_so, part in zip(in_set[by], of_group[KEYS[by]], strict=True)
        ]
        outings, parts, water = (list(compress(of_group[group], here)) for group in its_groups)
        counted = [list(compress(one, here)) for one in (drifts, minutes)]
        # of what is counted of the same drifts the columns are the same, and are handed about once
        whole = _tally(outings, parts, water, [], *counted)
        for one in questions:
            if one.by == by:
                found[one] = whole._replace(hits=list(compress(of_hits[one.measure], here)))
    return found


async def _tally_of_fish(session: AsyncSession, angler_id: UUID, question: Question) -> Tally:
    """Return the same where only fish say which part it was: a drift is there under each of its parts, with the fish of that
    one. In what the database returns the parts stand side by side, since the drifts are theirs in common.
    """
    fished = _fished(angler_id, (question,))
    by, asked = question.by, _of_fish(question.only)
    parts = {"": and_(true(), *asked)}
    if by in SAID_OF_FISH:
        parts = {part: and_(SAID_OF_FISH[by] == part, *asked) for part in DIMENSIONS[by].parts()}
    hits = [func.sum(one) for one in fished.count_fish(parts)]
    whole = [] if by in SAID_OF_FISH else [KEYS[by]]
    flies = [_UNDER_DRY, _WITH_DROPPER] if "took" in question.dimensions else []
    groups = [PLACE, *whole, *flies, _water(by)]
    everything = fished.select(*groups, *hits, *_effort(question))
    statement = everything.where(*_only(question.only)).group_by(*groups)
    outings, *rest = await columns_of(session, statement)
    wholes = rest.pop(0) if whole else []
    hung_on = [HUNG_ON[hung] for hung in zip(rest.pop(0), rest.pop(0), strict=True)] if flies else []
    water, *counts, drifts, minutes = rest
    narrowed = {one.dimension: one.part for one in question.only}
    found: list[list[Any]] = [[] for _ in Tally._fields]
    for part, count in zip(parts, counts, strict=True):
        if part not in ("", narrowed.get(by, part)):
            continue
        took = narrowed.get("took", part if by == "took" else None)
        of_it = [took in hung for hung in hung_on] if took else [True] * len(outings)
        columns = (outings, [part] * len(outings) if part else wholes, water, count, drifts, minutes)
        for so_far, more in zip(found, columns, strict=True):
            so_far.extend(compress(more, of_it))
    return _tally(*found)


SET_BEFORE = timedelta(hours=36)
"""What was set longer ago is not on the rod any more (stated here)."""


async def tally_since(session: AsyncSession, angler_id: UUID, by: DimensionName, since: datetime) -> Tally:
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
        .where(Effort.at >= since - SET_BEFORE)
        .group_by(*groups)
    )
    return _tally(*await columns_of(session, statement))


async def behind(
    session: AsyncSession, angler_id: UUID, question: Question, part: str, *, most: int
) -> Sequence[tuple[Outing, str]]:
    """Return the newest outings on which a part of what is asked was fished, each with its beat's name: those with such a fish,
    where that is all that is known.
    """
    narrowed = (*question.only, Only(question.by, part))
    fished = _Fished(angler_id, question.dimensions, engine=question.per == "zone_hour")
    if asked := _of_fish(narrowed):
        fished.narrow_to_fish(and_(*asked))
    on = fished.select(Effort.outing_id).where(*_only(narrowed)).distinct()
    statement = (
        select(Outing, Beat.name)
        .join(Beat, AT_BEAT)
        .where(Outing.angler_id == angler_id, Outing.id.in_(on))
        .order_by(Outing.started_at.desc(), Outing.id.desc())
        .limit(most)
    )
    return [(outing, beat) for outing, beat in (await found_for(session, statement)).all()]


async def names(session: AsyncSession, angler_id: UUID) -> dict[str, str]:
    """Return what an angler's lies and beats are called, by their ids."""
    named = [select(table.id, table.name).where(table.angler_id == angler_id) for table in (Lie, Beat)]
    return {str(row): name for row, name in (await found_for(session, union_all(*named))).all()}


async def parts(session: AsyncSession, angler_id: UUID, dimension: DimensionName) -> dict[str, int]:
    """Return the parts of a dimension that were fished, most drifts first, each with its drifts."""
    if dimension in SAID_OF_FISH:
        drifted: Counter[str] = Counter()
        fished_so = await tally(session, angler_id, Question(dimension, "fish"))
        for key, count in zip(fished_so.part, fished_so.drifts, strict=True):
            drifted[key] += count
        return dict(drifted.most_common())
    part = KEYS[dimension]
    drifts = func.sum(Effort.drifts)
    fished = _Fished(angler_id, (dimension,))
    statement = fished.select(part, drifts).where(part.is_not(None)).group_by(part)
    found = (await found_for(session, statement.order_by(drifts.desc(), part))).all()
    return {key: int(count) for key, count in found}


async def outline(session: AsyncSession, angler_id: UUID) -> dict[DimensionName, dict[str, int]]:
    """Return the drifts of every part of what is commonly asked by."""
    keys = [KEYS[name] for name in OUTLINE]
    sets = func.grouping_sets(*(tuple_(key) for key in keys))
    which = [func.grouping(key) for key in keys]
    statement = (
        _Fished(angler_id, OUTLINE, most=OUTLINED)
        .select(*which, *keys, func.sum(Effort.drifts))
        .group_by(sets)
    )
    found: dict[DimensionName, dict[str, int]] = {name: {} for name in OUTLINE}
    for row in (await found_for(session, statement)).all():
        place = next(k for k in range(len(keys)) if row[k] == 0)
        key = row[len(keys) + place]
        if key is not None:
            found[OUTLINE[place]][key] = int(row[-1])
    return found | await _outline_of_fish(session, angler_id)


async def _outline_of_fish(session: AsyncSession, angler_id: UUID) -> dict[DimensionName, dict[str, int]]:
    statement = (
        select(Caught.fly, Caught.phase, func.sum(Caught.fish))
        .where(Caught.angler_id == angler_id, Caught.outing_id.in_(select(_newest(angler_id, OUTLINED).c.id)))
        .group_by(Caught.fly, Caught.phase)
    )
    took: Counter[str] = Counter()
    moment: Counter[str] = Counter()
    for fly, phase, fish in (await found_for(session, statement)).all():
        took[fly] += int(fish)
        moment[phase] += int(fish)
    return {"took": took, "moment": moment}
