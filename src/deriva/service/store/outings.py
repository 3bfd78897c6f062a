"""Outings with their stops, settings, drifts and fish."""

from collections import defaultdict
from collections.abc import Collection, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ColumnElement, Select, and_, exists, extract, false, func, literal, or_, select, tuple_
from sqlalchemy.ext.asyncio import AsyncSession
from sqlalchemy.orm import InstrumentedAttribute

from deriva.core.learn.find import BIG_MM, COUNTED, Field, Word
from deriva.service.store.models import (
    Base,
    Beat,
    Catch,
    Drift,
    Effort,
    Lie,
    Note,
    Outing,
    Setting,
    Stop,
)

FIELDS: dict[str, InstrumentedAttribute[Any]] = {
    "beat": Outing.beat_id,
    "lie": Stop.lie_id,
    "kind": Stop.kind,
    "flow": Stop.flow_class,
    "light": Stop.light,
    "rig": Setting.rig,
    "fly": Setting.fly,
    "species": Catch.species,
}
"""Where what a word may mean stands."""

AT_BEAT = and_(Beat.angler_id == Outing.angler_id, Beat.id == Outing.beat_id)
AT_LIE = and_(Lie.angler_id == Stop.angler_id, Lie.id == Stop.lie_id)
OF_STOP = and_(Setting.angler_id == Stop.angler_id, Setting.stop_id == Stop.id)
OF_SETTING = and_(Drift.angler_id == Setting.angler_id, Drift.setting_id == Setting.id)
OF_DRIFT = and_(Catch.angler_id == Drift.angler_id, Catch.drift_id == Drift.id)
OF_FISH = and_(OF_DRIFT, Drift.outcome == "fish")
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
    return [(outing, beat) for outing, beat in (await session.execute(statement)).all()]


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
        return extract(field, Outing.started_at).in_([int(key) for key in keys])
    if field == "note":
        return Outing.id.in_(_noted(angler_id, keys[0]))
    had_fish = exists().where(Effort.angler_id == angler_id, Effort.outing_id == Outing.id, Effort.fish > 0)
    if field in ("fish", "blank"):
        return had_fish if field == "fish" else ~had_fish
    if field == "big":
        return _has(angler_id, Catch.length_mm >= BIG_MM, Setting, Drift, Catch)
    column = FIELDS[field]
    under: dict[str, tuple[type[Base], ...]] = {
        "rig": (Setting,),
        "fly": (Setting,),
        "species": (Setting, Drift, Catch),
    }
    wanted = column.in_([UUID(key) for key in keys] if field == "lie" else keys)
    return _has(angler_id, wanted, *under.get(field, ()))


def _has(angler_id: UUID, wanted: ColumnElement[bool], *under: type[Base]) -> ColumnElement[bool]:
    """Return that an outing has something under it: looked up outing by outing, the newest first, until a page is full."""
    statement = select(literal(1)).select_from(Stop)
    how = {Setting: OF_STOP, Drift: OF_SETTING, Catch: OF_FISH}  # the index of drifts knows which brought one
    for table in under:
        statement = statement.join(table, how[table])
    return (
        statement.where(Stop.angler_id == angler_id, Stop.outing_id == Outing.id, wanted)
        .correlate(Outing)
        .exists()
    )


def _noted(angler_id: UUID, text: str) -> Select[UUID]:
    """Return the outings of whose notes one has a word that begins so."""
    has = func.to_tsvector("simple", Note.text).op("@@")(func.to_tsquery("simple", f"'{text}':*"))
    return select(Note.outing_id).where(Note.angler_id == angler_id, Note.gone.is_(False), has)


async def named(session: AsyncSession, angler_id: UUID) -> dict[Field, list[tuple[str, str]]]:
    """Return what an outing may be found by, and its key: beats, lies with what is noted of them, flies, species."""
    beats = await session.execute(select(Beat.id, Beat.name).where(Beat.angler_id == angler_id))
    lies = await session.execute(select(Lie.id, Lie.name, Lie.notes).where(Lie.angler_id == angler_id))
    flies = await session.execute(
        select(Setting.fly).where(Setting.angler_id == angler_id, Setting.fly.is_not(None)).distinct()
    )
    species = await session.execute(select(Catch.species).where(Catch.angler_id == angler_id).distinct())
    return {
        "beat": [(str(row), name) for row, name in beats.all()],
        "lie": [(str(row), f"{name} {notes}") for row, name, notes in lies.all()],
        "fly": [(fly, fly) for fly in flies.scalars().all() if fly is not None],
        "species": [(one, one) for one in species.scalars().all()],
    }


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
    for outing_id, outcome, count in (await session.execute(statement)).all():
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
