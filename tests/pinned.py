"""What is pinned of a seeded situation: the advice in it, the drift of the rig advised, and the coach after six drifts."""

from pathlib import Path
from typing import Any

from deriva.core.advice.advisor import advise, tuned_rig
from deriva.core.drift.transient import transient_drift
from deriva.core.rigs.spec import assemble
from deriva.service.schemas.advise import SituationModel, TuningIn, advice_out
from deriva.service.schemas.coach import CoachIn, coached_out
from tests.seeded import drifts, situations

PINNED = Path(__file__).parent / "reference" / "pinned.json"
DRIFT_S = 4.0


def figures(k: int) -> dict[str, Any]:
    """Return the figures of one situation, rounded to what a person could tell apart and a hundred times finer."""
    model = SituationModel.model_validate(situations()[k])
    situation = model.situation()
    advice = advice_out(advise(situation), situation).model_dump(by_alias=True)
    found: dict[str, Any] = {"ranked": [_rig(one) for one in advice["ranked"]]}
    best = advice["ranked"][0]
    if best["setup"] is None:
        return found
    setup = best["setup"]
    tuning = {"rig": best["rig"], **{name: setup[name] for name in TuningIn.model_fields if name in setup}}
    tuning["float"] = setup["float"]
    rig = tuned_rig(TuningIn.model_validate(tuning).tuning(), situation)
    run = transient_drift(assemble(rig, situation.water.column()), duration_s=DRIFT_S)
    found["drift"] = {
        "top_speed_ratio": round(run.steady.top_speed_ratio, 5),
        "body_depth_m": [round(depth, 5) for depth in run.steady.body_depth_m],
        "t50_s": None if run.t50_s is None else round(run.t50_s, 4),
        "top_x_m": round(float(run.top_x_m[-1]), 4),
    }
    asked = {
        "situation": situations()[k],
        "rig": best["rig"],
        "drifts": drifts(k, best["rig"], setup["depth_setting_m"], setup["point_bead_mm"]),
        "tuning": tuning,
    }
    coached = coached_out(CoachIn.model_validate(asked)).model_dump()
    said = coached["advice"]
    found["coach"] = {
        "action": said["action"],
        "depth_setting_m": round(said["depth_setting_m"], 3),
        "point_bead_mm": said["point_bead_mm"],
        "depth_belief_m": [round(one, 4) for one in coached["depth_belief_m"].values()],
        "in_zone": round(coached["in_zone"], 4),
    }
    return found


def _rig(ranked: dict[str, Any]) -> dict[str, Any]:
    setup = ranked["setup"] or {}
    return {
        "rig": ranked["rig"],
        "score": round(ranked["score"], 5),
        "zone_share": round(ranked["zone_share"], 5),
        **{name: setup.get(name) for name in ("depth_setting_m", "point_bead_mm", "dropper_bead_mm", "tippet_x", "shot_g")},
        "float": setup.get("float"),
        "lead_m": None if setup.get("lead_m") is None else round(setup["lead_m"], 4),
    }
