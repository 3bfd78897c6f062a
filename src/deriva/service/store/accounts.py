"""Accounts, sessions, limits and letters: functions that take a session and flush at most."""

import hashlib
from collections.abc import Sequence
from datetime import datetime, timedelta
from uuid import UUID

from sqlalchemy import Select, delete, func, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import IntegrityError
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import Account, Angler, Attempt, KnownPlace, Mail, SignIn, Ticket

SEEN_EVERY = timedelta(minutes=5)


def hash_of(token: str) -> str:
    """Return what is stored of a session's token or a ticket."""
    return hashlib.sha256(token.encode()).hexdigest()


async def by_email(session: AsyncSession, email: str, *, hold: bool = False) -> Account | None:
    """Return the account of an address, in whatever case; ``hold`` until the transaction ends."""
    statement = select(Account).where(Account.email == email.lower())
    return (await session.execute(statement.with_for_update() if hold else statement)).scalar_one_or_none()


async def add(
    session: AsyncSession, account_id: UUID, *, email: str, name: str, hashed_password: str, verified: bool
) -> Account:
    """Add an angler with an account, or return the account that somebody else was making for this address meanwhile."""
    try:
        async with session.begin_nested():
            session.add(Angler(id=account_id, name=name))
            await session.flush()
            account = Account(
                id=account_id, email=email.lower(), hashed_password=hashed_password, is_active=True, is_verified=verified
            )  # fmt: skip
            session.add(account)
            await session.flush()
            return account
    except IntegrityError:
        found = await by_email(session, email)
        if found is None:
            raise
        return found


async def still(session: AsyncSession, account: Account) -> bool:
    """Hold an account and return whether its password is still the one that was looked up, and it may sign in."""
    statement = select(Account.id).where(
        Account.id == account.id, Account.hashed_password == account.hashed_password, Account.is_active
    )
    return (await session.execute(statement.with_for_update())).scalar_one_or_none() is not None


async def everybody(session: AsyncSession) -> Sequence[tuple[Account, Angler]]:
    """Return every account with its angler, by address; for whoever runs the service."""
    statement = select(Account, Angler).join(Angler, Angler.id == Account.id).order_by(Account.email)
    return [(account, angler) for account, angler in (await session.execute(statement)).all()]


def _valid(ticket: str, purpose: str, now: datetime) -> Select[Account]:
    return (
        select(Account)
        .join(Ticket, Ticket.account_id == Account.id)
        .where(Ticket.hash == hash_of(ticket), Ticket.purpose == purpose, Ticket.expires_at > now, Account.is_active)
    )  # fmt: skip


async def of_ticket(session: AsyncSession, ticket: str, purpose: str, now: datetime) -> Account | None:
    """Return whose a ticket is, if it is one."""
    return (await session.execute(_valid(ticket, purpose, now))).scalar_one_or_none()


async def use_ticket(session: AsyncSession, ticket: str, purpose: str, now: datetime) -> Account | None:
    """Use a ticket up, and every other of its account with it; return whose it was. Of two at once one gets it."""
    account = (await session.execute(_valid(ticket, purpose, now).with_for_update())).scalar_one_or_none()
    if account is not None:
        await void_tickets(session, account.id)
    return account


async def void_tickets(session: AsyncSession, account_id: UUID) -> None:
    """Let no ticket of an account open anything more."""
    await session.execute(delete(Ticket).where(Ticket.account_id == account_id))


async def next_letter(session: AsyncSession, now: datetime) -> Mail | None:
    """Return a letter that is due, held against every other process until the transaction ends, and its account with it: who
    deletes an account comes to its letters last, and who writes one to the account.
    """
    statement = (
        select(Mail)
        .join(Account, Account.id == Mail.account_id)
        .where(Mail.due_at <= now)
        .order_by(Mail.due_at, Mail.id)
        .limit(1)
        .with_for_update(of=(Account, Mail), key_share=True, skip_locked=True)
    )
    return (await session.execute(statement)).scalar_one_or_none()


async def been_here(session: AsyncSession, key: str) -> bool:
    """Return whether somebody has signed in to an account from a place before."""
    return (await session.get(KnownPlace, key)) is not None


async def was_here(session: AsyncSession, key: str) -> None:
    """Note that somebody has signed in from a place."""
    statement = insert(KnownPlace).values(key=key)
    await session.execute(
        statement.on_conflict_do_update(index_elements=["key"], set_={"seen_at": func.now()})
    )


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


async def tidy(session: AsyncSession, now: datetime, *, unconfirmed_since: datetime) -> None:
    """Forget attempts, sessions, tickets and letters that are over, and accounts that nobody has confirmed."""
    await session.execute(delete(Attempt).where(Attempt.since < now - timedelta(days=1)))
    await session.execute(delete(KnownPlace).where(KnownPlace.seen_at < now - timedelta(days=90)))
    await session.execute(delete(SignIn).where(SignIn.expires_at < now))
    await session.execute(delete(Ticket).where(Ticket.expires_at < now))
    await session.execute(delete(Mail).where(Mail.at < now - timedelta(days=31)))
    unconfirmed = select(Account.id).where(Account.is_verified.is_(False))
    await session.execute(
        delete(Angler).where(Angler.id.in_(unconfirmed), Angler.created_at < unconfirmed_since)
    )


async def letters(session: AsyncSession, most: int) -> Sequence[Mail]:
    """Return the newest letters that were written into the simulated outbox."""
    statement = (
        select(Mail).where(Mail.text.is_not(None)).order_by(Mail.at.desc(), Mail.id.desc()).limit(most)
    )
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
