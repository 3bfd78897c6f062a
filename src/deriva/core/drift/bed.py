"""Touches: where a fly runs into the stones of the bed, how hard, and what that is likely to end in.

The bed is a row of stones whose tops stand at heights about the D84 of its class, the same row every time. A fly touches
while its underside is lower than the top of the stone that it passes; touches closer together than a hand can tell are one.
"""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from deriva.core.water.profile import stone_height

Array = NDArray[np.float64]
TouchKind = Literal["tick", "drag"]

SPACING = 1.6
"""Stones stand this many D84 apart (stated here)."""

LOWEST, TALLEST = 0.5, 1.1
"""Tops of the stones, as shares of D84 (stated here)."""

LOOK_S = 0.01
APART_S = 0.25
"""Touches closer than this feel as one (common practice, no source)."""

TICK_S = 0.4
"""A touch as short as this is a tick; a longer one is a fly that drags (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Touch:
    """A touch of the bed: which body, when and where it begins, for how long, how deep among the stones (a share of their
    height), how fast the fly runs against them, and the chance that it hangs up.
    """

    body: int
    kind: TouchKind
    t_s: float
    x_m: float
    lasts_s: float
    depth_share: float
    speed_m_s: float
    hang_chance: float


def stone_tops(x_m: Array, *, bed_ks_m: float) -> Array:
    """Return the height of the stone's top at each place along the bed, m above its foot."""
    d84 = stone_height(bed_ks_m=bed_ks_m)
    number = np.floor(x_m / (SPACING * d84))
    scattered = np.abs(np.sin(number * 12.9898) * 43758.5453) % 1.0
    tops: Array = d84 * (LOWEST + (TALLEST - LOWEST) * scattered)
    return tops


def touches(
    t_s: Array,
    x_m: Array,
    height_m: Array,
    *,
    body: int,
    diameter_m: float,
    bed_ks_m: float,
    hang_rate_per_m: float,
) -> tuple[Touch, ...]:
    """Return the touches of one body along its path: times, places, heights of its middle over the bed.

    A fly that has found its way between the stones hangs up at ``hang_rate_per_m`` times how far and how deep it is
    dragged among them.
    """
    t = np.arange(t_s[0], t_s[-1] + 1e-9, LOOK_S)
    x, height = np.interp(t, t_s, x_m), np.interp(t, t_s, height_m)
    tops = stone_tops(x, bed_ks_m=bed_ks_m)
    under = height - 0.5 * diameter_m
    inside = np.clip((tops - under) / tops, 0.0, 1.0)
    hits = np.nonzero(inside > 0.0)[0]
    if len(hits) == 0:
        return ()
    found: list[Touch] = []
    for run in np.split(hits, np.nonzero(np.diff(hits) * LOOK_S > APART_S)[0] + 1):
        first, last = int(run[0]), int(run[-1])
        lasts = float(t[last] - t[first]) + LOOK_S
        moved = np.abs(np.diff(x, prepend=x[0]))[run]
        deep = float((inside[run] * moved).sum())
        found.append(
            Touch(
                body=body,
                kind="tick" if lasts <= TICK_S else "drag",
                t_s=float(t[first]),
                x_m=float(x[first]),
                lasts_s=lasts,
                depth_share=float(inside[run].max()),
                speed_m_s=float(abs(x[last] - x[first]) / max(lasts - LOOK_S, LOOK_S)),
                hang_chance=1.0 - math.exp(-hang_rate_per_m * deep),
            )
        )
    return tuple(found)
