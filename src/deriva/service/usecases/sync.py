"""Taking in what devices wrote: once however often it is sent, the later of two writings standing whatever came first.

The log is a set of records, each with all its writings kept; the one with the greatest (time, device, sequence) stands. Since
that does not depend on the order of arrival, every device and the service end with the same log.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from pydantic import BaseModel, ValidationError
from sqlalchemy.exc import IntegrityError
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.errors import OutOfRange
from deriva.core.read import write_noun
from deriva.service.schemas.base import Fault, faults_of_validation
from deriva.service.schemas.log import DrySettingIn, OutingIn, ReadingIn, SoundingIn
from deriva.service.schemas.sync import (
    EventIn,
    HeardOut,
    Kind,
    RefusedOut,
    SyncIn,
    SyncOut,
    TakenOut,
    read_record,
)
from deriva.service.store import history, observed, owned, places
from deriva.service.store.accounts import hash_of
from deriva.service.store.models import (
    Angler,
    Beat,
    Catch,
    Drift,
    Lie,
    LogEntry,
    Note,
    Outing,
    Owned,
    Reading,
    Setting,
    Sounding,
    Stop,
)
from deriva.service.store.take_new import PLAIN, AtOnce, take_new
from deriva.service.usecases.caps import Full, within
from deriva.service.usecases.reading import reading_values

CHANGES_AT_ONCE = 200

Order = tuple[datetime, UUID, int]


class OtherAngler(Exception):
    """What came is another angler's than the one who is signed in."""


@dataclass(frozen=True, slots=True)
class Kept:
    """How a kind of record is stored: where it goes, what it hangs under, and whether it is ever edited."""

    table: type[Owned]
    parents: dict[str, type[Owned]]
    edited: bool


LEDGERS: dict[Kind, Kept] = {
    "lies": Kept(Lie, {"beat_id": Beat}, edited=True),
    "outings": Kept(Outing, {"beat_id": Beat}, edited=True),
    "stops": Kept(Stop, {"outing_id": Outing, "lie_id": Lie}, edited=False),
    "settings": Kept(Setting, {"stop_id": Stop}, edited=False),
    "drifts": Kept(Drift, {"setting_id": Setting}, edited=True),
    "catches": Kept(Catch, {"drift_id": Drift}, edited=True),
    "readings": Kept(Reading, {"lie_id": Lie}, edited=True),
    "soundings": Kept(Sounding, {"lie_id": Lie}, edited=True),
    "notes": Kept(Note, {"outing_id": Outing, "stop_id": Stop, "catch_id": Catch}, edited=True),
}
"""Parents before children: they are stored in this order."""

CONDITIONS = ("clarity_m", "temperature_c", "flow_class", "wind_m_s")


@dataclass(frozen=True, slots=True)
class _Writing:
    """An event whose body has been read, and its place in the order of writings."""

    event: EventIn
    entry: BaseModel
    order: Order


NAMES: dict[type[Owned], str] = {
    Beat: "beat", Lie: "lie", Outing: "outing", Stop: "stop", Setting: "setting", Drift: "drift", Catch: "catch",
    Reading: "reading", Sounding: "sounding", Note: "note",
}  # fmt: skip


def _not_yours(what: str) -> list[Fault]:
    return [Fault(code="NOT_FOUND", field=None, message=f"There is no such {what} of yours.")]


AFTER_IT = timedelta(milliseconds=1)


async def _conditions(session: AsyncSession, angler_id: UUID, beat_id: UUID) -> dict[str, Any]:
    """Return the newest conditions read on a beat, to be frozen at an outing's start."""
    lies = {lie.id for lie in await places.lies(session, angler_id) if lie.beat_id == beat_id}
    readings = [r for r in (await observed.newest_readings(session, angler_id)).values() if r.lie_id in lies]
    if not readings:
        return {}
    newest = max(readings, key=lambda reading: reading.at)
    return {"read_at": newest.at.isoformat(), **{name: getattr(newest, name) for name in CONDITIONS}}


async def _values(
    session: AsyncSession, angler_id: UUID, entry: BaseModel, *, now: datetime
) -> dict[str, Any]:
    """Return the columns of a record. What was seen was so when it came in at the latest, whatever the device's clock says."""
    if isinstance(entry, ReadingIn):
        angler = await session.get_one(Angler, angler_id)
        values = reading_values(entry, eye_error=angler.eye_error)
        return values | {"at": min(values["at"], now)}
    values = {name: write_noun(value) for name, value in entry}
    if isinstance(entry, DrySettingIn):  # beside rigs that have them
        return {"depth_setting_m": None, "point_bead_mm": None} | values
    if isinstance(entry, SoundingIn):
        return values | {"at": min(entry.at, now)}
    if isinstance(entry, OutingIn):
        values["conditions"] = await _conditions(session, angler_id, entry.beat_id)
    return values


