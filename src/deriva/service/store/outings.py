"""Outings with their stops, settings, drifts and fish."""

from collections import defaultdict
from collections.abc import Collection, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, Select, and_, extract, false, func, literal, or_, select, tuple_
from sqlalchemy.ext.asyncio import AsyncSession
from sqlalchemy.orm import InstrumentedAttribute

from deriva.core.learn.find import BIG_MM, COUNTED, Field, Word
from deriva.service.store.columns import found_for
from deriva.service.store.models import (
    Beat,
    Catch,
    Caught,
    Drift,
    Effort,
    Lie,
    Note,
    Outing,
    Setting,
    Stop,
)
from deriva.service.store.over_river import outing_began

Under = type[Stop | Effort | Caught]

FIELDS: dict[str, tuple[Under, InstrumentedAttribute[Any]]] = {
    "lie": (Stop, Stop.lie_id),
    "kind": (Stop, Stop.kind),
    "flow": (Stop, Stop.flow_class),
    "light": (Stop, Stop.light),
    "rig": (Effort, Effort.rig),
    "fly": (Effort, Effort.fly),
    "species": (Caught, Caught.species),
}
"""Where what a word may mean stands."""

AT_BEAT = and_(Beat.angler_id == Outing.angler_id, Beat.id == Outing.beat_id)
AT_LIE = and_(Lie.angler_id == Stop.angler_id, Lie.id == Stop.lie_id)
OF_STOP = and_(Setting.angler_id == Stop.angler_id, Setting.stop_id == Stop.id)
OF_SETTING = and_(Drift.angler_id == Setting.angler_id, Drift.setting_id == Setting.id)
OF_DRIFT = and_(Catch.angler_id == Drift.angler_id, Catch.drift_id == Drift.id)
"""How one hangs under another: always with the angler, whose rows lie together."""


async def outings(
    session: AsyncSession,
    angler_id: UUID,
    *,
    before: tuple[datetime, UUID] | None,
    most: int,
    like: Sequence[Word] = (),
) -> Sequence[tuple[Outing, str]]:
    """Return the angler's outings, newest first, each with its beat's name: so many that began before one, or the newest.

    ``like``: only those that fit every word.
    """
    statement = (
        select(Outing, Beat.name)
        .join(Beat, AT_BEAT)
        .where(Outing.angler_id == angler_id, Outing.gone.is_(False), *_fitting(angler_id, like))
        .order_by(Outing.started_at.desc(), Outing.id.desc())
        .limit(most)
    )
    if before is not None:
        statement = statement.where(tuple_(Outing.started_at, Outing.id) < tuple_(*map(literal, before)))
    return [(outing, beat) for outing, beat in (await found_for(session, statement)).all()]


def _fitting(angler_id: UUID, like: Sequence[Word]) -> list[ColumnElement[bool]]:
    """Return what holds of the outings that fit every word: for each, one of the things that it may mean."""
    found: list[ColumnElement[bool]] = []
    for word in like:
        by_field: defaultdict[str, list[str]] = defaultdict(list)
        for field, key in word.means:
            by_field[field].append(key)
        if COUNTED.isdisjoint(by_field):
            by_field["note"] = [word.text]
        found.append(or_(false(), *(_fits(angler_id, field, keys) for field, keys in by_field.items())))
    return found


def _fits(angler_id: UUID, field: str, keys: Sequence[str]) -> ColumnElement[bool]:
    if field == "beat":
        return Outing.beat_id.in_([UUID(key) for key in keys])
    if field in ("month", "year"):
        return extract(field, outing_began()).in_([int(key) for key in keys])
    if field == "note":
        return Outing.id.in_(_noted(angler_id, keys[0]))
    if field in ("fish", "blank"):
        had_fish = _has(angler_id, Effort, Effort.fish > 0)
        return had_fish if field == "fish" else ~had_fish
    if field == "big":
        return _has(angler_id, Caught, Caught.longest_mm >= BIG_MM)
    table, column = FIELDS[field]
    return _has(angler_id, table, column.in_([UUID(key) for key in keys] if field == "lie" else keys))


def _has(angler_id: UUID, table: Under, wanted: ColumnElement[bool]) -> ColumnElement[bool]:
    """Return that an outing has something under it: looked up outing by outing, the newest first, until a page is full. (Asked
    whether there is any, the server gathers those of all outings first.)
    """
    under = select(literal(1)).where(table.angler_id == angler_id, table.outing_id == Outing.id, wanted)
    return under.limit(1).correlate(Outing).scalar_subquery().is_not(None)


def _noted(angler_id: UUID, text: str) -> Select[UUID]:
    """Return the outings of whose notes one has a word that begins so."""
    has = func.to_tsvector("simple", Note.text).op("@@")(func.to_tsquery("simple", f"'{text}':*"))
    return select(Note.outing_id).where(Note.angler_id == angler_id, Note.gone.is_(False), has)


async def named(session: AsyncSession, angler_id: UUID) -> dict[Field, list[tuple[str, str]]]:
    """Return what an outing may be found by, and its key: beats, lies with what is noted of them, flies, species."""
    beats = await session.execute(select(Beat.id, Beat.name).where(Beat.angler_id == angler_id))
    lies = await session.execute(select(Lie.id, Lie.name, Lie.notes).where(Lie.angler_id == angler_id))
    flies = (await session.execute(_different(Setting, Setting.fly.expression, angler_id))).scalars().all()
    species = (
        (await session.execute(_different(Caught, Caught.species.expression, angler_id))).scalars().all()
    )
    return {
        "beat": [(str(row), name) for row, name in beats.all()],
        "lie": [(str(row), f"{name} {notes}") for row, name, notes in lies.all()],
        "fly": [(one, one) for one in flies],
        "species": [(one, one) for one in species],
    }


def _different(table: type[Setting | Caught], column: ColumnElement[Any], angler_id: UUID) -> Select[str]:
    """Return the different values of a column among an angler's rows: each found from the one before by the index, however many
    rows have it.
    """
    least = select(func.min(column)).where(table.angler_id == angler_id)
    found = least.cte("found", recursive=True)
    value = found.c[0]
    found = found.union_all(
        select(least.where(column > value).scalar_subquery().label("next")).where(value.is_not(None))
    )
    return select(found.c[0]).where(found.c[0].is_not(None))


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
    for outing_id, outcome, count in (await found_for(session, statement)).all():
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


async def notes(session: AsyncSession, angler_id: UUID, outing_id: UUID) -> Sequence[Note]:
    """Return what was noted of an outing, in time."""
    statement = select(Note).where(
        Note.angler_id == angler_id, Note.outing_id == outing_id, Note.gone.is_(False)
    )
    return (await session.execute(statement.order_by(Note.at, Note.id))).scalars().all()


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
