"""`POST /api/sync`: what a device wrote goes in, what the angler's other devices wrote comes out."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import UUID7, Field, GetJsonSchemaHandler, StringConstraints, TypeAdapter
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, core_schema

from deriva.service.schemas.base import Fault, Moment, Wire
from deriva.service.schemas.log import (
    CatchIn,
    DriftLogIn,
    DrySettingIn,
    NoteIn,
    OutingIn,
    ReadingIn,
    SettingIn,
    SoundingIn,
    StopIn,
)
from deriva.service.schemas.places import LieIn

MOST_EVENTS = 200
Kind = Literal["lies", "outings", "stops", "settings", "drifts", "catches", "readings", "soundings", "notes"]
Zone = Annotated[str, StringConstraints(min_length=1, max_length=64, pattern=r"^[A-Za-z0-9_+\-/]+$")]
Position = Annotated[int, Field(ge=0, lt=2**53, strict=True)]

RECORDS: dict[Kind, tuple[type[Wire], ...]] = {
    "lies": (LieIn,), "outings": (OutingIn,), "stops": (StopIn,), "settings": (SettingIn, DrySettingIn),
    "drifts": (DriftLogIn,), "catches": (CatchIn,), "readings": (ReadingIn,), "soundings": (SoundingIn,),
    "notes": (NoteIn,),
}  # fmt: skip
"""What the body of an event may be, by its kind."""


def read_record(kind: Kind, body: dict[str, Any]) -> Wire:
    """Return the record that the body of an event is, a setting by what is on the rod; raises ValidationError."""
    dry = kind == "settings" and body.get("rig") == "dry"
    return RECORDS[kind][1 if dry else 0].model_validate(body)


class _AsRecords:
    """Documents a body as one of the records, and leaves it as it came: each is judged by itself."""

    @classmethod
    def __get_pydantic_json_schema__(cls, _: object, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        return {"oneOf": [handler(_by_name(record)) for records in RECORDS.values() for record in records]}


def _by_name(record: type[Wire]) -> CoreSchema:
    """Return what a record is made of, so that the document has it once and refers to it by its name."""
    return core_schema.definitions_schema(TypeAdapter(record).core_schema, [])


Body = Annotated[dict[str, Any], _AsRecords]


class EventIn(Wire):
    """One thing that was written on a device: a new record, or a record as it is after a correction.

    ``record`` is the id of the row, ``id`` that of this writing of it; ``sequence`` counts what the device wrote. ``body`` is
    the record's, by its kind; each is judged by itself, so that one that is wrong holds up no other.
    """

    id: UUID7
    sequence: Position
    kind: Kind
    record: UUID7
    at: Moment
    zone: Zone
    body: Body


class SyncIn(Wire):
    """A batch of what a device wrote, oldest first, and how far it has read the changes of others; null: not at all.

    ``angler`` says whose it is: a batch that is on its way while another signs in on the device must not be that other's.
    """

    version: Literal[1]
    angler: UUID | None = None
    device: UUID7
    cursor: Position | None
    events: Annotated[list[EventIn], Field(max_length=MOST_EVENTS)]


class TakenOut(Wire):
    """An event that is on disk, and the time by which it is ordered: its own, or that of its arrival if that was earlier."""

    id: UUID
    at: datetime


class RefusedOut(Wire):
    """An event that was not taken, and why; it will not be if it is sent again."""

    id: UUID
    faults: list[Fault]


class HeardOut(Wire):
    """An event of another device."""

    id: UUID
    device: UUID
    sequence: int
    kind: Kind
    record: UUID
    at: datetime
    body: Body


class SyncOut(Wire):
    """What was taken and what was not, and the changes of others up to ``cursor``; ``more`` of them are waiting."""

    taken: list[TakenOut]
    refused: list[RefusedOut]
    changes: list[HeardOut]
    cursor: int
    more: bool
