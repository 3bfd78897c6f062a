"""Taking in a file of a gauge's past, in the background, with progress and a way to stop."""

import asyncio
import logging
from datetime import UTC, datetime, timedelta
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.adapters import apart
from deriva.service.formats.read import Format
from deriva.service.store import filed, observed, owned
from deriva.service.store.engine import Sessions
from deriva.service.store.handed import Handed
from deriva.service.store.models import Gauge, GaugeImport

__all__ = ["Format", "Handed", "TooManyFiles", "begin", "cancel", "preview", "run", "state"]

log = logging.getLogger(__name__)

MOST_AT_ONCE = 3
"""So many of an angler's files may be on their way."""

ALIVE_EVERY_S = 10.0
SILENT = timedelta(seconds=60)
"""What has not been heard of for so long died with the process that it was in; its transaction died with it."""

LONGEST_S = 3600.0
STOPPED = "The service was stopped; nothing was taken in."


class TooManyFiles(Exception):
    """Files of this angler's are still being taken in."""


PREVIEW_BYTES = 65_536
PREVIEW_S = 30.0
TOO_LONG = b'{"counts": {}, "missing": 0, "first": [], "fault": "reading it took too long"}'


async def preview(text: bytes, kind: Format) -> bytes:
    """Return what the beginning of a file is read as, as JSON; nothing is stored."""
    try:
        _, out, _ = await apart.run(
            "deriva.service.formats.read", kind, "preview", given=text, within_s=PREVIEW_S
        )
    except apart.Gone:
        return TOO_LONG
    return out


async def _give_up_silent(session: AsyncSession, angler_id: UUID) -> None:
    await filed.end_silent_imports(session, angler_id, since=datetime.now(UTC) - SILENT, message=STOPPED)


async def begin(session: AsyncSession, angler_id: UUID, import_id: UUID, gauge_id: UUID) -> bool:
    """Write down that an import begins; return False where this one has begun before. Raises :class:`TooManyFiles`."""
    await owned.get_owned(session, Gauge, angler_id, gauge_id)
    await _give_up_silent(session, angler_id)
    if await filed.begin_import(session, angler_id, import_id, gauge_id, now=datetime.now(UTC)):
        if await filed.running_imports(session, angler_id) > MOST_AT_ONCE:
            raise TooManyFiles
        return True
    await owned.get_owned(session, GaugeImport, angler_id, import_id)
    return False


async def state(session: AsyncSession, angler_id: UUID, import_id: UUID) -> GaugeImport:
    """Return how far an import is."""
    await _give_up_silent(session, angler_id)
    return await owned.get_owned(session, GaugeImport, angler_id, import_id)


async def cancel(session: AsyncSession, angler_id: UUID, import_id: UUID) -> GaugeImport:
    """Ask an import to stop; one that has ended stays as it ended."""
    row = await owned.get_owned(session, GaugeImport, angler_id, import_id)
    if row.state == "running":
        row.state = "cancelling"
        await session.flush()
    return await state(session, angler_id, import_id)


async def _say_alive(sessions: Sessions, key: owned.Key) -> None:
    """Say again and again that an import has not been given up, also while it waits for its turn."""
    while True:
        async with sessions.begin() as session:
            note = await session.get(GaugeImport, key)
            if note is not None:
                note.alive_at = datetime.now(UTC)
        await asyncio.sleep(ALIVE_EVERY_S)


async def _end(sessions: Sessions, key: owned.Key, message: str) -> None:
    async with sessions.begin() as session:
        note = await session.get(GaugeImport, key)
        if note is not None and note.ended_at is None:
            note.state, note.rows, note.message, note.ended_at = "failed", 0, message, datetime.now(UTC)


async def run(sessions: Sessions, job: Handed) -> None:
    """Take a file in, in a process of its own; it is done once readings have the flows that it brought. The file is removed."""
    key = job.angler_id, job.import_id
    alive = asyncio.create_task(_say_alive(sessions, key))
    try:
        status, out, _ = await apart.run(
            "deriva.service.store.take_in", given=job.to_json(), within_s=LONGEST_S, turns="files"
        )
        if status != 0:
            raise apart.Gone
        if out == b"null":
            return
        async with sessions.begin() as session:
            gauge = await session.get(Gauge, (job.angler_id, job.gauge_id))
            note = await session.get(GaugeImport, key)
            if gauge is None or note is None:
                return
            await observed.fill_flows(session, gauge)
            rows = int(out)
            note.state, note.rows, note.share, note.ended_at = "done", rows, 1.0, datetime.now(UTC)
            note.message = f"{rows} values taken in." if rows > 1 else "One value taken in."
    except apart.Gone:
        log.warning("import %s was ended before it was done", job.import_id)
        await _end(
            sessions,
            key,
            "Nothing was taken in: the file takes too long, or more memory than there is.",
        )
    except asyncio.CancelledError:
        await _end(sessions, key, STOPPED)
        raise
    finally:
        alive.cancel()
        await asyncio.gather(alive, return_exceptions=True)
        job.path.unlink(missing_ok=True)
