"""Plain CSV of a gauge: `time` in ISO 8601 with offset, then columns named with their unit, and perhaps `qualifier`.

time,flow[m3/s],temperature[Cel],qualifier
2026-05-01T14:15:00+00:00,3.21,11.4,provisional
"""

import csv
import re
from collections.abc import Callable, Iterable, Iterator
from datetime import datetime

from deriva.service.formats.rdb import worth_of
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

COLUMNS: dict[str, tuple[Parameter, Callable[[float], float]]] = {
    "flow[m3/s]": ("flow", lambda v: v),
    "flow[ft3/s]": ("flow", lambda v: v * FOOT_M**3),
    "stage[m]": ("stage", lambda v: v),
    "stage[ft]": ("stage", lambda v: v * FOOT_M),
    "temperature[cel]": ("temperature", lambda v: v),
    "temperature[degf]": ("temperature", lambda v: (v - 32.0) / 1.8),
    "turbidity[fnu]": ("turbidity", lambda v: v),
}

WORDS: dict[str, Worth] = {
    "": "good", "good": "good", "approved": "good", "provisional": "provisional", "estimated": "estimated", "ice": "ice",
    "missing": "missing",
}  # fmt: skip


WORD = re.compile(r"[A-Za-z*_\-]{1,20}$")
"""A word where a number is due, such as Ice or Eqp, says why there is none."""


def parse_csv(lines: Iterable[str]) -> Iterator[Sample]:
    """Yield the samples of a CSV file. Raises Malformed, naming line and column."""
    rows = _rows(lines)
    _, first = next(rows, (1, []))
    header = [name.strip().lower().lstrip("\ufeff") for name in first]
    if "time" not in header:
        raise Malformed(1, 1, "the first row names no column `time`")
    known = [(place, *COLUMNS[name]) for place, name in enumerate(header) if name in COLUMNS]
    if not known:
        raise Malformed(1, 1, f"no column of a parameter that is read here: one of {', '.join(COLUMNS)}")
    when = header.index("time")
    mark_at = header.index("qualifier") if "qualifier" in header else -1
    for line, cells in rows:
        if len(cells) != len(header):
            raise Malformed(line, len(cells), f"{len(cells)} cells where the header has {len(header)}")
        at = _time(cells[when].strip(), line)
        mark = cells[mark_at].strip() if mark_at >= 0 else ""
        for place, parameter, to_si in known:
            text = cells[place].strip()
            try:
                value = float(text) if text else MISSING
            except ValueError:
                if not WORD.match(text):
                    raise Malformed(line, header[place], f"{shown(text)} is not a number") from None
                yield sample(parameter, at, None, "ice" if "ice" in text.lower() else "missing", text)
                continue
            worth = WORDS.get(mark.lower()) or worth_of(mark)
            yield sample(parameter, at, None if value == MISSING else to_si(value), worth, mark)


def _rows(lines: Iterable[str]) -> Iterator[tuple[int, list[str]]]:
    """Yield the rows that hold anything, each with the number of its line."""
    reader = csv.reader(lines)
    try:
        for cells in reader:
            if cells:
                yield reader.line_num, cells
    except csv.Error as error:
        raise Malformed(reader.line_num, 1, str(error)) from None


def _time(text: str, line: int) -> datetime:
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        raise Malformed(line, "time", f"{shown(text)} is not a time like 2026-05-01T14:15:00+00:00") from None
    if at.tzinfo is None:
        raise Malformed(line, "time", f"{shown(text)} says no offset from UTC")
    return moment(at, line, "time")
