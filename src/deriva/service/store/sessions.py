"""Who is behind a token, and the angler of the demo."""

from datetime import datetime

from sqlalchemy import delete, select
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    Angler,
    SignIn,
)


async def angler_of_token(session: AsyncSession, token_hash: str, now: datetime) -> Angler | None:
    """Return who a session token signs in, if it still does."""
    statement = select(Angler).join(SignIn).where(SignIn.token_hash == token_hash, SignIn.expires_at > now)
    return (await session.execute(statement)).scalar_one_or_none()


async def demo_angler(session: AsyncSession) -> Angler | None:
    """Return the demo angler, if the database was seeded with one."""
    return (await session.execute(select(Angler).where(Angler.demo))).scalars().first()


async def forget_token(session: AsyncSession, token_hash: str) -> None:
    """End a session."""
    await session.execute(delete(SignIn).where(SignIn.token_hash == token_hash))
