"""Reading the water, choosing a rig, seeing its drift."""

from datetime import UTC, datetime
from uuid import UUID

from fastapi import APIRouter

from deriva.core.model.rig import RIG_KINDS
from deriva.core.rigs.packed import pack_rig, together
from deriva.core.say.column import drawn_column
from deriva.service.api.deps import Caller, Computing, Me, Transaction
from deriva.service.schemas.advise import AdviceOut, MarchesIn, PackedNoun, RankedOut, TuneIn
from deriva.service.schemas.column import ColumnNoun, PathIn, PathOut
from deriva.service.schemas.nouns import SituationNoun
from deriva.service.schemas.places import BeatOut
from deriva.service.schemas.river import TodayOut
from deriva.service.usecases import reading, rigging
from deriva.service.usecases import today as days
from deriva.service.views.advice import advice_out, ranked_out
from deriva.service.views.drift import path_out
from deriva.service.views.places import beat_out
from deriva.service.views.today import today_out

router = APIRouter(tags=["water"])


@router.get("/beats")
async def list_beats(session: Transaction, me: Me) -> list[BeatOut]:
    """List the beats with their lies as last read."""
    return [beat_out(one) for one in await reading.beats_as_they_stand(session, me)]


@router.get("/beats/{beat_id}/today")
async def today(session: Transaction, me: Me, beat_id: UUID) -> TodayOut:
    """Say what the river of a beat does today."""
    return today_out(await days.today(session, me, beat_id, now=datetime.now(UTC)))


@router.post("/column")
def column(caller: Caller, body: SituationNoun) -> ColumnNoun:  # noqa: ARG001
    """Compute the water column of a situation."""
    return drawn_column(body)


@router.post("/advice")
async def advice(computing: Computing, body: SituationNoun) -> AdviceOut:
    """Rank the three rigs for a situation."""
    found = await computing.each(rigging.best, ((kind, body) for kind in RIG_KINDS))
    return advice_out(await computing.run(rigging.ranked, body, found))


@router.post("/tune")
async def tune(computing: Computing, body: TuneIn) -> RankedOut:
    """Judge a rig as the angler sets it."""
    return ranked_out(await computing.run(rigging.tune, body.situation, body.tuning), body.situation)


@router.post("/marches")
async def marches(computing: Computing, body: MarchesIn) -> PackedNoun:
    """Work out how rigs hang in all the waters that a lie may be: what a device needs to coach there without signal."""
    rigs = await computing.each(pack_rig, ((body.situation, tuning) for tuning in body.tunings))
    return together(body.situation, rigs)


@router.post("/path")
async def path(computing: Computing, body: PathIn) -> PathOut:
    """Run one drift of a rig as set."""
    shown = await computing.run(
        rigging.path, body.situation, body.tuning, entry=body.entry, handling=body.handling, swing=body.swing
    )
    return path_out(shown)
