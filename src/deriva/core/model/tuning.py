"""A rig as an angler sets it: what is not said is chosen for him."""

from dataclasses import dataclass
from typing import Annotated

from deriva.core.check import Checked
from deriva.core.model.rig import Rig, RigKind
from deriva.core.ranges import BEAD_MM, DEPTH_SETTING_M, FLIES, SHOT_G, SPACING_M, TAG_M, TIP_PACE, Text
from deriva.core.tackle.tippet import TIPPET_X


@dataclass(frozen=True, slots=True)
class Tuning(Checked):
    """A rig as the angler sets it: what is None is chosen as the advisor would."""

    rig: RigKind
    depth_setting_m: Annotated[float, DEPTH_SETTING_M]
    point_bead_mm: Annotated[float, BEAD_MM] | None
    """None: a fly without a bead."""
    flies: Annotated[int, FLIES] | None = None
    dropper_bead_mm: Annotated[float, BEAD_MM] | None = None
    dropper_spacing_m: Annotated[float, SPACING_M] | None = None
    dropper_tag_m: Annotated[float, TAG_M] | None = None
    tippet_x: Annotated[int, TIPPET_X] | None = None
    shot_g: Annotated[float, SHOT_G] = 0.0
    float_: Annotated[str, Text()] | None = None
    tip_pace: Annotated[float, TIP_PACE] | None = None

    @staticmethod
    def of(rig: Rig) -> "Tuning":
        """Return the tuning that says all of a rig: set anew, it is the same one (but for flies chosen by hand)."""
        two = rig.dropper is not None
        return Tuning(
            rig=rig.kind,
            depth_setting_m=rig.depth_setting_m,
            point_bead_mm=rig.point.bead_mm,
            flies=rig.flies,
            dropper_bead_mm=None if rig.dropper is None else rig.dropper.bead_mm,
            dropper_spacing_m=rig.dropper_spacing_m if two else None,
            dropper_tag_m=rig.dropper_tag_m if two else None,
            tippet_x=rig.tippet_x,
            shot_g=rig.shot_g,
            float_=None if rig.float_ is None else rig.float_.name,
            tip_pace=rig.tip_pace if rig.float_ is None else None,
        )
