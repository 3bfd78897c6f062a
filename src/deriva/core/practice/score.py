"""What a game was worth: beside others with the same luck, and how much of it was luck.

A game is replayed as it was fished (the same rigs, presented as they were, ended when they were) on other luck in the
same water: the span of that is the luck of such a play, so that a lucky day is not taken for skill.
"""

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from deriva.core.choose.evaluate import evaluate
from deriva.core.choose.mends import mend_advice
from deriva.core.coach.next import coach
from deriva.core.errors import DerivaError
from deriva.core.model.logged import LoggedDrift
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.tuning import Tuning
from deriva.core.practice.cast import Cast, DrillName, Game, LandsHow
from deriva.core.practice.drills import BY_NAME, as_judged, waters
from deriva.core.practice.game import Drifted, fished, luck_of, near, presented, rig_of
from deriva.core.practice.players import by_thumb, likeliest, tied_by_thumb
from deriva.core.practice.river import Luck, Mend, Presented, Ran, pace_called, run
from deriva.core.practice.world import WORLD, Array, Hidden

OTHER_LUCK = 100
"""So many other seeds a play is replayed on."""

RUNS, LEAST_RUNS = 72, 6
"""So many drifts are run through the engine for that, shared among the rigs by how long each was fished, at least the other
of each; every replay draws among them."""

THUMB_UP_M = 3.0
"""How far up a rule of thumb casts, whatever the water: a rod's length (common practice, no source)."""

UPS_M = (1.0, 2.0, 3.0, 4.5, 6.0, 8.0)
"""How far up one who knows the water may cast."""

ENTRIES: tuple[LandsHow, ...] = ("straight", "tuck")

TRIES = 6
"""Drifts by which each of that is tried in the river, the rig first and then how it is landed."""


@dataclass(frozen=True)
class Beside:
    """Seconds in the zone near the fish, drift by drift, of somebody who fished the same water with the same luck."""

    name: str
    zone_s: tuple[float, ...]
    casts: tuple[Cast, ...]


@dataclass(frozen=True)
class Score:
    """Seconds in the zone beside those of one who knew the water (``best_s``), the share of them, and what that share was on
    other luck: ``low`` and ``high`` are its 5th and 95th percentile.
    """

    zone_s: float
    best_s: float
    share: float
    low: float
    high: float


def counts(game: Game, lane: int) -> bool:
    """Return whether seconds in a lane count: where fish are, or where there are none anywhere."""
    lanes = waters(game.drill, game.seed).lanes
    return lanes[lane - 1].shoal.there > 0 or not any(one.shoal.there for one in lanes)


def counted(game: Game, drifts: Sequence[Drifted]) -> tuple[float, ...]:
    """Return the seconds that count, drift by drift."""
    return tuple(one.zone_s if counts(game, one.cast.lane) else 0.0 for one in drifts)


def _zone_s(ran: Ran | None, up_m: float, reach_m: float, until_s: float = math.inf) -> float:
    if ran is None:
        return 0.0
    step = float(ran.t_s[1] - ran.t_s[0])
    return float(np.sum(ran.in_zone & near(ran, up_m, reach_m) & (ran.t_s <= until_s)) * step)


def _worth(hidden: Hidden, rig: Rig, how: Presented, reach_m: float) -> float:
    """Return the mean seconds of some drifts of a rig, with a luck of their own."""
    random = np.random.default_rng(hidden.seed + 500_000)
    found = [_zone_s(run(rig, hidden, Luck.of(random), how), how.up_m or 0.0, reach_m) for _ in range(TRIES)]
    return sum(found) / len(found)


def best_lane(drill: DrillName, seed: int) -> int:
    """Return the lane where most fish are, counted from 1."""
    lanes = waters(drill, seed).lanes
    return 1 + max(range(len(lanes)), key=lambda k: lanes[k].shoal.there)


def _cast_of(rig: Rig, like: Cast) -> Cast:
    return replace(like, rig=rig.kind, depth_setting_m=rig.depth_setting_m, point_bead_mm=rig.point.bead_mm)


@lru_cache(maxsize=256)
def knowing(drill: DrillName, seed: int, kind: RigKind) -> Cast | None:
    """Return the cast of one who knows the water, with a kind of rig: bead, length, and where it lands."""
    lane, there = best_lane(drill, seed), waters(drill, seed)
    hidden = there.lanes[lane - 1]
    mend: Mend = (
        "none" if hidden.under_line is None else "upstream" if hidden.under_line > 1.0 else "downstream"
    )

    def worth(cast: Cast, rig: Rig) -> float:
        return _worth(hidden, rig, presented(cast, there.reach_m), there.reach_m)

    first = Cast(kind, 1.0, 2.0, THUMB_UP_M, lane, "tuck", mend)
    rigs = {
        _cast_of(rig, first): rig for rig in likeliest(hidden, kind, drift_m=2.0 * there.reach_m + THUMB_UP_M)
    }
    if not rigs:
        return None
    cast = max(rigs, key=lambda one: worth(one, rigs[one]))
    ways = [replace(cast, up_m=up, entry=entry) for up in UPS_M for entry in ENTRIES]
    return max(ways, key=lambda one: worth(one, rigs[cast]))


def best_cast(game: Game) -> Cast | None:
    """Return the cast of one who knows the water, with the kind of rig that brings most."""
    there = waters(game.drill, game.seed)
    found: list[tuple[float, Cast]] = []
    for kind in BY_NAME[game.drill].kinds:
        cast = knowing(game.drill, game.seed, kind)
        if cast is not None:
            hidden = there.lanes[cast.lane - 1]
            found.append(
                (_worth(hidden, rig_of(game, cast), presented(cast, there.reach_m), there.reach_m), cast)
            )
    return max(found, key=lambda one: one[0], default=(0.0, None))[1]


