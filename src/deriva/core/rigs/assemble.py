"""The three rigs, each written out in full: nothing about a rig as set is left to a default elsewhere."""

import math
from dataclasses import replace

from deriva.core.drift.scenario import LineSection, Scenario, Top
from deriva.core.model.column import Column
from deriva.core.model.rig import Rig
from deriva.core.ranges import TIP_HEIGHT_M
from deriva.core.tackle.body import Body
from deriva.core.tackle.flies import fly_body
from deriva.core.tackle.materials import FLUOROCARBON, NYLON, TIN
from deriva.core.tackle.tippet import tippet_diameter

SIGHTER_DIAMETER_M = 0.00022
SIGHTER_CLEARANCE_M = 0.15
"""Lower end of the sighter above the water: in the water it would drag the flies along (common practice)."""

TIP_HEIGHT = 1.3
"""Height of the rod tip over the water in a tight-line drift, m (common practice, no source)."""


SHOT_ABOVE_FLY_M = 0.20
"""Shot above the upper fly, m (15-25 cm in use; common practice)."""


def shot_body(*, mass_g: float, along_m: float) -> Body:
    """Return a round tin shot as a body on the line."""
    volume = mass_g / 1000.0 / TIN
    return Body(along_m=along_m, mass_kg=mass_g / 1000.0, diameter_m=(6.0 * volume / math.pi) ** (1.0 / 3.0))


def assemble(rig: Rig, water: Column, *, pace_error: float = 0.0) -> Scenario:
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
