"""`deriva coach` and the coach on the bank: drifts so far in, the next change out."""

from typing import Annotated

from pydantic import Field

from deriva.core.coach.ask import Asked
from deriva.core.coach.next import Advised, Learned
from deriva.core.coach.odds import Odds
from deriva.core.coach.options import Action
from deriva.core.coach.rule import Thumb
from deriva.core.model.logged import Outcome
from deriva.service.schemas.base import Wire
from deriva.service.schemas.nouns import Noun

AskedNoun = Annotated[Asked, Noun()]


class DepthBeliefOut(Wire):
    """What the depth is believed to be: 1, 5 and 9 times in 10 it is less."""

    p10: float
    p50: float
    p90: float


class StepOut(Wire):
    """What the coach will say once so many drifts in a row have ended so, and what after that; ``hold``: nothing is changed.
    ``float`` is the float or dry that it comes with, where the one that is on by then would go under.
    """

    outcome: Outcome
    times: int
    action: Action
    depth_setting_m: float
    point_bead_mm: float | None
    reason: str
    float_: Annotated[str | None, Field(alias="float")]
    said: str
    then: list["StepOut"]


class CoachOut(Wire):
    """What `deriva coach` writes; ``in_zone`` is the share of the drift in the zone as the rig is set now,
    ``taking_fish`` the chance that a fish which would take is there, ``odds`` what that rests on and what else would bring.

    ``learned`` is null while the drifts say no more of the depth than the reading did.
    """

    depth_belief_m: DepthBeliefOut
    advice: Annotated[Advised, Noun()]
    rule_of_thumb: Annotated[Thumb, Noun()] | None
    in_zone: float
    taking_fish: float
    odds: Annotated[Odds, Noun()]
    notes: list[str]
    learned: Annotated[Learned, Noun()] | None