def _by_now(writing: _Writing, standing: Order | None, *, now: datetime) -> _Writing:
    """Return a writing as of now at the latest, whatever the device's clock says. Where what stands is later than that, it is
    the service's clock that went back: then as of just after it, or no correction would stand until that time has come.
    """
    at, device, sequence = writing.order
    latest = now if standing is None else max(now, standing[0] + AFTER_IT)
    return replace(writing, order=(_to_the_millisecond(min(at, latest)), device, sequence))


async def _store(
    session: AsyncSession, angler_id: UUID, kind: Kind, writings: Sequence[_Writing], *, now: datetime
) -> tuple[list[_Writing], list[RefusedOut]]:
    """Store what stands of some writings of one kind; return those that were taken, and those that were not."""
    ledger = LEDGERS[kind]
    refused: list[RefusedOut] = []
    taken = list(writings)
    for field, parent in ledger.parents.items():
        wanted = {getattr(one.entry, field) for one in taken} - {None}
        mine = {None, *await owned.owned(session, parent, angler_id, wanted)}
        refused += [
            RefusedOut(id=one.event.id, faults=_not_yours(NAMES[parent]))
            for one in taken
            if getattr(one.entry, field) not in mine
        ]
        taken = [one for one in taken if getattr(one.entry, field) in mine]
    standing = await history.newest_changes(session, angler_id, kind, {one.event.record for one in taken})
    taken = [_by_now(one, standing.get(one.event.record), now=now) for one in taken]
    newest: dict[UUID, _Writing] = {}
    for one in taken:
        before = newest.setdefault(one.event.record, one)
        if (one.order > before.order) == ledger.edited:  # what is never edited stands as it was first written
            newest[one.event.record] = one
    full = await _full(session, angler_id, ledger.table, newest)
    refused += [
        RefusedOut(id=one.event.id, faults=[Fault(code="FULL", field=None, message=full)])
        for one in taken
        if full is not None
    ]
    if full is not None:
        return [], refused
    winners = {
        record: await _values(session, angler_id, one.entry, now=now)
        for record, one in newest.items()
        if record not in standing or one.order > standing[record]
    }
    await owned.put_many(
        session, ledger.table, angler_id, winners, replace=ledger.edited, keep=("conditions",)
    )
    return taken, refused


def _lie_seen(entry: BaseModel) -> list[UUID]:
    return [entry.lie_id] if isinstance(entry, ReadingIn | SoundingIn) else []


async def _fill_flows(session: AsyncSession, angler_id: UUID, lies: set[UUID]) -> None:
    """Give what was read at some lies the flow of that time, where their rivers' gauges know it."""
    for river in await places.rivers_of(session, angler_id, lies) if lies else ():
        gauge = await places.gauge_of_river(session, angler_id, river)
        if gauge is not None:
            await observed.fill_flows(session, gauge)


async def _full(
    session: AsyncSession, angler_id: UUID, table: type[Owned], records: Iterable[UUID]
) -> str | None:
    """Return what is said where an angler has as many of a kind as there may be."""
    try:
        for record in records:
            await within(session, table, angler_id, record)
    except Full as error:
        return str(error)
    return None


