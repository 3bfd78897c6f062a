"""How long was fished: from drift to drift, without the pauses."""

from collections.abc import Sequence
from itertools import pairwise

MOST_OUTINGS = 400
"""So many outings are looked at, the newest: the fishing of years, and no more work for a longer log."""

LONGEST_MIN = 10.0
"""Between two drifts with one setting, no more than this was fishing: the rest was walking, eating, waiting (stated here)."""

FIRST_MIN = 1.0
"""What the first drift with a setting counts for (stated here)."""


def minutes(at_s: Sequence[float]) -> tuple[float, ...]:
    """Return the minutes that each drift with one setting took, given when they ended, s, in order.

    The database counts the same as drifts are written (migration 0016); a test holds the two together.

    >>> minutes([0.0, 90.0, 3600.0])
    (1.0, 1.5, 10.0)
    """
    if not at_s:
        return ()
    return (FIRST_MIN, *(min((b - a) / 60.0, LONGEST_MIN) for a, b in pairwise(at_s)))
