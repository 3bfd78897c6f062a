"""`deriva coach` and the coach on the bank: drifts so far in, the next change out."""

from typing import Annotated

from pydantic import Field

from deriva.core import ranges as r
from deriva.core.coach.ask import Asked, Fished, coached, written
from deriva.core.coach.next import Action
from deriva.core.record.tally import FlyOnRig, Outcome, Pace, Phase
from deriva.core.rigs.spec import RigKind
from deriva.service.schemas.advise import SituationModel, TuningIn
from deriva.service.schemas.base import Wire, Within

MOST_DRIFTS = 400


class SeenIn(Wire):
    """A drift: the rig as set, how it ended, the pace against the bubbles; of a fish, which fly and when."""

    depth_setting_m: Annotated[float, Within(r.DEPTH_SETTING_M)]
    point_bead_mm: Annotated[float, Within(r.BEAD_MM)]
    outcome: Outcome
    pace: Pace | None = None
    fly: FlyOnRig | None = None
    phase: Phase | None = None


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


class LearnedOut(Wire):
    """The depth that the drifts have found, worth keeping as an observation of the lie."""

    depth_m: float
    depth_sd_m: float


class CoachOut(Wire):
    """What `deriva coach` writes; ``in_zone`` is the share of the drift in the zone as the rig is set now.

    ``learned`` is null while the drifts say no more of the depth than the reading did.
    """

    depth_belief_m: DepthBeliefOut
    advice: CoachAdviceOut
    rule_of_thumb: CoachThumbOut | None
    in_zone: float
    notes: list[str]
    learned: LearnedOut | None


def coached_out(asked: CoachIn) -> CoachOut:
    """Coach; raises the core's errors for a rig that cannot hang, naming the drift. Sentences keep their marks."""
    drifts = tuple(
        Fished(one.depth_setting_m, one.point_bead_mm, one.outcome, one.pace, one.fly, one.phase)
        for one in asked.drifts
    )
    tuning = None if asked.tuning is None else asked.tuning.tuning()
    done = coached(Asked(asked.situation.situation(), asked.rig, drifts, tuning))
    return CoachOut.model_validate(written(done))
