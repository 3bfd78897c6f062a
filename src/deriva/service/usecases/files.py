"""Writing outings to a file, in any of the formats there are."""

from collections.abc import AsyncIterator, Sequence
from datetime import tzinfo
from pathlib import Path
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.errors import Impossible
from deriva.core.learn.find import Word, words
from deriva.service.formats.book import Book, Wanted
from deriva.service.formats.names import named
from deriva.service.formats.registry import FORMATS, Format
from deriva.service.store import outings, owned, reader
from deriva.service.store.models import Angler, Beat, Outing

A_PAGE = 50


async def _pages(session: AsyncSession, angler_id: UUID, like: Sequence[Word]) -> AsyncIterator[list[Book]]:
    """Go through the outings that fit every word, newest first, a page at a time."""
    before = None
    while True:
        page = await outings.outings(session, angler_id, before=before, most=A_PAGE, like=like)
        if page:
            yield await reader.books(session, angler_id, [outing.id for outing, _ in page])
        if len(page) < A_PAGE:
            return
        last = page[-1][0]
        before = last.started_at, last.id


async def write(
    session: AsyncSession,
    angler: Angler,
    name: str,
    path: Path,
    *,
    outing: UUID | None,
    find: str,
    exact: bool,
    zone: tzinfo,
) -> tuple[Format, str]:
    """Write one outing, or all that fit some words, to a file; return its format and what to call it.

    Raises NotYours for another's outing, Impossible for a format that holds one outing where none is named.
    """
    known = FORMATS.get(name)
    if known is None or known.writer is None:
        written = ", ".join(one.name for one in FORMATS.values() if one.writer)
        raise Impossible(f"format = {name!r} is not one of: {written}", field="format")
    if outing is None and not known.many:
        raise Impossible(f"outing: {known.title} is of one outing, and none is named", field="outing")
    writer = known.writer(Wanted(exact=exact, units=angler.units, zone=zone))
    title: tuple[object, ...] = ("log", find or None)
    with path.open("wb") as file:
        file.write(writer.head())
        if outing is not None:
            row = await owned.get_owned(session, Outing, angler.id, outing)
            if row.gone:
                raise owned.NotYours("outing")
            title = ("outing", (await owned.get_owned(session, Beat, angler.id, row.beat_id)).name)
            title = (*title, f"{row.started_at:%Y-%m-%d-%H%M}")
            file.write(writer.add(await reader.books(session, angler.id, [outing])))
        else:
            like = words(find, await outings.named(session, angler.id)) if find else ()
            async for page in _pages(session, angler.id, like):
                file.write(writer.add(page))
        file.write(writer.foot())
    return known, f"{named(*title)}.{known.suffix}"
