"""The water revealed: its section with every drift in it, and the three sentences that matter most, by what they cost."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from statistics import fmean, median

import numpy as np

from deriva.core.choose.zone import strike_zone
from deriva.core.model.logged import HANGS
from deriva.core.model.quantity import percent, qty
from deriva.core.practice.cast import Game
from deriva.core.practice.drills import BY_NAME, Waters, waters
from deriva.core.practice.game import Drifted, near
from deriva.core.practice.river import DROP_ABOVE_M, DROP_OVER_M, Ran, pace_called
from deriva.core.practice.score import counts
from deriva.core.practice.world import Hidden

POINTS = 48
"""So many points draw the path of a fly."""

SENTENCES = 3

A_TAKE_S = 4.0
"""A take that came to nothing is told of as if it had cost so many seconds in the zone (stated here)."""

A_WRONG_S = 1.5
"""The same of a strike at nothing, and of a touch that was logged as another (stated here)."""

PLAIN_M = 0.04
"""A fly that runs past the zone by less is not told of: an inch and a half is not to be set by hand."""

TOLD_FROM_S = 0.8
"""What cost less than so many seconds in all is not told."""


@dataclass(frozen=True, slots=True)
class Path:
    """A drift's lowest fly through the section: metres from the fish, downstream, and height above the bed at the fish."""

    x_m: tuple[float, ...]
    height_m: tuple[float, ...]
    lane: int
    outcome: str
    zone_s: float


@dataclass(frozen=True, slots=True)
class Section:
    """A lane as it is, and as it was judged; ``ground``: the bed along it, metres from the fish and height."""

    name: str
    depth_m: float
    judged_depth_m: float
    surface_speed_m_s: float
    judged_speed_m_s: float
    zone_low_m: float
    zone_high_m: float
    reach_m: float
    fish: int
    bed: str
    bed_ks_m: float
    ground_x_m: tuple[float, ...]
    ground_m: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Revealed:
    """What was there, what was fished, and what is to be learned."""

    sections: tuple[Section, ...]
    paths: tuple[Path, ...]
    sentences: tuple[str, ...]
    takes: int
    struck_in_time: int
    false_strikes: int
    paces_called: int
    paces_right: int


def _bed_along(hidden: Hidden, x: Sequence[float]) -> list[float]:
    """Return the bed's height above that at the fish, metres upstream being negative."""
    edge = -DROP_ABOVE_M
    return [
        hidden.slope * one + hidden.drop_m / (1.0 + float(np.exp(min(60.0, (one - edge) / DROP_OVER_M))))
        for one in x
    ]


def _section(hidden: Hidden, game: Game, there: Waters) -> Section:
    truth, judged = hidden.truth.water, hidden.judged.water
    zone = strike_zone(hidden.truth.fish, depth_m=truth.depth_m, temperature_c=truth.temperature_c)
    up = max((one.up_m for one in game.casts), default=3.0)
    x = [round(float(one), 2) for one in np.linspace(-up - 0.5, there.reach_m + 1.5, 60)]
    return Section(
        name=hidden.name,
        depth_m=truth.depth_m,
        judged_depth_m=judged.depth_m,
        surface_speed_m_s=truth.surface_speed_m_s,
        judged_speed_m_s=judged.surface_speed_m_s,
        zone_low_m=zone.low_m,
        zone_high_m=zone.high_m,
        reach_m=there.reach_m,
        fish=hidden.shoal.there,
        bed=truth.bed,
        bed_ks_m=truth.column().bed_ks_m * hidden.roughness,
        ground_x_m=tuple(x),
        ground_m=tuple(round(one, 3) for one in _bed_along(hidden, x)),
    )


def _path(one: Drifted) -> Path | None:
    ran = one.ran
    if ran is None:
        return None
    over = one.cast.strike_s if one.cast.strike_s is not None else ran.until_s
    last = max(2, int(np.searchsorted(ran.t_s, min(over, float(ran.t_s[-1])))))
    k = np.unique(np.linspace(0, last - 1, POINTS).astype(int))
    x, height = ran.x_m[k] - one.cast.up_m, ran.heights_m[0][k] + ran.ground_m[k]
    return Path(
        tuple(float(v) for v in np.round(x, 2)),
        tuple(float(v) for v in np.round(height, 3)),
        one.cast.lane,
        one.outcome,
        round(one.zone_s, 2),
    )


