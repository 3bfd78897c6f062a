"""The least change that is worth it: from the rig that is on, what each change gains against the seconds that it costs.

A change is worth the score that it adds to every drift to come, less the drifts that it costs to make. Of those that gain
most of what can be gained the cheapest is advised: slide a float before a knot is cut, cut a knot before a rig is changed.
"""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Literal

from deriva.core.choose.candidates import families, settings
from deriva.core.choose.judge import Usable, judge_rig
from deriva.core.choose.search import Search, advise
from deriva.core.errors import DerivaError
from deriva.core.model.quantity import qty
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Situation
from deriva.core.rigs.parts import hangs

ChangeKind = Literal["depth", "bead", "flies", "tippet", "shot", "rig"]

SECONDS: dict[str, float] = {
    "slide": 10.0,
    "shorten": 40.0,
    "lengthen": 75.0,
    "bead": 60.0,
    "cut_fly": 15.0,
    "add_fly": 90.0,
    "tippet": 150.0,
    "shot": 25.0,
    "rig": 240.0,
}
"""What a change takes with cold hands, s (common practice, no source)."""

CYCLE_S = 35.0
"""Seconds from cast to cast (common practice, no source)."""

DRIFTS_TO_COME = 20
"""A prime lie is given 20 to 30 drifts (common practice, no source)."""

ENOUGH = 0.7
"""A cheaper change is taken if it is worth this share of what the best is."""

WORTH_DRIFTS = 0.5
"""What a change must be worth, in whole drifts in the zone."""

SAME_M = 0.03
"""Settings closer than this are one and the same in the hand."""


@dataclass(frozen=True, slots=True)
class Change:
    """A change from the rig that is on: what to do, the rig after it, the seconds it takes, and what it is worth.

    ``gain`` is the score after less the score now; ``worth`` the whole drifts in the zone that it brings over those to come.
    """

    kind: ChangeKind
    words: str
    rig: Rig
    judged: Usable
    seconds: float
    gain: float
    worth: float


@dataclass(frozen=True, slots=True)
class Changes:
    """The rig as it is, the changes that would gain something, cheapest first, and the one advised (None: leave it)."""

    now: Usable
    drifts: int
    options: tuple[Change, ...]
    advised: Change | None
    reason: str


def _line(rig: Rig, to_m: float) -> tuple[str, float]:
    """Say how the line below is made longer or shorter, and what that takes."""
    longer = to_m > rig.depth_setting_m
    if rig.kind == "indicator":
        return f"Slide the float {'up' if longer else 'down'} to {qty(to_m, 'm')}.", SECONDS["slide"]
    part = "tippet" if rig.kind == "euro" else "line below the dry"
    key = "lengthen" if longer else "shorten"
    return f"{key.capitalize()} the {part} to {qty(to_m, 'm')}.", SECONDS[key]


def _bead(rig: Rig, after: Rig) -> tuple[str, float]:
    heavier = (after.point.bead_mm or 0.0) > (rig.point.bead_mm or 0.0)
    bead = "no bead" if after.point.bead_mm is None else f"a {after.point.bead_mm:g} mm bead"
    return f"{'Heavier' if heavier else 'Lighter'}: {bead}", SECONDS["bead"]


def _flies(_: Rig, after: Rig) -> tuple[str, float]:
    if after.dropper is None:
        return "Cut the dropper off", SECONDS["cut_fly"]
    return f"Add a dropper {qty(after.dropper_spacing_m or 0.0, 'm')} above", SECONDS["add_fly"]


def _tippet(rig: Rig, after: Rig) -> tuple[str, float]:
    return f"{'Finer' if after.tippet_x > rig.tippet_x else 'Stouter'} tippet, {after.tippet_x}X", SECONDS[
        "tippet"
    ]


def _shot(rig: Rig, after: Rig) -> tuple[str, float]:
    more = after.shot_g > rig.shot_g
    return f"{'Pinch on' if more else 'Down to'} {qty(after.shot_g, 'g', 1)} of tin", SECONDS["shot"]


PARTS: dict[ChangeKind, tuple[Callable[[Rig], object], Callable[[Rig, Rig], tuple[str, float]]]] = {
    "bead": (lambda one: one.point, _bead),
    "flies": (lambda one: one.dropper is None, _flies),
    "tippet": (lambda one: one.tippet_x, _tippet),
    "shot": (lambda one: one.shot_g, _shot),
}
"""What is looked at of a rig to see that a part has changed, and what that change is called."""


