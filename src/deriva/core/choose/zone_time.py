"""What one settled rig is worth in one column: kernels that the close look and the wide sweep over settings share."""

import math

from deriva.core._jit import jit
from deriva.core.drift.sinking import SETTLED, time_to
from deriva.core.drift.touching import deep_as_met

ENDS = 0.4
"""Share of the hang-ups that end the drift: most are lifted out of (common practice, no source)."""

DRY_COUNTS = 0.5
"""Of two flies that fish, a dry that is itself in the zone is worth this share of the drift, the nymph the rest."""


@jit
def time_in_zone(
    settled: float, depth: float, low: float, high: float, tau: float, shape: float, duration: float
) -> tuple[float, float]:
    """Kernel: (seconds until a fly enters the zone, seconds that it spends there before the drift ends)."""
    if settled <= 0.0:
        return math.inf, 0.0
    enters = time_to((depth - high) / settled, tau, shape)
    leaves = time_to((depth - low) / settled, tau, shape) if low > 0.0 else math.inf
    return enters, max(0.0, min(leaves, duration) - enters)


@jit
def with_dry(useful: float, duration: float) -> float:
    """Kernel: seconds in the zone of a dry that fishes all the while and a nymph that does for ``useful`` seconds."""
    return DRY_COUNTS * duration + (1.0 - DRY_COUNTS) * useful


@jit
def among(under: float, tops: float, grounded: bool) -> float:
    """Kernel: 0..1, how deep a settled body runs among stones that all stand ``tops`` high, by its underside over the bed."""
    if grounded:
        return 1.0
    return min(1.0, max(0.0, 1.0 - under / tops))


@jit
def until_hung(stays: float, rate: float, tau: float, shape: float, duration: float) -> tuple[float, float]:
    """Kernel: (seconds in the zone before a hang-up ends the drift, chance that there is one), dragging at a rate a second.

    Most hang-ups are lifted out of, and the drift goes on; of the others, what is left is the expected time until then.
    """
    if rate <= 0.0:
        return stays, 0.0
    dragging = max(0.0, duration - time_to(SETTLED, tau, shape))
    ends = ENDS * rate
    until = -math.expm1(-ends * dragging) / ends  # of next to no rate it is all of the dragging
    return max(0.0, stays - (dragging - until)), -math.expm1(-rate * dragging)


NODES, SIDE = 1.7320508, 1.0 / 6.0
"""Gauss-Hermite rule of three: so many standard deviations either way, and the weight of each side (by definition)."""


@jit
def over_scatter(
    lowest: float,
    upper: float,
    depth: float,
    low: float,
    high: float,
    tau: float,
    shape: float,
    duration: float,
    radius: float,
    tops: float,
    rate: float,
    grounded: bool,
    spread: float,
    as_met: bool,
) -> tuple[float, float]:
    """Kernel: (seconds in the zone, chance to hang up) of a drift whose flies run higher or lower than they settle, with a
    standard deviation ``spread``.

    ``lowest`` and ``upper`` are the settled depths of the flies (the upper below nought where there is none), ``radius`` the
    lower one's, ``rate`` how often it hangs up a second where it is dragged deep among stones that stand ``tops`` high: all so
    high, as one plans, or ``as_met``, as a log of drifts has to be read.
    """
    useful = hung = 0.0
    for k in range(3):
        off = (k - 1) * NODES * spread
        weight = SIDE if k != 1 else 1.0 - 2.0 * SIDE
        down = depth if grounded else min(depth, lowest + off)
        lies = grounded or down >= depth - radius
        stays = time_in_zone(down, depth, low, high, tau, shape, duration)[1]
        if upper > 0.0:
            stays = max(
                stays, time_in_zone(min(depth, upper + off), depth, low, high, tau, shape, duration)[1]
            )
        under = depth - down - radius
        deep = deep_as_met(under, tops, lies) if as_met else among(under, tops, lies)
        in_zone, hangs = until_hung(stays, rate * deep, tau, shape, duration)
        useful += weight * in_zone
        hung += weight * hangs
    return useful, hung
