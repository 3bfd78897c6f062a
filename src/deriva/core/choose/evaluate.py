"""What one rig does in one situation, averaged over what is not known about it."""

import math
from dataclasses import dataclass
from typing import NamedTuple

from deriva.core.choose.zone import Zone, strike_zone
from deriva.core.choose.zone_time import over_scatter, time_in_zone, with_dry
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.search import ROUGHLY, UNKNOWN, Near
from deriva.core.drift.sinking import FLOAT_SHAPE, TIP_SHAPE, Sinking, share_sunk, sinking
from deriva.core.drift.steady import SteadyDrift, steady_drift
from deriva.core.drift.touching import height_spread, touch_chance
from deriva.core.model.column import Column
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.water import Water, WaterKind
from deriva.core.rigs.assemble import assemble
from deriva.core.rigs.hung import Hung, as_hung, family, hung, off_pace
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

LEAST_SHEAR = 0.05
"""No two currents are more alike (common practice, no source)."""

MENDED_SLACK_M = 2.5
"""Line that mending and slack feed out before the float drags, m (common practice, no source)."""

FLOAT_CAST_M = 20.0
"""Longest line that is cast with a float, m: as far as a take is seen and struck (common practice, no source)."""

ASLANT_DEG = 45.0
"""The fish lies so far upstream of straight across; a tight line is led on as far downstream (common practice, no source)."""

HANG_RATE_PER_M: dict[BedKind, float] = {"sand": 0.03, "gravel": 0.15, "cobble": 0.30, "boulder": 0.50}
"""Hang-ups a metre of a fly that is dragged deep among the stones of a bed: they go by stones met, a slow drift hangs no more
often than a fast one (stated here; common practice, no source)."""

ROOTS_FACTOR = 1.5
"""Roots and sunken wood hold what stones let go (common practice, no source)."""

ROCKY_LANE_M = 4.0
"""A current between rocks that stand in it runs no further (common practice, no source)."""

FELT_FACTOR = 0.5
"""A tight line feels the bed and is lifted: half the hang-ups (common practice, no source)."""

PACE_ERROR = (-0.08, 0.0, 0.08)
"""What a hand misses the ideal pace of the tip by, as shares of the surface speed (common practice, no source)."""


WIDE = 0.6
"""Where the share in the zone may be anything over so wide a span, the span says nothing (stated here)."""


@dataclass(frozen=True, slots=True)
class Evaluation:
    """A rig judged in a situation. Shares and chances are means over the samples; ``low``/``high`` span the depths from their
    10th to their 90th percentile.

    ``steady`` and the other depths are for the depth believed; ``load_n`` is the settled pull on the float, ``drift_m``
    the length of drift that can be fished, ``touch_chance`` that of a drift to touch the
    bed, ``fly_pace`` the best fly's speed over that of the water around it. ``lead_m`` is no further than can be cast from
    here (``castable_m``); ``in_time`` is 1 where the flies are down before the fish from there, less the more that is wanting.
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
    castable_m: float
    hang_chance: float
    touch_chance: float
    fly_pace: float
    load_n: float
    drift_m: float
    drift_s: float
    best_fly: int
    in_time: float

    @property
    def is_first_setting(self) -> bool:
        """Whether the depth is not known well enough to promise anything: then what to do next says more than a span."""
        return self.zone_share_high - self.zone_share_low > WIDE

    @property
    def passes_s(self) -> float | None:
        """When flies that landed as far above a fish as they should come to it, s after landing; None where none is reached."""
        if self.lead_m is None or self.drift_s <= 0.0:
            return None
        return min(self.drift_s, self.lead_m * self.drift_s / self.drift_m)

    @property
    def carry(self) -> float:
        """How many times the settled load the float or dry could carry; inf for a tight line."""
        if self.rig.float_ is None:
            return math.inf
        return self.rig.float_.carries_n / max(self.load_n, 1e-9)


def hang_rate(rig: Rig, situation: Situation) -> float:
    """Return the hang-ups a metre of a fly deep among stones or roots: half on a tight line, which feels them and is lifted."""
    snags = ROOTS_FACTOR if "roots" in situation.place.cover else 1.0
    return HANG_RATE_PER_M[situation.water.bed] * snags * (FELT_FACTOR if rig.float_ is None else 1.0)


def cross_shear(water: Water) -> float:
    """Return by what share the water under the line differs in speed from the lane: as read, or as is usual for its kind."""
    if water.under_line_ratio is None:
        return CROSS_SHEAR[water.kind]
    return max(LEAST_SHEAR, abs(water.under_line_ratio - 1.0))


def _cast_up_m(distance_m: float, longest_m: float) -> tuple[float, float]:
    """Return how far upstream of straight across a cast reaches in the fish's lane, and how far the fish lies, m."""
    across = distance_m * math.sin(math.radians(90.0 - ASLANT_DEG))
    fish = distance_m * math.cos(math.radians(90.0 - ASLANT_DEG))
    return math.sqrt(max(0.0, longest_m**2 - across**2)), fish


