"""An advice, a judged rig and a coaching, as they go over the wire. Sentences keep their marked quantities."""

import math
from collections.abc import Sequence
from typing import Any

from deriva.core.choose.criteria import ZONE_WEIGHT
from deriva.core.choose.evaluate import Evaluation
from deriva.core.choose.judge import Judged, NotHere, Reason, Usable
from deriva.core.choose.single_dry import SingleDry
from deriva.core.coach.ask import written
from deriva.core.coach.card import Step
from deriva.core.coach.next import Coaching
from deriva.core.model.quantity import plain
from deriva.core.model.rig import NAMES
from deriva.core.model.setup import DrySetup, Setup
from deriva.core.model.situation import Situation
from deriva.core.rigs.limits import limits
from deriva.core.say.picture import picture
from deriva.core.say.why import explain
from deriva.service.schemas.advise import (
    AdviceOut,
    DryOut,
    LimitsOut,
    NumbersOut,
    RankedOut,
    ReasonOut,
    ThumbOut,
)
from deriva.service.schemas.coach import CoachOut, StepOut
from deriva.service.usecases.rigging import Ranking


def _numbers(e: Evaluation) -> NumbersOut:
    return NumbersOut(
        fly_depth_m=e.steady.body_depth_m[0],
        pace=e.steady.top_speed_ratio,
        lean_deg=e.steady.top_angle_deg,
        time_to_zone_s=e.time_to_zone_s,
        hang_chance=e.hang_chance,
        drift_m=e.drift_m,
        carry=e.carry if math.isfinite(e.carry) else None,
        grounded=e.steady.grounded,
        lifted=e.steady.lifted,
    )


def _limits(situation: Situation) -> LimitsOut:
    by_hand = limits(situation)
    line = by_hand.depth_setting_m
    return LimitsOut(
        beads_mm=list(by_hand.beads_mm),
        least_m=line.lo,
        most_m=line.hi,
        step_m=by_hand.step_m,
        heaviest_x=int(by_hand.tippet_x.lo),
        finest_x=int(by_hand.tippet_x.hi),
        fastest_pace=by_hand.tip_pace.hi,
    )


def ranked_out(judged: Judged, situation: Situation) -> RankedOut:
    """Return the wire form of one judged rig."""
    return _usable_out(judged, situation) if isinstance(judged, Usable) else _not_here_out(judged, situation)


def _not_here_out(judged: NotHere, situation: Situation) -> RankedOut:
    return RankedOut(
        rig=judged.kind,
        name=NAMES[judged.kind],
        score=0.0,
        answer=judged.answer,
        zone_share=0.0,
        zone_share_low=0.0,
        zone_share_high=0.0,
        first_setting=False,
        reasons=_reasons([Reason(False, judged.why)]),
        warnings=[judged.why],
        criteria=[],
        loses_on=None,
        setup=None,
        numbers=None,
        picture=None,
        why=[],
        rule_of_thumb=ThumbOut(depth_setting_m=list(judged.thumb_m), note=""),
        limits=_limits(situation),
        zone_weight=ZONE_WEIGHT,
    )


def _usable_out(judged: Usable, situation: Situation) -> RankedOut:
    e = judged.evaluation
    return RankedOut(
        rig=judged.kind,
        name=NAMES[judged.kind],
        score=judged.score,
        answer=judged.answer,
        zone_share=e.zone_share,
        zone_share_low=e.zone_share_low,
        zone_share_high=e.zone_share_high,
        first_setting=e.is_first_setting,
        reasons=_reasons(judged.reasons),
        warnings=list(judged.warnings),
        criteria=list(judged.criteria),
        loses_on=judged.loses_on,
        setup=Setup.of(e.rig, lead_m=e.lead_m),
        numbers=_numbers(e),
        picture=picture(e),
        why=list(explain(e, situation)),
        rule_of_thumb=ThumbOut(depth_setting_m=list(judged.thumb_m), note=judged.thumb_note),
        limits=_limits(situation),
        zone_weight=ZONE_WEIGHT,
    )


def advice_out(found: Ranking) -> AdviceOut:
    """Return the wire form of an advice."""
    ranked = [ranked_out(judged, found.situation) for judged in found.advice.ranked]
    return AdviceOut(
        ranked=ranked,
        cautions=[one.text for one in found.cautions],
        heed=list(found.cautions),
        rule_of_thumb=ranked[0].rule_of_thumb,
        presentations=list(found.presentations),
        relax=list(found.relax),
        schools=list(found.schools),
        single_dry=None if found.advice.single_dry is None else _dry_out(found.advice.single_dry),
    )


def _reasons(reasons: Sequence[Reason]) -> list[ReasonOut]:
    return [ReasonOut(for_=reason.speaks_for, text=reason.text) for reason in reasons]


def _dry_out(one: SingleDry) -> DryOut:
    return DryOut(
        name="Single dry",
        setup=DrySetup(float_=one.dry.name, tippet_x=one.tippet_x),
        score=one.score,
        reasons=_reasons(one.reasons),
    )


def headless_advice(found: Ranking) -> dict[str, Any]:
    """Return an advice as `deriva advise` writes it: the single dry stands among the ranked rigs, where its score puts it."""
    written = advice_out(found).model_dump(by_alias=True)
    dry = written.pop("single_dry")
    if dry is not None:
        setup = {"flies": 0, "depth_setting_m": None, **dry["setup"]}
        answer = f"{dry['name']} · {setup['float']} · {setup['tippet_x']}X"
        entry = {
            "rig": "dry",
            **{key: dry[key] for key in ("name", "score", "reasons")},
            "answer": answer,
            "setup": setup,
        }
        entry |= {"zone_share": None, "warnings": []}
        ranked = written["ranked"]
        place = next((k for k, one in enumerate(ranked) if one["score"] < dry["score"]), len(ranked))
        ranked.insert(place, entry)
    return written


def step_out(step: Step) -> StepOut:
    """Return the wire form of a step of the search card."""
    said = {name: getattr(step, name) for name in StepOut.model_fields if name != "then"}
    return StepOut.model_validate(said | {"then": [step_out(one) for one in step.then]})


def coach_out(done: Coaching) -> CoachOut:
    """Return the wire form of a coaching."""
    return CoachOut.model_validate(written(done))


def plain_json(value: object) -> object:
    """Return JSON-like data with the marks taken off every sentence, for readers without units to choose."""
    if isinstance(value, str):
        return plain(value)
    if isinstance(value, list | tuple):
        return [plain_json(item) for item in value]
    if isinstance(value, dict):
        return {key: plain_json(item) for key, item in value.items()}
    return value
