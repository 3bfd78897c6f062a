"""Outings as the formats write them: columns alone, a page of outings at a few queries."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from typing import Any, TypeVar
from uuid import UUID

from sqlalchemy import Executable, cast, select, types
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.ranges import FISH_LENGTH_MM
from deriva.core.record.weight import standard_weight
from deriva.service.formats.book import Book, Fish, Setting, Stop
from deriva.service.formats.book import Drift as DriftLine
from deriva.service.store import models as m
from deriva.service.store.outings import AT_LIE, OF_DRIFT, OF_SETTING, OF_STOP

T = TypeVar("T")


async def _under(
    session: AsyncSession,
    statement: Executable,
    kind: type[T],
    more: Mapping[str, Mapping[UUID, Sequence[Any]]],
) -> dict[UUID, list[T]]:
    """Return the rows of a query by what they hang under, which is its first column; ``more``: what hangs under them."""
    found: defaultdict[UUID, list[T]] = defaultdict(list)
    for row in (await session.execute(statement)).mappings():
        values = dict(row)
        parent = values.pop("parent")
        own = values.pop("own") if "own" in values else values["id"]
        found[parent].append(kind(**values, **{name: by.get(own, ()) for name, by in more.items()}))
    return found


def _fish(row: Mapping[str, Any]) -> Fish:
    length = row["length_mm"]
    weight = None
    if length is not None:
        weight = standard_weight(species=row["species"], length_mm=FISH_LENGTH_MM.clamp(length))
    return Fish(**{name: row[name] for name in Fish.__slots__ if name != "weight_g"}, weight_g=weight)


async def books(session: AsyncSession, angler_id: UUID, outings: Sequence[UUID]) -> list[Book]:
    """Return some outings of the angler's in full, in the order that they are asked for."""
    mine = m.Stop.angler_id == angler_id, m.Stop.outing_id.in_(outings)
    caught = (
        select(m.Catch)
        .join(m.Drift, OF_DRIFT)
        .join(m.Setting, OF_SETTING)
        .join(m.Stop, OF_STOP)
        .where(*mine, m.Catch.undone.is_(False), m.Drift.undone.is_(False))
        .order_by(m.Catch.at, m.Catch.id)
    )
    names = [name for name in Fish.__slots__ if name != "weight_g"]
    fish: defaultdict[UUID, list[Fish]] = defaultdict(list)
    columns = [getattr(m.Catch, name) for name in names]
    of_fish = caught.with_only_columns(m.Catch.drift_id, *columns)
    for one in (await session.execute(of_fish)).mappings():
        fish[one["drift_id"]].append(_fish(dict(one)))
    drifts = await _under(
        session,
        select(
            m.Drift.setting_id.label("parent"), m.Drift.id, m.Drift.at, m.Drift.outcome, m.Drift.pace, m.Drift.lane,
            m.Drift.stance, m.Drift.direction, m.Drift.dried, m.Drift.weed, m.Drift.lost,
        )
        .join(m.Setting, OF_SETTING)
        .join(m.Stop, OF_STOP)
        .where(*mine, m.Drift.undone.is_(False))
        .order_by(m.Drift.at, m.Drift.id),
        DriftLine,
        {"fish": fish},
    )  # fmt: skip
    settings = await _under(
        session,
        select(
            m.Setting.stop_id.label("parent"), m.Setting.id.label("own"), m.Setting.at, m.Setting.rig,
            m.Setting.depth_setting_m, m.Setting.point_bead_mm, m.Setting.fly, m.Setting.hook,
            cast(m.Setting.setup["tippet_x"].astext, types.Integer).label("tippet_x"),
        )
        .join(m.Stop, OF_STOP)
        .where(*mine)
        .order_by(m.Setting.at, m.Setting.id),
        Setting,
        {"drifts": drifts},
    )  # fmt: skip
    stops: defaultdict[UUID, list[Stop]] = defaultdict(list)
    of_lie = m.Lie.name, m.Lie.latitude, m.Lie.longitude
    read = (
        select(m.Stop, *of_lie).join(m.Lie, AT_LIE).where(*mine).order_by(m.Stop.at, m.Stop.id)
    ).with_only_columns(
        m.Stop.outing_id, m.Stop.id, m.Stop.at, m.Stop.lie_id, m.Stop.kind, m.Stop.depth_m,
        m.Stop.surface_speed_m_s, m.Stop.clarity_m, m.Stop.temperature_c, *of_lie,
    )  # fmt: skip
    for row in (await session.execute(read)).mappings():
        values = dict(row)
        outing, name = values.pop("outing_id"), values.pop("name")
        place = _place(values.pop("latitude"), values.pop("longitude"))
        stops[outing].append(Stop(**values, lie=name, place=place, settings=settings.get(row["id"], ())))
    notes: defaultdict[UUID, list[str]] = defaultdict(list)
    noted = select(m.Note.outing_id, m.Note.text).where(
        m.Note.angler_id == angler_id, m.Note.outing_id.in_(outings), m.Note.gone.is_(False)
    )
    for outing, text in (await session.execute(noted.order_by(m.Note.at, m.Note.id))).all():
        notes[outing].append(text)
    heads = (
        select(
            m.Outing.id, m.Outing.started_at, m.Outing.ended_at, m.Beat.name, m.River.name.label("river"),
            m.River.latitude, m.River.longitude,
        )
        .join(m.Beat, (m.Beat.angler_id == m.Outing.angler_id) & (m.Beat.id == m.Outing.beat_id))
        .join(m.River, (m.River.angler_id == m.Beat.angler_id) & (m.River.id == m.Beat.river_id))
        .where(m.Outing.angler_id == angler_id, m.Outing.id.in_(outings))
    )  # fmt: skip
    found = {
        row.id: Book(
            row.id, row.name, row.river, _place(row.latitude, row.longitude), row.started_at, row.ended_at,
            notes[row.id], stops[row.id],
        )
        for row in (await session.execute(heads)).all()
    }  # fmt: skip
    return [found[one] for one in outings if one in found]


def _place(latitude: float | None, longitude: float | None) -> tuple[float, float] | None:
    return None if latitude is None or longitude is None else (latitude, longitude)
