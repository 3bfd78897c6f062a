"""Turns at computing: so many at once, so many waiting, so many an angler, and no more.

A turn is held by the work and not by the request that asked for it: one that is given up after a minute leaves its worker
computing, and until that ends nobody else computes in its place.
"""

import asyncio
from collections import Counter, deque
from collections.abc import Awaitable, Callable, Iterable, Sequence
from concurrent.futures import BrokenExecutor
from contextlib import ExitStack
from functools import partial
from typing import ParamSpec, TypeVar, TypeVarTuple
from uuid import UUID

from deriva.service.store.models import Angler
from deriva.service.workers import Computes

P = ParamSpec("P")
T = TypeVar("T")
Ts = TypeVarTuple("Ts")

Gone = Callable[[], Awaitable[bool]]
"""Says whether who asked has hung up."""

AN_ANGLER = 8
"""How many of one angler's may wait or be computed: the screens ask for three at once."""


class Busy(Exception):
    """More is being computed than can wait."""


class Unwanted(Exception):
    """Whoever asked has hung up, as a slider does that has been moved on: nothing is computed for nobody."""


class Queue:
    """The turns of one process, at workers that compute one thing at a time."""

    def __init__(self, workers: Sequence[Computes], waiting: int) -> None:
        self.workers = workers
        self.free = set(range(len(workers)))
        self.turns = asyncio.Semaphore(len(workers))
        self.room = len(workers) + waiting
        self.held: Counter[UUID] = Counter()
        self.own: dict[UUID, asyncio.Lock] = {}

    async def run(self, whose: UUID, work: Callable[[], T], gone: Gone | None = None) -> T:
        """Wait for a turn and compute, as :meth:`each` does."""
        (done,) = await self.each(whose, (work,), gone)
        return done

    async def each(self, whose: UUID, works: Sequence[Callable[[], T]], gone: Gone | None = None) -> list[T]:
        """Wait for a turn and compute one thing after the other, or side by side where more workers are free and nobody waits
        for them. Raises :class:`Busy` where there is no room to wait, :class:`Unwanted` where who asked is ``gone`` when the
        turn comes, and BrokenExecutor where two workers were killed over it.

        One of an angler's is computed at a time, so that who asks for much keeps nobody from asking for little; and where it
        can be, by the same worker, which remembers how rigs hang in that water.
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
            workers = [self._take(whose, held)]
            while len(workers) < len(works) and not self.turns.locked():
                await self.turns.acquire()
                held.callback(self.turns.release)
                workers.append(self._take(whose, held))
            task = asyncio.create_task(_side_by_side(workers, works))
            over = held.pop_all()
        task.add_done_callback(lambda _: over.close())
        return await asyncio.shield(task)

    def _take(self, whose: UUID, held: ExitStack) -> Computes:
        """Return a worker that is free, the angler's own if it is."""
        usual = whose.int % len(self.workers)
        place = usual if usual in self.free else min(self.free)
        self.free.remove(place)
        held.callback(self.free.add, place)
        return self.workers[place]

    def _leave(self, whose: UUID) -> None:
        self.room += 1
        self.held[whose] -= 1
        if self.held[whose] <= 0:
            del self.held[whose]
            self.own.pop(whose, None)


async def _side_by_side(workers: Iterable[Computes], works: Iterable[Callable[[], T]]) -> list[T]:
    """Let each worker take what is left, one by one; when one fails nothing more is begun, and that is said when all ended."""
    left = deque(enumerate(works))
    done: dict[int, T] = {}

    async def take(worker: Computes) -> None:
        try:
            while left:
                place, work = left.popleft()
                done[place] = await _computed(worker, work)
        finally:
            left.clear()

    ended = await asyncio.gather(*map(take, workers), return_exceptions=True)
    for failed in filter(None, ended):
        raise failed
    return [done[place] for place in sorted(done)]


async def _computed(worker: Computes, work: Callable[[], T]) -> T:
    """Return what a worker computes; one that was killed, maybe for want of memory, is asked once more."""
    try:
        return await asyncio.wrap_future(await asyncio.to_thread(worker.submit, work))
    except BrokenExecutor:
        return await asyncio.wrap_future(await asyncio.to_thread(worker.submit, work))


class Turns:
    """One angler's turns, for one request."""

    def __init__(self, queue: Queue, angler: Angler, gone: Gone) -> None:
        self.queue, self.angler, self.gone = queue, angler, gone

    async def run(self, work: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """Compute, when it is this angler's turn."""
        return await self.queue.run(self.angler.id, partial(work, *args, **kwargs), self.gone)

    async def each(self, work: Callable[[*Ts], T], told: Iterable[tuple[*Ts]]) -> list[T]:
        """Compute the same of several, side by side where there is room."""
        return await self.queue.each(self.angler.id, [partial(work, *one) for one in told], self.gone)
