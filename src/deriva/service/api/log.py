"""Logging on the bank, and the ledger."""

from datetime import UTC, datetime
from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response
from pydantic import UUID7

from deriva.service.api.deps import Me, Transaction
from deriva.service.schemas.log import (
    CatchIn,
    DriftLogIn,
    LedgerOut,
    OutingIn,
    OutingOut,
    SettingIn,
    StopIn,
    Stored,
)
from deriva.service.schemas.sync import SyncIn, SyncOut
from deriva.service.usecases import logbook
from deriva.service.usecases import sync as syncing

router = APIRouter(tags=["log"])


@router.get("/outings")
async def list_outings(session: Transaction, me: Me) -> list[OutingOut]:
    """List the outings, newest first."""
    return await logbook.list_outings(session, me.id)


@router.get("/outings/{outing_id}")
async def read_outing(session: Transaction, me: Me, outing_id: UUID) -> LedgerOut:
    """Return one outing in full."""
    return await logbook.ledger(session, me.id, outing_id)


@router.get(
    "/outings/{outing_id}/ledger.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}}
)
async def export_outing(session: Transaction, me: Me, outing_id: UUID) -> Response:
    """Return one outing as CSV, a row a drift."""
    text, name = await logbook.ledger_csv(session, me.id, outing_id)
    return Response(
        text,
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{name}.csv"'},
    )


@router.put("/outings/{outing_id}")
async def put_outing(session: Transaction, me: Me, outing_id: UUID7, body: OutingIn) -> Stored:
    """Start an outing, or end it."""
    await syncing.write(session, me.id, "outings", outing_id, body)
    return Stored(id=outing_id)


@router.put("/stops/{stop_id}")
async def put_stop(session: Transaction, me: Me, stop_id: UUID7, body: StopIn) -> Stored:
    """Stop at a lie."""
    await syncing.write(session, me.id, "stops", stop_id, body)
    return Stored(id=stop_id)


@router.put("/settings/{setting_id}")
async def put_setting(session: Transaction, me: Me, setting_id: UUID7, body: SettingIn) -> Stored:
    """Write down a rig as set."""
    await syncing.write(session, me.id, "settings", setting_id, body)
    return Stored(id=setting_id)


@router.put("/drifts/{drift_id}")
async def put_drift(session: Transaction, me: Me, drift_id: UUID7, body: DriftLogIn) -> Stored:
    """Write down a drift, or take it back with ``undone``."""
    await syncing.write(session, me.id, "drifts", drift_id, body)
    return Stored(id=drift_id)


@router.put("/catches/{catch_id}")
async def put_catch(session: Transaction, me: Me, catch_id: UUID7, body: CatchIn) -> Stored:
    """Write down a fish, or correct it."""
    await syncing.write(session, me.id, "catches", catch_id, body)
    return Stored(id=catch_id)


@router.post("/sync")
async def sync(session: Transaction, me: Me, body: SyncIn) -> SyncOut:
    """Take in what a device wrote, all in one transaction, and return what the angler's other devices wrote."""
    return await syncing.sync(session, me.id, body, now=datetime.now(UTC))
