"""Tables. Every row belongs to an angler, and is found by angler and id; every reference carries the angler with it, so that
the database itself refuses to hang one angler's row under another's, and all that is an angler's can lie on one machine.

A row hangs under its parent alone, and the parents under the angler: what is removed goes down the same way.
"""

from datetime import datetime
from typing import Any, ClassVar
from uuid import UUID

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    Computed,
    DateTime,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    MetaData,
    String,
    Text,
    UniqueConstraint,
    false,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, MappedColumn, mapped_column


class Base(DeclarativeBase):
    """Declarative base with stable constraint names, for migrations."""

    metadata = MetaData(
        naming_convention={
            "pk": "pk_%(table_name)s",
            "fk": "fk_%(table_name)s_%(referred_table_name)s",
            "uq": "uq_%(table_name)s",
            "ix": "ix_%(table_name)s_%(column_0_name)s",
        }
    )
    type_annotation_map: ClassVar = {
        datetime: DateTime(timezone=True),
        dict[str, Any]: JSONB(none_as_null=True),
        list[dict[str, Any]]: JSONB,
        list[str]: JSONB,
    }


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


class Owned:
    """The key of every row of an angler's; the id is made by whoever writes it (UUIDv7), and is the angler's own affair."""

    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    id: Mapped[UUID] = mapped_column(primary_key=True)


def _of_angler() -> ForeignKeyConstraint:
    """Reference the angler: for what hangs under nothing else."""
    return ForeignKeyConstraint(["angler_id"], ["angler.id"], ondelete="CASCADE")


def _under(table: str, column: str) -> ForeignKeyConstraint:
    """Reference a parent of the same angler."""
    return ForeignKeyConstraint(
        ["angler_id", column], [f"{table}.angler_id", f"{table}.id"], ondelete="CASCADE"
    )


def _by(name: str, *columns: str, **options: Any) -> Index:  # noqa: ANN401
    """Find an angler's rows by something."""
    return Index(f"ix_{name}", "angler_id", *columns, **options)


class River(Owned, Base):
    """A river."""

    __tablename__ = "river"
    __table_args__ = (_of_angler(),)
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
    __table_args__ = (_under("river", "river_id"),)
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
    __table_args__ = (_under("river", "river_id"), _by("beat_river", "river_id"))
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
    __table_args__ = (_under("beat", "beat_id"), _by("lie_beat", "beat_id"))
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


class PracticeGame(Owned, Base):
    """A game that was played to its end: its water is made of drill and seed, so the casts are all there is to keep."""

    __tablename__ = "practice_game"
    __table_args__ = (_of_angler(), _by("practice_game_at", "at"))
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
    __table_args__ = (_of_angler(),)
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


