"""Queries: functions that take a session and flush at most; a use case owns the transaction.

Every function that touches an angler's rows takes the angler's id: this is the one place that keeps anglers apart.
"""

import io
from collections.abc import Collection, Mapping, Sequence
from dataclasses import asdict
from datetime import datetime, timedelta
from typing import Any, TypeVar
from uuid import UUID

from sqlalchemy import Select, delete, func, inspect, or_, select, text, update
from sqlalchemy.dialects.postgresql import distinct_on, insert
from sqlalchemy.exc import IntegrityError
from sqlalchemy.ext.asyncio import AsyncSession
from sqlalchemy.orm import InstrumentedAttribute
from sqlalchemy.sql.dml import ReturningUpdate

from deriva.service.formats.samples import Parameter
from deriva.service.formats.weather import WeatherSample
from deriva.service.store.models import (
    Angler,
    Base,
    Beat,
    Blur,
    BoxItem,
    Catch,
    Change,
    Drift,
    Gauge,
    GaugeImport,
    GaugeValue,
    Lie,
    Outing,
    Owned,
    Reading,
    River,
    Setting,
    Share,
    SignIn,
    Stop,
    WeatherHour,
)

Row = TypeVar("Row", bound=Owned)


class NotYours(LookupError):
    """The row, or the one it hangs under, is not this angler's. Whether it exists at all is not said."""

    def __init__(self, what: str) -> None:
        super().__init__(what)
        self.what = what


async def put(
    session: AsyncSession,
    table: type[Owned],
    angler_id: UUID,
    row_id: UUID,
    values: dict[str, Any],
    *,
    replace: bool,
) -> None:
    """Write a row under the id its writer made: once, however often it is sent.

    With ``replace`` a later version takes the place of the earlier; without, the first one stands.
    """
    columns = inspect(table).local_table.c
    statement = (
        insert(table)
        .values(id=row_id, angler_id=angler_id, **values)
        .on_conflict_do_update(
            index_elements=["id"],
            set_=values if replace else {"id": row_id},
            where=columns.angler_id == angler_id,
        )
        .returning(columns.id)
    )
    try:
        stored = (await session.execute(statement)).scalar_one_or_none()
    except IntegrityError as error:
        if "foreign key" in str(error.orig):
            raise NotYours(str(inspect(table).local_table.name)) from None
        raise
    if stored is None:
        raise NotYours(str(inspect(table).local_table.name))


async def put_many(
    session: AsyncSession,
    table: type[Owned],
    angler_id: UUID,
    rows: Mapping[UUID, dict[str, Any]],
    *,
    replace: bool,
    keep: Collection[str] = (),
) -> set[UUID]:
    """Write rows under the ids their writers made; return which are the angler's: those that are another's are left alone.

    With ``replace`` a later version takes the place of the earlier, but for the columns to ``keep``; without, the first stands.
    """
    if not rows:
        return set()
    target = inspect(table).local_table
    statement = insert(target)
    named = next(iter(rows.values()))
    fresh = {name: statement.excluded[name] for name in named if name not in keep} if replace else {}
    once = statement.on_conflict_do_update(
        index_elements=["id"],
        set_=fresh or {"id": statement.excluded.id},
        where=target.c.angler_id == angler_id,
    ).returning(target.c.id)
    # the rows go in beside the statement, which is then compiled once for any number of them
    values = [{"id": row, "angler_id": angler_id, **one} for row, one in rows.items()]
    return set((await session.execute(once, values)).scalars())


async def owned(
    session: AsyncSession, table: type[Owned], angler_id: UUID, rows: Collection[UUID]
) -> set[UUID]:
    """Return which of these rows are the angler's."""
    statement = select(table.id).where(table.angler_id == angler_id, table.id.in_(rows))
    return set((await session.execute(statement)).scalars()) if rows else set()


