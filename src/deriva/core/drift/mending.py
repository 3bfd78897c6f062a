"""Line on the water across other currents: how long until it drags the float, and what to do about it.

Line lying over a lane that runs faster or slower than the float's is carried into a belly. A belly of depth b over a lane of
width w takes up 8b²/(3w) of line (the length of a flat parabola, any text of mechanics); once that is the slack that was
laid, the float drags.
"""

import math
from dataclasses import dataclass
from typing import Literal

from deriva.core.ranges import Range

Way = Literal["upstream", "downstream"]

LANE_WIDTH_M = Range(0.2, 20.0, "m", "a seam to a river that nobody casts across")
SLACK_M = 0.5
"""Slack laid with the cast and with each mend, m (common practice, no source)."""

NOTICED = 0.02
"""A difference of speed below this share of the float's carries no belly worth a mend (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Mending:
    """Seconds until the float drags, which way to mend, and how many mends a drift takes; None where none is needed."""

    drags_after_s: float | None
    way: Way | None
    mends: int


def mending(
    *,
    float_speed_m_s: float,
    lane_speed_m_s: float,
    lane_width_m: float,
    drift_s: float,
    slack_m: float = SLACK_M,
) -> Mending:
    """Return how a line over a lane of another speed is kept from dragging for ``drift_s``.

    Mend upstream where the lane under the line is faster than the float, downstream where it is slower.
    """
    LANE_WIDTH_M.check("lane_width_m", lane_width_m)
    faster = lane_speed_m_s - float_speed_m_s
    if abs(faster) <= NOTICED * max(float_speed_m_s, 1e-6):
        return Mending(None, None, 0)
    drags = math.sqrt(3.0 * lane_width_m * slack_m / 8.0) / abs(faster)
    # a mend throws the belly to the other side: from then on it has twice as far to go
    mends = 0 if drift_s <= drags else math.ceil((drift_s - drags) / (2.0 * drags))
    return Mending(drags, "upstream" if faster > 0.0 else "downstream", mends)