class Reading(Owned, Base):
    """What was seen at a lie at one time: depth, speed, clarity, temperature and how the angler stands to it."""

    __tablename__ = "reading"
    __table_args__ = (
        _under("lie", "lie_id"),
        _by("reading_lie_at", "lie_id", "at", "id"),
        _by("reading_at_no_flow", "lie_id", postgresql_where=text("flow_m3_s is null")),
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
        _under("lie", "lie_id"),
        _by("sounding_lie_at", "lie_id", "at", "id"),
        _by("sounding_at_no_flow", "lie_id", postgresql_where=text("flow_m3_s is null")),
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
        _under("river", "river_id"),
        _by("gauge_river", "river_id"),
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


class Job(Owned, Base):
    """A file being taken in, of a gauge's past or of a log: how far it is, and how it ended."""

    __tablename__ = "job"
    __table_args__ = (_of_angler(), _under("gauge", "gauge_id"), _by("job_gauge", "gauge_id"))
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


class Outing(Owned, Base):
    """A day or part of one on a beat, with the conditions frozen at its start."""

    __tablename__ = "outing"
    __table_args__ = (
        _under("beat", "beat_id"),
        _by("outing_beat", "beat_id"),
        _by("outing_started_at", "started_at", "id"),
        _by("outing_open", postgresql_where=text("ended_at is null and not gone")),
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
        _under("outing", "outing_id"),
        _under("stop", "stop_id"),
        _under("catch", "catch_id"),
        _by("note_outing", "outing_id"),
        _by("note_stop", "stop_id"),
        _by("note_catch", "catch_id"),
    )
    outing_id: Mapped[UUID]
    stop_id: Mapped[UUID | None]
    catch_id: Mapped[UUID | None]
    at: Mapped[datetime]
    text: Mapped[str] = mapped_column(String(2000))
    gone: Mapped[bool] = mapped_column(server_default=false(), default=False)


def _in_water(field: str, kind: str) -> MappedColumn[Any]:
    """Hold a field of the water that a stop was fished in, in a column of its own."""
    of_kind = Text() if kind == "text" else None
    return mapped_column(of_kind, Computed(f"(situation -> 'water' ->> '{field}')::{kind}"))


class Stop(Owned, Base):
    """A stay at one lie, with the situation as it was read there."""

    __tablename__ = "stop"
    __table_args__ = (
        _under("outing", "outing_id"),
        _under("lie", "lie_id"),
        _by("stop_outing", "outing_id"),
        _by("stop_lie", "lie_id"),
    )
    outing_id: Mapped[UUID]
    lie_id: Mapped[UUID]
    at: Mapped[datetime]
    situation: Mapped[dict[str, Any]]
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
    __table_args__ = (_under("stop", "stop_id"), _by("setting_stop", "stop_id"))
    stop_id: Mapped[UUID]
    at: Mapped[datetime]
    rig: Mapped[str] = mapped_column(String(12))
    depth_setting_m: Mapped[float | None]
    point_bead_mm: Mapped[float | None]
    setup: Mapped[dict[str, Any]]
    fly: Mapped[str | None] = mapped_column(
        String, Computed("case when rig = 'dry' then setup ->> 'float' else setup ->> 'point_form' end")
    )
    """The point fly, or the single dry, in the words of the box."""
    hook: Mapped[int | None] = mapped_column(Computed("(setup ->> 'point_hook')::numeric::integer"))


class Drift(Owned, Base):
    """One presentation and how it ended. An undone one keeps its row, so that an undo can be seen and synced."""

    __tablename__ = "drift"
    __table_args__ = (
        _under("setting", "setting_id"),
        _by("drift_setting", "setting_id", postgresql_include=["outcome", "undone"]),
        _by("drift_lost", "at", "setting_id", postgresql_where=text("outcome = 'lost_fly' and not undone")),
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
    undone: Mapped[bool] = mapped_column(default=False)


class Effort(Base):
    """What was fished with a setting in one lane (0: not said), without what was undone: counted by the database at every
    writing of drifts, in the transaction that writes them, with what is known of the setting and of its stop (neither is ever
    edited).
    """

    __tablename__ = "effort"
    __table_args__ = (_under("outing", "outing_id"),)
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


class Foretold(Base):
    """What the drift engine says of a setting in the water that was believed when it was fished, worked out once: neither
    setting nor stop is ever edited. Nulls: a rig that cannot hang as it is written down.
    """

    __tablename__ = "foretold"
    __table_args__ = (_under("setting", "setting_id"),)
    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    setting_id: Mapped[UUID] = mapped_column(primary_key=True)
    engine: Mapped[int]
    """Which engine said so; what another said is said anew."""
    in_zone: Mapped[float | None]
    tick: Mapped[float | None]
    hung: Mapped[float | None]


class Catch(Owned, Base):
    """A fish brought to hand on a drift."""

    __tablename__ = "catch"
    __table_args__ = (_under("drift", "drift_id"), _by("catch_drift", "drift_id"))
    drift_id: Mapped[UUID]
    at: Mapped[datetime]
    species: Mapped[str] = mapped_column(String(60))
    length_mm: Mapped[float | None]
    length_how: Mapped[str] = mapped_column(String(10))
    fly: Mapped[str] = mapped_column(String(10))
    phase: Mapped[str] = mapped_column(String(10))
    condition: Mapped[str | None] = mapped_column(String(10))
    undone: Mapped[bool] = mapped_column(default=False)


class Share(Owned, Base):
    """A beat or an outing that another angler may read, until it is taken back. ``reader`` is an address: whether it is
    anybody's is nobody's business. Places are moved by up to ``blur_m``, as :class:`Blur` says.
    """

    __tablename__ = "share"
    __table_args__ = (
        _of_angler(),
        _under("beat", "beat_id"),
        _under("outing", "outing_id"),
        _by("share_beat", "beat_id"),
        _by("share_outing", "outing_id"),
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
    __table_args__ = (_under("river", "river_id"),)
    angler_id: Mapped[UUID] = mapped_column(primary_key=True)
    river_id: Mapped[UUID] = mapped_column(primary_key=True)
    reader: Mapped[str] = mapped_column(String(254), primary_key=True)
    blur_m: Mapped[float]
    turn: Mapped[float]
    stretch: Mapped[float]


class LogEntry(Base):
    """One thing that a device wrote to the log, kept for good: the newest by :attr:`at` is what stands, the others are its
    history. ``position`` counts an angler's changes in the order that they were taken in, without a gap.
    """

    __tablename__ = "change"
    __table_args__ = (
        _of_angler(),
        UniqueConstraint("angler_id", "id"),
        _by("change_record", "record", "at"),
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
