"""A lie at another flow: depth and speed carried along its rating, which starts from published exponents and learns.

At-a-station hydraulic geometry: depth = c·Q^f, speed = k·Q^m (Leopold & Maddock 1953, USGS Professional Paper 252). In
logarithms that is a straight line. Its slope has a prior about the published mean exponent, its level none to speak of;
what was seen at the lie pulls both, the more the better it was measured. All Gaussian, so that the answer is closed.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from deriva.core.data.tables import published
from deriva.core.errors import Impossible
from deriva.core.ranges import FLOW_M3_S, Range

_WATER = published("water")
DEPTH_EXPONENT = _WATER["depth_exponent"]
SPEED_EXPONENT = _WATER["speed_exponent"]
WIDTH_EXPONENT = _WATER["width_exponent"]
"""Mean exponents of depth, speed and width at a station; they add up to 1, since their product is the flow
(Leopold & Maddock 1953)."""

EXPONENT_SD = 0.12
"""How far a single lie departs from the mean exponent (stated; stations of the same source scatter about so much)."""

SCATTER = 0.06
"""What a lie departs from its own line by, as a share: stones move, weed grows (stated; common practice, no source)."""

VAGUE = 4.0
"""Prior spread of the level, in logarithms: a factor of fifty either way says nothing."""

RELATIVE_ERROR = Range(0.005, 1.0, "-", "no eye is worse than out by half or double; no staff is perfect")


@dataclass(frozen=True, slots=True)
class Observed:
    """A depth (m) or a speed (m/s) seen at a flow (m³/s), with its relative standard error."""

    flow_m3_s: float
    value: float
    relative_error: float


@dataclass(frozen=True, slots=True)
class Rating:
    """The line ln(value) = level + exponent·(ln Q − centre), with the variances of level and exponent, which are
    independent about that centre."""

    centre: float
    level: float
    exponent: float
    var_level: float
    var_exponent: float
    seen: int

    @property
    def exponent_sd(self) -> float:
        """Standard deviation of the exponent."""
        return math.sqrt(self.var_exponent)


@dataclass(frozen=True, slots=True)
class Carried:
    """A value carried to a flow: its median, and its standard deviation as a share of it."""

    value: float
    relative_sd: float

    @property
    def sd(self) -> float:
        """Standard deviation in the value's own unit."""
        return self.value * self.relative_sd


def fit_rating(seen: Sequence[Observed], *, exponent: float, exponent_sd: float = EXPONENT_SD) -> Rating:
    """Fit a rating to what was seen, from a prior on its exponent. Raises Impossible for nothing seen."""
    if not seen:
        raise Impossible("a rating needs at least one observation at a known flow", field="seen")
    xs = [math.log(FLOW_M3_S.check("flow_m3_s", one.flow_m3_s)) for one in seen]
    if any(one.value <= 0.0 for one in seen):
        raise Impossible("a depth or a speed that was seen must be above zero", field="seen")
    ys = [math.log(one.value) for one in seen]
    weights = [
        1.0 / (RELATIVE_ERROR.check("relative_error", one.relative_error) ** 2 + SCATTER**2) for one in seen
    ]
    total = sum(weights)
    centre = sum(w * x for w, x in zip(weights, xs, strict=True)) / total
    middle = sum(w * y for w, y in zip(weights, ys, strict=True)) / total
    # precision of (level − middle, exponent), and the right-hand side of the normal equations
    p_level = total + 1.0 / VAGUE**2
    p_exponent = sum(w * (x - centre) ** 2 for w, x in zip(weights, xs, strict=True)) + 1.0 / exponent_sd**2
    pulled = exponent / exponent_sd**2 + sum(
        w * (x - centre) * (y - middle) for w, x, y in zip(weights, xs, ys, strict=True)
    )
    # about their weighted mean the two are independent, so the matrix is diagonal
    return Rating(
        centre=centre,
        level=middle,
        exponent=pulled / p_exponent,
        var_level=1.0 / p_level,
        var_exponent=1.0 / p_exponent,
        seen=len(seen),
    )


def carry(rating: Rating, *, flow_m3_s: float) -> Carried:
    """Carry a rating to a flow; the spread grows with the distance from what was seen."""
    away = math.log(FLOW_M3_S.check("flow_m3_s", flow_m3_s)) - rating.centre
    variance = rating.var_level + away * away * rating.var_exponent + SCATTER**2
    return Carried(math.exp(rating.level + rating.exponent * away), math.sqrt(variance))
