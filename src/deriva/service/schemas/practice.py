"""Practice, as it goes over the wire."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from deriva.core.coach.next import Advised
from deriva.core.model.logged import Outcome
from deriva.core.model.rig import RigKind
from deriva.core.practice.cast import DrillName, Game
from deriva.core.practice.drills import Drill
from deriva.core.practice.review import Revealed
from deriva.core.practice.score import Beside, Score
from deriva.core.practice.seen import Shown
from deriva.service.schemas.base import Wire
from deriva.service.schemas.nouns import Noun, SituationNoun

GameNoun = Annotated[Game, Noun()]
DrillNoun = Annotated[Drill, Noun()]
ShownNoun = Annotated[Shown, Noun()]
AdvisedNoun = Annotated[Advised, Noun()]
RevealedNoun = Annotated[Revealed, Noun()]


class StartOut(Wire):
    """A rig that may be on when a game begins."""

    rig: RigKind
    depth_setting_m: float
    point_bead_mm: float | None


class LaneOut(Wire):
    """A lane as it is judged before the first drift."""

    name: str
    situation: SituationNoun


class WaterOut(Wire):
    """A water to practise in: what is told of it, and the game before its first cast."""

    drill: DrillNoun
    game: GameNoun
    lanes: list[LaneOut]
    starts: list[StartOut]
    beads_mm: list[float]
    reach_m: float
    bar: str
    """What it takes to pass, in words."""


class ToldOut(Wire):
    """What the angler knows after a drift, and the game's clock; ``over``: no drift is left, or no time."""

    words: str
    outcome: Outcome
    at_s: float
    over: bool


class WhyOut(Wire):
    """What a drift could have told."""

    words: str


class KeptGameOut(Wire):
    """A game that was played."""

    id: UUID
    at: datetime
    drill: DrillName
    seed: int
    drifts: int
    share: float
    low: float
    high: float
    passed: bool


class PracticeOut(Wire):
    """The drills, and the games that were played, newest first."""

    drills: list[DrillNoun]
    games: list[KeptGameOut]


class FinishedOut(Wire):
    """What a game was worth, beside others with the same luck."""

    score: Annotated[Score, Noun()]
    beside: list[Annotated[Beside, Noun()]]
    passed: bool


class FinishIn(Wire):
    """A game that is over."""

    game: GameNoun
