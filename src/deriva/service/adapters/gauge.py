"""Fetching a gauge or the weather: time-outs, a few tries with growing pauses, and words for what went wrong."""

import asyncio
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import TypeVar
from urllib.parse import quote, urlsplit

import httpx2 as httpx

from deriva.service.formats.gauge_csv import parse_csv
from deriva.service.formats.rdb import parse_rdb
from deriva.service.formats.samples import Malformed, Sample, tidy
from deriva.service.formats.waterml import parse_waterml

T = TypeVar("T")

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


@dataclass(frozen=True)
class Sources:
    """What may be read: paths at ``base``, and full addresses of ``hosts`` (with their port, where it is not the usual).

    Nothing else is ever asked, so that no address that somebody enters makes the service knock at doors inside its own
    network.
    """

    base: str
    hosts: frozenset[str] = frozenset()

    @staticmethod
    def of(base: str, hosts: str) -> "Sources":
        """Return the sources for the settings as written."""
        return Sources(base, frozenset(host.strip().lower() for host in hosts.split(",") if host.strip()))

    def address(self, url: str) -> str:
        """Return the full address; raises :class:`Unread` for one that is not read here."""
        if url.startswith("/") and not url.startswith("//"):
            if not self.base:
                raise Unread("this installation reads no gauge by a path alone: give the full address")
            return self.base.rstrip("/") + url
        host = urlsplit(url).netloc.lower()
        if host not in self.hosts:
            allowed = ", ".join(sorted(self.hosts)) or "none"
            raise Unread(f"{host or 'that address'} is not read here; hosts that are: {allowed}")
        return url


class Unread(RuntimeError):
    """A source that could not be read; the message is for people."""


def _stamp(at: datetime) -> str:
    return quote(at.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ"))


async def fetch(
    client: httpx.AsyncClient,
    url: str,
    reader: Callable[[bytes], T],
    *,
    what: str,
    since: datetime,
    until: datetime,
) -> T:
    """Return what a source says between two times, read by ``reader``. ``url`` may hold ``{start}`` and ``{end}``.

    What may be better in a moment (no answer, a slow one, 5xx, 429) is tried again; what will not is not. Raises
    :class:`Unread`, naming the source as ``what``.
    """
    address = url.replace("{start}", _stamp(since)).replace("{end}", _stamp(until))
    trouble = ""
    for attempt in range(TRIES):
        if attempt:
            await asyncio.sleep(PAUSE_S * 2.0 ** (attempt - 1))
        try:
            answer = await client.get(address, timeout=TIMEOUT_S)
        except httpx.TimeoutException:
            trouble = f"{what} did not answer within {TIMEOUT_S:g} s"
            continue
        except httpx.HTTPError as error:
            trouble = f"{what} could not be reached ({type(error).__name__})"
            continue
        if answer.status_code >= 500 or answer.status_code == 429:
            trouble = f"{what} answered {answer.status_code}"
            continue
        if answer.status_code != 200:
            raise Unread(f"{what} answered {answer.status_code}")
        if len(answer.content) > LARGEST_BYTES:
            raise Unread(f"{what} sent more than can be read at once")
        try:
            return reader(answer.content)
        except Malformed as error:
            trouble = f"what {what} sent could not be read: {error}"
            continue
    raise Unread(trouble)


async def read_gauge(
    client: httpx.AsyncClient, url: str, *, kind: str, since: datetime, until: datetime
) -> list[Sample]:
    """Return the samples of a gauge between two times, in order; see :func:`fetch`."""
    return await fetch(client, url, READERS[kind], what="the gauge", since=since, until=until)
