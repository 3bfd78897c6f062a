"""Taking in a whole file of gauge values by COPY: all of it or nothing, with progress, and a way to stop."""

from collections.abc import Callable, Iterable
from uuid import UUID

import psycopg

from deriva.service.formats.samples import Sample

REPORT_EVERY = 10_000


class Stopped(RuntimeError):
    """Somebody asked to stop; nothing was stored."""


def sync_url(database_url: str) -> str:
    """Return a database address as psycopg takes it."""
    return database_url.replace("+asyncpg", "")


def copy_samples(
    database_url: str,
    gauge_id: UUID,
    samples: Iterable[Sample],
    *,
    daily: bool,
    report: Callable[[int], bool],
) -> int:
    """Store samples in one transaction; of two for the same time the later stands. Return how many were read.

    ``report`` is told the count every ten thousand, and says whether to go on; where it does not, :class:`Stopped`.
    """
    count = 0
    with psycopg.connect(sync_url(database_url)) as connection, connection.cursor() as cursor:
        cursor.execute("create temp table incoming (like gauge_value, place bigint) on commit drop")
        statement = "copy incoming (gauge_id, parameter, daily, at, value, worth, code, place) from stdin"
        with cursor.copy(statement) as copy:
            for count, s in enumerate(samples, 1):
                code = s.code[:40] if s.code.isprintable() else ""
                copy.write_row((gauge_id, s.parameter, daily, s.at, s.value, s.worth, code, count))
                if count % REPORT_EVERY == 0 and not report(count):
                    raise Stopped
        cursor.execute(
            "insert into gauge_value (gauge_id, parameter, daily, at, value, worth, code)"
            " select distinct on (gauge_id, parameter, daily, at) gauge_id, parameter, daily, at, value, worth, code"
            " from incoming order by gauge_id, parameter, daily, at, place desc"
            " on conflict (gauge_id, parameter, daily, at)"
            " do update set value = excluded.value, worth = excluded.worth, code = excluded.code"
        )
    return count
