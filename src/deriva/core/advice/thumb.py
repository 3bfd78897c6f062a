"""The rule of thumb's own answer, to stand beside the computed one (common practice, no source)."""

from deriva.core.advice.situation import Situation
from deriva.core.rigs.spec import SIGHTER_CLEARANCE_M, RigKind

SLOW_M_S, FAST_M_S = 0.25, 0.7


def depth_setting(situation: Situation, rig: RigKind) -> tuple[float, float]:
    """Return the depth setting that common practice gives, as a band, m.

    Euro: tippet about as long as the water is deep. Indicator: 1.5-2 × depth in fast water, falling to about 1 × in
    slow (about 1 × everywhere in the other school). Dry-dropper: 20 cm in 45 cm of water, 75 cm in 1.05 m,
    70-140 cm on flats of 1-2 m.
    """
    depth, speed = situation.water.depth_m, situation.water.surface_speed_m_s
    if rig == "euro":
        return depth, depth + SIGHTER_CLEARANCE_M
    if rig == "indicator":
        fast = min(1.0, max(0.0, (speed - SLOW_M_S) / (FAST_M_S - SLOW_M_S)))
        if situation.school.depth == "depth":
            fast = 0.0
        return (0.95 + 0.55 * fast) * depth, (1.1 + 0.9 * fast) * depth
    return 0.45 * depth, 0.72 * depth
