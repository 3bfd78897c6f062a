"""Tippet: the trade's X scale, and which X a fly asks for."""

from deriva.core.data.tables import published
from deriva.core.ranges import Range

TIPPET_X = Range(0, 8, "X", "sizes sold as tippet")
INCH_M = published("wading")["inch"]


def tippet_diameter(*, x: float) -> float:
    """Return the diameter, m, of ``x`` tippet: (11 − X) thousandths of an inch (trade standard).

    >>> round(1000.0 * tippet_diameter(x=5), 3)
    0.152
    """
    return (11.0 - TIPPET_X.check("tippet_x", x)) * INCH_M / 1000.0


def tippet_for_hook(*, hook: int) -> int:
    """Return the X that turns over and fishes a hook of this number: hook ÷ 3 (common practice), 3X to 7X.

    >>> tippet_for_hook(hook=16)
    5
    """
    return min(7, max(3, round(hook / 3.0)))
