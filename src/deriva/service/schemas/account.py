"""Signing up, in and out, and what an account can do with itself."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import AfterValidator, EmailStr, Field, SecretStr, StringConstraints

from deriva.service.schemas.base import Name, Wire
from deriva.service.schemas.log import AnglerOut, Units
from deriva.service.schemas.nouns import RodNoun, SchoolNoun

LEAST_PASSWORD, LONGEST_PASSWORD = 12, 128

Email = Annotated[EmailStr, StringConstraints(max_length=254), AfterValidator(str.lower)]
Password = Annotated[SecretStr, Field(min_length=1, max_length=LONGEST_PASSWORD)]
NewPassword = Annotated[SecretStr, Field(min_length=LEAST_PASSWORD, max_length=LONGEST_PASSWORD)]
Ticket = Annotated[str, StringConstraints(min_length=1, max_length=2000, pattern=r"^[\x21-\x7e]+$")]
"""What a letter's link carries."""


class SignInIn(Wire):
    """An address and a password."""

    email: Email
    password: Password


class SignUpIn(Wire):
    """A new account."""

    name: Name
    email: Email
    password: NewPassword


class AddressIn(Wire):
    """An address that a letter is asked for."""

    email: Email


class TicketIn(Wire):
    """The ticket of a letter."""

    ticket: Ticket


class ResetIn(Wire):
    """The ticket of a letter, and the new password."""

    ticket: Ticket
    password: NewPassword


class PasswordIn(Wire):
    """A new password, with the old one."""

    old: Password
    new: NewPassword


class LeaveIn(Wire):
    """The password, to show that it is the angler who leaves."""

    password: Password


class SentOut(Wire):
    """A letter has been sent, if there was somebody to send it to: the answer is the same either way."""

    sent: bool = True


class LeavingOut(Wire):
    """When everything will be gone; null: the account stays."""

    leaves_at: datetime | None


class OpenSessionOut(Wire):
    """A session that is open; ``here`` for the one that asks."""

    id: UUID
    agent: str
    opened_at: datetime
    seen_at: datetime
    here: bool


class LetterOut(Wire):
    """A letter of the simulated outbox."""

    id: UUID
    at: datetime
    to: str
    subject: str
    text: str


class AnglerIn(Wire):
    """What an angler can change of the account; what is left out stays."""

    units: Units | None = None
    school: SchoolNoun | None = None
    rod: RodNoun | None = None
    home_river: Annotated[str, StringConstraints(max_length=80, pattern=r"^[^\x00-\x1f\x7f]*$")] | None = None
    asked: bool | None = None


class SessionOut(Wire):
    """The session: nobody, or an angler; whether the demo button may be shown, and whether the first account is to be made."""

    demo_start: bool
    first_run: bool
    sign_up: bool
    letters: bool
    """Whether letters are sent; where none are, whoever runs this confirms addresses and hands out links."""
    angler: AnglerOut | None
