"""A log as CSV (RFC 4180), a row a drift: written, and read from any table whose columns are said."""

import csv
import io
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, tzinfo
from typing import IO

from deriva.service.formats.book import Book, Writer
from deriva.service.formats.samples import Malformed

FISH = ("species", "length_mm", "length_how", "weight_g", "fly", "phase", "condition")

COLUMNS = (
    "time", "beat", "lie", "rig", "point_bead[mm]", "depth_setting[m]", "tippet[X]", "depth[m]", "surface_speed[m/s]",
    "clarity[m]", "temperature[Cel]", "drift_id", "lane", "stance", "outcome", "pace", "direction",
    "dried", "weed", "lost", "species", "length[mm]", "length_how",
    "weight_by_length[g]", "fly", "phase", "condition", "point_fly", "point_hook", "outing_id",
)  # fmt: skip

FORMULA = tuple("=+-@\t\r")
"""What a spreadsheet takes for the beginning of a formula."""


def defused(cell: object) -> object:
    """Return a text that no spreadsheet runs: behind an apostrophe where it begins like a formula. Numbers stay numbers."""
    return f"'{cell}" if isinstance(cell, str) and cell.startswith(FORMULA) else cell


def armed(cell: str) -> str:
    """Return a text as it was before :func:`defused`."""
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(FORMULA) else cell


class LogCsv(Writer):
    """Outings as rows, times in ISO 8601 with offset; a drift that brought two fish has two with the same drift_id."""

    def head(self) -> bytes:
        """Return the first row: units in the headers, as UCUM writes them."""
        return _rows([COLUMNS])

    def add(self, books: Sequence[Book]) -> bytes:
        """Return a row a drift."""
        return _rows(
            (
                drift.at.isoformat(), book.beat, stop.lie, setting.rig, setting.point_bead_mm,
                setting.depth_setting_m, setting.tippet_x, stop.depth_m, stop.surface_speed_m_s,
                stop.clarity_m, stop.temperature_c, drift.id, drift.lane, drift.stance, drift.outcome,
                drift.pace, drift.direction, drift.dried, drift.weed, drift.lost,
                *(getattr(fish, name, None) for name in FISH), setting.fly, setting.hook, book.id,
            )
            for book in books
            for stop in book.stops
            for setting in stop.settings
            for drift in setting.drifts
            for fish in drift.fish or (None,)
        )  # fmt: skip


def _rows(rows: Iterable[Sequence[object]]) -> bytes:
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerows([defused(cell) for cell in row] for row in rows)
    return text.getvalue().encode()


# --- reading ---

FIELDS: dict[str, tuple[str, ...]] = {
    "time": ("when", "at", "date time", "datetime", "timestamp"),
    "date": ("day",),
    "clock": ("hour", "time of day"),
    "lie": ("place", "spot", "pool", "location"),
    "rig": ("method", "style"),
    "point_bead_mm": ("bead", "point bead", "bead size", "weight"),
    "depth_setting_m": ("depth setting", "setting", "set", "set to", "length set"),
    "tippet_x": ("tippet",),
    "depth_m": ("depth", "water depth"),
    "surface_speed_m_s": ("surface speed", "speed", "current"),
    "clarity_m": ("clarity", "visibility"),
    "temperature_c": ("temperature", "water temperature", "temp"),
    "drift_id": (),
    "lane": (),
    "stance": (),
    "outcome": ("result", "how it ended"),
    "pace": (),
    "direction": (),
    "dried": (),
    "weed": ("weeded",),
    "lost": ("lost which fly",),
    "species": ("fish",),
    "length_mm": ("length", "size"),
    "length_how": (),
    "fly": ("took", "took the"),
    "phase": (),
    "condition": (),
    "point_fly": ("pattern", "fly pattern", "nymph"),
    "point_hook": ("hook", "hook size"),
}
"""What a column may be, and by what other names it is known."""

