"""Making an account, its password, and leaving.

Attempts are counted before anything else, and each in a transaction of its own: no request ever waits for a second connection
while it holds one.
"""

from fastapi import APIRouter, Response

from deriva.service.api.deps import Caller, Config, From, Making, Me, Post, Token, Transaction
from deriva.service.api.session import Agent, remember, session_out
from deriva.service.schemas.account import (
    AddressIn,
    LeaveIn,
    LeavingOut,
    LetterOut,
    PasswordIn,
    ResetIn,
    SentOut,
    SessionOut,
    SignUpIn,
    TicketIn,
)
from deriva.service.store import accounts
from deriva.service.usecases import account

router = APIRouter(tags=["account"], prefix="/account")
LETTERS = 50


@router.post("")
async def sign_up(
    making: Making, config: Config, place: From, post: Post, response: Response, body: SignUpIn, agent: Agent = ""
) -> SessionOut:  # fmt: skip
    """Make an account. The first of an installation is signed in; others are confirmed by a letter, or by hand."""
    await account.limited(making, account.SIGN_UP_FROM, place)
    await account.limited_letter(making, body.email, place)
    made = await account.sign_up(
        making, body, agent=agent, place=place, is_open=config.sign_up, first=not config.demo, posted=config.posted
    )  # fmt: skip
    post.set()
    async with making.begin() as session:
        if made is None:
            return await session_out(session, config, None)
        token, angler = made
        remember(response, token, config)
        return await session_out(session, config, angler)


@router.post("/confirm")
async def confirm(making: Making, place: From, body: TicketIn) -> SentOut:
    """Confirm an address by the ticket of its letter."""
    await account.limited(making, account.LETTER_FROM, place)
    async with making.begin() as session:
        await account.confirm(session, body.ticket)
    return SentOut()


@router.post("/forgot")
async def forgot(making: Making, config: Config, place: From, post: Post, body: AddressIn) -> SentOut:
    """Send a ticket for a new password, if there is such an account and letters are sent here."""
    await account.limited(making, account.LETTER_FROM, place)
    await account.limited_letter(making, body.email, place)
    async with making.begin() as session:
        await account.forgot(session, body.email, posted=config.posted)
    post.set()
    return SentOut()


@router.post("/reset")
async def reset(making: Making, place: From, body: ResetIn) -> SentOut:
    """Set a new password by a ticket."""
    await account.limited(making, account.LETTER_FROM, place)
    await account.reset(making, body.ticket, body.password.get_secret_value())
    return SentOut()


@router.put("/password")
async def change_password(making: Making, caller: Caller, body: PasswordIn, token: Token = None) -> SentOut:
    """Change the password; every other session ends."""
    await account.limited(making, account.SIGN_IN, str(caller.id))
    old, new = body.old.get_secret_value(), body.new.get_secret_value()
    await account.change_password(making, caller, old=old, new=new, token=token or "")
    return SentOut()


@router.post("/leave")
async def leave(making: Making, caller: Caller, body: LeaveIn) -> LeavingOut:
    """Ask for the account and everything in it to be removed once two weeks have passed."""
    await account.limited(making, account.SIGN_IN, str(caller.id))
    return LeavingOut(leaves_at=await account.leave(making, caller.id, body.password.get_secret_value()))


@router.post("/stay")
async def stay(session: Transaction, me: Me) -> LeavingOut:
    """Take back the wish to leave."""
    await account.stay(session, me.id)
    return LeavingOut(leaves_at=None)


@router.get("/letters")
async def list_letters(session: Transaction, config: Config) -> list[LetterOut]:
    """List the letters of the simulated outbox; on the demo start only."""
    if not config.demo:
        raise account.NoDemo
    return [
        LetterOut.model_validate({name: getattr(one, name) for name in LetterOut.model_fields})
        for one in await accounts.letters(session, LETTERS)
    ]
