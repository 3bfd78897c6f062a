"""A game: the casts so far in a hidden water, what became of each, and what of it the angler got to know.

A pure function of the game: the same casts in the same water end the same way, on any machine and for anybody.
"""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from deriva.core.errors import Impossible
from deriva.core.model.logged import HANGS, Outcome
from deriva.core.model.rig import NAMES, Rig
from deriva.core.model.situation import Box, School
from deriva.core.model.tuning import Tuning
from deriva.core.practice.cast import Cast, DrillName, Game
from deriva.core.practice.drills import BY_NAME, Waters, as_judged, waters
from deriva.core.practice.river import Luck, Presented, Ran, run
from deriva.core.practice.seen import Shown, Take, events, shown, takes
from deriva.core.practice.world import WORLD, Bools, Hidden
from deriva.core.rigs.resolve import resolve

CAST_S = 8.0
SET_S, BEAD_S, RIG_S = 20.0, 60.0, 240.0
"""What a cast takes, and a change of length, of bead, of rig, with cold hands (common practice, no source)."""

BELOW_M = 1.0
"""A drift goes on so far below where fish are, and is lifted (stated here)."""

HOOKS = 0.85
"""Share of the strikes in time that hook (stated here)."""

SOON_S = 1.0
"""A strike within this of something that showed was at that."""


@dataclass(frozen=True)
class Drifted:
    """One drift as it was. ``struck``: how the strike went; ``zone_s``: seconds in the zone near where fish lie; ``at_s``: the
    game's clock when it was over; ``outcome``: how it ended, whatever was logged.
    """

    cast: Cast
    rig: Rig
    ran: Ran | None
    luck: Luck
    take: Take | None
    struck: str | None
    outcome: Outcome
    zone_s: float
    at_s: float


def luck_of(seed: int, k: int) -> Luck:
    """Return the luck of the k-th drift of a game: the same for whoever fishes it, whatever is fished."""
    return Luck.of(np.random.default_rng((seed, 7, k)))


@lru_cache(maxsize=1024)
def rigged(
    drill: DrillName, seed: int, lane: int, tuning: Tuning, *, school: School | None, box: Box | None
) -> Rig:
    """Return the whole rig of a cast, with the flies that the angler would tie on for the water as judged."""
    return resolve(tuning, as_judged(drill, seed, lane, school, box))


def rig_of(game: Game, cast: Cast) -> Rig:
    """Return the rig of a cast; raises the core's errors for one that cannot hang."""
    tuning = Tuning(cast.rig, cast.depth_setting_m, cast.point_bead_mm)
    return rigged(game.drill, game.seed, cast.lane, tuning, school=game.school, box=game.box)


def check(game: Game) -> None:
    """Raise Impossible for casts that the drill does not give."""
    drill, there = BY_NAME[game.drill], waters(game.drill, game.seed)
    if len(game.casts) > drill.drifts:
        raise Impossible(f"casts has {len(game.casts)}: {drill.title} gives {drill.drifts}", field="casts")
    for k, cast in enumerate(game.casts):
        if cast.rig not in drill.kinds:
            raise Impossible(
                f"casts.{k}.rig = {cast.rig}: {drill.title} is fished with {' or '.join(NAMES[one] for one in drill.kinds)}",
                field=f"casts.{k}.rig",
            )
        if cast.lane > len(there.lanes):
            raise Impossible(
                f"casts.{k}.lane = {cast.lane}: there are {len(there.lanes)}", field=f"casts.{k}.lane"
            )


def presented(cast: Cast, reach_m: float) -> Presented:
    """Return how a cast is presented: from where it lands to a little below the fish."""
    return Presented(cast.up_m + reach_m + BELOW_M, cast.up_m, cast.entry, cast.mend, cast.direction)


@lru_cache(maxsize=512)
def _ran(hidden: Hidden, rig: Rig, how: Presented, seed: int, k: int) -> Ran | None:
    return run(rig, hidden, luck_of(seed, k), how)


def near(ran: Ran, up_m: float, reach_m: float) -> Bools:
    """Return frame by frame (T) whether the lowest fly passes where fish lie."""
    return np.asarray(np.abs(ran.x_m - up_m) <= reach_m)


def _seconds(ran: Ran, close: Bools, ends_s: float) -> float:
    return float(np.sum(ran.in_zone & close & (ran.t_s <= ends_s)) * (ran.t_s[1] - ran.t_s[0]))


