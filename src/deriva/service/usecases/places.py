"""Setting up rivers with their gauge and weather, and beats."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

import httpx2 as httpx
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.errors import Impossible
from deriva.core.model.situation import School
from deriva.core.read import write_noun
from deriva.service.adapters.gauge import Sources, Unread
from deriva.service.schemas.places import BeatIn, GaugeIn, RiverIn
from deriva.service.store import owned, places
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Angler, Beat, Gauge, Lie, Owned, River
from deriva.service.usecases.caps import within
from deriva.service.usecases.river import refresh

PlaceIn = RiverIn | GaugeIn | BeatIn
TABLES: dict[type[PlaceIn], type[Owned]] = {RiverIn: River, GaugeIn: Gauge, BeatIn: Beat}


async def put_place(
    session: AsyncSession, angler_id: UUID, place_id: UUID, place: PlaceIn, *, sources: Sources
) -> None:
    """Store a river, gauge or beat under the id that its writer made, or a change of one.

    Raises Impossible for an address that is not read here.
    """
    for field in ("weather_url", "url", "daily_url"):
        address = getattr(place, field, None)
        if address is not None:
            _allowed(sources, address, field)
    table = TABLES[type(place)]
    await within(session, table, angler_id, place_id)
    await owned.put(session, table, angler_id, place_id, place.model_dump(), replace=True)


def _allowed(sources: Sources, address: str, field: str) -> None:
    try:
        sources.address(address)
    except Unread as error:
        raise Impossible(f"{field}: {error}", field=field) from None


async def set_school(session: AsyncSession, angler_id: UUID, lie_id: UUID, school: School | None) -> None:
    """Let a school of its own hold at a lie; None: the angler's own."""
    lie = await owned.get_owned(session, Lie, angler_id, lie_id)
    lie.school = None if school is None else write_noun(school)
    await session.flush()


@dataclass(frozen=True, slots=True)
class Retired:
    """What is not fished any more: with the name of what it is on, and whether anything was ever fished there."""

    beats: Sequence[tuple[Beat, str, bool]]
    lies: Sequence[tuple[Lie, str, bool]]


class Fished(Exception):
    """Something was fished there: it stays in the log."""


async def retired(session: AsyncSession, angler_id: UUID) -> Retired:
    """Return the angler's beats and lies that are not fished any more."""
    return Retired(
        await places.retired_beats(session, angler_id), await places.retired_lies(session, angler_id)
    )


async def remove(session: AsyncSession, angler_id: UUID, table: type[Beat | Lie], place_id: UUID) -> None:
    """Delete a beat or a lie for good. Raises :class:`Fished` where something was fished there."""
    await owned.get_owned(session, table, angler_id, place_id)
    if not await places.remove_unfished(session, angler_id, table, place_id):
        raise Fished


async def list_rivers(session: AsyncSession, angler: Angler) -> list[tuple[River, Gauge | None]]:
    """Return the angler's rivers, each with its gauge."""
    return [
        (river, await places.gauge_of_river(session, angler.id, river.id))
        for river in await places.rivers(session, angler.id)
    ]


async def read_gauge_now(sessions: Sessions, angler_id: UUID, gauge_id: UUID, *, sources: Sources) -> Gauge:
    """Read a gauge of the angler's at once; return how it then stands."""
    async with sessions.begin() as session:
        await owned.get_owned(session, Gauge, angler_id, gauge_id)
    async with httpx.AsyncClient(follow_redirects=False) as client:
        await refresh(sessions, [(angler_id, gauge_id)], client, sources=sources)
    async with sessions.begin() as session:
        # what was being stored by another reading of it meanwhile was not stored twice: it is there in a moment
        return await owned.get_owned(session, Gauge, angler_id, gauge_id, hold=True)
