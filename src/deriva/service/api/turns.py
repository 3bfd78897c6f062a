"""Turns at computing: so many at once, so many waiting, so many an angler, and no more.

A turn is held by the work and not by the request that asked for it: one that is given up after a minute leaves its thread
computing, and until that ends nobody else computes in its place.
"""

import asyncio
from collections import Counter
from collections.abc import Awaitable, Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack
from typing import ParamSpec, TypeVar
from uuid import UUID

from deriva.service.store.models import Angler

P = ParamSpec("P")
T = TypeVar("T")

AN_ANGLER = 8
"""How many of one angler's may wait or be computed: the screens ask for three at once."""


class Busy(Exception):
    """More is being computed than can wait."""


class Unwanted(Exception):
    """Whoever asked has hung up, as a slider does that has been moved on: nothing is computed for nobody."""


class Queue:
    """The turns of one process."""

    def __init__(self, at_once: int, waiting: int) -> None:
        self.threads = ThreadPoolExecutor(at_once, thread_name_prefix="computing")
        self.turns = asyncio.Semaphore(at_once)
        self.room = at_once + waiting
        self.held: Counter[UUID] = Counter()
        self.own: dict[UUID, asyncio.Lock] = {}

    async def run(
        self, whose: UUID, work: Callable[[], T], gone: Callable[[], Awaitable[bool]] | None = None
    ) -> T:
        """Wait for a turn and compute; raises :class:`Busy` where there is no room to wait, and :class:`Unwanted` where who asked
        is ``gone`` when the turn comes.

        One of an angler's is computed at a time, so that who asks for much keeps nobody from asking for little.
        """
        if self.room <= 0 or self.held[whose] >= AN_ANGLER:
            raise Busy
        self.room -= 1
        self.held[whose] += 1
        own = self.own.setdefault(whose, asyncio.Lock())
        with ExitStack() as held:
            held.callback(self._leave, whose)
            await own.acquire()
            held.callback(own.release)
            await self.turns.acquire()
            held.callback(self.turns.release)
            if gone is not None and await gone():
                raise Unwanted
            future = asyncio.get_running_loop().run_in_executor(self.threads, work)
            over = held.pop_all()
        future.add_done_callback(lambda _: over.close())
        return await asyncio.shield(future)

    def _leave(self, whose: UUID) -> None:
        self.room += 1
        self.held[whose] -= 1
        if self.held[whose] <= 0:
            del self.held[whose]
            self.own.pop(whose, None)

    def close(self) -> None:
        """Let what is being computed end, and begin nothing more."""
        self.threads.shutdown(wait=False, cancel_futures=True)


class Turns:
    """One angler's turns, for one request."""

    def __init__(self, queue: Queue, angler: Angler, gone: Callable[[], Awaitable[bool]]) -> None:
        self.queue, self.angler, self.gone = queue, angler, gone

    async def run(self, work: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """Compute, when it is this angler's turn."""
        return await self.queue.run(self.angler.id, lambda: work(*args, **kwargs), self.gone)
