"""Anglers, how they sign in, what was written to them, and what they show to others."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    ForeignKey,
    Index,
    String,
    false,
    func,
)
from sqlalchemy.orm import Mapped, mapped_column

from deriva.service.store.models.base import Base, Owned, by, of_angler, under


class Angler(Base):
    """Somebody whose river this is. Who may sign in has an :class:`Account`; the demo angler has none."""

    __tablename__ = "angler"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(80))
    units: Mapped[str] = mapped_column(String(8), default="metric")
    school: Mapped[dict[str, Any]] = mapped_column(default=dict)
    rod: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default="{}")
    demo: Mapped[bool] = mapped_column(default=False)
    changes: Mapped[int] = mapped_column(BigInteger, server_default="0", default=0)
    """The position of the newest change of the angler's log; who raises it holds the row."""
    home_river: Mapped[str] = mapped_column(String(80), server_default="", default="")
    evidence: Mapped[list[dict[str, Any]]] = mapped_column(server_default="[]", default=list)
    """Questions to the log whose answers are shown beside the rig."""
    trial: Mapped[dict[str, Any] | None]
    """What is fished in turns, if anything, and since when."""
    trial_began_at: Mapped[datetime | None]
    eye_error: Mapped[float | None]
    """How far off depths by this angler's eye are, as a share, where the angler let it be learned; None: as usual."""
    asked: Mapped[bool] = mapped_column(server_default=false(), default=False)
    """Whether units, school and home river have been asked for."""
    leaves_at: Mapped[datetime | None]
    """When everything of the angler's will be gone, if leaving was asked for."""
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())


class SignIn(Base):
    """A session: the cookie holds a random token, the table only its hash."""

    __tablename__ = "sign_in"
    token_hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    id: Mapped[UUID] = mapped_column(server_default=func.gen_random_uuid(), unique=True)
    """What the session is called in a list of sessions: not the token, nor its hash."""
    angler_id: Mapped[UUID] = mapped_column(ForeignKey("angler.id", ondelete="CASCADE"), index=True)
    expires_at: Mapped[datetime]
    agent: Mapped[str] = mapped_column(String(200), server_default="", default="")
    opened_at: Mapped[datetime] = mapped_column(server_default=func.now())
    seen_at: Mapped[datetime] = mapped_column(server_default=func.now())


class Account(Base):
    """How an angler signs in: an address and a password's hash. One that is not active may not."""

    __tablename__ = "account"
    id: Mapped[UUID] = mapped_column(ForeignKey("angler.id", ondelete="CASCADE"), primary_key=True)
    email: Mapped[str] = mapped_column(String(254), unique=True)
    hashed_password: Mapped[str] = mapped_column(String(300))
    is_active: Mapped[bool] = mapped_column(default=True)
    is_verified: Mapped[bool] = mapped_column(default=False)


class Ticket(Base):
    """What a letter's link carries, by its hash: to confirm an address, or to set a new password. It is used once."""

    __tablename__ = "ticket"
    hash: Mapped[str] = mapped_column(String(64), primary_key=True)
    account_id: Mapped[UUID] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), index=True)
    purpose: Mapped[str] = mapped_column(String(8))
    expires_at: Mapped[datetime]


class Mail(Base):
    """A letter on the queue: to whom and what about. It is written when it is sent, and what was written is kept on the demo
    start alone, whose outbox is simulated.
    """

    __tablename__ = "mail"
    id: Mapped[UUID] = mapped_column(primary_key=True)
    account_id: Mapped[UUID] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"))
    at: Mapped[datetime] = mapped_column(server_default=func.now(), index=True)
    to: Mapped[str] = mapped_column(String(254))
    about: Mapped[str] = mapped_column(String(8))
    tries: Mapped[int] = mapped_column(default=0)
    due_at: Mapped[datetime | None] = mapped_column(index=True)
    """When it is to be tried next; None once it was sent, or given up."""
    sent_at: Mapped[datetime | None]
    subject: Mapped[str | None] = mapped_column(String(120))
    text: Mapped[str | None] = mapped_column(String(2000))


class KnownPlace(Base):
    """An account and a place from which it was signed in to; ``key`` is a hash of both."""

    __tablename__ = "known_place"
    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    seen_at: Mapped[datetime] = mapped_column(server_default=func.now())


class Attempt(Base):
    """How often something that is limited was tried in one span of time; ``key`` is a hash, no address."""

    __tablename__ = "attempt"
    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    since: Mapped[datetime] = mapped_column(primary_key=True)
    count: Mapped[int]


class Share(Owned, Base):
    """A beat or an outing that another angler may read, until it is taken back. ``reader`` is an address: whether it is
    anybody's is nobody's business. Places are moved by up to ``blur_m``, as :class:`Blur` says.
    """

    __tablename__ = "share"
    __table_args__ = (
        of_angler(),
        under("beat", "beat_id"),
        under("outing", "outing_id"),
        by("share_beat", "beat_id"),
        by("share_outing", "outing_id"),
        Index("ix_share_reader", "reader"),
        CheckConstraint("(beat_id is null) <> (outing_id is null)", name="ck_share_one_thing"),
    )
    reader: Mapped[str] = mapped_column(String(254))
    beat_id: Mapped[UUID | None]
    outing_id: Mapped[UUID | None]
    blur_m: Mapped[float]
    shared_at: Mapped[datetime] = mapped_column(server_default=func.now())
    revoked_at: Mapped[datetime | None]


class Blur(Base):
    """How the places of a river are moved for one reader, drawn once for good: a second draw, or a second distance, would say
    where they are.
    """

    __tablename__ = "blur"
    __table_args__ = (under("river", "river_id"),)
    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    river_id: Mapped[UUID] = mapped_column(primary_key=True)
    reader: Mapped[str] = mapped_column(String(254), primary_key=True)
    blur_m: Mapped[float]
    turn: Mapped[float]
    stretch: Mapped[float]
