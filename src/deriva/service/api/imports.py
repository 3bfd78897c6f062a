"""Files of a gauge's past."""

import asyncio
import tempfile
from pathlib import Path
from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.responses import Response
from pydantic import UUID7

from deriva.service.api.deps import Caller, Config, Me, Transaction
from deriva.service.api.errors import one
from deriva.service.schemas.river import ImportOut
from deriva.service.store.engine import Sessions
from deriva.service.usecases import imports

router = APIRouter(tags=["imports"], prefix="/imports")


@router.put(
    "/{import_id}",
    response_model=ImportOut,
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
        }
    },
)
async def begin_import(
    request: Request, caller: Caller, config: Config, import_id: UUID7, gauge_id: UUID, kind: imports.Format
) -> Response | ImportOut:
    """Take in a file of a gauge's past (RDB, WaterML 2.0 or CSV), in the background."""
    sessions: Sessions = request.app.state.sessions
    with tempfile.NamedTemporaryFile(prefix="deriva-", delete=False) as file:
        path, size = Path(file.name), 0
        async for chunk in request.stream():
            size += len(chunk)
            if size > config.file_limit_bytes:
                path.unlink()
                return one(
                    413,
                    "TOO_LARGE",
                    f"The file is over the {config.file_limit_bytes} bytes that are allowed.",
                )
            await asyncio.to_thread(file.write, chunk)
    try:
        async with sessions.begin() as session:
            new = await imports.begin(session, caller.id, import_id, gauge_id)
            found = await imports.state(session, caller.id, import_id)
    except Exception:
        path.unlink()
        raise
    if not new:
        path.unlink()
        return found
    work = imports.run(
        sessions, config.database_url, import_id=import_id, gauge_id=gauge_id, path=path, kind=kind
    )
    task = asyncio.create_task(work)
    request.app.state.tasks.add(task)
    task.add_done_callback(request.app.state.tasks.discard)
    return found


@router.get("/{import_id}")
async def read_import(session: Transaction, me: Me, import_id: UUID) -> ImportOut:
    """Say how far an import is."""
    return await imports.state(session, me.id, import_id)


@router.delete("/{import_id}")
async def cancel_import(session: Transaction, me: Me, import_id: UUID) -> ImportOut:
    """Ask an import to stop."""
    return await imports.cancel(session, me.id, import_id)
