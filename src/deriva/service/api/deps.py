"""What routes ask for: a database session in one transaction, and who is signed in."""

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from typing import Annotated

from fastapi import Cookie, Depends, Request
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.adapters.gauge import Sources
from deriva.service.api.errors import Busy, SignedOut
from deriva.service.settings import Settings
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Angler
from deriva.service.usecases import account

COOKIE = "deriva_session"


async def transaction(request: Request) -> AsyncIterator[AsyncSession]:
    """Yield a session in one transaction: committed before the answer goes out, rolled back on any error."""
    sessions: Sessions = request.app.state.sessions
    async with sessions.begin() as session:
        yield session


def settings(request: Request) -> Settings:
    """Return the service's settings."""
    found: Settings = request.app.state.settings
    return found


# "function" scope: the transaction ends, and a commit can fail, before the answer is sent.
Transaction = Annotated[AsyncSession, Depends(transaction, scope="function")]
Config = Annotated[Settings, Depends(settings)]


def known_sources(config: Config) -> Sources:
    """Return where gauges and weather may be read."""
    return Sources.of(config.gauges, config.gauge_hosts)


Known = Annotated[Sources, Depends(known_sources)]
Token = Annotated[str | None, Cookie(alias=COOKIE, include_in_schema=False)]


async def signed_in(session: Transaction, token: Token = None) -> Angler:
    """Return the angler who is signed in; this is the seam where real accounts will go."""
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


def from_where(request: Request) -> str:
    """Return where a request comes from, to count attempts by."""
    return request.client.host if request.client else "nowhere"


async def limit(request: Request, limit: account.Limit, whom: str) -> None:
    """Count an attempt; raises :class:`TooMany` past what is allowed."""
    sessions: Sessions = request.app.state.sessions
    await account.limited(sessions, limit, whom)


class Queue:
    """Turns at computing: so many at once, so many waiting, and no more."""

    def __init__(self, at_once: int, waiting: int) -> None:
        self.turns = asyncio.Semaphore(at_once)
        self.room = at_once + waiting

    @asynccontextmanager
    async def turn(self) -> AsyncIterator[None]:
        """Wait for a turn and hold it; raises :class:`Busy` where there is no room to wait."""
        if self.room <= 0:
            raise Busy
        self.room -= 1
        try:
            async with self.turns:
                yield
        finally:
            self.room += 1


async def computing(request: Request, caller: Caller) -> AsyncIterator[Angler]:
    """Yield who is signed in, with a turn at computing: routes that compute must not keep those that log from answering."""
    queue: Queue = request.app.state.queue
    async with queue.turn():
        yield caller


Computing = Annotated[Angler, Depends(computing, scope="function")]
