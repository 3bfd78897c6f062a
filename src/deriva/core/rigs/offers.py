"""Which fly: what the water, the fish and the season ask for, form and size first; weight is chosen apart, by depth.

The table is the trade's: common practice, no source.
"""

from collections.abc import Callable
from dataclasses import replace

from deriva.core.model.quantity import qty
from deriva.core.model.situation import Situation
from deriva.core.tackle.beads import LADDER_MM
from deriva.core.tackle.flies import HOOK, DressingClass, Fly
from deriva.core.tackle.food import Offer, netted
from deriva.core.water.warmth import HATCH_FROM_C, STONEFLY_BELOW_C

HOOK_FOR_BEAD = {1.5: 18, 2.0: 16, 2.5: 16, 3.0: 14, 3.5: 12, 4.0: 10, 4.5: 10, 5.0: 8, 5.5: 8}
"""Hook that a bead of each size sits on (common practice, no source)."""

ORDINARY_HOOK = 14
LARGE_HOOK = 10
SMALL_SEASON = (7, 8, 9, 10)
"""Nymph hooks run from 12 to 18; from high summer on what drifts is smaller (common practice, no source)."""

COLOURED_M, CLEAR_M, LOW_CLEAR_M = 0.5, 2.0, 1.0
SLOW_M_S, ROUGH_M_S = 0.25, 0.7
"""Clarity and speed at which fish see too little of a small fly, and enough to refuse a large one (common practice)."""

HEAVIEST_DROPPER_MM = 2.5

RELATED, OTHER = 0.95, 0.85
OTHER_TONE, OTHER_MARK = 0.95, 0.97
"""What a fly of a kindred form, of another form, of another brightness and without the mark is worth beside the one wanted
(common practice, no source)."""

MIDGE_BEAD_MM = 1.5
"""The smallest bead: only a midge is tied on it."""


def is_high(situation: Situation) -> bool:
    """Return whether the water is above what is normal."""
    return situation.water.flow_class in ("above_normal", "much_above_normal")


def is_low_and_clear(situation: Situation) -> bool:
    """Return whether fish see a fly long before they take it: low clear water, or fish that refuse."""
    low = situation.water.flow_class in ("below_normal", "much_below_normal")
    return situation.fish.refusing or (low and situation.water.clarity_m > LOW_CLEAR_M)


def ordinary_hook(situation: Situation) -> int:
    """Return the size of a general nymph here: smaller late in the year, in low clear water, for fish that refuse; larger in
    coloured water.
    """
    water = situation.water
    hook = ORDINARY_HOOK + (2 if situation.northern_month in SMALL_SEASON else 0)
    if water.clarity_m < COLOURED_M:
        return ORDINARY_HOOK - 2
    if is_low_and_clear(situation):
        hook += 2
    if water.clarity_m > CLEAR_M and water.surface_speed_m_s < SLOW_M_S:
        hook += 2
    return min(18, hook)


def _natural_hook(bead_mm: float) -> int:
    return HOOK_FOR_BEAD[min(HOOK_FOR_BEAD, key=lambda b: abs(b - bead_mm))]


def fitting_hook(hook: int, bead_mm: float) -> int:
    """Return the hook nearest to one asked for that takes a bead: a large fly may have a small one, not the other way round."""
    return min(_natural_hook(bead_mm) + 2, hook)


Pair = tuple[Offer, Offer]
"""The fly at the point and the one above it, of another size or form."""

Ask = Callable[[Situation], bool]
Give = Callable[[Situation], Pair]


def _dressing(situation: Situation) -> DressingClass:
    """Slim where it must sink fast, or is looked at closely."""
    water = situation.water
    return "slim" if water.surface_speed_m_s >= ROUGH_M_S or water.clarity_m > 2.5 else "dubbed"


def _general(situation: Situation, why: str = "a proven nymph, as nothing else is known") -> Offer:
    dressing = _dressing(situation)
    form = "slim varnished nymph" if dressing == "slim" else "dubbed mayfly nymph"
    return Offer(form, ordinary_hook(situation), dressing, why, free=True)


