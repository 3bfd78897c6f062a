"""Taking in a whole file of gauge values by COPY: all of it or nothing, with progress, and a way to stop."""

from collections.abc import Callable, Iterable, Iterator
from datetime import datetime
from itertools import chain

import psycopg

from deriva.service.formats.samples import Sample
from deriva.service.store.address import sync_connect
from deriva.service.store.jobs import Stopped
from deriva.service.store.owned import Key

REPORT_EVERY = 10_000


COLUMNS = "angler_id, gauge_id, parameter, daily, at, value, worth, code"


class _Rows:
    """Writes samples as rows of COPY's text format: straight into the table while each is newer than all that is known of its
    parameter, and beside it from the first that is not, since it may correct another.
    """

    def __init__(self, cursor: psycopg.Cursor, key: Key, *, daily: bool) -> None:
        self.cursor = cursor
        self.head = f"{key[0]}\t{key[1]}\t"
        self.daily = "t" if daily else "f"
        self.newest: dict[str, datetime] = dict(
            cursor.execute(
                "select parameter, max(at) from gauge_value where angler_id = %s and gauge_id = %s and daily = %s group by 1",
                (*key, daily),
            ).fetchall()
        )
        self.staged = False

    def line(self, s: Sample, count: int) -> str:
        """Return a sample as a row; one beside the table has its place in the file too."""
        code = s.code[:40].replace("\\", "\\\\") if s.code.isprintable() else ""
        value = "\\N" if s.value is None else repr(float(s.value))
        row = f"{self.head}{s.parameter}\t{self.daily}\t{s.at.isoformat()}\t{value}\t{s.worth}\t{code}"
        return f"{row}\t{count}\n" if self.staged else row + "\n"

    def follows(self, s: Sample) -> bool:
        """Return whether a sample is newer than all that is known of its parameter, which then is."""
        before = self.newest.get(s.parameter)
        if before is not None and s.at <= before:
            return False
        self.newest[s.parameter] = s.at
        return True

    def copy(
        self, samples: Iterator[Sample], count: int, report: Callable[[int], None]
    ) -> tuple[int, Sample | None]:
        """Write samples; return how many there were, and the first that has to go beside the table."""
        where = f"incoming ({COLUMNS}, place)" if self.staged else f"gauge_value ({COLUMNS})"
        with self.cursor.copy(f"copy {where} from stdin") as copy:
            lines: list[str] = []
            for s in samples:
                if not self.staged and not self.follows(s):
                    copy.write("".join(lines))
                    return count, s
                count += 1
                lines.append(self.line(s, count))
                if count % REPORT_EVERY == 0:
                    copy.write("".join(lines))
                    lines.clear()
                    report(count)
            copy.write("".join(lines))
        return count, None


def copy_samples(
    database_url: str,
    key: Key,
    samples: Iterable[Sample],
    *,
    daily: bool,
    report: Callable[[int], None],
) -> int:
    """Store samples of a gauge in one transaction; of two for the same time the later stands. Return how many were read.

    ``report`` is told the count every ten thousand; where it raises :class:`Stopped`, or the gauge is gone, nothing is stored.
    Two files of one gauge are taken in one after the other.
    """
    with sync_connect(database_url) as connection, connection.cursor() as cursor:
        cursor.execute("select pg_advisory_xact_lock(hashtextextended(%s, 0))", (str(key[1]),))
        cursor.execute("select 1 from gauge where angler_id = %s and id = %s for key share", key)
        if cursor.fetchone() is None:
            raise Stopped
        rows, rest = _Rows(cursor, key, daily=daily), iter(samples)
        count, first = rows.copy(rest, 0, report)
        if first is None:
            return count
        rows.staged = True
        cursor.execute("create temp table incoming (like gauge_value, place bigint) on commit drop")
        count, _ = rows.copy(chain([first], rest), count, report)
        cursor.execute(
            f"insert into gauge_value ({COLUMNS})"  # noqa: S608 - names of our own
            f" select distinct on (parameter, at) {COLUMNS} from incoming order by parameter, at, place desc"
            " on conflict (angler_id, gauge_id, parameter, daily, at)"
            " do update set value = excluded.value, worth = excluded.worth, code = excluded.code"
        )
    return count
