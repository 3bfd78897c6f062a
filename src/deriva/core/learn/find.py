"""Finding an outing by words: each is held against what the log knows by name, and all of them must fit."""

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from deriva.core.learn.dimensions import DIMENSIONS, MONTHS

Field = Literal[
    "beat", "lie", "kind", "flow", "light", "rig", "fly", "species", "month", "year", "fish", "blank", "big"
]

BIG_MM = 400.0
"""From this length on a trout is a big one (stated here)."""

MOST_WORDS = 8

LITTLE = frozenset({"a", "an", "and", "at", "by", "for", "from", "in", "of", "on", "the", "to", "with"})

ALSO: dict[str, tuple[tuple[Field, str], ...]] = {
    "low": (("flow", "below_normal"), ("flow", "much_below_normal")),
    "high": (("flow", "above_normal"), ("flow", "much_above_normal")),
    "fish": (("fish", ""),),
    "blank": (("blank", ""),),
    "big": (("big", ""),),
    "evening": (("light", "dusk"),),
}
"""Words of the trade for what is called otherwise here."""

COUNTED: frozenset[Field] = frozenset({"fish", "blank"})
"""What was counted: who says it means nothing else by it, whatever else is called so."""


@dataclass(frozen=True, slots=True)
class Word:
    """A word that was asked for, and everything that it may mean; nothing: the log knows no such word."""

    text: str
    means: tuple[tuple[Field, str], ...]


def _known() -> Iterator[tuple[Field, str, str]]:
    for field in ("kind", "flow", "light", "rig"):
        for key, text in DIMENSIONS[field].keys:
            yield field, key, text
    for number, month in enumerate(MONTHS, 1):
        yield "month", str(number), month


KNOWN = tuple(_known())


def words(asked: str, names: Mapping[Field, Iterable[tuple[str, str]]]) -> tuple[Word, ...]:
    """Return the words of what was asked with what they may mean; ``names``: key and text of beats, lies, flies and species.

    >>> [word.means for word in words("High in may", {})]
    [(('flow', 'above_normal'), ('flow', 'much_above_normal')), (('month', '5'),)]
    >>> words("fish", {"lie": [("1", "Alder tail: fish drop back here")]})[0].means
    (('fish', ''),)
    """
    called = [*KNOWN, *((field, key, text) for field, some in names.items() for key, text in some)]
    found: list[Word] = []
    for text in _split(asked)[:MOST_WORDS]:
        if text in LITTLE:
            continue
        means = list(ALSO.get(text, ()))
        if any(field in COUNTED for field, _ in means):
            found.append(Word(text, tuple(means)))
            continue
        if re.fullmatch(r"(19|20)\d\d", text):
            means.append(("year", text))
        means += [
            (field, key) for field, key, name in called if any(one.startswith(text) for one in _split(name))
        ]
        found.append(Word(text, tuple(dict.fromkeys(means))))
    return tuple(found)


def _split(text: str) -> list[str]:
    return re.findall(r"\w+(?:\.\d+)?", text.lower())
