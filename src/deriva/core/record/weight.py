"""Weight from length, so that no fish need hang on a balance: standard weights, log10 W(g) = a + b·log10 L(mm).

A standard weight is that of a fish in better than middling shape; one that was guessed by eye is no better than its length.
"""

import math

from deriva.core.data.tables import rows
from deriva.core.model.logged import LengthHow
from deriva.core.ranges import FISH_LENGTH_MM

STANDARD: dict[str, tuple[float, float]] = {
    row["species"]: (float(row["intercept"]), float(row["slope"])) for row in rows("standard_weight")
}
"""Intercept and slope by species (all quoted from memory)."""


def standard_weight(*, species: str, length_mm: float) -> float | None:
    """Return the standard weight, g, of a fish of a total length; None for a species that has none here.

    >>> round(standard_weight(species="brown trout", length_mm=400.0) or 0.0)
    684
    """
    known = STANDARD.get(species.strip().lower())
    if known is None:
        return None
    intercept, slope = known
    return math.pow(10.0, intercept + slope * math.log10(FISH_LENGTH_MM.check("length_mm", length_mm)))


LENGTH_ERROR: dict[LengthHow, float] = {"eye": 0.10, "measured": 0.02}
"""Relative standard error of a length by eye, and against a mark on the rod or net (common practice, no source)."""

BODY_SPREAD = 0.10
"""Relative spread of the weights of fish of one length: fat and lean ones (common practice, no source)."""

TENTH_Z = 1.2815516
"""Standard normal quantile at 90 %."""


def weight_spread(*, species: str, length_mm: float, how: LengthHow) -> tuple[float, float] | None:
    """Return the weights, g, between which 8 of 10 such fish lie: by the error of the length, cubed, and by their shape."""
    middle = standard_weight(species=species, length_mm=length_mm)
    if middle is None or how not in LENGTH_ERROR:
        return None
    slope = STANDARD[species.strip().lower()][1]
    wide = math.exp(TENTH_Z * math.hypot(slope * LENGTH_ERROR[how], BODY_SPREAD))
    return middle / wide, middle * wide
