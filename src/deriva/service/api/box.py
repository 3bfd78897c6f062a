"""The fly box."""

from datetime import UTC, datetime
from uuid import UUID

from fastapi import APIRouter
from pydantic import UUID7

from deriva.service.api.deps import Computing, Me, Transaction
from deriva.service.schemas.box import BoxItemIn, BoxOut, MissingOut
from deriva.service.schemas.log import Stored
from deriva.service.schemas.nouns import SituationNoun
from deriva.service.usecases import box
from deriva.service.views.box import box_out, missing_out

router = APIRouter(tags=["box"])


@router.get("/box")
async def read_box(session: Transaction, me: Me) -> BoxOut:
    """Return what is in the box, with what is left of it."""
    return box_out(await box.counted(session, me.id))


@router.post("/box/starter")
async def add_starter_box(session: Transaction, me: Me) -> BoxOut:
    """Fill in a starter box: what is there already stays as it is."""
    await box.add_starter(session, me.id)
    return box_out(await box.counted(session, me.id))


@router.put("/box/{item_id}")
async def put_box_item(session: Transaction, me: Me, item_id: UUID7, body: BoxItemIn) -> Stored:
    """Put a kind of fly, dry or float in the box, or count it anew."""
    await box.put_item(session, me.id, item_id, body, now=datetime.now(UTC))
    return Stored(id=item_id)


@router.delete("/box/{item_id}")
async def drop_box_item(session: Transaction, me: Me, item_id: UUID) -> Stored:
    """Take a kind out of the box."""
    await box.drop_item(session, me.id, item_id)
    return Stored(id=item_id)


@router.post("/box/missing")
async def missing_flies(computing: Computing, body: SituationNoun) -> list[MissingOut]:
    """Say what the box lacks at a lie."""
    return [missing_out(one) for one in await computing.run(box.lacking, body)]
