"""Surface speed from a bubble timed over a known distance."""

import math
from dataclasses import dataclass

from deriva.core.ranges import BUBBLE_DISTANCE_M, BUBBLE_TIME_S, SURFACE_SPEED_M_S

THUMB_ERROR_S = 0.25
"""Error of starting and stopping by thumb, s (common practice, no source)."""

DISTANCE_ERROR = 0.08
"""Relative error of a distance laid off with a rod or by eye (common practice, no source)."""

BY_EYE_ERROR = 0.20
"""Relative error of a surface speed that was typed and not timed (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class TimedSpeed:
    """A surface speed and its standard error, m/s."""

    speed_m_s: float
    error_m_s: float


def bubble_speed(*, distance_m: float, seconds: float) -> TimedSpeed:
    """Return the surface speed from ``seconds`` over ``distance_m``; errors of thumb and distance add in quadrature."""
    BUBBLE_DISTANCE_M.check("bubbles.distance_m", distance_m)
    BUBBLE_TIME_S.check("bubbles.seconds", seconds)
    speed = SURFACE_SPEED_M_S.check("surface_speed_m_s", distance_m / seconds)
    relative = math.hypot(math.sqrt(2.0) * THUMB_ERROR_S / seconds, DISTANCE_ERROR)
    return TimedSpeed(speed_m_s=speed, error_m_s=speed * relative)