def _seen(drifts: Sequence[Drifted]) -> list[LoggedDrift]:
    """Return drifts as one would have logged them who misses nothing that showed."""
    return [
        LoggedDrift(
            one.rig,
            one.outcome,
            pace_called(one.ran.pace + WORLD.eye * float(one.luck.spread[4]))
            if one.ran is not None and one.rig.float_ is not None and one.luck.chances[4] < WORLD.pace_seen
            else None,
        )
        for one in drifts
    ]


def _thumbs(game: Game, kind: RigKind) -> Iterator[Cast]:
    """Yield the rule of thumb's casts, one for each drift of the game, in the lane where they were fished."""
    judged = as_judged(game.drill, game.seed, 1, game.school, game.box)
    cast = _cast_of(tied_by_thumb(judged, kind), Cast(kind, 1.0, 2.0, THUMB_UP_M))
    casts: list[Cast] = []
    for one in game.casts:
        casts.append(replace(cast, lane=one.lane))
        yield casts[-1]
        drifts = fished(replace(game, casts=tuple(casts)))
        here = [each for each in drifts if each.cast.lane == one.lane]
        cast = _cast_of(by_thumb(judged, here[-1].rig, _seen(here)), cast)


def _coached(game: Game, first: Cast) -> Iterator[Cast]:
    """Yield the coach's casts, beginning with a first one."""
    cast, casts = first, []
    for one in game.casts:
        casts.append(replace(cast, lane=one.lane))
        yield casts[-1]
        judged = as_judged(game.drill, game.seed, one.lane, game.school, game.box)
        drifts = fished(replace(game, casts=tuple(casts)))
        here = [each for each in drifts if each.cast.lane == one.lane]
        advice = coach(judged, here[-1].rig, _seen(here)).advice
        if advice.rig != cast.rig or advice.action in ("move_on", "change_fly", "change_rig"):
            continue  # another lie or fly is not in the game; another rig is, but costs more than a game is long
        wanted = replace(cast, depth_setting_m=advice.depth_setting_m, point_bead_mm=advice.point_bead_mm)
        cast = wanted if can_hang(game, wanted) else cast


def can_hang(game: Game, cast: Cast) -> bool:
    """Return whether a cast's rig can be tied and hung."""
    try:
        rig_of(game, cast)
    except DerivaError:
        return False
    return True


def presenting(game: Game, cast: Cast) -> Cast:
    """Return a cast landed as far up as is computed for the water as judged, and mended as is advised there."""
    judged = as_judged(game.drill, game.seed, cast.lane, game.school, game.box)
    one = evaluate(rig_of(game, cast), judged)
    lead = min(8.0, max(1.0, round(one.lead_m or THUMB_UP_M, 1)))
    mends = mend_advice(one, judged) if judged.water.under_line_ratio is not None else None
    mend: Mend = "none" if mends is None or mends[0].way is None else mends[0].way
    return replace(cast, up_m=lead, mend=mend)


def beside(game: Game, first: Cast | None) -> tuple[Beside, ...]:
    """Return how others would have done: the rule of thumb, the coach from a ``first`` setting, one who knew the water."""
    game = replace(game, school=None, box=None)
    kind = game.casts[0].rig
    lines: list[tuple[str, list[Cast]]] = []
    try:
        lines.append(("thumb", list(_thumbs(game, kind))))
        if first is not None:
            lines.append(("coach", list(_coached(game, presenting(game, first)))))
    except DerivaError:
        pass  # what cannot hang has nobody who fishes it
    best = best_cast(game)
    if best is not None:
        lines.append(("knowing", [best] * len(game.casts)))
    return tuple(
        Beside(name, counted(game, fished(replace(game, casts=tuple(casts)))), tuple(casts))
        for name, casts in lines
    )


def _replays(game: Game, drifts: Sequence[Drifted]) -> Array:
    """Return the seconds in the zone of the same play on other luck."""
    there = waters(game.drill, game.seed)
    ways = [
        (one.rig, one.cast.lane, presented(one.cast, there.reach_m))
        for one in drifts
        if counts(game, one.cast.lane)
    ]
    ends = [
        math.inf if one.cast.strike_s is None else one.cast.strike_s
        for one in drifts
        if counts(game, one.cast.lane)
    ]
    pool: dict[object, list[Ran | None]] = {}
    for way, drifted in Counter(ways).items():
        rig, lane, how = way
        runs = max(LEAST_RUNS, RUNS * drifted // len(ways))
        hidden = there.lanes[lane - 1]
        pool[way] = [run(rig, hidden, luck_of(game.seed + 1_000_000, k), how) for k in range(runs)]
    random = np.random.default_rng((game.seed, 9))
    found = np.zeros(OTHER_LUCK)
    for way, end in zip(ways, ends, strict=True):
        seconds = [_zone_s(one, way[2].up_m or 0.0, there.reach_m, end) for one in pool[way]]
        found += random.choice(seconds, OTHER_LUCK)
    return found


def score(game: Game, drifts: Sequence[Drifted], best_s: float) -> Score:
    """Score a game beside the seconds of one who knew the water."""
    mine = sum(counted(game, drifts))
    if best_s <= 0.0 or not drifts:
        return Score(mine, best_s, 0.0, 0.0, 0.0)
    low, high = np.quantile(_replays(game, drifts), (0.05, 0.95)) / best_s
    return Score(mine, best_s, mine / best_s, float(low), float(high))


def first_cast(game: Game, rig: Rig) -> Cast:
    """Return the first cast of a rig that was advised."""
    tuning = Tuning.of(rig)
    return Cast(rig.kind, tuning.depth_setting_m, tuning.point_bead_mm, lane=game.casts[0].lane)
