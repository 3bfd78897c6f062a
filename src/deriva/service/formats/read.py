"""Reading what a gauge sent, in a process of its own: `python -m deriva.service.formats.read FORMAT [preview] < FILE`.

Whatever a stranger's server sends is taken apart here, where it can use up neither the service's memory nor its time. On
standard output comes one line of JSON (how many values, the time of the newest) and then a row a value, as PostgreSQL's COPY
reads text: parameter, time, value, worth, code. On a file that is not what it says: exit 3 and the reason on standard error.
"""

import io
import json
import resource
import sys
from collections import Counter
from collections.abc import Iterable, Iterator
from typing import IO, Literal

from deriva.service.formats.gauge_csv import parse_csv
from deriva.service.formats.rdb import parse_rdb
from deriva.service.formats.samples import Malformed, Sample, tidy
from deriva.service.formats.waterml import parse_waterml

Format = Literal["rdb", "waterml", "csv"]

MALFORMED = 3
MEMORY_BYTES = 1_000_000_000
PROCESSOR_S = 30
LONGEST_CODE = 40


def _lines(file: IO[bytes]) -> Iterator[str]:
    for raw in file:
        yield raw.decode("utf-8", "replace")


def samples(file: IO[bytes], kind: Format) -> Iterator[Sample]:
    """Yield the samples of a file, read as it is asked for. Raises Malformed."""
    if kind == "waterml":
        return parse_waterml(file)
    return parse_rdb(_lines(file)) if kind == "rdb" else parse_csv(_lines(file))


def printable(code: str) -> str:
    """Return a source's own mark as it is stored."""
    return "".join(filter(str.isprintable, code))[:LONGEST_CODE]


def rows(found: Iterable[Sample]) -> Iterator[str]:
    """Yield the lines of COPY's text format."""
    for one in found:
        value = r"\N" if one.value is None else repr(one.value)
        code = printable(one.code).replace("\\", "\\\\")
        yield f"{one.parameter}\t{one.at.isoformat()}\t{value}\t{one.worth}\t{code}\n"


def whole(kind: Format, text: bytes) -> list[Sample]:
    """Return the samples of an answer, in order; one that was cut off ends in the middle of a line. Raises Malformed."""
    if kind != "waterml" and not text.endswith(b"\n"):
        raise Malformed(max(1, len(text.splitlines())), 1, "the file ends in the middle of a line")
    return tidy(samples(io.BytesIO(text), kind))


SHOWN = 6
"""So many values of a file are shown before it is taken in."""


def preview(kind: Format, text: bytes) -> dict[str, object]:
    """Return what the beginning of a file is read as: how many values of what, how many are missing, the first, and what is
    wrong. The last line, which may be cut, is left out.
    """
    head = text if kind == "waterml" or text.endswith(b"\n") else text[: text.rfind(b"\n") + 1]
    found: list[Sample] = []
    fault: str | None = None
    try:
        found.extend(samples(io.BytesIO(head), kind))
    except Malformed as error:
        cut = kind == "waterml" and found and "well-formed" in error.message
        fault = None if cut else str(error)
    counts = Counter(one.parameter for one in found)
    first = [
        {"parameter": one.parameter, "at": one.at.isoformat(), "value": one.value, "worth": one.worth}
        for one in found[:SHOWN]
    ]
    missing = sum(one.value is None for one in found)
    return {"counts": counts, "missing": missing, "first": first, "fault": fault}


def main() -> int:
    """Read standard input, write standard output; return the exit status."""
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (PROCESSOR_S, PROCESSOR_S))
    kind: Format = sys.argv[1]  # type: ignore[assignment] # the service's own word
    if sys.argv[2:] == ["preview"]:
        sys.stdout.write(json.dumps(preview(kind, sys.stdin.buffer.read())))
        return 0
    try:
        found = whole(kind, sys.stdin.buffer.read())
    except Malformed as error:
        sys.stderr.write(str(error)[:400])
        return MALFORMED
    newest = max((one.at for one in found), default=None)
    head = {"count": len(found), "newest": None if newest is None else newest.isoformat()}
    sys.stdout.write(json.dumps(head) + "\n")
    sys.stdout.writelines(rows(found))
    return 0


if __name__ == "__main__":
    sys.exit(main())