def _hunch(situation: Situation) -> Offer:
    """Return the second fly where nothing says which: what drifts at this time of the year, a size smaller than the first."""
    water, month = situation.water, situation.northern_month
    hook = min(20, ordinary_hook(situation) + 2)
    if water.temperature_c < HATCH_FROM_C or (
        water.clarity_m > CLEAR_M and water.surface_speed_m_s < SLOW_M_S
    ):
        return Offer(
            "midge pupa", max(18, hook), "slim", "midges drift in cold and in slow clear water", light=True
        )
    if month in (3, 4, 9, 10):
        return Offer(
            "slim varnished nymph", hook, "slim", "small dark mayflies, of spring and autumn", "dark"
        )
    return Offer("soft-hackle pupa", hook, "dubbed", "pupae that rise to hatch")


def _by_net(situation: Situation) -> Pair:
    fish = situation.fish
    held = netted(fish.rises, fish.found)
    if len(held) > 1:
        return held[0], replace(held[1], light=held[1].hook >= 18)
    if held[0].form in ("dubbed mayfly nymph", "low-riding emerger") and fish.level != "bottom":
        return held[0], Offer("low-riding emerger", held[0].hook, "dubbed", "they lift to hatch", light=True)
    first = held[0]
    smaller = Offer(
        first.form,
        min(24, first.hook + 2),
        first.dressing,
        "the same, a size smaller",
        light=first.hook >= 16,
    )
    return (first, _hunch(situation)) if first.hook <= ORDINARY_HOOK else (first, smaller)


def _just_under(situation: Situation) -> Pair:
    hook = min(18, max(16, ordinary_hook(situation)))
    return (
        Offer("soft-hackle pupa", hook, "soft", "a pupa for fish that bulge and leave no bubble"),
        Offer("low-riding emerger", hook, "dubbed", "an emerger, higher up", light=True),
    )


def _egg(situation: Situation) -> Pair:
    return _general(situation), Offer(
        "egg", 14, "soft", "fish spawn close by, and their eggs drift", "bright"
    )


def _grayling(situation: Situation) -> Pair:
    hook = min(16, ordinary_hook(situation))
    return (
        Offer("shrimp", hook, "dubbed", "grayling dig shrimps out of the gravel"),
        Offer("dubbed mayfly nymph", min(16, hook + 2), "dubbed", "grayling take a bright tag", mark="tag"),
    )


def _high_water(situation: Situation) -> Pair:
    coloured = situation.water.clarity_m < 0.6
    large = (
        "large and bright, to be found in coloured water"
        if coloured
        else "large: high water washes them loose"
    )
    return (
        Offer("stonefly nymph", 8, "dubbed", large, "bright" if coloured else "natural", "collar"),
        Offer(
            "worm",
            LARGE_HOOK,
            "soft",
            "high water washes worms in, clear or not",
            "bright" if coloured else "natural",
        ),
    )


def _coldest(situation: Situation) -> Pair:
    if situation.school.winter == "small":
        return (
            Offer("midge larva", 20, "slim", "in the coldest water midges are what drifts"),
            Offer("midge pupa", 22, "slim", "the same, on its way up", light=True),
        )
    return (
        Offer("stonefly nymph", 8, "dubbed", "food worth the effort for fish that hardly move"),
        Offer("egg", LARGE_HOOK + 4, "soft", "and an egg above it", "bright"),
    )


def _higher_up(situation: Situation) -> Pair:
    hook = min(18, max(16, ordinary_hook(situation)))
    return (
        Offer("soft-hackle pupa", hook, "soft", "they feed off the bed"),
        Offer("low-riding emerger", hook, "dubbed", "and one on its way to the top", light=True),
    )


def _wary(situation: Situation) -> Pair:
    hook = ordinary_hook(situation)
    return (
        Offer(
            "slim varnished nymph",
            hook,
            "slim",
            "a size or two smaller and duller, for fish that look twice",
            "dark",
        ),
        Offer("midge pupa", min(22, hook + 2), "slim", "smaller still", light=True),
    )


