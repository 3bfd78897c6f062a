"""Taking a log in, in a process of its own: `python -m deriva.service.usecases.take_log` with a job on standard input.

Every row is read by the same bounds as one that is sent; all of the file is stored or nothing. What is there already stays as
it is. A dry run does all of it and takes it back.
"""

import logging
import resource
import sys
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from datetime import UTC, datetime
from typing import IO, Any
from uuid import UUID
from zoneinfo import ZoneInfo

from pydantic import ValidationError
from sqlalchemy import inspect

from deriva.service.formats import everything, gpx, log_csv
from deriva.service.formats.everything import Found
from deriva.service.formats.samples import Malformed
from deriva.service.schemas.base import faults_of_validation
from deriva.service.schemas.everything import KEPT, PARENTS, ROWS, ChangeRow, values_of
from deriva.service.store.address import sync_connect
from deriva.service.store.jobs import Notes, Stopped
from deriva.service.store.log_in import Taking
from deriva.service.usecases.caps import MOST
from deriva.service.usecases.csv_log import Beat, CsvLog, Lie, lies_of
from deriva.service.usecases.log_job import LogJob

log = logging.getLogger(__name__)

MEMORY_BYTES = 2_000_000_000
AT_ONCE = 1000
CAPS = {str(inspect(table).local_table.name): cap for table, cap in MOST.items()}
KEYLESS = ("gauge_value",)
"""Tables whose rows have no id of their own."""


class TooFew(ValueError):
    """What is wanted of a job is not said."""


def _beat(taking: Taking, job: LogJob) -> Beat:
    row = None if job.beat_id is None else taking.beat(job.beat_id)
    if row is None or job.beat_id is None:
        raise TooFew("On which beat it was is not said.")
    lies = {one[1].lower(): Lie(*one) for one in taking.lies(job.beat_id)}
    return Beat(str(job.beat_id), row, lies)


def _rows(taking: Taking, job: LogJob, file: IO[bytes]) -> Iterator[Found]:
    """Yield the rows of a file, whatever it is. Raises Malformed."""
    if job.format == "json":
        return everything.read(file)
    beat = _beat(taking, job)
    if job.format == "gpx":
        return lies_of(gpx.read(file), beat, datetime.now(UTC))
    zone = ZoneInfo(job.zone)
    rows = list(log_csv.read(file, job.columns or {}, zone))
    given = {str(row.cells["drift_id"]) for row in rows if "drift_id" in row.cells}
    there = taking.there("drift", {one for one in given if _is_id(one)})
    fresh = [row for row in rows if row.cells.get("drift_id") not in there]
    return CsvLog(beat, zone, job.rig).rows(fresh)


def _is_id(text: str) -> bool:
    try:
        UUID(text)
    except ValueError:
        return False
    return True


