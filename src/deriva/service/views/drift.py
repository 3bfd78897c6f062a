"""A drift as it goes over the wire: of the headless command, and as frames for a screen."""

import math
from dataclasses import asdict

from deriva.core.drift.scenario import Scenario
from deriva.core.drift.transient import FRAME_S, TransientDrift
from deriva.core.say.picture import parts, top_mark
from deriva.core.water.properties import GRAVITY_M_S2
from deriva.service.schemas.column import MendOut, PathOut, TouchOut
from deriva.service.schemas.drift import DriftOut, SteadyOut, TransientOut
from deriva.service.usecases.rigging import Shown

FRAMES_KEPT = 2
"""Every second frame goes over the wire: half the bytes and still smooth."""

STANDS = 1e6
"""A fly so much faster than its water is in water that stands."""

THIN = (
    "The water is thin over its stones (depth under 3 ks): below their tops a slow layer stands for the log law, and "
    "whatever runs there is loose."
)


def drift_out(drift: TransientDrift, scenario: Scenario) -> DriftOut:
    """Return the wire form of a drift; ``notes`` says what is loose about it."""
    s = drift.steady
    return DriftOut(
        steady=SteadyOut(
            body_depth_m=list(s.body_depth_m),
            top_speed_ratio=s.top_speed_ratio,
            body_speed_ratio=[ratio if ratio < STANDS else None for ratio in s.body_speed_ratio],
            offset_m=s.offset_m,
            tension_n=s.tension_n,
            grounded=s.grounded,
            lifted=s.lifted,
            entry_offset_m=s.entry_offset_m,
            sinking_speed_m_s=s.sinking_speed_m_s,
        ),
        transient=TransientOut(
            t_s=drift.t_s.tolist(),
            top_x_m=drift.top_x_m.tolist(),
            body_x_m=drift.body_x_m.T.tolist(),
            body_depth_m=drift.body_depth_m.T.tolist(),
            t50_s=drift.t50_s,
            t80_s=drift.t80_s,
            t95_s=drift.t95_s,
            touch_s=list(drift.touch_s),
        ),
        notes=[THIN] if scenario.water.profile == "stones" else [],
    )


def path_out(shown: Shown) -> PathOut:
    """Return the wire form of one drift as frames."""
    evaluation, run = shown.evaluation, shown.run
    drift, rig, scenario, track = run.drift, evaluation.rig, evaluation.scenario, run.track
    named = parts(rig)
    frames = slice(None, None, FRAMES_KEPT)
    upper = drift.along_m <= scenario.line[0].length_m + 1e-6
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
        sighter_points=int(upper.sum()) if rig.float_ is None else 0,
        line_x_m=drift.line_x_m[frames].round(3).tolist(),
        line_height_m=drift.line_height_m[frames].round(3).tolist(),
        body_knots=list(drift.body_knots),
        body_x_m=drift.body_x_m[frames].T.round(3).tolist(),
        body_parts=named,
        body_size_mm=[1000.0 * body.diameter_m for body in scenario.bodies],
        body_depth_m=drift.body_depth_m[frames].T.round(3).tolist(),
        touch_s=list(drift.touch_s),
        touches=[
            TouchOut(part=named[touch.body], **{k: v for k, v in asdict(touch).items() if k != "body"})
            for touch in run.touches
        ],
        top_pace=track.top_pace[frames].round(3).tolist(),
        pull_g=(1000.0 / GRAVITY_M_S2 * track.pull_n[frames]).round(3).tolist(),
        sighter_deg=None if track.sighter_deg is None else track.sighter_deg[frames].round(1).tolist(),
        fly_pace=[
            [round(pace, 2) if math.isfinite(pace) else None for pace in fly]
            for fly in track.fly_pace[frames].T.tolist()
        ],
        reached_m=run.reached_m,
        swing_from_s=run.swing_from_s,
        under_from_s=run.under_from_s,
        mend=None if shown.mends is None else MendOut(**asdict(shown.mends[0]), words=shown.mends[1]),
        warnings=list(shown.warnings),
        why=list(shown.why),
        t50_s=drift.t50_s,
        t80_s=drift.t80_s,
    )