def _changed_s(before: Cast | None, cast: Cast, there: Waters) -> float:
    """Return how long it took to change what was changed, s; the first rig is on already."""
    if before is None:
        return 0.0
    seconds = there.lane_s if cast.lane != before.lane else 0.0
    if cast.rig != before.rig:
        return seconds + RIG_S
    if cast.point_bead_mm != before.point_bead_mm:
        seconds += BEAD_S
    return seconds + (SET_S if cast.depth_setting_m != before.depth_setting_m else 0.0)


def _strike(cast: Cast, ran: Ran, luck: Luck, take: Take | None) -> tuple[str | None, float]:
    """Return how a strike went, and when the drift was over by it, s."""
    over = ran.until_s
    if cast.strike_s is None or cast.strike_s > float(ran.t_s[-1]):
        return ("missed it" if take is not None else None), over
    at = cast.strike_s
    if take is not None and at >= take.at_s:
        if at > take.at_s + take.holds_s:
            return "late", min(over, at)
        hooked = np.random.default_rng(luck.current + 1).uniform() < HOOKS
        return ("hooked" if hooked else "pricked"), min(over, at)
    showed = any(one.at_s <= at <= one.at_s + one.lasts_s + SOON_S for one in events(ran, luck, None, WORLD))
    return ("at a stone" if showed else "at nothing"), min(over, at)


@dataclass
class _Home:
    """Who is left in a lane, and how keen."""

    there: int
    keen: float


def fished(game: Game) -> list[Drifted]:
    """Return the drifts of a game, one after another: who was hooked takes no more, and hang-ups put others down."""
    there = waters(game.drill, game.seed)
    homes = [_Home(one.shoal.there, one.shoal.keen) for one in there.lanes]
    found: list[Drifted] = []
    clock, before = 0.0, None
    for k, cast in enumerate(game.casts):
        hidden, home = there.lanes[cast.lane - 1], homes[cast.lane - 1]
        rig, luck = rig_of(game, cast), luck_of(game.seed, k)
        ran = _ran(hidden, rig, presented(cast, there.reach_m), game.seed, k)
        clock += CAST_S + _changed_s(before, cast, there)
        before = cast
        if ran is None:
            found.append(Drifted(cast, rig, None, luck, None, None, "clean", 0.0, clock))
            continue
        close = near(ran, cast.up_m, there.reach_m)
        chance = np.random.default_rng((game.seed, 8, k))
        take = takes(ran, home.there, home.keen, close, chance)
        struck, over = _strike(cast, ran, luck, take)
        outcome: Outcome = "clean"
        if struck == "hooked":
            outcome = "fish"
        elif struck in ("pricked", "late"):
            outcome = "missed"
        elif ran.hung_s is not None and ran.hung_s <= over:
            outcome = "lost_fly" if luck.chances[2] < WORLD.lost_of_hung else "hung"
        elif any(one.at_s <= over for one in events(ran, luck, None, WORLD)):
            outcome = "tick"
        if outcome in ("fish", "missed"):
            home.there = max(0, home.there - 1)
        if outcome in HANGS or struck in ("at nothing", "at a stone"):
            home.keen *= 1.0 - hidden.shoal.wary
        clock += over
        zone_s = _seconds(ran, close, over)
        found.append(Drifted(cast, rig, ran, luck, take, struck, outcome, zone_s, clock))
    return found


def is_over(game: Game, drifts: list[Drifted]) -> bool:
    """Return whether no drift is left, or no time."""
    drill = BY_NAME[game.drill]
    late = drill.minutes is not None and bool(drifts) and drifts[-1].at_s >= 60.0 * drill.minutes
    return len(drifts) >= drill.drifts or late


def look(game: Game) -> Shown:
    """Return what shows of the last cast, as if nobody struck; raises Impossible where that rig cannot be fished here."""
    last = fished(replace(game, casts=(*game.casts[:-1], replace(game.casts[-1], strike_s=None))))[-1]
    if last.ran is None:
        raise Impossible("casts: this rig cannot be fished in this water: set it otherwise", field="casts")
    return shown(last.ran, last.luck, last.take, WORLD, tip=last.rig.float_ is None)


FELT = {
    "hooked": "You are into a fish: net it, wet hands, and back it goes",
    "pricked": "It was on for a moment, and off",
    "late": "Something had it, and had let go: too late",
    "at a stone": "Nobody there. That was the bed, or weed",
    "at nothing": "Nobody there",
}


def told(drift: Drifted) -> str:
    """Return what the angler knows after a drift: what a strike brought, what the fly came back with."""
    if drift.outcome == "lost_fly":
        return "It broke: the fly is gone."
    if drift.outcome == "hung":
        return "Hung up; pulled free."
    return f"{FELT[drift.struck]}." if drift.struck in FELT else "Lifted off; nothing."
