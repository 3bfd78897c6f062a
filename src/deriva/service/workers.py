"""Processes that compute beside the one that answers.

Python computes in one thread at a time: computed in threads of the same process, eight planners let a tap wait three to twelve
times as long as it does alone.
"""

import os
import signal
import threading
from collections.abc import Callable
from concurrent.futures import BrokenExecutor, Future, ProcessPoolExecutor
from multiprocessing import connection, get_context, parent_process
from typing import Protocol, TypeVar

T = TypeVar("T")

GIVES_WAY = 5
"""How much it gives way to whoever answers (POSIX nice): a tap is milliseconds, and comes first. It gives way to all else on
the machine as much: at 10 it had a ninth of what others have, and on a busy one was given up before it was done.
"""


class Computes(Protocol):
    """What work can be handed to."""

    def submit(self, work: Callable[[], T], /) -> Future[T]:
        """Begin some work, or queue it."""
        ...


class Worker:
    """A process that computes one thing at a time. It is started when it is first asked; where it was killed, another takes its
    place. Processes share the memory of what they are forked from.
    """

    def __init__(self) -> None:
        self._pool = _pool()

    def submit(self, work: Callable[[], T]) -> Future[T]:
        """Hand over some work that can be pickled, as can what it returns or raises; wait for a process that has to start."""
        try:
            return self._pool.submit(work)
        except BrokenExecutor:
            self._pool = _pool()
            return self._pool.submit(work)

    def end(self) -> None:
        """Let what is being computed end, and the process with it; who asks again has another."""
        ending, self._pool = self._pool, _pool()
        ending.shutdown(cancel_futures=True)


def _pool() -> ProcessPoolExecutor:
    context = get_context("forkserver")
    context.set_forkserver_preload(["deriva.service.warmed"])
    return ProcessPoolExecutor(1, mp_context=context, initializer=_begin)


def _begin() -> None:
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the service's, which ends this
    os.nice(GIVES_WAY)
    service = parent_process()
    assert service is not None  # noqa: S101 - it was started by one
    threading.Thread(target=_end_with, args=(service.sentinel,), daemon=True).start()


def _end_with(service: int) -> None:
    connection.wait([service])
    os._exit(0)  # it may be in the middle of a plan, which nobody waits for now
