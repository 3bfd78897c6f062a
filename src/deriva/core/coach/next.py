"""The next change: what brings most time in the zone over the drifts to come, less what it costs to make and to lose flies.

The coach learns from what was done, not from what it said: it is a pure function of the drifts.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from deriva.core.choose.search import Search, coarse
from deriva.core.coach.belief import Belief, begin, learn
from deriva.core.coach.beyond import Beyond, had_its_due, next_lane, other_fly_or_rig, outrun, standing_of
from deriva.core.coach.evidence import HUNG_EVERY, hung_lately, notes_on, touched_each, why_kept, why_touching
from deriva.core.coach.odds import Odds
from deriva.core.coach.options import (
    GROUPS,
    LEAST_TO_COME,
    MOST_TO_COME,
    UP,
    WORTH_SHARE,
    Action,
    Gist,
    Option,
    best_among,
    best_setting,
    change_to,
    is_asked_for,
    settings_here,
    settings_near,
    tying,
    worth_of,
)
from deriva.core.coach.rule import Thumb, rule_of_thumb
from deriva.core.coach.why import (
    part_counted,
    why_back,
    why_begun,
    why_changed,
    why_counted_then,
    why_dearer,
    why_less,
    why_not_deeper,
    why_up,
)
from deriva.core.day.lies import judge_lie
from deriva.core.model.logged import LoggedDrift
from deriva.core.model.quantity import percent, qty
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.water import DECILE_Z
from deriva.core.tackle.flies import Fly
from deriva.core.water.bottom import FIRST, Spot

LEARNED_DRIFTS, LEARNED_SHARE = 5, 0.8
"""A depth is worth keeping after so many drifts, where it is known to within this share of the reading's spread."""


@dataclass(frozen=True, slots=True)
class Advised:
    """What to do next: setting and bead of the rig that is on, and the reason in one sentence. The point fly where it is to be
    another; where the rig is, ``rig`` is that one, and ``start_…`` where to start again with it. ``float_`` is the float or dry
    to change to where the one that is on would go under.
    """

    action: Action
    rig: RigKind
    depth_setting_m: float
    point_bead_mm: float | None
    reason: str
    point_form: str | None = None
    point_hook: int | None = None
    point_dressing: str | None = None
    start_setting_m: float | None = None
    start_bead_mm: float | None = None
    float_: str | None = None


@dataclass(frozen=True, slots=True)
class Learned:
    """A depth that the drifts have found, with its standard deviation, m: to be kept as an observation of the lie."""

    depth_m: float
    depth_sd_m: float


@dataclass(frozen=True, slots=True)
class Coaching:
    """What the drifts say of the depth, what to do next, and what the rule of thumb would do.

    ``learned`` is None while the drifts say no more than the reading did; ``odds`` say whether a fish is there that takes;
    ``fished`` is how many of the drifts were at the spot, in the water that is there now.
    """

    belief: Belief
    advice: Advised
    thumb: Thumb | None
    in_zone: float
    notes: tuple[str, ...]
    odds: Odds
    fished: int
    learned: Learned | None = None

    @property
    def taking_fish(self) -> float:
        """The chance that a fish is there which would take."""
        return self.odds.there


def learned(belief: Belief, situation: Situation, drifts: Sequence[LoggedDrift]) -> Learned | None:
    """Return the depth that the drifts have found, if they say more than the reading did."""
    spread = (belief.depth(0.9) - belief.depth(0.1)) / (2.0 * DECILE_Z[-1])
    if len(drifts) < LEARNED_DRIFTS or spread > LEARNED_SHARE * situation.water.spread_m:
        return None
    return Learned(round(belief.depth(0.5), 2), round(max(spread, 0.01), 3))


def _worth_beginning(gist: Gist, rigs: Iterable[tuple[Rig, float]]) -> list[Option]:
    """Return rigs, each with what tying it costs, as options: but for what lies on the bed, and for what would hang so often
    that it is fished higher or lighter again.
    """
    free = (gist.option(rig, cost) for rig, cost in rigs if gist.hangs_free(rig))
    return [one for one in free if HUNG_EVERY * gist.hung(one) < 1.0]


def first_setting(situation: Situation, rig: Rig) -> Rig:
    """Return what to tie on before the first drift: the rig that is advised, or with what bead and line, within inches of it,
    the belief gives most to.

    Nothing is tied yet, so that no change has to pay for itself. Weight has a price only where its splash puts fish down, not
    that of the advice: a heavy fly tells where the bottom is, and a lighter one is tied on sooner than a bottom is found.
    """
    gist = Gist(situation, begin(situation, rig.kind).gist(GROUPS))
    near = (one for one in settings_near(rig, situation) if is_asked_for(rig, one, ()))
    options = [gist.option(rig), *_worth_beginning(gist, ((one, 0.0) for one in near))]
    return max(options, key=lambda one: worth_of(one, options, gist.weights, float(MOST_TO_COME))).rig


