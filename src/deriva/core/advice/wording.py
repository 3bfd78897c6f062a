"""Sentences with quantities in them.

A sentence of the core marks each quantity, as in "lands ⟦1.6 m⟧ above", so that whoever shows it can turn it into the
angler's units without knowing the sentence. :func:`plain` takes the marks off.
"""

import re

from deriva.core.water.properties import GRAVITY_M_S2

_MARK = re.compile("⟦([^⟧]*)⟧")

AIR = " air"
"""Ends the unit of a wind, which some people read in other units than a current."""


def qty(value: float, unit: str, places: int = 2) -> str:
    """Return a marked quantity in SI (or mm, °C, s), rounded to ``places``."""
    return f"⟦{value:.{places}f} {unit}⟧"


def grams(force_n: float) -> str:
    """Return a weight as the grams that it would be read as on a balance, marked."""
    return qty(1000.0 * force_n / GRAVITY_M_S2, "g")


def percent(share: float) -> str:
    """Return a share as whole per cent."""
    return f"{100 * share:.0f} %"


def plain(text: str) -> str:
    """Return the sentence with its quantities as they stand, unmarked."""
    return _MARK.sub(lambda mark: mark[1].removesuffix(AIR), text)
