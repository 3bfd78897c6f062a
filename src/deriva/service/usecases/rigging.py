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
    ranked_out,
)
from deriva.service.schemas.column import PathOut

FRAMES_KEPT = 2
NODES_KEPT = 2
"""Every second frame and node go over the wire: a fifth of the bytes and still smooth."""


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
    drift = run.drift
    nodes = drift.line_x_m.shape[1]
    depth = evaluation.scenario.water.depth_m
    # every second node, and every node that carries a body
    bodies = [int(abs(drift.line_x_m - x[:, None]).sum(axis=0).argmin()) for x in drift.body_x_m.T]
    kept = sorted({0, nodes - 1, *range(0, nodes, NODES_KEPT), *bodies})
    frames = slice(None, None, FRAMES_KEPT)
    return PathOut(
        frame_s=FRAME_S * FRAMES_KEPT,
        ends_s=run.ends_s,
        in_zone_share=run.in_zone_share,
        reached_s=run.reached_s,
        depth_m=depth,
        zone_low_m=evaluation.zone.low_m,
        zone_high_m=evaluation.zone.high_m,
        surface_speed_m_s=evaluation.scenario.water.surface_speed_m_s,
        line_x_m=drift.line_x_m[frames, kept].round(4).tolist(),
        line_height_m=drift.line_height_m[frames, kept].round(4).tolist(),
        body_nodes=[kept.index(node) for node in bodies],
        body_depth_m=drift.body_depth_m[frames].T.round(4).tolist(),
        touch_s=list(drift.touch_s),
        t50_s=drift.t50_s,
        t80_s=drift.t80_s,
    )
