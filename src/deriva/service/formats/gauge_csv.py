"""Plain CSV of a gauge: `time` in ISO 8601 with offset, then columns named with their unit, and perhaps `qualifier`.

time,flow[m3/s],temperature[Cel],qualifier
2026-05-01T14:15:00+00:00,3.21,11.4,provisional
"""

import csv
import math
from collections.abc import Callable, Iterable, Iterator
from datetime import UTC, datetime

from deriva.service.formats.rdb import worth_of
from deriva.service.formats.samples import FOOT_M, MISSING, Malformed, Parameter, Sample, Worth

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


def parse_csv(lines: Iterable[str]) -> Iterator[Sample]:
    """Yield the samples of a CSV file. Raises Malformed, naming line and column."""
    reader = csv.reader(lines)
    header = [name.strip().lower().lstrip("\ufeff") for name in next(reader, [])]
    if "time" not in header:
        raise Malformed(1, 1, "the first row names no column `time`")
    known = [(place, *COLUMNS[name]) for place, name in enumerate(header) if name in COLUMNS]
    if not known:
        raise Malformed(1, 1, f"no column of a parameter that is read here: one of {', '.join(COLUMNS)}")
    when = header.index("time")
    mark_at = header.index("qualifier") if "qualifier" in header else -1
    for cells in reader:
        if not cells:
            continue
        if len(cells) != len(header):
            raise Malformed(
                reader.line_num, len(cells), f"{len(cells)} cells where the header has {len(header)}"
            )
        try:
            at = datetime.fromisoformat(cells[when].strip())
        except ValueError:
            raise Malformed(
                reader.line_num, "time", f"{cells[when]!r} is not a time like 2026-05-01T14:15:00+00:00"
            ) from None
        if at.tzinfo is None:
            raise Malformed(reader.line_num, "time", f"{cells[when]!r} says no offset from UTC")
        mark = cells[mark_at].strip() if mark_at >= 0 else ""
        for place, parameter, to_si in known:
            text = cells[place].strip()
            try:
                value = float(text) if text else MISSING
            except ValueError:
                raise Malformed(reader.line_num, header[place], f"{text!r} is not a number") from None
            worth = WORDS.get(mark.lower()) or worth_of(mark)
            if value == MISSING or not math.isfinite(value) or worth == "missing":
                yield Sample(parameter, at.astimezone(UTC), None, "missing", mark)
            else:
                yield Sample(parameter, at.astimezone(UTC), to_si(value), worth, mark)
