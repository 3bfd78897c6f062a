"""The log at a glance: a year beside the rivers, and outings drawn small."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store import seasons
from deriva.service.store.seasons import Block, Fished


@dataclass(frozen=True, slots=True)
class Year:
    """A year: which others there are, each river's mean flow day by day, the outings."""

    year: int
    years: Sequence[int]
    flows: Mapping[str, Sequence[tuple[datetime, float]]]
    outings: Sequence[Fished]


async def year_of(session: AsyncSession, angler_id: UUID, year: int) -> Year:
    """Return a year of an angler's."""
    since, until = (datetime(one, 1, 1, tzinfo=UTC) for one in (year, year + 1))
    return Year(
        year,
        await seasons.years(session, angler_id),
        await seasons.daily_flows(session, angler_id, since=since, until=until),
        await seasons.fished(session, angler_id, since=since, until=until),
    )


async def strips(
    session: AsyncSession, angler_id: UUID, outings: Sequence[UUID]
) -> Mapping[UUID, Sequence[Block]]:
    """Return what was fished on some outings, each as the blocks that it is drawn of."""
    found: defaultdict[UUID, list[Block]] = defaultdict(list)
    for one in await seasons.blocks(session, angler_id, outings):
        found[one.outing].append(one)
    return found