def _coloured(situation: Situation) -> Pair:
    return (
        replace(
            _general(situation, "larger and brighter, to be found in coloured water"),
            tone="bright",
            mark="collar",
        ),
        Offer("dubbed mayfly nymph", ORDINARY_HOOK + 2, "dubbed", "a bright tag is seen further", mark="tag"),
    )


def _nothing_seen(situation: Situation) -> Pair:
    return _general(situation), _hunch(situation)


TABLE: tuple[tuple[Ask, Give], ...] = (
    (lambda s: bool(s.fish.found), _by_net),
    (lambda s: s.fish.rises == "no_bubbles", _just_under),
    (lambda s: s.fish.spawning, _egg),
    (lambda s: s.fish.hugs_bed, _grayling),
    (is_high, _high_water),
    (lambda s: s.fish.level in ("mid", "surface"), _higher_up),
    (lambda s: s.water.temperature_c < STONEFLY_BELOW_C, _coldest),
    (is_low_and_clear, _wary),
    (lambda s: s.water.clarity_m < COLOURED_M, _coloured),
    (lambda _: True, _nothing_seen),
)
"""The signs in the order in which they count, and the two flies that each asks for."""


def wanted_pair(situation: Situation) -> Pair:
    """Return the two flies that a situation asks for, the lower one first."""
    return next(give(situation) for asks, give in TABLE if asks(situation))


def _tied(offer: Offer, bead_mm: float | None) -> Fly:
    hook = offer.hook
    if bead_mm is not None:
        if offer.free:
            hook = min(hook + 2, max(hook - 2, _natural_hook(bead_mm)))
        hook = fitting_hook(hook, bead_mm)
    return Fly(offer.form, hook, bead_mm, offer.dressing, tone=offer.tone, mark=offer.mark)


def wanted_fly(situation: Situation, bead_mm: float | None) -> Fly:
    """Return the point fly that is asked for, on a bead or without one."""
    return _tied(wanted_pair(situation)[0], bead_mm)


def wanted_dropper(situation: Situation) -> Fly:
    """Return the upper fly that is asked for: on the lightest bead of the ladder, or on none where it is to hang free."""
    offer = wanted_pair(situation)[1]
    return _tied(offer, None if offer.light else LADDER_MM[0])


def likeness(fly: Fly, other: Fly) -> float:
    """Return 0..1, how well a fly stands for the one wanted: by form, dressing, size of hook, brightness and mark (common
    practice, no source).
    """
    kindred = fly.form.split()[-1] == other.form.split()[-1]
    form = 1.0 if fly.form == other.form else RELATED if kindred else OTHER
    dressing = 1.0 if fly.dressing == other.dressing else 0.95
    colour = (1.0 if fly.tone == other.tone else OTHER_TONE) * (1.0 if fly.mark == other.mark else OTHER_MARK)
    return form * dressing * colour * max(0.8, 1.0 - 0.03 * abs(fly.hook - other.hook))


def point_fly(situation: Situation, bead_mm: float | None) -> Fly:
    """Return the point fly on a bead, or without one: the one wanted, or from a box of flies the likest to it."""
    asked = wanted_fly(situation, bead_mm)
    box = situation.box
    if box is None or box.flies is None:
        return asked
    there = [fly for fly in box.flies if fly.bead_mm == bead_mm]
    return max(there, key=lambda fly: likeness(fly, asked), default=asked)


