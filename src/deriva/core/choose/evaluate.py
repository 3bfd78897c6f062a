"""What one rig does in one situation, averaged over what is not known about it."""

import math
from dataclasses import dataclass

from deriva.core.choose.zone import Zone, strike_zone
from deriva.core.choose.zone_time import among, time_in_zone, until_hung, with_dry
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.sinking import Sinking, sinking
from deriva.core.drift.steady import PIECES, SteadyDrift, steady_drift
from deriva.core.model.column import Column
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.water import WaterKind
from deriva.core.rigs.assemble import assemble
from deriva.core.water.profile import BedKind, current_speed, stone_height

LANE_M: dict[WaterKind, float] = {
    "riffle": 6.0,
    "run": 10.0,
    "pool_head": 7.0,
    "pool": 14.0,
    "tail_out": 8.0,
    "glide": 14.0,
    "pocket": 2.5,
    "seam": 8.0,
    "eddy": 4.0,
    "drop_off": 6.0,
    "undercut": 6.0,
    "weed_channel": 6.0,
    "bank_edge": 6.0,
}
"""How far a current lane of each kind of water runs before it changes, m (common practice, no source)."""

CROSS_SHEAR: dict[WaterKind, float] = {
    "riffle": 0.5,
    "run": 0.3,
    "pool_head": 0.5,
    "pool": 0.15,
    "tail_out": 0.3,
    "glide": 0.1,
    "pocket": 1.0,
    "seam": 0.5,
    "eddy": 0.8,
    "drop_off": 0.3,
    "undercut": 0.3,
    "weed_channel": 0.4,
    "bank_edge": 0.4,
}
"""Difference in speed between the lane and the water that the line lies on, as a share (common practice, no source)."""

MENDED_SLACK_M = 2.5
"""Line that mending and slack feed out before the float drags, m (common practice, no source)."""

TIGHT_ARC_M = 6.0
"""Longest drift of a tight line, 45° upstream to 45° downstream at its best reach, m (common practice)."""

HANG_RATE_PER_S: dict[BedKind, float] = {"sand": 0.05, "gravel": 0.15, "cobble": 0.30, "boulder": 0.50}
"""Chance per second that a fly dragging among the stones of a bed hangs up (stated here; common practice, no source)."""

FELT_FACTOR = 0.5
"""A tight line feels the bed and is lifted: half the hang-ups (common practice, no source)."""

PACE_ERROR = (-0.08, 0.0, 0.08)
"""What a hand misses the ideal pace of the tip by, as shares of the surface speed (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Evaluation:
    """A rig judged in a situation. Shares and chances are means over the samples; ``low``/``high`` span the depths from their
    10th to their 90th percentile.

    ``steady`` and the other depths are for the depth believed; ``load_n`` is the settled pull on the float, ``drift_m``
    the length of drift that can be fished, ``touch_share`` the share of the samples in which the fly runs among the
    stones, ``fly_pace`` the best fly's speed over that of the water around it.
    """

    rig: Rig
    scenario: Scenario
    steady: SteadyDrift
    sinking: Sinking
    zone: Zone
    zone_share: float
    zone_share_low: float
    zone_share_high: float
    time_to_zone_s: float | None
    lead_m: float | None
    hang_chance: float
    touch_share: float
    fly_pace: float
    load_n: float
    drift_m: float
    drift_s: float
    best_fly: int

    @property
    def carry(self) -> float:
        """How many times the settled load the float or dry could carry; inf for a tight line."""
        if self.rig.float_ is None:
            return math.inf
        return self.rig.float_.carries_n / max(self.load_n, 1e-9)


def hang_rate(rig: Rig, situation: Situation) -> float:
    """Return the chance a second that a fly among the stones hangs up: half on a tight line, which feels them."""
    return HANG_RATE_PER_S[situation.water.bed] * (FELT_FACTOR if rig.float_ is None else 1.0)


def fishable_m(situation: Situation, kind: RigKind) -> float:
    """Return the length of drift, m, that can be fished before the lane ends, the reach runs out or line drags."""
    lane = LANE_M[situation.water.kind]
    if kind == "euro":
        return min(lane, TIGHT_ARC_M, 2.0 * max(1.0, situation.place.distance_m))
    return min(lane, MENDED_SLACK_M / CROSS_SHEAR[situation.water.kind])


def among_stones(steady: SteadyDrift, scenario: Scenario, body: int) -> float:
    """Return 0..1: how deep a body runs among the stones of the bed, from clear of their tops to lying on the bottom."""
    under = scenario.water.depth_m - steady.body_depth_m[body] - 0.5 * scenario.bodies[body].diameter_m
    return among(under, stone_height(bed_ks_m=scenario.water.bed_ks_m), steady.grounded)


def pace_of_fly(steady: SteadyDrift, scenario: Scenario, body: int) -> float:
    """Return a body's speed over that of the water around it; among the stones, over that at their tops."""
    water = scenario.water
    around = current_speed(
        height_m=max(water.depth_m - steady.body_depth_m[body], stone_height(bed_ks_m=water.bed_ks_m)),
        depth_m=water.depth_m,
        surface_speed_m_s=water.surface_speed_m_s,
        bed_ks_m=water.bed_ks_m,
        profile=water.profile,
    )
    return steady.top_speed_ratio * water.surface_speed_m_s / around