UNITS: dict[str, dict[str, tuple[float, float]]] = {
    "_m": {"m": (1.0, 0.0), "cm": (0.01, 0.0), "mm": (0.001, 0.0), "ft": (0.3048, 0.0), "in": (0.0254, 0.0)},
    "_mm": {"mm": (1.0, 0.0), "cm": (10.0, 0.0), "m": (1000.0, 0.0), "in": (25.4, 0.0), "ft": (304.8, 0.0)},
    "_m_s": {"m/s": (1.0, 0.0), "cm/s": (0.01, 0.0), "ft/s": (0.3048, 0.0)},
    "_c": {"cel": (1.0, 0.0), "c": (1.0, 0.0), "°c": (1.0, 0.0), "f": (5.0 / 9.0, -160.0 / 9.0)},
}  # fmt: skip
UNITS["_c"] |= {"°f": UNITS["_c"]["f"], "degf": UNITS["_c"]["f"], "degc": (1.0, 0.0)}
"""Units that a header may name, as factor and offset to the field's own; a column that names none is in that one."""

HEADER = re.compile(r"^(?P<name>.*?)\s*(?:[\[(](?P<unit>[^\])]*)[\])]?\]?)?\s*$")
NUMBERS = ("_m", "_mm", "_m_s", "_c", "_x")
WHOLE = ("lane", "stance", "tippet_x", "point_hook")
LONGEST_CELL = 10_000


def plainly(header: str) -> str:
    """Return a header without its unit and its decoration."""
    found = HEADER.match(header)
    return re.sub(r"[\W_]+", " ", found["name"] if found else header).strip().lower()


def guessed(headers: Sequence[str]) -> dict[str, str]:
    """Return which header each field has by the look of it."""
    by_name = {plainly(header): header for header in reversed(headers)}
    found: dict[str, str] = {}
    for field, others in FIELDS.items():
        own = re.sub("(_m_s|_mm|_m|_c|_x)$", "", field).replace("_", " ")
        for name in (own, *others):
            if name in by_name and by_name[name] not in found.values():
                found[field] = by_name[name]
                break
    if "date" in found and "clock" not in found and "time" in found:
        found["clock"] = found.pop("time")
    return found


def unit_of(field: str, header: str) -> tuple[float, float]:
    """Return the factor and offset that take a column to SI. Raises Malformed for a unit that is not known here."""
    ending = next((one for one in ("_m_s", "_mm", "_m", "_c") if field.endswith(one)), None)
    found = HEADER.match(header)
    unit = (found["unit"] or "").strip().lower() if found else ""
    if ending is None or unit == "":
        return 1.0, 0.0
    known = UNITS[ending]
    if unit not in known:
        raise Malformed(1, 1, f"the column “{header}” is in {unit}: {', '.join(known)} are known")
    return known[unit]


@dataclass(frozen=True, slots=True)
class Row:
    """A row of a table: the line that it begins on, and what it says of each field; a number is in SI."""

    line: int
    cells: Mapping[str, str | float | int | bool | datetime]


def lines(file: IO[bytes]) -> Iterator[str]:
    """Yield the lines of a text in UTF-8, or in UTF-16 where it says so. Raises Malformed where it is neither."""
    start = file.read(4)
    file.seek(0)
    if start.startswith((b"PK\x03\x04", b"\xd0\xcf\x11\xe0")):
        raise Malformed(1, 1, "this is a workbook or an archive: save the sheet as CSV first")
    coding = "utf-16" if start.startswith((b"\xff\xfe", b"\xfe\xff")) else "utf-8-sig"
    reader = io.TextIOWrapper(file, encoding=coding, newline="")
    n = 0
    try:
        for line in reader:
            n += 1
            yield line
    except UnicodeError:
        raise Malformed(n + 1, 1, "this is not UTF-8 text: save it as “CSV UTF-8”") from None
    finally:
        reader.detach()


