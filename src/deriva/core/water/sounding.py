"""How well a depth is known, by how it was taken."""

from typing import Literal

from deriva.core.ranges import Range

DepthHow = Literal["eye", "line", "staff", "drifts", "flow"]

DEPTH_ERROR: dict[DepthHow, float] = {"eye": 0.25, "line": 0.10, "staff": 0.05, "drifts": 0.15, "flow": 0.15}
"""Relative standard error: judged by eye, found by touching with a known length of line, or read off a wading staff
(common practice, no source; by eye depth is the thing most often misjudged). ``drifts``: what the touches of some drifts say,
where they do not say how surely. ``flow``: not seen, but carried to the flow of
the day along the lie's rating, which learns nothing from it."""


EYE_ERROR = Range(0.05, 1.0, "of the depth", "a staff to no idea")
"""How far off an eye may be found to be."""


def depth_sd(*, depth_m: float, how: DepthHow) -> float:
    """Return the standard deviation of a depth, m, by how it was taken."""
    return DEPTH_ERROR[how] * depth_m
