"""The parts that a rig is given where the angler does not say: fly, hook, tippet, tag, float, pace of the tip."""

from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.water import roughness
from deriva.core.tackle.beads import LADDER_MM
from deriva.core.tackle.flies import DressingClass, Fly, fly_body
from deriva.core.tackle.floats import DRIES, INDICATORS, Float
from deriva.core.tackle.food import offer
from deriva.core.tackle.materials import TIN
from deriva.core.tackle.tippet import tippet_for_hook
from deriva.core.water.profile import mean_to_surface
from deriva.core.water.properties import FRESH_KG_M3, GRAVITY_M_S2
from deriva.core.water.warmth import HATCH_FROM_C, STONEFLY_BELOW_C

DROWNS = 0.15
"""A dry drowns from here on: how broken the water is, times what the dry lacks to ride it (common practice, no source)."""


DRY_LONGEST_M = 1.6
"""Longest dropper that can be cast and turned over under a dry, m (0.7-1.4 m in use; common practice)."""


CARRY_MARGIN = 1.4
"""A float should carry this many times its settled load, so that a touch does not take it under (common practice)."""


TWO_FLY_DEPTH_M = 0.6


DROPPER_SPACING_M = 0.45


HEAVIEST_DROPPER_MM = 2.5


RELATED, OTHER = 0.95, 0.85
"""What a fly of a kindred form, and one of another form, is worth beside the one wanted (common practice, no source)."""


DROPPER_TAG_M = 0.12
"""Tag that a dropper hangs from, m (10-15 cm in use; common practice, no source)."""


HOOK_FOR_BEAD = {2.0: 16, 2.5: 16, 3.0: 14, 3.5: 12, 4.0: 10}
"""Hook that a bead of each size sits on (common practice, no source)."""


ROUGH_M_S = 0.7


ROUGH = 0.4
ROUGH_FLOAT_MM = 13.0


FAR_M = 12.0
"""In water as broken as this, or further off, a smaller float is not seen (common practice, no source)."""


FINEST_X = 7
EVERYDAY_X = (5, 6)
SLOW_M_S, HEAVY_M_S = 0.25, 1.0
CLEAR_M = 2.0
LARGE_HOOK = 10
"""5X to 6X is the everyday range with 3 to 4 mm beads; finer in clear slow water, 4X for large flies in heavy or coloured water
(common practice, no source)."""


def hook_for(situation: Situation, bead_mm: float) -> int:
    """Return the hook for a bead: a size smaller in low clear water, a size larger in high or coloured water."""
    nearest = min(HOOK_FOR_BEAD, key=lambda b: abs(b - bead_mm))
    hook = HOOK_FOR_BEAD[nearest]
    if (
        situation.water.flow_class in ("below_normal", "much_below_normal")
        and situation.water.clarity_m > 1.0
    ):
        return hook + 2
    if situation.water.clarity_m < 0.5:
        return hook - 2
    return hook


def fitting_hook(hook: int, bead_mm: float) -> int:
    """Return the hook nearest to one asked for that takes a bead: a large fly may have a small one, not the other way round."""
    nearest = min(HOOK_FOR_BEAD, key=lambda b: abs(b - bead_mm))
    return min(HOOK_FOR_BEAD[nearest] + 2, hook)


def wanted_fly(situation: Situation, bead_mm: float) -> Fly:
    """Return the point fly that the water and the signs ask for, in words and numbers: slim where it must sink fast,
    worm-like where water is high.
    """
    water = situation.water
    hook = hook_for(situation, bead_mm)
    dressing: DressingClass = (
        "slim" if water.surface_speed_m_s >= ROUGH_M_S or water.clarity_m > 2.5 else "dubbed"
    )
    seen = offer(situation.fish.rises, situation.fish.found)
    if seen is not None:
        return Fly(seen.form, fitting_hook(seen.hook, bead_mm), bead_mm, seen.dressing)
    if _high(situation):
        hook = fitting_hook(LARGE_HOOK, bead_mm)
        return Fly("bright-collar stonefly nymph", hook, bead_mm, "dubbed")
    if situation.fish.species.strip().lower() == "grayling":
        return Fly("shrimp", hook, bead_mm, "dubbed")
    if situation.fish.level in ("mid", "surface"):
        return Fly("soft-hackle pupa", hook, bead_mm, "soft")
    if water.temperature_c < STONEFLY_BELOW_C:  # larger food, worth the effort
        return Fly("stonefly nymph", fitting_hook(LARGE_HOOK, bead_mm), bead_mm, "dubbed")
    return Fly(
        "slim varnished nymph" if dressing == "slim" else "dubbed mayfly nymph", hook, bead_mm, dressing
    )


def _high(situation: Situation) -> bool:
    return situation.water.flow_class in ("above_normal", "much_above_normal")


