"""The log: what devices wrote comes in by one door, and is read as a ledger."""

from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response
from pydantic import StringConstraints

from deriva.service.api.deps import Making, Me, Token, Transaction, Way, signed_in
from deriva.service.schemas.log import FoundOut, LedgerOut, OutingOut
from deriva.service.schemas.sync import SyncIn, SyncOut
from deriva.service.usecases import logbook
from deriva.service.usecases import sync as syncing
from deriva.service.views.log import ledger_out, outing_out

router = APIRouter(tags=["log"])


@router.get("/outings")
async def list_outings(session: Transaction, me: Me, after: UUID | None = None) -> list[OutingOut]:
    """List the outings, newest first, fifty at a time: the newest, or those after one that is named."""
    return [outing_out(one) for one in await logbook.list_outings(session, me.id, after=after)]


@router.get("/search")
async def find_outings(
    session: Transaction,
    me: Me,
    find: Annotated[str, StringConstraints(max_length=200)],
    after: UUID | None = None,
) -> FoundOut:
    """Find outings by words that must all fit: places, flies, fish, rigs, months, flow; fifty at a time."""
    found = await logbook.find(session, me.id, find, after=after)
    return FoundOut(outings=[outing_out(one) for one in found.outings], unknown=list(found.unknown))


@router.get("/outings/{outing_id}")
async def read_outing(session: Transaction, me: Me, outing_id: UUID) -> LedgerOut:
    """Return one outing in full."""
    return ledger_out(await logbook.ledger(session, me.id, outing_id))


@router.post("/sync", response_model=SyncOut)
async def sync(making: Making, way: Way, body: SyncIn, token: Token = None) -> Response:
    """Take in what a device wrote, all in one transaction, and return what the angler's other devices wrote."""
    now = datetime.now(UTC)
    done = await syncing.sync_new(way, token, body, now=now) if token else None
    if done is None:
        async with making.begin() as session:
            me = await signed_in(session, token)
            done = await syncing.sync(session, me.id, body, now=now)
    return Response(done.model_dump_json(by_alias=True), media_type="application/json")
