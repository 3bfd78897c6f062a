"""`deriva coach` and the coach on the bank: drifts so far in, the next change out."""

from typing import Annotated

from pydantic import Field

from deriva.core import ranges as r
from deriva.core.advice.advisor import Tuning, advise, tuned_rig
from deriva.core.coach.belief import Seen
from deriva.core.coach.next import Action, Coaching, coach
from deriva.core.errors import DerivaError, Impossible
from deriva.core.record.tally import Outcome, Pace
from deriva.core.rigs.spec import Rig, RigKind
from deriva.service.schemas.advise import SituationModel, TuningIn
from deriva.service.schemas.base import Wire, Within

MOST_DRIFTS = 400


class SeenIn(Wire):
    """A drift: how the rig was set, how it ended, and the float's or sighter's pace against the bubbles."""

    depth_setting_m: Annotated[float, Within(r.DEPTH_SETTING_M)]
    point_bead_mm: Annotated[float, Within(r.BEAD_MM)]
    outcome: Outcome
    pace: Pace | None = None


class CoachIn(Wire):
    """What `deriva coach` reads; ``tuning`` is the whole rig that is on, null where depth and bead say enough."""

    situation: SituationModel
    rig: RigKind
    drifts: Annotated[list[SeenIn], Field(max_length=MOST_DRIFTS)]
    tuning: TuningIn | None = None


class DepthBeliefOut(Wire):
    """What the depth is believed to be: 1, 5 and 9 times in 10 it is less."""

    p10: float
    p50: float
    p90: float


class CoachAdviceOut(Wire):
    """What to do next, and why, in a sentence."""

    action: Action
    rig: RigKind
    depth_setting_m: float
    point_bead_mm: float
    reason: str


class CoachThumbOut(Wire):
    """What the rule of thumb would do."""

    action: str
    depth_setting_m: float
    point_bead_mm: float
    reason: str


class CoachOut(Wire):
    """What `deriva coach` writes; ``in_zone`` is the share of the drift in the zone as the rig is set now."""

    depth_belief_m: DepthBeliefOut
    advice: CoachAdviceOut
    rule_of_thumb: CoachThumbOut | None
    in_zone: float
    notes: list[str]


def _rig(asked: CoachIn, setting: float, bead: float) -> Rig:
    tuning = Tuning(asked.rig, setting, bead)
    if asked.tuning is not None and asked.tuning.rig == asked.rig:
        on = asked.tuning.tuning()
        tuning = Tuning(
            asked.rig, setting, bead, flies=on.flies, dropper_bead_mm=on.dropper_bead_mm,
            dropper_spacing_m=on.dropper_spacing_m, dropper_tag_m=on.dropper_tag_m, tippet_x=on.tippet_x, shot_g=on.shot_g,
            tip_pace=on.tip_pace,
        )  # fmt: skip
    return tuned_rig(tuning, asked.situation.situation())


def coached(asked: CoachIn) -> Coaching:
    """Coach; raises the core's errors for a rig that cannot hang, naming the drift."""
    situation = asked.situation.situation()
    rigs: dict[tuple[float, float], Rig] = {}
    for k, one in enumerate(asked.drifts):
        key = (one.depth_setting_m, one.point_bead_mm)
        try:
            rigs.setdefault(key, _rig(asked, *key))
        except DerivaError as error:
            raise Impossible(f"drifts.{k}: {error.message}", field=f"drifts.{k}") from None
    seen = [Seen(rigs[one.depth_setting_m, one.point_bead_mm], one.outcome, one.pace) for one in asked.drifts]
    if asked.tuning is not None:
        on = _rig(asked, asked.tuning.depth_setting_m, asked.tuning.point_bead_mm)
    elif seen:
        on = seen[-1].rig
    else:
        best = next(one for one in advise(situation).ranked if one.kind == asked.rig)
        if best.evaluation is None:
            raise Impossible(f"rig = {asked.rig}: {best.reasons[0].text}", field="rig")
        on = best.evaluation.rig
    return coach(situation, on, seen)


def coach_out(done: Coaching) -> CoachOut:
    """Return the wire form; sentences keep their marked quantities."""
    advice, thumb = done.advice, done.thumb
    return CoachOut(
        depth_belief_m=DepthBeliefOut(
            p10=done.belief.depth(0.1), p50=done.belief.depth(0.5), p90=done.belief.depth(0.9)
        ),
        advice=CoachAdviceOut(
            action=advice.action,
            rig=advice.rig,
            depth_setting_m=advice.depth_setting_m,
            point_bead_mm=advice.point_bead_mm,
            reason=advice.reason,
        ),
        rule_of_thumb=None
        if thumb is None
        else CoachThumbOut(
            action=thumb.action,
            depth_setting_m=thumb.depth_setting_m,
            point_bead_mm=thumb.point_bead_mm,
            reason=thumb.reason,
        ),
        in_zone=done.in_zone,
        notes=list(done.notes),
    )
