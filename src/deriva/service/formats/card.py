"""What stands on a build card."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Row:
    """A line of the card: from the rod end down, what it is, and its measures in the reader's units."""

    what: str
    length: str
    cut: str
    note: str
    tied: bool


@dataclass(frozen=True, slots=True)
class Card:
    """What stands on the page."""

    title: str
    place: str
    answer: str
    rows: tuple[Row, ...]
    foot: tuple[str, ...]
    back: tuple[tuple[int, str], ...] = ()
    """What stands on the back: each line with how far it is set in."""


def typeset(card: Card) -> bytes:
    """Return a card as a PDF."""
    from deriva.service.formats.build_pdf import build_pdf  # noqa: PLC0415 - slow to load

    return build_pdf(card)
