"""What to give up where nothing can be advised: each wish is let go in turn, and those that help are said."""

from collections.abc import Callable
from dataclasses import replace

from deriva.core.choose.judge import Usable
from deriva.core.choose.search import Advice, Search, advise
from deriva.core.model.quantity import qty
from deriva.core.model.rig import NAMES
from deriva.core.model.situation import Situation

NEAR_M, CALM_M_S = 8.0, 3.0
"""A comfortable cast, and air that troubles no rig (common practice, no source)."""

Wish = tuple[Callable[[Situation], Situation | None], str]


def _nearer(s: Situation) -> Situation | None:
    return None if s.place.distance_m <= NEAR_M else replace(s, place=replace(s.place, distance_m=NEAR_M))


def _any_box(s: Situation) -> Situation | None:
    return None if s.box is None else replace(s, box=None)


def _calm(s: Situation) -> Situation | None:
    return None if s.place.wind_m_s <= CALM_M_S else replace(s, place=replace(s.place, wind_m_s=CALM_M_S))


def _with_shot(s: Situation) -> Situation | None:
    return None if s.rules.added_weight else replace(s, rules=replace(s.rules, added_weight=True))


def _both(s: Situation) -> Situation | None:
    near, boxed = _nearer(s), _any_box(s)
    return None if near is None or boxed is None else replace(near, box=None)


WISHES: tuple[Wish, ...] = (
    (_nearer, f"come within {qty(NEAR_M, 'm', 0)} of the fish"),
    (_any_box, "look beyond your box"),
    (_calm, f"wait until the wind drops to {qty(CALM_M_S, 'm/s air', 0)}"),
    (_with_shot, "fish where shot may be added"),
    (_both, f"come within {qty(NEAR_M, 'm', 0)} and look beyond your box"),
)


def relaxations(situation: Situation, advice: Advice, search: Search) -> tuple[str, ...]:
    """Return what to give up, where no rig can be used; nothing where one can.

    Each is tried: what is said is what the advisor would then choose.
    """
    if advice.usable:
        return ()
    said = []
    for relaxed, words in WISHES:
        instead = relaxed(situation)
        if instead is None:
            continue
        best = advise(instead, search).ranked[0]
        if isinstance(best, Usable):
            said.append(f"If you {words}: {NAMES[best.kind].lower()}, {best.answer.split(' · ', 1)[1]}.")
    return tuple(said) or ("Nothing helps here: leave this lie for another day, or another water level.",)
