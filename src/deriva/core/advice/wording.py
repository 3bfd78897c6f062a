"""Sentences with quantities in them.

A sentence of the core marks each quantity, as in "lands ⟦1.6 m⟧ above", so that whoever shows it can turn it into the
angler's units without knowing the sentence. :func:`plain` takes the marks off.
"""

import re

_MARK = re.compile("⟦([^⟧]*)⟧")


def qty(value: float, unit: str, places: int = 2) -> str:
    """Return a marked quantity in SI (or mm, °C, s), rounded to ``places``."""
    return f"⟦{value:.{places}f} {unit}⟧"


def percent(share: float) -> str:
    """Return a share as whole per cent."""
    return f"{100 * share:.0f} %"


def plain(text: str) -> str:
    """Return the sentence with its quantities as they stand, unmarked."""
    return _MARK.sub(r"\1", text)