async def hold_log(session: AsyncSession, angler_id: UUID) -> int:
    """Hold an angler's log until the transaction ends; return the position of its newest change."""
    statement = select(Angler.changes).where(Angler.id == angler_id).with_for_update()
    return (await session.execute(statement)).scalar_one()


async def known_changes(session: AsyncSession, ids: Collection[UUID]) -> dict[UUID, tuple[UUID, datetime]]:
    """Return whose and of when those of these changes are that have been taken in before."""
    if not ids:
        return {}
    statement = select(Change.id, Change.angler_id, Change.at).where(Change.id.in_(ids))
    return {row: (owner, at) for row, owner, at in (await session.execute(statement)).all()}


async def newest_changes(
    session: AsyncSession, angler_id: UUID, kind: str, records: Collection[UUID]
) -> dict[UUID, tuple[datetime, UUID, int]]:
    """Return the order (time, device, sequence) of the writing that stands, of those records of a kind that have one."""
    if not records:
        return {}
    statement = (
        select(Change.record, Change.at, Change.device, Change.sequence)
        .where(Change.angler_id == angler_id, Change.kind == kind, Change.record.in_(records))
        .ext(distinct_on(Change.record))
        .order_by(Change.record, Change.at.desc(), Change.device.desc(), Change.sequence.desc())
    )
    return {row: (at, device, seq) for row, at, device, seq in (await session.execute(statement)).all()}


async def add_changes(session: AsyncSession, angler_id: UUID, changes: Sequence[dict[str, Any]]) -> None:
    """Add to the history of the angler's log, which must be held; the positions go on from its newest."""
    if not changes:
        return
    await session.execute(insert(Change), [{"angler_id": angler_id, **one} for one in changes])
    newest = changes[-1]["position"]
    await session.execute(update(Angler).where(Angler.id == angler_id).values(changes=newest))


async def open_outing_position(session: AsyncSession, angler_id: UUID, newest: int) -> int:
    """Return the position before the first change of an outing that is still open; that of the newest if none is."""
    statement = (
        select(func.min(Change.position))
        .join(Outing, Outing.id == Change.record)
        .where(
            Change.angler_id == angler_id,
            Outing.angler_id == angler_id,
            Outing.ended_at.is_(None),
            Outing.gone.is_(False),
        )
    )
    first = (await session.execute(statement)).scalar_one_or_none()
    return newest if first is None else first - 1


async def changes_after(
    session: AsyncSession, angler_id: UUID, position: int, *, but_of: UUID, most: int
) -> Sequence[Change]:
    """Return an angler's changes after a position, but those of one device, in order."""
    statement = (
        select(Change)
        .where(Change.angler_id == angler_id, Change.position > position, Change.device != but_of)
        .order_by(Change.position)
        .limit(most)
    )
    return (await session.execute(statement)).scalars().all()


async def get_owned(session: AsyncSession, table: type[Row], angler_id: UUID, row_id: UUID) -> Row:
    """Return a row of the angler's, or raise :class:`NotYours`."""
    statement = select(table).where(table.id == row_id, table.angler_id == angler_id)
    row = (await session.execute(statement)).scalar_one_or_none()
    if row is None:
        raise NotYours(getattr(table, "__tablename__", "row"))
    return row


async def angler_of_token(session: AsyncSession, token_hash: str, now: datetime) -> Angler | None:
    """Return who a session token signs in, if it still does."""
    statement = select(Angler).join(SignIn).where(SignIn.token_hash == token_hash, SignIn.expires_at > now)
    return (await session.execute(statement)).scalar_one_or_none()


async def demo_angler(session: AsyncSession) -> Angler | None:
    """Return the demo angler, if the database was seeded with one."""
    return (await session.execute(select(Angler).where(Angler.demo))).scalars().first()


async def forget_token(session: AsyncSession, token_hash: str) -> None:
    """End a session."""
    await session.execute(delete(SignIn).where(SignIn.token_hash == token_hash))


