"""Everything of an angler's as one file: whatever table has an angler's rows is in it, so that none can be forgotten."""

from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva import __version__
from deriva.service.store import takeaway
from deriva.service.store.models import Angler

FORMAT = 2


async def everything(session: AsyncSession, angler: Angler) -> dict[str, Any]:
    """Return every row of the angler's, by table; times in ISO 8601, ids as written."""
    return {
        "format": FORMAT,
        "version": __version__,
        "exported_at": datetime.now(UTC).isoformat(),
        "angler": {
            "id": str(angler.id),
            "name": angler.name,
            "units": angler.units,
            "school": angler.school,
            "rod": angler.rod,
            "home_river": angler.home_river,
        },
        "tables": {
            name: [{k: _plain(v) for k, v in row.items()} for row in rows]
            for name, rows in (await takeaway.all_rows(session, angler.id)).items()
        },
    }


def _plain(value: object) -> object:
    if isinstance(value, UUID):
        return str(value)
    return value.isoformat() if isinstance(value, datetime) else value
