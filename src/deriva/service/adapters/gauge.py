"""Fetching a gauge or the weather: time-outs, a few tries with growing pauses, and words for what went wrong."""

import asyncio
import json
import zlib
from collections.abc import Awaitable, Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import TypeVar
from urllib.parse import quote, urlsplit

import httpx2 as httpx

from deriva.service.adapters import apart
from deriva.service.formats.samples import Malformed

T = TypeVar("T")

TIMEOUT_S = 8.0
TRIES = 3
PAUSE_S = 0.5
DEADLINE_S = 20.0
"""All asking of one source together: one that drips a byte a second has its time-out met at every byte."""

READ_WITHIN_S = 60.0
"""So long a process may take to read what came; it has a limit of its own in processor time."""

LARGEST_BYTES = 8_000_000
"""A month of quarter hours of four parameters is 3 MB as XML, twenty years of days 0.4 MB as RDB."""


@dataclass(frozen=True, slots=True)
class Rows:
    """What a gauge said: how many values, the time of the newest, and a row a value as PostgreSQL's COPY reads text."""

    count: int
    newest: datetime | None
    text: bytes


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
            allowed = f"hosts that are: {', '.join(sorted(self.hosts))}" if self.hosts else "no host is"
            raise Unread(
                f"{host or 'that address'} is not read here ({allowed}). Whoever runs this can allow it; "
                "a file of the gauge's past can be taken in without"
            )
        return url


class Unread(RuntimeError):
    """A source that could not be read; the message is for people."""


def _stamp(at: datetime) -> str:
    return quote(at.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ"))


async def _body(answer: httpx.Response, what: str) -> bytes:
    """Return the body of an answer, counted as it comes in and as it is unpacked: a bomb goes off in nobody's hands."""
    packed = answer.headers.get("content-encoding", "identity").lower()
    if packed not in ("identity", "gzip", ""):
        raise Unread(f"{what} sent it packed as {packed[:20]}, which was not asked for")
    unpack = zlib.decompressobj(wbits=31) if packed == "gzip" else None
    parts: list[bytes] = []
    size = 0
    async for chunk in answer.aiter_raw(65536):
        part = chunk if unpack is None else unpack.decompress(chunk, LARGEST_BYTES - size + 1)
        size += len(part)
        if size > LARGEST_BYTES:
            raise Unread(f"{what} sent more than the {LARGEST_BYTES // 1_000_000} MB that are read at once")
        parts.append(part)
    return b"".join(parts)


async def _asked(client: httpx.AsyncClient, address: str, what: str) -> tuple[bytes | None, str]:
    """Ask once; return what came, or what may be better in a moment. Raises :class:`Unread` for what will not be."""
    try:
        async with client.stream(
            "GET", address, timeout=TIMEOUT_S, headers={"accept-encoding": "identity"}
        ) as answer:
            if answer.status_code >= 500 or answer.status_code == 429:
                return None, f"{what} answered {answer.status_code}"
            if answer.status_code != 200:
                raise Unread(f"{what} answered {answer.status_code}")
            return await _body(answer, what), ""
    except httpx.TimeoutException:
        return None, f"{what} did not answer within {TIMEOUT_S:g} s"
    except httpx.InvalidURL:
        raise Unread(f"{what}'s address cannot be read") from None
    except (httpx.HTTPError, zlib.error) as error:
        return None, f"{what} could not be reached ({type(error).__name__})"


async def fetch(
    client: httpx.AsyncClient,
    url: str,
    reader: Callable[[bytes], Awaitable[T]],
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
    ends = asyncio.get_running_loop().time() + DEADLINE_S
    for attempt in range(TRIES):
        try:
            async with asyncio.timeout_at(ends):
                if attempt:
                    await asyncio.sleep(PAUSE_S * 2.0 ** (attempt - 1))
                text, trouble = await _asked(client, address, what)
        except TimeoutError:
            raise Unread(trouble or f"{what} took longer than {DEADLINE_S:g} s to answer") from None
        if text is None:
            continue
        try:
            return await reader(text)
        except Malformed as error:
            trouble = f"what {what} sent could not be read: {error}"
    raise Unread(trouble)


async def read_gauge(
    client: httpx.AsyncClient, url: str, *, kind: str, since: datetime, until: datetime
) -> Rows:
    """Return what a gauge says between two times; see :func:`fetch`."""

    async def reader(text: bytes) -> Rows:
        try:
            status, out, said = await apart.run(
                "deriva.service.formats.read", kind, given=text, within_s=READ_WITHIN_S
            )
        except apart.Gone:
            raise Malformed(0, "the whole", "reading it took too long or too much memory") from None
        if status != 0:
            raise Malformed(0, "the file", said.decode("utf-8", "replace")[:400])
        head, _, rest = out.partition(b"\n")
        told = json.loads(head)
        newest = None if told["newest"] is None else datetime.fromisoformat(told["newest"])
        return Rows(told["count"], newest, rest)

    return await fetch(client, url, reader, what="the gauge", since=since, until=until)
