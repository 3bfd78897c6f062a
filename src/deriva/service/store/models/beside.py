"""What is an angler's beside river and log: the box, games that were played, work under way."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    String,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from deriva.service.store.models.base import Base, Owned, by, of_angler, under


class PracticeGame(Owned, Base):
    """A game that was played to its end: its water is made of drill and seed, so the casts are all there is to keep."""

    __tablename__ = "practice_game"
    __table_args__ = (of_angler(), by("practice_game_at", "at"))
    at: Mapped[datetime]
    drill: Mapped[str] = mapped_column(String(20))
    seed: Mapped[int]
    casts: Mapped[list[dict[str, Any]]] = mapped_column(JSONB)
    zone_s: Mapped[float]
    best_s: Mapped[float]
    share: Mapped[float]
    low: Mapped[float]
    high: Mapped[float]
    passed: Mapped[bool]


class BoxItem(Owned, Base):
    """A kind of fly, dry or float in the box, and how many of it when they were last counted.

    One that was taken out keeps its row (``gone``), so that two devices agree that it was.
    """

    __tablename__ = "box_item"
    __table_args__ = (of_angler(),)
    kind: Mapped[str] = mapped_column(String(8))
    form: Mapped[str] = mapped_column(String(80))
    hook: Mapped[int | None]
    bead_mm: Mapped[float | None]
    material: Mapped[str] = mapped_column(String(10), default="tungsten")
    dressing: Mapped[str | None] = mapped_column(String(10))
    tone: Mapped[str] = mapped_column(String(10), server_default="natural", default="natural")
    mark: Mapped[str] = mapped_column(String(10), server_default="none", default="none")
    size_mm: Mapped[float | None]
    count: Mapped[int]
    counted_at: Mapped[datetime]
    tank: Mapped[dict[str, Any] | None]
    drag_factor: Mapped[float | None]
    gone: Mapped[bool] = mapped_column(default=False)


class Job(Owned, Base):
    """A file being taken in, of a gauge's past or of a log: how far it is, and how it ended."""

    __tablename__ = "job"
    __table_args__ = (of_angler(), under("gauge", "gauge_id"), by("job_gauge", "gauge_id"))
    kind: Mapped[str] = mapped_column(String(12), server_default="gauge")
    gauge_id: Mapped[UUID | None]
    """The gauge that the file is of, if it is of one."""
    state: Mapped[str] = mapped_column(String(12))
    rows: Mapped[int] = mapped_column(BigInteger)
    share: Mapped[float]
    message: Mapped[str] = mapped_column(String(400))
    result: Mapped[dict[str, Any] | None]
    """What came of it, by its kind."""
    started_at: Mapped[datetime]
    alive_at: Mapped[datetime] = mapped_column(server_default=func.now())
    """When the process that takes it in last said so: what has been silent for long was given up with it."""
    ended_at: Mapped[datetime | None]
