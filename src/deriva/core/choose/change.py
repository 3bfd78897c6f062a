"""The least change that is worth it: from the rig that is on, what each change gains against the seconds that it costs.

A change is worth the score that it adds to every drift to come, less the drifts that it costs to make. Of those that gain
most of what can be gained the cheapest is advised: slide a float before a knot is cut, cut a knot before a rig is changed.
"""

from collections.abc import Callable, Iterable, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from typing import Literal

from deriva.core.choose.candidates import families, settings
from deriva.core.choose.judge import Usable, judge_rig
from deriva.core.choose.search import Search, advise
from deriva.core.errors import DerivaError
from deriva.core.model.quantity import qty
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Situation
from deriva.core.rigs.parts import hangs, outweighed
from deriva.core.tackle.flies import Fly

ChangeKind = Literal["depth", "bead", "flies", "tippet", "shot", "float", "rig"]

SECONDS: dict[str, float] = {
    "slide": 10.0,
    "shorten": 40.0,
    "lengthen": 75.0,
    "bead": 60.0,
    "cut_fly": 15.0,
    "add_fly": 90.0,
    "tippet": 150.0,
    "shot": 25.0,
    "float": 40.0,
    "dry": 75.0,
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


def _on(fly: Fly) -> str:
    return "no bead" if fly.bead_mm is None else f"a {fly.bead_mm:g} mm bead"


def _bead(rig: Rig, after: Rig) -> tuple[str, float]:
    was, then = rig.point.bead_mm or 0.0, after.point.bead_mm or 0.0
    if was == then:
        return f"Another fly: {after.point.form}, size {after.point.hook}", SECONDS["bead"]
    return f"{'Heavier' if then > was else 'Lighter'}: {_on(after.point)}", SECONDS["bead"]


def _flies(rig: Rig, after: Rig) -> tuple[str, float]:
    if after.dropper is None:
        return "Cut the dropper off", SECONDS["cut_fly"]
    above = f"{qty(after.dropper_spacing_m or 0.0, 'm')} above"
    if rig.dropper is None:
        return f"Add a dropper {above}", SECONDS["add_fly"]
    if rig.dropper == after.dropper:
        return f"Move the dropper to {above}", SECONDS["add_fly"]
    return f"On the dropper {_on(after.dropper)}", SECONDS["bead"]


def _tippet(rig: Rig, after: Rig) -> tuple[str, float]:
    return f"{'Finer' if after.tippet_x > rig.tippet_x else 'Stouter'} tippet, {after.tippet_x}X", SECONDS[
        "tippet"
    ]


def _shot(rig: Rig, after: Rig) -> tuple[str, float]:
    if after.shot_g == 0.0:
        return "Take the shot off", SECONDS["shot"]
    more = after.shot_g > rig.shot_g
    return f"{'Pinch on' if more else 'Down to'} {qty(after.shot_g, 'g', 1)} of tin", SECONDS["shot"]


def _float(_: Rig, after: Rig) -> tuple[str, float]:
    dry = after.float_ is not None and after.float_.kind == "dry"
    name = "" if after.float_ is None else after.float_.name
    return f"{'Tie on' if dry else 'Take'} the {name}", SECONDS["dry" if dry else "float"]


PARTS: dict[ChangeKind, tuple[Callable[[Rig], object], Callable[[Rig, Rig], tuple[str, float]]]] = {
    "bead": (lambda one: one.point, _bead),
    "flies": (lambda one: (one.dropper, one.dropper_spacing_m), _flies),
    "tippet": (lambda one: one.tippet_x, _tippet),
    "shot": (lambda one: one.shot_g, _shot),
    "float": (lambda one: one.float_, _float),
}
"""What is looked at of a rig to see that a part has changed, and what that change is called."""

WEIGHS = ("bead", "flies", "shot")
"""Parts that may ask for another float, which then is no change of its own."""


def _changed(after: Rig, rig: Rig) -> list[ChangeKind]:
    """Return the parts in which a rig differs from another."""
    return [kind for kind, (part, _) in PARTS.items() if part(after) != part(rig)]


def _is_same(after: Rig, rig: Rig) -> bool:
    """Return whether two rigs are one and the same in the hand."""
    near = abs(after.depth_setting_m - rig.depth_setting_m) < SAME_M
    return near and after.kind == rig.kind and not _changed(after, rig)


def _kind(changed: Sequence[ChangeKind]) -> ChangeKind:
    """Return what a change of some parts is: of one of them, of the line alone, or a new rig."""
    if len(changed) == 2 and changed[0] in WEIGHS and changed[1] == "float":
        return changed[0]
    return "rig" if len(changed) > 1 else changed[0] if changed else "depth"


def _above_as(rig: Rig, family: Rig) -> Rig:
    """Return a rig with the upper fly of another where each has one, as it hangs there."""
    if rig.dropper is None or family.dropper is None:
        return family
    return replace(
        family,
        dropper=rig.dropper,
        dropper_spacing_m=rig.dropper_spacing_m,
        dropper_tag_m=rig.dropper_tag_m,
    )


def _a_change_away(rig: Rig, situation: Situation) -> Iterator[Rig]:
    """Yield the rigs a change away: the line as it may be set; and with one other part, the line about as it is. A fly or float
    that need not be another stays.
    """
    lengths = settings(situation, rig.kind, fine=False)
    yield from (replace(rig, depth_setting_m=x) for x in lengths if hangs(rig.dropper_spacing_m, x))
    if not lengths:
        return
    at = min(range(len(lengths)), key=lambda k: abs(lengths[k] - rig.depth_setting_m))
    near = {rig.depth_setting_m, *lengths[max(0, at - 2) : at + 3]}
    so_already = outweighed(rig, situation)
    kin: dict[Rig, None] = {}
    for family in families(situation, rig.kind):
        if family.tip_pace == rig.tip_pace:
            above = _above_as(rig, family)
            for one in (family, above, replace(family, float_=rig.float_), replace(above, float_=rig.float_)):
                changed = _changed(one, rig)
                if changed and _kind(changed) != "rig" and (so_already or not outweighed(one, situation)):
                    kin[one] = None
    for one in kin:
        yield from (replace(one, depth_setting_m=x) for x in near if hangs(one.dropper_spacing_m, x))


def _judged(rigs: Iterable[Rig], situation: Situation) -> Iterator[Usable]:
    """Judge rigs closely, but for those that do not settle or cannot hang."""
    for rig in rigs:
        with suppress(DerivaError):
            yield judge_rig(rig, situation)


def _towards(rig: Rig, wanted: Usable) -> tuple[ChangeKind, str, float]:
    """Say in full what makes a rig another, the line last, with the seconds that it takes."""
    if wanted.kind != rig.kind:
        return "rig", f"Change to {wanted.answer.split(' · land')[0]}.", SECONDS["rig"]
    after = wanted.rig
    changed = _changed(after, rig)
    said = [PARTS[kind][1](rig, after) for kind in changed]
    words, seconds = [f"{one}." for one, _ in said], sum(cost for _, cost in said)
    if not said or abs(after.depth_setting_m - rig.depth_setting_m) >= SAME_M:
        line, cost = _line(rig, after.depth_setting_m)
        words, seconds = [*words, line], seconds + cost
    return _kind(changed), " ".join(words), min(seconds, SECONDS["rig"])


def changes(rig: Rig, situation: Situation, search: Search, *, drifts: int = DRIFTS_TO_COME) -> Changes:
    """Return what could be changed about a rig in a situation, with the drifts to come that it would serve."""
    now = judge_rig(rig, situation)
    advice = advise(situation, search)
    wanted = [one for one in (advice.ranked[0], advice.of(rig.kind)) if isinstance(one, Usable)]
    best: dict[ChangeKind, Change] = {}
    for judged in (*_judged(_a_change_away(rig, situation), situation), *wanted):
        if judged.score <= now.score or _is_same(judged.rig, rig):
            continue
        kind, words, seconds = _towards(rig, judged)
        change = Change(
            kind=kind,
            words=words,
            rig=judged.rig,
            judged=judged,
            seconds=seconds,
            gain=judged.score - now.score,
            worth=judged.score * max(0.0, drifts - seconds / CYCLE_S) - now.score * drifts,
        )
        if kind not in best or change.worth > best[kind].worth:
            best[kind] = change
    options = sorted(best.values(), key=lambda one: (one.seconds, -one.worth))
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
