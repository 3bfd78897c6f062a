"""What is shared, by whom and with whom, and how places are moved for a reader."""

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Angler,
    Beat,
    Blur,
    Outing,
    Share,
)
from deriva.service.store.over_river import outing_began
from deriva.service.store.owned import NotYours, get_owned


def _name_of_share() -> Any:  # noqa: ANN401 - an expression of SQL
    return func.coalesce(Beat.name, func.to_char(outing_began(), "YYYY-MM-DD"))


async def shares_of(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Share, str]]:
    """Return what an angler shares, each with the name of the beat or the day of the outing."""
    statement = (
        select(Share, _name_of_share())
        .outerjoin(Beat, (Beat.angler_id == Share.angler_id) & (Beat.id == Share.beat_id))
        .outerjoin(Outing, (Outing.angler_id == Share.angler_id) & (Outing.id == Share.outing_id))
        .where(Share.angler_id == angler_id, Share.revoked_at.is_(None))
        .order_by(Share.shared_at.desc(), Share.id)
    )
    return [(one, name) for one, name in (await session.execute(statement)).all()]


async def shared_with(session: AsyncSession, reader: str) -> Sequence[tuple[Share, str, str]]:
    """Return what is shared with an address, each with its owner's name and its own."""
    statement = (
        select(Share, Angler.name, _name_of_share())
        .join(Angler, Angler.id == Share.angler_id)
        .outerjoin(Beat, (Beat.angler_id == Share.angler_id) & (Beat.id == Share.beat_id))
        .outerjoin(Outing, (Outing.angler_id == Share.angler_id) & (Outing.id == Share.outing_id))
        .where(Share.reader == reader, Share.revoked_at.is_(None), Outing.gone.is_not(True))
        .order_by(Share.shared_at.desc(), Share.id)
    )
    return [(one, owner, name) for one, owner, name in (await session.execute(statement)).all()]


async def share_for(session: AsyncSession, reader: str, share_id: UUID) -> Share:
    """Return a share for its reader; raises :class:`NotYours` for anybody else, and once it is taken back.

    Of two owners' under one id it is the one that was there first: nobody can put another in its place.
    """
    statement = (
        select(Share)
        .where(Share.id == share_id, Share.reader == reader, Share.reader != "", Share.revoked_at.is_(None))
        .order_by(Share.shared_at)
        .limit(1)
    )
    found = (await session.execute(statement)).scalar_one_or_none()
    if found is None:
        raise NotYours("share")
    return found


async def revoke_share(session: AsyncSession, angler_id: UUID, share_id: UUID) -> None:
    """Take a share of the angler's back."""
    share = await get_owned(session, Share, angler_id, share_id)
    share.revoked_at = func.now()
    await session.flush()


async def blur(session: AsyncSession, angler_id: UUID, river_id: UUID, reader: str) -> Blur | None:
    """Return how the places of a river are moved for a reader, if that was ever drawn."""
    return await session.get(Blur, (angler_id, river_id, reader))


async def draw_blur(session: AsyncSession, drawn: dict[str, Any]) -> None:
    """Store how the places of a river are moved for a reader; what was drawn before stands."""
    await session.execute(insert(Blur).values(**drawn).on_conflict_do_nothing())
