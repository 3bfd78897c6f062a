"""A rig as it is written down: in a card, on a screen, in the log. Plain words and numbers."""

from dataclasses import dataclass
from typing import Annotated

from deriva.core.check import Checked
from deriva.core.model.rig import Rig
from deriva.core.ranges import (
    BEAD_MM,
    DEPTH_SETTING_M,
    FLIES,
    LEAD_M,
    SHOT_G,
    SPACING_M,
    TAG_M,
    TIP_PACE,
    Text,
)
from deriva.core.tackle.flies import HOOK
from deriva.core.tackle.tippet import TIPPET_X


@dataclass(frozen=True, slots=True, kw_only=True)
class DrySetup(Checked):
    """A single dry as it is tied on: nothing of it sinks, so there is neither a depth nor a weight to set."""

    float_: Annotated[str, Text(least=1)]
    tippet_x: Annotated[int, TIPPET_X]


@dataclass(frozen=True, slots=True, kw_only=True)
class Setup(Checked):
    """The rig as set, in full; ``lead_m`` is how far upstream of the fish its flies must land, where that is known.

    ``point_hook`` None: a log that was taken in does not say.
    """

    flies: Annotated[int, FLIES]
    point_bead_mm: Annotated[float, BEAD_MM] | None
    point_form: Annotated[str, Text()]
    point_hook: Annotated[int, HOOK] | None
    point_dressing: Annotated[str, Text()]
    dropper_form: Annotated[str, Text()] | None
    dropper_hook: Annotated[int, HOOK] | None
    dropper_bead_mm: Annotated[float, BEAD_MM] | None
    depth_setting_m: Annotated[float, DEPTH_SETTING_M]
    dropper_spacing_m: Annotated[float, SPACING_M] | None
    dropper_tag_m: Annotated[float, TAG_M] = 0.0
    tippet_x: Annotated[int, TIPPET_X]
    shot_g: Annotated[float, SHOT_G]
    float_: Annotated[str, Text()] | None
    tip_pace: Annotated[float, TIP_PACE] | None
    lead_m: Annotated[float, LEAD_M] | None

    @staticmethod
    def of(rig: Rig, *, lead_m: float | None = None) -> "Setup":
        """Return a rig written out in full."""
        dropper = rig.dropper
        return Setup(
            flies=rig.flies,
            point_bead_mm=rig.point.bead_mm,
            point_form=rig.point.words,
            point_hook=rig.point.hook,
            point_dressing=rig.point.dressing,
            dropper_form=dropper.words if dropper else None,
            dropper_hook=dropper.hook if dropper else None,
            dropper_bead_mm=dropper.bead_mm if dropper else None,
            depth_setting_m=rig.depth_setting_m,
            dropper_spacing_m=rig.dropper_spacing_m,
            dropper_tag_m=rig.dropper_tag_m,
            tippet_x=rig.tippet_x,
            shot_g=rig.shot_g,
            float_=rig.float_.name if rig.float_ else None,
            tip_pace=rig.tip_pace if rig.float_ is None else None,
            lead_m=None if lead_m is None else LEAD_M.clamp(lead_m),
        )
