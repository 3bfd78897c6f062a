"""From a situation to the three rigs, ranked, each set by computation and with its reasons."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from deriva.core.choose.candidates import candidates
from deriva.core.choose.criteria import judge, wariness
from deriva.core.choose.customary import customary_setting
from deriva.core.choose.evaluate import SOLVED, Evaluation, Settle, evaluate
from deriva.core.choose.judge import Judged, NotHere, Reason, Usable, judge_rig, not_here
from deriva.core.choose.single_dry import SingleDry, single_dry
from deriva.core.choose.zone import strike_zone
from deriva.core.errors import NotConverged
from deriva.core.model.rig import NAMES, RIG_KINDS, Rig, RigKind
from deriva.core.model.situation import Fish, Situation
from deriva.core.rigs.parts import (
    CARRY_MARGIN,
    DROPPER_SPACING_M,
    floats,
    season_dry,
    tip_pace,
    tippet_x,
    weight_n,
)
from deriva.core.tackle.beads import LADDER_MM

LEAST_WEIGHT = 0.02
"""What a step up the bead ladder must gain in score to be worth it over fish a metre down, more over higher and less over
deeper ones: no heavier than needed, since a heavy fly lands hard over their heads (common practice, no source)."""

UNHEEDED_MM = 3.0
"""A bead up to this is nothing to fish that hug the bed: grayling are fished with 3 to 4 mm (common practice, no source)."""

FINER_STEPS, CLOSER_STEPS_PER_M, PACE_STEPS, FLOAT_STEPS = 1.0, 10.0, 0.5, 1.0
"""Steps of the bead ladder that tippet a size finer, a metre less between two flies than usual, a tip off its plumb pace
and a float a size larger than needed are reckoned at (common practice, no source)."""

SCHOOL_STEPS = 10.0
"""Steps for a float set a whole depth off the length that the angler's school sets it to (stated here)."""

UNUSABLE = 0.005
CLEARLY_BETTER = 0.08

OF_THE_WATER = ("hold", "level", "bed")
"""Criteria that name the water, the fish and the bed: reasons for a rig even where the others have them too, after those that
tell it from them."""

AS_GOOD = 0.03
"""Scores closer than this, as a share of the better, are said to be as good: the prices and ramps of the judgement are not
known to that (see decision 10)."""


@dataclass(frozen=True, slots=True)
class Advice:
    """The three rigs, best first, and the single dry where it is worth offering."""

    ranked: tuple[Judged, ...]
    single_dry: SingleDry | None = None

    @property
    def usable(self) -> tuple[Usable, ...]:
        """Those of the three that can be used here, best first."""
        return tuple(one for one in self.ranked if isinstance(one, Usable))

    def of(self, kind: RigKind) -> Judged:
        """What is said of one kind of rig."""
        return next(one for one in self.ranked if one.kind == kind)


def _off_school(rig: Rig, situation: Situation) -> float:
    """Return how far a float is set off its school's length, as a share of the depth; nought where the school computes."""
    if rig.kind != "indicator" or situation.school.depth == "computed":
        return 0.0
    low, high = customary_setting(situation, rig.kind, above_point_m=rig.dropper_spacing_m or 0.0)
    return max(0.0, low - rig.depth_setting_m, rig.depth_setting_m - high) / situation.water.depth_m


def _weight_steps(rig: Rig, fish: Fish) -> float:
    beads = [fly.bead_mm or 0.0 for fly in (rig.point, rig.dropper) if fly is not None]
    free = UNHEEDED_MM if fish.hugs_bed else 0.0
    return sum(free <= size < bead for bead in beads for size in LADDER_MM) + 2.0 * rig.shot_g


def _step_price(situation: Situation) -> float:
    water = situation.water
    zone = strike_zone(situation.fish, depth_m=water.depth_m, temperature_c=water.temperature_c)
    return LEAST_WEIGHT / (water.depth_m - 0.5 * (zone.low_m + zone.high_m))


