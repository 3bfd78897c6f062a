"""From a situation to the three rigs, ranked, each set by computation and with its reasons."""

import heapq
import math
from dataclasses import dataclass, replace

from deriva.core._jit import COMPILED
from deriva.core.advice import thumb
from deriva.core.advice.candidates import (
    CARRY_MARGIN,
    DROPPER_SPACING_M,
    Family,
    candidates,
    dropper_fly,
    dropper_tag,
    families,
    floats,
    point_fly,
    settings,
    tip_pace,
    tippet_x,
    weight_n,
)
from deriva.core.advice.cautions import cautions
from deriva.core.advice.criteria import ZONE_WEIGHT, Criterion, bed_value, carry_value, judge, pace_value
from deriva.core.advice.evaluate import Evaluation, evaluate
from deriva.core.advice.situation import Situation
from deriva.core.advice.wording import grams, plain, qty
from deriva.core.advice.zone import strike_zone
from deriva.core.drift.steady import steady_drift
from deriva.core.errors import Impossible, NotConverged
from deriva.core.ranges import BEAD_MM, DEPTH_SETTING_M
from deriva.core.rigs.spec import RIG_KINDS, Rig, RigKind, assemble
from deriva.core.tackle.beads import LADDER_MM, ORDINARY_MM
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.floats import DRIES, INDICATORS, Float

NAMES: dict[RigKind, str] = {"euro": "Euro", "indicator": "Indicator", "dry_dropper": "Dry-dropper"}

LEAST_WEIGHT = 0.02
"""What a step up the bead ladder must gain in score to be worth it over fish a metre down, more over higher and less over
deeper ones: no heavier than needed, since a heavy fly lands hard over their heads (common practice, no source)."""

FINER_STEPS, CLOSER_STEPS_PER_M, PACE_STEPS, FLOAT_STEPS = 1.0, 6.0, 0.5, 1.0
"""Steps of the bead ladder that tippet a size finer, a metre less between two flies than usual, a tip off its plumb pace
and a float a size larger than needed are reckoned at (common practice, no source)."""

CLOSE_LOOKS = 6
"""Settings of a kind that are looked at closely after the sweep."""

UNUSABLE = 0.005
CLEARLY_BETTER = 0.08
THUMB_TOLERANCE = 0.05


@dataclass(frozen=True, slots=True)
class Reason:
    """A sentence for or against a rig, with marked quantities."""

    speaks_for: bool
    text: str


@dataclass(frozen=True, slots=True)
class Judged:
    """A rig with everything that is known about it here. ``evaluation`` is None only for a rig that cannot be used.

    ``loses_on`` names the criterion that costs it most against the rig ranked first; None for that one.
    """

    kind: RigKind
    score: float
    answer: str
    evaluation: Evaluation | None
    criteria: tuple[Criterion, ...]
    reasons: tuple[Reason, ...]
    warnings: tuple[str, ...]
    thumb_m: tuple[float, float]
    thumb_note: str
    loses_on: str | None = None


@dataclass(frozen=True, slots=True)
class Advice:
    """The three rigs, best first, and the cautions of the place."""

    ranked: tuple[Judged, ...]
    cautions: tuple[str, ...]


def _answer(e: Evaluation) -> str:
    """Return the answer in one line: rig, bead, setting, where to land, share of the drift in the zone."""
    bead = qty(e.rig.point.bead_mm or 0.0, "mm", 1)
    setting = f"{'tippet' if e.rig.kind == 'euro' else 'set'} {qty(e.rig.depth_setting_m, 'm')}"
    land = f"land {qty(e.lead_m, 'm', 1)} above" if e.lead_m is not None else "does not get down"
    lo, hi = round(100 * e.zone_share_low), round(100 * e.zone_share_high)
    share = f"in the zone {lo}–{hi} % of the drift"
    return f"{NAMES[e.rig.kind]} · {bead} · {setting} · {land} · {share}"


def _warnings(e: Evaluation, situation: Situation) -> tuple[str, ...]:
    said: list[str] = []
    if e.steady.lifted:
        said.append("At this pace the line pulls the fly to the surface: slow the tip or add weight.")
    if e.steady.grounded:
        said.append("At the depth believed the point fly lies on the bed: shorten by a hand or go lighter.")
    if e.time_to_zone_s is None:
        said.append("The fly is not down before the drift ends: cast further up, or go heavier or longer.")
    elif e.time_to_zone_s > 0.6 * e.drift_s:
        said.append("Most of the drift is spent sinking: cast further up.")
    if e.rig.float_ is not None and e.carry < CARRY_MARGIN:
        said.append(f"The {e.rig.float_.name} only just carries this.")
    if e.rig.shot_g > 0.0 and not situation.rules.lead:
        said.append("The shot must be tin or tungsten: no lead here.")
    return tuple(said)