def table(file: IO[bytes]) -> tuple[list[str], Iterator[tuple[int, list[str]]]]:
    """Return the headers of a table, and its rows with the line on which each ends. Raises Malformed."""
    source = lines(file)
    above, first = next(((n, line) for n, line in enumerate(source, 1) if line.strip()), (0, ""))
    if not first:
        raise Malformed(1, 1, "this file is empty")
    mark = max(",;\t", key=first.count)
    headers = [one.strip() for one in next(csv.reader([first], delimiter=mark))]
    if len(headers) < 2:
        raise Malformed(1, 1, "one column was found: columns are parted by a comma, a semicolon or a tab")
    twice = next((one for one in headers if one and headers.count(one) > 1), None)
    if twice is not None:
        raise Malformed(1, 1, f"two columns are called “{twice}”")
    reader = csv.reader(source, delimiter=mark, strict=True)

    def rows() -> Iterator[tuple[int, list[str]]]:
        try:
            for row in reader:
                yield reader.line_num + above, row
        except csv.Error as error:
            raise Malformed(reader.line_num + above, 1, f"this row is not CSV: {error}") from None

    return headers, rows()


def _number(field: str, text: str, scale: tuple[float, float], where: tuple[int, int]) -> float | int:
    plain = text.replace(" ", "").replace("\u202f", "")
    if "," in plain and "." not in plain:
        plain = plain.replace(",", ".")
    try:
        value = float(plain) * scale[0] + scale[1]
    except ValueError:
        raise Malformed(*where, f"“{text[:40]}” is not a number") from None
    return round(value) if field in WHOLE else value


YES_OR_NO = ("dried", "weed")
TRUE, FALSE = ("true", "yes", "1", "x"), ("false", "no", "0", "")


DAY_FIRST = re.compile(r"^(\d{1,2})\.(\d{1,2})\.(\d{4})")


def _moment(text: str, zone: tzinfo, where: tuple[int, int]) -> datetime:
    try:
        at = datetime.fromisoformat(DAY_FIRST.sub(_iso_day, text.strip()))
    except ValueError:
        raise Malformed(*where, f"“{text[:40]}” is no time: 2026-05-01 14:30 is one") from None
    return at.replace(tzinfo=zone) if at.tzinfo is None else at


def _iso_day(found: re.Match[str]) -> str:
    day, month, year = found.groups()
    return f"{year}-{int(month):02d}-{int(day):02d}"


def read(file: IO[bytes], columns: Mapping[str, str], zone: tzinfo) -> Iterator[Row]:
    """Yield the rows of a table by the columns that were said; a time without an offset is in ``zone``. Raises Malformed with
    the line and the column (the first is 1) of what cannot be read.
    """
    headers, rows = table(file)
    lost = next((one for one in columns.values() if one not in headers), None)
    if lost is not None:
        raise Malformed(1, 1, f"there is no column “{lost}”")
    wanted = {field: headers.index(header) for field, header in columns.items()}
    scales = {field: unit_of(field, header) for field, header in columns.items()}
    for line, row in rows:
        if not any(cell.strip() for cell in row):
            continue
        cells: dict[str, str | float | int | bool | datetime] = {}
        for field, k in wanted.items():
            text = armed(row[k].strip()) if k < len(row) else ""
            where = line, k + 1
            if len(text) > LONGEST_CELL:
                raise Malformed(*where, "this cell is far too long")
            if field in YES_OR_NO:
                if text.lower() not in TRUE + FALSE:
                    raise Malformed(*where, f"“{text[:40]}” is neither true nor false")
                cells[field] = text.lower() in TRUE
            elif text == "":
                continue
            elif field == "time":
                cells[field] = _moment(text, zone, where)
            elif field.endswith(NUMBERS) or field in WHOLE:
                cells[field] = _number(field, text, scales[field], where)
            else:
                cells[field] = text
        if "date" in cells:
            clock = str(cells.pop("clock", "12:00"))
            cells["time"] = _moment(f"{cells.pop('date')} {clock}", zone, (line, wanted["date"] + 1))
        yield Row(line, cells)
