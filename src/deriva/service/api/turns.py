"""Turns at computing: so many at once, so many waiting, so many an angler, and no more.

A turn is held by the work and not by the request that asked for it: one that is given up after a minute leaves its thread
computing, and until that ends nobody else computes in its place.
"""

import asyncio
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import ParamSpec, TypeVar
from uuid import UUID

from deriva.service.store.models import Angler

P = ParamSpec("P")
T = TypeVar("T")

AN_ANGLER = 8
"""How many of one angler's may wait or be computed: the screens ask for three at once."""


class Busy(Exception):
    """More is being computed than can wait."""


class Queue:
    """The turns of one process."""

    def __init__(self, at_once: int, waiting: int) -> None:
        self.threads = ThreadPoolExecutor(at_once, thread_name_prefix="computing")
        self.turns = asyncio.Semaphore(at_once)
        self.room = at_once + waiting
        self.held: Counter[UUID] = Counter()
        self.own: dict[UUID, asyncio.Lock] = {}

    async def run(self, whose: UUID, work: Callable[[], T]) -> T:
        """Wait for a turn and compute; raises :class:`Busy` where there is no room to wait.

        One of an angler's is computed at a time, so that who asks for much keeps nobody from asking for little.
        """
        if self.room <= 0 or self.held[whose] >= AN_ANGLER:
            raise Busy
        self.room -= 1
        self.held[whose] += 1
        own = self.own.setdefault(whose, asyncio.Lock())
        started = False
        try:
            await own.acquire()
            try:
                await self.turns.acquire()
            except BaseException:
                own.release()
                raise
            future = asyncio.get_running_loop().run_in_executor(self.threads, work)
            started = True
        finally:
            if not started:
                self._leave(whose)
        future.add_done_callback(lambda _: self._done(whose, own))
        return await asyncio.shield(future)

    def _done(self, whose: UUID, own: asyncio.Lock) -> None:
        self.turns.release()
        own.release()
        self._leave(whose)

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
    """One angler's turns."""

    def __init__(self, queue: Queue, angler: Angler) -> None:
        self.queue, self.angler = queue, angler

    async def run(self, work: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """Compute, when it is this angler's turn."""
        return await self.queue.run(self.angler.id, lambda: work(*args, **kwargs))
