"""What whoever runs the service does with accounts, from its command line; each returns a sentence to be printed."""

import secrets
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import timedelta
from uuid import UUID

from pydantic import TypeAdapter, ValidationError
from sqlalchemy.ext.asyncio import AsyncSession
from uuid_utils.compat import uuid7

from deriva.service.schemas.account import Email
from deriva.service.schemas.base import Name
from deriva.service.settings import Settings
from deriva.service.store import accounts
from deriva.service.store.engine import connect
from deriva.service.store.models import Account
from deriva.service.usecases import letters
from deriva.service.usecases.passwords import hashed

EMAIL: TypeAdapter[str] = TypeAdapter(Email)
NAME: TypeAdapter[str] = TypeAdapter(Name)

GOOD_FOR = timedelta(days=1)


class NoSuchAccount(LookupError):
    """There is no account of that address; the message says so."""


@asynccontextmanager
async def _transaction(settings: Settings) -> AsyncIterator[AsyncSession]:
    engine, sessions = connect(settings.database_url)
    try:
        async with sessions.begin() as session:
            yield session
    finally:
        await engine.dispose()


async def _account(session: AsyncSession, address: str) -> Account:
    found = await accounts.by_email(session, address.strip(), hold=True)
    if found is None:
        raise NoSuchAccount(f"there is no account of {address}: `deriva account list` shows those there are")
    return found


def _link(session: AsyncSession, settings: Settings, account_id: UUID) -> str:
    return letters.link(settings.site, "reset", letters.draw(session, account_id, "reset", GOOD_FOR))


def _read(kind: TypeAdapter[str], text: str, what: str) -> str:
    try:
        return kind.validate_python(text)
    except ValidationError as error:
        raise ValueError(f"{what} = {text!r}: {error.errors()[0]['msg'].lower()}") from None


async def add(settings: Settings, address: str, name: str) -> str:
    """Make an account whose password is set by a link."""
    email = _read(EMAIL, address, "ADDRESS")
    called = _read(NAME, name or email.partition("@")[0], "--name")
    nobody_s = await hashed(secrets.token_urlsafe(32))
    async with _transaction(settings) as session:
        if await accounts.by_email(session, email) is not None:
            raise ValueError(f"{email} has an account: `deriva account reset {email}` makes a link")
        made = await accounts.add(
            session, uuid7(), email=email, name=called, hashed_password=nobody_s, verified=True
        )
        return f"{email} chooses a password within a day at\n{_link(session, settings, made.id)}"


async def confirm(settings: Settings, address: str) -> str:
    """Confirm an address by hand."""
    async with _transaction(settings) as session:
        account = await _account(session, address)
        account.is_verified = True
        await accounts.void_tickets(session, account.id)
        return f"{account.email} is confirmed and can sign in"


async def reset(settings: Settings, address: str) -> str:
    """Make a link that sets a new password."""
    async with _transaction(settings) as session:
        account = await _account(session, address)
        return (
            f"{account.email} chooses a new password within a day at\n{_link(session, settings, account.id)}"
        )


async def disable(settings: Settings, address: str, *, undo: bool) -> str:
    """Keep an account out, or let it in again."""
    async with _transaction(settings) as session:
        account = await _account(session, address)
        account.is_active = undo
        if not undo:
            await accounts.end_sessions(session, account.id)
            await accounts.void_tickets(session, account.id)
        return f"{account.email} can sign in" if undo else f"{account.email} can sign in no more"


async def listed(settings: Settings) -> str:
    """List the accounts, a line each."""
    async with _transaction(settings) as session:
        rows = await accounts.everybody(session)
    lines = []
    for account, angler in rows:
        state = "" if account.is_verified else "  not confirmed"
        state += "" if account.is_active else "  disabled"
        lines.append(f"{account.email}  {angler.name}  since {angler.created_at:%Y-%m-%d}{state}")
    return "\n".join(lines) or "no accounts yet: the first visit asks for the first one"