async def beats(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Beat, str]]:
    """Return the angler's beats in order, each with its river's name."""
    statement = (
        select(Beat, River.name)
        .join(River, River.id == Beat.river_id)
        .where(Beat.angler_id == angler_id)
        .order_by(Beat.position)
    )
    return [(beat, river) for beat, river in (await session.execute(statement)).all()]


async def lies(session: AsyncSession, angler_id: UUID) -> Sequence[Lie]:
    """Return the angler's lies, from downstream up."""
    statement = select(Lie).where(Lie.angler_id == angler_id).order_by(Lie.along_m)
    return (await session.execute(statement)).scalars().all()


async def newest_readings(session: AsyncSession, angler_id: UUID) -> dict[UUID, Reading]:
    """Return the newest reading of every lie of the angler's that has one."""
    statement = (
        select(Reading)
        .where(Reading.angler_id == angler_id)
        .ext(distinct_on(Reading.lie_id))
        .order_by(Reading.lie_id, Reading.at.desc(), Reading.id.desc())
    )
    return {reading.lie_id: reading for reading in (await session.execute(statement)).scalars()}


async def outings(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Outing, str]]:
    """Return the angler's outings, newest first, each with its beat's name."""
    statement = (
        select(Outing, Beat.name)
        .join(Beat, Beat.id == Outing.beat_id)
        .where(Outing.angler_id == angler_id, Outing.gone.is_(False))
        .order_by(Outing.started_at.desc())
    )
    return [(outing, beat) for outing, beat in (await session.execute(statement)).all()]


async def outcomes(session: AsyncSession, angler_id: UUID) -> dict[UUID, list[str]]:
    """Return how the standing drifts of every outing ended."""
    statement = (
        select(Stop.outing_id, Drift.outcome)
        .join(Setting, Setting.stop_id == Stop.id)
        .join(Drift, Drift.setting_id == Setting.id)
        .where(Drift.angler_id == angler_id, Drift.undone.is_(False))
    )
    found: dict[UUID, list[str]] = {}
    for outing_id, outcome in (await session.execute(statement)).all():
        found.setdefault(outing_id, []).append(outcome)
    return found


async def box_items(session: AsyncSession, angler_id: UUID) -> Sequence[BoxItem]:
    """Return what is in the angler's box: nymphs by bead and hook, then dries, then floats."""
    statement = (
        select(BoxItem)
        .where(BoxItem.angler_id == angler_id, BoxItem.gone.is_(False))
        .order_by(
            BoxItem.kind.desc(),
            BoxItem.bead_mm,
            BoxItem.size_mm,
            BoxItem.hook.desc(),
            BoxItem.form,
            BoxItem.id,
        )
    )
    return (await session.execute(statement)).scalars().all()


async def lost_flies(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[dict[str, Any], datetime]]:
    """Return the rig as set of every drift that ended in a lost fly and still stands, with its time."""
    statement = (
        select(Setting.setup, Drift.at)
        .join(Drift, Drift.setting_id == Setting.id)
        .where(Drift.angler_id == angler_id, Drift.outcome == "lost_fly", Drift.undone.is_(False))
    )
    return [(setup, at) for setup, at in (await session.execute(statement)).all()]


async def stops(session: AsyncSession, angler_id: UUID, outing_id: UUID) -> Sequence[tuple[Stop, str]]:
    """Return an outing's stops in time, each with its lie's name."""
    statement = (
        select(Stop, Lie.name)
        .join(Lie, Lie.id == Stop.lie_id)
        .where(Stop.angler_id == angler_id, Stop.outing_id == outing_id)
        .order_by(Stop.at, Stop.id)
    )
    return [(stop, lie) for stop, lie in (await session.execute(statement)).all()]