def _changed(family: Rig, rig: Rig) -> list[ChangeKind]:
    """Return the parts in which a family differs from a rig."""
    return [kind for kind, (part, _) in PARTS.items() if part(family) != part(rig)]


def _best_of(rigs: Iterable[Rig], situation: Situation, floor: float) -> Usable | None:
    """Return the best of some rigs judged closely; None where none scores above ``floor``."""
    best: Usable | None = None
    for rig in rigs:
        try:
            judged = judge_rig(rig, situation)
        except DerivaError:
            continue  # it does not settle, or cannot hang
        if judged.score > floor and (best is None or judged.score > best.score):
            best = judged
    return best


def _looked_at(rig: Rig, situation: Situation) -> Iterator[tuple[ChangeKind, list[Rig]]]:
    """Yield the rigs a change away: the line as it may be set; and with another bead, fly, tippet or shot, the line about
    as it is.
    """
    lengths = settings(situation, rig.kind, fine=False)
    yield "depth", [replace(rig, depth_setting_m=x) for x in lengths if hangs(rig.dropper_spacing_m, x)]
    if not lengths:
        return
    at = min(range(len(lengths)), key=lambda k: abs(lengths[k] - rig.depth_setting_m))
    near = {rig.depth_setting_m, *lengths[max(0, at - 2) : at + 3]}
    kin: dict[ChangeKind, list[Rig]] = {kind: [] for kind in PARTS}
    for family in families(situation, rig.kind):
        changed = _changed(family, rig)
        spaced = changed == ["flies"] or family.dropper_spacing_m == rig.dropper_spacing_m
        if len(changed) == 1 and spaced and family.tip_pace == rig.tip_pace:
            kin[changed[0]] += [
                replace(family, depth_setting_m=x) for x in near if hangs(family.dropper_spacing_m, x)
            ]
    yield from kin.items()


def _said(kind: ChangeKind, rig: Rig, after: Rig) -> tuple[str, float]:
    """Say a change in full, with the seconds that it takes."""
    if kind == "depth":
        return _line(rig, after.depth_setting_m)
    words, seconds = PARTS[kind][1](rig, after)
    if abs(after.depth_setting_m - rig.depth_setting_m) < SAME_M:
        return f"{words}.", seconds
    more, extra = _line(rig, after.depth_setting_m)
    return f"{words}. {more}", seconds + extra


def changes(rig: Rig, situation: Situation, search: Search, *, drifts: int = DRIFTS_TO_COME) -> Changes:
    """Return what could be changed about a rig in a situation, with the drifts to come that it would serve."""
    now = judge_rig(rig, situation)
    found: list[tuple[ChangeKind, str, float, Usable]] = []
    for kind, rigs in _looked_at(rig, situation):
        best = _best_of(rigs, situation, now.score)
        if best is not None:
            found.append((kind, *_said(kind, rig, best.rig), best))
    other = advise(situation, search).ranked[0]
    if isinstance(other, Usable) and other.kind != rig.kind and other.score > now.score:
        words = f"Change to {other.answer.split(' · land')[0]}."
        found.append(("rig", words, SECONDS["rig"], other))
    options = sorted(
        (
            Change(
                kind=kind,
                words=words,
                rig=judged.rig,
                judged=judged,
                seconds=seconds,
                gain=judged.score - now.score,
                worth=judged.score * max(0.0, drifts - seconds / CYCLE_S) - now.score * drifts,
            )
            for kind, words, seconds, judged in found
        ),
        key=lambda one: (one.seconds, -one.worth),
    )
    worthwhile = [one for one in options if one.worth >= WORTH_DRIFTS]
    most = max((one.worth for one in worthwhile), default=0.0)
    advised = next((one for one in worthwhile if one.worth >= ENOUGH * most), None)
    if advised is None:
        reason = f"Leave it: nothing brings half a drift in the zone over the next {drifts}."
    else:
        reason = (
            f"Over the next {drifts} drifts it brings {advised.worth:.1f} whole ones in the zone, "
            f"for about {qty(advised.seconds, 's', 0)} at the knots."
        )
    return Changes(now=now, drifts=drifts, options=tuple(options), advised=advised, reason=reason)
