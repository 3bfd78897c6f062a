"""The rigs worth trying in a situation: every bead, depth setting and float that the box and the rules allow."""

from collections.abc import Iterator
from dataclasses import replace
from itertools import product

from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.ranges import DEPTH_SETTING_M
from deriva.core.rigs.assemble import SIGHTER_CLEARANCE_M
from deriva.core.rigs.limits import SHORTEST_M
from deriva.core.rigs.offers import beads, dropper_fly, point_fly, points, trailing_fly
from deriva.core.rigs.parts import (
    CARRY_MARGIN,
    DROPPER_SPACING_M,
    DRY_LONGEST_M,
    FINEST_X,
    dropper_tag,
    floats,
    hangs,
    one_fly_will_do,
    season_dry,
    tip_pace,
    tippet_x,
    weight_n,
)
from deriva.core.tackle.beads import LADDER_MM, ORDINARY_MM
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.floats import Float

COARSE_SHARES = (0.5, 0.6, 0.7, 0.78, 0.86, 0.94, 1.02, 1.12, 1.25, 1.4, 1.6, 1.85)
FINE_SHARES = (*(0.5 + 0.03 * k for k in range(32)), 1.5, 1.6, 1.7, 1.85)
HIGH_SHARES = (*(0.1 + 0.04 * k for k in range(10)),)
"""Line below the float (or the water, for a tight line) tried, as shares of the depth believed: where each is looked at
closely, and where thousands are swept; and shorter ones for fish that feed off the bed."""


SPACINGS_M = (DROPPER_SPACING_M, 0.30, 0.20)
"""Dropper above the point, m (45-50 cm, 30-45 cm in use); below this depth one fly is enough (common practice)."""

TIP_PACES = (0.0, 0.05)
"""Paces of the tip tried, off the plumb one, as shares of the surface speed."""


TWO_HEAVY_M = 1.2
"""From this depth on the upper fly may be as heavy as an ordinary point (common practice, no source)."""


def _dropper_choices(situation: Situation, kind: RigKind, point: Fly) -> tuple[Fly | None, ...]:
    """Return the upper flies to try above a point fly, which is the heaviest but where the angler has it the other way."""
    hooks_left = situation.rules.max_flies - (2 if kind == "dry_dropper" else 1)
    if hooks_left < 1 or situation.school.flies == "one" or one_fly_will_do(situation):
        return (None,)
    if situation.school.heavy == "first":
        return (trailing_fly(situation) if situation.box is None else dropper_fly(situation),)
    light = dropper_fly(situation, point_mm=point.bead_mm or LADDER_MM[0])
    if light is None or situation.water.depth_m < TWO_HEAVY_M or (point.bead_mm or 0.0) < ORDINARY_MM:
        return (light,)
    heavy = dropper_fly(situation, ORDINARY_MM)
    return (light,) if heavy is None else (light, heavy)


SHOT_SCHOOL_G = (0.1, 0.2, 0.4, 0.8)
LIGHTEST_OF_SHOT_MM = 2.5
"""Shot that is pinched on, g, and the largest bead of a fly that is fished under it (common practice, no source)."""


def _shots(situation: Situation, kind: RigKind, bead_mm: float | None) -> tuple[float, ...]:
    """Return the shot to try, g: weighted flies first; shot only where rules allow and weight is still wanted, on a tight line
    only where that is the angler's school.
    """
    if kind == "dry_dropper" or not situation.rules.added_weight:
        return (0.0,)
    if situation.school.weight == "shot":
        return SHOT_SCHOOL_G if bead_mm is None or bead_mm <= LIGHTEST_OF_SHOT_MM else ()
    if kind == "euro":
        return (0.0,)
    return (0.0, 0.2, 0.4) if bead_mm == max(beads(situation)) else (0.0,)


