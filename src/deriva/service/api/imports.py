"""Files of a gauge's past, and of logs."""

import asyncio
from collections.abc import Callable, Coroutine
from pathlib import Path
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import UUID7

from deriva.service.api.deps import Caller, Config, Making, Me, Transaction
from deriva.service.api.errors import one
from deriva.service.api.files import new_file
from deriva.service.schemas.files import LogIn
from deriva.service.schemas.river import ImportOut, PreviewOut
from deriva.service.store.models import Job
from deriva.service.usecases import imports

router = APIRouter(tags=["imports"], prefix="/imports")
FILE: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}


@router.put(
    "/{import_id}",
    response_model=ImportOut,
    openapi_extra=FILE,
)
async def begin_import(
    request: Request,
    caller: Caller,
    making: Making,
    config: Config,
    import_id: UUID7,
    gauge_id: UUID,
    kind: imports.Format,
) -> Response | ImportOut:
    """Take in a file of a gauge's past (RDB, WaterML 2.0 or CSV), in the background."""

    def work(path: Path) -> Coroutine[Any, Any, None]:
        return imports.run(
            making, imports.Handed(config.database_url, caller.id, import_id, gauge_id, path, kind)
        )

    return await _begin(request, caller, making, config, import_id, work, gauge_id=gauge_id)


async def _begin(
    request: Request,
    caller: Caller,
    making: Making,
    config: Config,
    import_id: UUID,
    work: Callable[[Path], Coroutine[Any, Any, None]],
    *,
    gauge_id: UUID | None = None,
) -> Response | ImportOut:
    """Receive a file, and let it be taken in in the background; one whose import has begun before is thrown away."""
    path, handed_over = new_file(), False
    try:
        if not await _received(request, path, config.file_limit_bytes):
            return one(
                413, "TOO_LARGE", f"The file is over the {config.file_limit_bytes} bytes that are allowed."
            )
        async with making.begin() as session:
            new = await imports.begin(session, caller.id, import_id, gauge_id=gauge_id)
            found = _out(await imports.state(session, caller.id, import_id))
        if new:
            _in_the_background(request, work(path))
            handed_over = True
        return found
    finally:  # also where whoever sent it went away in the middle
        if not handed_over:
            path.unlink(missing_ok=True)


def _in_the_background(request: Request, work: Coroutine[Any, Any, None]) -> None:
    task = asyncio.create_task(work)
    request.app.state.tasks.add(task)
    task.add_done_callback(request.app.state.tasks.discard)


@router.put(
    "/log/{import_id}",
    response_model=ImportOut,
    openapi_extra=FILE,
)
async def begin_log_import(
    request: Request,
    caller: Caller,
    making: Making,
    config: Config,
    import_id: UUID7,
    how: Annotated[LogIn, Query()],
) -> Response | ImportOut:
    """Take a log in (everything as JSON, a table as CSV, waypoints as lies), in the background; dry: only say what would come.

    A table is read by the columns that are said; without any, the answer says which there are.
    """

    def work(path: Path) -> Coroutine[Any, Any, None]:
        columns = None if how.columns is None else dict(how.columns)
        job = imports.LogJob(
            config.database_url, caller.id, import_id, path, how.format, how.dry, how.beat_id, columns, how.rig, how.zone
        )  # fmt: skip
        return imports.run_log(making, job)

    return await _begin(request, caller, making, config, import_id, work)


def _out(row: Job) -> ImportOut:
    return ImportOut.model_validate({name: getattr(row, name) for name in ImportOut.model_fields})


async def _received(request: Request, path: Path, most: int) -> bool:
    """Write a body to a file as it comes in; return False for one that is too large."""
    size = 0
    with path.open("wb") as file:
        async for chunk in request.stream():
            size += len(chunk)
            if size > most:
                return False
            await asyncio.to_thread(file.write, chunk)
    return True


@router.post("/preview", openapi_extra=FILE)
async def preview_import(request: Request, caller: Caller, kind: imports.Format) -> PreviewOut:  # noqa: ARG001
    """Say what the beginning of a file is read as, before it is taken in."""
    head = b""
    async for chunk in request.stream():
        head += chunk[: imports.PREVIEW_BYTES - len(head)]
        if len(head) >= imports.PREVIEW_BYTES:
            break
    return PreviewOut.model_validate_json(await imports.preview(head, kind))


@router.get("/{import_id}")
async def read_import(session: Transaction, me: Me, import_id: UUID) -> ImportOut:
    """Say how far an import is."""
    return _out(await imports.state(session, me.id, import_id))


@router.delete("/{import_id}")
async def cancel_import(session: Transaction, me: Me, import_id: UUID) -> ImportOut:
    """Ask an import to stop."""
    return _out(await imports.cancel(session, me.id, import_id))
