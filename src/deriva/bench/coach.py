"""The coach's skill on hidden waters, beside the rule of thumb, a plain sounding, and one who knows the water.

Every player meets the same waters and the same luck. Figures are of seeds that the coach was not set on (see decision 11).
"""

import os
import statistics
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np

from deriva.core.choose.evaluate import fishable_m
from deriva.core.choose.judge import NotHere
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.coach.next import coach, first_setting
from deriva.core.errors import DerivaError
from deriva.core.model.logged import HANGS, LoggedDrift
from deriva.core.model.rig import RIG_KINDS, Rig, RigKind
from deriva.core.practice.players import Player, as_is, by_thumb, coached, likeliest, sounding, tied_by_thumb
from deriva.core.practice.river import fish
from deriva.core.practice.world import WORLD, Hidden, World, hidden_waters

DRIFTS = 20
NEAR_BEST, IN_A_ROW = 0.75, 3
"""A drift is right from this share of what the oracle has there on average; so many in a row are staying right."""

WORSE = 0.10
LOOKED_AT = (0, 5, 10, 20)
OF_EACH = 8
"""Drifts of each setting that the oracle tries in the river itself."""

JUDGED = 40
"""Drifts by which a change is judged to be for the worse: of eight, as the oracle tries, luck alone makes some so."""


@dataclass(frozen=True)
class Played:
    """How the drifts of one water went: drifts until right, mean share in the zone, hang-ups; changes, how many of them made it
    worse by over 0.10, reversals; and after 0, 5, 10 and 20 drifts whether the depth lay within the belief's p10 to p90.
    """

    until: int
    share: float
    hung: int
    changes: int
    worse: int
    reversals: int
    within: tuple[bool, ...] = ()


def worth(rig: Rig, hidden: Hidden, world: World, drifts: int = OF_EACH) -> float:
    """Return the mean share in the zone of some drifts of a rig, with a luck of their own."""
    random = np.random.default_rng(hidden.seed + 500_000)
    drift_m = fishable_m(hidden.truth, rig.kind)
    return statistics.fmean(fish(rig, hidden, random, world, drift_m=drift_m).share for _ in range(drifts))


def _known(hidden: Hidden, kind: RigKind, world: World) -> Rig | None:
    """Return the bead and length that are best in the water as it is: the likeliest by computation, tried in the river."""
    rigs = likeliest(hidden, kind, drift_m=fishable_m(hidden.truth, kind))
    return max(rigs, key=lambda rig: worth(rig, hidden, world), default=None)


def play(
    hidden: Hidden,
    rig: Rig,
    player: Player,
    best: float,
    world: World = WORLD,
    *,
    believes: bool = False,
    judged: int = JUDGED,
) -> Played:
    """Fish twenty drifts, letting a player change the rig after each; ``best`` is what the oracle's rig is worth there. Each
    change is judged by as many drifts of the rigs before and after it, with one luck.
    """
    random = np.random.default_rng(hidden.seed)
    drifts: list[LoggedDrift] = []
    shares: list[float] = []
    values: dict[Rig, float] = {}
    changes = worse = reversals = 0
    before = 0.0
    within: list[bool] = []
    for k in range(DRIFTS + 1):
        if believes and k in LOOKED_AT:
            belief = coach(hidden.judged, rig, drifts).belief
            within.append(belief.depth(0.1) <= hidden.truth.water.depth_m <= belief.depth(0.9))
        if k == DRIFTS:
            break
        one = fish(rig, hidden, random, world, drift_m=fishable_m(hidden.truth, rig.kind))
        drifts.append(LoggedDrift(rig, one.outcome, one.pace))
        shares.append(one.share)
        after = player(hidden.judged, rig, drifts)
        if after != rig:
            for each in (rig, after):
                if each not in values:
                    values[each] = worth(each, hidden, world, judged)
            changes += 1
            worse += values[after] < values[rig] - WORSE
            step = after.depth_setting_m - rig.depth_setting_m
            reversals += step * before < 0.0
            before = step or before
        rig = after
    right = [share >= NEAR_BEST * best for share in shares]
    until = next((k + 1 for k in range(DRIFTS - IN_A_ROW + 1) if all(right[k : k + IN_A_ROW])), DRIFTS + 1)
    hung = sum(one.outcome in HANGS for one in drifts)
    return Played(until, statistics.fmean(shares), hung, changes, worse, reversals, tuple(within))


