"""Passwords: how they are hashed and judged. Both take a core for a while, so that both have threads of their own."""

import asyncio
from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from pwdlib import PasswordHash
from pwdlib.hashers.argon2 import Argon2Hasher

GUESSES_LOG10 = 8.0
"""A password that a good guesser finds in fewer tries than ten to this is refused."""

JUDGED = 30
"""So many letters are judged: the time it takes grows fast with their number, and what follows makes none of them worse."""

HASHER = PasswordHash((Argon2Hasher(),))
WORKERS = ThreadPoolExecutor(2, thread_name_prefix="password")
"""Two, since each hash takes 64 MB while it is made."""


class WeakPassword(Exception):
    """The password would be guessed; ``why`` says by what."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why


async def hashed(password: str) -> str:
    """Return what is stored of a password."""
    return await asyncio.get_running_loop().run_in_executor(WORKERS, HASHER.hash, password)


async def matches(password: str, stored: str | None) -> bool:
    """Return whether a password is the one stored; it takes as long where none is."""
    if stored is None:
        await hashed(password)
        return False
    return await asyncio.get_running_loop().run_in_executor(WORKERS, HASHER.verify, password, stored)


def _judged(password: str, words: list[str]) -> Mapping[str, Any]:
    from zxcvbn import zxcvbn  # noqa: PLC0415 - its lists are slow to load

    return zxcvbn(password, user_inputs=words)


async def judge(password: str, *about: str) -> None:
    """Raise :class:`WeakPassword` for what would be guessed: common words, the address, the name."""
    words = [word[:JUDGED] for word in (*about, "deriva") if word]
    found = await asyncio.get_running_loop().run_in_executor(WORKERS, _judged, password[:JUDGED], words)
    if found["guesses_log10"] < GUESSES_LOG10:
        raise WeakPassword(found["feedback"]["warning"] or "It is easily guessed")
