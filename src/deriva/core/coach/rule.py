"""The rule of thumb, spelled out, to stand beside the coach and to be raced against it (common practice, no source)."""

from collections.abc import Sequence
from dataclasses import dataclass

from deriva.core.coach.evidence import TICK_RUN
from deriva.core.model.logged import HANGS, TOUCHES, LoggedDrift
from deriva.core.ranges import DEPTH_SETTING_M
from deriva.core.tackle.beads import LADDER_MM, ladder_step

DEEPER_M, SHALLOWER_M = 0.10, 0.05
CLEAN_RUN, HUNG_OF, HUNG, PACE_RUN = 6, 4, 2, 6


@dataclass(frozen=True, slots=True)
class Thumb:
    """What the rule of thumb would do: the rig after it, and why."""

    action: str
    depth_setting_m: float
    point_bead_mm: float | None
    reason: str


def rule_of_thumb(drifts: Sequence[LoggedDrift]) -> Thumb:
    """Return the rule's next step from the drifts at the rig that is on, counted since it was last changed.

    No touch in the last six: 10 cm deeper. Two hang-ups in the last four: 5 cm shallower. Touches on each of the last four:
    one bead lighter, or 5 cm shallower where there is none. Float not slower than the bubbles for six: one bead heavier.
    """
    rig = drifts[-1].rig
    setting, bead = rig.depth_setting_m, rig.point.bead_mm
    here: list[LoggedDrift] = []
    for one in reversed(drifts):
        if (one.rig.depth_setting_m, one.rig.point.bead_mm) != (setting, rig.point.bead_mm):
            break
        here.append(one)
    recent = here[:HUNG_OF]
    if sum(one.outcome in HANGS for one in recent) >= HUNG:
        shorter = DEPTH_SETTING_M.clamp(round(setting - SHALLOWER_M, 2))
        return Thumb("shallower", shorter, bead, "Two hang-ups in the last four: 5 cm shallower.")
    if len(here) >= TICK_RUN and all(one.outcome in TOUCHES for one in here[:TICK_RUN]):
        lighter = None if bead is None else ladder_step(bead, -1)
        if lighter is not None and bead is not None and lighter < bead:
            return Thumb("lighter", setting, lighter, "A touch on each of the last four: one bead lighter.")
        shorter = DEPTH_SETTING_M.clamp(round(setting - SHALLOWER_M, 2))
        return Thumb("shallower", shorter, bead, "A touch on each of the last four: 5 cm shallower.")
    run = here[:PACE_RUN]
    if (
        len(here) >= PACE_RUN
        and rig.float_ is not None
        and all(one.pace in ("same", "faster") for one in run)
    ):
        heavier = LADDER_MM[0] if bead is None else ladder_step(bead, 1)
        if bead is None or heavier > bead:
            return Thumb(
                "heavier", setting, heavier, "Not slower than the bubbles for six drifts: one bead heavier."
            )
    if len(here) >= CLEAN_RUN and not any(one.outcome in TOUCHES for one in here[:CLEAN_RUN]):
        longer = DEPTH_SETTING_M.clamp(round(setting + DEEPER_M, 2))
        return Thumb("deeper", longer, bead, "No touch in the last six drifts: 10 cm deeper.")
    return Thumb("hold", setting, bead, "A touch now and then is right: hold.")