def _thumb_note(e: Evaluation, situation: Situation, band: tuple[float, float]) -> str:
    """Say the rule of thumb's setting and, where the computed one differs, what the fly would do at the thumb's."""
    lo, hi = band
    said = f"Rule of thumb: {qty(lo, 'm')} to {qty(hi, 'm')}."
    if lo - THUMB_TOLERANCE <= e.rig.depth_setting_m <= hi + THUMB_TOLERANCE:
        return f"{said} The computation agrees."
    middle = DEPTH_SETTING_M.clamp(0.5 * (lo + hi))
    spacing = e.rig.dropper_spacing_m
    rig = replace(
        e.rig,
        depth_setting_m=middle,
        dropper_spacing_m=None if spacing is None else min(spacing, middle / 2.0),
    )
    there = steady_drift(assemble(rig, situation.water.column()))
    if there.grounded:
        return f"{said} At {qty(middle, 'm')} the point fly would lie on the bed."
    above_bed = situation.water.depth_m - there.body_depth_m[0]
    hangs = f"At {qty(middle, 'm')} the point fly would hang {qty(above_bed, 'm')} above the bed"
    if above_bed > e.zone.high_m:
        return f"{said} {hangs}; they feed up to {qty(e.zone.high_m, 'm')} above it."
    if above_bed < e.zone.low_m:
        return f"{said} {hangs}, under the fish: they feed from {qty(e.zone.low_m, 'm')} up."
    return (
        f"{said} {hangs}: right for the depth believed, less so for the other depths that this lie may have."
    )


def judge_rig(rig: Rig, situation: Situation) -> Judged:
    """Judge one rig as it is set."""
    evaluation = evaluate(rig, situation)
    criteria, score = judge(evaluation, situation)
    band = thumb.depth_setting(situation, rig.kind)
    reasons = [Reason(c.speaks_for or (c.name == "zone" and c.value >= 0.5), c.text) for c in criteria]
    return Judged(
        kind=rig.kind,
        score=score,
        answer=_answer(evaluation),
        evaluation=evaluation,
        criteria=criteria,
        reasons=tuple(reasons),
        warnings=_warnings(evaluation, situation),
        thumb_m=band,
        thumb_note=_thumb_note(evaluation, situation, band),
    )


def _unusable(kind: RigKind, situation: Situation, why: str) -> Judged:
    return Judged(
        kind=kind,
        score=0.0,
        answer=f"{NAMES[kind]} · not here",
        evaluation=None,
        criteria=(),
        reasons=(Reason(False, why),),
        warnings=(why,),
        thumb_m=thumb.depth_setting(situation, kind),
        thumb_note="",
    )


def _price(rig: Rig | Family, situation: Situation) -> float:
    """Return what a rig must gain in score to be worth it: for weight, finer tippet, flies closer than usual, a tip that
    does not leave the line plumb, a float larger than needed.
    """
    steps = sum(size < (rig.point.bead_mm or 0.0) for size in LADDER_MM) + 2.0 * rig.shot_g
    heavy_hook = min(fly.hook for fly in (rig.point, rig.dropper) if fly is not None)
    steps += FINER_STEPS * max(0, rig.tippet_x - tippet_x(situation, heavy_hook))
    if rig.dropper_spacing_m is not None:
        steps += CLOSER_STEPS_PER_M * max(0.0, DROPPER_SPACING_M - rig.dropper_spacing_m)
    if rig.float_ is None:
        steps += PACE_STEPS * (rig.tip_pace != tip_pace(situation))
    else:
        need = CARRY_MARGIN * weight_n(rig.point, rig.dropper, rig.shot_g)
        steps += FLOAT_STEPS * sum(
            need <= f.carries_n < rig.float_.carries_n for f in floats(situation, rig.kind)
        )
    water = situation.water
    zone = strike_zone(feeding=situation.fish.level, depth_m=water.depth_m, temperature_c=water.temperature_c)
    return steps * LEAST_WEIGHT / (water.depth_m - zone.low_m)


