"""Practice: hidden waters, told of, fished and revealed."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Path

from deriva.core.practice.cast import SEED, DrillName
from deriva.core.practice.drills import BY_NAME, DRILLS
from deriva.service.api.deps import Computing, Making, Me, Transaction
from deriva.service.schemas.practice import (
    AdvisedNoun,
    FinishedOut,
    FinishIn,
    GameNoun,
    KeptGameOut,
    LaneOut,
    PracticeOut,
    RevealedNoun,
    ShownNoun,
    StartOut,
    ToldOut,
    WaterOut,
    WhyOut,
)
from deriva.service.store.models import PracticeGame
from deriva.service.usecases import practice

router = APIRouter(prefix="/practice", tags=["practice"])


def _kept(game: PracticeGame) -> KeptGameOut:
    return KeptGameOut(
        id=game.id, at=game.at, drill=game.drill, seed=game.seed, drifts=len(game.casts), share=game.share,
        low=game.low, high=game.high, passed=game.passed,
    )  # fmt: skip


@router.get("")
async def list_practice(session: Transaction, me: Me) -> PracticeOut:
    """List the drills, and the games that were played."""
    return PracticeOut(
        drills=list(DRILLS), games=[_kept(one) for one in await practice.newest(session, me.id)]
    )


@router.get("/waters/{drill}/{seed}")
async def tell_of_water(
    making: Making, computing: Computing, drill: DrillName, seed: Annotated[int, Path(ge=SEED.lo, le=SEED.hi)]
) -> WaterOut:
    """Tell of a hidden water what one is told before the first drift."""
    async with making.begin() as session:
        game = await practice.begin(session, computing.angler, drill, seed)
    told = await computing.run(practice.tell, game)
    return WaterOut(
        drill=BY_NAME[drill],
        game=told.game,
        lanes=[LaneOut(name=name, situation=situation) for name, situation in told.lanes],
        starts=[
            StartOut(rig=one.rig, depth_setting_m=one.depth_setting_m, point_bead_mm=one.point_bead_mm)
            for one in told.starts
        ],
        beads_mm=list(told.beads_mm),
        reach_m=told.reach_m,
        bar=BY_NAME[drill].bar.words,
    )


@router.post("/casts")
async def cast(computing: Computing, body: GameNoun) -> ShownNoun:
    """Say what shows above the water of a game's last cast."""
    return await computing.run(practice.cast, body)


@router.post("/lifted")
async def lift(computing: Computing, body: GameNoun) -> ToldOut:
    """Say what came of a game's last cast, struck as it was."""
    words, drift, over = await computing.run(practice.lift, body)
    return ToldOut(words=words, outcome=drift.outcome, at_s=drift.at_s, over=over)


@router.post("/why")
async def say_why(computing: Computing, body: GameNoun) -> WhyOut:
    """Say what a game's last drift could have told."""
    return WhyOut(words=await computing.run(practice.say_why, body))


@router.post("/hint")
async def help_once(computing: Computing, body: GameNoun) -> AdvisedNoun:
    """Say what the coach would do next, by what was logged."""
    return await computing.run(practice.help_once, body)


@router.post("/revealed")
async def lift_off(computing: Computing, body: GameNoun) -> RevealedNoun:
    """Show what was under the water of a game that is over."""
    return await computing.run(practice.lift_off, body)


@router.put("/games/{game_id}")
async def finish(making: Making, computing: Computing, game_id: UUID, body: FinishIn) -> FinishedOut:
    """Say what a game was worth beside others with the same luck, and keep it."""
    done = await computing.run(practice.finish, body.game)
    async with making.begin() as session:
        await practice.keep(session, computing.angler.id, game_id, body.game, done)
    return FinishedOut(score=done.score, beside=list(done.beside), passed=done.passed)