def _to_the_millisecond(at: datetime) -> datetime:
    """Drop what a browser's clock cannot hold, so that a device orders writings as the service does."""
    return at.replace(microsecond=at.microsecond // 1000 * 1000)


async def take(
    session: AsyncSession, angler_id: UUID, device: UUID, events: Iterable[EventIn], *, now: datetime
) -> tuple[list[TakenOut], list[RefusedOut], int]:
    """Take in what a device wrote; return what was taken, what was refused, and the position of the newest change.

    The angler's row is held meanwhile, so that two devices take turns. Somebody else may be writing a change or a row under
    the same id: then it is looked at again, and found to be another's.
    """
    events = list(events)
    try:
        async with session.begin_nested():
            return await _take(session, angler_id, device, events, now=now)
    except IntegrityError:
        return await _take(session, angler_id, device, events, now=now)


async def _take(
    session: AsyncSession, angler_id: UUID, device: UUID, events: Sequence[EventIn], *, now: datetime
) -> tuple[list[TakenOut], list[RefusedOut], int]:
    position = await history.hold_log(session, angler_id)
    known = await history.known_changes(session, angler_id, {event.id for event in events})
    taken: list[TakenOut] = []
    refused: list[RefusedOut] = []
    by_kind: defaultdict[Kind, list[_Writing]] = defaultdict(list)
    seen: set[UUID] = set()
    for event in events:
        if event.id in known:
            taken.append(TakenOut(id=event.id, at=known[event.id]))
            continue
        if event.id in seen:
            continue
        seen.add(event.id)
        try:
            entry = read_record(event.kind, event.body)
            if isinstance(entry, ReadingIn):
                reading_values(entry)  # a bubble may have been timed at a speed that no water has
        except ValidationError as error:
            refused.append(RefusedOut(id=event.id, faults=faults_of_validation(error)))
            continue
        except OutOfRange as error:
            fault = Fault(code=error.code, field=error.field, message=error.message)
            refused.append(RefusedOut(id=event.id, faults=[fault]))
            continue
        by_kind[event.kind].append(_Writing(event, entry, (event.at, device, event.sequence)))
    fresh: list[_Writing] = []
    for kind in LEDGERS:
        if kind in by_kind:
            stored, not_stored = await _store(session, angler_id, kind, by_kind[kind], now=now)
            fresh += stored
            refused += not_stored
    await _fill_flows(session, angler_id, {lie for one in fresh for lie in _lie_seen(one.entry)})
    fresh.sort(key=lambda one: one.event.sequence)
    await history.add_changes(
        session,
        angler_id,
        [
            {
                "id": one.event.id,
                "position": position + n,
                "device": device,
                "sequence": one.event.sequence,
                "kind": one.event.kind,
                "record": one.event.record,
                "at": one.order[0],
                "zone": one.event.zone,
                "body": one.entry.model_dump(mode="json", by_alias=True),
            }
            for n, one in enumerate(fresh, 1)
        ],
    )
    taken += [TakenOut(id=one.event.id, at=one.order[0]) for one in fresh]
    return taken, refused, position + len(fresh)


async def sync_new(way: AtOnce, token: str, asked: SyncIn, *, now: datetime) -> SyncOut | None:
    """Take in a batch that is all new, which is what nearly every batch is, and say so; None, with nothing taken, where it has
    to be looked at (:func:`sync`), and for whoever is not signed in.

    A record that is new stands, whatever the order of writings: there is nothing to compare it with. What others wrote
    meanwhile is not brought along; that there is more of it is said.
    """
    if asked.cursor is None or not asked.events:
        return None
    kinds = {event.kind for event in asked.events}
    if not kinds <= PLAIN:
        return None
    rows: list[dict[str, Any]] = []
    for n, event in enumerate(sorted(asked.events, key=lambda one: one.sequence), 1):
        try:
            entry = read_record(event.kind, event.body)
        except ValidationError:
            return None
        rows.append(
            {
                "n": n, "id": event.id, "sequence": event.sequence, "kind": event.kind, "record": event.record,
                "at": _to_the_millisecond(min(event.at, now)), "zone": event.zone,
                "body": entry.model_dump(mode="json", by_alias=True),
                "row": {name: write_noun(value) for name, value in entry},
            }
        )  # fmt: skip
    took = await take_new(
        way, hash_of(token), angler=asked.angler, device=asked.device, cursor=asked.cursor, now=now, kinds=kinds, events=rows
    )  # fmt: skip
    if took is None:
        return None
    taken = [TakenOut(id=row["id"], at=row["at"]) for row in rows]
    # what others wrote is asked for next: the cursor stays where it was
    cursor = asked.cursor if took.others else took.newest
    return SyncOut(taken=taken, refused=[], changes=[], cursor=cursor, more=took.others)


def _out(change: LogEntry) -> HeardOut:
    return HeardOut.model_validate({name: getattr(change, name) for name in HeardOut.model_fields})


async def sync(session: AsyncSession, angler_id: UUID, asked: SyncIn, *, now: datetime) -> SyncOut:
    """Take in a batch, and return what other devices wrote since the cursor.

    A device that has read nothing yet is given what was written since the outing that is open began, if one is. A cursor
    beyond the newest change is one from before this database was put back: everything is sent again.
    Raises :class:`OtherAngler`, before anything is judged, for a batch that is somebody else's.
    """
    if asked.angler not in (None, angler_id):
        raise OtherAngler
    taken, refused, newest = await take(session, angler_id, asked.device, asked.events, now=now)
    cursor = asked.cursor
    if cursor is None:
        cursor = await history.open_outing_position(session, angler_id, newest)
    elif cursor > newest:
        cursor = 0
    changes = await history.changes_after(
        session, angler_id, cursor, but_of=asked.device, most=CHANGES_AT_ONCE + 1
    )
    more = len(changes) > CHANGES_AT_ONCE
    changes = changes[:CHANGES_AT_ONCE]
    return SyncOut(
        taken=taken,
        refused=refused,
        changes=[_out(change) for change in changes],
        cursor=changes[-1].position if more else newest,
        more=more,
    )
