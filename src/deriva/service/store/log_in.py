"""Rows of a log going in as they stand in a file: by PostgreSQL's own reading of JSON, the way that they came out."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from typing import Any
from uuid import UUID

import orjson
import psycopg
from psycopg import sql

Values = Mapping[str, Any]


class Taking:
    """One angler's log, held until the transaction ends."""

    def __init__(self, connection: psycopg.Connection, angler_id: UUID) -> None:
        self.connection, self.angler_id = connection, angler_id
        connection.execute("select changes from angler where id = %s for update", (angler_id,))

    def put(self, table: str, rows: Sequence[Values]) -> tuple[int, set[str]]:
        """Add rows of one table; return how many were new, and which of them, by their ids. What is there already stays."""
        if not rows:
            return 0, set()
        columns = sql.SQL(", ").join(map(sql.Identifier, rows[0]))
        statement = sql.SQL(
            "insert into {table} (angler_id, {columns})"
            " select %s, {columns} from jsonb_populate_recordset(null::{table}, %s::jsonb) on conflict do nothing{made}"
        ).format(
            table=sql.Identifier(table),
            columns=columns,
            made=sql.SQL(" returning id" if "id" in rows[0] else ""),
        )
        found = self.connection.execute(statement, (self.angler_id, orjson.dumps(rows).decode()))
        return found.rowcount, {str(row[0]) for row in found} if "id" in rows[0] else set()

    def put_history(self, rows: Sequence[Values]) -> int:
        """Add writings that the angler's log does not have yet, in their order, after its newest; return how many."""
        row = self.connection.execute(
            "select changes from angler where id = %s", (self.angler_id,)
        ).fetchone()
        assert row is not None  # noqa: S101 - the angler is held
        self.put("change", [{**one, "position": k, "filed": True} for k, one in enumerate(rows, row[0] + 1)])
        self.connection.execute(
            "update angler set changes = changes + %s where id = %s", (len(rows), self.angler_id)
        )
        return len(rows)

    def there(self, table: str, ids: Collection[str]) -> set[str]:
        """Return which of these rows are the angler's already."""
        statement = sql.SQL("select id from {} where angler_id = %s and id = any(%s)").format(
            sql.Identifier(table)
        )
        found = self.connection.execute(statement, (self.angler_id, [UUID(one) for one in ids]))
        return {str(row[0]) for row in found}

    def count(self, table: str) -> int:
        """Return how many rows of a table the angler has."""
        statement = sql.SQL("select count(*) from {} where angler_id = %s").format(sql.Identifier(table))
        row = self.connection.execute(statement, (self.angler_id,)).fetchone()
        return 0 if row is None else int(row[0])

    def lies(self, beat_id: UUID) -> Iterable[tuple[str, str, str, str, float, dict[str, Any] | None]]:
        """Return the lies of a beat: id, name, kind, bed, how far up, and the newest reading if there is one."""
        statement = (
            "select lie.id::text, lie.name, lie.kind, lie.bed, lie.along_m, (select to_jsonb(reading) from reading"
            " where reading.angler_id = lie.angler_id and reading.lie_id = lie.id order by at desc limit 1)"
            " from lie where lie.angler_id = %s and lie.beat_id = %s"
        )
        return self.connection.execute(statement, (self.angler_id, beat_id)).fetchall()

    def beat(self, beat_id: UUID) -> dict[str, Any] | None:
        """Return a beat of the angler's with where its river is."""
        statement = (
            "select to_jsonb(beat) || jsonb_build_object('latitude', river.latitude, 'longitude', river.longitude)"
            " from beat join river on river.angler_id = beat.angler_id and river.id = beat.river_id"
            " where beat.angler_id = %s and beat.id = %s"
        )
        row = self.connection.execute(statement, (self.angler_id, beat_id)).fetchone()
        return None if row is None else row[0]