def _best(drift: Drifted, reach_m: float) -> float:
    """Return the seconds that a drift through the whole of the place would have had."""
    return 2.0 * reach_m / max(0.1, 0.9 * (drift.ran.speed_m_s if drift.ran else 1.0))


Lost = tuple[float, str]


def _near_heights(ran: Ran, up_m: float, reach_m: float) -> float | None:
    """Return the lowest fly's median height over the zone's top as it passes the fish, m; None where it never does."""
    close = near(ran, up_m, reach_m)
    return float(np.median(ran.heights_m[0][close])) if close.any() else None


def _short(drifts: Sequence[Drifted], reach_m: float) -> Lost | None:
    over: list[tuple[int, float]] = []
    lost = 0.0
    for k, one in enumerate(drifts):
        if one.ran is None or one.ran.held > 0.0:
            continue
        height = _near_heights(one.ran, one.cast.up_m, reach_m)
        settled = float(np.median(one.ran.heights_m[0][-len(one.ran.t_s) // 4 :]))
        if height is not None and settled > one.ran.zone.high_m + PLAIN_M:
            over.append((k, settled - one.ran.zone.high_m))
            lost += _best(one, reach_m) - one.zone_s
    if not over:
        return None
    told = f"Your flies ran {qty(fmean(gap for _, gap in over), 'm')} over the zone {_times(len(over))}"
    quick = [
        k
        for k, _ in over
        if drifts[k].rig.float_ is not None and drifts[k].ran is not None
        and pace_called(drifts[k].ran.pace) != "slower"  # type: ignore[union-attr]
    ]  # fmt: skip
    if quick:
        told += f"; the pace, not slower than the bubbles, said so from drift {quick[0] + 1}"
    return lost, f"{told}."


def _times(n: int) -> str:
    return "in one drift" if n == 1 else f"in {n} drifts"


def _under(drifts: Sequence[Drifted], reach_m: float) -> Lost | None:
    under = [
        (one, one.ran.zone.low_m - height)
        for one in drifts
        if one.ran is not None
        and (height := _near_heights(one.ran, one.cast.up_m, reach_m)) is not None
        and height < one.ran.zone.low_m - PLAIN_M
    ]
    if not under:
        return None
    lost = sum(_best(one, reach_m) - one.zone_s for one, _ in under)
    gap = qty(median(gap for _, gap in under), "m")
    return lost, f"Your flies ran {gap} under the fish {_times(len(under))}: these fed higher up."


def _late(drifts: Sequence[Drifted], reach_m: float) -> Lost | None:
    late: list[float] = []
    lost = 0.0
    for one in drifts:
        if one.ran is None or not one.ran.in_zone.any():
            continue
        first = float(one.ran.x_m[int(np.argmax(one.ran.in_zone))]) - one.cast.up_m
        if first > -reach_m:
            late.append(first + reach_m)
            lost += min(_best(one, reach_m), (first + reach_m) / max(0.1, one.ran.speed_m_s))
    if not late:
        return None
    further = qty(median(late), "m", 1)
    return (
        lost,
        f"{_times(len(late)).capitalize()} the flies came down too late: land them {further} further up.",
    )


def _dragged(drifts: Sequence[Drifted], reach_m: float) -> Lost | None:
    found = [one for one in drifts if one.ran is not None and one.ran.drags_s is not None]
    if not found:
        return None
    lost = sum(max(0.0, _best(one, reach_m) - one.zone_s) for one in found)
    after = qty(median(one.ran.drags_s for one in found if one.ran and one.ran.drags_s), "s", 1)
    return lost, f"The line dragged the float after {after} {_times(len(found))}: mend as the flies land."


def _hung(drifts: Sequence[Drifted], reach_m: float) -> Lost | None:
    found = [one for one in drifts if one.outcome in HANGS]
    if len(found) < 2:
        return None
    lost = sum(max(0.0, _best(one, reach_m) - one.zone_s) for one in found)
    return lost, f"You hung up {_times(len(found))}: shorter, or lighter."


def _elsewhere(game: Game, drifts: Sequence[Drifted], reach_m: float) -> Lost | None:
    found = [one for one in drifts if not counts(game, one.cast.lane)]
    if not found:
        return None
    lost = sum(_best(one, reach_m) for one in found)
    there = waters(game.drill, game.seed).lanes
    names = sorted({there[one.cast.lane - 1].name for one in found})
    return lost, f"{len(found)} drifts went through {' and '.join(names)}, where nobody was."


def _struck(drifts: Sequence[Drifted]) -> list[Lost]:
    found: list[Lost] = []
    late = sum(one.struck == "late" for one in drifts)
    unseen = sum(one.struck == "missed it" for one in drifts)
    nothing = sum(one.struck in ("at nothing", "at a stone") for one in drifts)
    if late:
        found.append(
            (A_TAKE_S * late, f"You struck too late {_times(late)}: at the first thing that lasts, strike.")
        )
    if unseen:
        found.append((A_TAKE_S * unseen, f"A fish had the fly {_times(unseen)} and you let it go by."))
    if nothing:
        found.append(
            (A_WRONG_S * nothing, f"You struck at what was no fish {_times(nothing)}; it costs that drift.")
        )
    return found


def _logged(drifts: Sequence[Drifted]) -> Lost | None:
    wrong = [
        k + 1 for k, one in enumerate(drifts) if one.cast.outcome is not None and one.cast.outcome != one.outcome
        and {one.cast.outcome, one.outcome} != set(HANGS)
    ]  # fmt: skip
    if not wrong:
        return None
    return A_WRONG_S * len(wrong), (
        f"{_times(len(wrong)).capitalize()} the log says other than what happened, first in drift {wrong[0]}: who "
        "learns from the log learns that."
    )


def _well(drifts: Sequence[Drifted], reach_m: float) -> str | None:
    """Say from when on it went well."""
    shares = [min(1.0, one.zone_s / _best(one, reach_m)) for one in drifts]
    for k in range(len(shares) - 2):
        if fmean(shares[k:]) >= 0.6 and shares[k] >= 0.5:
            return f"From drift {k + 1} on the flies were where the fish are for {percent(fmean(shares[k:]))} of the way."
    return None


def sentences(game: Game, drifts: Sequence[Drifted]) -> tuple[str, ...]:
    """Return the three sentences that matter most, the costliest first."""
    reach = waters(game.drill, game.seed).reach_m
    ways: tuple[Callable[[Sequence[Drifted], float], Lost | None], ...] = (
        _short,
        _under,
        _late,
        _dragged,
        _hung,
    )
    here = [one for one in drifts if counts(game, one.cast.lane)]
    found = [one for way in ways if (one := way(here, reach)) is not None]
    found += [one for one in (_elsewhere(game, drifts, reach), _logged(drifts)) if one is not None]
    found += _struck(drifts)
    told = [text for lost, text in sorted(found, key=lambda one: -one[0]) if lost >= TOLD_FROM_S]
    well = _well(drifts, reach)
    if well is not None:
        told = [*told[: SENTENCES - 1], well]
    return tuple(told[:SENTENCES])


def reveal(game: Game, drifts: Sequence[Drifted]) -> Revealed:
    """Lift the water off: what was there, where every drift went through it."""
    there = waters(game.drill, game.seed)
    called = [
        (one.cast.pace, pace_called(one.ran.pace))
        for one in drifts
        if one.ran is not None and one.rig.float_ is not None
    ]
    return Revealed(
        sections=tuple(_section(hidden, game, there) for hidden in there.lanes),
        paths=tuple(path for one in drifts if (path := _path(one)) is not None),
        sentences=sentences(game, drifts),
        takes=sum(one.take is not None for one in drifts),
        struck_in_time=sum(one.struck in ("hooked", "pricked") for one in drifts),
        false_strikes=sum(one.struck in ("at nothing", "at a stone") for one in drifts),
        paces_called=len(called),
        paces_right=sum(said == was for said, was in called),
    )


def passed(game: Game, revealed: Revealed, share: float) -> bool:
    """Return whether the bar of the drill was passed."""
    bar = BY_NAME[game.drill].bar
    if bar.measure == "takes":
        in_time = revealed.struck_in_time / max(1, revealed.takes)
        return revealed.takes > 0 and in_time >= bar.least and revealed.false_strikes <= revealed.takes
    if bar.measure == "pace":
        return revealed.paces_called > 0 and revealed.paces_right / revealed.paces_called >= bar.least
    return share >= bar.least
