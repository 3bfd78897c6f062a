"""The three rigs, each written out in full: nothing about a rig as set is left to a default elsewhere."""

import math
from dataclasses import dataclass, replace
from typing import Literal

from deriva.core.drift.scenario import MAX_TAG_M, Body, LineSection, Scenario, Top, Water
from deriva.core.errors import Impossible
from deriva.core.ranges import DEPTH_SETTING_M, TIP_HEIGHT_M, Range
from deriva.core.tackle.flies import Fly, fly_body
from deriva.core.tackle.floats import Float
from deriva.core.tackle.materials import FLUOROCARBON, NYLON
from deriva.core.tackle.tippet import tippet_diameter

RigKind = Literal["euro", "indicator", "dry_dropper"]
RIG_KINDS: tuple[RigKind, ...] = ("euro", "indicator", "dry_dropper")

SIGHTER_DIAMETER_M = 0.00022
SIGHTER_CLEARANCE_M = 0.15
"""Lower end of the sighter above the water: in the water it would drag the flies along (common practice)."""

TIP_HEIGHT = 1.3
"""Height of the rod tip over the water in a tight-line drift, m (common practice, no source)."""

TAG_M = Range(0.0, MAX_TAG_M, "m", "0 on the line; 10-15 cm in use; common practice, no source")

SHOT_DENSITY = 7_310.0
"""Tin, kg/m³: lead is banned in many places."""

SHOT_ABOVE_FLY_M = 0.20
"""Shot above the upper fly, m (15-25 cm in use; common practice)."""


@dataclass(frozen=True, slots=True)
class Rig:
    """A rig as set. ``depth_setting_m``: euro, tippet from sighter to point fly; the others, float to point fly.

    The dropper hangs from a tag of ``dropper_tag_m`` at its knot, or sits on the line where that is 0.
    """

    kind: RigKind
    depth_setting_m: float
    point: Fly
    dropper: Fly | None
    dropper_spacing_m: float | None
    tippet_x: int
    shot_g: float = 0.0
    float_: Float | None = None
    tip_pace: float = 0.86
    dropper_tag_m: float = 0.0

    def __post_init__(self) -> None:
        """Check that the parts belong to the kind of rig and fit on its line."""
        DEPTH_SETTING_M.check("depth_setting_m", self.depth_setting_m)
        if (self.float_ is None) != (self.kind == "euro"):
            raise Impossible(
                f"a {self.kind} rig {'takes no' if self.kind == 'euro' else 'needs a'} float", field="rig"
            )
        if self.dropper is not None:
            spacing = self.dropper_spacing_m
            if spacing is None or not 0.05 <= spacing <= self.depth_setting_m - 0.05:
                raise Impossible(
                    f"dropper_spacing_m = {spacing} does not fit on a depth setting of {self.depth_setting_m:g} m",
                    field="dropper_spacing_m",
                )
            TAG_M.check("dropper_tag_m", self.dropper_tag_m)

    @property
    def flies(self) -> int:
        """Number of hooks on the rig; the dry of a dry-dropper is one."""
        return 1 + (self.dropper is not None) + (self.kind == "dry_dropper")


def shot_body(*, mass_g: float, along_m: float) -> Body:
    """Return a round tin shot as a body on the line."""
    volume = mass_g / 1000.0 / SHOT_DENSITY
    return Body(along_m=along_m, mass_kg=mass_g / 1000.0, diameter_m=(6.0 * volume / math.pi) ** (1.0 / 3.0))


def assemble(rig: Rig, water: Water, *, pace_error: float = 0.0) -> Scenario:
    """Hang the rig in the water: the scenario that the drift solvers take. The point fly is the first body.

    ``pace_error`` is what the hand misses the rig's tip pace by, as a share of the surface speed.
    """
    tippet = LineSection(rig.depth_setting_m, tippet_diameter(x=rig.tippet_x), FLUOROCARBON)
    if rig.float_ is None:
        height = TIP_HEIGHT_M.check("tip_height_m", TIP_HEIGHT)
        upper = LineSection(height - SIGHTER_CLEARANCE_M, SIGHTER_DIAMETER_M, NYLON)
        line: tuple[LineSection, ...] = (upper, tippet)
        top = Top(
            "tip", height_m=height, speed_m_s=max(0.0, rig.tip_pace + pace_error) * water.surface_speed_m_s
        )
    else:
        line = (tippet,)
        top = Top("float", mass_kg=rig.float_.mass_kg, drag_area_m2=rig.float_.drag_area_m2)
    end = sum(section.length_m for section in line)
    bodies = [fly_body(rig.point, along_m=end)]
    lowest_knot = end
    if rig.dropper is not None and rig.dropper_spacing_m is not None:
        lowest_knot = end - rig.dropper_spacing_m
        hung = fly_body(rig.dropper, along_m=lowest_knot)
        if rig.dropper_tag_m > 0.0:
            hung = replace(hung, tag_m=rig.dropper_tag_m, tag_diameter_m=tippet.diameter_m)
        bodies.append(hung)
    if rig.shot_g > 0.0:
        bodies.append(shot_body(mass_g=rig.shot_g, along_m=max(0.05, lowest_knot - SHOT_ABOVE_FLY_M)))
    return Scenario(water, top, line, tuple(bodies))
