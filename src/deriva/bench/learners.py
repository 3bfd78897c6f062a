"""Whether the first three drills teach: a rule of thumb before and after their lessons, on hidden waters with the same luck.

These are learners of stated rules, not people: what is shown is that the lessons, if they are followed, bring a fly to the zone
sooner, and no more.
"""

import os
import statistics
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from time import perf_counter
from typing import Any

from deriva.bench.coach import DRIFTS, Played, play, worth
from deriva.core.choose.evaluate import fishable_m
from deriva.core.drift.transient import transient_drift
from deriva.core.errors import DerivaError
from deriva.core.model.logged import TOUCHES, LoggedDrift
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.practice.cast import Cast, Game
from deriva.core.practice.drills import BY_NAME, as_judged, waters
from deriva.core.practice.game import look
from deriva.core.practice.players import Player, by_thumb, likeliest, reset, sounding, tied_by_thumb
from deriva.core.practice.world import WORLD, Hidden, hidden_waters
from deriva.core.rigs.assemble import assemble
from deriva.core.tackle.beads import LADDER_MM, ladder_step

SEED = 90
"""Waters that nothing was set on."""

TRAILS = 1.3
"""A line longer than the water by so much only trails: the drill *Weight or length?* says so."""

FAST_M_S = 0.55

PACE_STEP_M = 0.3
"""How much longer at once where the pace says that nothing is down: the drill *Reading the pace*."""


def _untouched(drifts: Sequence[LoggedDrift]) -> bool:
    return not any(one.outcome in TOUCHES for one in drifts)


def by_weight(judged: Situation, rig: Rig, drifts: Sequence[LoggedDrift]) -> Rig:
    """Sound, but hang a heavier bead where the water is fast and the line longer than it is deep."""
    long = rig.depth_setting_m > TRAILS * judged.water.depth_m
    bead = rig.point.bead_mm or LADDER_MM[0]
    if _untouched(drifts) and long and judged.water.surface_speed_m_s > FAST_M_S and bead < LADDER_MM[-1]:
        return reset(rig, rig.depth_setting_m, ladder_step(bead, 1), judged)
    return sounding(judged, rig, drifts)


def by_pace(judged: Situation, rig: Rig, drifts: Sequence[LoggedDrift]) -> Rig:
    """The same, but take a larger step where the float is not slower than the bubbles."""
    if _untouched(drifts) and drifts[-1].pace in ("same", "faster"):
        return reset(rig, round(rig.depth_setting_m + PACE_STEP_M, 2), rig.point.bead_mm, judged)
    return by_weight(judged, rig, drifts)


LEARNERS: dict[str, Player] = {
    "rule of thumb": by_thumb,
    "after First depth": sounding,
    "after Weight or length?": by_weight,
    "after Reading the pace": by_pace,
}


def lessons(asked: tuple[Hidden, RigKind]) -> dict[str, Played] | None:
    """Fish one water with every learner; None where the rig cannot be used there."""
    hidden, kind = asked
    try:
        tied = tied_by_thumb(hidden.judged, kind)
    except DerivaError:
        return None
    known = max(
        likeliest(hidden, kind, drift_m=fishable_m(hidden.truth, kind)),
        key=lambda rig: worth(rig, hidden, WORLD),
        default=None,
    )
    if known is None:
        return None
    best = worth(known, hidden, WORLD)
    return {name: play(hidden, tied, player, best, judged=1) for name, player in LEARNERS.items()}


def answered(drifts: int = 20, games: int = 5) -> list[dict[str, Any]]:
    """Return how long a cast of a game takes to be answered, beside one drift through the bare engine."""
    took: list[float] = []
    bare: list[float] = []
    for seed in range(games):
        rig = tied_by_thumb(as_judged("first_depth", seed, 1, None, None), "indicator")
        column = waters("first_depth", seed).lanes[0].truth.water.column()
        game = Game("first_depth", seed)
        for k in range(min(drifts, BY_NAME["first_depth"].drifts)):
            cast = Cast("indicator", round(rig.depth_setting_m + 0.02 * k, 2), rig.point.bead_mm)
            game = replace(game, casts=(*game.casts, cast))
            began = perf_counter()
            look(game)
            took.append(perf_counter() - began)
            began = perf_counter()
            transient_drift(assemble(rig, column), duration_s=10.0)
            bare.append(perf_counter() - began)
    p95 = sorted(took)[int(0.95 * len(took))]
    return [
        {
            "what": f"a cast of practice answered, games of {len(took) // games}: p95 over one bare drift of 10 s",
            "ratio": p95 / statistics.median(bare),
            "raw": f"p95 {1e3 * p95:.0f} ms, median {1e3 * statistics.median(took):.0f} ms",
        }
    ]


def teaching(count: int = 30, seed: int = SEED) -> list[dict[str, Any]]:
    """Return a row for each rig: drifts until in the zone and share in it, before and after the lessons."""
    rows: list[dict[str, Any]] = []
    kinds: tuple[RigKind, ...] = ("euro", "indicator")
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        for kind in kinds:
            asked = [(hidden, kind) for hidden in hidden_waters(count, seed)]
            played = [one for one in pool.map(lessons, asked) if one is not None]
            mean = {
                name: (
                    float(statistics.median(min(one[name].until, DRIFTS + 1) for one in played)),
                    statistics.fmean(one[name].share for one in played),
                )
                for name in LEARNERS
            }
            told = "; ".join(
                f"{name}: right after {until:g}, in zone {share:.2f}" for name, (until, share) in mean.items()
            )
            before, after = mean["rule of thumb"], mean["after Reading the pace"]
            rows.append(
                {
                    "what": f"{kind}: share in the zone after three drills, against a rule of thumb's, {len(played)} waters",
                    "ratio": after[1] / max(1e-9, before[1]),
                    "raw": told,
                }
            )
    return rows