def settings(situation: Situation, kind: RigKind, *, fine: bool = True) -> tuple[float, ...]:
    """Return the depth settings to try, m, shortest first."""
    clearance = SIGHTER_CLEARANCE_M if kind == "euro" else 0.0
    longest = DRY_LONGEST_M if kind == "dry_dropper" else DEPTH_SETTING_M.hi
    shares = FINE_SHARES if fine else COARSE_SHARES
    if situation.fish.level in ("mid", "surface"):
        shares = (*(HIGH_SHARES if fine else HIGH_SHARES[::2]), *shares)
    wanted = {round(share * situation.water.depth_m + clearance, 2) for share in shares}
    return tuple(sorted(setting for setting in wanted if SHORTEST_M <= setting <= longest))


def _carriers(situation: Situation, kind: RigKind, load_n: float, *, fine: bool) -> tuple[Float | None, ...]:
    """Return the smallest float or dry that carries a load with margin, and the next larger one; none for a tight line."""
    if kind == "euro":
        return (None,)
    able = [one for one in floats(situation, kind) if one.carries_n >= CARRY_MARGIN * load_n]
    of_season = season_dry(situation) if kind == "dry_dropper" else None
    able.sort(key=lambda one: one.name != of_season)  # stable: smallest first else
    return tuple(able[: 2 if fine else 1])


LONGEST_M = DEPTH_SETTING_M.hi
"""The setting that stands in a family: any of its flies hang on it."""


def families(situation: Situation, kind: RigKind, *, fine: bool = True) -> Iterator[Rig]:
    """Yield rigs of one kind that differ in more than the depth setting, each at the longest there is; none where the rules,
    the box or the carrying capacity leave nothing.

    ``fine`` also tries tippet a size finer, flies closer together than usual, the next larger float, and a tip a little
    faster than plumb.
    """
    plumb = tip_pace(situation)
    paces = tuple(round(plumb + off, 2) for off in TIP_PACES) if fine and kind == "euro" else (plumb,)
    for bead_mm in points(situation) if kind != "dry_dropper" else beads(situation):
        point = point_fly(situation, bead_mm)
        usual = tippet_x(situation, point.hook)
        tippets = (usual, usual + 1) if fine and usual < FINEST_X else (usual,)
        for k, upper in enumerate(_dropper_choices(situation, kind, point)):
            closely = fine and k == 0  # a heavy upper fly is tried on the usual tippet, at the usual distance
            first, last = point, upper
            if upper is not None and situation.school.heavy == "first":
                first, last = upper, point
            spacings = (None,) if last is None else SPACINGS_M if k == 0 else SPACINGS_M[:1]
            for shot_g in _shots(situation, kind, bead_mm):
                carriers = _carriers(situation, kind, weight_n(point, upper, shot_g), fine=closely)
                for carrier, spacing, x, pace in product(
                    carriers, spacings, tippets if closely else (usual,), paces if closely else (plumb,)
                ):
                    yield Rig(
                        kind=kind,
                        depth_setting_m=LONGEST_M,
                        point=first,
                        dropper=last,
                        dropper_spacing_m=spacing,
                        dropper_tag_m=0.0 if last is None else dropper_tag(situation),
                        tippet_x=x,
                        shot_g=shot_g,
                        float_=carrier,
                        tip_pace=pace,
                    )


def candidates(situation: Situation, kind: RigKind, *, fine: bool = True) -> Iterator[Rig]:
    """Yield every rig of one kind that is to be tried: each family at each setting on which its flies hang.

    Where not ``fine``, two flies hang as far apart as they fit.
    """
    lengths = settings(situation, kind, fine=fine)
    for family in families(situation, kind, fine=fine):
        for setting in lengths:
            closer = family.dropper_spacing_m is not None and any(
                family.dropper_spacing_m < spacing and 2.0 * spacing <= setting for spacing in SPACINGS_M
            )
            if hangs(family.dropper_spacing_m, setting) and (fine or not closer):
                yield replace(family, depth_setting_m=setting)
