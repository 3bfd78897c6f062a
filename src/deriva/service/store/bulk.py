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


SAID = "parameter, at, value, worth, code"
COLUMNS = f"angler_id, gauge_id, daily, {SAID}"


CORRECT = f"""
    insert into gauge_value ({COLUMNS})
    select %(angler)s, %(gauge)s, %(daily)s, {SAID} from
      (select distinct on (parameter, at) * from incoming order by parameter, at, place desc) said
    where not exists (
      select 1 from gauge_value known
      where (known.angler_id, known.gauge_id, known.daily) = (%(angler)s, %(gauge)s, %(daily)s)
        and (known.parameter, known.at) = (said.parameter, said.at)
        and (known.value, known.worth, known.code) is not distinct from (said.value, said.worth, said.code)
    )
    on conflict (angler_id, gauge_id, parameter, daily, at)
    do update set value = excluded.value, worth = excluded.worth, code = excluded.code
"""  # noqa: S608 - names of our own
"""Take in what lies beside the table, of two for the same time the later in the file. What is there already is not written
again: to write a row that stays as it is costs as much as a new one."""


class _Rows:
    """Writes samples as rows of COPY's text format: straight into the table while each is newer than all that is known of its
    parameter, and beside it from the first that is not, since it may correct another.
    """

    def __init__(self, cursor: psycopg.Cursor, key: Key, *, daily: bool) -> None:
        self.cursor = cursor
        self.head = f"{key[0]}\t{key[1]}\t{'t' if daily else 'f'}\t"
        self.newest: dict[str, datetime] = dict(
            cursor.execute(
                "select parameter, max(at) from gauge_value where angler_id = %s and gauge_id = %s and daily = %s group by 1",
                (*key, daily),
            ).fetchall()
        )
        self.staged = False

    def line(self, s: Sample, count: int) -> str:
        """Return a sample as a row; one beside the table has its place in the file, and not whose it is."""
        code = s.code[:40].replace("\\", "\\\\") if s.code.isprintable() else ""
        value = "\\N" if s.value is None else repr(float(s.value))
        said = f"{s.parameter}\t{s.at.isoformat()}\t{value}\t{s.worth}\t{code}"
        return f"{said}\t{count}\n" if self.staged else f"{self.head}{said}\n"

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
        where = f"incoming ({SAID}, place)" if self.staged else f"gauge_value ({COLUMNS})"
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
        cursor.execute(
            f"create temp table incoming on commit drop as select {SAID}, 0::bigint as place from gauge_value limit 0"  # noqa: S608
        )
        count, _ = rows.copy(chain([first], rest), count, report)
        cursor.execute("analyze incoming")
        cursor.execute(CORRECT, {"angler": key[0], "gauge": key[1], "daily": daily})
    return count