class Store:
    """Rows on their way in: judged one by one, stored by the thousand."""

    def __init__(self, taking: Taking) -> None:
        self.taking = taking
        self.ids: defaultdict[str, set[str]] = defaultdict(set)
        self.fresh: defaultdict[str, set[str]] = defaultdict(set)
        self.new: Counter[str] = Counter()
        self.there: Counter[str] = Counter()
        self.passed: Counter[str] = Counter()
        self.table = ""
        self.waiting: list[tuple[dict[str, Any], Found]] = []
        self.shape: tuple[str, ...] = ()

    def take(self, found: Found) -> None:
        """Judge a row, and store it with others of its table. Raises Malformed."""
        reader = ROWS.get(found.table)
        if reader is None:
            self.passed[found.table] += 1
            return
        try:
            row = reader.validate_python(found.row)
        except ValidationError as error:
            raise Malformed(found.line, found.column, _said(error, found.table)) from None
        if isinstance(row, ChangeRow) and not row.is_read:
            self.passed[found.table] += 1
            return
        values = values_of(row)
        shape = tuple(values)
        if (found.table, shape) != (self.table, self.shape) or len(self.waiting) >= AT_ONCE:
            self.store()
            self.table, self.shape = found.table, shape
        if found.table not in KEYLESS:
            if values["id"] in self.ids[found.table]:
                raise Malformed(found.line, found.column, f"a {found.table} of this id stands here twice")
            self.ids[found.table].add(values["id"])
        self.waiting.append((values, found))

    def store(self) -> None:
        """Store what waits. Raises Malformed for a row that hangs under nothing."""
        rows = [values for values, _ in self.waiting]
        for column, parent in PARENTS.get(self.table, {}).items():
            wanted = {row[column] for row in rows} - {None} - self.ids[parent]
            missing = wanted - self.taking.there(parent, wanted)
            for values, found in self.waiting:
                if values[column] in missing:
                    text = f"this {self.table} hangs under a {parent} that is neither before it in the file nor yours"
                    raise Malformed(found.line, found.column, text)
        self.waiting = []
        if self.table == "change":
            self._store_history(rows)
            return
        new, ids = self.taking.put(self.table, rows)
        self.new[self.table] += new
        self.there[self.table] += len(rows) - new
        if self.table in KEPT.values():
            self.fresh[self.table] |= ids

    def _store_history(self, rows: Sequence[dict[str, Any]]) -> None:
        """Store the writings of records that came in with this file: of one that was there, what stands is said already."""
        there = self.taking.there("change", [row["id"] for row in rows])
        new = [
            row for row in rows if row["id"] not in there and row["record"] in self.fresh[KEPT[row["kind"]]]
        ]
        self.new["change"] += self.taking.put_history(new)
        self.there["change"] += len(there)
        self.passed["change"] += len(rows) - len(there) - len(new)

    def within_caps(self) -> None:
        """Raise TooFew where there would be more of a kind than is kept."""
        for table, (most, name) in CAPS.items():
            if self.new[table] and self.taking.count(table) > most:
                raise TooFew(f"There would be more than {most} {name}, and no more are kept.")

    def result(self) -> dict[str, Any]:
        """Return what came of it."""
        return {
            "new": {table: n for table, n in self.new.items() if n},
            "there": {table: n for table, n in self.there.items() if n},
            "passed": {table: n for table, n in self.passed.items() if n},
            "columns": [],
            "guess": {},
        }


def _said(error: ValidationError, table: str) -> str:
    fault = faults_of_validation(error)[0]
    field = (fault.field or "").removeprefix("body.")
    return f"{table}{'.' if field else ''}{field}: {fault.message}"


def take_log(job: LogJob) -> None:
    """Read the file and store it, or nothing of it; write down how it goes and how it ends."""
    with (
        sync_connect(job.database_url, autocommit=True) as told,
        job.path.open("rb") as file,
    ):
        notes = Notes(told, job.angler_id, job.job_id)
        try:
            if job.format == "csv" and not job.columns:
                headers, _ = log_csv.table(file)
                guess = log_csv.guessed(headers)
                nothing: dict[str, int] = {}
                result = {
                    "new": nothing,
                    "there": nothing,
                    "passed": nothing,
                    "columns": headers,
                    "guess": guess,
                }
                notes.end("done", "", result=result)
                return
            result, rows = _taken(job, file, notes)
            done = "would be taken in" if job.dry else "taken in"
            notes.end(
                "done", f"{rows} rows {done}." if rows != 1 else f"One row {done}.", rows=rows, result=result
            )
        except Malformed as error:
            notes.end("failed", f"Nothing was taken in. {str(error)[0].upper()}{str(error)[1:]}.")
        except TooFew as error:
            notes.end("failed", f"Nothing was taken in. {error}")
        except Stopped:
            notes.end("cancelled", "Stopped; nothing was taken in.")
        except Exception:
            log.exception("import %s", job.job_id)
            notes.end("failed", "Nothing was taken in: something went wrong here, not with the file.")


def _taken(job: LogJob, file: IO[bytes], notes: Notes) -> tuple[dict[str, Any], int]:
    """Take the rows in; return what came of it and how many were new."""
    with sync_connect(job.database_url) as connection:
        taking = Taking(connection, job.angler_id)
        store = Store(taking)
        lines = 1 + sum(part.count(b"\n") for part in iter(lambda: file.read(1 << 20), b""))
        file.seek(0)
        for n, found in enumerate(_rows(taking, job, file), 1):
            store.take(found)
            if n % AT_ONCE == 0:
                notes.report(n, found.line / lines)
        store.store()
        store.within_caps()
        notes.report(sum(store.new.values()), 1.0)
        if job.dry:
            connection.rollback()
    return store.result(), sum(store.new.values())


def main() -> int:
    """Do the job on standard input."""
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    take_log(LogJob.from_json(sys.stdin.buffer.read()))
    return 0


if __name__ == "__main__":
    sys.exit(main())
