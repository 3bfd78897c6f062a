"""Taking in a file, of a gauge's past or of a log, in the background, with progress and a way to stop."""

import asyncio
import logging
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.adapters import apart
from deriva.service.formats.read import Format
from deriva.service.store import filed, observed, owned
from deriva.service.store.engine import Sessions
from deriva.service.store.handed import Handed
from deriva.service.store.models import Gauge, Job
from deriva.service.usecases.log_job import LogJob

__all__ = [
    "Format",
    "Handed",
    "LogJob",
    "TooManyFiles",
    "begin",
    "cancel",
    "preview",
    "run",
    "run_log",
    "state",
]

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


async def begin(
    session: AsyncSession, angler_id: UUID, import_id: UUID, *, gauge_id: UUID | None = None
) -> bool:
    """Write down that an import begins, of a gauge's past or of a log; return False where this one has begun before. Raises
    :class:`TooManyFiles`.
    """
    if gauge_id is not None:
        await owned.get_owned(session, Gauge, angler_id, gauge_id)
    await _give_up_silent(session, angler_id)
    if await filed.begin_import(session, angler_id, import_id, gauge_id, now=datetime.now(UTC)):
        if await filed.running_imports(session, angler_id) > MOST_AT_ONCE:
            raise TooManyFiles
        return True
    await owned.get_owned(session, Job, angler_id, import_id)
    return False


async def state(session: AsyncSession, angler_id: UUID, import_id: UUID) -> Job:
    """Return how far an import is."""
    await _give_up_silent(session, angler_id)
    return await owned.get_owned(session, Job, angler_id, import_id)


async def cancel(session: AsyncSession, angler_id: UUID, import_id: UUID) -> Job:
    """Ask an import to stop; one that has ended stays as it ended."""
    row = await owned.get_owned(session, Job, angler_id, import_id)
    if row.state == "running":
        row.state = "cancelling"
        await session.flush()
    return await state(session, angler_id, import_id)


async def _say_alive(sessions: Sessions, key: owned.Key) -> None:
    """Say again and again that an import has not been given up, also while it waits for its turn."""
    while True:
        async with sessions.begin() as session:
            note = await session.get(Job, key)
            if note is not None:
                note.alive_at = datetime.now(UTC)
        await asyncio.sleep(ALIVE_EVERY_S)


async def _end(sessions: Sessions, key: owned.Key, message: str) -> None:
    async with sessions.begin() as session:
        note = await session.get(Job, key)
        if note is not None and note.ended_at is None:
            note.state, note.rows, note.message, note.ended_at = "failed", 0, message, datetime.now(UTC)


@asynccontextmanager
async def watched(sessions: Sessions, key: owned.Key, path: Path) -> AsyncIterator[None]:
    """See a file being taken in to its end: say that it has not been given up, and how it ended if it cannot say so itself. The
    file is removed.
    """
    alive = asyncio.create_task(_say_alive(sessions, key))
    try:
        yield
    except apart.Gone:
        log.warning("import %s was ended before it was done", key[1])
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
        path.unlink(missing_ok=True)


async def apart_for(module: str, given: bytes) -> bytes:
    """Run a module that takes a file in; return what it says. Raises Gone."""
    status, out, _ = await apart.run(module, given=given, within_s=LONGEST_S, turns="files")
    if status != 0:
        raise apart.Gone
    return out


async def run(sessions: Sessions, job: Handed) -> None:
    """Take a gauge's past in, in a process of its own; it is done once readings have the flows that it brought."""
    key = job.angler_id, job.import_id
    async with watched(sessions, key, job.path):
        out = await apart_for("deriva.service.store.take_in", job.to_json())
        if out == b"null":
            return
        async with sessions.begin() as session:
            gauge = await session.get(Gauge, (job.angler_id, job.gauge_id))
            note = await session.get(Job, key)
            if gauge is None or note is None:
                return
            await observed.fill_flows(session, gauge)
            rows = int(out)
            note.state, note.rows, note.share, note.ended_at = "done", rows, 1.0, datetime.now(UTC)
            note.message = f"{rows} values taken in." if rows > 1 else "One value taken in."


async def run_log(sessions: Sessions, job: LogJob) -> None:
    """Take a log in, in a process of its own."""
    async with watched(sessions, (job.angler_id, job.job_id), job.path):
        await apart_for("deriva.service.usecases.take_log", job.to_json())
