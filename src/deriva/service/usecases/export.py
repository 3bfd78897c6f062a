"""Everything of an angler's as one file: whatever table has an angler's rows is in it, so that none can be forgotten."""

from datetime import UTC, datetime
from pathlib import Path

import orjson
from sqlalchemy.ext.asyncio import AsyncSession

from deriva import __version__
from deriva.service.schemas.everything import FORMAT, ROWS
from deriva.service.store import takeaway
from deriva.service.store.models import Angler
from deriva.service.store.takeaway import TakingAway

__all__ = ["TakingAway", "write_everything"]


def _in_order() -> list[str]:
    """Return the tables as they are taken in again, and those that are not behind them."""
    rest = [name for name in takeaway.tables() if name not in ROWS]
    return [*ROWS, *rest]


async def write_everything(session: AsyncSession, angler: Angler, path: Path) -> None:
    """Write every row of the angler's to a file of JSON, by table; times in ISO 8601, ids as written.

    Raises :class:`TakingAway` while another is being written for the same angler.
    """
    await takeaway.alone(session, angler.id)
    head = {
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
    }
    with path.open("wb") as file:

        async def write(part: bytes) -> None:
            file.write(part)

        file.write(orjson.dumps(head)[:-1] + b',\n"tables": {')
        for n, name in enumerate(_in_order()):
            file.write(b'%s\n"%s": [\n' % (b"," if n else b"", name.encode()))
            await takeaway.write_rows(session, angler.id, name, write)
            file.write(b"]")
        file.write(b"\n}}\n")
