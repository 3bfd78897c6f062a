"""Choosing and setting a rig, and running its drift: the core's work, in the wire's form. No database."""

import math
from dataclasses import asdict
from functools import cache

from deriva.core.advice.advisor import advise, judge_rig, tuned_rig
from deriva.core.advice.evaluate import evaluate, hang_rate
from deriva.core.advice.hanging import parts, top_mark
from deriva.core.advice.mends import mend_advice
from deriva.core.advice.why import explain_drift
from deriva.core.drift.path import DriftPath, drift_path
from deriva.core.drift.transient import FRAME_S
from deriva.core.rigs.spec import Rig
from deriva.core.water.properties import GRAVITY_M_S2
from deriva.service.schemas.advise import (
    AdviceOut,
    RankedOut,
    SituationModel,
    SituationWater,
    TuningIn,
    advice_out,
    ranked_out,
    whys_out,
)
from deriva.service.schemas.column import MendOut, PathIn, PathOut, TouchOut

FRAMES_KEPT = 2
"""Every second frame goes over the wire: half the bytes and still smooth."""


@cache
def warm() -> None:
    """Load the compiled kernels, so that the first angler does not wait for them; once a process is enough."""
    water = SituationWater(depth_m=0.8, surface_speed_m_s=0.5)
    situation = SituationModel(water=water)
    for kind in ("euro", "indicator"):
        tuning = TuningIn(rig=kind, depth_setting_m=0.9, point_bead_mm=2.5)
        path(PathIn(situation=situation, tuning=tuning))


def rank(model: SituationModel) -> AdviceOut:
    """Rank the three rigs."""
    situation = model.situation()
    return advice_out(advise(situation), situation)


def tune(model: SituationModel, tuning: TuningIn) -> RankedOut:
    """Judge a rig as the angler sets it."""
    situation = model.situation()
    return ranked_out(judge_rig(tuned_rig(tuning.tuning(), situation), situation), situation)


def _warnings(run: DriftPath, rig: Rig) -> list[str]:
    said: list[str] = []
    if run.under_from_s is not None and rig.float_ is not None:
        said.append(
            f"The {rig.float_.name} is pulled under {run.under_from_s:.1f} s after landing: it cannot carry this rig."
        )
    if run.drift.steady.lifted:
        said.append("At this pace the line pulls the fly to the surface: slow the tip or add weight.")
    return said


def path(asked: PathIn) -> PathOut:
    """Run one drift of a rig as set."""
    situation = asked.situation.situation()
    evaluation = evaluate(tuned_rig(asked.tuning.tuning(), situation), situation)
    run = drift_path(
        evaluation.scenario,
        drift_s=evaluation.drift_s,
        flies=1 + (evaluation.rig.dropper is not None),
        zone_low_m=evaluation.zone.low_m,
        zone_high_m=evaluation.zone.high_m,
        hang_rate_per_s=hang_rate(evaluation.rig, situation),
        entry=asked.entry,
        handling=asked.handling,
        swing=asked.swing,
        carries_n=evaluation.rig.float_.carries_n if evaluation.rig.float_ else None,
    )
    mends = mend_advice(evaluation, situation)
    named = parts(evaluation.rig)
    drift, rig, scenario = run.drift, evaluation.rig, evaluation.scenario
    frames = slice(None, None, FRAMES_KEPT)
    return PathOut(
        frame_s=FRAME_S * FRAMES_KEPT,
        ends_s=run.ends_s,
        in_zone_share=run.in_zone_share,
        reached_s=run.reached_s,
        depth_m=scenario.water.depth_m,
        zone_low_m=evaluation.zone.low_m,
        zone_high_m=evaluation.zone.high_m,
        surface_speed_m_s=scenario.water.surface_speed_m_s,
        top=top_mark(rig),
        top_size_mm=rig.float_.size_mm if rig.float_ else 0.0,
        sighter_points=int((drift.along_m <= scenario.line[0].length_m + 1e-6).sum())
        if rig.float_ is None
        else 0,
        line_x_m=drift.line_x_m[frames].round(3).tolist(),
        line_height_m=drift.line_height_m[frames].round(3).tolist(),
        body_knots=list(drift.body_knots),
        body_x_m=drift.body_x_m[frames].T.round(3).tolist(),
        body_parts=parts(rig),
        body_size_mm=[1000.0 * body.diameter_m for body in scenario.bodies],
        body_depth_m=drift.body_depth_m[frames].T.round(3).tolist(),
        touch_s=list(drift.touch_s),
        touches=[
            TouchOut(part=named[touch.body], **{k: v for k, v in asdict(touch).items() if k != "body"})
            for touch in run.touches
        ],
        top_pace=run.track.top_pace[frames].round(3).tolist(),
        pull_g=(1000.0 / GRAVITY_M_S2 * run.track.pull_n[frames]).round(3).tolist(),
        sighter_deg=None
        if run.track.sighter_deg is None
        else run.track.sighter_deg[frames].round(1).tolist(),
        fly_pace=[
            [round(pace, 2) if math.isfinite(pace) else None for pace in fly]
            for fly in run.track.fly_pace[frames].T.tolist()
        ],
        reached_m=run.reached_m,
        swing_from_s=run.swing_from_s,
        under_from_s=run.under_from_s,
        mend=None if mends is None else MendOut(**asdict(mends[0]), words=mends[1]),
        warnings=_warnings(run, rig),
        why=whys_out(explain_drift(evaluation, situation)),
        t50_s=drift.t50_s,
        t80_s=drift.t80_s,
    )
