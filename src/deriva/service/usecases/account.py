"""Accounts: making them, signing in and out, passwords, and leaving.

Whether an address is known is never told apart from outside: not by the answer, and not by how long it takes. No connection is
held while a password is hashed or judged.
"""

import hashlib
import secrets
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession
from uuid_utils.compat import uuid7

from deriva.service.schemas.account import SignUpIn
from deriva.service.store import accounts, sessions
from deriva.service.store.accounts import hash_of
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Account, Angler, SignIn
from deriva.service.usecases import letters
from deriva.service.usecases.passwords import hashed, judge, matches

SESSION_DAYS = 30
GRACE_DAYS = 14
UNCONFIRMED = timedelta(days=1)
"""An account that nobody confirms goes away, so that no address is taken by somebody else ..."""

UNCONFIRMED_BY_HAND = timedelta(days=14)
"""... but where no letter is sent, whoever runs this needs the time to confirm it."""


class NoDemo(LookupError):
    """There is no demo angler to sign in as."""


class WrongSignIn(Exception):
    """Address or password is not right, or the address is not confirmed; which, is not said."""


class OldTicket(Exception):
    """The ticket of a letter is used, over, or no ticket."""


class SignUpClosed(Exception):
    """New accounts are not made here."""


class NoLetters(Exception):
    """Nothing here sends letters: a new password is asked for in person."""


class TooMany(Exception):
    """It was tried too often; ``retry_s`` until it may be tried again."""

    def __init__(self, retry_s: int) -> None:
        super().__init__(retry_s)
        self.retry_s = retry_s


@dataclass(frozen=True, slots=True)
class Limit:
    """So many attempts in a span of time."""

    name: str
    most: int
    minutes: int


SIGN_IN = Limit("sign in", 10, 15)
"""For one address from one place: who guesses from elsewhere does not keep its owner out ..."""

SIGN_IN_ANY = Limit("sign in from anywhere", 100, 15)
"""... but by guessing from many places at once, and then not from a place where the owner has signed in before."""

SIGN_IN_FROM = Limit("sign in from", 60, 15)
SIGN_UP_FROM = Limit("sign up from", 10, 60)
LETTER_TO = Limit("letter to", 4, 60)
"""For one address from one place: a stranger does not use up its owner's ..."""

LETTER_TO_ANY = Limit("letter to, asked for anywhere", 12, 60)
"""... nor fill the owner's box."""

LETTER_FROM = Limit("letter from", 20, 60)


