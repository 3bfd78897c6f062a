"""Schools, the least change, two rigs compared, the build to tie; and the day planned."""

from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response

from deriva.core.choose.schools import DISAGREEMENTS
from deriva.core.choose.sweep import wide
from deriva.core.coach.ask import Asked
from deriva.core.day.plan import plan_day
from deriva.core.say import plans
from deriva.service.api.deps import Caller, Computing, Me, Transaction
from deriva.service.formats.card import typeset
from deriva.service.formats.names import named
from deriva.service.schemas.coach import AskedNoun, CoachOut, StepOut
from deriva.service.schemas.log import Stored
from deriva.service.schemas.plan import (
    BuildIn,
    BuildOut,
    ChangesIn,
    ChangesOut,
    CompareIn,
    CompareOut,
    DayAskedNoun,
    DayPlanNoun,
    DisagreementNoun,
    LieSchoolIn,
)
from deriva.service.usecases import places, rigging
from deriva.service.views.advice import coach_out, steps_out
from deriva.service.views.plan import card_of

router = APIRouter(tags=["plan"])


@router.get("/schools")
async def list_schools(caller: Caller) -> list[DisagreementNoun]:  # noqa: ARG001
    """List the questions on which practitioners disagree, with what each side believes."""
    return list(DISAGREEMENTS)


@router.put("/lies/{lie_id}/school")
async def put_lie_school(session: Transaction, me: Me, lie_id: UUID, body: LieSchoolIn) -> Stored:
    """Follow a school of its own at one lie, or the angler's own again."""
    await places.set_school(session, me.id, lie_id, body.school)
    return Stored(id=lie_id)


@router.post("/changes")
async def least_change(computing: Computing, body: ChangesIn) -> ChangesOut:
    """Say what to change about the rig that is on, least first."""
    found = await computing.run(plans.change, body.situation, body.tuning, wide, body.drifts)
    return ChangesOut.model_validate(plans.written_changes(found))


@router.post("/day-plan")
async def plan_the_day(caller: Caller, body: DayAskedNoun) -> DayPlanNoun:  # noqa: ARG001
    """Say which lies of a beat fit into the time that there is, with how many drifts and when; asked again as the day slips."""
    return plan_day(body)


@router.post("/card")
async def look_ahead(computing: Computing, body: AskedNoun) -> list[StepOut]:
    """Say what the coach will say after each likely run of drifts, two changes ahead."""
    return steps_out(await computing.run(rigging.search_ahead, body))


@router.post("/coach")
async def coach_on_the_bank(computing: Computing, body: AskedNoun) -> CoachOut:
    """Say what the drifts so far tell of the water, and what to change next."""
    return coach_out(await computing.run(rigging.coach, body))


@router.post("/compare")
async def compare(computing: Computing, body: CompareIn) -> CompareOut:
    """Map two rigs over depth and speed."""
    found = await computing.run(plans.compare, body.situation, body.first, body.second)
    return CompareOut.model_validate(plans.written_comparison(found))


async def _written(computing: Computing, body: BuildIn) -> BuildOut:
    asked = plans.ToTie(body.situation, body.tuning, body.background, body.leader)
    made = await computing.run(plans.tie, asked)
    return BuildOut.model_validate(plans.written_build(made))


@router.post("/build")
async def build(computing: Computing, body: BuildIn) -> BuildOut:
    """Write out how a rig is tied, from the line to the fly."""
    return await _written(computing, body)


@router.post("/build.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
async def build_card(computing: Computing, body: BuildIn) -> Response:
    """Return the build as one page for a waterproof pocket, with what the coach will say next on its back."""
    made = await _written(computing, body)
    asked = Asked(body.situation, body.tuning.rig, (), body.tuning)
    steps = await computing.run(rigging.search_ahead, asked, as_tied=True)
    card = card_of(made, body, steps, units=computing.angler.units)
    return Response(
        await computing.run(typeset, card),
        media_type="application/pdf",
        headers={
            "Content-Disposition": f'attachment; filename="{named("card", made.rig, body.lie, body.on)}.pdf"'
        },
    )
