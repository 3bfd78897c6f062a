"""Accounts: the library's manager on our tables, and what an angler does with an account.

Whether an address is known is never told apart from outside: not by the answer, and not by how long it takes.
"""

import asyncio
import hashlib
import secrets
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

from fastapi.security import OAuth2PasswordRequestForm
from fastapi_users import BaseUserManager, InvalidPasswordException, UUIDIDMixin
from fastapi_users.exceptions import FastAPIUsersException
from fastapi_users.password import PasswordHelper
from sqlalchemy.ext.asyncio import AsyncSession
from uuid_utils.compat import uuid7
from zxcvbn import zxcvbn

from deriva.service.schemas.account import SignUpIn
from deriva.service.store import accounts, queries
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Account, Angler, Mail, SignIn

SESSION_DAYS = 30
GRACE_DAYS = 14
TICKET_S = 3600
GUESSES_LOG10 = 8.0
"""A password that a good guesser finds in fewer tries than ten to this is refused."""

HASHER = PasswordHelper()


async def hashed(password: str) -> str:
    """Return what is stored of a password. It takes a core for a tenth of a second, in a thread of its own."""
    return await asyncio.to_thread(HASHER.hash, password)


class NoDemo(LookupError):
    """There is no demo angler to sign in as."""


class WrongSignIn(Exception):
    """Address or password is not right; which, is not said."""


class Unconfirmed(Exception):
    """The password is right, but the address has not been confirmed."""


class WeakPassword(Exception):
    """The password would be guessed; ``why`` says by what."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why


class OldTicket(Exception):
    """The ticket of a letter is used, over, or no ticket."""


class SignUpClosed(Exception):
    """New accounts are not made here."""


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
"""... but by guessing from many places at once."""

SIGN_IN_FROM = Limit("sign in from", 60, 15)
SIGN_UP_FROM = Limit("sign up from", 10, 60)
LETTER_TO = Limit("letter to", 4, 60)
LETTER_FROM = Limit("letter from", 20, 60)


async def limited(sessions: Sessions, limit: Limit, whom: str) -> None:
    """Count an attempt, in a transaction of its own so that a failure counts too; raises :class:`TooMany`.

    The count is in the database: every process of the service sees the same.
    """
    now = datetime.now(UTC)
    span = limit.minutes * 60
    began = datetime.fromtimestamp(now.timestamp() // span * span, UTC)
    key = hashlib.sha256(f"{limit.name}\0{whom}".encode()).hexdigest()
    async with sessions.begin() as session:
        count = await accounts.hit(session, key, began)
    if count > limit.most:
        raise TooMany(max(1, int((began + timedelta(seconds=span) - now).total_seconds())))


class Manager(UUIDIDMixin, BaseUserManager[Account, UUID]):  # type: ignore[type-var] # mapped columns
    """The library's manager, sending its tickets to the outbox of letters."""

    reset_password_token_lifetime_seconds = TICKET_S
    verification_token_lifetime_seconds = 24 * TICKET_S

    def __init__(self, session: AsyncSession, secret: str, site: str) -> None:
        super().__init__(accounts.Accounts(session), HASHER)
        self.session, self.site = session, site
        self.reset_password_token_secret = self.verification_token_secret = secret

    async def validate_password(self, password: str, user: Any) -> None:  # noqa: ANN401 - the library's signature
        """Refuse what would be guessed: common words, the address, the name."""
        about = [getattr(user, "email", ""), getattr(user, "name", ""), "deriva"]
        found = await asyncio.to_thread(zxcvbn, password[:72], user_inputs=[word for word in about if word])
        if found["guesses_log10"] < GUESSES_LOG10:
            raise InvalidPasswordException(found["feedback"]["warning"] or "It is easily guessed")

    async def authenticate(self, credentials: OAuth2PasswordRequestForm) -> Account | None:
        """Return the account of an address and its password, as the library does, but in a thread: others are answered."""
        account = await self.user_db.get_by_email(credentials.username)
        if account is None:
            await hashed(credentials.password)  # as long as it takes for one that is known
            return None
        right, renewed = await asyncio.to_thread(
            HASHER.verify_and_update, credentials.password, account.hashed_password
        )
        if not right:
            return None
        if renewed is not None:
            await self.user_db.update(account, {"hashed_password": renewed})
        return account

    def letter(self, to: str, subject: str, text: str) -> None:
        """Put a letter into the outbox."""
        self.session.add(Mail(id=uuid7(), to=to, subject=subject, text=text))

    async def on_after_forgot_password(self, user: Account, token: str, request: Any = None) -> None:  # noqa: ANN401, ARG002
        """Send the ticket for a new password."""
        text = (
            f"A new password for Deriva was asked for. Choose it here within an hour:\n{self.site}/reset#{token}\n"
            "If it was not you, do nothing."
        )
        self.letter(user.email, "A new password", text)

    async def on_after_request_verify(self, user: Account, token: str, request: Any = None) -> None:  # noqa: ANN401, ARG002
        """Send the ticket that confirms an address."""
        text = (
            f"Confirm this address for Deriva within a day:\n{self.site}/confirm#{token}\n"
            "If it was not you, do nothing."
        )
        self.letter(user.email, "Confirm your address", text)


