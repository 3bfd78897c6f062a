"""Asking the log: what can be asked, and what it answers."""

from collections.abc import Sequence
from datetime import datetime
from functools import cache
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.errors import DerivaError, Impossible
from deriva.core.learn.answer import Row, Tally, answer
from deriva.core.learn.dimensions import DIMENSIONS, DimensionName
from deriva.core.learn.evidence import fits, is_of_use
from deriva.core.learn.question import Only, Question
from deriva.core.learn.suggest import suggested
from deriva.core.read import read_noun, write_noun
from deriva.core.record.turns import Trial
from deriva.service.schemas.learn import HereIn
from deriva.service.store import effort
from deriva.service.store.models import Angler
from deriva.service.usecases import logbook
from deriva.service.usecases.logbook import Counted


@cache
def warm() -> None:
    """Load what the statistics need, so that the first angler does not wait for it; once a process is enough."""
    water = ("normal", "2", "run", "day")
    rows = [Row(0, "euro", water, 1, 4, 0.1), Row(0, "indicator", water, 0, 4, 0.1)]
    for question in (Question("rig"), Question("rig", per="hour")):
        answer(question, Tally.of(rows), {})


async def counted(session: AsyncSession, angler_id: UUID, question: Question) -> tuple[Tally, dict[str, str]]:
    """Return what was fished of what is asked, and what the places in it are called."""
    return await effort.tally(session, angler_id, question), await effort.names(session, angler_id)


async def questions(session: AsyncSession, angler_id: UUID) -> tuple[Question, ...]:
    """Return the common questions that the angler's log can answer."""
    return suggested(await effort.outline(session, angler_id))


async def parts(
    session: AsyncSession, angler_id: UUID, name: DimensionName
) -> Sequence[tuple[str, str, int]]:
    """Return what the log holds of a dimension: key, what it is called, drifts."""
    dimension = DIMENSIONS[name]
    drifts = await effort.parts(session, angler_id, name)
    names = await effort.names(session, angler_id) if name in ("lie", "beat") else {}
    return [(key, dimension.label(key, names), drifts[key]) for key in dimension.ordered(drifts)]


async def behind(session: AsyncSession, angler_id: UUID, question: Question, part: str) -> list[Counted]:
    """Return the newest outings on which a part of an answer was fished, as a page of the ledger has them."""
    return await logbook.counted(
        session, angler_id, await effort.behind(session, angler_id, question, part, most=logbook.A_PAGE)
    )


def of_evidence(angler: Angler) -> list[Question]:
    """Return the questions whose answers an angler wants beside the rig; what is no question any more is passed over."""
    found: list[Question] = []
    for one in angler.evidence:
        try:
            found.append(read_noun(Question, one))
        except DerivaError:
            continue
    return found


async def use_evidence(session: AsyncSession, angler_id: UUID, questions: Sequence[Question]) -> None:
    """Keep the questions whose answers an angler wants beside the rig. Raises Impossible for one that says nothing of a rig."""
    for k, one in enumerate(questions):
        if not is_of_use(one):
            raise Impossible(
                f"questions.{k}: {one.words()} That moves no rig: ask for takes or fish, by something that is tied on.",
                field=f"questions.{k}",
            )
    angler = await session.get_one(Angler, angler_id)
    angler.evidence = [write_noun(one) for one in questions]
    await session.flush()


async def evidence_here(
    session: AsyncSession, angler: Angler, asked: HereIn
) -> tuple[list[tuple[Question, Tally]], dict[str, str]]:
    """Return what was fished of those questions beside the rig that speak of the water here, and the places' names."""
    now = _now(asked)
    questions = [one for one in of_evidence(angler) if fits(one, now)]
    tallies = await effort.tallies(session, angler.id, questions)
    names = await effort.names(session, angler.id) if questions else {}
    return list(zip(questions, tallies, strict=True)), names


async def begin_trial(session: AsyncSession, angler_id: UUID, trial: Trial, *, now: datetime) -> None:
    """Fish two things in turns from now on; a trial that was under way is over. Raises Impossible for what there cannot be."""
    for field, part in (("first", trial.first), ("second", trial.second)):
        DIMENSIONS[trial.by].check(part, field=field)
    angler = await session.get_one(Angler, angler_id)
    angler.trial, angler.trial_began_at = write_noun(trial), now
    await session.flush()


async def end_trial(session: AsyncSession, angler_id: UUID) -> None:
    """Fish nothing in turns any more."""
    angler = await session.get_one(Angler, angler_id)
    angler.trial = angler.trial_began_at = None
    await session.flush()


async def trial_so_far(session: AsyncSession, angler: Angler) -> tuple[Trial, Tally, dict[str, str]] | None:
    """Return what is fished in turns and what of it was fished since it began; None where nothing is."""
    if angler.trial is None or angler.trial_began_at is None:
        return None
    trial = read_noun(Trial, angler.trial)
    fished = await effort.tally_since(session, angler.id, trial.by, angler.trial_began_at)
    return trial, fished, await effort.names(session, angler.id)


def _now(asked: HereIn) -> dict[DimensionName, str]:
    """Return what is known of a place and its water now, by what the log can be asked by."""
    now: dict[DimensionName, str] = {
        asked.place: str(asked.id),
        "flow": asked.flow_class,
        "temperature": DIMENSIONS["temperature"].part(asked.temperature_c),
        "light": asked.light,
    }
    return now | ({"kind": asked.kind} if asked.kind else {})


async def fished_like(
    session: AsyncSession, angler_id: UUID, asked: HereIn
) -> tuple[list[tuple[Only, Tally]], dict[DimensionName, str], dict[str, str]]:
    """Return what was fished at a place at today's flow, nearest first, what today's water is, and the places' names."""
    flow = Only("flow", asked.flow_class)
    spots = [Only(asked.place, str(asked.id)), *([Only("kind", asked.kind)] if asked.kind else [])]
    found = [
        (spot, await effort.tally(session, angler_id, Question("rig", only=(spot, flow)))) for spot in spots
    ]
    now: dict[DimensionName, str] = {
        "flow": asked.flow_class,
        "temperature": DIMENSIONS["temperature"].part(asked.temperature_c),
        "light": asked.light,
    }
    return found, now, await effort.names(session, angler_id)
