"""The log: what devices wrote comes in by one door, and is read as a ledger."""

from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Path, Query
from fastapi.responses import Response
from pydantic import StringConstraints

from deriva.core.choose.sweep import wide
from deriva.core.learn.story import story
from deriva.service.api.deps import Computing, Making, Me, Token, Transaction, Way, signed_in
from deriva.service.schemas.learn import SaidNoun
from deriva.service.schemas.log import (
    FoundOut,
    LedgerOut,
    OutingOut,
    SeasonOut,
    StripOut,
)
from deriva.service.schemas.sync import SyncIn, SyncOut
from deriva.service.usecases import logbook, season
from deriva.service.usecases import sync as syncing
from deriva.service.views.log import ledger_out, outing_out, season_out, strip_out

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


MOST_STRIPS = 50


@router.get("/strips")
async def list_strips(
    session: Transaction, me: Me, outing: Annotated[list[UUID], Query(max_length=MOST_STRIPS)]
) -> list[StripOut]:
    """Return some outings as they are drawn small: what was fished where, how deep, and how each drift ended."""
    found = await season.strips(session, me.id, outing)
    return [strip_out(one, blocks) for one, blocks in found.items()]


@router.get("/seasons/{year}")
async def read_season(
    session: Transaction, me: Me, year: Annotated[int, Path(ge=2000, le=2099)]
) -> SeasonOut:
    """Return a year's outings beside the flow of the rivers."""
    return season_out(await season.year_of(session, me.id, year))


@router.get("/outings/{outing_id}")
async def read_outing(session: Transaction, me: Me, outing_id: UUID) -> LedgerOut:
    """Return one outing in full."""
    return ledger_out(await logbook.ledger(session, me.id, outing_id))


@router.get("/outings/{outing_id}/stops/{stop_id}/story")
async def read_story(making: Making, computing: Computing, outing_id: UUID, stop_id: UUID) -> list[SaidNoun]:
    """Tell a stay again: what was believed of the bottom after each drift, and what the coach said then."""
    async with making.begin() as session:
        stay = await logbook.stay(session, computing.angler.id, outing_id, stop_id)
    return list(await computing.run(story, stay, wide))


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
