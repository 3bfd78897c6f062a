"""The belief about a lie: how deep it is, how fast, and by how much the fly runs off its reckoned depth, after each drift.

A grid of depths, speeds and constant errors, each cell with its weight, begun from the reading with its spread. A drift's
outcome weighs every cell by how likely it would have been there (Bayes); the likelihood goes through the steady solver for the
rig that was on. Errors that stay all through a stop (drag, roughness, slope, the hand) do not average out over drifts: with
them in the grid the belief does not grow sure of what is wrong. What was fished at another spot of the lie counts, the less the
further away it is. It is a pure function of the drifts, so that an undo is exact.
"""

import math
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from typing import NamedTuple

from deriva.core.choose.evaluate import fishable_m, hang_rate
from deriva.core.choose.zone import Zone, strike_zone
from deriva.core.choose.zone_time import over_scatter, with_dry
from deriva.core.drift.sinking import FLOAT_SHAPE, TIP_SHAPE, share_sunk
from deriva.core.drift.touching import height_spread, touch_chance
from deriva.core.model.column import Column
from deriva.core.model.logged import LoggedDrift, Outcome, Pace
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.water import SPEED_SD_SHARE, Earlier
from deriva.core.ranges import DEPTH_M, DEPTH_SD_M, SPEED_SD_M_S, SURFACE_SPEED_M_S
from deriva.core.rigs.assemble import SIGHTER_CLEARANCE_M
from deriva.core.rigs.hung import family, hung
from deriva.core.water.bottom import FIRST, Bottom, Spot, expected, unlike
from deriva.core.water.profile import stone_height

DEPTH_CELLS, SPEED_CELLS = 15, 5
COUNTED_S = 15.0
"""What is counted of a drift, s: from cast to cast it is some 35, of which the cast and taking the line in again take twenty
(common practice, no source). In slow water a drift may last twice as long; what two rigs differ by is seen by then, and a fly
that is down early is right in a short drift and in a long one."""

REMEMBERED, REMEMBERED_RIGS = 8192, 256
"""Settled rigs kept: a few hundred a tap, most of them asked for again at the next; and rigs with what they do in all the
waters of a belief: a few a stop."""

REACH_SD, SPEED_REACH_SD = 3.0, 2.0
"""The grid spans so many standard deviations either way, of depth and of speed."""

WIDE_PART, WIDE_SD = 0.3, 1.7
"""Part of all readings that are further out than their stated error says, and by how much (common practice, no source)."""

LEAST_SD_SHARE = 0.05
"""No reading is surer than this (common practice, no source)."""

RUNS_OFF: dict[RigKind, float] = {"euro": 0.12, "indicator": 0.07, "dry_dropper": 0.07}
OFF_WEIGHTS = ((-1.0, 0.25), (0.0, 0.5), (1.0, 0.25))
"""What a fly runs deeper than reckoned all through a stop, as a share: so much more or less, each with a quarter of the weight.
Under a float 5 % (one standard deviation): drag of the fly known to 20 % and roughness of the bed within half and double do up
to 4 %, a lane that falls by 1 % does 3 to 4, and a line is measured to 2. A hand that is 5 cm off all the while makes it 9
(stated here).
"""

HANGS_OUT = 0.7
"""Share of its line that a rig which lies on the bed would hang deeper, were there no bed: the rest goes into its lean (stated
here)."""

UNFELT, UNFELT_SLOW, SLOW_M_S = 0.2, 0.4, (0.4, 0.1)
"""Ticks that go unfelt, and how many more in slow water, where they are slight; speeds from which, and at which all of those
(stated here)."""

WEED = 0.03
"""Clean drifts that are taken for a tick: weed, a leaf, a slip (stated here)."""

PACE_SCATTER = 0.07
SLOWER_UNDER, FASTER_OVER = 0.95, 1.0
"""How well an eye tells a float's pace from the bubbles', and what it calls slower and faster (common practice, no source)."""

SURPRISE = 0.04
"""The chance that a drift says nothing of the water: a leaf, a slip, a wrong key (common practice, no source)."""

LEAST_CHANCE = 1e-300
"""What cannot be told from nought has a logarithm all the same."""