def begun(done: Coaching, situation: Situation, rig: Rig, *, hangs: bool) -> Coaching:
    """Return what is said of a rig before its first drift: what to begin with, where that brings more than noise.

    What ``hangs`` may have come from other water: it is changed by more than inches, and each change has to pay for its knot.
    Nobody fishes on with one that lies on the bed here.
    """
    gist, to_come = Gist(situation, done.belief.gist(GROUPS)), float(MOST_TO_COME)
    now = gist.option(rig)
    if hangs and gist.hangs_free(rig):
        near = ((one, tying(rig, one)) for one in settings_near(rig, situation))
        start = best_among(now, _worth_beginning(gist, near), gist.weights, to_come)
    elif hangs:
        here = (one for one in settings_here(rig, situation) if gist.hangs_free(one))
        options = [gist.option(one, tying(rig, one)) for one in here]
        start = max(options, key=lambda one: worth_of(one, options, gist.weights, to_come), default=now)
    else:
        start = gist.option(first_setting(situation, rig))
        worth, stays = (worth_of(one, (now, start), gist.weights, to_come) for one in (start, now))
        start = start if worth > stays + WORTH_SHARE * to_come else now
    if start.rig == rig:
        return done
    action, part = change_to(rig, start.rig), part_counted(situation, rig)
    then, share = start.useful(gist.weights), now.useful(gist.weights)
    return replace(
        done,
        advice=Advised(
            action=action,
            rig=rig.kind,
            depth_setting_m=start.rig.depth_setting_m,
            point_bead_mm=start.rig.point.bead_mm,
            reason=why_begun(done.belief, then, share, action, part)
            + why_dearer(gist.hung(start), gist.hung(now)),
        ),
    )


def coach(
    situation: Situation,
    rig: Rig,
    drifts: Sequence[LoggedDrift],
    search: Search = coarse,
    here: Spot = FIRST,
) -> Coaching:
    """Return what to do next with the rig that is on at a spot, after some drifts (oldest first) at its lie.

    The situation is that of the spot. What touches, and what is taken, is of the spot and of its water as it is now; which
    flies were shown, and what is left of the drifts that it deserves, is of the lie. What is in the depth as told is not
    learned of once more.
    """
    belief = learn(begin(situation, rig.kind), situation, drifts, here)
    near = [one for one in drifts if one.spot == here and one.then not in belief.changed]
    gist = Gist(situation, belief.gist(GROUPS)).with_snags(near)
    to_come = float(min(MOST_TO_COME, max(LEAST_TO_COME, judge_lie(situation).drifts - len(drifts))))
    stands = standing_of(rig, drifts, near, belief, gist)
    middle, in_zone = stands.middle_m, stands.in_zone
    taken, part = why_kept(near), part_counted(situation, rig)
    best = now = gist.option(rig)
    beyond: Beyond | None = None
    # what has just been taken is fished again, and a first setting until a drift has been fished
    if near and taken is None:
        due = had_its_due(rig, drifts, situation, stands)
        beyond = due or outrun(rig, near, situation, stands, search)
        if beyond is None:
            best = best_setting(now, near, gist, in_zone, to_come)
        if beyond is None and best is now:
            beyond = other_fly_or_rig(rig, drifts, situation, stands, search)
    action: Action
    fly: Fly | None = None
    another: Rig | None = None
    if beyond is not None:
        action, reason, fly = beyond.action, beyond.reason, beyond.fly
        another = None if beyond.rig.kind == rig.kind else beyond.rig
    elif best is now:
        action = "hold"
        zone = f"In the zone for {percent(in_zone)} of {part} if it is {qty(middle, 'm')} deep: hold."
        reason = taken or why_touching(near) or why_not_deeper(near, in_zone) or zone
    else:
        action = change_to(rig, best.rig)
        share = best.useful(gist.weights)
        if action in UP and hung_lately(near):
            reason = why_up(near, share, part)
        elif action in UP and touched_each(near):
            reason = why_less(share, part)
        else:
            back = why_back(rig, near, action, share, part)
            reason = back or why_changed(belief, share, in_zone, action, part)
            reason += why_dearer(gist.hung(best), gist.hung(now))
    lane = next_lane(drifts, situation, stands, here) if action in ("hold", "change_fly") else None
    changed = why_counted_then(belief.changed)
    advice = Advised(
        action=action,
        rig=another.kind if another else rig.kind,
        depth_setting_m=best.rig.depth_setting_m,
        point_bead_mm=best.rig.point.bead_mm,
        reason=reason,
        point_form=fly.words if fly else None,
        point_hook=fly.hook if fly else None,
        point_dressing=fly.dressing if fly else None,
        start_setting_m=another.depth_setting_m if another else None,
        start_bead_mm=another.point.bead_mm if another else None,
    )
    return Coaching(
        belief=belief,
        advice=advice,
        thumb=rule_of_thumb(near) if near else None,
        in_zone=in_zone,
        notes=tuple(one for one in (*notes_on(drifts), lane, stands.odds.words, changed) if one),
        odds=stands.odds,
        fished=len(near),
        learned=learned(belief, situation, [one for one in near if not one.in_bottom]),
    )
