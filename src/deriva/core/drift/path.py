"""One drift as a picture in time: what the rig in hand does at the depth believed, and how long it is in the zone."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from deriva.core.drift.bed import Touch, touches
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.transient import Entry, TipPhase, TransientDrift, transient_drift
from deriva.core.water.profile import PROFILE_CODE, speed_at, z0_of

Array = NDArray[np.float64]
Handling = Literal["dead", "lead", "still"]
"""A rod tip that goes at its own pace; that leads the current; that stands still and lets the sighter pass."""

LONGEST_S = 30.0
LEAD_OUT_S = 1.0

LED_BY = 0.12
"""How much faster than its dead-drift pace a tip leads, as a share of the surface speed (common practice, no source)."""

SWING_S, SWING_LIFT_M_S = 2.5, 0.15
"""A swing: the tip stands still and lifts, for so long and so fast (common practice, no source)."""

SMOOTHED_FRAMES = 5


@dataclass(frozen=True, slots=True)
class Track:
    """What can be read off a drift at every frame (T): the top's pace over the bubbles', the pull on it (N), the sighter's
    angle from plumb, degrees, positive where the tip is downstream (None under a float), and each fly's speed over that of
    the water at its own depth (T, flies; nan where the water stands).
    """

    top_pace: Array
    pull_n: Array
    sighter_deg: Array | None
    fly_pace: Array


@dataclass(frozen=True, slots=True)
class DriftPath:
    """A drift until it ends or drags, with the share of it that any fly was in the strike zone, and its touches.

    ``swing_from_s`` is when a swing begins that follows; ``under_from_s`` when the pull first takes the float under.
    ``reached_m`` is how far the top end had gone when a fly first was in the zone.
    """

    drift: TransientDrift
    track: Track
    touches: tuple[Touch, ...]
    ends_s: float
    in_zone_share: float
    reached_s: float | None
    reached_m: float | None
    swing_from_s: float | None
    under_from_s: float | None


def _phases(scenario: Scenario, handling: Handling, *, ends: float, swing: bool) -> tuple[TipPhase, ...]:
    if scenario.top.kind != "tip":
        return ()
    own, us = scenario.top.speed_m_s, scenario.water.surface_speed_m_s
    pace = {"dead": own, "lead": own + LED_BY * us, "still": 0.0}[handling]
    if not swing:
        return (TipPhase(np.inf, pace),)
    return (TipPhase(ends, pace), TipPhase(np.inf, 0.0, SWING_LIFT_M_S))


def _speed(t: Array, x: Array) -> Array:
    """Return the rate of change of a place over time, evened out over a few frames."""
    if len(t) < 2:
        return np.zeros_like(x)
    wide = min(SMOOTHED_FRAMES, len(t))
    before = (wide - 1) // 2
    rate = np.pad(np.gradient(x, t), (before, wide - 1 - before), mode="edge")
    return np.convolve(rate, np.full(wide, 1.0 / wide), mode="valid")


def _track(scenario: Scenario, drift: TransientDrift, flies: int) -> Track:
    water = scenario.water

    column = (water.depth_m, water.surface_speed_m_s, PROFILE_CODE[water.profile], z0_of(water.bed_ks_m))
    heights = water.depth_m - drift.body_depth_m[:, :flies]
    around = np.array([speed_at(float(z), *column) for z in heights.flat]).reshape(heights.shape)
    speeds = np.stack([_speed(drift.t_s, drift.body_x_m[:, k]) for k in range(flies)], axis=1)
    sighter = None
    if scenario.top.kind == "tip":
        end = int(np.argmin(np.abs(drift.along_m - scenario.line[0].length_m)))
        across = drift.line_x_m[:, 0] - drift.line_x_m[:, end]
        down = drift.line_height_m[:, 0] - drift.line_height_m[:, end]
        sighter = np.degrees(np.arctan2(across, down))
    return Track(
        top_pace=_speed(drift.t_s, drift.top_x_m) / water.surface_speed_m_s,
        pull_n=np.hypot(drift.pull_n[:, 0], drift.pull_n[:, 1]),
        sighter_deg=sighter,
        fly_pace=np.divide(speeds, around, out=np.full_like(speeds, np.nan), where=around > 1e-6),
    )


def drift_path(
    scenario: Scenario,
    *,
    drift_s: float,
    flies: int,
    zone_low_m: float,
    zone_high_m: float,
    hang_rate_per_m: float,
    entry: Entry = "straight",
    handling: Handling = "dead",
    swing: bool = False,
    carries_n: float | None = None,
) -> DriftPath:
    """Run the transient drift for the seconds that can be fished; the first ``flies`` bodies are flies, not shot.

    ``handling`` and ``swing`` are a rod tip's; a float goes its own way.
    """
    ends = min(LONGEST_S, drift_s)
    swings = swing and scenario.top.kind == "tip"
    drift = transient_drift(
        scenario,
        duration_s=ends + (SWING_S if swings else LEAD_OUT_S),
        entry=entry,
        phases=_phases(scenario, handling, ends=ends, swing=swings),
    )
    height = scenario.water.depth_m - drift.body_depth_m[:, :flies]
    inside = np.any((height >= zone_low_m - 1e-9) & (height <= zone_high_m), axis=1)
    first = np.nonzero(inside)[0]
    reached = int(first[0]) if len(first) else None
    fished = drift.t_s <= ends
    felt = [
        touch
        for body in range(flies)
        for touch in touches(
            drift.t_s[fished],
            drift.body_x_m[fished, body],
            scenario.water.depth_m - drift.body_depth_m[fished, body],
            body=body,
            diameter_m=scenario.bodies[body].diameter_m,
            bed_ks_m=scenario.water.bed_ks_m,
            hang_rate_per_m=hang_rate_per_m,
        )
    ]
    under = (
        np.nonzero(drift.pull_n[:, 1] > carries_n)[0] if carries_n is not None else np.array([], dtype=int)
    )
    return DriftPath(
        drift=drift,
        track=_track(scenario, drift, flies),
        touches=tuple(sorted(felt, key=lambda touch: touch.t_s)),
        ends_s=ends,
        in_zone_share=float(np.mean(inside[fished])),
        reached_s=None if reached is None else float(drift.t_s[reached]),
        reached_m=None if reached is None else float(drift.top_x_m[reached]),
        swing_from_s=ends if swings else None,
        under_from_s=float(drift.t_s[under[0]]) if len(under) else None,
    )
