"""How far one sees into the water, and how far a fish does."""

import math
from itertools import pairwise
from typing import Literal

from deriva.core.data.tables import published
from deriva.core.ranges import CLARITY_M, Range

ClarityHow = Literal["boots", "tube"]

TURBIDITY_FNU = Range(0.1, 2000.0, "FNU", "clear spring water to a river in spate")

TUBE_CM, TUBE_EXPONENT = published("water")["tube_factor"], published("water")["tube_exponent"]
"""Depth at which a turbidity tube's disc goes out of sight, cm = 244.13·NTU^−0.662 (Myre & Shaw 2006, from memory).
What an angler sees of the boots is taken as the same; NTU and FNU are taken as one."""

_FISH = published("fish")
REACTION: tuple[tuple[float, float], ...] = (
    (_FISH["reaction_clear_until"], 1.0),
    (_FISH["reaction_cloudy"], _FISH["reaction_cloudy_share"]),
    (_FISH["reaction_dirty"], _FISH["reaction_dirty_share"]),
)
"""Turbidity, NTU, and the distance at which rainbow trout react to drifting prey, as a share of that in 4-6 NTU
(Barrett, Grossman & Rosenfeld 1992, from memory); straight lines between, and no less than the last beyond."""


def clarity(*, turbidity_fnu: float) -> float:
    """Return how deep boots are seen, m, from turbidity (Myre & Shaw 2006).

    >>> round(clarity(turbidity_fnu=5.0), 2)
    0.84
    """
    turbidity = TURBIDITY_FNU.check("turbidity_fnu", turbidity_fnu)
    return CLARITY_M.clamp(TUBE_CM / 100.0 * math.pow(turbidity, TUBE_EXPONENT))


def turbidity(*, clarity_m: float) -> float:
    """Return the turbidity, FNU, in which boots are seen this deep: the inverse of :func:`clarity`."""
    return TURBIDITY_FNU.clamp(
        math.pow(100.0 * CLARITY_M.check("clarity_m", clarity_m) / TUBE_CM, 1.0 / TUBE_EXPONENT)
    )


def reaction_share(*, turbidity_fnu: float) -> float:
    """Return the distance at which a trout reacts, as a share of that in clear water."""
    x = TURBIDITY_FNU.check("turbidity_fnu", turbidity_fnu)
    if x <= REACTION[0][0]:
        return 1.0
    for (x0, y0), (x1, y1) in pairwise(REACTION):
        if x <= x1:
            return y0 + (y1 - y0) * (x - x0) / (x1 - x0)
    return REACTION[-1][1]