def wanted_dropper(situation: Situation) -> Fly:
    """Return the upper fly that is asked for, of another size and form than the point: a worm in high water, an egg with the
    large stonefly of the coldest, else a pupa, small in clear water (common practice, no source).
    """
    water = situation.water
    if _high(situation):
        return Fly("worm", LARGE_HOOK, 2.0, "soft")
    if water.temperature_c < STONEFLY_BELOW_C:
        return Fly("egg", 14, 2.0, "soft")
    hook = 18 if water.clarity_m > CLEAR_M else 16
    return Fly(
        "soft-hackle pupa" if water.temperature_c >= HATCH_FROM_C else "midge pupa", hook, 2.0, "dubbed"
    )


def likeness(fly: Fly, wanted: Fly) -> float:
    """Return 0..1, how well a fly stands for the one wanted: by form, dressing and size of hook (common practice, no
    source).
    """
    form = (
        1.0
        if fly.form == wanted.form
        else RELATED
        if fly.form.split()[-1] == wanted.form.split()[-1]
        else OTHER
    )
    dressing = 1.0 if fly.dressing == wanted.dressing else 0.95
    return form * dressing * max(0.8, 1.0 - 0.03 * abs(fly.hook - wanted.hook))


def point_fly(situation: Situation, bead_mm: float) -> Fly:
    """Return the point fly on a bead: the one wanted, or from a box of flies the likest to it."""
    wanted = wanted_fly(situation, bead_mm)
    box = situation.box
    if box is None or box.flies is None:
        return wanted
    there = [fly for fly in box.flies if fly.bead_mm == bead_mm]
    return max(there, key=lambda fly: likeness(fly, wanted), default=wanted)


def dropper_fly(situation: Situation) -> Fly | None:
    """Return the upper fly: the one wanted, or from a box of flies the likest of the light ones; None where it has none."""
    wanted = wanted_dropper(situation)
    box = situation.box
    if box is None or box.flies is None:
        return wanted
    light = [fly for fly in box.flies if (fly.bead_mm or 0.0) <= HEAVIEST_DROPPER_MM]
    return max(light, key=lambda fly: likeness(fly, wanted), default=None)


def tippet_x(situation: Situation, hook: int) -> int:
    """Return the tippet: by the hook within the everyday 5X to 6X; a size finer in slow or clear water that is not fast, a size
    heavier for large flies in heavy water; 4X to 7X.
    """
    water = situation.water
    x = min(EVERYDAY_X[1], max(EVERYDAY_X[0], tippet_for_hook(hook=hook)))
    if water.surface_speed_m_s < SLOW_M_S or (
        water.clarity_m > CLEAR_M and water.surface_speed_m_s < ROUGH_M_S
    ):
        x += 1
    if hook <= LARGE_HOOK and (water.surface_speed_m_s >= HEAVY_M_S or water.clarity_m < 0.5):
        x -= 1
    return min(FINEST_X, max(4, x))


def beads(situation: Situation) -> tuple[float, ...]:
    """Return the beads to be had: the box's, or the whole ladder."""
    return LADDER_MM if situation.box is None else situation.box.weighted


def weight_n(point: Fly, dropper: Fly | None, shot_g: float) -> float:
    """Return what flies and shot pull down with in still water, N."""
    total = (1.0 - FRESH_KG_M3 / TIN) * shot_g / 1000.0
    for fly in (point, dropper):
        if fly is not None:
            body = fly_body(fly, along_m=1.0)
            total += body.mass_kg - FRESH_KG_M3 * body.displaced_m3
    return total * GRAVITY_M_S2


def floats(situation: Situation, kind: RigKind) -> tuple[Float, ...]:
    """Return the floats or dries to be had, smallest first, leaving out those that could not be seen."""
    box = situation.box
    if kind == "dry_dropper":
        broken = roughness(situation.water)
        owned = tuple(d for d in DRIES if box is None or d.name in box.dries)
        riding = tuple(d for d in owned if broken * (1.0 - d.rides) < DROWNS)
        return riding if box is None else riding or owned
    rough = roughness(situation.water) >= ROUGH or situation.place.distance_m > FAR_M
    return tuple(
        f
        for f in INDICATORS
        if (box is None or f.size_mm in box.floats_mm) and (not rough or f.size_mm >= ROUGH_FLOAT_MM)
    )


def tip_pace(situation: Situation) -> float:
    """Return the share of the surface speed at which the tip leaves the line plumb; the leading school adds 0.05.

    The line is carried by the mean current: the plumb pace lies 0.03 above that, since the line thins out below
    (0.86 at depth/ks 9, by steady drifts over paces). An undertow carries it faster than the bubbles.
    """
    column = situation.water.column()
    mean = mean_to_surface(depth_m=column.depth_m, bed_ks_m=column.bed_ks_m, profile=column.profile)
    return round(mean + 0.03 + (0.05 if situation.school.pace == "lead" else 0.0), 2)


def dropper_tag(situation: Situation) -> float:
    """Return the tag of the upper fly, m: none where it sits on the line, as a heavy one that anchors the rig does."""
    school = situation.school
    return DROPPER_TAG_M if school.tied == "tag" and school.heavy == "point" else 0.0


def hangs(spacing_m: float | None, setting_m: float) -> bool:
    """Return whether two flies so far apart leave as much line again above them; one fly always does."""
    return spacing_m is None or 2.0 * spacing_m <= setting_m + 1e-9
