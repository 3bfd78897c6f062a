"""The rule of thumb's own answer, to stand beside the computed one (common practice, no source)."""

from itertools import pairwise

from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Situation
from deriva.core.rigs.assemble import SIGHTER_CLEARANCE_M

SLOW_M_S, FAST_M_S = 0.25, 0.7

DRY_DROPPER_M = ((0.0, 0.0), (0.45, 0.20), (1.05, 0.75), (2.0, 1.4))
"""Depth of the water and length below the dry in use there, m: 20 cm in 45 cm, 75 cm in a 1.05 m pool, 0.7-1.4 m on
flats of 1-2 m (common practice, no source); straight lines between."""

DRY_DROPPER_SPREAD = 0.15
"""What anglers differ by either way, as a share (common practice, no source)."""


def _below_the_dry(depth_m: float) -> float:
    for (d0, l0), (d1, l1) in pairwise(DRY_DROPPER_M):
        if depth_m <= d1:
            return l0 + (l1 - l0) * (depth_m - d0) / (d1 - d0)
    return DRY_DROPPER_M[-1][1]


def customary_setting(
    situation: Situation, rig: RigKind, *, above_point_m: float = 0.0
) -> tuple[float, float]:
    """Return the depth setting that common practice gives, as a band, m.

    Under a float it is told to the first fly or weight, which sits ``above_point_m`` above the point.

    Euro: tippet about as long as the water is deep. Indicator: 1.5-2 × depth in fast water, falling to about 1 × in
    slow (about 1 × everywhere in one school). Dry-dropper: by depth, see :data:`DRY_DROPPER_M`.
    """
    depth, speed = situation.water.depth_m, situation.water.surface_speed_m_s
    if rig == "euro":
        return depth, depth + SIGHTER_CLEARANCE_M
    if rig == "indicator":
        fast = min(1.0, max(0.0, (speed - SLOW_M_S) / (FAST_M_S - SLOW_M_S)))
        if situation.school.depth == "depth":
            fast = 0.0
        return (0.95 + 0.55 * fast) * depth + above_point_m, (1.1 + 0.9 * fast) * depth + above_point_m
    length = _below_the_dry(depth)
    return (1.0 - DRY_DROPPER_SPREAD) * length, (1.0 + DRY_DROPPER_SPREAD) * length
