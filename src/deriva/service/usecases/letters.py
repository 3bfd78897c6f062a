"""Letters: asked for in the transaction that needs them, written when they are sent, and sent until they are taken.

The queue holds to whom and what about, never a ticket: that is drawn when the letter is written, and only its hash is stored.
"""

import logging
import secrets
from collections.abc import Awaitable, Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Literal
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession
from uuid_utils.compat import uuid7

from deriva.service.store import accounts
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Mail, Ticket

log = logging.getLogger(__name__)

Purpose = Literal["confirm", "reset"]
About = Literal["confirm", "reset", "known"]

LASTS: dict[Purpose, timedelta] = {"confirm": timedelta(days=1), "reset": timedelta(hours=1)}
PAUSES = tuple(timedelta(minutes=m) for m in (1, 5, 15, 60, 240, 720))
"""How long to wait after each try that failed; after the last one it is given up."""


@dataclass(frozen=True, slots=True)
class Letter:
    """A letter as it goes out."""

    to: str
    subject: str
    text: str


Post = Callable[[Letter], Awaitable[None]]
"""Whatever takes letters; raises OSError where it does not."""


def ask(session: AsyncSession, about: About, *, to: str, account_id: UUID) -> None:
    """Put a letter on the queue."""
    session.add(Mail(id=uuid7(), to=to, about=about, account_id=account_id, due_at=datetime.now(UTC)))


def draw(session: AsyncSession, account_id: UUID, purpose: Purpose, lasts: timedelta | None = None) -> str:
    """Draw a ticket and store its hash; the ticket itself is nowhere but in what is returned."""
    ticket = secrets.token_urlsafe(32)
    until = datetime.now(UTC) + (lasts or LASTS[purpose])
    session.add(
        Ticket(hash=accounts.hash_of(ticket), account_id=account_id, purpose=purpose, expires_at=until)
    )
    return ticket


def link(site: str, purpose: Purpose, ticket: str) -> str:
    """Return where a ticket is used. It stands behind the #, which browsers send to nobody."""
    return f"{site.rstrip('/')}/{purpose}#{ticket}"


def _write(session: AsyncSession, mail: Mail, site: str) -> Letter:
    if mail.about == "confirm":
        address = link(site, "confirm", draw(session, mail.account_id, "confirm"))
        text = (
            f"An account was asked for with this address. Confirm it within a day:\n{address}\n"
            "If it was not you, do nothing: the account goes away."
        )
        return Letter(mail.to, "Confirm your address", text)
    if mail.about == "reset":
        address = link(site, "reset", draw(session, mail.account_id, "reset"))
        text = (
            f"A new password for Deriva was asked for. Choose it here within an hour:\n{address}\n"
            "If it was not you, do nothing."
        )
        return Letter(mail.to, "A new password", text)
    text = (
        "Somebody asked for an account for this address, which has one. "
        f"Forgot the password? Ask for a new one at {site.rstrip('/')}"
    )
    return Letter(mail.to, "You have an account", text)


async def send_due(sessions: Sessions, post: Post, *, site: str, keep: bool = False) -> int:
    """Send every letter that is due; return how many went out.

    Each is taken off the queue by one process alone. ``keep`` stores what was written, for the simulated outbox.
    """
    sent = 0
    while True:
        async with sessions.begin() as session:
            mail = await accounts.next_letter(session, datetime.now(UTC))
            if mail is None:
                return sent
            letter = _write(session, mail, site)
            tried = mail.tries
            mail.tries, mail.due_at = tried + 1, _later(tried)
        try:
            await post(letter)
        except OSError as error:
            log.warning("letter %s was not taken: %s", mail.id, type(error).__name__)
            continue
        sent += 1
        async with sessions.begin() as session:
            done = await session.get(Mail, mail.id)
            if done is not None:
                done.sent_at, done.due_at = datetime.now(UTC), None
                if keep:
                    done.subject, done.text = letter.subject, letter.text


def _later(tried: int) -> datetime | None:
    return datetime.now(UTC) + PAUSES[tried] if tried < len(PAUSES) else None
