"""Where to fish today: a score for each lie with its reasons, the order of working them, and what each deserves.

The judgements are the trade's, stated as numbers so that they can be read and argued with: common practice, no source.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from deriva.core.model.quantity import qty
from deriva.core.model.situation import Situation
from deriva.core.model.water import WaterKind
from deriva.core.water.appetite import appetite, moves
from deriva.core.water.flow import FlowClass
from deriva.core.water.light import Light
from deriva.core.water.warmth import COLD_FISH_C, LIGHT_FROM_C, WARM_FISH_C

HOLDS: dict[WaterKind, float] = {
    "seam": 1.0, "pool_head": 0.95, "pocket": 0.95, "drop_off": 0.95, "run": 0.9, "undercut": 0.9, "riffle": 0.8,
    "pool": 0.75, "weed_channel": 0.75, "tail_out": 0.7, "glide": 0.65, "eddy": 0.6, "bank_edge": 0.5,
}  # fmt: skip
"""How well a lie of each kind holds feeding fish on an ordinary day: food beside rest is best."""

HIGH: tuple[FlowClass, ...] = ("above_normal", "much_above_normal")
LOW: tuple[FlowClass, ...] = ("below_normal", "much_below_normal")

SOFT_WHEN_HIGH: tuple[WaterKind, ...] = ("bank_edge", "undercut", "eddy", "tail_out", "weed_channel")
FAST: tuple[WaterKind, ...] = ("run", "pool_head", "riffle", "pocket")
COVER_WHEN_LOW: tuple[WaterKind, ...] = ("undercut", "weed_channel", "pocket", "drop_off", "pool_head")
AIRY: tuple[WaterKind, ...] = ("riffle", "pool_head", "pocket")
SLOW_DEEP: tuple[WaterKind, ...] = ("pool", "eddy", "drop_off", "glide")

SMOOTH: tuple[WaterKind, ...] = ("glide", "tail_out", "pool")
SHADED: tuple[WaterKind, ...] = ("undercut", "weed_channel", "bank_edge")
DRIFT_LINES: tuple[WaterKind, ...] = ("seam", "tail_out", "glide", "eddy")

CLEAR_M = 1.0
THIN_M = 0.35

SLOT_M: dict[WaterKind, float] = {
    "pool": 6.0, "glide": 6.0, "run": 4.0, "tail_out": 4.0, "riffle": 4.0, "pool_head": 3.0, "drop_off": 3.0,
    "eddy": 3.0, "weed_channel": 2.0, "seam": 1.5, "undercut": 1.0, "bank_edge": 1.5, "pocket": 1.0,
}  # fmt: skip
"""How wide the water of a lie is that one stance covers, m."""

DRIFTS_A_LANE = 4
LEAST_DRIFTS, MOST_DRIFTS = 5, 30
PRIME, PRIME_DRIFTS = 0.7, 20
"""A prime lie gets twice the drifts in each lane, and 20 to 30 from one stance (common practice, no source)."""

MINUTES_A_DRIFT = 1.2


@dataclass(frozen=True, slots=True)
class Judgement:
    """What a lie is worth today: a score from 0 to 1, the reasons that move it, and the drifts that its lanes deserve."""

    score: float
    reasons: tuple[str, ...]
    lane_m: float
    lanes: int
    drifts: int
    minutes: int

    @property
    def drifts_a_lane(self) -> int:
        """A lane's share of the drifts."""
        return math.ceil(self.drifts / self.lanes)


def _by_flow(kind: WaterKind, flow: FlowClass) -> tuple[float, str | None]:
    if flow in HIGH:
        if kind in SOFT_WHEN_HIGH:
            return 1.4, "soft water out of the push: where fish go when it is high"
        if kind in FAST:
            return 0.4 if flow == "much_above_normal" else 0.6, "too much push to hold fish at this height"
    if flow in LOW:
        if kind in COVER_WHEN_LOW:
            return 1.1, "cover or depth that is left when it is low"
        return 0.85, None
    return 1.0, None


