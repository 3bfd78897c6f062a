"""Schools, the least change, two rigs compared, and the build to tie."""

from dataclasses import asdict
from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response

from deriva.core.advice.schools import DISAGREEMENTS
from deriva.service.api.deps import Caller, Computing, Me, Transaction
from deriva.service.formats.build_pdf import build_pdf
from deriva.service.schemas.coach import CoachIn, CoachOut, coached_out
from deriva.service.schemas.log import Stored
from deriva.service.schemas.plan import (
    BuildIn,
    BuildOut,
    ChangesIn,
    ChangesOut,
    CompareIn,
    CompareOut,
    DisagreementOut,
    LieSchoolIn,
)
from deriva.service.usecases import places, planning

router = APIRouter(tags=["plan"])


@router.get("/schools")
async def list_schools(caller: Caller) -> list[DisagreementOut]:  # noqa: ARG001
    """List the questions on which practitioners disagree, with what each side believes."""
    return [DisagreementOut.model_validate(asdict(one)) for one in DISAGREEMENTS]


@router.put("/lies/{lie_id}/school")
async def put_lie_school(session: Transaction, me: Me, lie_id: UUID, body: LieSchoolIn) -> Stored:
    """Follow a school of its own at one lie, or the angler's own again."""
    await places.set_school(session, me.id, lie_id, body.school)
    return Stored(id=lie_id)


@router.post("/changes")
def least_change(caller: Computing, body: ChangesIn) -> ChangesOut:  # noqa: ARG001
    """Say what to change about the rig that is on, least first."""
    return planning.change(body)


@router.post("/coach")
def coach_on_the_bank(caller: Computing, body: CoachIn) -> CoachOut:  # noqa: ARG001
    """Say what the drifts so far tell of the water, and what to change next."""
    return coached_out(body)


@router.post("/compare")
def compare(caller: Computing, body: CompareIn) -> CompareOut:  # noqa: ARG001
    """Map two rigs over depth and speed."""
    return planning.compare(body)


@router.post("/build")
def build(caller: Computing, body: BuildIn) -> BuildOut:  # noqa: ARG001
    """Write out how a rig is tied, from the line to the fly."""
    return planning.write_build(body)


@router.post("/build.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
def build_card(caller: Computing, body: BuildIn) -> Response:
    """Return the build as one page for a waterproof pocket."""
    made = planning.write_build(body)
    return Response(
        build_pdf(planning.card_of(made, units=caller.units)),
        media_type="application/pdf",
        headers={"Content-Disposition": f'attachment; filename="{made.rig}-build.pdf"'},
    )
