"""Signing in and out."""

from fastapi import APIRouter, Response

from deriva.service.api.deps import COOKIE, Config, Me, Token, Transaction
from deriva.service.schemas.log import AnglerIn, AnglerOut, SessionOut
from deriva.service.store.models import Angler
from deriva.service.usecases import account

router = APIRouter(tags=["session"])


def _out(angler: Angler) -> AnglerOut:
    return AnglerOut.model_validate(
        {"id": angler.id, "name": angler.name, "units": angler.units, "school": angler.school}
    )


@router.get("/session")
async def read_session(session: Transaction, config: Config, token: Token = None) -> SessionOut:
    """Say who is signed in."""
    angler = await account.who(session, token)
    return SessionOut(demo_start=config.demo, angler=_out(angler) if angler else None)


@router.post("/session/demo")
async def sign_in_as_demo(session: Transaction, config: Config, response: Response) -> SessionOut:
    """Sign in as the demo angler; on the demo start only."""
    if not config.demo:
        raise account.NoDemo
    token, angler = await account.sign_in_demo(session)
    response.set_cookie(
        COOKIE, token, max_age=account.SESSION_DAYS * 86400, httponly=True, samesite="lax", path="/"
    )
    return SessionOut(demo_start=True, angler=_out(angler))


@router.delete("/session")
async def sign_out(
    session: Transaction, config: Config, response: Response, token: Token = None
) -> SessionOut:
    """Sign out."""
    if token:
        await account.sign_out(session, token)
    response.delete_cookie(COOKIE, path="/")
    return SessionOut(demo_start=config.demo, angler=None)


@router.put("/angler")
async def change_angler(session: Transaction, me: Me, change: AnglerIn) -> AnglerOut:
    """Change the units that the angler sees, or the school that the angler follows."""
    school = None if change.school is None else change.school.model_dump()
    return _out(await account.change(session, me.id, units=change.units, school=school))