def dropper_fly(
    situation: Situation, bead_mm: float | None = None, *, point_mm: float | None = None
) -> Fly | None:
    """Return the upper fly: the one wanted, on the nearest bead of a box or on none, or from a box of flies the likest of the
    light ones, None where it has none; on ``bead_mm`` where the upper one is to be heavy too, None where a box has no such. A
    light one is no heavier than a point fly on ``point_mm``.
    """
    asked = wanted_dropper(situation)
    most_mm = HEAVIEST_DROPPER_MM if point_mm is None else min(HEAVIEST_DROPPER_MM, point_mm)
    if bead_mm is not None:
        asked = replace(asked, bead_mm=bead_mm, hook=fitting_hook(asked.hook, bead_mm))
    elif asked.bead_mm is not None:
        asked = replace(asked, bead_mm=min(asked.bead_mm, most_mm))
    box = situation.box
    if box is None:
        return asked
    if box.flies is None:
        if bead_mm is not None:
            return asked if bead_mm in box.beads_mm else None
        wanted_mm = asked.bead_mm
        if wanted_mm is None:
            return asked
        light = [mm for mm in box.beads_mm if mm <= most_mm]
        nearest = min(light, key=lambda mm: abs(mm - wanted_mm), default=None)
        hook = asked.hook if nearest is None else fitting_hook(asked.hook, nearest)
        return replace(asked, bead_mm=nearest, hook=hook)
    there = [
        fly
        for fly in box.flies
        if (fly.bead_mm == bead_mm if bead_mm is not None else (fly.bead_mm or 0.0) <= most_mm)
    ]
    return max(there, key=lambda fly: likeness(fly, asked), default=None)


def other_fly(situation: Situation, fly: Fly) -> Fly:
    """Return what to show fish that were shown a fly in vain: the bright one after naturals, a smaller dull one after that;
    from a box of flies the likest of the bead that is not the same (common practice, no source).
    """
    if fly.tone == "natural" and not is_low_and_clear(situation):
        asked = replace(fly, tone="bright", mark="collar", drag_factor=None)
    else:
        asked = replace(fly, tone="dark", mark="none", hook=min(20, fly.hook + 2), drag_factor=None)
    box = situation.box
    if box is None or box.flies is None:
        return asked
    others = [one for one in box.flies if one.bead_mm == fly.bead_mm and one != fly]
    return max(others, key=lambda one: likeness(one, asked), default=asked)


MOST_TO_TIE_ON = 8
"""So many flies can be looked over with one thumb (stated here)."""


def to_tie_on(situation: Situation) -> tuple[Fly, ...]:
    """Return flies for the point, the likest to the one wanted first: a box's own on their beads, or else what the signs ask
    for, and that one smaller, larger, bright and dark, which go on any bead.
    """
    asked = replace(wanted_fly(situation, None), bead_mm=None)
    box = situation.box
    if box is not None and box.flies is not None:
        there = dict.fromkeys(box.flies)
    else:
        other = replace(wanted_dropper(situation), bead_mm=None)
        smaller, larger = (replace(asked, hook=int(HOOK.clamp(asked.hook + by))) for by in (2, -2))
        bright = replace(asked, tone="bright", mark="collar")
        dark = replace(asked, tone="dark", mark="none")
        there = dict.fromkeys((asked, other, smaller, larger, bright, dark))
    return tuple(sorted(there, key=lambda fly: -likeness(fly, asked))[:MOST_TO_TIE_ON])


def trailing_fly(situation: Situation, bead_mm: float | None = LADDER_MM[0]) -> Fly | None:
    """Return the small fly that trails below a heavy one, on a bead; None where the box has none."""
    fly = dropper_fly(situation)
    if fly is None:
        return None
    hook = fly.hook if bead_mm is None else fitting_hook(fly.hook, bead_mm)
    return replace(fly, bead_mm=bead_mm, hook=hook)


def beads(situation: Situation) -> tuple[float, ...]:
    """Return the beads to be had for the point: the box's, or the whole ladder, for a midge from its own smallest on."""
    if situation.box is not None:
        return situation.box.weighted
    midge = wanted_pair(situation)[0].form.startswith("midge")
    return (MIDGE_BEAD_MM, *LADDER_MM) if midge else LADDER_MM


def points(situation: Situation) -> tuple[float | None, ...]:
    """Return what the point fly may be weighted with: a bead, and, where shot is to be the weight, none at all; from a box
    of flies only what is in it.
    """
    bare = situation.school.weight == "shot" and situation.rules.added_weight
    box = situation.box
    if box is not None and box.flies is not None:
        bare = bare and any(fly.bead_mm is None for fly in box.flies)
    return (None, *beads(situation)) if bare else beads(situation)


def on_bead(fly: Fly) -> str:
    """Return what a fly is weighted with, in words, the quantity marked."""
    return "no bead" if fly.bead_mm is None else qty(fly.bead_mm, "mm", 1)