async def log_of(
    session: AsyncSession, angler_id: UUID, outing_id: UUID
) -> tuple[Sequence[Setting], Sequence[Drift], Sequence[Catch]]:
    """Return an outing's settings, standing drifts and standing catches, each in time."""
    mine = Stop.outing_id == outing_id, Stop.angler_id == angler_id
    settings = (
        select(Setting).join(Stop, Stop.id == Setting.stop_id).where(*mine).order_by(Setting.at, Setting.id)
    )
    drifts = (
        select(Drift)
        .join(Setting, Setting.id == Drift.setting_id)
        .join(Stop, Stop.id == Setting.stop_id)
        .where(*mine, Drift.undone.is_(False))
        .order_by(Drift.at, Drift.id)
    )
    catches = (
        select(Catch)
        .join(Drift, Drift.id == Catch.drift_id)
        .join(Setting, Setting.id == Drift.setting_id)
        .join(Stop, Stop.id == Setting.stop_id)
        .where(*mine, Catch.undone.is_(False), Drift.undone.is_(False))
        .order_by(Catch.at, Catch.id)
    )
    return (
        (await session.execute(settings)).scalars().all(),
        (await session.execute(drifts)).scalars().all(),
        (await session.execute(catches)).scalars().all(),
    )


async def take_due_gauges(
    session: AsyncSession, now: datetime, *, until: datetime, most: int
) -> Sequence[UUID]:
    """Take the gauges that are due, of whatever angler, for this process alone; those that answered last come first."""
    due = (
        select(Gauge.id)
        .where(Gauge.url.is_not(None), or_(Gauge.due_at.is_(None), Gauge.due_at <= now))
        .order_by(Gauge.failures, Gauge.due_at)
        .limit(most)
        .with_for_update(skip_locked=True)
    )
    return (await session.execute(select_taken(Gauge, Gauge.due_at, due, until))).scalars().all()


async def take_due_weather(
    session: AsyncSession, now: datetime, *, until: datetime, most: int
) -> Sequence[UUID]:
    """Take the rivers whose weather is due, for this process alone."""
    due = (
        select(River.id)
        .where(River.weather_url.is_not(None), or_(River.weather_due_at.is_(None), River.weather_due_at <= now))
        .order_by(River.weather_failures, River.weather_due_at)
        .limit(most)
        .with_for_update(skip_locked=True)
    )  # fmt: skip
    return (await session.execute(select_taken(River, River.weather_due_at, due, until))).scalars().all()


def select_taken(
    table: type[Gauge] | type[River],
    column: InstrumentedAttribute[datetime | None],
    due: Select[UUID],
    until: datetime,
) -> ReturningUpdate[UUID]:
    """Return the statement that moves on when something is due, and says which."""
    found = due.cte("due")
    return update(table).where(table.id.in_(select(found.c.id))).values({column: until}).returning(table.id)


async def gauge_of_river(session: AsyncSession, angler_id: UUID, river_id: UUID) -> Gauge | None:
    """Return the first gauge of a river of the angler's."""
    statement = (
        select(Gauge).where(Gauge.angler_id == angler_id, Gauge.river_id == river_id).order_by(Gauge.id)
    )
    return (await session.execute(statement)).scalars().first()


async def rivers(session: AsyncSession, angler_id: UUID) -> Sequence[River]:
    """Return the angler's rivers by name."""
    return (
        (await session.execute(select(River).where(River.angler_id == angler_id).order_by(River.name)))
        .scalars()
        .all()
    )


async def put_weather(session: AsyncSession, river_id: UUID, hours: Sequence[WeatherSample]) -> None:
    """Store the weather of some hours; what was foretold before is replaced, the past beyond a month forgotten."""
    if hours:
        statement = insert(WeatherHour).values([{"river_id": river_id, **asdict(hour)} for hour in hours])
        fresh = {
            name: statement.excluded[name] for name in ("air_c", "wind_m_s", "cloud", "rain_mm_h", "thunder")
        }
        await session.execute(statement.on_conflict_do_update(index_elements=["river_id", "at"], set_=fresh))
    await session.execute(
        delete(WeatherHour).where(
            WeatherHour.river_id == river_id, WeatherHour.at < func.now() - WEATHER_KEPT
        )
    )


