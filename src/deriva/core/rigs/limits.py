"""How far the setting of a rig can be moved by hand."""

from dataclasses import dataclass
from functools import lru_cache

from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Situation
from deriva.core.ranges import DEPTH_SETTING_M, Range
from deriva.core.rigs.offers import points, to_tie_on
from deriva.core.rigs.parts import floats
from deriva.core.tackle.beads import LADDER_MM
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.floats import DRIES, INDICATORS

SHORTEST_M = 0.2


LONGEST_SHARE = 2.2


SETTING_STEP_M = 0.05
"""A setting is moved by hand: a few centimetres at a time, up to about twice the depth (common practice, no source)."""


TIPPET_IN_USE = Range(3, 7, "X", "3X to large dries, 7X to midges; common practice, no source")


TIP_PACE = Range(0.0, 1.2, "of the surface speed", "a tip that stands still to one that runs ahead")


@dataclass(frozen=True, slots=True)
class Limits:
    """What an angler can set a rig to here: the beads to be had (None: a fly without), the line below float, m; how many flies
    may be on it, which floats or dries, and the flies that could go to the point.
    """

    beads_mm: tuple[float | None, ...]
    depth_setting_m: Range
    flies: tuple[int, ...]
    floats: tuple[str, ...]
    point_flies: tuple[Fly, ...]
    step_m: float = SETTING_STEP_M
    tippet_x: Range = TIPPET_IN_USE
    tip_pace: Range = TIP_PACE


@lru_cache(maxsize=64)
def limits(situation: Situation, kind: RigKind) -> Limits:
    """Return how far the setting of a rig can be moved by hand here."""
    longest = DEPTH_SETTING_M.clamp(max(1.2, round(LONGEST_SHARE * situation.water.depth_m, 1)))
    fewest = 2 if kind == "dry_dropper" else 1
    there: tuple[str, ...] = ()
    if kind != "euro":
        choices = floats(situation, kind) or (DRIES if kind == "dry_dropper" else INDICATORS)
        there = tuple(one.name for one in choices)
    return Limits(
        beads_mm=points(situation) or LADDER_MM,
        depth_setting_m=Range(SHORTEST_M, longest, "m", "about twice the depth is ample"),
        flies=tuple(n for n in (fewest, fewest + 1) if n <= situation.rules.max_flies),
        floats=there,
        point_flies=to_tie_on(situation),
    )