@dataclass(frozen=True, slots=True)
class Sample:
    """A rig in one column of water, with the hand's error of pace: what it does there and what that is worth.

    ``best`` is the fly that spends longest in the zone, ``enters_s`` when it does so first, ``useful`` the share of the
    drift there before the rig is likely to hang up.
    """

    scenario: Scenario
    steady: SteadyDrift
    sinking: Sinking
    zone: Zone
    best: int
    enters_s: float
    stays_s: float
    duration_s: float
    touches: bool
    useful: float
    hung: float


def sample(
    rig: Rig,
    situation: Situation,
    column: Column,
    *,
    drift_m: float,
    pace_error: float = 0.0,
    pieces: int = PIECES,
) -> Sample:
    """Settle a rig, its line in so many pieces, in one column and reckon its time in the strike zone there."""
    zone = strike_zone(
        feeding=situation.fish.level, depth_m=column.depth_m, temperature_c=situation.water.temperature_c
    )
    scenario = assemble(rig, column, pace_error=pace_error)
    steady = steady_drift(scenario, pieces=pieces)
    curve = sinking(scenario, steady)
    duration = drift_m / max(0.02, steady.top_speed_ratio * column.surface_speed_m_s)
    in_zone = [
        time_in_zone(
            steady.body_depth_m[fly],
            column.depth_m,
            zone.low_m,
            zone.high_m,
            curve.tau_s,
            curve.shape,
            duration,
        )
        for fly in range(2 if rig.dropper is not None else 1)  # shot hooks nothing
    ]
    best = max(range(len(in_zone)), key=lambda fly: in_zone[fly][1])
    enters, stays = in_zone[best]
    rate = hang_rate(rig, situation) * among_stones(steady, scenario, 0)  # the point fly is the lowest
    useful, hung = until_hung(stays, rate, curve.tau_s, curve.shape, duration)
    if rig.kind == "dry_dropper" and zone.reaches(column.depth_m):
        useful = with_dry(useful, duration)
    return Sample(
        scenario=scenario,
        steady=steady,
        sinking=curve,
        zone=zone,
        best=best,
        enters_s=enters,
        stays_s=stays,
        duration_s=duration,
        touches=rate > 0.0,
        useful=useful / duration,
        hung=hung,
    )


def share_at(rig: Rig, situation: Situation, *, depth_m: float, surface_speed_m_s: float) -> float:
    """Return the share of the drift in the zone in water of one depth and speed, over a hand's errors of pace."""
    column = situation.water.column(depth_m, surface_speed_m_s)
    drift_m = fishable_m(situation, rig.kind)
    errors = PACE_ERROR if rig.float_ is None else (0.0,)
    return sum(sample(rig, situation, column, drift_m=drift_m, pace_error=e).useful for e in errors) / len(
        errors
    )


def evaluate(rig: Rig, situation: Situation) -> Evaluation:
    """Judge ``rig`` over five equally likely depths, each with a speed, and for a tight line the hand's error of pace too."""
    water = situation.water
    drift_m = fishable_m(situation, rig.kind)
    errors = PACE_ERROR if rig.float_ is None else (0.0,)
    seen = [
        [sample(rig, situation, water.column(depth, speed), drift_m=drift_m, pace_error=e) for e in errors]
        for depth, speed in zip(water.depths(), water.speeds(), strict=True)
    ]
    every = [one for row in seen for one in row]
    by_depth = [sum(one.useful for one in row) / len(row) for row in seen]
    believed = seen[len(seen) // 2][errors.index(0.0)]
    steady, best = believed.steady, believed.best
    reached = math.isfinite(believed.enters_s) and believed.stays_s > 0.0
    lead = None
    if reached:
        sunk = believed.sinking.share_at(believed.enters_s)
        swung_in = 0.0
        if rig.float_ is not None:
            swung_in = (believed.scenario.bodies[best].along_m - max(0.0, steady.offset_m)) * sunk
        lead = believed.enters_s * steady.top_speed_ratio * water.surface_speed_m_s + max(0.0, swung_in)
    return Evaluation(
        rig=rig,
        scenario=believed.scenario,
        steady=steady,
        sinking=believed.sinking,
        zone=believed.zone,
        zone_share=sum(one.useful for one in every) / len(every),
        zone_share_low=min(by_depth),
        zone_share_high=max(by_depth),
        time_to_zone_s=believed.enters_s if reached else None,
        lead_m=lead,
        hang_chance=sum(one.hung for one in every) / len(every),
        touch_share=sum(one.touches for one in every) / len(every),
        fly_pace=pace_of_fly(steady, believed.scenario, best),
        load_n=steady.tension_n * math.cos(math.radians(steady.top_angle_deg)),
        drift_m=drift_m,
        drift_s=believed.duration_s,
        best_fly=best,
    )
