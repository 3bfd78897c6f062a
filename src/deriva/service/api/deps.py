"""What routes ask for: a database session in one transaction, and who is signed in.

None of it waits for anything but the database, so all of it runs on the loop: what is no coroutine gets a thread of its own.
"""

import asyncio
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import Cookie, Depends, Request
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.adapters.gauge import Sources
from deriva.service.api.errors import SignedOut
from deriva.service.api.turns import Queue, Turns
from deriva.service.settings import Settings
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Angler
from deriva.service.store.take_new import AtOnce
from deriva.service.usecases import account

COOKIE = "deriva_session"


async def transaction(request: Request) -> AsyncIterator[AsyncSession]:
    """Yield a session in one transaction: committed before the answer goes out, rolled back on any error."""
    sessions: Sessions = request.app.state.sessions
    async with sessions.begin() as session:
        yield session


async def settings(request: Request) -> Settings:
    """Return the service's settings."""
    found: Settings = request.app.state.settings
    return found


# "function" scope: the transaction ends, and a commit can fail, before the answer is sent.
Transaction = Annotated[AsyncSession, Depends(transaction, scope="function")]
Config = Annotated[Settings, Depends(settings)]


async def known_sources(config: Config) -> Sources:
    """Return where gauges and weather may be read."""
    return Sources.of(config.gauges, config.gauge_hosts)


Known = Annotated[Sources, Depends(known_sources)]
Token = Annotated[str | None, Cookie(alias=COOKIE, include_in_schema=False)]


async def signed_in(session: Transaction, token: Token = None) -> Angler:
    """Return the angler who is signed in."""
    angler = await account.who(session, token)
    if angler is None:
        raise SignedOut
    return angler


Me = Annotated[Angler, Depends(signed_in)]


async def caller(request: Request, token: Token = None) -> Angler:
    """Return who is signed in, holding no connection afterwards: for routes that compute and do not store."""
    sessions: Sessions = request.app.state.sessions
    async with sessions.begin() as session:
        return await signed_in(session, token)


Caller = Annotated[Angler, Depends(caller)]


async def from_where(request: Request) -> str:
    """Return where a request comes from, to count attempts by; behind a proxy, what a trusted one says."""
    return request.client.host if request.client else "nowhere"


From = Annotated[str, Depends(from_where)]


async def making(request: Request) -> Sessions:
    """Return the maker of sessions: for routes that wait for something else between two transactions."""
    found: Sessions = request.app.state.sessions
    return found


Making = Annotated[Sessions, Depends(making)]


async def at_once(request: Request) -> AtOnce:
    """Return the way to the database for what is done at one call."""
    found: AtOnce = request.app.state.at_once
    return found


Way = Annotated[AtOnce, Depends(at_once)]


async def post(request: Request) -> asyncio.Event:
    """Return the bell of the queue of letters."""
    bell: asyncio.Event = request.app.state.post
    return bell


Post = Annotated[asyncio.Event, Depends(post)]


async def computing(request: Request, caller: Caller) -> Turns:
    """Return the caller's turns at computing."""
    queue: Queue = request.app.state.queue
    return Turns(queue, caller, request.is_disconnected)


Computing = Annotated[Turns, Depends(computing)]
