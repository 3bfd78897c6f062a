"""The next change: what brings most time in the zone over the drifts to come, less what it costs to make and to lose flies.

The coach learns from what was done, not from what it said: it is a pure function of the drifts.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from deriva.core.choose.change import CYCLE_S, SECONDS
from deriva.core.choose.search import Search, advise, coarse
from deriva.core.coach.belief import (
    COUNTED_S,
    Belief,
    Cell,
    Response,
    begin,
    counts_all,
    learn,
    lies_on_the_bed,
    respond,
)
from deriva.core.coach.rule import Thumb, rule_of_thumb
from deriva.core.day.lies import judge_lie
from deriva.core.errors import DerivaError
from deriva.core.model.column import Column
from deriva.core.model.logged import LoggedDrift
from deriva.core.model.quantity import percent, qty
from deriva.core.model.rig import NAMES, Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import DECILE_Z
from deriva.core.ranges import DEPTH_SETTING_M
from deriva.core.rigs.offers import beads, other_fly
from deriva.core.rigs.parts import DRY_LONGEST_M
from deriva.core.rigs.resolve import resolve
from deriva.core.tackle.beads import LADDER_MM

Action = Literal["hold", "deeper", "shallower", "heavier", "lighter", "change_fly", "change_rig", "move_on"]

UP: tuple[Action, ...] = ("shallower", "lighter")

STEPS_M = (0.05, 0.10, 0.20, 0.30, 0.45, 0.65, 0.90, 1.30)
BEAD_STEPS_M = (0.0, 0.15, 0.35)
GROUPS = 11

TIME_SHARE = 0.3
"""What a drift's time is worth that is lost to knots or stones: about the share in the zone of an ordinary drift, fished by the
rule of thumb on a misjudged water (see `deriva bench`)."""

SWITCH_DRIFTS = 0.5
"""Drifts that going on to a better rig afterwards is reckoned to cost."""

LEARNING = 2.0
"""What knowing better is worth beside one step of looking ahead: the drifts after the next one teach as well (stated here)."""

SAME_SHARE = 0.03
LEAST_TO_COME, MOST_TO_COME = 6, 20

AS_RECKONED = 0.5
"""Hang-ups that the reckoned rate of a bed is worth beside those that were seen: no two beds of a class are alike (stated
here)."""

LOST_S = 40.0
"""What a hang-up costs beside the rest of its drift, s: six in ten are lifted out of at once, three are freed in 20 s, one
costs the fly and two and a half minutes (common practice, no source); and as much again for the fly and for fish that a pulled
line puts down (stated here)."""

WORTH_SHARE, NEAR_SHARE = 0.05, 0.02
"""What a change must bring of each drift to come, as a share in the zone: less is noise, and no reason to cut a knot; and how
much less than the best a smaller change may bring."""

TAKES_HOLD = 8
"""So many drifts after a take with the setting that is on, nothing about it is changed (common practice: a fish or a take
says that the setting is right)."""

DOWN = 0.3
"""Drifts with less of a share in the zone than this say nothing of the fish: a lie is not left for them (common practice)."""

LATELY, TWICE = 6, 2
"""Touches of so many of the last drifts that are a reason to go up or lighter (common practice: hung every two or three)."""

NEVER_DOWN = 6
"""So many drifts that were never down ask for another rig, where this one cannot get there (common practice)."""

HUNG_OF = 5
"""Of so many drifts two that hang up ask for a shorter line (common practice: hung every two or three casts)."""

CALM = 5
"""So many drifts a setting is given where it looks right (common practice: no touch in about six)."""

FASTER_RUN = 5
"""A dry that outruns the bubbles so often in a row lifts its nymph: another rig (common practice, no source)."""

TICKED = 6
"""Ticks in a row that an angler asks about (common practice, no source)."""

INCHES_M = 0.3
"""The most that a setting which touches is changed by at once, m: inches, or double that (common practice, no source)."""

REFUSED, FISHED_OUT = 3, 8.0
"""Missed takes that say to look at the hook, and whole drifts in the zone without a take that ask for another fly (common
practice, no source)."""

THERE, THERE_AFTER_TAKE, TAKES = 0.5, 0.7, 0.12
"""The chance that a fish which would take is at a lie that is worth fishing, and that another is once one has taken; and the
chance that it takes in a whole drift in the zone: one in eight (common practice, no source)."""

GONE = 0.3
"""Chance of a taking fish from which on a lie that has had its drifts is left (common practice, no source)."""

SURE = 0.6
"""A fly that is in the zone for this share of the drift, over the belief, is where it should be."""

OTHER_RIG = 0.15
"""By how much another rig must score higher, on the depth now believed, to be worth tying on."""

FAST_AND_TOUCHING = 3

HIGH_TAKES = 2
"""So many fish on the upper fly, on the drop or on the swing say that they feed higher (common practice, no source)."""

LEARNED_DRIFTS, LEARNED_SHARE = 5, 0.8
"""A depth is worth keeping after so many drifts, where it is known to within this share of the reading's spread."""