def hash_of(token: str) -> str:
    """Return what is stored of a session's token."""
    return hashlib.sha256(token.encode()).hexdigest()


async def manager(session: AsyncSession, site: str) -> Manager:
    """Return the manager, with the secret that all processes share."""
    secret = await accounts.secret(session, "tickets", secrets.token_urlsafe(48))
    return Manager(session, secret, site)


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
    angler = await queries.demo_angler(session)
    if angler is None:
        raise NoDemo
    return await _open(session, angler, agent), angler


async def sign_in(
    session: AsyncSession, *, email: str, password: str, agent: str, site: str
) -> tuple[str, Angler]:
    """Open a session for an address and its password; raises :class:`WrongSignIn` or :class:`Unconfirmed`."""
    credentials = OAuth2PasswordRequestForm(username=email, password=password, scope="")
    account = await (await manager(session, site)).authenticate(credentials)
    if account is None or not account.is_active:
        raise WrongSignIn
    if not account.is_verified:
        raise Unconfirmed
    angler = await session.get_one(Angler, account.id)
    return await _open(session, angler, agent), angler


async def _make(keeper: Manager, asked: SignUpIn, *, verified: bool) -> Account:
    password = asked.password.get_secret_value()
    await _strong(keeper, password, asked)
    angler = Angler(id=uuid7(), name=asked.name)
    keeper.session.add(angler)
    await keeper.session.flush()
    return await keeper.user_db.create(
        {
            "id": angler.id,
            "email": asked.email,
            "hashed_password": await hashed(password),
            "is_verified": verified,
        }
    )


async def _strong(keeper: Manager, password: str, about: object) -> None:
    try:
        await keeper.validate_password(password, about)
    except InvalidPasswordException as error:
        raise WeakPassword(str(error.reason)) from None


async def sign_up(
    session: AsyncSession, asked: SignUpIn, *, agent: str, site: str, is_open: bool, first: bool
) -> tuple[str, Angler] | None:
    """Make an account. Others get a letter that confirms the address; the very first, where ``first`` allows it, is signed in.

    For an address that has an account already, the letter says so; the answer is the same, and as slow.
    """
    keeper = await manager(session, site)
    await accounts.hold_first(session)
    if first and not await accounts.any_account(session):
        account = await _make(keeper, asked, verified=True)
        angler = await session.get_one(Angler, account.id)
        return await _open(session, angler, agent), angler
    if not is_open:
        raise SignUpClosed
    known = await keeper.user_db.get_by_email(asked.email)
    if known is None:
        await keeper.request_verify(await _make(keeper, asked, verified=False))
        return None
    await _strong(keeper, asked.password.get_secret_value(), asked)
    await hashed(asked.password.get_secret_value())  # as long as it takes for a new one
    if known.is_verified:
        text = f"Somebody asked for an account for this address, which has one. Forgot the password? {site}/forgot"
        keeper.letter(known.email, "You have an account", text)
    else:
        await keeper.request_verify(known)
    return None


