"""Games of practice that were played."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import PracticeGame

NEWEST = 200
"""So many are drawn as a curve."""


async def keep(session: AsyncSession, game: PracticeGame) -> None:
    """Keep a game; one that was kept under its id stays as it was."""
    values = {one.name: getattr(game, one.name) for one in PracticeGame.__table__.columns}
    await session.execute(insert(PracticeGame).values(values).on_conflict_do_nothing())


async def newest(session: AsyncSession, angler_id: UUID) -> Sequence[PracticeGame]:
    """Return an angler's games, newest first."""
    statement = (
        select(PracticeGame)
        .where(PracticeGame.angler_id == angler_id)
        .order_by(PracticeGame.at.desc(), PracticeGame.id.desc())
        .limit(NEWEST)
    )
    return (await session.scalars(statement)).all()