@dataclass(frozen=True, slots=True)
class Advised:
    """What to do next: the setting and bead to fish with, and the reason in one sentence."""

    action: Action
    rig: RigKind
    depth_setting_m: float
    point_bead_mm: float
    reason: str


@dataclass(frozen=True, slots=True)
class Learned:
    """A depth that the drifts have found, with its standard deviation, m: to be kept as an observation of the lie."""

    depth_m: float
    depth_sd_m: float


@dataclass(frozen=True, slots=True)
class Coaching:
    """What the drifts say of the depth, what to do next, and what the rule of thumb would do.

    ``learned`` is None while the drifts say no more than the reading did; ``taking_fish`` is the chance that a fish which would
    take is there.
    """

    belief: Belief
    advice: Advised
    thumb: Thumb | None
    in_zone: float
    notes: tuple[str, ...]
    taking_fish: float
    learned: Learned | None = None


@dataclass(frozen=True, slots=True)
class _Option:
    """A rig that could be fished next, what it does in each of the likely waters, the drifts that tying it costs, and how much
    oftener than reckoned it hangs up.
    """

    rig: Rig
    there: tuple[Response, ...]
    cost: float
    snags: float = 1.0

    def net(self, k: int) -> float:
        """Share of a drift in the zone in one water, less what its hang-ups cost in drifts."""
        one = self.there[k]
        return one.useful - min(1.0, self.snags * one.hung) * LOST_S / CYCLE_S * TIME_SHARE

    def mean(self, weights: Sequence[float]) -> float:
        """Return the same over the belief."""
        return sum(w * self.net(k) for k, w in enumerate(weights))

    def useful(self, weights: Sequence[float]) -> float:
        """Return the share of the drift in the zone over the belief."""
        return sum(w * self.there[k].useful for k, w in enumerate(weights))