async def confirm(session: AsyncSession, ticket: str, *, site: str) -> None:
    """Confirm an address by the ticket of its letter."""
    try:
        await (await manager(session, site)).verify(ticket)
    except FastAPIUsersException:
        raise OldTicket from None


async def forgot(session: AsyncSession, email: str, *, site: str) -> None:
    """Send a letter with a ticket for a new password, if there is an account; it takes as long if there is none."""
    keeper = await manager(session, site)
    account = await keeper.user_db.get_by_email(email)
    if account is None or not account.is_active:
        await hashed(email)
        return
    await keeper.forgot_password(account)


async def reset(session: AsyncSession, ticket: str, password: str, *, site: str) -> None:
    """Set a new password by the ticket of a letter; every session ends, and the address is confirmed by that."""
    keeper = await manager(session, site)
    try:
        account = await keeper.reset_password(ticket, password)
    except InvalidPasswordException as error:
        raise WeakPassword(str(error.reason)) from None
    except FastAPIUsersException:
        raise OldTicket from None
    account.is_verified = True
    await accounts.end_sessions(session, account.id)


async def _proven(session: AsyncSession, angler_id: UUID, password: str) -> Account:
    account = await session.get(Account, angler_id)
    if account is None:
        raise WrongSignIn
    right, _ = await asyncio.to_thread(HASHER.verify_and_update, password, account.hashed_password)
    if not right:
        raise WrongSignIn
    return account


async def change_password(
    session: AsyncSession, angler: Angler, *, old: str, new: str, token: str, site: str
) -> None:
    """Change the password; every other session ends."""
    account = await _proven(session, angler.id, old)
    await _strong(await manager(session, site), new, account)
    account.hashed_password = await hashed(new)
    await accounts.end_sessions(session, angler.id, but=hash_of(token))


async def who(session: AsyncSession, token: str | None) -> Angler | None:
    """Return whom a cookie's token signs in."""
    if not token:
        return None
    now = datetime.now(UTC)
    angler = await queries.angler_of_token(session, hash_of(token), now)
    if angler is not None:
        await accounts.seen(session, hash_of(token), now)
    return angler


async def sign_out(session: AsyncSession, token: str) -> None:
    """End the session of a token."""
    await queries.forget_token(session, hash_of(token))


async def leave(session: AsyncSession, angler: Angler, password: str) -> datetime:
    """Ask for everything to be removed once the grace is over; every session but the one that asks goes on until then."""
    await _proven(session, angler.id, password)
    angler = await session.get_one(Angler, angler.id)
    angler.leaves_at = datetime.now(UTC) + timedelta(days=GRACE_DAYS)
    await session.flush()
    return angler.leaves_at


async def stay(session: AsyncSession, angler_id: UUID) -> None:
    """Take back the wish to leave."""
    angler = await session.get_one(Angler, angler_id)
    angler.leaves_at = None
    await session.flush()


async def change(session: AsyncSession, angler_id: UUID, changes: dict[str, Any]) -> Angler:
    """Change units, school or home river of an angler."""
    angler = await session.get_one(Angler, angler_id)
    for name, value in changes.items():
        setattr(angler, name, value)
    await session.flush()
    return angler


async def tidy(sessions: Sessions) -> int:
    """Forget what is over, and remove those who have left; return how many."""
    async with sessions.begin() as session:
        now = datetime.now(UTC)
        await accounts.tidy(session, now)
        return await accounts.remove_leavers(session, now)
