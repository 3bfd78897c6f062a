"""USGS-style RDB: tab-delimited, `#` comments, a header row, a row of column types, then data.

Value columns are named `…_<parameter code>` (instantaneous) or `…_<parameter code>_00003` (daily mean), each followed by
its `…_cd` qualifiers. Instantaneous rows name their time zone in `tz_cd`; daily rows have a date, taken as noon UTC.
"""

import re
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta, timezone

from deriva.service.formats.samples import (
    FOOT_M,
    MISSING,
    Malformed,
    Parameter,
    Sample,
    Worth,
    moment,
    sample,
    shown,
)

CODES: dict[str, tuple[Parameter, Callable[[float], float]]] = {
    "00060": ("flow", lambda cubic_feet: cubic_feet * FOOT_M**3),
    "00065": ("stage", lambda feet: feet * FOOT_M),
    "00010": ("temperature", lambda celsius: celsius),
    "63680": ("turbidity", lambda fnu: fnu),
}
"""Parameter codes that are read, and the one place where each becomes SI."""

DAILY_MEAN = "00003"

ZONES_H = {
    "UTC": 0, "GMT": 0, "WET": 0, "BST": 1, "CET": 1, "CEST": 2, "AST": -4, "ADT": -3, "EST": -5, "EDT": -4, "CST": -6,
    "CDT": -5, "MST": -7, "MDT": -6, "PST": -8, "PDT": -7, "AKST": -9, "AKDT": -8, "HST": -10,
}  # fmt: skip

_VALUE = re.compile(r"(?:^|_)(\d{5})(?:_(\d{5}))?$")
_TIME = re.compile(r"(\d{4})-(\d\d)-(\d\d)(?:[ T](\d\d):(\d\d)(?::\d\d)?)?$")


def worth_of(code: str) -> Worth:
    """Return what a qualifier says: the gravest of its marks (`P` provisional, `e` estimated, `Ice`)."""
    marks = code.lower().replace(",", " ").replace(":", " ").split()
    if any("ice" in mark for mark in marks):
        return "ice"
    if any(mark.strip("[]") in ("e", "est") or mark.endswith("e]") or mark == "[90]" for mark in marks):
        return "estimated"
    if any(mark.startswith("p") for mark in marks):
        return "provisional"
    return "good"


def _time(text: str, zone: str, line: int, column: str) -> datetime:
    found = _TIME.match(text)
    if found is None:
        raise Malformed(line, column, f"{shown(text)} is not a time like 2026-05-01 14:15")
    year, month, day, hour, minute = found.groups()
    if zone not in ZONES_H:
        raise Malformed(line, "tz_cd", f"{shown(zone)} is not a time zone that is known here")
    try:
        at = datetime(
            int(year),
            int(month),
            int(day),
            int(hour or 12),
            int(minute or 0),
            tzinfo=timezone(timedelta(hours=ZONES_H[zone])),
        )
    except ValueError as error:
        raise Malformed(line, column, f"{text!r}: {error}") from None
    return moment(at, line, column)


@dataclass(frozen=True, slots=True)
class _Table:
    """Where things stand in the rows under one header."""

    header: list[str]
    when: int
    zone: int | None
    values: list[tuple[int, str]]


def _table(header: list[str], line: int) -> _Table:
    if "datetime" not in header:
        raise Malformed(line, 1, "the header names no column `datetime`")
    values = []
    for place, name in enumerate(header):
        match = _VALUE.search(name)
        if match and match[1] in CODES and match[2] in (None, DAILY_MEAN):
            values.append((place, match[1]))
    if not values:
        raise Malformed(line, 1, f"no column holds a parameter that is read here ({', '.join(CODES)})")
    zone = header.index("tz_cd") if "tz_cd" in header else None
    return _Table(header, header.index("datetime"), zone, values)


def _row(cells: list[str], table: _Table, line: int) -> Iterator[Sample]:
    if len(cells) != len(table.header):
        raise Malformed(line, len(cells), f"{len(cells)} cells where the header has {len(table.header)}")
    at = _time(cells[table.when], "UTC" if table.zone is None else cells[table.zone], line, "datetime")
    for place, code in table.values:
        name, text = table.header[place], cells[place].strip()
        marked = place + 1 < len(cells) and table.header[place + 1] == name + "_cd"
        mark = cells[place + 1] if marked else ""
        parameter, to_si = CODES[code]
        try:
            value = float(text)
        except ValueError:
            if not re.fullmatch(r"[A-Za-z*_\-]*", text):  # Ice, Eqp, Bkw, *** are words for no value
                raise Malformed(line, name, f"{shown(text)} is not a number") from None
            yield sample(parameter, at, None, "ice" if "ice" in text.lower() else "missing", text or mark)
            continue
        yield sample(parameter, at, None if value == MISSING else to_si(value), worth_of(mark), mark)


def parse_rdb(lines: Iterable[str]) -> Iterator[Sample]:
    """Yield the samples of an RDB file line by line. Raises Malformed, naming line and column."""
    table: _Table | None = None
    types_due = False
    number = 0
    for number, raw in enumerate(lines, 1):
        row = raw.rstrip("\r\n")
        if not row or row.startswith("#"):
            continue
        cells = row.split("\t")
        if types_due:
            if not all(re.fullmatch(r"\d+[sdn]", cell) for cell in cells):
                raise Malformed(
                    number, 1, "the row of types (such as `5s 15s 20d`) is missing under the header"
                )
            types_due = False
        elif table is None or cells == table.header:  # the file begins, or a second site does
            table, types_due = _table(cells, number), True
        else:
            yield from _row(cells, table, number)
    if table is None:
        raise Malformed(number + 1, 1, "the file ends without a header row")
