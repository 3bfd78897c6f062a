"""Fetching a gauge: time-outs, a few tries with growing pauses, and words for what went wrong."""

import asyncio
from collections.abc import Callable
from datetime import UTC, datetime
from urllib.parse import quote

import httpx2 as httpx

from deriva.service.formats.gauge_csv import parse_csv
from deriva.service.formats.rdb import parse_rdb
from deriva.service.formats.samples import Malformed, Sample, tidy
from deriva.service.formats.waterml import parse_waterml

TIMEOUT_S = 8.0
TRIES = 3
PAUSE_S = 0.5
LARGEST_BYTES = 60_000_000


def _lines(text: bytes) -> list[str]:
    """Return the lines of a file that is whole: one that was cut off ends in the middle of a line."""
    lines = text.decode("utf-8", "replace").splitlines()
    if not text.endswith(b"\n"):
        raise Malformed(max(1, len(lines)), 1, "the file ends in the middle of a line")
    return lines


READERS: dict[str, Callable[[bytes], list[Sample]]] = {
    "rdb": lambda text: tidy(parse_rdb(_lines(text))),
    "waterml": lambda text: tidy(parse_waterml(text)),
    "csv": lambda text: tidy(parse_csv(_lines(text))),
}


class Unread(RuntimeError):
    """A gauge that could not be read; the message is for people."""


def _stamp(at: datetime) -> str:
    return quote(at.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ"))


async def read_gauge(
    client: httpx.AsyncClient, url: str, *, kind: str, since: datetime, until: datetime
) -> list[Sample]:
    """Return the samples of a gauge between two times, in order. ``url`` may hold ``{start}`` and ``{end}``.

    What may be better in a moment (no answer, a slow one, 5xx, 429) is tried again; what will not is not. Raises
    :class:`Unread`.
    """
    address = url.replace("{start}", _stamp(since)).replace("{end}", _stamp(until))
    trouble = ""
    for attempt in range(TRIES):
        if attempt:
            await asyncio.sleep(PAUSE_S * 2.0 ** (attempt - 1))
        try:
            answer = await client.get(address, timeout=TIMEOUT_S)
        except httpx.TimeoutException:
            trouble = f"the gauge did not answer within {TIMEOUT_S:g} s"
            continue
        except httpx.HTTPError as error:
            trouble = f"the gauge could not be reached ({type(error).__name__})"
            continue
        if answer.status_code >= 500 or answer.status_code == 429:
            trouble = f"the gauge answered {answer.status_code}"
            continue
        if answer.status_code != 200:
            raise Unread(f"the gauge answered {answer.status_code}")
        if len(answer.content) > LARGEST_BYTES:
            raise Unread("the gauge sent more than can be read at once")
        try:
            return READERS[kind](answer.content)
        except Malformed as error:
            trouble = f"what the gauge sent could not be read: {error}"
            continue
    raise Unread(trouble)
