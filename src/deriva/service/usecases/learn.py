"""Asking the log: what can be asked, and what it answers."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.learn.answer import Row, answer
from deriva.core.learn.dimensions import DIMENSIONS, DimensionName
from deriva.core.learn.question import Only, Question
from deriva.core.learn.suggest import suggested
from deriva.service.schemas.learn import HereIn
from deriva.service.store import effort
from deriva.service.usecases import logbook
from deriva.service.usecases.logbook import Counted


def warm() -> None:
    """Load the compiled kernels."""
    water = ("normal", "2", "run", "day")
    rows = [Row(0, "euro", water, 1, 4, 0.1), Row(0, "indicator", water, 0, 4, 0.1)]
    for question in (Question("rig"), Question("rig", per="hour")):
        answer(question, rows, {})


async def counted(
    session: AsyncSession, angler_id: UUID, question: Question
) -> tuple[list[Row], dict[str, str]]:
    """Return what was fished of what is asked, and what the places in it are called."""
    return await effort.rows(session, angler_id, question), await effort.names(session, angler_id)


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


async def fished_like(
    session: AsyncSession, angler_id: UUID, asked: HereIn
) -> tuple[list[tuple[Only, list[Row]]], dict[DimensionName, str], dict[str, str]]:
    """Return what was fished at a place at today's flow, nearest first, what today's water is, and the places' names."""
    flow = Only("flow", asked.flow_class)
    spots = [Only(asked.place, str(asked.id)), *([Only("kind", asked.kind)] if asked.kind else [])]
    found = [
        (spot, await effort.rows(session, angler_id, Question("rig", only=(spot, flow)))) for spot in spots
    ]
    now: dict[DimensionName, str] = {
        "flow": asked.flow_class,
        "temperature": DIMENSIONS["temperature"].part(asked.temperature_c),
        "light": asked.light,
    }
    return found, now, await effort.names(session, angler_id)