def _worth_a_close_look(kind: RigKind, situation: Situation) -> list[Rig]:
    """Return the settings to look at closely: the best of a wide sweep, or where none can be made, a coarse choice.

    Within a kind the other criteria hardly differ from setting to setting; they enter as the first setting has them.
    """
    if not COMPILED:
        return list(candidates(situation, kind, fine=False))
    from deriva.core.plan.sweep import sweep  # noqa: PLC0415 - needs numpy, which the phone has not

    kin, lengths = list(families(situation, kind)), settings(situation, kind)
    if not kin or not lengths:
        return []
    seen = sweep(kin, lengths, situation)
    worths: list[tuple[float, int, int]] = []
    for f, family in enumerate(kin):
        price, carries = (
            _price(family, situation),
            math.inf if family.float_ is None else family.float_.carries_n,
        )
        for s in range(len(lengths)):
            if seen.found[f, s] <= 0.0:
                continue
            carry = carries / max(float(seen.load_n[f, s]), 1e-9)
            score = (
                float(seen.zone_share[f, s]) ** ZONE_WEIGHT
                * bed_value(float(seen.hang_chance[f, s]), situation)
                * pace_value(float(seen.fly_pace[f, s]))
                * carry_value(carry)
            )
            worths.append((score - price, f, s))
    best = heapq.nlargest(CLOSE_LOOKS, worths)
    return [kin[f].at(lengths[s]) for _, f, s in best]


def _best(kind: RigKind, situation: Situation) -> Judged:
    """Return the best rig of one kind, or say why there is none."""
    if kind == "dry_dropper" and situation.rules.max_flies < 2:
        return _unusable(kind, situation, "A dry-dropper counts as two flies; the rules here allow one.")
    best: tuple[tuple[float, float], Rig] | None = None
    for rig in _worth_a_close_look(kind, situation):
        try:
            if steady_drift(assemble(rig, situation.water.column())).grounded:
                continue  # nobody sets a rig to lie on the bed; most of the work is spared here
            evaluation = evaluate(rig, situation)
        except NotConverged:
            continue  # a rig that cannot be worked out is none to advise
        _, score = judge(evaluation, situation)
        usable = score - _price(rig, situation) if score >= UNUSABLE else -1.0
        worth = (usable, evaluation.zone_share)
        if best is None or worth > best[0]:
            best = (worth, rig)
    if best is None:
        if situation.box is not None and not situation.box.weighted:
            return _unusable(kind, situation, "No weighted fly in the box: add one, or look beyond the box.")
        if kind != "euro" and not floats(situation, kind):
            return _unusable(
                kind, situation, "No float in the box that could be seen here: a larger one is needed."
            )
        return _unusable(kind, situation, "Nothing in the box carries such a fly at this depth.")
    judged = judge_rig(best[1], situation)
    if judged.score < UNUSABLE:
        worst = min(judged.criteria, key=lambda c: c.value)
        return _unusable(kind, situation, worst.text)
    return judged


def _contrast(judged: Judged, others: list[Judged]) -> tuple[Reason, ...]:
    """Keep the reasons that tell this rig from the others, strongest first, for before against."""
    if judged.evaluation is None:
        return judged.reasons
    rest = [{c.name: c.value for c in other.criteria} for other in others if other.criteria]
    kept: list[tuple[float, Reason]] = []
    for criterion, reason in zip(judged.criteria, judged.reasons, strict=True):
        theirs = [values.get(criterion.name, 1.0) for values in rest]
        gain = max((criterion.value - v for v in theirs), default=0.0)
        if criterion.name in ("zone", "carry"):
            kept.append((0.5 + gain, reason))
        elif reason.speaks_for and gain >= CLEARLY_BETTER:
            kept.append((gain, reason))
        elif not reason.speaks_for:
            kept.append((1.0 - criterion.value, reason))
    kept.sort(key=lambda pair: (not pair[1].speaks_for, -pair[0]))
    return tuple(reason for _, reason in kept)


def _loses_on(judged: Judged, best: Judged) -> str | None:
    """Return the criterion whose value falls furthest below the best rig's."""
    theirs = {c.name: c.value for c in best.criteria}
    behind = {c.name: theirs.get(c.name, 1.0) - c.value for c in judged.criteria}
    worst = max(behind, key=behind.__getitem__, default=None)
    return worst if worst is not None and behind[worst] > 0.0 else None


def advise(situation: Situation) -> Advice:
    """Return the three rigs ranked for a situation."""
    judged = sorted((_best(kind, situation) for kind in RIG_KINDS), key=lambda j: -j.score)
    best = judged[0]
    ranked = tuple(
        replace(
            one,
            reasons=_contrast(one, [other for other in judged if other is not one]),
            loses_on=None if one is best else _loses_on(one, best),
        )
        for one in judged
    )
    return Advice(ranked=ranked, cautions=cautions(situation))


