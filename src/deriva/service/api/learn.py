"""Learn: questions to the log."""

from dataclasses import asdict
from datetime import UTC, datetime

from fastapi import APIRouter

from deriva.core.learn.answer import answer
from deriva.core.learn.dimensions import DIMENSIONS, DimensionName
from deriva.core.learn.evidence import FOR_THE_RIG, OF_THE_RIG, weighed
from deriva.core.learn.here import here
from deriva.core.learn.trial import standing
from deriva.core.record.turns import OF_A_TRIAL
from deriva.service.api.deps import Computing, Making, Me, Transaction
from deriva.service.api.session import angler_out
from deriva.service.schemas.learn import (
    AnswerNoun,
    AskableOut,
    BehindIn,
    CalibrationOut,
    DimensionOut,
    EvidenceIn,
    EvidenceNoun,
    EyeIn,
    ForetoldOut,
    HereIn,
    HereNoun,
    OfUseOut,
    PartOut,
    QuestionNoun,
    SuggestedOut,
    TrialNoun,
    TrialOut,
)
from deriva.service.schemas.log import AnglerOut, OutingOut
from deriva.service.usecases import calibration, learn
from deriva.service.views.learn import calibration_out
from deriva.service.views.log import outing_out

router = APIRouter(prefix="/learn", tags=["learn"])


@router.get("/questions")
async def list_questions(session: Transaction, me: Me) -> AskableOut:
    """Say what the log can be asked by, and which of the common questions it can answer."""
    asked = await learn.questions(session, me.id)
    return AskableOut(
        dimensions=[
            DimensionOut(name=one.name, words=one.words, of_fish=one.of_fish) for one in DIMENSIONS.values()
        ],
        suggested=[SuggestedOut(question=one, words=one.words()) for one in asked],
        for_the_rig=OfUseOut(by=list(OF_THE_RIG), measures=list(FOR_THE_RIG)),
        for_a_trial=list(OF_A_TRIAL),
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
        tally, names = await learn.counted(session, computing.angler.id, body)
    return await computing.run(answer, body, tally, names)


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


@router.post("/foretold")
async def foretell_more(making: Making, computing: Computing) -> ForetoldOut:
    """Work out for some more settings what they were to do, newest first; say how many are done."""
    angler_id = computing.angler.id
    async with making.begin() as session:
        say, settings = await calibration.unsaid(session, angler_id)
    rows = await computing.run(say, settings)
    async with making.begin() as session:
        counts = await calibration.keep(session, angler_id, rows)
    return ForetoldOut(**asdict(counts))


@router.get("/calibration")
async def read_calibration(making: Making, computing: Computing) -> CalibrationOut:
    """Say how right Deriva has been, and the angler's eye."""
    angler = computing.angler
    async with making.begin() as session:
        found = await calibration.found(session, angler.id)
    return await computing.run(calibration_out, found, angler.eye_error)


@router.put("/eye")
async def reckon_with_eye(session: Transaction, me: Me, body: EyeIn) -> AnglerOut:
    """Reckon with what was found of the angler's eye for depth from now on, or with what is usual again."""
    return angler_out(await calibration.reckon_with_eye(session, me.id, own=body.own))


@router.get("/evidence")
async def list_evidence(me: Me) -> EvidenceIn:
    """List the questions whose answers are shown beside the rig."""
    return EvidenceIn(questions=learn.of_evidence(me))


@router.put("/evidence")
async def put_evidence(session: Transaction, me: Me, body: EvidenceIn) -> EvidenceIn:
    """Say the answers to which questions are to be shown beside the rig."""
    await learn.use_evidence(session, me.id, body.questions)
    return body


@router.post("/evidence/here")
async def weigh_evidence(making: Making, computing: Computing, body: HereIn) -> list[EvidenceNoun]:
    """Answer those of the questions beside the rig that speak of the water here."""
    async with making.begin() as session:
        found, names = await learn.evidence_here(session, computing.angler, body)
    return await computing.each(weighed, ((*one, names) for one in found))


@router.get("/trial")
async def read_trial(making: Making, computing: Computing) -> TrialOut | None:
    """Say how the angler's fair trial stands, and whose turn it is; null where none is under way."""
    async with making.begin() as session:
        found = await learn.trial_so_far(session, computing.angler)
    if found is None:
        return None
    trial, fished, names = found
    return TrialOut(trial=trial, standing=await computing.run(standing, trial, fished, names))


@router.put("/trial", status_code=204)
async def begin_trial(session: Transaction, me: Me, body: TrialNoun) -> None:
    """Fish two things in turns from now on, so that they can be compared fairly; one trial at a time."""
    await learn.begin_trial(session, me.id, body, now=datetime.now(UTC))


@router.delete("/trial", status_code=204)
async def end_trial(session: Transaction, me: Me) -> None:
    """Fish nothing in turns any more: what was fished stays in the log."""
    await learn.end_trial(session, me.id)
