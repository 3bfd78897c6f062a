"""The doors of the core where there is nothing but Python: plain data in, plain data out.

The phone has no signal and no Pydantic. Here the same data that goes over the wire becomes the core's own nouns.
"""

from collections.abc import Callable
from typing import cast

from deriva.core.choose.evaluate import evaluate
from deriva.core.choose.search import coarse
from deriva.core.coach.ask import Asked, coached, written
from deriva.core.errors import DerivaError
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.read import read_noun, write_noun
from deriva.core.rigs.packed import Packed, unpack
from deriva.core.rigs.resolve import resolve
from deriva.core.say.picture import picture


def _coach(asked: object) -> dict[str, object]:
    return written(coached(read_noun(Asked, asked), coarse))


def _hang(asked: object) -> dict[str, object]:
    """A rig as the angler sets it, settled in its water: written out and drawn."""
    given = cast("dict[str, object]", asked if isinstance(asked, dict) else {})
    situation: Situation = read_noun(Situation, given.get("situation"), "situation")
    e = evaluate(resolve(read_noun(Tuning, given.get("tuning"), "tuning"), situation), situation)
    return {"setup": write_noun(Setup.of(e.rig, lead_m=e.lead_m)), "picture": write_noun(picture(e))}


def _keep(asked: object) -> dict[str, object]:
    """What was reckoned for a lie's rigs where that is quick, kept for when it is asked for."""
    return {"families": unpack(read_noun(Packed, asked))}


DOORS: dict[str, Callable[[object], dict[str, object]]] = {"coach": _coach, "hang": _hang, "keep": _keep}


def answer(door: str, asked: object) -> dict[str, object]:
    """Answer what was asked: ``{"answer": ...}``, or ``{"fault": {code, field, message}}`` in words for a person."""
    try:
        return {"answer": DOORS[door](asked)}
    except DerivaError as error:
        return {"fault": {"code": error.code, "field": error.field, "message": error.message}}
