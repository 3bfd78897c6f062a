"""Setting up rivers, gauges and beats; lies come in with the log, since one may be met where there is no signal."""

from uuid import UUID

from fastapi import APIRouter, Request
from pydantic import UUID7

from deriva.service.api.deps import Caller, Known, Me, Transaction
from deriva.service.schemas.log import Stored
from deriva.service.schemas.places import BeatIn, GaugeIn, RetiredOut, RiverIn, RiverOut
from deriva.service.schemas.river import GaugeOut
from deriva.service.store.models import Beat, Lie
from deriva.service.usecases import places
from deriva.service.views.places import retired_out, river_out
from deriva.service.views.today import gauge_out

router = APIRouter(tags=["places"])


@router.get("/rivers")
async def list_rivers(session: Transaction, me: Me) -> list[RiverOut]:
    """List the rivers, each with its gauge."""
    return [river_out(river, gauge) for river, gauge in await places.list_rivers(session, me)]


@router.put("/rivers/{river_id}")
async def put_river(session: Transaction, me: Me, known: Known, river_id: UUID7, body: RiverIn) -> Stored:
    """Add a river, or change it."""
    await places.put_place(session, me.id, river_id, body, sources=known)
    return Stored(id=river_id)


@router.put("/gauges/{gauge_id}")
async def put_gauge(session: Transaction, me: Me, known: Known, gauge_id: UUID7, body: GaugeIn) -> Stored:
    """Add a river's gauge, or change where it is read."""
    await places.put_place(session, me.id, gauge_id, body, sources=known)
    return Stored(id=gauge_id)


@router.post("/gauges/{gauge_id}/read")
async def read_gauge(request: Request, caller: Caller, known: Known, gauge_id: UUID) -> GaugeOut:
    """Read a gauge now and say how it went."""
    gauge = await places.read_gauge_now(request.app.state.sessions, caller.id, gauge_id, sources=known)
    return gauge_out(gauge)


@router.put("/beats/{beat_id}")
async def put_beat(session: Transaction, me: Me, known: Known, beat_id: UUID7, body: BeatIn) -> Stored:
    """Add a beat, or change it."""
    await places.put_place(session, me.id, beat_id, body, sources=known)
    return Stored(id=beat_id)


@router.delete("/beats/{beat_id}")
async def delete_beat(session: Transaction, me: Me, beat_id: UUID) -> Stored:
    """Delete a beat that was never fished, with its lies."""
    await places.remove(session, me.id, Beat, beat_id)
    return Stored(id=beat_id)


@router.delete("/lies/{lie_id}")
async def delete_lie(session: Transaction, me: Me, lie_id: UUID) -> Stored:
    """Delete a lie that was never fished, with what was read of it."""
    await places.remove(session, me.id, Lie, lie_id)
    return Stored(id=lie_id)


@router.get("/retired")
async def list_retired(session: Transaction, me: Me) -> RetiredOut:
    """List the beats and lies that are not fished any more."""
    return retired_out(await places.retired(session, me.id))
