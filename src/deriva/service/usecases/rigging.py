"""Choosing and setting a rig, and running its drift: the core's work, in the wire's form. No database."""

from deriva.core.advice.advisor import advise, judge_rig, tuned_rig
from deriva.core.advice.evaluate import evaluate
from deriva.core.drift.path import drift_path
from deriva.core.drift.transient import FRAME_S
from deriva.service.schemas.advise import (
    AdviceOut,
    RankedOut,
    SituationModel,
    TuningIn,
    advice_out,
    parts,
    ranked_out,
    top_mark,
)
from deriva.service.schemas.column import PathOut

FRAMES_KEPT = 2
"""Every second frame goes over the wire: half the bytes and still smooth."""


def rank(model: SituationModel) -> AdviceOut:
    """Rank the three rigs."""
    situation = model.situation()
    return advice_out(advise(situation), situation)


def tune(model: SituationModel, tuning: TuningIn) -> RankedOut:
    """Judge a rig as the angler sets it."""
    situation = model.situation()
    return ranked_out(judge_rig(tuned_rig(tuning.tuning(), situation), situation), situation)


def path(model: SituationModel, tuning: TuningIn) -> PathOut:
    """Run one drift of a rig as set."""
    situation = model.situation()
    evaluation = evaluate(tuned_rig(tuning.tuning(), situation), situation)
    run = drift_path(
        evaluation.scenario,
        drift_s=evaluation.drift_s,
        flies=1 + (evaluation.rig.dropper is not None),
        zone_low_m=evaluation.zone.low_m,
        zone_high_m=evaluation.zone.high_m,
    )
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
        body_nodes=list(drift.body_nodes),
        body_parts=parts(rig),
        body_size_mm=[1000.0 * body.diameter_m for body in scenario.bodies],
        body_depth_m=drift.body_depth_m[frames].T.round(3).tolist(),
        touch_s=list(drift.touch_s),
        t50_s=drift.t50_s,
        t80_s=drift.t80_s,
    )
