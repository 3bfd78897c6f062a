"""Choosing and setting a rig, running its drift, coaching: the core's work, with the search that this machine can make."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

from deriva.core.choose.candidates import families, settings
from deriva.core.choose.evaluate import Evaluation, evaluate, hang_rate
from deriva.core.choose.judge import Judged, NotHere, Usable, judge_rig
from deriva.core.choose.mends import mend_advice
from deriva.core.choose.search import advise, best_of, price
from deriva.core.choose.sweep import wide
from deriva.core.coach.ask import Asked, word
from deriva.core.coach.card import Step, search_card
from deriva.core.coach.next import Coaching
from deriva.core.drift.mending import Mending
from deriva.core.drift.path import DriftPath, Handling, drift_path
from deriva.core.drift.transient import Entry
from deriva.core.model.quantity import plain
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.rigs.packed import pack_rig
from deriva.core.rigs.resolve import resolve
from deriva.core.say import ranking
from deriva.core.say.ranking import Ranking
from deriva.core.say.why import Why, explain_drift


def rank(situation: Situation) -> Ranking:
    """Rank the three rigs."""
    return ranking.rank(situation, wide)


def best(kind: RigKind, situation: Situation) -> Judged:
    """Find the best rig of one kind: a third of :func:`rank`, which several can work at side by side."""
    return best_of(kind, situation, wide)


def ranked(situation: Situation, found: Sequence[Judged]) -> Ranking:
    """Rank what was found of each kind."""
    return ranking.ranked(situation, found, wide)


def explained(situation: Situation) -> list[str]:
    """Return line by line how the advice in a situation came about."""
    said: list[str] = []
    for judged in advise(situation, wide).ranked:
        kin, lengths = list(families(situation, judged.kind)), settings(situation, judged.kind)
        score = judged.score if isinstance(judged, Usable) else 0.0
        said += ["", f"{score:.3f}  {plain(judged.answer)}"]
        said.append(f"       {len(kin)} families at {len(lengths)} settings were swept")
        if isinstance(judged, NotHere):
            said.append(f"       {plain(judged.why)}")
            continue
        said.append(f"       {price(judged.rig, situation):.3f}  reckoned for weight and trouble")
        said += [f"       {one.value:.3f}  {one.name:<8} {plain(one.text)}" for one in judged.criteria]
    return said[1:]


def tune(situation: Situation, tuning: Tuning) -> Usable:
    """Judge a rig as the angler sets it."""
    return judge_rig(resolve(tuning, situation), situation)


def coach(asked: Asked) -> Coaching:
    """Say what the drifts so far tell of the water, and what to change next."""
    return word(asked, wide)


def search_ahead(asked: Asked, *, as_tied: bool = False) -> tuple[Step, ...]:
    """Say what will be said after each likely run of drifts, two changes ahead."""
    return search_card(asked, wide, as_tied=as_tied)


@dataclass(frozen=True, slots=True)
class Shown:
    """One drift of a rig, with what is said of it."""

    evaluation: Evaluation
    run: DriftPath
    mends: tuple[Mending, str] | None
    warnings: tuple[str, ...]
    why: tuple[Why, ...]


def _warnings(run: DriftPath, rig: Rig) -> tuple[str, ...]:
    said: list[str] = []
    if run.under_from_s is not None and rig.float_ is not None:
        said.append(
            f"The {rig.float_.name} is pulled under {run.under_from_s:.1f} s after landing: it cannot carry this rig."
        )
    if run.drift.steady.lifted:
        said.append("At this pace the line pulls the fly to the surface: slow the tip or add weight.")
    return tuple(said)


def path(situation: Situation, tuning: Tuning, *, entry: Entry, handling: Handling, swing: bool) -> Shown:
    """Run one drift of a rig as set."""
    evaluation = evaluate(resolve(tuning, situation), situation)
    rig = evaluation.rig
    run = drift_path(
        evaluation.scenario,
        drift_s=evaluation.drift_s,
        flies=1 + (rig.dropper is not None),
        zone_low_m=evaluation.zone.low_m,
        zone_high_m=evaluation.zone.high_m,
        hang_rate_per_m=hang_rate(rig, situation),
        entry=entry,
        handling=handling,
        swing=swing,
        carries_n=rig.float_.carries_n if rig.float_ else None,
    )
    return Shown(
        evaluation=evaluation,
        run=run,
        mends=mend_advice(evaluation, situation),
        warnings=_warnings(run, rig),
        why=explain_drift(evaluation, situation),
    )


@cache
def warm() -> None:
    """Load the compiled kernels, so that the first angler does not wait for them; once a process is enough."""
    situation = Situation(Water(depth_m=0.8, surface_speed_m_s=0.5))
    advise(situation, wide)
    for kind in ("euro", "indicator"):
        path(situation, Tuning(kind, 0.9, 2.5), entry="straight", handling="dead", swing=False)
    pack_rig(situation, Tuning("euro", 0.9, 2.5))
