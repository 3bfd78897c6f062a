"""The parts that a rig is given where the angler does not say: fly, hook, tippet, tag, float, pace of the tip."""

from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.water import WaterKind, roughness
from deriva.core.rigs.offers import CLEAR_M, COLOURED_M, LARGE_HOOK, ROUGH_M_S, SLOW_M_S, is_low_and_clear
from deriva.core.tackle.beads import LADDER_MM
from deriva.core.tackle.flies import Fly, fly_body
from deriva.core.tackle.floats import DRIES, INDICATORS, Float
from deriva.core.tackle.materials import TIN
from deriva.core.tackle.tippet import tippet_for_hook
from deriva.core.water.profile import mean_to_surface
from deriva.core.water.properties import FRESH_KG_M3, GRAVITY_M_S2
from deriva.core.water.warmth import HATCH_FROM_C

DROWNS = 0.15
"""A dry drowns from here on: how broken the water is, times what the dry lacks to ride it (common practice, no source)."""


DRY_LONGEST_M = 1.6
"""Longest dropper that can be cast and turned over under a dry, m (0.7-1.4 m in use; common practice)."""


CARRY_MARGIN = 1.4
"""A float should carry this many times its settled load, so that a touch does not take it under (common practice)."""


TWO_FLY_DEPTH_M = 0.6
"""Below this depth one fly is enough (common practice, no source)."""


DROPPER_SPACING_M = 0.45


DROPPER_TAG_M = 0.12
"""Tag that a dropper hangs from, m (10-15 cm in use; common practice, no source)."""


ROUGH = 0.4
ROUGH_FLOAT_MM = 13.0


FAR_M = 12.0
"""In water as broken as this, or further off, a smaller float is not seen (common practice, no source)."""


FINEST_X = 7
EVERYDAY_X = (5, 6)
HEAVY_M_S = 1.0
"""5X to 6X is the everyday range with 3 to 4 mm beads; finer in clear slow water, 4X for large flies in heavy or coloured water
(common practice, no source)."""


def tippet_x(situation: Situation, hook: int) -> int:
    """Return the tippet: by the hook within the everyday 5X to 6X; a size finer in slow or clear water that is not fast and for
    fish that refuse, a size heavier for large flies in heavy water; 4X to 7X.
    """
    water = situation.water
    x = min(EVERYDAY_X[1], max(EVERYDAY_X[0], tippet_for_hook(hook=hook)))
    if water.surface_speed_m_s < SLOW_M_S or (
        water.clarity_m > CLEAR_M and water.surface_speed_m_s < ROUGH_M_S
    ):
        x += 1
    if situation.fish.refusing:
        x += 1
    if hook <= LARGE_HOOK and (water.surface_speed_m_s >= HEAVY_M_S or water.clarity_m < COLOURED_M):
        x -= 1
    return min(FINEST_X, max(4, x))


def one_fly_will_do(situation: Situation) -> bool:
    """Return whether a second nymph has no place of its own: in thin water, and in pockets, which pull two apart."""
    return situation.water.depth_m < TWO_FLY_DEPTH_M or situation.water.kind == "pocket"


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


SEASON_DRIES: tuple[tuple[tuple[int, ...], tuple[WaterKind, ...], str], ...] = (
    ((5, 6), ("riffle", "run", "pocket", "pool_head", "seam", "bank_edge"), "size 8 foam stonefly"),
    (
        (7, 8, 9),
        ("riffle", "run", "tail_out", "seam", "bank_edge", "undercut", "weed_channel"),
        "size 10 foam hopper",
    ),
)
"""What lies on the water at a season: large stoneflies in early summer over broken water, hoppers in late summer where there
are banks (common practice, no source). Months of the northern year."""


def season_dry(situation: Situation) -> str | None:
    """Return the dry of the season here; None where there is none, and for fish that look twice."""
    water = situation.water
    if is_low_and_clear(situation) or water.temperature_c < HATCH_FROM_C:
        return None
    here = (
        name
        for months, kinds, name in SEASON_DRIES
        if situation.northern_month in months and water.kind in kinds
    )
    return next(here, None)


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


def outweighed(rig: Rig, situation: Situation) -> bool:
    """Return whether the upper fly is heavier than the point fly for an angler whose heaviest is at the point; beside a point
    with little or no bead the smallest of the ladder is none that weighs.
    """
    if rig.dropper is None or situation.school.heavy == "first":
        return False
    return (rig.dropper.bead_mm or 0.0) > max(rig.point.bead_mm or 0.0, LADDER_MM[0])


def hangs(spacing_m: float | None, setting_m: float) -> bool:
    """Return whether two flies so far apart leave as much line again above them; one fly always does."""
    return spacing_m is None or 2.0 * spacing_m <= setting_m + 1e-9
