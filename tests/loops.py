"""Asynchronous work inside a test, wherever in the run it comes."""

import asyncio
from collections.abc import Coroutine
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

T = TypeVar("T")


def run(work: Coroutine[Any, Any, T]) -> T:
    """Run in a thread of its own: once a browser has been driven in this one, Playwright's loop stays in it."""
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(asyncio.run, work).result()