def castable_m(situation: Situation, kind: RigKind) -> float:
    """Return how far upstream of the fish the flies can be cast and kept in hand, m; a metre at least: they can be flicked."""
    longest = situation.rod.tight_cast_m if kind == "euro" else FLOAT_CAST_M
    up, fish = _cast_up_m(situation.place.distance_m, max(longest, situation.place.distance_m + 1.0))
    return max(1.0, up - fish)


def fishable_m(situation: Situation, kind: RigKind) -> float:
    """Return the length of drift, m, that can be fished before the lane ends, the reach runs out or line drags."""
    lane = LANE_M[situation.water.kind]
    if "rocks" in situation.place.cover:
        lane = min(lane, ROCKY_LANE_M)
    if kind == "euro":
        distance = situation.place.distance_m
        _, fish = _cast_up_m(distance, situation.rod.tight_cast_m)
        return min(lane, castable_m(situation, kind) + 2.0 * fish)
    return min(lane, MENDED_SLACK_M / cross_shear(situation.water))


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


class Worth(NamedTuple):
    """What a settled rig is worth in one column: the share of the drift in the zone before it is likely to hang up, over the
    scatter of casts, and the chances that a drift hangs up and that it touches.
    """

    useful: float
    hung: float
    touch: float


@dataclass(frozen=True, slots=True)
class Settle:
    """How a rig is settled in one column of a lie's water: by the search, or, where marches are ``kept``, by those of its
    family, which is quicker without a compiler. Where they cannot be read off, they say where to search.
    """

    kept: bool

    def __call__(self, rig: Rig, water: Water, column: Column, pace_error: float = 0.0) -> Hung:
        """Settle a rig with the hand's error of pace. Raises :class:`NotConverged`."""
        found = None
        if self.kept and pace_error == 0.0:
            found = hung(rig, water, column)
        elif self.kept:
            found = off_pace(rig, water, column, pace_error)
        return found or as_hung(rig, column, self.solved(rig, water, column, pace_error)[1])

    def solved(
        self, rig: Rig, water: Water, column: Column, pace_error: float = 0.0
    ) -> tuple[Scenario, SteadyDrift]:
        """Settle a rig by the search, and return what was settled with it. Raises :class:`NotConverged`."""
        scenario = assemble(rig, column, pace_error=pace_error)
        return scenario, steady_drift(scenario, near=self._near(rig, water, column, pace_error))

    def _near(self, rig: Rig, water: Water, column: Column, pace_error: float) -> Near:
        if not self.kept:
            return UNKNOWN
        # a tip that lags may hold a light fly high up, far from where one that does not lets it down
        if pace_error < 0.0:
            return UNKNOWN._replace(within=ROUGHLY)
        return family(rig, water.bed, water.temperature_c).near(rig, column)


SOLVED, READ_OFF = Settle(kept=False), Settle(kept=True)


def worth_in(rig: Rig, situation: Situation, column: Column, one: Hung, *, drift_m: float) -> Worth:
    """Return what a settled rig is worth in one column, over ``drift_m`` metres of drift."""
    depth, tip = column.depth_m, rig.float_ is None
    zone = strike_zone(situation.fish, depth_m=depth, temperature_c=situation.water.temperature_c)
    kin = family(rig, situation.water.bed, situation.water.temperature_c)
    lowest = depth if one.grounded else max(0.0, depth - one.low_m)
    upper = -1.0 if rig.dropper is None else max(0.0, depth - one.upper_m)
    tau = kin.tau_s(rig.depth_setting_m, max(lowest, upper), column.surface_speed_m_s)
    shape = TIP_SHAPE if tip else FLOAT_SHAPE
    pace_m_s = max(0.02, one.pace * column.surface_speed_m_s)
    duration = drift_m / pace_m_s
    tops, spread = stone_height(bed_ks_m=column.bed_ks_m), height_spread(depth, tip)
    useful, hangs = over_scatter(
        lowest, upper, depth, zone.low_m, zone.high_m, tau, shape, duration, kin.radius_m, tops,
        hang_rate(rig, situation) * pace_m_s, one.grounded, spread, False,
    )  # fmt: skip
    if rig.kind == "dry_dropper" and zone.reaches(depth):
        useful = with_dry(useful, duration)
    # the point fly is the lowest; a drift that is too short to let it settle does not get as far down
    under = depth - lowest * share_sunk(duration, tau, shape) - kin.radius_m
    return Worth(min(1.0, useful / duration), hangs, touch_chance(under, tops, spread, one.grounded))


