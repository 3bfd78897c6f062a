"""The log: outings, stops, settings, drifts, fish, notes; every writing of it; and what is counted of it."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    Computed,
    SmallInteger,
    String,
    Text,
    UniqueConstraint,
    false,
    func,
    text,
)
from sqlalchemy.orm import Mapped, MappedColumn, mapped_column

from deriva.core.record.forms import FORM
from deriva.service.store.models.base import Base, Owned, by, of_angler, under


class Outing(Owned, Base):
    """A day or part of one on a beat, with the conditions frozen at its start."""

    __tablename__ = "outing"
    __table_args__ = (
        under("beat", "beat_id"),
        by("outing_beat", "beat_id"),
        by("outing_started_at", "started_at", "id"),
        by("outing_open", postgresql_where=text("ended_at is null and not gone")),
    )
    beat_id: Mapped[UUID]
    started_at: Mapped[datetime]
    ended_at: Mapped[datetime | None]
    conditions: Mapped[dict[str, Any]]
    gone: Mapped[bool] = mapped_column(server_default=false(), default=False)
    """Taken back. The row stays, so that two devices agree that it was."""


class Note(Owned, Base):
    """What was noted of an outing, or of one stop or fish of it."""

    __tablename__ = "note"
    __table_args__ = (
        under("outing", "outing_id"),
        under("stop", "stop_id"),
        under("catch", "catch_id"),
        by("note_outing", "outing_id"),
        by("note_stop", "stop_id"),
        by("note_catch", "catch_id"),
    )
    outing_id: Mapped[UUID]
    stop_id: Mapped[UUID | None]
    catch_id: Mapped[UUID | None]
    at: Mapped[datetime]
    text: Mapped[str] = mapped_column(String(2000))
    gone: Mapped[bool] = mapped_column(server_default=false(), default=False)


def written_form() -> MappedColumn[int]:
    """Hold of which form a situation or a rig is as it is written down: what is not of the newest is read by
    :mod:`deriva.core.record.forms`.
    """
    return mapped_column(SmallInteger, server_default=str(FORM))


def _in_water(field: str, kind: str) -> MappedColumn[Any]:
    """Hold a field of the water that a stop was fished in, in a column of its own."""
    of_kind = Text() if kind == "text" else None
    return mapped_column(of_kind, Computed(f"(situation -> 'water' ->> '{field}')::{kind}"))


class Stop(Owned, Base):
    """A stay at one lie, with the situation as it was read there."""

    __tablename__ = "stop"
    __table_args__ = (
        under("outing", "outing_id"),
        under("lie", "lie_id"),
        by("stop_outing", "outing_id"),
        by("stop_lie", "lie_id"),
    )
    outing_id: Mapped[UUID]
    lie_id: Mapped[UUID]
    at: Mapped[datetime]
    situation: Mapped[dict[str, Any]]
    form: Mapped[int] = written_form()
    depth_m: Mapped[float | None] = _in_water("depth_m", "float")
    surface_speed_m_s: Mapped[float | None] = _in_water("surface_speed_m_s", "float")
    temperature_c: Mapped[float | None] = _in_water("temperature_c", "float")
    clarity_m: Mapped[float | None] = _in_water("clarity_m", "float")
    kind: Mapped[str | None] = _in_water("kind", "text")
    flow_class: Mapped[str | None] = _in_water("flow_class", "text")
    wind_m_s: Mapped[float | None] = mapped_column(Computed("(situation -> 'place' ->> 'wind_m_s')::float"))
    light: Mapped[str | None] = mapped_column(Text, Computed("situation ->> 'light'"))


class Setting(Owned, Base):
    """A rig as set: never edited, a change makes a new one. Under a single dry nothing hangs, so it has no depth."""

    __tablename__ = "setting"
    __table_args__ = (under("stop", "stop_id"), by("setting_stop", "stop_id"), by("setting_fly", "fly"))
    stop_id: Mapped[UUID]
    at: Mapped[datetime]
    rig: Mapped[str] = mapped_column(String(12))
    depth_setting_m: Mapped[float | None]
    point_bead_mm: Mapped[float | None]
    setup: Mapped[dict[str, Any]]
    form: Mapped[int] = written_form()
    fly: Mapped[str | None] = mapped_column(
        String, Computed("case when rig = 'dry' then setup ->> 'float' else setup ->> 'point_form' end")
    )
    """The point fly, or the single dry, in the words of the box."""
    hook: Mapped[int | None] = mapped_column(Computed("(setup ->> 'point_hook')::numeric::integer"))


UNTOLD = "(weed or (direction = 'down' and pace = 'slower' and outcome = 'clean')) and not undone"
"""Drifts that tell nothing of the bed (:attr:`deriva.core.coach.ask.Asked.told`); those of a tight line do, if not weeded."""


class Drift(Owned, Base):
    """One presentation and how it ended. An undone one keeps its row, so that an undo can be seen and synced."""

    __tablename__ = "drift"
    __table_args__ = (
        under("setting", "setting_id"),
        by("drift_setting", "setting_id", postgresql_include=["outcome", "undone"]),
        by("drift_lost", "at", "setting_id", postgresql_where=text("outcome = 'lost_fly' and not undone")),
        by(
            "drift_untold",
            "setting_id",
            postgresql_include=["outcome", "weed"],
            postgresql_where=text(UNTOLD),
        ),
    )
    setting_id: Mapped[UUID]
    at: Mapped[datetime]
    outcome: Mapped[str] = mapped_column(String(10))
    pace: Mapped[str | None] = mapped_column(String(10))
    lane: Mapped[int | None]
    """Current lanes across, the nearest is 1."""
    stance: Mapped[int | None]
    """Places to stand, the lowest downstream is 1."""
    direction: Mapped[str | None] = mapped_column(String(4))
    dried: Mapped[bool] = mapped_column(server_default=false(), default=False)
    weed: Mapped[bool] = mapped_column(server_default=false(), default=False)
    lost: Mapped[str | None] = mapped_column(String(10))
    undone: Mapped[bool] = mapped_column(default=False)


class Effort(Base):
    """What was fished with a setting in one lane (0: not said), without what was undone: counted by the database at every
    writing of drifts, in the transaction that writes them, with what is known of the setting and of its stop (neither is ever
    edited).
    """

    __tablename__ = "effort"
    __table_args__ = (under("outing", "outing_id"),)
    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    outing_id: Mapped[UUID] = mapped_column(primary_key=True)
    setting_id: Mapped[UUID] = mapped_column(primary_key=True)
    lane: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    lie_id: Mapped[UUID]
    at: Mapped[datetime]
    rig: Mapped[str] = mapped_column(String(12))
    bead_mm: Mapped[float | None]
    fly: Mapped[str | None]
    hook: Mapped[int | None]
    share: Mapped[float | None]
    """The setting against the depth."""
    depth_m: Mapped[float | None]
    surface_speed_m_s: Mapped[float | None]
    temperature_c: Mapped[float | None]
    clarity_m: Mapped[float | None]
    wind_m_s: Mapped[float | None]
    light: Mapped[str | None] = mapped_column(Text)
    kind: Mapped[str | None] = mapped_column(Text)
    flow_class: Mapped[str | None] = mapped_column(Text)
    drifts: Mapped[int]
    fish: Mapped[int]
    missed: Mapped[int]
    ticks: Mapped[int]
    hung: Mapped[int]
    """Lost flies among them."""
    minutes: Mapped[float]
    """As :func:`deriva.core.learn.effort.minutes` has it."""


class Caught(Base):
    """Drifts that brought fish to hand, by what was said of the fish: counted by the database as drifts and fish are written,
    by setting and lane as :class:`Effort` is. A drift that brought two that were not alike is there twice.
    """

    __tablename__ = "caught"
    __table_args__ = (under("outing", "outing_id"), by("caught_species", "species"))
    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    outing_id: Mapped[UUID] = mapped_column(primary_key=True)
    setting_id: Mapped[UUID] = mapped_column(primary_key=True)
    lane: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    fly: Mapped[str] = mapped_column(String(10), primary_key=True)
    phase: Mapped[str] = mapped_column(String(10), primary_key=True)
    species: Mapped[str] = mapped_column(String(60), primary_key=True)
    fish: Mapped[int]
    longest_mm: Mapped[float | None]


class Foretold(Base):
    """What the drift engine says of a setting in the water that was believed when it was fished, worked out once: neither
    setting nor stop is ever edited. Nulls: a rig that cannot hang as it is written down.
    """

    __tablename__ = "foretold"
    __table_args__ = (under("setting", "setting_id"),)
    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    setting_id: Mapped[UUID] = mapped_column(primary_key=True)
    engine: Mapped[int]
    """Which engine said so; what another said is said anew."""
    ranked: Mapped[str | None] = mapped_column(String(10))
    """Where its rig stands among those that are advised there."""
    in_zone: Mapped[float | None]
    tick: Mapped[float | None]
    hung: Mapped[float | None]


class Catch(Owned, Base):
    """A fish brought to hand on a drift."""

    __tablename__ = "catch"
    __table_args__ = (
        under("drift", "drift_id"),
        by("catch_drift", "drift_id"),
        by("catch_measured", "at", postgresql_where=text("length_how = 'measured' and not undone")),
    )
    drift_id: Mapped[UUID]
    at: Mapped[datetime]
    species: Mapped[str] = mapped_column(String(60))
    length_mm: Mapped[float | None]
    length_how: Mapped[str] = mapped_column(String(10))
    fly: Mapped[str] = mapped_column(String(10))
    phase: Mapped[str] = mapped_column(String(10))
    condition: Mapped[str | None] = mapped_column(String(10))
    undone: Mapped[bool] = mapped_column(default=False)


class LogEntry(Base):
    """One thing that a device wrote to the log, kept for good: the newest by :attr:`at` is what stands, the others are its
    history. ``position`` counts an angler's changes in the order that they were taken in, without a gap.
    """

    __tablename__ = "change"
    __table_args__ = (
        of_angler(),
        UniqueConstraint("angler_id", "id"),
        by("change_record", "record", "at"),
    )
    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    position: Mapped[int] = mapped_column(BigInteger, primary_key=True, autoincrement=False)
    id: Mapped[UUID]
    device: Mapped[UUID]
    sequence: Mapped[int] = mapped_column(BigInteger)
    kind: Mapped[str] = mapped_column(String(10))
    record: Mapped[UUID]
    at: Mapped[datetime]
    """When it was written, by the device's clock, but never later than it was taken in."""
    zone: Mapped[str] = mapped_column(String(64))
    body: Mapped[dict[str, Any]]
    taken_at: Mapped[datetime] = mapped_column(server_default=func.now())
    filed: Mapped[bool] = mapped_column(server_default=false(), default=False)
    """Taken in with a file: no device is told of the taps of years that another account had."""
