"""Making an account, its password, and leaving."""

from fastapi import APIRouter, Request, Response

from deriva.service.api.deps import Config, Me, Token, Transaction, from_where, limit
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
    request: Request,
    session: Transaction,
    config: Config,
    response: Response,
    body: SignUpIn,
    agent: Agent = "",
) -> SessionOut:
    """Make an account. The first of an installation is signed in; others get a letter that confirms the address."""
    await limit(request, account.SIGN_UP_FROM, from_where(request))
    await limit(request, account.LETTER_TO, body.email)
    made = await account.sign_up(
        session, body, agent=agent, site=config.site, is_open=config.sign_up, first=not config.demo
    )
    if made is None:
        return await session_out(session, config, None)
    token, angler = made
    remember(response, token, config)
    return await session_out(session, config, angler)


@router.post("/confirm")
async def confirm(request: Request, session: Transaction, config: Config, body: TicketIn) -> SentOut:
    """Confirm an address by the ticket of its letter."""
    await limit(request, account.LETTER_FROM, from_where(request))
    await account.confirm(session, body.ticket, site=config.site)
    return SentOut()


@router.post("/forgot")
async def forgot(request: Request, session: Transaction, config: Config, body: AddressIn) -> SentOut:
    """Send a ticket for a new password, if there is such an account."""
    await limit(request, account.LETTER_FROM, from_where(request))
    await limit(request, account.LETTER_TO, body.email)
    await account.forgot(session, body.email, site=config.site)
    return SentOut()


@router.post("/reset")
async def reset(request: Request, session: Transaction, config: Config, body: ResetIn) -> SentOut:
    """Set a new password by the ticket of a letter."""
    await limit(request, account.LETTER_FROM, from_where(request))
    await account.reset(session, body.ticket, body.password.get_secret_value(), site=config.site)
    return SentOut()


@router.put("/password")
async def change_password(
    request: Request, session: Transaction, me: Me, config: Config, body: PasswordIn, token: Token = None
) -> SentOut:
    """Change the password; every other session ends."""
    await limit(request, account.SIGN_IN, str(me.id))
    await account.change_password(
        session,
        me,
        old=body.old.get_secret_value(),
        new=body.new.get_secret_value(),
        token=token or "",
        site=config.site,
    )
    return SentOut()


@router.post("/leave")
async def leave(request: Request, session: Transaction, me: Me, body: LeaveIn) -> LeavingOut:
    """Ask for the account and everything in it to be removed once two weeks have passed."""
    await limit(request, account.SIGN_IN, str(me.id))
    return LeavingOut(leaves_at=await account.leave(session, me, body.password.get_secret_value()))


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
