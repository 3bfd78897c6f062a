"""Accounts, sessions, limits and letters: functions that take a session and flush at most."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from fastapi_users.db import BaseUserDatabase
from sqlalchemy import delete, func, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import Account, Angler, Attempt, Mail, Secret, SignIn

SEEN_EVERY = timedelta(minutes=5)


class Accounts(BaseUserDatabase[Account, UUID]):  # type: ignore[type-var] # mapped columns
    """The accounts as the library wants them. The one that ships with it commits of itself; here a use case does."""

    def __init__(self, session: AsyncSession) -> None:
        self.session = session

    async def get(self, id: UUID) -> Account | None:  # noqa: A002 - the library's name
        """Return an account by the id of its angler."""
        return await self.session.get(Account, id)

    async def get_by_email(self, email: str) -> Account | None:
        """Return an account by its address, in whatever case."""
        statement = select(Account).where(Account.email == email.lower())
        return (await self.session.execute(statement)).scalar_one_or_none()

    async def create(self, create_dict: dict[str, Any]) -> Account:
        """Add an account."""
        account = Account(**create_dict)
        self.session.add(account)
        await self.session.flush()
        return account

    async def update(self, user: Account, update_dict: dict[str, Any]) -> Account:
        """Change an account."""
        for name, value in update_dict.items():
            setattr(user, name, value)
        await self.session.flush()
        return user


async def any_account(session: AsyncSession) -> bool:
    """Return whether anybody at all can sign in."""
    return bool((await session.execute(select(select(Account.id).exists()))).scalar_one())


async def hold_first(session: AsyncSession) -> None:
    """Let one at a time make the first account."""
    await session.execute(text("select pg_advisory_xact_lock(7301)"))


async def seen(session: AsyncSession, token_hash: str, now: datetime) -> None:
    """Note that a session was used, now and then."""
    await session.execute(
        update(SignIn)
        .where(SignIn.token_hash == token_hash, SignIn.seen_at < now - SEEN_EVERY)
        .values(seen_at=now)
    )


async def sessions_of(session: AsyncSession, angler_id: UUID, now: datetime) -> Sequence[SignIn]:
    """Return the sessions that are open, the one used last first."""
    statement = (
        select(SignIn)
        .where(SignIn.angler_id == angler_id, SignIn.expires_at > now)
        .order_by(SignIn.seen_at.desc(), SignIn.opened_at.desc())
    )
    return (await session.execute(statement)).scalars().all()


async def end_session(session: AsyncSession, angler_id: UUID, session_id: UUID) -> bool:
    """End one session of the angler's; return whether there was one."""
    statement = (
        delete(SignIn).where(SignIn.angler_id == angler_id, SignIn.id == session_id).returning(SignIn.id)
    )
    return (await session.execute(statement)).scalar_one_or_none() is not None


async def end_sessions(session: AsyncSession, angler_id: UUID, *, but: str | None = None) -> None:
    """End every session of the angler's, but the one of this token's hash."""
    await session.execute(
        delete(SignIn).where(SignIn.angler_id == angler_id, SignIn.token_hash.is_distinct_from(but))
    )


async def hit(session: AsyncSession, key: str, since: datetime) -> int:
    """Count one more attempt in the span that began then; return how many there are."""
    statement = (
        insert(Attempt)
        .values(key=key, since=since, count=1)
        .on_conflict_do_update(index_elements=["key", "since"], set_={"count": Attempt.count + 1})
        .returning(Attempt.count)
    )
    return (await session.execute(statement)).scalar_one()


async def tidy(session: AsyncSession, now: datetime) -> None:
    """Forget attempts and sessions that are over, and letters of more than a month ago."""
    await session.execute(delete(Attempt).where(Attempt.since < now - timedelta(days=1)))
    await session.execute(delete(SignIn).where(SignIn.expires_at < now))
    await session.execute(delete(Mail).where(Mail.at < now - timedelta(days=31)))


async def secret(session: AsyncSession, name: str, fresh: str) -> str:
    """Return a secret; ``fresh`` becomes it if there is none yet, for this and every other process."""
    await session.execute(insert(Secret).values(name=name, value=fresh).on_conflict_do_nothing())
    return (await session.execute(select(Secret.value).where(Secret.name == name))).scalar_one()


async def letters(session: AsyncSession, most: int) -> Sequence[Mail]:
    """Return the newest letters."""
    statement = select(Mail).order_by(Mail.at.desc(), Mail.id.desc()).limit(most)
    return (await session.execute(statement)).scalars().all()


async def remove_leavers(session: AsyncSession, now: datetime) -> int:
    """Remove every angler whose grace is over, with all that hangs under them; return how many."""
    gone = await session.execute(delete(Angler).where(Angler.leaves_at < now).returning(Angler.id))
    return len(gone.scalars().all())


async def email_of(session: AsyncSession, angler_id: UUID) -> str | None:
    """Return an angler's confirmed address."""
    statement = select(Account.email).where(Account.id == angler_id, Account.is_verified)
    return (await session.execute(statement)).scalar_one_or_none()


async def database_time(session: AsyncSession) -> datetime:
    """Return the database's time, to show that it answers."""
    return (await session.execute(select(func.now()))).scalar_one()
