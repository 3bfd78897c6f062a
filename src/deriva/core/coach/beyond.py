"""Where the setting is not what is wrong: another fly, another rig, or another lie."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from deriva.core.choose.search import Search, advise
from deriva.core.coach.belief import Belief
from deriva.core.coach.evidence import REFUSED, drifts_here, drifts_shown
from deriva.core.coach.odds import Odds, in_ten, odds
from deriva.core.coach.options import SURE, Action, Gist
from deriva.core.day.lies import judge_lie
from deriva.core.model.logged import LoggedDrift
from deriva.core.model.quantity import qty
from deriva.core.model.rig import NAMES, Rig
from deriva.core.model.situation import Situation
from deriva.core.ranges import DEPTH_M
from deriva.core.rigs.offers import on_bead, other_fly
from deriva.core.tackle.flies import Fly
from deriva.core.water.bottom import Spot

DOWN = 0.3
"""Drifts with less of a share in the zone than this say nothing of the fish: a lie is not left for them (common practice)."""

NEVER_DOWN = 6
"""So many drifts that were never down ask for another rig, where this one cannot get there (common practice)."""

FLIES = 2
"""Other flies that are shown before a lie is taken to be empty, or its fish to want none (common practice, no source)."""

FASTER_RUN = 5
"""A dry that outruns the bubbles so often in a row lifts its nymph: another rig (common practice, no source)."""

FISHED_OUT = 8.0
"""Whole drifts in the zone without a take that ask for another fly (common practice, no source)."""

OTHER_RIG = 0.15
"""By how much another rig must score higher, on the depth now believed, to be worth tying on."""

OTHER_DEPTHS = 0.05
"""Another rig is looked for at depths so far apart, as a share. Each drift moves the depth believed by a hundredth or so; known
to no more than :data:`BELIEVED_TO` it is the same water, and the next word, which asks again, has the answer (stated here)."""

BELIEVED_TO = 0.1
"""Spread of the depth that another rig is looked for with, as a share: late in a stop it is known so well (stated here)."""


def _pattern(fly: Fly) -> str:
    return f"{fly.words} {fly.hook}"


def _fly_not_shown(situation: Situation, point: Fly, drifts: Sequence[LoggedDrift]) -> Fly | None:
    """Return what to show next; None where all that there is to show has been."""
    shown = {_pattern(point), *(one.pattern for one in drifts)}
    fly = point
    for _ in range(FLIES):
        fly = other_fly(situation, fly)
        if _pattern(fly) not in shown:
            return fly
    return None


def _other(
    rig: Rig, situation: Situation, middle_m: float, search: Search, clearly: float = OTHER_RIG
) -> Rig | None:
    """Return another kind of rig, as it is to be set, that is better by so much on the depth now believed; None where there is
    none.
    """
    depth_m = DEPTH_M.clamp(math.exp(OTHER_DEPTHS * round(math.log(middle_m) / OTHER_DEPTHS)))
    here = replace(
        situation, water=replace(situation.water, depth_m=depth_m, depth_sd_m=BELIEVED_TO * depth_m)
    )
    usable = advise(here, search).usable
    mine = next((one.score for one in usable if one.kind == rig.kind), 0.0)
    better = usable[:1] if usable and usable[0].score > mine + clearly else ()
    return next((one.rig for one in better if one.kind != rig.kind), None)


@dataclass(frozen=True, slots=True)
class StopSoFar:
    """How a stop stands: the belief's middle depth, the share in the zone of the rig that is on, the odds of a take; and how
    many drifts the rig that is on has had at the spot.
    """

    middle_m: float
    in_zone: float
    odds: Odds
    so_set: int


def standing_of(
    rig: Rig, drifts: Sequence[LoggedDrift], near: Sequence[LoggedDrift], belief: Belief, gist: Gist
) -> StopSoFar:
    """Return how a stop stands after its drifts; ``near`` are those at the spot itself."""
    weights = gist.weights
    useful = {one: gist.option(one).useful(weights) for one in {rig, *(drift.rig for drift in drifts)}}
    return StopSoFar(
        middle_m=belief.depth(0.5),
        in_zone=useful[rig],
        odds=odds(drifts, useful, drifts[-1].pattern if drifts else None, useful[rig]),
        so_set=drifts_here(near),
    )


@dataclass(frozen=True, slots=True)
class Beyond:
    """What to do where the setting is not what is wrong: the rig to fish with then, and the fly, where it is to be another."""

    action: Action
    rig: Rig
    reason: str
    fly: Fly | None = None


def had_its_due(
    rig: Rig, drifts: Sequence[LoggedDrift], situation: Situation, stands: StopSoFar
) -> Beyond | None:
    """Return that a lie is to be left: it has had its drifts, enough of them in the zone, and other water is worth more."""
    due, now = judge_lie(situation).drifts, stands.odds
    if len(drifts) < due or stands.in_zone < DOWN or now.other_water < max(now.go_on, now.other_fly):
        return None
    said = f"This lie deserves {due} drifts and has had {len(drifts)}; a fish that feeds is there {in_ten(now.there)}: move on."
    return Beyond("move_on", rig, said)


def next_lane(
    drifts: Sequence[LoggedDrift], situation: Situation, stands: StopSoFar, here: Spot
) -> str | None:
    """Say that a lane has had its share of the drifts that its lie deserves: near to far, then two steps up (common practice).

    Drifts that were never down are none, and a lane in which one has taken is fished on.
    """
    lie = judge_lie(situation)
    near = [one for one in drifts if one.spot == here]
    if lie.lanes == 1 or stands.in_zone < DOWN or len(near) < lie.drifts_a_lane or len(drifts) >= lie.drifts:
        return None
    if any(one.outcome in ("fish", "missed") for one in near):
        return None
    there = "The next lane out" if here.lane < lie.lanes else "Two steps up, and the near lane again"
    return f"{there}: this one has had {len(near)} of the {lie.drifts} drifts that {lie.lanes} lanes deserve."


def _tie(rig: Rig, why: str) -> Beyond:
    """Return another rig with where to start again."""
    at = f"{qty(rig.depth_setting_m, 'm')} with {on_bead(rig.point)}"
    return Beyond("change_rig", rig, f"{why}, set at {at}.")


def other_fly_or_rig(
    rig: Rig,
    drifts: Sequence[LoggedDrift],
    situation: Situation,
    stands: StopSoFar,
    search: Search,
) -> Beyond | None:
    """Return a change of fly or rig, where the setting is not what is wrong."""
    here, shown = stands.so_set, drifts_shown(drifts)
    if stands.in_zone < DOWN and here >= NEVER_DOWN:
        other = _other(rig, situation, stands.middle_m, search)
        if other is not None:
            return _tie(other, f"Never down in {here} drifts: {NAMES[other.kind].lower()} gets there")
    if stands.in_zone < SURE or here < REFUSED or any(one.outcome in ("fish", "missed") for one in drifts):
        return None
    if shown * stands.in_zone >= FISHED_OUT:
        other = _other(rig, situation, stands.middle_m, search)
        if other is not None:
            return _tie(other, f"In the zone and untouched: {NAMES[other.kind].lower()} does better here")
        fly = _fly_not_shown(situation, rig.point, drifts)
        if fly is not None:
            said = f"In the zone for {shown} drifts and not taken: another fly. Try a {fly.words}, size {fly.hook}"
            return Beyond("change_fly", rig, f"{said}, set as it is.", fly)
    return None


def outrun(
    rig: Rig, drifts: Sequence[LoggedDrift], situation: Situation, stands: StopSoFar, search: Search
) -> Beyond | None:
    """Return another rig for a dry that runs ahead of the bubbles drift after drift, its nymph never down."""
    run = drifts[-FASTER_RUN:]
    ahead = len(run) == FASTER_RUN and all(one.pace == "faster" and one.outcome == "clean" for one in run)
    if rig.kind != "dry_dropper" or not ahead or stands.in_zone >= DOWN:
        return None
    other = _other(rig, situation, stands.middle_m, search, 0.0)
    if other is None:
        return None
    name = NAMES[other.kind]
    return _tie(
        other, f"The dry has outrun the bubbles {FASTER_RUN} times: it lifts its nymph. {name} gets down here"
    )
