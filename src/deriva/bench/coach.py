"""The coach's skill on hidden waters, beside the rule of thumb and an oracle that knows the water.

Depth and speed are misjudged by log-normal errors of 35 % and 25 %. Touches, hang-ups and pace come from the transient engine
over a bed of stones, with casting scatter from drift to drift: not from the coach's own likelihood. Seeded, so that every
player meets the same waters and the same luck.
"""

import math
import statistics
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from deriva.core.choose.customary import customary_setting
from deriva.core.choose.evaluate import fishable_m, hang_rate
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.choose.zone import strike_zone
from deriva.core.coach.next import coach
from deriva.core.coach.rule import rule_of_thumb
from deriva.core.drift.path import drift_path
from deriva.core.errors import DerivaError
from deriva.core.model.logged import LoggedDrift, Outcome, Pace
from deriva.core.model.rig import RIG_KINDS, Rig, RigKind
from deriva.core.model.situation import Fish, Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.ranges import DEPTH_SETTING_M
from deriva.core.rigs.assemble import assemble
from deriva.core.rigs.resolve import resolve
from deriva.core.water.profile import BedKind

DRIFTS = 20
DEPTH_ERROR, SPEED_ERROR = 0.35, 0.25
CAST_SCATTER, EYE = 0.05, 0.04
PACE_SEEN, LOST_OF_HUNG = 0.5, 0.25
IN_ZONE, IN_A_ROW = 0.3, 3
"""A drift counts as in the zone from this share on; so many in a row are staying right."""

LONGEST_S = 12.0
START_BEAD_MM: dict[RigKind, float] = {"euro": 3.0, "indicator": 3.0, "dry_dropper": 2.5}
"""What a rule of thumb ties on first (common practice, no source)."""

BEDS: tuple[BedKind, ...] = ("gravel", "cobble")


@dataclass(frozen=True)
class Hidden:
    """A water as it is, as it was judged, and the seed of its luck."""

    truth: Situation
    judged: Situation
    seed: int


@dataclass(frozen=True)
class Played:
    """How twenty drifts went: drifts until the fly was in the zone and stayed right, share of the drifts in the zone, hang-ups,
    flies lost.
    """

    until: int
    share: float
    hung: int
    lost: int


def hidden_waters(count: int, seed: int) -> list[Hidden]:
    """Return seeded waters of 0.4 to 2.2 m, misjudged."""
    random = np.random.default_rng(seed)
    found = []
    for k in range(count):
        depth, speed = float(random.uniform(0.4, 2.2)), float(random.uniform(0.25, 0.9))
        wrong = float(np.clip(depth * math.exp(DEPTH_ERROR * random.standard_normal()), 0.25, 3.5))
        wrong_speed = float(np.clip(speed * math.exp(SPEED_ERROR * random.standard_normal()), 0.1, 1.6))
        bed = BEDS[k % 2]
        truth = Water(depth, speed, "run", 0.02 * depth, bed, 1.5, 11.0, speed_sd_m_s=0.02 * speed)
        judged = Water(
            wrong,
            wrong_speed,
            "run",
            DEPTH_ERROR * wrong,
            bed,
            1.5,
            11.0,
            speed_sd_m_s=SPEED_ERROR * wrong_speed,
        )
        place, fish = Place(6.0), Fish("bottom")
        found.append(Hidden(Situation(truth, place, fish), Situation(judged, place, fish), 1000 * seed + k))
    return found


