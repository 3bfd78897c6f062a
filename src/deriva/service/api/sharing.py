"""Sharing, and taking everything away as one file."""

from fastapi import APIRouter
from fastapi.responses import FileResponse, Response
from pydantic import UUID7
from starlette.background import BackgroundTask

from deriva.service.api.deps import Caller, Making, Me, Transaction
from deriva.service.api.files import new_file
from deriva.service.schemas.log import Stored
from deriva.service.schemas.sharing import SharedOut, SharedWithMeOut, ShareIn, ShareOut
from deriva.service.usecases import export, sharing
from deriva.service.views.sharing import share_out, shared_out, shared_with_me_out

router = APIRouter(tags=["sharing"])


@router.get("/shares")
async def list_shares(session: Transaction, me: Me) -> list[ShareOut]:
    """List what the angler shares."""
    return [share_out(share, name) for share, name in await sharing.list_shares(session, me.id)]


@router.put("/shares/{share_id}")
async def put_share(session: Transaction, me: Me, share_id: UUID7, body: ShareIn) -> Stored:
    """Let another angler read a beat or an outing."""
    await sharing.share(session, me.id, share_id, body)
    return Stored(id=share_id)


@router.delete("/shares/{share_id}")
async def revoke_share(session: Transaction, me: Me, share_id: UUID7) -> Stored:
    """Take a share back."""
    await sharing.revoke(session, me.id, share_id)
    return Stored(id=share_id)


@router.get("/shared")
async def list_shared(session: Transaction, me: Me) -> list[SharedWithMeOut]:
    """List what others share with the angler."""
    return [shared_with_me_out(one) for one in await sharing.list_shared(session, me.id)]


@router.get("/shared/{share_id}")
async def read_shared(session: Transaction, me: Me, share_id: UUID7) -> SharedOut:
    """Return what a share holds."""
    return shared_out(await sharing.read_shared(session, me.id, share_id))


@router.get(
    "/export",
    response_class=Response,
    responses={200: {"content": {"application/json": {"schema": {"type": "object"}}}}},
)
async def export_everything(caller: Caller, making: Making) -> Response:
    """Return everything of the angler's as one JSON file."""
    path = new_file()
    try:
        async with making.begin() as session:
            await export.write_everything(session, caller, path)
    except BaseException:
        path.unlink(missing_ok=True)
        raise
    # sent from the disk: whoever reads slowly holds no connection to the database meanwhile
    return FileResponse(
        path,
        media_type="application/json",
        filename="deriva-export.json",
        background=BackgroundTask(path.unlink, missing_ok=True),
    )
