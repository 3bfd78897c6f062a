"""A job's own word on how it goes, from the process that does it."""

from typing import Any
from uuid import UUID

import orjson
import psycopg


class Stopped(Exception):
    """Whoever asked for it wants it no more."""


class Notes:
    """What is written down of a job while it is done; on a connection of its own, so that it is seen at once."""

    def __init__(self, connection: psycopg.Connection, angler_id: UUID, job_id: UUID) -> None:
        self.connection, self.key = connection, (angler_id, job_id)

    def report(self, rows: int, share: float) -> None:
        """Say how far it is. Raises :class:`Stopped` where it is to stop."""
        row = self.connection.execute(
            "update job set rows = %s, share = %s, alive_at = now() where angler_id = %s and id = %s returning state",
            (rows, min(0.99, share), *self.key),
        ).fetchone()
        if row is None or row[0] != "running":
            raise Stopped

    def end(self, state: str, message: str, *, rows: int = 0, result: dict[str, Any] | None = None) -> None:
        """Say how it ended."""
        self.connection.execute(
            "update job set state = %s, rows = %s, share = case when %s = 'done' then 1.0 else share end, message = %s,"
            " result = %s::jsonb, ended_at = now() where angler_id = %s and id = %s",
            (
                state,
                rows,
                state,
                message[:400],
                None if result is None else orjson.dumps(result).decode(),
                *self.key,
            ),
        )