@dataclass(frozen=True, slots=True)
class Tried:
    """A rig in one column of water, with the hand's error of pace: what it does there and what that is worth.

    ``best`` is the fly that spends longest in the zone, ``enters_s`` when it does so first.
    """

    scenario: Scenario
    steady: SteadyDrift
    sinking: Sinking
    zone: Zone
    best: int
    enters_s: float
    stays_s: float
    duration_s: float
    worth: Worth


def tried(
    rig: Rig,
    situation: Situation,
    column: Column,
    *,
    drift_m: float,
    pace_error: float = 0.0,
    settle: Settle = SOLVED,
) -> Tried:
    """Settle a rig in one column by the search and reckon its time in the strike zone there."""
    zone = strike_zone(situation.fish, depth_m=column.depth_m, temperature_c=situation.water.temperature_c)
    scenario, steady = settle.solved(rig, situation.water, column, pace_error)
    curve = sinking(scenario, steady)
    pace_m_s = max(0.02, steady.top_speed_ratio * column.surface_speed_m_s)
    duration = drift_m / pace_m_s
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
    return Tried(
        scenario=scenario,
        steady=steady,
        sinking=curve,
        zone=zone,
        best=best,
        enters_s=enters,
        stays_s=stays,
        duration_s=duration,
        worth=worth_in(rig, situation, column, as_hung(rig, column, steady), drift_m=drift_m),
    )


def share_at(rig: Rig, situation: Situation, *, depth_m: float, surface_speed_m_s: float) -> float:
    """Return the share of the drift in the zone in water of one depth and speed, over a hand's errors of pace."""
    column = situation.water.column(depth_m, surface_speed_m_s)
    drift_m = fishable_m(situation, rig.kind)
    errors = PACE_ERROR if rig.float_ is None else (0.0,)
    return sum(
        worth_in(rig, situation, column, SOLVED(rig, situation.water, column, e), drift_m=drift_m).useful
        for e in errors
    ) / len(errors)


def evaluate(rig: Rig, situation: Situation, settle: Settle = SOLVED) -> Evaluation:
    """Judge ``rig`` over five equally likely depths, each with a speed, and for a tight line the hand's error of pace too. In
    the water believed it is always solved.
    """
    water = situation.water
    drift_m = fishable_m(situation, rig.kind)
    errors = PACE_ERROR if rig.float_ is None else (0.0,)
    waters = list(zip(water.depths(), water.speeds(), strict=True))
    middle = len(waters) // 2
    believed = tried(rig, situation, water.column(*waters[middle]), drift_m=drift_m, settle=settle)
    seen: list[list[Worth]] = []
    for k, (depth, speed) in enumerate(waters):
        column = water.column(depth, speed)
        seen.append(
            [
                believed.worth
                if k == middle and e == 0.0
                else worth_in(rig, situation, column, settle(rig, water, column, e), drift_m=drift_m)
                for e in errors
            ]
        )
    every = [one for row in seen for one in row]
    by_depth = [sum(one.useful for one in row) / len(row) for row in seen]
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
        lead_m=None if lead is None else min(lead, castable_m(situation, rig.kind)),
        castable_m=castable_m(situation, rig.kind),
        in_time=1.0 if not lead else min(1.0, castable_m(situation, rig.kind) / lead),
        hang_chance=sum(one.hung for one in every) / len(every),
        touch_chance=sum(one.touch for one in every) / len(every),
        fly_pace=pace_of_fly(steady, believed.scenario, best),
        load_n=steady.tension_n * math.cos(math.radians(steady.top_angle_deg)),
        drift_m=drift_m,
        drift_s=believed.duration_s,
        best_fly=best,
    )
