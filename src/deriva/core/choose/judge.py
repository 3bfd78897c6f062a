"""A rig judged in a situation: its criteria, score and reasons, its answer in one line, and what to mind about it."""

from dataclasses import dataclass, replace
from functools import lru_cache

from deriva.core.choose.criteria import Criterion, judge
from deriva.core.choose.customary import customary_setting
from deriva.core.choose.evaluate import SOLVED, Evaluation, Settle, evaluate
from deriva.core.drift.steady import SteadyDrift
from deriva.core.model.quantity import percent, qty
from deriva.core.model.rig import NAMES, Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.water import Water
from deriva.core.ranges import DEPTH_SETTING_M
from deriva.core.rigs.offers import on_bead
from deriva.core.rigs.parts import CARRY_MARGIN, outweighed

THUMB_TOLERANCE = 0.05

LONGER_M, SHORTER_M = 0.15, 0.10
"""Steps after a first setting: no touch in about six drifts, hung twice in six (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Reason:
    """A sentence for or against a rig, with marked quantities."""

    speaks_for: bool
    text: str


@dataclass(frozen=True, slots=True)
class Usable:
    """A rig with everything that is known about it here.

    ``loses_on`` names the criterion that costs it most against the rig ranked first; None for that one.
    """

    kind: RigKind
    score: float
    answer: str
    evaluation: Evaluation
    criteria: tuple[Criterion, ...]
    reasons: tuple[Reason, ...]
    warnings: tuple[str, ...]
    thumb_m: tuple[float, float]
    thumb_note: str
    loses_on: str | None = None

    @property
    def rig(self) -> Rig:
        """The rig that was judged."""
        return self.evaluation.rig


@dataclass(frozen=True, slots=True)
class NotHere:
    """A kind of rig that cannot be used here, and ``why``."""

    kind: RigKind
    why: str
    thumb_m: tuple[float, float]

    @property
    def answer(self) -> str:
        """The answer in one line."""
        return f"{NAMES[self.kind]} · not here"


Judged = Usable | NotHere


def _answer(e: Evaluation) -> str:
    """Return the answer in one line: rig, bead, setting, where to land, share of the drift in the zone."""
    bead = on_bead(e.rig.point)
    setting = f"{'tippet' if e.rig.kind == 'euro' else 'set'} {qty(e.rig.depth_setting_m, 'm')}"
    land = f"land {qty(e.lead_m, 'm', 1)} above" if e.lead_m is not None else "does not get down"
    lo, hi = round(100 * e.zone_share_low), round(100 * e.zone_share_high)
    share = f"in the zone {lo}–{hi} % of the drift"
    if e.is_first_setting:
        share = f"about {percent(e.zone_share)} in the zone, to begin with"
    return f"{NAMES[e.rig.kind]} · {bead} · {setting} · {land} · {share}"


def _warnings(e: Evaluation, situation: Situation) -> tuple[str, ...]:
    said: list[str] = []
    if e.is_first_setting:
        said.append(
            f"A first setting, as the depth is not surely known. No touch in six drifts: {qty(LONGER_M, 'm')} longer. "
            f"Hung twice in six: {qty(SHORTER_M, 'm')} shorter."
        )
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
    if outweighed(e.rig, situation):
        said.append(
            "The upper fly is heavier than the point fly, which is to lead it down: change one of the two."
        )
    if e.rig.shot_g > 0.0 and not situation.rules.lead:
        said.append("The shot must be tin or tungsten: no lead here.")
    return tuple(said)


@lru_cache(maxsize=64)
def _settled(settle: Settle, rig: Rig, water: Water) -> SteadyDrift:
    """Settle a rig in the water believed: the rule of thumb's is the same at every step of a slider."""
    return settle.solved(rig, water, water.column())[1]


def _thumb_note(e: Evaluation, situation: Situation, band: tuple[float, float], settle: Settle) -> str:
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
    water = situation.water
    there = _settled(settle, rig, water)
    if there.grounded:
        return f"{said} At {qty(middle, 'm')} the point fly would lie on the bed."
    above_bed = water.depth_m - there.body_depth_m[0]
    hangs = f"At {qty(middle, 'm')} the point fly would hang {qty(above_bed, 'm')} above the bed"
    if above_bed > e.zone.high_m:
        return f"{said} {hangs}; they feed up to {qty(e.zone.high_m, 'm')} above it."
    if above_bed < e.zone.low_m:
        return f"{said} {hangs}, under the fish: they feed from {qty(e.zone.low_m, 'm')} up."
    return (
        f"{said} {hangs}: right for the depth believed, less so for the other depths that this lie may have."
    )


def judge_rig(rig: Rig, situation: Situation, settle: Settle = SOLVED) -> Usable:
    """Judge one rig as it is set."""
    evaluation = evaluate(rig, situation, settle)
    criteria, score = judge(evaluation, situation)
    band = customary_setting(situation, rig.kind, above_point_m=rig.dropper_spacing_m or 0.0)
    reasons = [Reason(c.speaks_for or (c.name == "zone" and c.value >= 0.5), c.text) for c in criteria]
    return Usable(
        kind=rig.kind,
        score=score,
        answer=_answer(evaluation),
        evaluation=evaluation,
        criteria=criteria,
        reasons=tuple(reasons),
        warnings=_warnings(evaluation, situation),
        thumb_m=band,
        thumb_note=_thumb_note(evaluation, situation, band, settle),
    )


def not_here(kind: RigKind, situation: Situation, why: str) -> NotHere:
    """Return a kind of rig that cannot be used here, and why."""
    return NotHere(kind=kind, why=why, thumb_m=customary_setting(situation, kind))
