"""The chance that a drift touches the bed at all: where the highest stone that it passes meets the lowest that it runs.

A settled fly does not run at one height: casts differ, the current lifts and drops it, and with a tight line the hand that
holds the tip moves up and down by more than both.
"""

import math

from deriva.core._jit import jit

HIGHEST = 1.3
"""The highest of the tens of stones that a drift passes, in D84 of the bed: the stones' sizes scatter by about a third either
way (stated here)."""

STONES_LN = 0.3
"""How much the stones of one bed differ in height, as a standard deviation of its logarithm: about a third either way (stated
here). D84 is what 84 in 100 are smaller than (by definition), one such deviation above the middle one."""

EDDY_M = 0.025
"""What eddies near the bed lift and drop a fly by, m: 2 to 3 cm, one standard deviation (stated here)."""

DIPS_M = 0.045
"""How far below its mean a fly dips once in a drift, m: of the fifteen eddies or so that it meets in ten seconds the strongest
does nearly twice what they do (stated here)."""

CAST_SHARE, SWAY_M = 0.045, 0.02
"""What one drift runs higher or lower than another in the same lane: a share of the depth by the cast, and metres by the
current (common practice, no source)."""

HAND_M = 0.04
"""Standard deviation of the height that a hand holds a rod tip at, m: within 8 cm nineteen times in twenty (stated here)."""


@jit
def _share_below(deviations: float) -> float:
    """Kernel: the share of a bell that lies below so many standard deviations."""
    return 0.5 * (1.0 + math.erf(deviations / math.sqrt(2.0)))


@jit
def height_spread(depth: float, tip: bool) -> float:
    """Kernel: standard deviation of the height that a fly runs at, m, from drift to drift."""
    cast = CAST_SHARE * depth
    hand = HAND_M if tip else 0.0
    return math.sqrt(cast * cast + SWAY_M * SWAY_M + hand * hand)


@jit
def touch_chance(under: float, tops: float, spread: float, grounded: bool) -> float:
    """Kernel: 0..1, the chance that a drift touches, by the height of a fly's underside over the bed and of its stones, m."""
    if grounded:
        return 1.0
    return _share_below((HIGHEST * tops + DIPS_M - under) / spread)


OVER_ALL = 3.0
"""Times D84 that hardly one stone in a million is as high as: what runs above is not reckoned."""

LESS_HIGH = math.exp(STONES_LN + 0.5 * STONES_LN * STONES_LN)
"""Mean of D84 over a stone's height (log-normal, by definition)."""


@jit
def _inside(under: float, tops: float) -> float:
    """Kernel: the mean of 1 - under / top over the stones that stand higher than a height (log-normal, in closed form)."""
    if under <= 0.0:
        return 1.0
    if under >= OVER_ALL * tops:
        return 0.0
    higher = math.log(tops / under) / STONES_LN - 1.0
    return max(0.0, _share_below(higher) - under / tops * LESS_HIGH * _share_below(higher - STONES_LN))


@jit
def deep_as_met(under: float, tops: float, grounded: bool) -> float:
    """Kernel: 0..1, how deep a body runs among the stones that a drift meets, by its underside over the bed and their D84, m.

    Over their sizes, and with eddies that lift and drop it all the while, also where it lies on the bed (Gauss-Hermite rule of
    two).
    """
    low = 0.0 if grounded else max(0.0, under)
    return 0.5 * (_inside(low - EDDY_M, tops) + _inside(low + EDDY_M, tops))