def splash(rig: Rig, situation: Situation) -> float:
    """Return the share of a drift that a rig's weight costs by falling in over fish: what :func:`price` asks for it, so far as
    they are easily put down here.
    """
    return wariness(situation) * _weight_steps(rig, situation.fish) * _step_price(situation)


def price(rig: Rig, situation: Situation) -> float:
    """Return what a rig must gain in score to be worth it: for weight, finer tippet, flies closer than usual, a tip that
    does not leave the line plumb, a float larger than needed.
    """
    steps = _weight_steps(rig, situation.fish)
    steps += SCHOOL_STEPS * _off_school(rig, situation)
    heavy_hook = min(fly.hook for fly in (rig.point, rig.dropper) if fly is not None)
    steps += FINER_STEPS * max(0, rig.tippet_x - tippet_x(situation, heavy_hook))
    if rig.dropper_spacing_m is not None:
        steps += CLOSER_STEPS_PER_M * max(0.0, DROPPER_SPACING_M - rig.dropper_spacing_m)
    if rig.float_ is None:
        steps += PACE_STEPS * (rig.tip_pace != tip_pace(situation))
    elif rig.float_.name != season_dry(situation):
        need = CARRY_MARGIN * weight_n(rig.point, rig.dropper, rig.shot_g)
        steps += FLOAT_STEPS * sum(
            need <= f.carries_n < rig.float_.carries_n for f in floats(situation, rig.kind)
        )
    return steps * _step_price(situation)


@dataclass(frozen=True, slots=True)
class Search:
    """How rigs are looked for: what finds those of a kind that are worth a close look in a situation, and what settles them.

    :data:`coarse` needs nothing but Python; the sweep over thousands of settings (:data:`deriva.core.choose.sweep.wide`) is
    compiled, and is the server's; :func:`deriva.core.choose.near.around` is a device's, about what was advised before.
    """

    find: Callable[[RigKind, Situation], Sequence[Rig]]
    settle: Settle = SOLVED


def _every(kind: RigKind, situation: Situation) -> Sequence[Rig]:
    """Return every rig of a coarse choice."""
    return list(candidates(situation, kind, fine=False))


coarse = Search(_every)


def _reaches(e: Evaluation) -> bool:
    """Return whether a rig is among the fish at the depth believed: one that is not never comes before one that is."""
    return e.time_to_zone_s is not None


KNOWN_SOON = 0.15
"""Spread of a depth, as a share of it, after a handful of drifts. A first setting is chosen for what it will be worth once
touches have told of the bottom: one that is short enough for every depth that an unsure reading leaves open finds nothing out
(common practice: set for the depth believed, and let the bottom correct it)."""


def soon(situation: Situation) -> Situation:
    """Return a situation as it will be known after a handful of drifts."""
    water = situation.water
    known = min(water.spread_m, KNOWN_SOON * water.depth_m)
    return replace(situation, water=replace(water, depth_sd_m=known))


REMEMBERED = 192
"""Rigs that were found best, of some sixty situations: what is advised at a lie is asked for again for what to change first,
for the game and for the log's own story."""