def _by_warmth(kind: WaterKind, temperature_c: float) -> tuple[float, str | None]:
    if temperature_c >= WARM_FISH_C and kind in AIRY:
        return 1.2, "oxygen in broken water, where warm fish move up to"
    if temperature_c >= WARM_FISH_C and kind in SLOW_DEEP:
        return 0.7, "still water, short of oxygen when it is warm"
    if temperature_c <= COLD_FISH_C and kind in SLOW_DEEP:
        return 1.2, "soft deep water, where cold fish lie"
    if temperature_c <= COLD_FISH_C and kind in FAST:
        return 0.6, "too much work for a cold fish"
    return 1.0, None


def _by_light(situation: Situation, light: Light | None) -> tuple[float, str | None]:
    kind = situation.water.kind
    if light is None or situation.water.temperature_c < LIGHT_FROM_C:
        return 1.0, None
    if light.bright and situation.water.clarity_m >= CLEAR_M:
        if kind in SMOOTH:
            return 0.8, "bright sun on smooth clear water: they see you first"
        if kind in SHADED:
            return 1.15, "shade from a bright sun"
    if light.phase in ("low", "twilight") and kind in ("tail_out", "glide", "bank_edge"):
        return 1.2, "the light is low: they drop into thin water to feed"
    return 1.0, None


def _by_level(situation: Situation) -> tuple[float, str | None]:
    if situation.fish.level in ("surface", "mixed") and situation.water.kind in DRIFT_LINES:
        return 1.1, "they feed high, where food is carried together"
    return 1.0, None


def judge_lie(situation: Situation, light: Light | None = None) -> Judgement:
    """Judge a lie as it is today, in the light of now where that is known.

    The light moves when a lie is fished, not how many drifts it deserves: that number is the same on every screen all day.
    """
    water = situation.water
    score, reasons = HOLDS[water.kind], []
    for factor, reason in (
        _by_flow(water.kind, water.flow_class),
        _by_warmth(water.kind, water.temperature_c),
        _by_level(situation),
        (0.5, f"only {qty(water.depth_m, 'm')} of water over its head")
        if water.depth_m < THIN_M
        else (1.0, None),
    ):
        score *= factor
        if reason is not None:
            reasons.append(reason)
    keen = appetite(temperature_c=water.temperature_c, species=situation.fish.species)
    score *= 0.4 + 0.6 * keen
    lane = 2.0 * moves(
        temperature_c=water.temperature_c, clarity_m=water.clarity_m, species=situation.fish.species
    )
    lanes = max(1, round(SLOT_M[water.kind] / lane))
    drifts = _deserves(lanes, score)
    in_light, reason = _by_light(situation, light)
    if reason is not None:
        reasons.append(reason)
    if not reasons:
        reasons.append("food beside rest" if HOLDS[water.kind] >= 0.9 else "ordinary holding water")
    minutes = max(1, round(drifts * MINUTES_A_DRIFT))
    return Judgement(min(1.0, score * in_light), tuple(reasons), lane, lanes, drifts, minutes)


def _deserves(lanes: int, score: float) -> int:
    """Return the drifts that a lie of so many lanes deserves."""
    if score >= PRIME:
        return min(MOST_DRIFTS, max(PRIME_DRIFTS, 2 * lanes * DRIFTS_A_LANE))
    return min(MOST_DRIFTS, max(LEAST_DRIFTS, lanes * DRIFTS_A_LANE))


def working_order(lies: Sequence[tuple[float, Situation]]) -> list[int]:
    """Return the order in which to work lies, given as (place along the beat upstream, m; situation).

    Back to front, so that nothing is waded through before it is fished; at the same place near to far, then shallow to
    deep. In high water the edges and soft strips come first.
    """

    def key(k: int) -> tuple[bool, float, float, float]:
        along, situation = lies[k]
        high = situation.water.flow_class in HIGH
        soft = situation.water.kind in SOFT_WHEN_HIGH
        return (high and not soft, along, situation.place.distance_m, situation.water.depth_m)

    return sorted(range(len(lies)), key=key)