WEATHER_KEPT = timedelta(days=31)


async def weather(
    session: AsyncSession, river_id: UUID, *, since: datetime, until: datetime
) -> Sequence[WeatherHour]:
    """Return the weather of a river's hours between two times, in order."""
    statement = (
        select(WeatherHour)
        .where(WeatherHour.river_id == river_id, WeatherHour.at.between(since, until))
        .order_by(WeatherHour.at)
    )
    return (await session.execute(statement)).scalars().all()


async def put_gauge_values(session: AsyncSession, gauge_id: UUID, rows: bytes, *, daily: bool) -> None:
    """Store values by COPY, from rows of its text format; a value that is there already is corrected."""
    columns = "parameter, at, value, worth, code"
    await session.execute(
        text(f"create temp table incoming on commit drop as select {columns} from gauge_value limit 0")  # noqa: S608
    )
    raw = await (await session.connection()).get_raw_connection()
    assert raw.driver_connection is not None  # noqa: S101 - an open connection has one
    await raw.driver_connection.copy_to_table("incoming", source=io.BytesIO(rows), format="text")
    await session.execute(
        text(
            f"insert into gauge_value (gauge_id, daily, {columns}) select :gauge, :daily, {columns} from incoming"  # noqa: S608
            " on conflict (gauge_id, parameter, daily, at)"
            " do update set value = excluded.value, worth = excluded.worth, code = excluded.code"
        ),
        {"gauge": gauge_id, "daily": daily},
    )
    await session.execute(text("drop table incoming"))


async def newest_gauge_time(session: AsyncSession, gauge_id: UUID, *, daily: bool) -> datetime | None:
    """Return the time of the newest value of a gauge."""
    statement = select(func.max(GaugeValue.at)).where(
        GaugeValue.gauge_id == gauge_id, GaugeValue.daily == daily
    )
    return (await session.execute(statement)).scalar_one_or_none()


async def latest_value(
    session: AsyncSession, gauge_id: UUID, parameter: Parameter, *, until: datetime
) -> GaugeValue | None:
    """Return the newest value of a parameter that is not missing."""
    statement = (
        select(GaugeValue)
        .where(
            GaugeValue.gauge_id == gauge_id,
            GaugeValue.parameter == parameter,
            GaugeValue.daily.is_(False),
            GaugeValue.value.is_not(None),
            GaugeValue.at <= until,
        )
        .order_by(GaugeValue.at.desc())
        .limit(1)
    )
    return (await session.execute(statement)).scalar_one_or_none()


async def hourly(
    session: AsyncSession, gauge_id: UUID, parameter: Parameter, *, since: datetime, until: datetime
) -> list[tuple[datetime, float]]:
    """Return hourly means of a parameter, in time."""
    hour = func.date_trunc("hour", GaugeValue.at)
    statement = (
        select(hour, func.avg(GaugeValue.value))
        .where(
            GaugeValue.gauge_id == gauge_id,
            GaugeValue.parameter == parameter,
            GaugeValue.daily.is_(False),
            GaugeValue.value.is_not(None),
            GaugeValue.at.between(since, until),
        )
        .group_by(hour)
        .order_by(hour)
    )
    return [(at, float(value)) for at, value in (await session.execute(statement)).all() if value is not None]