def _starts(hidden: Hidden, kind: RigKind, world: World) -> dict[str, tuple[Rig, Player]] | None:
    """Return what each player ties on first: the rule of thumb its own setting on the depth as judged."""
    best = advise(hidden.judged, wide).of(kind)
    known = _known(hidden, kind, world)
    if isinstance(best, NotHere) or known is None:
        return None
    try:
        one_fly = tied_by_thumb(hidden.judged, kind)
    except DerivaError:
        return None
    return {
        "coach": (first_setting(hidden.judged, best.rig), coached),
        "thumb": (one_fly, by_thumb),
        "sounder": (one_fly, sounding),
        "oracle": (known, as_is),
    }


def games(asked: tuple[Hidden, RigKind, World], judged: int = JUDGED) -> dict[str, Played] | None:
    """Play one water with one kind of rig, every player with the same luck."""
    hidden, kind, world = asked
    starts = _starts(hidden, kind, world)
    if starts is None:
        return None
    best = worth(starts["oracle"][0], hidden, world)
    return {
        name: play(hidden, rig, player, best, world, believes=name == "coach", judged=judged)
        for name, (rig, player) in starts.items()
    }


def skill(
    waters: int = 10,
    seed: int = 51,
    kinds: Sequence[RigKind] = RIG_KINDS,
    world: World = WORLD,
    judged: int = JUDGED,
) -> list[dict[str, Any]]:
    """Return the rows of the bench: for each rig the coach's drifts, share, hang-ups beside the others'."""
    asked = [(hidden, kind, world) for kind in kinds for hidden in hidden_waters(waters, seed, world)]
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        played = list(pool.map(partial(games, judged=judged), asked))
    rows: list[dict[str, Any]] = []
    for kind in kinds:
        of_kind = [
            game for (_, one, _), game in zip(asked, played, strict=True) if one == kind and game is not None
        ]
        rows.append(_row(kind, of_kind))
    return rows


def believed(asked: tuple[Hidden, RigKind, World]) -> tuple[bool, ...] | None:
    """Let the coach fish one water alone; return whether its depth lay within the belief's p10 to p90 after 0, 5, 10 and 20
    drifts. None where the rig cannot be used there.
    """
    hidden, kind, world = asked
    best = advise(hidden.judged, wide).of(kind)
    if isinstance(best, NotHere):
        return None
    first = first_setting(hidden.judged, best.rig)
    return play(hidden, first, coached, 1.0, world, believes=True, judged=1).within


def _row(kind: RigKind, played: Sequence[dict[str, Played]]) -> dict[str, Any]:
    players: dict[str, dict[str, float]] = {}
    for name in ("coach", "thumb", "sounder", "oracle"):
        of = [game[name] for game in played]
        until = sorted(one.until for one in of)
        changed = sum(one.changes for one in of)
        players[name] = {
            "until": float(statistics.median(until)),
            "never": statistics.fmean(one.until > DRIFTS for one in of),
            "in_zone": statistics.fmean(one.share for one in of),
            "hung": statistics.fmean(one.hung for one in of),
            "worse": sum(one.worse for one in of) / max(1, changed),
            "changes": changed / len(of),
            "reversals": statistics.fmean(one.reversals for one in of),
        }
    within = np.mean([game["coach"].within for game in played], axis=0).round(2).tolist()
    gains = np.array([game["coach"].share - game["sounder"].share for game in played])
    margin = 1.96 * float(gains.std(ddof=1)) / len(gains) ** 0.5 if len(gains) > 1 else float("nan")
    said = (
        f"{name} right after {p['until']:g} (never {p['never']:.0%}), in zone {p['in_zone']:.2f}, hung {p['hung']:.1f}, "
        f"{p['changes']:.1f} changes ({p['worse']:.0%} for the worse, {p['reversals']:.1f} back)"
        for name, p in players.items()
    )
    return {
        "what": f"{kind}: coach's share in the zone against the oracle's, {len(played)} hidden waters, {DRIFTS} drifts",
        "ratio": players["coach"]["in_zone"] / max(1e-9, players["oracle"]["in_zone"]),
        "raw": f"{'; '.join(said)}; over the sounder {gains.mean():+.2f} ± {margin:.2f}; depth within p10-p90 after "
        f"{'/'.join(str(k) for k in LOOKED_AT)}: {'/'.join(f'{w:.2f}' for w in within)}",
        "players": players,
        "within": within,
    }
