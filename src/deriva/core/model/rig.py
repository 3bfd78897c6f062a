"""A rig as set, written out in full: nothing about it is left to a default elsewhere."""

from dataclasses import dataclass
from typing import Annotated, Literal

from deriva.core.check import check
from deriva.core.errors import Impossible
from deriva.core.ranges import DEPTH_SETTING_M, SHOT_G, SPACING_M, TAG_M, TIP_PACE
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.floats import Float
from deriva.core.tackle.tippet import TIPPET_X

RigKind = Literal["euro", "indicator", "dry_dropper"]
RIG_KINDS: tuple[RigKind, ...] = ("euro", "indicator", "dry_dropper")
NAMES: dict[RigKind, str] = {"euro": "Euro", "indicator": "Indicator", "dry_dropper": "Dry-dropper"}

ENDS_M = 0.05
"""Line left above and below a dropper's knot at the least, m: the knots themselves."""


@dataclass(frozen=True, slots=True)
class Rig:
    """A rig as set. ``depth_setting_m``: euro, tippet from sighter to point fly; the others, float to point fly.

    The dropper hangs from a tag of ``dropper_tag_m`` at its knot, or sits on the line where that is 0. ``tip_pace`` is a tight
    line's, as a share of the surface speed.
    """

    kind: RigKind
    depth_setting_m: Annotated[float, DEPTH_SETTING_M]
    point: Fly
    dropper: Fly | None
    dropper_spacing_m: Annotated[float, SPACING_M] | None
    tippet_x: Annotated[int, TIPPET_X]
    shot_g: Annotated[float, SHOT_G] = 0.0
    float_: Float | None = None
    tip_pace: Annotated[float, TIP_PACE] = 0.86
    dropper_tag_m: Annotated[float, TAG_M] = 0.0

    def __post_init__(self) -> None:
        """Check every number, and that the parts belong to the kind of rig and fit on its line."""
        check(self)
        if (self.float_ is None) != (self.kind == "euro"):
            raise Impossible(
                f"a {self.kind} rig {'takes no' if self.kind == 'euro' else 'needs a'} float", field="rig"
            )
        spacing = self.dropper_spacing_m
        if self.dropper is not None and (spacing is None or spacing > self.depth_setting_m - ENDS_M):
            raise Impossible(
                f"dropper_spacing_m = {spacing} does not fit on a depth setting of {self.depth_setting_m:g} m",
                field="dropper_spacing_m",
            )

    @property
    def flies(self) -> int:
        """Number of hooks on the rig; the dry of a dry-dropper is one."""
        return 1 + (self.dropper is not None) + (self.kind == "dry_dropper")
