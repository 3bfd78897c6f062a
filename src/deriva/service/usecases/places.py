"""Setting up rivers, beats and lies."""

from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.schemas.log import BeatIn, LieIn, RiverIn
from deriva.service.store import queries
from deriva.service.store.models import Base, Beat, Lie, River

TABLES: dict[type[RiverIn | BeatIn | LieIn], type[Base]] = {RiverIn: River, BeatIn: Beat, LieIn: Lie}


async def put_place(
    session: AsyncSession, angler_id: UUID, place_id: UUID, place: RiverIn | BeatIn | LieIn
) -> None:
    """Store a river, beat or lie under the id that its writer made, or a change of one."""
    await queries.put(session, TABLES[type(place)], angler_id, place_id, place.model_dump(), replace=True)
