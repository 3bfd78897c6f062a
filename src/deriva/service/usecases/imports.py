"""Taking in a file of a gauge's past, in the background, with progress and a way to stop."""

import asyncio
import logging
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from itertools import chain
from pathlib import Path
from typing import Literal
from uuid import UUID

import psycopg
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.formats.gauge_csv import parse_csv
from deriva.service.formats.rdb import parse_rdb
from deriva.service.formats.samples import Malformed, Sample
from deriva.service.formats.waterml import parse_waterml
from deriva.service.schemas.river import ImportOut
from deriva.service.store import queries
from deriva.service.store.bulk import Stopped, copy_samples, sync_url
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Gauge, GaugeImport

log = logging.getLogger(__name__)

Format = Literal["rdb", "waterml", "csv"]
RUNNING = ("running", "cancelling")


async def begin(session: AsyncSession, angler_id: UUID, import_id: UUID, gauge_id: UUID) -> bool:
    """Write down that an import begins; return False where this one has begun before."""
    await queries.get_owned(session, Gauge, angler_id, gauge_id)
    if await session.get(GaugeImport, import_id) is not None:
        await queries.get_owned(session, GaugeImport, angler_id, import_id)
        return False
    session.add(
        GaugeImport(
            id=import_id, angler_id=angler_id, gauge_id=gauge_id, state="running", rows=0, share=0.0, message="",
            started_at=datetime.now(UTC),
        )
    )  # fmt: skip
    await session.flush()
    return True


async def give_up_unfinished(sessions: Sessions) -> None:
    """Say of imports that a stopped service left running that they came to nothing: their transaction died with it."""
    async with sessions.begin() as session:
        await queries.end_unfinished_imports(
            session, message="The service was stopped; nothing was taken in."
        )


async def state(session: AsyncSession, angler_id: UUID, import_id: UUID) -> ImportOut:
    """Return how far an import is."""
    row = await queries.get_owned(session, GaugeImport, angler_id, import_id)
    return ImportOut.model_validate({name: getattr(row, name) for name in ImportOut.model_fields})


async def cancel(session: AsyncSession, angler_id: UUID, import_id: UUID) -> ImportOut:
    """Ask an import to stop; one that has ended stays as it ended."""
    row = await queries.get_owned(session, GaugeImport, angler_id, import_id)
    if row.state == "running":
        row.state = "cancelling"
        await session.flush()
    return await state(session, angler_id, import_id)


def _samples(path: Path, kind: Format, read: Callable[[int], None]) -> Iterator[Sample]:
    """Yield the samples of a file, telling ``read`` how many of its bytes have been read."""
    if kind == "waterml":
        yield from parse_waterml(path.read_bytes())
        return

    def lines() -> Iterator[str]:
        done = 0
        with path.open("rb") as file:
            for raw in file:
                done += len(raw)
                read(done)
                yield raw.decode("utf-8", "replace")

    yield from parse_rdb(lines()) if kind == "rdb" else parse_csv(lines())


def take_in(database_url: str, import_id: UUID, gauge_id: UUID, path: Path, kind: Format) -> int | None:
    """Read the file and store it, or nothing of it; write down how it goes. Runs in a thread of its own.

    Return how many values were stored; None where it ended without, which is then written down.
    """
    size = max(1, path.stat().st_size)
    done = 0

    def read(so_far: int) -> None:
        nonlocal done
        done = so_far

    with psycopg.connect(sync_url(database_url), autocommit=True) as notes:

        def report(rows: int) -> bool:
            share = min(0.99, done / size)
            row = notes.execute(
                "update gauge_import set rows = %s, share = %s where id = %s returning state",
                (rows, share, import_id),
            ).fetchone()
            return row is not None and row[0] == "running"

        def end(how: str, rows: int, message: str) -> None:
            notes.execute(
                "update gauge_import set state = %s, rows = %s, share = %s, message = %s, ended_at = now() where id = %s",
                (how, rows, done / size, message[:400], import_id),
            )

        try:
            samples = _samples(path, kind, read)
            first = next(samples, None)
            if first is None:
                end("failed", 0, "There is no value in this file.")
                return None
            # a file of daily means has one value a day, at noon; any other is instantaneous
            daily = kind == "rdb" and "_00003" in path.open("rb").read(4000).decode("utf-8", "replace")
            if not report(0):
                raise Stopped
            return copy_samples(database_url, gauge_id, chain([first], samples), daily=daily, report=report)
        except Malformed as error:
            end("failed", 0, f"Nothing was taken in. {str(error)[0].upper()}{str(error)[1:]}.")
        except Stopped:
            end("cancelled", 0, "Stopped; nothing was taken in.")
        except Exception:
            log.exception("import %s", import_id)
            end("failed", 0, "Nothing was taken in: something went wrong here, not with the file.")
    return None


async def run(
    sessions: Sessions, database_url: str, *, import_id: UUID, gauge_id: UUID, path: Path, kind: Format
) -> None:
    """Take a file in, in a thread; it is done once readings have the flows that it brought. The file is removed."""
    try:
        rows = await asyncio.to_thread(take_in, database_url, import_id, gauge_id, path, kind)
        if rows is None:
            return
        async with sessions.begin() as session:
            gauge, note = await session.get(Gauge, gauge_id), await session.get(GaugeImport, import_id)
            if gauge is None or note is None:
                return
            await queries.fill_flows(session, gauge)
            note.state, note.rows, note.share, note.ended_at = "done", rows, 1.0, datetime.now(UTC)
            note.message = f"{rows} values taken in." if rows > 1 else "One value taken in."
    finally:
        path.unlink(missing_ok=True)