async def daily_history(
    session: AsyncSession, gauge_id: UUID, *, before: datetime, days: Sequence[int] | None = None
) -> list[tuple[datetime, float]]:
    """Return all daily mean flows before a time, in time; those on certain days of the year where ``days`` are given."""
    on = [] if days is None else [func.extract("doy", GaugeValue.at).in_(days)]
    statement = (
        select(GaugeValue.at, GaugeValue.value)
        .where(
            GaugeValue.gauge_id == gauge_id,
            GaugeValue.parameter == "flow",
            GaugeValue.daily,
            GaugeValue.value.is_not(None),
            GaugeValue.at < before,
            *on,
        )
        .order_by(GaugeValue.at)
    )
    return [(at, float(value)) for at, value in (await session.execute(statement)).all() if value is not None]


async def readings_with_flow(session: AsyncSession, angler_id: UUID) -> Sequence[Reading]:
    """Return every reading of the angler's at a known flow, in time, but for those that were carried and not seen."""
    statement = (
        select(Reading)
        .where(Reading.angler_id == angler_id, Reading.flow_m3_s.is_not(None), Reading.depth_how != "flow")
        .order_by(Reading.at, Reading.id)
    )
    return (await session.execute(statement)).scalars().all()


FLOW_WITHIN = timedelta(hours=3)
"""How far from a reading the gauge's value may lie to be the flow of that reading."""


async def fill_flows(session: AsyncSession, gauge: Gauge) -> None:
    """Give readings on the gauge's river that have no flow yet the gauge's at their time: the nearest value within
    three hours, or else the mean of their day.
    """
    await session.execute(
        text(
            "update reading r set flow_m3_s = coalesce("
            " (select v.value from gauge_value v where v.gauge_id = :gauge and v.parameter = 'flow' and not v.daily"
            "   and v.value is not null and v.at between r.at - cast(:within as interval) and r.at + cast(:within as interval)"
            "   order by abs(extract(epoch from v.at - r.at)) limit 1),"
            " (select v.value from gauge_value v where v.gauge_id = :gauge and v.parameter = 'flow' and v.daily"
            "   and v.value is not null and v.at between r.at - interval '12 hours' and r.at + interval '12 hours' limit 1))"
            " from lie l, beat b where r.flow_m3_s is null and l.id = r.lie_id and b.id = l.beat_id"
            " and b.river_id = :river and r.angler_id = :angler"
        ),
        {"gauge": gauge.id, "within": FLOW_WITHIN, "river": gauge.river_id, "angler": gauge.angler_id},
    )


async def begin_import(
    session: AsyncSession, angler_id: UUID, import_id: UUID, gauge_id: UUID, *, now: datetime
) -> bool:
    """Write down that an import begins; return False where one of this id has begun before."""
    statement = insert(GaugeImport).values(
        id=import_id, angler_id=angler_id, gauge_id=gauge_id, state="running", rows=0, share=0.0, message="",
        started_at=now, alive_at=now,
    )  # fmt: skip
    made = await session.execute(statement.on_conflict_do_nothing().returning(GaugeImport.id))
    return made.scalar_one_or_none() is not None


async def running_imports(session: AsyncSession, angler_id: UUID) -> int:
    """Return how many imports of an angler's have not ended."""
    statement = select(func.count()).where(GaugeImport.angler_id == angler_id, GaugeImport.ended_at.is_(None))
    return (await session.execute(statement)).scalar_one()


async def end_silent_imports(
    session: AsyncSession, angler_id: UUID, *, since: datetime, message: str
) -> None:
    """Mark as failed what has not ended, and has not been heard of since then."""
    await session.execute(
        update(GaugeImport)
        .where(
            GaugeImport.angler_id == angler_id, GaugeImport.ended_at.is_(None), GaugeImport.alive_at < since
        )
        .values(state="failed", rows=0, message=message, ended_at=func.now())
    )


def _name_of_share() -> Any:  # noqa: ANN401 - an expression of SQL
    return func.coalesce(Beat.name, func.to_char(Outing.started_at, "YYYY-MM-DD"))


