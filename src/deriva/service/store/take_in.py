"""Taking a file of a gauge's past in, in a process of its own: `python -m deriva.service.store.take_in` with a job on standard
input. All of the file is stored or nothing; how it goes is written down where whoever asked can read it.
"""

import json
import logging
import resource
import sys
from itertools import chain
from typing import IO

from deriva.service.formats.read import samples
from deriva.service.formats.samples import Malformed
from deriva.service.store.address import sync_connect
from deriva.service.store.bulk import copy_samples
from deriva.service.store.handed import Handed
from deriva.service.store.jobs import Notes, Stopped

log = logging.getLogger(__name__)

MEMORY_BYTES = 1_500_000_000
HEAD_BYTES = 4000


class TakenIn:
    """A file that knows how much of it has been read."""

    def __init__(self, file: IO[bytes]) -> None:
        self.file = file
        self.done = 0

    def read(self, size: int = -1) -> bytes:
        """Read on."""
        part = self.file.read(size)
        self.done += len(part)
        return part

    def __iter__(self) -> "TakenIn":
        """Go through the lines."""
        return self

    def __next__(self) -> bytes:
        """Return the next line."""
        part = next(self.file)
        self.done += len(part)
        return part


def take_in(job: Handed) -> int | None:
    """Read the file and store it, or nothing of it; write down how it goes.

    Return how many values were stored; None where it ended without, which is then written down.
    """
    size = max(1, job.path.stat().st_size)
    with (
        sync_connect(job.database_url, autocommit=True) as notes,
        job.path.open("rb") as raw,
    ):
        file = TakenIn(raw)

        note = Notes(notes, job.angler_id, job.import_id)

        def report(rows: int) -> None:
            note.report(rows, file.done / size)

        try:
            found = samples(file, job.kind)  # type: ignore[arg-type] # as much of a file as readers use
            first = next(found, None)
            if first is None:
                note.end("failed", "There is no value in this file.")
                return None
            # a file of daily means has one value a day, at noon; any other is instantaneous
            head = job.path.open("rb").read(HEAD_BYTES).decode("utf-8", "replace")
            report(0)
            return copy_samples(
                job.database_url, (job.angler_id, job.gauge_id), chain([first], found),
                daily=job.kind == "rdb" and "_00003" in head, report=report,
            )  # fmt: skip
        except Malformed as error:
            note.end("failed", f"Nothing was taken in. {str(error)[0].upper()}{str(error)[1:]}.")
        except Stopped:
            note.end("cancelled", "Stopped; nothing was taken in.")
        except Exception:
            log.exception("import %s", job.import_id)
            note.end("failed", "Nothing was taken in: something went wrong here, not with the file.")
    return None


def main() -> int:
    """Do the job on standard input; write the number of values, or null, to standard output."""
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    sys.stdout.write(json.dumps(take_in(Handed.from_json(sys.stdin.buffer.read()))))
    return 0


if __name__ == "__main__":
    sys.exit(main())
