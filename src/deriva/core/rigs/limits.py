"""How far the setting of a rig can be moved by hand."""

from dataclasses import dataclass

from deriva.core.model.situation import Situation
from deriva.core.ranges import DEPTH_SETTING_M, Range
from deriva.core.rigs.offers import points
from deriva.core.tackle.beads import LADDER_MM

SHORTEST_M = 0.2


LONGEST_SHARE = 2.2


SETTING_STEP_M = 0.05
"""A setting is moved by hand: a few centimetres at a time, up to about twice the depth (common practice, no source)."""


TIPPET_IN_USE = Range(3, 7, "X", "3X to large dries, 7X to midges; common practice, no source")


TIP_PACE = Range(0.0, 1.2, "of the surface speed", "a tip that stands still to one that runs ahead")


@dataclass(frozen=True, slots=True)
class Limits:
    """What an angler can set a rig to here: the beads to be had (None: a fly without), the line below float, m."""

    beads_mm: tuple[float | None, ...]
    depth_setting_m: Range
    step_m: float = SETTING_STEP_M
    tippet_x: Range = TIPPET_IN_USE
    tip_pace: Range = TIP_PACE


def limits(situation: Situation) -> Limits:
    """Return how far the setting of a rig can be moved by hand here."""
    longest = DEPTH_SETTING_M.clamp(max(1.2, round(LONGEST_SHARE * situation.water.depth_m, 1)))
    return Limits(
        points(situation) or LADDER_MM, Range(SHORTEST_M, longest, "m", "about twice the depth is ample")
    )