def _began(span_s: int, now: datetime) -> datetime:
    """Return when the span of time that now lies in began."""
    return datetime.fromtimestamp(now.timestamp() // span_s * span_s, UTC)


async def limited(sessions: Sessions, limit: Limit, whom: str) -> None:
    """Count an attempt, in a transaction of its own so that a failure counts too; raises :class:`TooMany`.

    The count is in the database: every process of the service sees the same.
    """
    now = datetime.now(UTC)
    span = limit.minutes * 60
    began = _began(span, now)
    async with sessions.begin() as session:
        count = await accounts.hit(session, _key(limit.name, whom), began)
    if count > limit.most:
        raise TooMany(max(1, int((began + timedelta(seconds=span) - now).total_seconds())))


def _key(name: str, whom: str) -> str:
    return hashlib.sha256(f"{name}\0{whom}".encode()).hexdigest()


def _at(email: str, place: str) -> str:
    return _key("been here", f"{email} {place}")


async def limited_sign_in(sessions: Sessions, email: str, place: str) -> None:
    """Count an attempt to sign in; raises :class:`TooMany`."""
    await limited(sessions, SIGN_IN_FROM, place)
    await limited(sessions, SIGN_IN, f"{email} {place}")
    async with sessions.begin() as session:
        known = await accounts.been_here(session, _at(email, place))
    if not known:
        await limited(sessions, SIGN_IN_ANY, email)


async def limited_letter(sessions: Sessions, email: str, place: str) -> None:
    """Count a letter that is asked for; raises :class:`TooMany`."""
    await limited(sessions, LETTER_TO, f"{email} {place}")
    await limited(sessions, LETTER_TO_ANY, email)


async def _open(session: AsyncSession, angler: Angler, agent: str) -> str:
    """Open a session; return the token for the cookie, which is stored nowhere."""
    token = secrets.token_urlsafe(32)
    session.add(
        SignIn(
            token_hash=hash_of(token),
            angler_id=angler.id,
            expires_at=datetime.now(UTC) + timedelta(days=SESSION_DAYS),
            agent="".join(filter(str.isprintable, agent))[:200],
        )
    )
    await session.flush()
    return token


async def sign_in_demo(session: AsyncSession, agent: str) -> tuple[str, Angler]:
    """Open a session for the demo angler; return the token for the cookie."""
    angler = await sessions.demo_angler(session)
    if angler is None:
        raise NoDemo
    return await _open(session, angler, agent), angler


async def sign_in(
    sessions: Sessions, *, email: str, password: str, agent: str, place: str
) -> tuple[str, Angler]:
    """Open a session for an address and its password; raises :class:`WrongSignIn`."""
    async with sessions.begin() as session:
        account = await accounts.by_email(session, email)
    right = await matches(password, None if account is None else account.hashed_password)
    if account is None or not right or not account.is_active or not account.is_verified:
        raise WrongSignIn
    async with sessions.begin() as session:
        # gone, or with another password since it was looked up: the hash was checked for nothing
        if not await accounts.still(session, account):
            raise WrongSignIn
        await accounts.was_here(session, _at(email, place))
        angler = await session.get_one(Angler, account.id)
        return await _open(session, angler, agent), angler


async def sign_up(
    sessions: Sessions, asked: SignUpIn, *, agent: str, place: str, is_open: bool, first: bool, posted: bool
) -> tuple[str, Angler] | None:
    """Make an account. The very first, where ``first`` allows it, is signed in; others are to be confirmed.

    Where letters are ``posted`` one goes to the address: for an address that has an account already it says so; the answer is
    the same, and as slow. Who signs up again before the address is confirmed takes the place of whoever did before.
    """
    async with sessions.begin() as session:
        nobody = first and not await accounts.any_account(session)
    if not nobody and not is_open:
        raise SignUpClosed
    await judge(asked.password.get_secret_value(), asked.email, asked.name)
    hashed_password = await hashed(asked.password.get_secret_value())
    async with sessions.begin() as session:
        if nobody:
            await accounts.hold_first(session)
            nobody = not await accounts.any_account(session)
            if not nobody and not is_open:
                raise SignUpClosed
        account = await _made(session, asked, hashed_password, verified=nobody)
        if nobody:
            await accounts.was_here(session, _at(asked.email, place))
            angler = await session.get_one(Angler, account.id)
            return await _open(session, angler, agent), angler
        if posted:
            about: letters.About = "known" if account.is_verified else "confirm"
            letters.ask(session, about, to=account.email, account_id=account.id)
    return None


async def _made(session: AsyncSession, asked: SignUpIn, hashed_password: str, *, verified: bool) -> Account:
    """Return the account of an address: a new one, one still unconfirmed with the new password, or the one there is."""
    known = await accounts.by_email(session, asked.email, hold=True)
    if known is None:
        return await accounts.add(
            session, uuid7(), email=asked.email, name=asked.name, hashed_password=hashed_password, verified=verified
        )  # fmt: skip
    if not known.is_verified:
        known.hashed_password = hashed_password
        angler = await session.get_one(Angler, known.id)
        angler.name, angler.created_at = asked.name, datetime.now(UTC)
        await accounts.void_tickets(session, known.id)
        await session.flush()
    return known


async def confirm(session: AsyncSession, ticket: str) -> None:
    """Confirm an address by the ticket of its letter."""
    account = await accounts.use_ticket(session, ticket, "confirm", datetime.now(UTC))
    if account is None or account.is_verified:
        raise OldTicket
    account.is_verified = True
    await session.flush()


async def forgot(session: AsyncSession, email: str, *, posted: bool) -> None:
    """Ask for a letter with a ticket for a new password, if there is an account; raises :class:`NoLetters`."""
    if not posted:
        raise NoLetters
    account = await accounts.by_email(session, email)
    if account is not None and account.is_active:
        letters.ask(session, "reset", to=account.email, account_id=account.id)


async def reset(sessions: Sessions, ticket: str, password: str) -> None:
    """Set a new password by a ticket, once; every session ends, and the address is confirmed by that."""
    now = datetime.now(UTC)
    async with sessions.begin() as session:
        found = await accounts.of_ticket(session, ticket, "reset", now)
        name = "" if found is None else (await session.get_one(Angler, found.id)).name
    if found is None:
        raise OldTicket
    await judge(password, found.email, name)
    fresh = await hashed(password)
    async with sessions.begin() as session:
        account = await accounts.use_ticket(session, ticket, "reset", now)
        if account is None:
            raise OldTicket
        account.hashed_password, account.is_verified = fresh, True
        await accounts.end_sessions(session, account.id)


async def _proven(sessions: Sessions, angler_id: UUID, password: str) -> Account:
    async with sessions.begin() as session:
        account = await session.get(Account, angler_id)
    if account is None or not await matches(password, account.hashed_password):
        raise WrongSignIn
    return account


async def change_password(sessions: Sessions, angler: Angler, *, old: str, new: str, token: str) -> None:
    """Change the password, once for the old one; every other session ends."""
    account = await _proven(sessions, angler.id, old)
    await judge(new, account.email, angler.name)
    fresh = await hashed(new)
    async with sessions.begin() as session:
        if not await accounts.still(session, account):
            raise WrongSignIn
        held = await session.get_one(Account, angler.id)
        held.hashed_password = fresh
        await accounts.void_tickets(session, angler.id)
        await accounts.end_sessions(session, angler.id, but=hash_of(token))


async def who(session: AsyncSession, token: str | None) -> Angler | None:
    """Return whom a cookie's token signs in."""
    if not token:
        return None
    now = datetime.now(UTC)
    angler = await sessions.angler_of_token(session, hash_of(token), now)
    if angler is not None:
        await accounts.seen(session, hash_of(token), now)
    return angler


async def sign_out(session: AsyncSession, token: str) -> None:
    """End the session of a token."""
    await sessions.forget_token(session, hash_of(token))


async def leave(sessions: Sessions, angler_id: UUID, password: str) -> datetime:
    """Ask for everything to be removed once the grace is over; every session but the one that asks goes on until then."""
    await _proven(sessions, angler_id, password)
    async with sessions.begin() as session:
        angler = await session.get_one(Angler, angler_id)
        angler.leaves_at = datetime.now(UTC) + timedelta(days=GRACE_DAYS)
        return angler.leaves_at


async def stay(session: AsyncSession, angler_id: UUID) -> None:
    """Take back the wish to leave."""
    angler = await session.get_one(Angler, angler_id)
    angler.leaves_at = None
    await session.flush()


async def change(session: AsyncSession, angler_id: UUID, changes: dict[str, Any]) -> Angler:
    """Change units, school, rod or home river of an angler."""
    angler = await session.get_one(Angler, angler_id)
    for name, value in changes.items():
        setattr(angler, name, value)
    await session.flush()
    return angler


async def tidy(sessions: Sessions, *, posted: bool) -> int:
    """Forget what is over, accounts that nobody confirmed among it, and remove those who have left; return how many."""
    async with sessions.begin() as session:
        now = datetime.now(UTC)
        await accounts.tidy(
            session, now, unconfirmed_since=now - (UNCONFIRMED if posted else UNCONFIRMED_BY_HAND)
        )
        return await accounts.remove_leavers(session, now)