def _fish(rig: Rig, truth: Situation, random: np.random.Generator) -> tuple[Outcome, Pace | None, float]:
    """Return how one drift ends in the water as it is, what was seen of the pace, and its share in the zone."""
    luck = random.standard_normal(3)
    chances = random.uniform(size=3)
    water = truth.water
    depth = max(0.2, water.depth_m * (1.0 + CAST_SCATTER * float(luck[0])))
    speed = max(0.08, water.surface_speed_m_s * (1.0 + CAST_SCATTER * float(luck[1])))
    column = water.column(depth, speed)
    zone = strike_zone(feeding="bottom", depth_m=depth, temperature_c=water.temperature_c)
    try:
        run = drift_path(
            assemble(rig, column),
            drift_s=min(LONGEST_S, fishable_m(truth, rig.kind) / (0.85 * speed)),
            flies=1 + (rig.dropper is not None),
            zone_low_m=zone.low_m,
            zone_high_m=zone.high_m,
            hang_rate_per_m=hang_rate(rig, truth),
        )
    except DerivaError:
        return "clean", None, 0.0
    hangs_at = None
    left = float(chances[0])
    for touch in run.touches:  # one draw a drift, used up touch by touch
        if left < touch.hang_chance:
            hangs_at = touch.t_s
            break
        left = (left - touch.hang_chance) / max(1e-9, 1.0 - touch.hang_chance)
    ends = run.ends_s if hangs_at is None else hangs_at
    t = run.drift.t_s
    height = depth - run.drift.body_depth_m
    inside = np.any((height >= zone.low_m - 1e-9) & (height <= zone.high_m), axis=1) & (t <= ends)
    share = float(inside.sum()) / max(1.0, float((t <= run.ends_s).sum()))
    outcome: Outcome = "clean"
    if hangs_at is not None:
        outcome = "lost_fly" if chances[1] < LOST_OF_HUNG else "hung"
    elif run.touches:
        outcome = "tick"
    pace: Pace | None = None
    if rig.float_ is not None and chances[2] < PACE_SEEN:
        settled = run.track.top_pace[len(t) // 2 :]
        seen = float(settled.mean()) + EYE * float(luck[2])
        pace = "slower" if seen < 0.95 else "faster" if seen > 1.0 else "same"
    return outcome, pace, share


def _set(rig: Rig, setting: float, bead: float, situation: Situation) -> Rig:
    """Return the rig with another setting and bead; the rig itself where that cannot hang."""
    if (setting, bead) == (rig.depth_setting_m, rig.point.bead_mm):
        return rig
    try:
        wanted = replace(Tuning.of(rig), depth_setting_m=setting, point_bead_mm=bead, float_=None)
        return resolve(wanted, situation)
    except DerivaError:
        return rig


Player = Callable[[Situation, Rig, Sequence[LoggedDrift]], Rig]


def _coached(judged: Situation, rig: Rig, drifts: Sequence[LoggedDrift]) -> Rig:
    advice = coach(judged, rig, drifts).advice
    return _set(rig, advice.depth_setting_m, advice.point_bead_mm, judged)


def _by_thumb(judged: Situation, rig: Rig, drifts: Sequence[LoggedDrift]) -> Rig:
    said = rule_of_thumb(drifts)
    return _set(rig, said.depth_setting_m, said.point_bead_mm, judged)


def _as_is(judged: Situation, rig: Rig, drifts: Sequence[LoggedDrift]) -> Rig:
    del judged, drifts
    return rig


def play(hidden: Hidden, rig: Rig, player: Player) -> Played:
    """Fish twenty drifts, letting a player change the rig after each."""
    random = np.random.default_rng(hidden.seed)
    drifts: list[LoggedDrift] = []
    shares: list[float] = []
    for _ in range(DRIFTS):
        outcome, pace, share = _fish(rig, hidden.truth, random)
        drifts.append(LoggedDrift(rig, outcome, pace))
        shares.append(share)
        rig = player(hidden.judged, rig, drifts)
    right = [share >= IN_ZONE for share in shares]
    until = next((k + 1 for k in range(DRIFTS - IN_A_ROW + 1) if all(right[k : k + IN_A_ROW])), DRIFTS + 1)
    hung = sum(one.outcome in ("hung", "lost_fly") for one in drifts)
    lost = sum(one.outcome == "lost_fly" for one in drifts)
    return Played(until, statistics.fmean(shares), hung, lost)


def _starts(hidden: Hidden, kind: RigKind) -> dict[str, tuple[Rig, Player]] | None:
    """Return what each player ties on first: the rule of thumb its own setting on the depth as judged."""
    best = {one.kind: one for one in advise(hidden.judged, wide).ranked}[kind]
    known = {one.kind: one for one in advise(hidden.truth, wide).ranked}[kind]
    if best.evaluation is None or known.evaluation is None:
        return None
    low, high = customary_setting(hidden.judged, kind)
    setting = DEPTH_SETTING_M.clamp(round(0.5 * (low + high), 2))
    try:
        tied = resolve(Tuning(kind, setting, START_BEAD_MM[kind]), hidden.judged)
    except DerivaError:
        return None
    one_fly = replace(tied, dropper=None, dropper_spacing_m=None, dropper_tag_m=0.0)
    return {
        "coach": (best.evaluation.rig, _coached),
        "thumb": (one_fly, _by_thumb),
        "oracle": (known.evaluation.rig, _as_is),
    }


def skill(waters: int = 10, seed: int = 21, kinds: Sequence[RigKind] = RIG_KINDS) -> list[dict[str, Any]]:
    """Return the rows of the bench: for each rig the coach's drifts, share, hang-ups beside the others'.

    The coach was set while watching seeds 6 and 7; figures on those are no test of it.
    """
    rows: list[dict[str, Any]] = []
    for kind in kinds:
        games: dict[str, list[Played]] = {"coach": [], "thumb": [], "oracle": []}
        for hidden in hidden_waters(waters, seed):
            starts = _starts(hidden, kind)
            if starts is None:
                continue
            for name, (rig, player) in starts.items():
                games[name].append(play(hidden, rig, player))
        rows.append(_row(kind, games))
    return rows


def _row(kind: RigKind, games: dict[str, list[Played]]) -> dict[str, Any]:
    players: dict[str, dict[str, float]] = {}
    for name, played in games.items():
        until = sorted(one.until for one in played)
        players[name] = {
            "until": float(statistics.median(until)),
            "until_p90": float(until[min(len(until) - 1, int(0.9 * len(until)))]),
            "in_zone": statistics.fmean(one.share for one in played),
            "hung": statistics.fmean(one.hung for one in played),
            "lost": statistics.fmean(one.lost for one in played),
        }
    said = (
        f"{name} right after {p['until']:g} (p90 {p['until_p90']:g}), in zone {p['in_zone']:.2f}, hung {p['hung']:.1f}, "
        f"lost {p['lost']:.1f}"
        for name, p in players.items()
    )
    return {
        "what": f"{kind}: coach's share in the zone against the oracle's, {len(games['coach'])} hidden waters, {DRIFTS} drifts",
        "ratio": players["coach"]["in_zone"] / max(1e-9, players["oracle"]["in_zone"]),
        "raw": "; ".join(said),
        "players": players,
    }
