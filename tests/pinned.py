"""What is pinned of a seeded situation: the advice in it, the drift of the rig advised, and the coach after six drifts."""

from pathlib import Path
from typing import Any

from deriva.core.check import fields_of
from deriva.core.coach.ask import Asked
from deriva.core.drift.transient import transient_drift
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.read import read_noun
from deriva.core.rigs.assemble import assemble
from deriva.core.rigs.resolve import resolve
from deriva.service.usecases import rigging
from deriva.service.views.advice import advice_out, coach_out
from tests.seeded import drifts, situations

PINNED = Path(__file__).parent / "reference" / "pinned.json"
DRIFT_S = 4.0
TUNED = [one.wire_name for one in fields_of(Tuning) if one.name != "rig"]


def figures(k: int) -> dict[str, Any]:
    """Return the figures of one situation, rounded to what a person could tell apart and a hundred times finer."""
    situation: Situation = read_noun(Situation, situations()[k])
    advice = advice_out(rigging.rank(situation)).model_dump(by_alias=True)
    found: dict[str, Any] = {"ranked": [_rig(one) for one in advice["ranked"]]}
    best = advice["ranked"][0]
    if best["setup"] is None:
        return found
    setup = best["setup"]
    tuning = {"rig": best["rig"]} | {one: setup[one] for one in TUNED}
    rig = resolve(read_noun(Tuning, tuning), situation)
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
    coached = coach_out(rigging.coach(read_noun(Asked, asked))).model_dump()
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
        **{
            name: setup.get(name)
            for name in ("depth_setting_m", "point_bead_mm", "dropper_bead_mm", "tippet_x", "shot_g")
        },
        "float": setup.get("float"),
        "lead_m": None if setup.get("lead_m") is None else round(setup["lead_m"], 4),
    }