async def shares_of(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Share, str]]:
    """Return what an angler shares, each with the name of the beat or the day of the outing."""
    statement = (
        select(Share, _name_of_share())
        .outerjoin(Beat, Beat.id == Share.beat_id)
        .outerjoin(Outing, Outing.id == Share.outing_id)
        .where(Share.angler_id == angler_id, Share.revoked_at.is_(None))
        .order_by(Share.shared_at.desc(), Share.id)
    )
    return [(one, name) for one, name in (await session.execute(statement)).all()]


async def shared_with(session: AsyncSession, reader: str) -> Sequence[tuple[Share, str, str]]:
    """Return what is shared with an address, each with its owner's name and its own."""
    statement = (
        select(Share, Angler.name, _name_of_share())
        .join(Angler, Angler.id == Share.angler_id)
        .outerjoin(Beat, Beat.id == Share.beat_id)
        .outerjoin(Outing, Outing.id == Share.outing_id)
        .where(Share.reader == reader, Share.revoked_at.is_(None), Outing.gone.is_not(True))
        .order_by(Share.shared_at.desc(), Share.id)
    )
    return [(one, owner, name) for one, owner, name in (await session.execute(statement)).all()]


async def share_for(session: AsyncSession, reader: str, share_id: UUID) -> Share:
    """Return a share for its reader; raises :class:`NotYours` for anybody else, and once it is taken back."""
    statement = select(Share).where(
        Share.id == share_id, Share.reader == reader, Share.reader != "", Share.revoked_at.is_(None)
    )
    found = (await session.execute(statement)).scalar_one_or_none()
    if found is None:
        raise NotYours("share")
    return found


async def revoke_share(session: AsyncSession, angler_id: UUID, share_id: UUID) -> None:
    """Take a share of the angler's back."""
    share = await get_owned(session, Share, angler_id, share_id)
    share.revoked_at = func.now()
    await session.flush()


NOT_EXPORTED = {"sign_in": ("token_hash",), "account": ("hashed_password",)}
"""Columns that open doors: they are nobody's to read, not even their owner's."""


async def all_rows(session: AsyncSession, angler_id: UUID) -> dict[str, list[dict[str, Any]]]:
    """Return every row that is an angler's, by table: the account and its sessions, and what files and gauges brought."""
    tables = [(table, table.c.angler_id) for table in Base.metadata.sorted_tables if "angler_id" in table.c]
    account = Base.metadata.tables["account"]
    wanted = [
        (table, select(table).where(owner == angler_id))
        for table, owner in [*tables, (account, account.c.id)]
    ]
    for name, key, parent in (("gauge_value", "gauge_id", "gauge"), ("weather_hour", "river_id", "river")):
        table, above = Base.metadata.tables[name], Base.metadata.tables[parent]
        wanted.append(
            (
                table,
                select(table).join(above, above.c.id == table.c[key]).where(above.c.angler_id == angler_id),
            )
        )
    found: dict[str, list[dict[str, Any]]] = {}
    for table, statement in wanted:
        name = str(table.name)
        hidden = NOT_EXPORTED.get(name, ())
        rows = await session.execute(statement)
        found[name] = [{str(k): v for k, v in row.items() if str(k) not in hidden} for row in rows.mappings()]
    return found


async def count_of(session: AsyncSession, table: type[Owned], angler_id: UUID, *, but: UUID) -> int:
    """Return how many rows of a table an angler has beside one."""
    statement = select(func.count()).select_from(table).where(table.angler_id == angler_id, table.id != but)
    return (await session.execute(statement)).scalar_one()


async def blur(session: AsyncSession, angler_id: UUID, river_id: UUID, reader: str) -> Blur | None:
    """Return how the places of a river are moved for a reader, if that was ever drawn."""
    return await session.get(Blur, (angler_id, river_id, reader))


async def draw_blur(session: AsyncSession, drawn: dict[str, Any]) -> None:
    """Store how the places of a river are moved for a reader; what was drawn before stands."""
    await session.execute(insert(Blur).values(**drawn).on_conflict_do_nothing())
