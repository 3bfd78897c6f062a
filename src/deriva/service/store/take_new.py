"""Taking in writings with which nothing has to be compared, at one call of the database."""

import asyncio
from collections.abc import Collection, Sequence
from contextlib import nullcontext
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

import asyncpg
import orjson
from sqlalchemy.ext.asyncio import AsyncEngine

PLAIN = frozenset(("stops", "settings", "drifts", "catches"))
"""Kinds of which nothing is worked out as they come in: no limit to how many, no flow to find, no conditions to freeze."""

A_FEW = 3

CALL = "select newest, others from take_new($1, $2, $3, $4, $5, $6, $7::text::jsonb)"


@dataclass(frozen=True, slots=True)
class Took:
    """The position of the newest change, and whether other devices have written something that was not heard of."""

    newest: int
    others: bool


class AtOnce:
    """The way to the database for what is done at one call, a few at a time and first come first served: where more ask at
    once, each waits for all of them.
    """

    def __init__(self, engine: AsyncEngine, *, pooled: bool = False) -> None:
        self.engine = engine.execution_options(isolation_level="AUTOCOMMIT")
        self.pooled = pooled
        self.turns = asyncio.Semaphore(A_FEW)


async def take_new(
    way: AtOnce,
    token_hash: str,
    *,
    angler: UUID | None,
    device: UUID,
    cursor: int,
    now: datetime,
    kinds: Collection[str],
    events: Sequence[dict[str, Any]],
) -> Took | None:
    """Take a whole batch in where every writing of it and every record is new and hangs under the angler's own.

    None, and nothing is taken, where that is not so: for nobody who is signed in, for a parent that is another's, for what was
    sent before. Then it has to be looked at one by one.
    """
    async with way.turns, way.engine.connect() as connection:
        raw = (await connection.get_raw_connection()).driver_connection
        assert raw is not None  # noqa: S101 - an open connection has one
        told = (
            token_hash, angler, device, cursor, now, list(kinds), orjson.dumps(events).decode()
        )  # fmt: skip
        try:
            # behind a pooler a call is two: what is prepared and what is asked must meet on one connection
            async with raw.transaction() if way.pooled else nullcontext():
                row = await raw.fetchrow(CALL, *told)
        except asyncpg.DataError:  # something that no table holds: it is found out which
            return None
    return None if row is None else Took(row["newest"], row["others"])
