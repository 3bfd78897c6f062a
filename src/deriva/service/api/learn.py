"""Learn: questions to the log."""

from fastapi import APIRouter

from deriva.core.learn.answer import answer
from deriva.core.learn.dimensions import DIMENSIONS, DimensionName
from deriva.core.learn.here import here
from deriva.service.api.deps import Computing, Making, Me, Transaction
from deriva.service.schemas.learn import (
    AnswerNoun,
    AskableOut,
    BehindIn,
    DimensionOut,
    HereIn,
    HereNoun,
    PartOut,
    QuestionNoun,
    SuggestedOut,
)
from deriva.service.schemas.log import OutingOut
from deriva.service.usecases import learn
from deriva.service.views.log import outing_out

router = APIRouter(prefix="/learn", tags=["learn"])


@router.get("/questions")
async def list_questions(session: Transaction, me: Me) -> AskableOut:
    """Say what the log can be asked by, and which of the common questions it can answer."""
    asked = await learn.questions(session, me.id)
    return AskableOut(
        dimensions=[DimensionOut(name=one.name, words=one.words) for one in DIMENSIONS.values()],
        suggested=[SuggestedOut(question=one, words=one.words()) for one in asked],
    )


@router.get("/parts")
async def list_parts(session: Transaction, me: Me, dimension: DimensionName) -> list[PartOut]:
    """List what the log holds of something that it can be narrowed to."""
    found = await learn.parts(session, me.id, dimension)
    return [PartOut(key=key, label=label, drifts=drifts) for key, label, drifts in found]


@router.post("/answers")
async def ask_the_log(making: Making, computing: Computing, body: QuestionNoun) -> AnswerNoun:
    """Answer a question from what was logged: a sentence, how sure it is, what it rests on and what confounds it."""
    async with making.begin() as session:
        rows, names = await learn.counted(session, computing.angler.id, body)
    return await computing.run(answer, body, rows, names)


@router.post("/outings")
async def list_behind(session: Transaction, me: Me, body: BehindIn) -> list[OutingOut]:
    """List the newest outings that a part of an answer rests on."""
    return [outing_out(one) for one in await learn.behind(session, me.id, body.question, body.part)]


@router.post("/here")
async def look_back(making: Making, computing: Computing, body: HereIn) -> HereNoun | None:
    """Say what the log has of a place in water like today's; null where nothing was fished in such water."""
    async with making.begin() as session:
        fished, now, names = await learn.fished_like(session, computing.angler.id, body)
    return await computing.run(here, fished, now, names)