@dataclass(frozen=True, slots=True)
class _Gist:
    """A few waters that stand for the belief, and what a rig does in them."""

    situation: Situation
    cells: tuple[Cell, ...]
    snags: float = 1.0

    @property
    def weights(self) -> list[float]:
        """How much each is believed."""
        return [cell.weight for cell in self.cells]

    def _column(self, cell: Cell) -> Column:
        return self.situation.water.column(cell.depth_m, cell.surface_speed_m_s)

    def option(self, rig: Rig, cost: float = 0.0) -> _Option:
        """Return a rig with what it does in each."""
        there = (respond(rig, self.situation, self._column(cell), cell.runs_off) for cell in self.cells)
        return _Option(rig, tuple(there), cost, self.snags)

    def with_snags(self, drifts: Sequence[LoggedDrift]) -> "_Gist":
        """Return it with how much oftener than reckoned this bed hangs a fly up, as far as the drifts have shown."""
        hung = sum(one.outcome in ("hung", "lost_fly") for one in drifts)
        reckoned = 0.0
        for rig, count in Counter(one.rig for one in drifts).items():
            there = self.option(rig).there
            reckoned += count * sum(w * one.hung for w, one in zip(self.weights, there, strict=True))
        return replace(self, snags=(hung + AS_RECKONED) / (reckoned + AS_RECKONED))

    def hangs_free(self, rig: Rig) -> bool:
        """Return whether a rig is clear of the bed in the middle one: nobody sets it to lie there."""
        middle = self.cells[len(self.cells) // 2]
        return not lies_on_the_bed(rig, self.situation, self._column(middle), middle.runs_off)


def _chances(there: Response) -> tuple[float, float, float]:
    """Return the chances of a clean drift, a tick and a hang-up in one water."""
    return there.clean, there.tick, there.hung


def _worth(option: _Option, options: Sequence[_Option], weights: Sequence[float], to_come: float) -> float:
    """Return the drifts in the zone that a rig brings if it is fished from now on, and what its first drift teaches.

    What it teaches is worth what the best rig after knowing its outcome brings more than the best rig without: a drift that
    may touch tells more than one that cannot.
    """
    later = max(0.0, to_come - 1.0 - SWITCH_DRIFTS)
    knowing = 0.0
    for outcome in range(3):
        after = [w * _chances(option.there[k])[outcome] for k, w in enumerate(weights)]
        knowing += max(other.mean(after) for other in options)
    blind = max(other.mean(weights) for other in options)
    return to_come * option.mean(weights) + LEARNING * later * max(0.0, knowing - blind) - option.cost


def _seconds(rig: Rig, after: Rig) -> float:
    cost = 0.0
    if after.depth_setting_m != rig.depth_setting_m:
        longer = after.depth_setting_m > rig.depth_setting_m
        cost += SECONDS["slide"] if rig.kind == "indicator" else SECONDS["lengthen" if longer else "shorten"]
    if after.point.bead_mm != rig.point.bead_mm:
        cost += SECONDS["bead"]
    return cost


def _options(rig: Rig, situation: Situation) -> list[Rig]:
    """Return the rigs a change of depth, of one bead, or of both away."""
    found: list[Rig] = []
    on = Tuning.of(rig)
    ladder = beads(situation)
    bead = rig.point.bead_mm or 0.0
    near = [b for b in ladder if b != bead]
    wanted = [(d * sign, bead) for d in STEPS_M for sign in (1, -1)]
    wanted += [(d * sign, b) for b in near for d in BEAD_STEPS_M for sign in ((1, -1) if d else (1,))]
    for by, mm in wanted:
        setting = round(rig.depth_setting_m + by, 2)
        longest = DRY_LONGEST_M if rig.kind == "dry_dropper" else DEPTH_SETTING_M.hi
        if not DEPTH_SETTING_M.lo <= setting <= max(longest, rig.depth_setting_m):
            continue
        try:
            # the float is chosen anew for the weight
            found.append(
                resolve(replace(on, depth_setting_m=setting, point_bead_mm=mm, float_=None), situation)
            )
        except DerivaError:
            continue  # no float carries it, or the flies do not fit
    return found


def _action(rig: Rig, after: Rig) -> Action:
    """Name a change by its depth, which comes first in the hand too, and by its weight where the depth stays."""
    if after.depth_setting_m != rig.depth_setting_m:
        return "deeper" if after.depth_setting_m > rig.depth_setting_m else "shallower"
    return "heavier" if (after.point.bead_mm or 0.0) > (rig.point.bead_mm or 0.0) else "lighter"


def _notes(drifts: Sequence[LoggedDrift]) -> tuple[str, ...]:
    """Say what the evidence points to beside depth."""
    said: list[str] = []
    fast_and_low = sum(one.pace == "faster" and one.outcome in ("tick", "hung", "lost_fly") for one in drifts)
    if fast_and_low >= FAST_AND_TOUCHING:
        said.append(
            "Faster than the bubbles and touching: the bottom may outrun the top here. Fish mid-water, or the edge."
        )
    takes = [one for one in drifts if one.fly is not None]
    high = sum(one.fly in ("dropper", "dry") or one.phase in ("drop", "swing") for one in takes)
    if high >= HIGH_TAKES and 2 * high > len(takes):
        said.append(
            f"{high} of {len(takes)} fish took the upper fly, or on the drop or the swing: they feed higher than the bed."
        )
    return tuple(said)


def _here(drifts: Sequence[LoggedDrift]) -> int:
    """Count the drifts at the rig that is on."""
    return next((k for k, one in enumerate(reversed(drifts)) if one.rig != drifts[-1].rig), len(drifts))


def _other(
    rig: Rig, situation: Situation, middle_m: float, search: Search, clearly: float = OTHER_RIG
) -> RigKind | None:
    """Return another kind of rig that is better by so much on the depth now believed; None where there is none."""
    here = replace(situation, water=replace(situation.water, depth_m=middle_m, depth_sd_m=0.1 * middle_m))
    ranked = advise(here, search).ranked
    mine = next(one.score for one in ranked if one.kind == rig.kind)
    best = ranked[0]
    return best.kind if best.kind != rig.kind and best.score > mine + clearly else None


def _founded(rig: Rig, after: Rig, drifts: Sequence[LoggedDrift], in_zone: float = 0.0) -> bool:
    """Return whether a change has been asked for.

    A rig that is where it should be is not sent deeper for a few clean drifts.

    One touch is no reason to fish higher or lighter yet, and what touches is changed by inches: only a fly that never came
    down tells of a misread depth.
    """
    up = _action(rig, after) in UP
    touches = sum(one.outcome in ("tick", "hung", "lost_fly") for one in drifts[-LATELY:])
    by_inches = round(abs(after.depth_setting_m - rig.depth_setting_m), 2) <= INCHES_M
    beads = sorted((rig.point.bead_mm or 0.0, after.point.bead_mm or 0.0))
    rungs = sum(beads[0] < rung <= beads[1] for rung in LADDER_MM)
    if drifts and rungs > (1 if touches else 2):
        return False
    if not drifts:
        return by_inches
    if not up and in_zone >= SURE and _here(drifts) < CALM:
        return False
    return by_inches and touches >= TWICE if up else by_inches or touches == 0


def _hung_lately(drifts: Sequence[LoggedDrift]) -> bool:
    """Return whether every second or third drift hangs up: then it is up by a few centimetres, whatever is reckoned."""
    here = drifts[-min(HUNG_OF, _here(drifts)) :]
    return sum(one.outcome in ("hung", "lost_fly") for one in here) >= TWICE


def _taken(drifts: Sequence[LoggedDrift]) -> str | None:
    """Say why the setting that is on is not touched, where fish have just taken on it."""
    here = drifts[-min(TAKES_HOLD, _here(drifts)) :] if drifts else ()
    missed = sum(one.outcome == "missed" for one in here)
    if missed >= REFUSED:
        return f"{missed} takes missed: the depth is right. Look at the hook, strike sooner, then a size smaller."
    if any(one.outcome in ("fish", "missed") for one in here):
        return "Taken so: fish the same again."
    return None


@dataclass(frozen=True, slots=True)
class _Standing:
    """How a stop stands: the belief's middle depth, the share in the zone of the rig that is on, the drifts in the zone so far
    (at this rig, and since the last take at all), and the odds that a fish which would take is there.
    """

    middle_m: float
    in_zone: float
    fished_here: float
    taking_fish: float


def _standing(rig: Rig, drifts: Sequence[LoggedDrift], belief: Belief, gist: _Gist) -> _Standing:
    weights = gist.weights
    useful = {one: gist.option(one).useful(weights) for one in {rig, *(drift.rig for drift in drifts)}}
    took = [k for k, one in enumerate(drifts) if one.outcome in ("fish", "missed")]
    since = drifts[took[-1] + 1 :] if took else drifts
    in_vain = sum(useful[one.rig] for one in since)
    there = (THERE_AFTER_TAKE if took else THERE) * (1.0 - TAKES) ** in_vain
    not_there = 1.0 - (THERE_AFTER_TAKE if took else THERE)
    return _Standing(
        middle_m=belief.depth(0.5),
        in_zone=useful[rig],
        fished_here=_here(drifts) * useful[rig],
        taking_fish=there / (there + not_there),
    )


def _had_its_due(
    rig: Rig, drifts: Sequence[LoggedDrift], situation: Situation, stands: _Standing
) -> tuple[Action, RigKind, str] | None:
    """Return that a lie is to be left: it has had its drifts, and enough of them in the zone to say that nothing takes."""
    due = judge_lie(situation).drifts
    if len(drifts) < due or stands.in_zone < DOWN or stands.taking_fish > GONE:
        return None
    said = f"This lie deserves {due} drifts and has had {len(drifts)}; a fish that takes is there {_odds(stands)}: move on."
    return "move_on", rig.kind, said


def _beyond(
    rig: Rig, drifts: Sequence[LoggedDrift], situation: Situation, stands: _Standing, search: Search
) -> tuple[Action, RigKind, str] | None:
    """Return a change of fly or rig, where the setting is not what is wrong."""
    here = _here(drifts)
    if stands.in_zone < DOWN and here >= NEVER_DOWN:
        other = _other(rig, situation, stands.middle_m, search)
        if other is not None:
            return "change_rig", other, f"Never down in {here} drifts: {NAMES[other].lower()} gets there."
    if stands.in_zone < SURE or here < REFUSED or any(one.outcome in ("fish", "missed") for one in drifts):
        return None
    if stands.fished_here >= FISHED_OUT:
        other = _other(rig, situation, stands.middle_m, search)
        if other is not None:
            return "change_rig", other, f"In the zone and untouched: {NAMES[other].lower()} does better here."
        fly = other_fly(situation, rig.point)
        return (
            "change_fly",
            rig.kind,
            f"In the zone for {here} drifts and not taken: another fly. Try a {fly.words}, size {fly.hook}, set as it is.",
        )
    return None


def _outrun(
    rig: Rig, drifts: Sequence[LoggedDrift], situation: Situation, stands: _Standing, search: Search
) -> tuple[Action, RigKind, str] | None:
    """Return another rig for a dry that runs ahead of the bubbles drift after drift, its nymph never down."""
    run = drifts[-FASTER_RUN:]
    ahead = len(run) == FASTER_RUN and all(one.pace == "faster" and one.outcome == "clean" for one in run)
    if rig.kind != "dry_dropper" or not ahead or stands.in_zone >= DOWN:
        return None
    other = _other(rig, situation, stands.middle_m, search, 0.0)
    if other is None:
        return None
    said = f"The dry has outrun the bubbles {FASTER_RUN} times: it lifts its nymph. {NAMES[other]} gets down here."
    return "change_rig", other, said


def _all_ticks(drifts: Sequence[LoggedDrift]) -> str | None:
    """Say why a rig that ticks on every drift is held all the same."""
    if (
        len(drifts) < TICKED
        or _here(drifts) < TICKED
        or any(one.outcome != "tick" for one in drifts[-TICKED:])
    ):
        return None
    return f"A tick on each of the last {TICKED} and none hung: the fly runs on the tops of the stones. Lighter once it hangs."


def _odds(stands: _Standing) -> str:
    return f"{max(1, round(10.0 * stands.taking_fish))} times in 10"


def learned(belief: Belief, situation: Situation, drifts: Sequence[LoggedDrift]) -> Learned | None:
    """Return the depth that the drifts have found, if they say more than the reading did."""
    spread = (belief.depth(0.9) - belief.depth(0.1)) / (2.0 * DECILE_Z[-1])
    if len(drifts) < LEARNED_DRIFTS or spread > LEARNED_SHARE * situation.water.spread_m:
        return None
    return Learned(round(belief.depth(0.5), 2), round(max(spread, 0.01), 3))


def _best(now: _Option, others: Sequence[_Option], weights: Sequence[float], to_come: float) -> _Option:
    """Return the rig to fish on with: the one that is on, unless another is worth a change.

    Of those that are worth as much as the best, but for the noise, the smallest step is made.
    """
    options = [now, *others]
    worth = [_worth(one, options, weights, to_come) for one in others]
    stays = _worth(now, options, weights, to_come)
    if max(worth, default=stays) <= stays + WORTH_SHARE * to_come:
        return now
    near = [
        one
        for one, its in zip(others, worth, strict=True)
        if its > max(stays, max(worth) - NEAR_SHARE * to_come)
    ]
    return min(near, key=lambda one: _step(now.rig, one.rig))


def _step(rig: Rig, after: Rig) -> tuple[bool, float]:
    """Order changes as they are made: the depth before the bead, and by inches."""
    return after.point.bead_mm != rig.point.bead_mm, abs(after.depth_setting_m - rig.depth_setting_m)


def first_setting(situation: Situation, rig: Rig) -> Rig:
    """Return what to tie on before the first drift: the rig that is advised, or with what bead and line, within inches of it,
    the belief gives most to.

    Nothing is tied yet, so that no change has to pay for itself. Weight has no price here as it has in the advice: a heavy fly
    tells where the bottom is, and a lighter one is tied on sooner than a bottom is found.
    """
    gist = _Gist(situation, begin(situation).gist(GROUPS))
    rigs = [
        rig,
        *(one for one in _options(rig, situation) if _founded(rig, one, ()) and gist.hangs_free(one)),
    ]
    options, to_come = [gist.option(one) for one in rigs], float(MOST_TO_COME)
    return max(options, key=lambda one: _worth(one, options, gist.weights, to_come)).rig


def _changed(
    now: _Option, drifts: Sequence[LoggedDrift], gist: _Gist, in_zone: float, to_come: float
) -> _Option:
    """Return the rig to fish on with: the one that is on, unless another is asked for and worth it."""
    rig, weights = now.rig, gist.weights
    others = [
        one
        for one in _options(rig, gist.situation)
        if _founded(rig, one, drifts, in_zone) and (_action(rig, one) in UP or gist.hangs_free(one))
    ]
    options = [gist.option(one, _seconds(rig, one) / CYCLE_S * TIME_SHARE) for one in others]
    best = _best(now, options, weights, to_come)
    ups = [one for one in options if _action(rig, one.rig) in UP]
    if best is now and ups and _hung_lately(drifts):
        return max(ups, key=lambda one: _worth(one, [now, *ups], weights, to_come))
    return best


def coach(situation: Situation, rig: Rig, drifts: Sequence[LoggedDrift], search: Search = coarse) -> Coaching:
    """Return what to do next with the rig that is on, after some drifts (oldest first) at a lie."""
    belief = learn(begin(situation), situation, drifts)
    gist = _Gist(situation, belief.gist(GROUPS)).with_snags(drifts)
    to_come = float(min(MOST_TO_COME, max(LEAST_TO_COME, judge_lie(situation).drifts - len(drifts))))
    stands = _standing(rig, drifts, belief, gist)
    middle, in_zone = stands.middle_m, stands.in_zone
    taken, part = _taken(drifts), _part(situation, rig)
    best = now = gist.option(rig)
    beyond: tuple[Action, RigKind, str] | None = None
    # what has just been taken is fished again, and a first setting until a drift has been fished
    if drifts and taken is None:
        due = _had_its_due(rig, drifts, situation, stands)
        beyond = due or _outrun(rig, drifts, situation, stands, search)
        if beyond is None:
            best = _changed(now, drifts, gist, in_zone, to_come)
        if beyond is None and best is now:
            beyond = _beyond(rig, drifts, situation, stands, search)
    if beyond is not None:
        action, kind, reason = beyond
    elif best is now:
        action, kind = "hold", rig.kind
        zone = f"In the zone for {percent(in_zone)} of {part} if it is {qty(middle, 'm')} deep: hold."
        reason = taken or _all_ticks(drifts) or zone
    else:
        action, kind = _action(rig, best.rig), rig.kind
        then = best.useful(gist.weights)
        reason = (
            _why_up(drifts, then, part)
            if action in UP and _hung_lately(drifts)
            else _why_back(rig, drifts, action, then, part) or _why(belief, then, in_zone, action, part)
        )
    advice = Advised(action, kind, best.rig.depth_setting_m, best.rig.point.bead_mm or 0.0, reason)
    return Coaching(
        belief=belief,
        advice=advice,
        thumb=rule_of_thumb(drifts) if drifts else None,
        in_zone=in_zone,
        notes=_notes(drifts),
        taking_fish=stands.taking_fish,
        learned=learned(belief, situation, drifts),
    )


def _part(situation: Situation, rig: Rig) -> str:
    """Name what shares in the zone are shares of."""
    return "the drift" if counts_all(situation, rig.kind) else f"the drift's first {COUNTED_S:g} s"


def _why_up(drifts: Sequence[LoggedDrift], then: float, part: str) -> str:
    """Say why a rig that hangs is fished higher or lighter."""
    here = drifts[-min(HUNG_OF, _here(drifts)) :]
    hung = sum(one.outcome in ("hung", "lost_fly") for one in here)
    share = percent(then)
    return f"Hung on {hung} of the last {len(here)}: up by a little. So set, the fly is in the zone for {share} of {part}."


def _why_back(rig: Rig, drifts: Sequence[LoggedDrift], action: Action, then: float, part: str) -> str | None:
    """Say why a rig goes back the way that it came; None where it does not."""
    before = next((one.rig for one in reversed(drifts) if one.rig != rig), None)
    if before is None or drifts[-1].rig != rig or (_action(before, rig) in UP) == (action in UP):
        return None
    here = drifts[-_here(drifts) :]
    touched = sum(one.outcome in ("tick", "hung", "lost_fly") for one in here)
    share = percent(then)
    return f"Back again, since {touched or 'none'} of {len(here)} so set touched: the fly is in the zone for {share} of {part}."


def _why(belief: Belief, then: float, now: float, action: Action, part: str) -> str:
    """Say why a change is worth making: it fishes better, or it finds the bottom."""
    span = f"It looks {qty(belief.depth(0.1), 'm')} to {qty(belief.depth(0.9), 'm')} deep"
    if then > now + SAME_SHARE:
        return f"{span}: so set, the fly is in the zone for {percent(then)} of {part}, not {percent(now)}."
    does = "clears the stones" if action in ("shallower", "lighter") else "finds the bottom"
    return f"{span}: this {does}, and what it says is worth more than what it costs."
