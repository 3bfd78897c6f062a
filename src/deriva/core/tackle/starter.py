"""A starter box: what covers most of a season on most rivers (common practice, no source)."""

from dataclasses import dataclass

from deriva.core.tackle.flies import Fly
from deriva.core.tackle.floats import DRIES, INDICATORS


@dataclass(frozen=True, slots=True)
class Stock:
    """A nymph and how many of it."""

    fly: Fly
    count: int


STARTER_FLIES: tuple[Stock, ...] = (
    Stock(Fly("dubbed mayfly nymph", 16, 2.0, "dubbed"), 4),
    Stock(Fly("dubbed mayfly nymph", 16, 2.5, "dubbed"), 4),
    Stock(Fly("dubbed mayfly nymph", 14, 3.0, "dubbed"), 4),
    Stock(Fly("slim varnished nymph", 16, 2.5, "slim"), 4),
    Stock(Fly("slim varnished nymph", 14, 3.0, "slim"), 4),
    Stock(Fly("slim varnished nymph", 12, 3.5, "slim"), 4),
    Stock(Fly("slim varnished nymph", 10, 4.0, "slim"), 3),
    Stock(Fly("stonefly nymph", 12, 3.5, "dubbed"), 3),
    Stock(Fly("stonefly nymph", 10, 4.0, "dubbed"), 3),
    Stock(Fly("free caddis larva", 14, 3.0, "dubbed"), 3),
    Stock(Fly("soft-hackle pupa", 16, 2.0, "soft"), 4),
    Stock(Fly("soft-hackle pupa", 14, 2.5, "soft"), 3),
    Stock(Fly("midge pupa", 18, 2.0, "slim"), 4),
    Stock(Fly("shrimp", 14, 3.0, "dubbed"), 3),
    Stock(Fly("dubbed mayfly nymph", 16, 2.0, "dubbed", mark="tag"), 2),
    Stock(Fly("midge pupa", 20, None, "slim"), 4),
    Stock(Fly("egg", 14, 2.0, "soft", tone="bright"), 2),
    Stock(Fly("worm", 10, 3.5, "soft"), 2),
    Stock(Fly("stonefly nymph", 10, 3.5, "dubbed", tone="bright", mark="collar"), 3),
)

STARTER_DRIES: tuple[tuple[str, int], ...] = tuple((dry.name, 3) for dry in DRIES)
STARTER_FLOATS_MM: tuple[tuple[float, int], ...] = tuple((one.size_mm, 2) for one in INDICATORS)
