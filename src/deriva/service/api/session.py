"""Signing in and out, and the sessions that are open."""

from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Header, Response

from deriva.service.api.deps import COOKIE, Config, From, Making, Me, Token, Transaction
from deriva.service.schemas.account import AnglerIn, OpenSessionOut, SessionOut, SignInIn
from deriva.service.schemas.log import AnglerOut, Stored
from deriva.service.settings import Settings
from deriva.service.store import accounts, owned
from deriva.service.store.models import Angler
from deriva.service.usecases import account

router = APIRouter(tags=["session"])
Agent = Annotated[str, Header(alias="user-agent", include_in_schema=False)]


def angler_out(angler: Angler) -> AnglerOut:
    """Return an angler as the angler sees it."""
    return AnglerOut.model_validate({name: getattr(angler, name) for name in AnglerOut.model_fields})


def remember(response: Response, token: str, config: Settings) -> None:
    """Give the browser the token, where no script can read it."""
    response.set_cookie(
        COOKIE, token, max_age=account.SESSION_DAYS * 86400, httponly=True, samesite="lax", path="/",
        secure=config.secure,
    )  # fmt: skip


async def session_out(session: Transaction, config: Settings, angler: Angler | None) -> SessionOut:
    """Return the state of the session."""
    nobody = not config.demo and not await accounts.any_account(session)
    return SessionOut(
        demo_start=config.demo,
        first_run=nobody,
        sign_up=config.sign_up or nobody,
        letters=config.posted,
        angler=angler_out(angler) if angler else None,
    )


@router.get("/session")
async def read_session(session: Transaction, config: Config, token: Token = None) -> SessionOut:
    """Say who is signed in."""
    return await session_out(session, config, await account.who(session, token))


@router.post("/session")
async def sign_in(
    making: Making, config: Config, place: From, response: Response, body: SignInIn, agent: Agent = ""
) -> SessionOut:
    """Sign in with address and password."""
    await account.limited_sign_in(making, body.email, place)
    password = body.password.get_secret_value()
    token, angler = await account.sign_in(
        making, email=body.email, password=password, agent=agent, place=place
    )
    remember(response, token, config)
    async with making.begin() as session:
        return await session_out(session, config, angler)


@router.post("/session/demo")
async def sign_in_as_demo(
    session: Transaction, config: Config, response: Response, agent: Agent = ""
) -> SessionOut:
    """Sign in as the demo angler; on the demo start only."""
    if not config.demo:
        raise account.NoDemo
    token, angler = await account.sign_in_demo(session, agent)
    remember(response, token, config)
    return await session_out(session, config, angler)


@router.delete("/session")
async def sign_out(
    session: Transaction, config: Config, response: Response, token: Token = None
) -> SessionOut:
    """Sign out."""
    if token:
        await account.sign_out(session, token)
    response.delete_cookie(COOKIE, path="/", httponly=True, samesite="lax", secure=config.secure)
    return await session_out(session, config, None)


@router.get("/sessions")
async def list_sessions(session: Transaction, me: Me, token: Token = None) -> list[OpenSessionOut]:
    """List the sessions that are open."""
    here = accounts.hash_of(token or "")
    return [
        OpenSessionOut(
            id=one.id,
            agent=one.agent,
            opened_at=one.opened_at,
            seen_at=one.seen_at,
            here=one.token_hash == here,
        )
        for one in await accounts.sessions_of(session, me.id, datetime.now(UTC))
    ]


@router.delete("/sessions/{session_id}")
async def end_session(session: Transaction, me: Me, session_id: UUID) -> Stored:
    """End a session: that browser is signed out."""
    if not await accounts.end_session(session, me.id, session_id):
        raise owned.NotYours("session")
    return Stored(id=session_id)


@router.put("/angler")
async def change_angler(session: Transaction, me: Me, change: AnglerIn) -> AnglerOut:
    """Change the units that the angler sees, the school that the angler follows, the rod in hand, the home river."""
    changes = change.model_dump(exclude_none=True)
    return angler_out(await account.change(session, me.id, changes))
