"""Setting up rivers, beats and lies."""

from fastapi import APIRouter
from pydantic import UUID7

from deriva.service.api.deps import Me, Transaction
from deriva.service.schemas.log import BeatIn, LieIn, RiverIn, Stored
from deriva.service.usecases import places

router = APIRouter(tags=["places"])


@router.put("/rivers/{river_id}")
async def put_river(session: Transaction, me: Me, river_id: UUID7, body: RiverIn) -> Stored:
    """Add a river, or rename it."""
    await places.put_place(session, me.id, river_id, body)
    return Stored(id=river_id)


@router.put("/beats/{beat_id}")
async def put_beat(session: Transaction, me: Me, beat_id: UUID7, body: BeatIn) -> Stored:
    """Add a beat, or change it."""
    await places.put_place(session, me.id, beat_id, body)
    return Stored(id=beat_id)


@router.put("/lies/{lie_id}")
async def put_lie(session: Transaction, me: Me, lie_id: UUID7, body: LieIn) -> Stored:
    """Add a lie, or change it."""
    await places.put_place(session, me.id, lie_id, body)
    return Stored(id=lie_id)
