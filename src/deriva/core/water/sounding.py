"""How well a depth is known, by how it was taken."""

from typing import Literal

DepthHow = Literal["eye", "line", "staff"]

DEPTH_ERROR: dict[DepthHow, float] = {"eye": 0.25, "line": 0.10, "staff": 0.05}
"""Relative standard error: judged by eye, found by touching with a known length of line, or read off a wading staff
(common practice, no source; by eye depth is the thing most often misjudged)."""


def depth_sd(*, depth_m: float, how: DepthHow) -> float:
    """Return the standard deviation of a depth, m, by how it was taken."""
    return DEPTH_ERROR[how] * depth_m
