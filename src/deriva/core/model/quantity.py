"""Sentences with quantities in them.

A sentence of the core marks each quantity, as in "lands ⟦1.6 m⟧ above", so that whoever shows it can turn it into the
angler's units without knowing the sentence. :func:`plain` takes the marks off.
"""

import re

from deriva.core.water.properties import GRAVITY_M_S2

_MARK = re.compile("⟦([^⟧]*)⟧")

READ_AS = (" air", " apart")
"""End a unit that some people read otherwise: wind in other units than a current, °C apart without their zero."""


def qty(value: float, unit: str, places: int = 2) -> str:
    """Return a marked quantity in SI (or mm, °C, s), rounded to ``places``.

    >>> qty(1.604, "m", 1)
    '⟦1.6 m⟧'
    """
    return f"⟦{value:.{places}f} {unit}⟧"


def grams(force_n: float) -> str:
    """Return a weight as the grams that it would be read as on a balance, marked."""
    return qty(1000.0 * force_n / GRAVITY_M_S2, "g")


def percent(share: float) -> str:
    """Return a share as whole per cent.

    >>> percent(0.666)
    '67 %'
    """
    return f"{100 * share:.0f} %"


def plain(text: str) -> str:
    """Return the sentence with its quantities as they stand, unmarked.

    >>> plain("lands ⟦1.6 m⟧ above, in ⟦5 m/s air⟧")
    'lands 1.6 m above, in 5 m/s'
    """

    def unmarked(mark: re.Match[str]) -> str:
        said = mark[1]
        for end in READ_AS:
            said = said.removesuffix(end)
        return said

    return _MARK.sub(unmarked, text)