@lru_cache(maxsize=REMEMBERED)
def best_of(kind: RigKind, situation: Situation, search: Search) -> Judged:
    """Return the best rig of one kind that a search finds, or say why there is none."""
    if kind == "dry_dropper" and situation.rules.max_flies < 2:
        return not_here(kind, situation, "A dry-dropper counts as two flies; the rules here allow one.")
    best: tuple[tuple[bool, float, float], Rig] | None = None
    later = soon(situation)
    for rig in search.find(kind, later):
        try:
            if search.settle(rig, situation.water, situation.water.column()).grounded:
                continue  # nobody sets a rig to lie on the bed; most of the work is spared here
            evaluation = evaluate(rig, later, search.settle)
        except NotConverged:
            continue  # a rig that cannot be worked out is none to advise
        _, score = judge(evaluation, later)
        usable = score - price(rig, situation) if score >= UNUSABLE else -1.0
        worth = (_reaches(evaluation), usable, evaluation.zone_share)
        if best is None or worth > best[0]:
            best = (worth, rig)
    if best is None:
        if situation.box is not None and not situation.box.weighted:
            return not_here(kind, situation, "No weighted fly in the box: add one, or look beyond the box.")
        if kind != "euro" and not floats(situation, kind):
            return not_here(
                kind, situation, "No float in the box that could be seen here: a larger one is needed."
            )
        return not_here(kind, situation, "Nothing in the box carries such a fly at this depth.")
    judged = judge_rig(best[1], situation, search.settle)
    if judged.score < UNUSABLE:
        worst = min(judged.criteria, key=lambda c: c.value)
        return not_here(kind, situation, worst.text)
    return judged


def _contrast(judged: Usable, others: list[Usable]) -> tuple[Reason, ...]:
    """Keep the reasons that tell this rig from the others, strongest first, for before against."""
    rest = [{c.name: c.value for c in other.criteria} for other in others]
    kept: list[tuple[float, Reason]] = []
    for criterion, reason in zip(judged.criteria, judged.reasons, strict=True):
        theirs = [values.get(criterion.name, 1.0) for values in rest]
        gain = max((criterion.value - v for v in theirs), default=0.0)
        if criterion.name == "zone":
            kept.append((0.5 + gain, reason))
        elif reason.speaks_for and gain >= CLEARLY_BETTER:
            kept.append((gain, reason))
        elif reason.speaks_for and criterion.name in OF_THE_WATER:
            kept.append((0.5 * CLEARLY_BETTER, reason))
        elif not reason.speaks_for:
            kept.append((1.0 - criterion.value, reason))
    kept.sort(key=lambda pair: (not pair[1].speaks_for, -pair[0]))
    return tuple(reason for _, reason in kept)


def _said_first(equals: Sequence[RigKind]) -> tuple[Reason, ...]:
    """Say which other rigs are as good as the one that is ranked first."""
    if not equals:
        return ()
    names = " and ".join(NAMES[kind].lower() for kind in equals)
    verb = "is" if len(equals) == 1 else "are"
    return (
        Reason(True, f"As good here: {names} {verb} within what this can tell. Fish what is on the rod."),
    )


def _loses_on(judged: Usable, best: Usable) -> str | None:
    """Return the criterion whose value falls furthest below the best rig's."""
    theirs = {c.name: c.value for c in best.criteria}
    behind = {c.name: theirs.get(c.name, 1.0) - c.value for c in judged.criteria}
    worst = max(behind, key=behind.__getitem__, default=None)
    return worst if worst is not None and behind[worst] > 0.0 else None


def advise(situation: Situation, search: Search) -> Advice:
    """Return the three rigs ranked for a situation, each the best that a search finds; those that cannot be used come last."""
    return ordered(situation, [best_of(kind, situation, search) for kind in RIG_KINDS])


def ordered(situation: Situation, found: Sequence[Judged]) -> Advice:
    """Return what was found of each kind, ranked, with the reasons that tell each from the others."""
    usable = sorted(
        (one for one in found if isinstance(one, Usable)),
        key=lambda one: (not _reaches(one.evaluation), -one.score),
    )
    best, others = usable[:1], usable[1:]
    equals = [
        one.kind
        for one in others
        if one.score >= (1.0 - AS_GOOD) * best[0].score and _reaches(one.evaluation)
    ]
    ranked = tuple(
        replace(
            one,
            reasons=_said_first(equals if one is best[0] else ())
            + _contrast(one, [other for other in usable if other is not one]),
            loses_on=None if one is best[0] else _loses_on(one, best[0]),
        )
        for one in usable
    )
    return Advice(
        ranked=ranked + tuple(one for one in found if isinstance(one, NotHere)),
        single_dry=single_dry(situation),
    )
