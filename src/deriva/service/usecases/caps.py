"""How much of each kind one angler may have: far more than anybody fishes, and no more than a page is made of in a moment."""

from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store import history, owned
from deriva.service.store.models import Beat, BoxItem, Gauge, Lie, Owned, River, Share

MOST: dict[type[Owned], tuple[int, str]] = {
    River: (30, "rivers"),
    Gauge: (30, "gauges"),
    Beat: (100, "beats"),
    Lie: (400, "lies"),
    BoxItem: (400, "kinds in the box"),
    Share: (400, "shares"),
}


class Full(Exception):
    """The angler has as many of a kind as there may be; the message says so."""


async def within(session: AsyncSession, table: type[Owned], angler_id: UUID, row_id: UUID) -> None:
    """Raise :class:`Full` where one more would be too many; a change of one that is there never is."""
    if table not in MOST:
        return
    most, name = MOST[table]
    await history.hold_log(session, angler_id)  # two at once count one after the other
    if await owned.count_of(session, table, angler_id, but=row_id) >= most:
        raise Full(f"There are {most} {name} already, and no more are kept.")
