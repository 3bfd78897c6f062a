"""Signing in. Only the demo angler can for now; real accounts take the place of :func:`sign_in_demo`."""

import hashlib
import secrets
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store import queries
from deriva.service.store.models import Angler, SignIn

SESSION_DAYS = 30


class NoDemo(LookupError):
    """There is no demo angler to sign in as."""


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


async def sign_in_demo(session: AsyncSession) -> tuple[str, Angler]:
    """Open a session for the demo angler; return the token for the cookie."""
    angler = await queries.demo_angler(session)
    if angler is None:
        raise NoDemo
    token = secrets.token_urlsafe(32)
    session.add(
        SignIn(
            token_hash=_hash(token),
            angler_id=angler.id,
            expires_at=datetime.now(UTC) + timedelta(days=SESSION_DAYS),
        )
    )
    await session.flush()
    return token, angler


async def who(session: AsyncSession, token: str | None) -> Angler | None:
    """Return whom a cookie's token signs in."""
    return await queries.angler_of_token(session, _hash(token), datetime.now(UTC)) if token else None


async def sign_out(session: AsyncSession, token: str) -> None:
    """End the session of a token."""
    await queries.forget_token(session, _hash(token))


async def change(
    session: AsyncSession, angler_id: UUID, *, units: str | None, school: dict[str, Any] | None
) -> Angler:
    """Change the units that the angler sees, or the school that the angler follows; None leaves one as it is."""
    angler = await session.get_one(Angler, angler_id)
    if units is not None:
        angler.units = units
    if school is not None:
        angler.school = school
    await session.flush()
    return angler
