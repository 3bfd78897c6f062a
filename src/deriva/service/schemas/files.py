"""Files of a log: what they are written as, and how one is read."""

from typing import Annotated, Literal
from uuid import UUID
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from pydantic import AfterValidator, Field, Json, StringConstraints
from pydantic_core import PydanticCustomError

from deriva.service.formats.log_csv import FIELDS
from deriva.service.schemas.base import Wire

FormatName = Literal["csv", "pdf", "geojson", "gpx", "darwin-core", "json"]


class FormatOut(Wire):
    """A format: what it holds, what it loses, whether it is read too, whether it hides places unless they are asked for, and
    whether it holds more than one outing.
    """

    name: FormatName
    title: str
    suffix: str
    holds: str
    loses: str
    writes: bool
    reads: bool
    hides: bool
    many: bool


def _zone(name: str) -> str:
    try:
        ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise PydanticCustomError("zone", "that is no time zone: Europe/Vienna is one") from None
    return name


ZoneName = Annotated[str, StringConstraints(max_length=64), AfterValidator(_zone)]


def _field(name: str) -> str:
    if name not in FIELDS:
        raise PydanticCustomError(
            "field", "{name} is not one of: {known}", {"name": name, "known": ", ".join(FIELDS)}
        )
    return name


class FileIn(Wire):
    """Which outings, and how: one by its id, or those that fit some words; times in a zone, places exact or hidden."""

    outing: UUID | None = None
    find: Annotated[str, StringConstraints(max_length=200)] = ""
    exact: bool = False
    zone: ZoneName = "UTC"


class LogIn(Wire):
    """How a log is read. Tables and waypoints are of one beat; ``columns`` says which header each field of a table has, and
    ``rig`` what was fished where a row says none. Times without an offset are in ``zone``. ``dry``: nothing is kept.
    """

    format: Literal["json", "csv", "gpx"]
    dry: bool = False
    beat_id: UUID | None = None
    columns: Json[dict[Annotated[str, AfterValidator(_field)], str]] | None = Field(
        default=None, max_length=4000
    )
    rig: Literal["euro", "indicator", "dry_dropper", "dry"] | None = None
    zone: ZoneName = "UTC"
