"""A judged rig as it is written down and drawn: plain numbers for a screen, a file or a wire."""

import math
from dataclasses import dataclass
from itertools import accumulate, pairwise
from typing import Literal

from deriva.core.choose.evaluate import Evaluation
from deriva.core.model.rig import Rig

Part = Literal["point", "dropper", "shot"]
TopMark = Literal["float", "dry", "tip"]


@dataclass(frozen=True, slots=True)
class Point:
    """A point of the picture: x downstream from the top end, height above the bed."""

    x_m: float
    height_m: float


@dataclass(frozen=True, slots=True)
class Hung:
    """A fly or shot in the picture; ``knot`` is the point of the line that it, or its tag, is tied in at."""

    part: Part
    knot: int
    x_m: float
    height_m: float
    size_mm: float


@dataclass(frozen=True, slots=True)
class Picture:
    """The settled rig to scale, at the depth believed; the first ``sighter_points`` of the line are the sighter."""

    depth_m: float
    zone_low_m: float
    zone_high_m: float
    top: TopMark
    top_size_mm: float
    sighter_points: int
    line: tuple[Point, ...]
    bodies: tuple[Hung, ...]


def parts(rig: Rig) -> list[Part]:
    """Return what the bodies of an assembled rig are, in their order."""
    dropper: list[Part] = ["dropper"] if rig.dropper is not None else []
    shot: list[Part] = ["shot"] if rig.shot_g > 0.0 else []
    return ["point", *dropper, *shot]


def top_mark(rig: Rig) -> TopMark:
    """Return what the top end of a rig is drawn as."""
    return "tip" if rig.float_ is None else "dry" if rig.kind == "dry_dropper" else "float"


def _sighter_points(e: Evaluation) -> int:
    """Count the nodes of the settled line, from the tip down, that lie on its first section."""
    if e.rig.float_ is not None:
        return 0
    nodes = zip(e.steady.shape_x_m, e.steady.shape_height_m, strict=True)
    lengths = accumulate(math.dist(a, b) for a, b in pairwise(nodes))
    return 1 + sum(length <= e.scenario.line[0].length_m + 1e-6 for length in lengths)


def picture(e: Evaluation) -> Picture:
    """Return the settled rig of an evaluation, to scale."""
    depth = e.scenario.water.depth_m
    return Picture(
        depth_m=depth,
        zone_low_m=e.zone.low_m,
        zone_high_m=e.zone.high_m,
        top=top_mark(e.rig),
        top_size_mm=e.rig.float_.size_mm if e.rig.float_ else 0.0,
        sighter_points=_sighter_points(e),
        line=tuple(Point(x, z) for x, z in zip(e.steady.shape_x_m, e.steady.shape_height_m, strict=True)),
        bodies=tuple(
            Hung(part, knot, x, depth - down, 1000.0 * body.diameter_m)
            for part, knot, x, down, body in zip(
                parts(e.rig),
                e.steady.body_knot,
                e.steady.body_x_m,
                e.steady.body_depth_m,
                e.scenario.bodies,
                strict=True,
            )
        ),
    )
