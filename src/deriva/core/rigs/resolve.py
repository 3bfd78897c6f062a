"""From what an angler sets to the whole rig, within the rules of the beat and what a float carries."""

from dataclasses import replace

from deriva.core.errors import Impossible
from deriva.core.model.quantity import grams, plain
from deriva.core.model.rig import NAMES, Rig
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.rigs.offers import dropper_fly, point_fly, trailing_fly
from deriva.core.rigs.parts import (
    CARRY_MARGIN,
    DROPPER_SPACING_M,
    dropper_tag,
    floats,
    tip_pace,
    tippet_x,
    weight_n,
)
from deriva.core.rigs.rules import broken
from deriva.core.tackle.beads import LADDER_MM, ORDINARY_MM
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.floats import DRIES, INDICATORS, Float

TOO_HEAVY = "tuning.point_bead_mm"
"""The field that is named where a rig would pull its float under."""


def _carried(carrier: Float, point: Fly, dropper: Fly | None, shot_g: float) -> None:
    """Raise Impossible, saying what would be right, where the rig would pull its float or dry under."""
    load = weight_n(point, dropper, shot_g)
    if load <= carrier.carries_n:
        return
    lighter = [
        mm for mm in LADDER_MM if weight_n(replace(point, bead_mm=mm), dropper, shot_g) <= carrier.carries_n
    ]
    larger = [f for f in (DRIES if carrier.kind == "dry" else INDICATORS) if f.carries_n >= load]
    ways = [f"a bead up to {lighter[-1]:g} mm"] if lighter else []
    ways += [f"the {larger[0].name}"] if larger else []
    bead = "none" if point.bead_mm is None else f"{point.bead_mm:g}"
    said = (
        f"tuning.point_bead_mm = {bead}: this rig weighs {grams(load)} in water and the {carrier.name} "
        f"carries {grams(carrier.carries_n)}. Take {' or '.join(ways) or 'less shot'}."
    )
    raise Impossible(plain(said), field=TOO_HEAVY)


def _tuned_flies(tuning: Tuning, situation: Situation, *, two: bool) -> tuple[Fly, Fly | None]:
    """Return the point fly, and the dropper of two."""
    point = point_fly(situation, tuning.point_bead_mm)
    if not two:
        return point, None
    first = situation.school.heavy == "first"
    if first:
        upper = trailing_fly(situation, tuning.point_bead_mm)
    else:
        light_mm = tuning.point_bead_mm or LADDER_MM[0]
        upper = dropper_fly(situation, tuning.dropper_bead_mm) or dropper_fly(situation, point_mm=light_mm)
    if upper is None:
        raise Impossible("tuning.flies: the box holds no light fly for the dropper", field="tuning.flies")
    if first:
        return upper, point_fly(situation, tuning.dropper_bead_mm or ORDINARY_MM)
    return point, replace(upper, bead_mm=tuning.dropper_bead_mm or upper.bead_mm)


def resolve(tuning: Tuning, situation: Situation) -> Rig:
    """Return the full rig for a tuning. Raises Impossible for an unknown float, a rig that the rules of the
    beat forbid, or one heavier than its float or dry.
    """
    fixed = 2 if tuning.rig == "dry_dropper" else 1
    flies = fixed if tuning.flies is None else tuning.flies
    if not fixed <= flies <= fixed + 1:
        raise Impossible(
            f"tuning.flies = {flies}: a {NAMES[tuning.rig]} here has {fixed} or {fixed + 1}",
            field="tuning.flies",
        )
    point, dropper = _tuned_flies(tuning, situation, two=flies > fixed)
    carrier = None
    if tuning.rig != "euro":
        choices = DRIES if tuning.rig == "dry_dropper" else INDICATORS
        if tuning.float_ is not None:
            carrier = next((f for f in choices if f.name == tuning.float_), None)
            if carrier is None:
                names = ", ".join(f.name for f in choices)
                raise Impossible(
                    f"tuning.float = {tuning.float_!r} is not one of: {names}", field="tuning.float"
                )
        else:
            need = CARRY_MARGIN * weight_n(point, dropper, tuning.shot_g)
            seen = floats(situation, tuning.rig) or choices
            carrier = next((f for f in seen if f.carries_n >= need), seen[-1])
    if carrier is not None:
        _carried(carrier, point, dropper, tuning.shot_g)
    spacing = None
    if dropper is not None:
        wanted = tuning.dropper_spacing_m or DROPPER_SPACING_M
        spacing = min(wanted, round(tuning.depth_setting_m / 2.0, 2))
    heavy_hook = min(fly.hook for fly in (point, dropper) if fly is not None)
    tag = 0.0
    if dropper is not None:
        tag = dropper_tag(situation) if tuning.dropper_tag_m is None else tuning.dropper_tag_m
    rig = Rig(
        kind=tuning.rig,
        depth_setting_m=tuning.depth_setting_m,
        point=point,
        dropper=dropper,
        dropper_spacing_m=spacing,
        dropper_tag_m=tag,
        tippet_x=tippet_x(situation, heavy_hook) if tuning.tippet_x is None else tuning.tippet_x,
        shot_g=tuning.shot_g,
        float_=carrier,
        tip_pace=tuning.tip_pace if tuning.tip_pace is not None else tip_pace(situation),
    )
    forbidden = broken(rig, situation.rules)
    if forbidden is not None:
        part, why = forbidden
        raise Impossible(plain(f"tuning.{part} = {getattr(rig, part)}: {why}"), field=f"tuning.{part}")
    return rig
