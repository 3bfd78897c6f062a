"""The chance that a drift touches the bed at all: where the highest stone that it passes meets the lowest that it runs.

A settled fly does not run at one height: casts differ, the current lifts and drops it, and with a tight line the hand that
holds the tip moves up and down by more than both.
"""

import math

from deriva.core._jit import jit

HIGHEST = 1.3
"""The highest of the tens of stones that a drift passes, in D84 of the bed: the stones' sizes scatter by about a third either
way (stated here)."""

DIPS_M = 0.045
"""How far below its mean a fly dips once in a drift, m: eddies near the bed lift and drop it by 2 to 3 cm, and of the fifteen
or so that it meets in ten seconds the strongest does nearly twice that (stated here)."""

CAST_SHARE, SWAY_M = 0.045, 0.02
"""What one drift runs higher or lower than another in the same lane: a share of the depth by the cast, and metres by the
current (common practice, no source)."""

HAND_M = 0.04
"""Standard deviation of the height that a hand holds a rod tip at, m: within 8 cm nineteen times in twenty (stated here)."""


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
    return 0.5 * (1.0 + math.erf((HIGHEST * tops + DIPS_M - under) / (spread * math.sqrt(2.0))))
