"""Practice: a hidden water is told of, fished cast by cast, and revealed."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from functools import cache
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.choose.judge import NotHere
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.coach.next import Advised, first_setting
from deriva.core.errors import DerivaError, Impossible
from deriva.core.model.situation import Box, School, Situation
from deriva.core.practice.cast import Cast, DrillName, Game
from deriva.core.practice.drills import BY_NAME, as_judged, waters
from deriva.core.practice.game import Drifted, check, fished, is_over, look, told
from deriva.core.practice.hints import hint, why
from deriva.core.practice.players import tied_by_thumb
from deriva.core.practice.review import Revealed, passed, reveal
from deriva.core.practice.score import Beside, Score, beside, can_hang, first_cast, score
from deriva.core.practice.seen import Shown
from deriva.core.read import read_noun, write_noun
from deriva.core.tackle.beads import LADDER_MM
from deriva.service.store import practice
from deriva.service.store.models import Angler, PracticeGame
from deriva.service.usecases import box

LIGHT_MM = 2.0
"""What is on at the start of the drill that is about weight."""


@dataclass(frozen=True, slots=True)
class Told:
    """A water as it is told of before the first drift: a rig of each kind that may be on, and the beads to be had."""

    game: Game
    lanes: tuple[tuple[str, Situation], ...]
    starts: tuple[Cast, ...]
    beads_mm: tuple[float, ...]
    reach_m: float


async def begin(session: AsyncSession, angler: Angler, drill: DrillName, seed: int) -> Game:
    """Return a game before its first cast: in free practice with the angler's own box and school."""
    if drill != "free":
        return Game(drill, seed)
    own: Box | None = await box.box_of(session, angler.id)
    return Game(drill, seed, school=read_noun(School, angler.school), box=own)


@cache
def warm() -> None:
    """Load the compiled kernels; once a process is enough."""
    game = Game("first_depth", 1)
    fished(replace(game, casts=tell(game).starts[:1]))


def _nearest(beads: Sequence[float], wanted: float) -> float | None:
    return min(beads, key=lambda mm: abs(mm - wanted), default=None)


def tell(game: Game) -> Told:
    """Tell of a water."""
    there = waters(game.drill, game.seed)
    lanes = there.lanes
    judged = [as_judged(game.drill, game.seed, k + 1, game.school, game.box) for k in range(len(lanes))]
    beads = LADDER_MM if game.box is None else game.box.weighted
    starts: list[Cast] = []
    for kind in BY_NAME[game.drill].kinds:
        try:
            rig = tied_by_thumb(judged[0], kind)
        except DerivaError:
            continue  # nothing in the box that would hang so
        wanted = LIGHT_MM if game.drill == "weight_or_length" else rig.point.bead_mm or 0.0
        bead = _nearest(beads, wanted)
        cast = Cast(kind, rig.depth_setting_m, bead)
        if can_hang(game, cast):
            starts.append(cast)
    if not starts:
        raise Impossible("box: it holds nothing that can be fished here", field="box")
    named = tuple((one.name, situation) for one, situation in zip(lanes, judged, strict=True))
    return Told(game, named, tuple(starts), tuple(beads), there.reach_m)


def _cast(game: Game) -> None:
    check(game)
    if not game.casts:
        raise Impossible("game.casts is empty: cast first", field="game.casts")


def cast(game: Game) -> Shown:
    """Return what shows of the last cast."""
    _cast(game)
    return look(game)


def lift(game: Game) -> tuple[str, Drifted, bool]:
    """End the last drift as the angler did; return what is known of it then, the drift, and whether the game is over."""
    _cast(game)
    drifts = fished(game)
    return told(drifts[-1]), drifts[-1], is_over(game, drifts)


def say_why(game: Game) -> str:
    """Say what the last drift could have told."""
    _cast(game)
    return why(fished(game)[-1])


def help_once(game: Game) -> Advised:
    """Return the coach's word."""
    _cast(game)
    return hint(game, wide)


def lift_off(game: Game) -> Revealed:
    """Reveal the water."""
    _cast(game)
    return reveal(game, fished(game))


@dataclass(frozen=True, slots=True)
class Finished:
    """What a game was worth."""

    score: Score
    beside: tuple[Beside, ...]
    passed: bool


def finish(game: Game) -> Finished:
    """Reckon what a game was worth beside others with the same luck."""
    _cast(game)
    drifts = fished(game)
    kind = game.casts[0].rig
    judged = as_judged(game.drill, game.seed, game.casts[0].lane, None, None)
    best = advise(judged, wide).of(kind)
    first = None if isinstance(best, NotHere) else first_cast(game, first_setting(judged, best.rig))
    others = beside(game, first)
    knew = next((sum(one.zone_s) for one in others if one.name == "knowing"), 0.0)
    found = score(game, drifts, knew)
    return Finished(found, others, passed(game, reveal(game, drifts), found.share))


async def newest(session: AsyncSession, angler_id: UUID) -> Sequence[PracticeGame]:
    """Return an angler's games, newest first."""
    return await practice.newest(session, angler_id)


async def keep(session: AsyncSession, angler_id: UUID, game_id: UUID, game: Game, done: Finished) -> None:
    """Keep a game that is over."""
    one = done.score
    await practice.keep(
        session,
        PracticeGame(
            angler_id=angler_id, id=game_id, at=datetime.now(UTC), drill=game.drill, seed=game.seed,
            casts=[write_noun(cast) for cast in game.casts], zone_s=one.zone_s, best_s=one.best_s, share=one.share,
            low=one.low, high=one.high, passed=done.passed,
        ),
    )  # fmt: skip
