"""Asynchronous work inside a test, wherever in the run it comes."""

import asyncio
from collections.abc import Callable, Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

T = TypeVar("T")


def apart(work: Callable[..., T], *given: object) -> T:
    """Call in a thread of its own what runs a loop: once a browser has been driven in this one, Playwright's stays in it."""
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(work, *given).result()


def run(work: Coroutine[Any, Any, T]) -> T:
    """Run a coroutine to its end, apart."""
    done: T = apart(asyncio.run, work)
    return done
