"""The doors of the core where there is nothing but Python: plain data in, plain data out.

The phone has no signal and no Pydantic. Here the same data that goes over the wire becomes the core's own nouns.
"""

from collections.abc import Callable
from typing import Any, Generic, TypeVar, cast

from deriva.core.choose.compare import COARSE
from deriva.core.choose.evaluate import READ_OFF, evaluate
from deriva.core.choose.judge import judge_rig
from deriva.core.choose.near import around
from deriva.core.choose.search import Search
from deriva.core.coach.ask import Asked, word
from deriva.core.coach.ask import written as written_coaching
from deriva.core.coach.card import LIKELY, search_card
from deriva.core.coach.card import written as written_card
from deriva.core.day.plan import DayAsked, plan_day
from deriva.core.errors import DerivaError
from deriva.core.model.rig import Rig
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.read import read_noun, write_noun
from deriva.core.record.turns import Going
from deriva.core.rigs.packed import Packed, unpack
from deriva.core.rigs.resolve import resolve
from deriva.core.say import plans
from deriva.core.say.column import drawn_column
from deriva.core.say.picture import picture
from deriva.core.say.ranking import numbers, rank, written, written_rig
from deriva.core.water.taken import Taken, measured

Plain = dict[str, object]
T = TypeVar("T")


class Again(Generic[T]):
    """Plain data read, and read again only where it is other than the last time: a slider asks of the same water at every step,
    a coach among the same rigs after every drift, and for the same noun there may be an answer that was found before.
    """

    def __init__(self, read: Callable[[object], T]) -> None:
        self._read = read
        self._last: tuple[str, T] | None = None

    def __call__(self, plain: object) -> T:
        """Read it. Raises what reading it does."""
        as_written = repr(plain)  # true and 1 are equal, and not the same
        if self._last is None or self._last[0] != as_written:
            self._last = as_written, self._read(plain)
        return self._last[1]


def _part(asked: object, name: str) -> object:
    return cast("Plain", asked).get(name) if isinstance(asked, dict) else None


def _read_situation(plain: object, name: str = "situation") -> Situation:
    noun: Situation = read_noun(Situation, plain, name)
    return noun


_SITUATION = Again(_read_situation)


def _situation(asked: object) -> Situation:
    return _SITUATION(_part(asked, "situation"))


def _rig(asked: object, situation: Situation) -> Rig:
    return resolve(read_noun(Tuning, _part(asked, "tuning"), "tuning"), situation)


def _read_search(plain: object) -> Search:
    tunings, read_as = cast("tuple[Any, object]", plain)
    return around(
        [read_noun(Tuning, one, f"tunings.{k}") for k, one in enumerate(tunings or [])],
        _read_situation(read_as, "read_as") if read_as else None,
    )


_SEARCH = Again(_read_search)


def _search(asked: object) -> Search:
    """Return a search among the rigs that were worked out for the lie before, ``tunings``, when it was read ``read_as``."""
    return _SEARCH((_part(asked, "tunings"), _part(asked, "read_as")))


def _coach(asked: object) -> Plain:
    return written_coaching(word(read_noun(Asked, _part(asked, "asked")), _search(asked)))


def _card(asked: object) -> Plain:
    """Look ahead; with a ``part`` only after the runs that end in one way: a word of the coach need not wait for all."""
    question, search, part = read_noun(Asked, _part(asked, "asked")), _search(asked), _part(asked, "part")
    likely = LIKELY[part : part + 1] if isinstance(part, int) else LIKELY
    return {"steps": written_card(search_card(question, search, likely=likely)), "parts": len(LIKELY)}


def _advise(asked: object) -> Plain:
    return written(rank(_situation(asked), _search(asked)))


def _tune(asked: object) -> Plain:
    situation = _situation(asked)
    return written_rig(judge_rig(_rig(asked, situation), situation, READ_OFF), situation)


def _column(asked: object) -> Plain:
    drawn: Plain = write_noun(drawn_column(_situation(asked)))
    return drawn


def _hang(asked: object) -> Plain:
    """A rig as the angler sets it, settled in its water: written out and drawn."""
    situation = _situation(asked)
    e = evaluate(_rig(asked, situation), situation, READ_OFF)
    return {
        "setup": write_noun(Setup.of(e.rig, lead_m=e.lead_m)),
        "picture": write_noun(picture(e)),
        "numbers": numbers(e),
    }


def _change(asked: object) -> Plain:
    situation = _situation(asked)
    tuning: Tuning = read_noun(Tuning, _part(asked, "tuning"), "tuning")
    return plans.written_changes(plans.change(situation, tuning, _search(asked)))


def _compare(asked: object) -> Plain:
    first, second = (read_noun(Tuning, _part(asked, name), name) for name in ("first", "second"))
    return plans.written_comparison(plans.compare(_situation(asked), first, second, COARSE))


def _build(asked: object) -> Plain:
    return plans.written_build(plans.tie(read_noun(plans.ToTie, asked)))


def _keep(asked: object) -> Plain:
    """What was reckoned for a lie's rigs where that is quick, kept for when it is asked for."""
    return {"families": unpack(read_noun(Packed, asked))}


def _turn(asked: object) -> Plain:
    """Whose turn it is in a fair trial."""
    going: Going = read_noun(Going, asked)
    key, left = going.whose()
    return {"turn": key, "left": left}


def _day(asked: object) -> Plain:
    """What of a beat fits into the time that there is."""
    planned: Plain = write_noun(plan_day(read_noun(DayAsked, asked)))
    return planned


def _measure(asked: object) -> Plain:
    """What a reading says of depth and speed, by how they were taken."""
    found: Plain = write_noun(measured(read_noun(Taken, asked)))
    return found


DOORS: dict[str, Callable[[object], Plain]] = {
    "coach": _coach, "card": _card, "advise": _advise, "tune": _tune, "column": _column, "hang": _hang, "keep": _keep,
    "measure": _measure, "change": _change, "compare": _compare, "build": _build,
    "turn": _turn, "day": _day,
}  # fmt: skip


def answer(door: str, asked: object) -> Plain:
    """Answer what was asked: ``{"answer": ...}``, or ``{"fault": {code, field, message}}`` in words for a person."""
    try:
        return {"answer": DOORS[door](asked)}
    except DerivaError as error:
        return {"fault": {"code": error.code, "field": error.field, "message": error.message}}