DEAD_TAKE = 0.05
"""How likely a take is off the zone, beside one in it (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Cell:
    """One water that the lie may be, what a fly runs deeper there than reckoned (a share), and how much it is believed."""

    depth_m: float
    surface_speed_m_s: float
    weight: float
    runs_off: float = 0.0

    @property
    def as_reckoned_m(self) -> float:
        """The depth at which a fly that runs as reckoned would find what it finds here, m."""
        return self.depth_m / (1.0 + self.runs_off)


@dataclass(frozen=True, slots=True)
class Response:
    """What a rig does in one water: the chance to touch, the chance to hang up, the share of the drift in the zone, how many of
    its ticks are felt, and the float's pace over the bubbles' (None for a tip, whose pace is the hand's).
    """

    touch: float
    hung: float
    useful: float
    felt: float
    pace: float | None

    @property
    def tick(self) -> float:
        """The chance that a drift is logged as a tick."""
        felt = (self.touch - self.hung) * self.felt
        return felt + WEED * (1.0 - felt - self.hung)

    @property
    def clean(self) -> float:
        """The chance that a drift is logged as clean."""
        return 1.0 - self.tick - self.hung


def _phi(x: float) -> float:
    return 0.5 * (1.0 + math.erf(x / math.sqrt(2.0)))


class _Settled(NamedTuple):
    """What is remembered of a rig in one water: depths of its flies (the lower one's as it would hang without a bed, the upper
    below nought where there is none), whether the lowest lies on the bed, its sinking curve, the seconds of a drift, the pace
    of the top over the bubbles'.
    """

    low: float
    upper: float
    radius: float
    grounded: bool
    tau: float
    shape: float
    duration: float
    pace: float
    zone: Zone


@lru_cache(maxsize=REMEMBERED)
def _settled(rig: Rig, situation: Situation, column: Column) -> _Settled | None:
    water, depth, speed = situation.water, column.depth_m, column.surface_speed_m_s
    one = hung(rig, water, column)
    if one is None:
        return None
    low, upper = max(0.0, depth - one.low_m), -1.0
    deepest = depth if one.grounded else low
    if rig.dropper is not None:
        upper = max(0.0, depth - one.upper_m)
        deepest = max(deepest, upper)
    if one.grounded:  # it would hang deeper, were there no bed
        reach = rig.depth_setting_m - (SIGHTER_CLEARANCE_M if rig.float_ is None else 0.0)
        low = depth + HANGS_OUT * max(0.0, reach - depth)
    kin = family(rig, water.bed, water.temperature_c)
    counted_m = min(fishable_m(situation, rig.kind), COUNTED_S * speed)
    return _Settled(
        low=low,
        upper=upper,
        radius=kin.radius_m,
        grounded=one.grounded,
        tau=kin.tau_s(rig.depth_setting_m, deepest, speed),
        shape=TIP_SHAPE if rig.float_ is None else FLOAT_SHAPE,
        duration=counted_m / max(0.02, one.pace * speed),
        pace=one.pace,
        zone=strike_zone(situation.fish, depth_m=depth, temperature_c=water.temperature_c),
    )


def respond(rig: Rig, situation: Situation, column: Column, runs_off: float = 0.0) -> Response:
    """Return what a rig does in one water, over the scatter of casts, where its fly runs deeper by a share than reckoned; a rig
    that does not settle there tells nothing.
    """
    one = _settled(rig, situation, column)
    if one is None:
        return Response(0.5, 0.25, 0.0, 0.5, None)
    depth, tops, deeper = column.depth_m, stone_height(bed_ks_m=column.bed_ks_m), 1.0 + runs_off
    tip = rig.float_ is None
    spread = height_spread(depth, tip)
    low = min(depth, deeper * one.low)
    lies = one.grounded and low >= depth - one.radius
    rate = hang_rate(rig, situation) * max(0.02, one.pace * column.surface_speed_m_s)
    useful, hung = over_scatter(
        low, deeper * one.upper, depth, one.zone.low_m, one.zone.high_m, one.tau, one.shape, one.duration,
        one.radius, tops, rate, lies, spread, True,
    )  # fmt: skip
    if rig.kind == "dry_dropper" and one.zone.reaches(depth):
        useful = with_dry(useful, one.duration)
    under = depth - low * share_sunk(one.duration, one.tau, one.shape) - one.radius
    touch = touch_chance(under, tops, spread, lies)
    slow = (SLOW_M_S[0] - column.surface_speed_m_s) / (SLOW_M_S[0] - SLOW_M_S[1])
    felt = 1.0 - UNFELT - UNFELT_SLOW * min(1.0, max(0.0, slow))
    return Response(touch, min(hung, touch), min(1.0, useful / one.duration), felt, None if tip else one.pace)


@lru_cache(maxsize=REMEMBERED_RIGS)
def _responses(rig: Rig, situation: Situation) -> tuple[Response, ...]:
    """Return what a rig does in each of the waters that a situation may be, in the order of :func:`begin`."""
    return tuple(
        respond(rig, situation, situation.water.column(one.depth_m, one.surface_speed_m_s), one.runs_off)
        for one in begin(situation, rig.kind).cells
    )


def lies_on_the_bed(rig: Rig, situation: Situation, column: Column, runs_off: float = 0.0) -> bool:
    """Return whether the fly of a settled rig lies on the bed in one water: nobody sets a rig so."""
    one = _settled(rig, situation, column)
    return one is not None and one.grounded and (1.0 + runs_off) * one.low >= column.depth_m - one.radius


def counts_all(situation: Situation, kind: RigKind) -> bool:
    """Return whether a drift of a kind of rig is over by the time that is counted."""
    return fishable_m(situation, kind) <= COUNTED_S * situation.water.surface_speed_m_s


def likelihood(seen: LoggedDrift, there: Response) -> float:
    """Return how likely a drift was in a water, up to a factor that is the same for all."""
    outcome = {
        "clean": there.clean,
        "tick": there.tick,
        "hung": there.hung,
        "lost_fly": there.hung,
        "missed": DEAD_TAKE + there.useful,
        "fish": DEAD_TAKE + there.useful,
    }[seen.outcome]
    chance = SURPRISE + (1.0 - SURPRISE) * outcome
    if seen.pace is not None and there.pace is not None:
        slower = _phi((SLOWER_UNDER - there.pace) / PACE_SCATTER)
        faster = _phi((there.pace - FASTER_OVER) / PACE_SCATTER)
        seen_as = {"slower": slower, "faster": faster, "same": max(0.0, 1.0 - slower - faster)}[seen.pace]
        chance *= SURPRISE + (1.0 - SURPRISE) * seen_as
    return chance


@dataclass(frozen=True, slots=True)
class Belief:
    """Weighted waters that the lie may be; the weights add up to one. ``changed``: of the readings before, those after which
    the water has changed, for all that is known.
    """

    cells: tuple[Cell, ...]
    changed: frozenset[Earlier] = frozenset()

    def depth(self, share: float) -> float:
        """Return the depth, m, below which this share of the belief lies, between cells."""
        by_depth: dict[float, float] = {}
        for cell in self.cells:
            by_depth[cell.depth_m] = by_depth.get(cell.depth_m, 0.0) + cell.weight
        depths = sorted(by_depth)
        edges = [depths[0], *(math.sqrt(a * b) for a, b in pairwise(depths)), depths[-1]]
        below = 0.0
        for k, depth in enumerate(depths):
            weight = by_depth[depth]
            if below + weight >= share and weight > 0.0:
                inside = (share - below) / weight
                return edges[k] + inside * (edges[k + 1] - edges[k])
            below += weight
        return depths[-1]

    def gist(self, groups: int) -> tuple[Cell, ...]:
        """Return a few waters that stand for the belief: equal slices of it by depth as it would be reckoned, each at its
        mean.
        """
        found: list[Cell] = []
        weight = depth = speed = off = 0.0
        for cell in sorted(self.cells, key=lambda c: (c.as_reckoned_m, c.surface_speed_m_s)):
            left = cell.weight
            while left > 1e-12:
                part = min(left, 1.0 / groups - weight)
                weight += part
                depth += part * cell.depth_m
                speed += part * cell.surface_speed_m_s
                off += part * cell.runs_off
                left -= part
                if weight >= 1.0 / groups - 1e-12:
                    found.append(Cell(depth / weight, speed / weight, weight, off / weight))
                    weight = depth = speed = off = 0.0
        if weight > 1e-9:
            found.append(Cell(depth / weight, speed / weight, weight, off / weight))
        return tuple(found)


def _quantiles(count: int, reach_sd: float) -> list[tuple[float, float]]:
    """Return standard normal places with their weights: a bell with wide skirts."""
    places = [reach_sd * (2.0 * k / (count - 1) - 1.0) for k in range(count)]
    weights = [
        (1.0 - WIDE_PART) * math.exp(-0.5 * z * z) + WIDE_PART / WIDE_SD * math.exp(-0.5 * (z / WIDE_SD) ** 2)
        for z in places
    ]
    total = sum(weights)
    return [(z, w / total) for z, w in zip(places, weights, strict=True)]


def begin(situation: Situation, kind: RigKind) -> Belief:
    """Return the belief before any drift of a kind of rig: log-normal about depth and speed as read, with their spreads."""
    water = situation.water
    sd_depth = max(LEAST_SD_SHARE, water.spread_m / water.depth_m)
    speed = water.surface_speed_m_s
    sd_speed = max(
        LEAST_SD_SHARE, SPEED_SD_SHARE if water.speed_sd_m_s is None else water.speed_sd_m_s / speed
    )
    wide, fast = math.sqrt(math.log1p(sd_depth**2)), math.sqrt(math.log1p(sd_speed**2))
    return Belief(
        tuple(
            Cell(
                DEPTH_M.clamp(water.depth_m * math.exp(wide * z)),
                SURFACE_SPEED_M_S.clamp(speed * math.exp(fast * y)),
                w * v * part,
                RUNS_OFF[kind] * off,
            )
            for z, w in _quantiles(DEPTH_CELLS, REACH_SD)
            for y, v in _quantiles(SPEED_CELLS, SPEED_REACH_SD)
            for off, part in OFF_WEIGHTS
        )
    )


def at_spot(situation: Situation, bottom: Sequence[Bottom], here: Spot) -> Situation:
    """Return a situation as it is at one spot of its lie: as read, and as the bottom was found to be there and near it."""
    water = situation.water
    if here == FIRST and not bottom:
        return situation
    read = Bottom(FIRST.lane, FIRST.stance, water.depth_m, water.spread_m)
    depth, share = expected(read, bottom, here)
    depth = DEPTH_M.clamp(depth)
    speed, faster = water.surface_speed_m_s, unlike(FIRST, here)[1]
    sd_speed = SPEED_SD_SHARE * speed if water.speed_sd_m_s is None else water.speed_sd_m_s
    return replace(
        situation,
        water=replace(
            water,
            depth_m=depth,
            depth_sd_m=DEPTH_SD_M.clamp(share * depth),
            speed_sd_m_s=SPEED_SD_M_S.clamp(math.hypot(sd_speed, faster * speed)),
        ),
    )


def seen_from(logs: Sequence[float], cells: Sequence[Cell], spreads: tuple[float, float]) -> list[float]:
    """Return what the drifts at one spot say of another: the mean of their likelihood over what the one may be where the other
    is known, first over depth, then over speed. The cells are in the order of :func:`begin`.
    """
    most = max(logs)
    seen = [math.exp(value - most) for value in logs]
    per_depth = len(cells) // DEPTH_CELLS
    per_speed = per_depth // SPEED_CELLS
    depths = [math.log(cells[k * per_depth].depth_m) for k in range(DEPTH_CELLS)]
    speeds = [math.log(cells[k * per_speed].surface_speed_m_s) for k in range(SPEED_CELLS)]
    deep, fast = _blur(depths, spreads[0]), _blur(speeds, spreads[1])
    by_depth = [
        sum(w * seen[d * per_depth + rest] for d, w in enumerate(row))
        for row in deep
        for rest in range(per_depth)
    ]
    return [
        math.log(max(LEAST_CHANCE, sum(w * by_depth[d + s * per_speed + rest] for s, w in enumerate(row))))
        for d in range(0, len(cells), per_depth)
        for row in fast
        for rest in range(per_speed)
    ]


def _blur(places: Sequence[float], spread: float) -> list[list[float]]:
    """Return, for each place, the weights of all that it may really be."""
    rows = [[math.exp(-0.5 * ((b - a) / spread) ** 2) for b in places] for a in places]
    return [[w / sum(row) for w in row] for row in rows]


def learn(belief: Belief, situation: Situation, drifts: Iterable[LoggedDrift], here: Spot = FIRST) -> Belief:
    """Return the belief about a spot after some drifts there and at others of its lie, in any order.

    A drift that was fished when the lie was read otherwise is weighed in both waters that it may have been in: that of now,
    which was read badly then, and that of then, which has changed since as the readings have. What is in the depth as told says
    nothing more.
    """
    by_water: dict[Earlier | None, list[LoggedDrift]] = {}
    for one in drifts:
        by_water.setdefault(one.then, []).append(one)
    logs = [math.log(max(LEAST_CHANCE, cell.weight)) for cell in belief.cells]
    logs = _sums(logs, _said_from(by_water.pop(None, ()), belief, situation, here))
    known, changed = logs, set[Earlier]()
    for then, before in by_water.items():
        if then is None:
            continue
        was = replace(situation, water=then.of(situation.water))
        if_now, if_then = (
            [math.log(part) + said for said in _said_from(before, belief, one, here)]
            for one, part in ((situation, 1.0 - CHANGED), (was, CHANGED))
        )
        if _log_sum(_sums(known, if_then)) + math.log(SHOWN) >= _log_sum(_sums(known, if_now)):
            changed.add(then)
        logs = _sums(logs, [_log_sum(both) for both in zip(if_now, if_then, strict=True)])
    most = max(logs)
    weights = [math.exp(value - most) for value in logs]
    total = sum(weights)
    return Belief(
        tuple(
            replace(cell, weight=weight / total) for cell, weight in zip(belief.cells, weights, strict=True)
        ),
        frozenset(changed),
    )


CHANGED = 0.5
"""How likely a lie that is read to be otherwise than before has changed, and was not only read otherwise (stated here)."""

SHOWN = 3.0
"""How much likelier drifts have to make it that it was only read otherwise, before what touched then touches now as well
(stated here: a few drifts show it where it was so)."""


def _sums(some: Sequence[float], others: Sequence[float]) -> list[float]:
    return [a + b for a, b in zip(some, others, strict=True)]


def _log_sum(logs: Sequence[float]) -> float:
    """Return the logarithm of the sum of what some are the logarithms of."""
    most = max(logs)
    return most + math.log(sum(math.exp(one - most) for one in logs))


def _said_from(
    drifts: Iterable[LoggedDrift], belief: Belief, situation: Situation, here: Spot
) -> list[float]:
    """Return what drifts at some spots of a lie say of one, as logarithms. Depth and speed wander from spot to spot."""
    by_spot: dict[Spot, list[LoggedDrift]] = {}
    for one in drifts:
        if not one.in_bottom:
            by_spot.setdefault(one.spot, []).append(one)
    logs = {spot: _said_by(there, belief, situation) for spot, there in by_spot.items()}
    logs.setdefault(here, [0.0] * len(belief.cells))
    # each says what it says to the one next to it on the way here: two lanes side by side say the same thing of a third
    nearest = sorted(logs, key=lambda spot: (unlike(spot, here)[0], spot))
    for k in range(len(nearest) - 1, 0, -1):
        spot = nearest[k]
        beside = min(nearest[:k], key=lambda other: (unlike(spot, other)[0], other))
        logs[beside] = _sums(logs[beside], seen_from(logs[spot], belief.cells, unlike(spot, beside)))
    return logs[here]


def _said_by(drifts: Iterable[LoggedDrift], belief: Belief, situation: Situation) -> list[float]:
    """Return the logarithm of how likely drifts were in each of the waters; those of one rig are weighed together."""
    by_rig: dict[Rig, Counter[tuple[Outcome, Pace | None]]] = {}
    for one in drifts:
        by_rig.setdefault(one.rig, Counter())[one.outcome, one.pace] += 1
    logs = [0.0] * len(belief.cells)
    for rig, seen in by_rig.items():
        kinds = [
            (LoggedDrift(rig, outcome, pace), count)
            for (outcome, pace), count in sorted(seen.items(), key=str)
        ]
        for k, there in enumerate(_responses(rig, situation)):
            logs[k] += sum(count * math.log(likelihood(one, there)) for one, count in kinds)
    return logs
