"""Rivers with their beats and lies, what was read of them, and what gauges and the sky said."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Index,
    String,
    false,
    text,
)
from sqlalchemy.orm import Mapped, mapped_column

from deriva.service.store.models.base import Base, Owned, by, of_angler, under


class River(Owned, Base):
    """A river."""

    __tablename__ = "river"
    __table_args__ = (of_angler(),)
    name: Mapped[str] = mapped_column(String(80))
    latitude: Mapped[float | None]
    longitude: Mapped[float | None]
    weather_url: Mapped[str | None] = mapped_column(String(500))
    weather_read_at: Mapped[datetime | None]
    weather_trouble: Mapped[str | None] = mapped_column(String(300))
    weather_due_at: Mapped[datetime | None]
    weather_failures: Mapped[int] = mapped_column(server_default="0", default=0)


class WeatherHour(Base):
    """The weather of one hour over a river: seen, or foretold where it lies ahead."""

    __tablename__ = "weather_hour"
    __table_args__ = (under("river", "river_id"),)
    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    river_id: Mapped[UUID] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(primary_key=True)
    air_c: Mapped[float]
    wind_m_s: Mapped[float]
    cloud: Mapped[float]
    rain_mm_h: Mapped[float]
    thunder: Mapped[float]


class Beat(Owned, Base):
    """A stretch of river with its rules."""

    __tablename__ = "beat"
    __table_args__ = (under("river", "river_id"), by("beat_river", "river_id"))
    river_id: Mapped[UUID]
    name: Mapped[str] = mapped_column(String(80))
    position: Mapped[int]
    rules: Mapped[dict[str, Any]]
    rules_text: Mapped[str] = mapped_column(String(2000), default="")
    wading_allowed: Mapped[bool] = mapped_column(default=True)
    flows_to_deg: Mapped[float | None]
    """Which way the beat runs, clockwise from north."""
    species: Mapped[str] = mapped_column(String(20), server_default="brown trout")
    retired: Mapped[bool] = mapped_column(server_default=false(), default=False)
    """Not fished any more: what was fished on it stays in the log."""


class Lie(Owned, Base):
    """A place a fish holds: kind, place along the beat, bed."""

    __tablename__ = "lie"
    __table_args__ = (under("beat", "beat_id"), by("lie_beat", "beat_id"))
    beat_id: Mapped[UUID]
    name: Mapped[str] = mapped_column(String(80))
    kind: Mapped[str] = mapped_column(String(20))
    bed: Mapped[str] = mapped_column(String(10))
    along_m: Mapped[float]
    notes: Mapped[str] = mapped_column(String(2000), default="")
    school: Mapped[dict[str, Any] | None]
    """None: the angler's own."""
    latitude: Mapped[float | None]
    longitude: Mapped[float | None]
    retired: Mapped[bool] = mapped_column(server_default=false(), default=False)


class Reading(Owned, Base):
    """What was seen at a lie at one time: depth, speed, clarity, temperature and how the angler stands to it."""

    __tablename__ = "reading"
    __table_args__ = (
        under("lie", "lie_id"),
        by("reading_lie_at", "lie_id", "at", "id"),
        by("reading_at_no_flow", "lie_id", postgresql_where=text("flow_m3_s is null")),
    )
    lie_id: Mapped[UUID]
    at: Mapped[datetime]
    depth_m: Mapped[float]
    depth_sd_m: Mapped[float]
    depth_how: Mapped[str] = mapped_column(String(10))
    surface_speed_m_s: Mapped[float]
    speed_error_m_s: Mapped[float | None]
    speed_how: Mapped[str] = mapped_column(String(10))
    clarity_m: Mapped[float]
    temperature_c: Mapped[float]
    distance_m: Mapped[float]
    wind_m_s: Mapped[float]
    tight_casting: Mapped[bool]
    clarity_how: Mapped[str] = mapped_column(String(10), server_default="boots")
    feeding: Mapped[str | None] = mapped_column(String(10))
    """None: as rises and net say."""
    rises: Mapped[str] = mapped_column(String(12), server_default="none")
    found: Mapped[list[dict[str, Any]]] = mapped_column(server_default="[]", default=list)
    flow_class: Mapped[str] = mapped_column(String(20))
    undertow: Mapped[bool]
    refusing: Mapped[bool] = mapped_column(server_default=false(), default=False)
    spawning: Mapped[bool] = mapped_column(server_default=false(), default=False)
    cover: Mapped[list[str]] = mapped_column(server_default="[]", default=list)
    under_line_m_s: Mapped[float | None]
    """How fast the water under the line runs; None: as is usual for the kind of lie."""
    flow_m3_s: Mapped[float | None]
    """The river's flow at that time, once the gauge has said it."""


class Sounding(Owned, Base):
    """What the bottom was found to be at one spot of a lie: a lane from the near one, a stance from the lowest."""

    __tablename__ = "sounding"
    __table_args__ = (
        under("lie", "lie_id"),
        by("sounding_lie_at", "lie_id", "at", "id"),
        by("sounding_at_no_flow", "lie_id", postgresql_where=text("flow_m3_s is null")),
    )
    lie_id: Mapped[UUID]
    at: Mapped[datetime]
    lane: Mapped[int]
    stance: Mapped[int]
    depth_m: Mapped[float]
    depth_sd_m: Mapped[float]
    flow_m3_s: Mapped[float | None]
    """The river's flow at that time, once the gauge has said it."""
    gone: Mapped[bool] = mapped_column(server_default=false(), default=False)


class Gauge(Owned, Base):
    """A gauge of a river: where it is read, when it last answered, and what went wrong if it did not."""

    __tablename__ = "gauge"
    __table_args__ = (
        under("river", "river_id"),
        by("gauge_river", "river_id"),
        Index("ix_gauge_due_at", "due_at"),
    )
    river_id: Mapped[UUID]
    name: Mapped[str] = mapped_column(String(80))
    format: Mapped[str] = mapped_column(String(10))
    url: Mapped[str | None] = mapped_column(String(500))
    """None: it is not read, its past is taken in from files."""
    daily_url: Mapped[str | None] = mapped_column(String(500))
    tried_at: Mapped[datetime | None]
    read_at: Mapped[datetime | None]
    trouble: Mapped[str | None] = mapped_column(String(300))
    due_at: Mapped[datetime | None]
    """When it is to be read next; one process takes it by moving this on."""
    failures: Mapped[int] = mapped_column(server_default="0", default=0)
    """How often in a row it could not be read: the pause grows with it."""


class GaugeValue(Base):
    """One value of a gauge, SI; None where it is missing, with what its source says of it.

    It references nothing, since that would be looked up for every value of a file: a trigger removes the values with their
    gauge, and who writes any holds the gauge meanwhile.
    """

    __tablename__ = "gauge_value"
    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    gauge_id: Mapped[UUID] = mapped_column(primary_key=True)
    parameter: Mapped[str] = mapped_column(String(12), primary_key=True)
    daily: Mapped[bool] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(primary_key=True)
    value: Mapped[float | None]
    worth: Mapped[str] = mapped_column(String(12))
    code: Mapped[str] = mapped_column(String(40))