@dataclass(frozen=True, slots=True)
class Tuning:
    """A rig as the angler sets it: what is None is chosen as the advisor would."""

    kind: RigKind
    depth_setting_m: float
    point_bead_mm: float
    flies: int | None = None
    dropper_bead_mm: float | None = None
    dropper_spacing_m: float | None = None
    dropper_tag_m: float | None = None
    tippet_x: int | None = None
    shot_g: float = 0.0
    float_: str | None = None
    tip_pace: float | None = None

    def __post_init__(self) -> None:
        """Check depth and bead."""
        DEPTH_SETTING_M.check("tuning.depth_setting_m", self.depth_setting_m)
        BEAD_MM.check("tuning.point_bead_mm", self.point_bead_mm)


def _carried(carrier: Float, point: Fly, dropper: Fly | None, shot_g: float) -> None:
    """Raise Impossible, saying what would be right, where the rig would pull its float or dry under."""
    load = weight_n(point, dropper, shot_g)
    if load <= carrier.carries_n:
        return
    lighter = [
        mm for mm in LADDER_MM if weight_n(replace(point, bead_mm=mm), dropper, shot_g) <= carrier.carries_n
    ]
    larger = [f for f in (DRIES if carrier.kind == "dry" else INDICATORS) if f.carries_n >= load]
    ways = [f"a bead up to {lighter[-1]:g} mm"] if lighter else []
    ways += [f"the {larger[0].name}"] if larger else []
    said = (
        f"tuning.point_bead_mm = {point.bead_mm:g}: this rig weighs {grams(load)} in water and the {carrier.name} "
        f"carries {grams(carrier.carries_n)}. Take {' or '.join(ways) or 'less shot'}."
    )
    raise Impossible(plain(said), field="tuning.point_bead_mm")


def _tuned_flies(tuning: Tuning, situation: Situation, *, two: bool) -> tuple[Fly, Fly | None]:
    """Return the point fly, and the dropper of two."""
    point = point_fly(situation, tuning.point_bead_mm)
    if not two:
        return point, None
    upper = dropper_fly(situation)
    if upper is None:
        raise Impossible("tuning.flies: the box holds no light fly for the dropper", field="tuning.flies")
    if situation.school.heavy == "first":
        return replace(upper, bead_mm=tuning.point_bead_mm), point_fly(
            situation, tuning.dropper_bead_mm or ORDINARY_MM
        )
    return point, replace(upper, bead_mm=tuning.dropper_bead_mm or upper.bead_mm)


def tuned_rig(tuning: Tuning, situation: Situation) -> Rig:
    """Return the full rig for a tuning. Raises Impossible for an unknown float, more flies than the rules allow,
    or a rig heavier than its float or dry.
    """
    fixed = 2 if tuning.kind == "dry_dropper" else 1
    flies = fixed if tuning.flies is None else tuning.flies
    if not fixed <= flies <= fixed + 1:
        raise Impossible(
            f"tuning.flies = {flies}: a {NAMES[tuning.kind]} here has {fixed} or {fixed + 1}",
            field="tuning.flies",
        )
    if flies > situation.rules.max_flies:
        raise Impossible(
            f"tuning.flies = {flies}: the rules here allow {situation.rules.max_flies}", field="tuning.flies"
        )
    point, dropper = _tuned_flies(tuning, situation, two=flies > fixed)
    carrier = None
    if tuning.kind != "euro":
        choices = DRIES if tuning.kind == "dry_dropper" else INDICATORS
        if tuning.float_ is not None:
            carrier = next((f for f in choices if f.name == tuning.float_), None)
            if carrier is None:
                names = ", ".join(f.name for f in choices)
                raise Impossible(
                    f"tuning.float = {tuning.float_!r} is not one of: {names}", field="tuning.float"
                )
        else:
            need = CARRY_MARGIN * weight_n(point, dropper, tuning.shot_g)
            seen = floats(situation, tuning.kind) or choices
            carrier = next((f for f in seen if f.carries_n >= need), seen[-1])
    if carrier is not None:
        _carried(carrier, point, dropper, tuning.shot_g)
    spacing = None
    if dropper is not None:
        wanted = tuning.dropper_spacing_m or DROPPER_SPACING_M
        spacing = min(wanted, round(tuning.depth_setting_m / 2.0, 2))
    heavy_hook = min(fly.hook for fly in (point, dropper) if fly is not None)
    tag = 0.0
    if dropper is not None:
        tag = dropper_tag(situation) if tuning.dropper_tag_m is None else tuning.dropper_tag_m
    return Rig(
        kind=tuning.kind,
        depth_setting_m=tuning.depth_setting_m,
        point=point,
        dropper=dropper,
        dropper_spacing_m=spacing,
        dropper_tag_m=tag,
        tippet_x=tippet_x(situation, heavy_hook) if tuning.tippet_x is None else tuning.tippet_x,
        shot_g=tuning.shot_g,
        float_=carrier,
        tip_pace=tuning.tip_pace if tuning.tip_pace is not None else tip_pace(situation),
    )
