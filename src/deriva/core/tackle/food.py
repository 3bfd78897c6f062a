"""Rises and the net sample: at which level fish feed, and which form and size of fly that asks for.

The table is the trade's: common practice, no source.
"""

from dataclasses import dataclass
from typing import Annotated, Literal

from deriva.core.check import Checked
from deriva.core.ranges import Range
from deriva.core.tackle.flies import DressingClass, Mark, Tone

Feeding = Literal["bottom", "mid", "surface", "mixed"]
Rises = Literal["none", "bubbles", "no_bubbles"]
"""Rises that leave a bubble are to the surface; those that leave none are just under it."""

Stage = Literal[
    "mayfly_nymph", "winged_mayfly", "caddis_larva", "cased_caddis", "caddis_pupa", "stonefly_nymph",
    "midge_larva", "midge_pupa", "shrimp", "worm", "egg",
]  # fmt: skip
Where = Literal["bed", "mid", "top"]

BODY_MM = Range(1.0, 60.0, "mm", "the smallest midge to a worm")


@dataclass(frozen=True, slots=True)
class Found(Checked):
    """What a fine-mesh net brought up: stage, length of the body, and from where in the water."""

    stage: Stage
    body_mm: Annotated[float, BODY_MM]
    where: Where


@dataclass(frozen=True, slots=True)
class Signs:
    """The level that the signs point to, and the sentence that says why."""

    level: Feeding
    reason: str


FORMS: dict[Stage, tuple[str, DressingClass]] = {
    "mayfly_nymph": ("dubbed mayfly nymph", "dubbed"),
    "winged_mayfly": ("dubbed mayfly nymph", "dubbed"),
    "caddis_larva": ("free caddis larva", "dubbed"),
    "cased_caddis": ("cased caddis", "dubbed"),
    "caddis_pupa": ("soft-hackle pupa", "soft"),
    "stonefly_nymph": ("stonefly nymph", "dubbed"),
    "midge_larva": ("midge larva", "slim"),
    "midge_pupa": ("midge pupa", "slim"),
    "shrimp": ("shrimp", "dubbed"),
    "worm": ("worm", "soft"),
    "egg": ("egg", "soft"),
}
"""The form that stands for each find, and its class of dressing."""

HOOK_BY_MM: tuple[tuple[float, int], ...] = (
    (4.0, 20),
    (6.0, 18),
    (8.0, 16),
    (10.0, 14),
    (13.0, 12),
    (18.0, 10),
    (22.0, 8),
)
"""Longest body that a hook of a number stands for, mm: about its shank; longer ones are a size 6 (common practice)."""


def hook_for_body(body_mm: float) -> int:
    """Return the hook number whose shank is about as long as a body."""
    return next((hook for longest, hook in HOOK_BY_MM if body_mm <= longest), 6)


BY_RISE: dict[Rises, Signs] = {
    "bubbles": Signs("surface", "rises that leave bubbles: they take from the surface"),
    "no_bubbles": Signs("surface", "rises without bubbles: they take just under the surface"),
}

BY_NET: dict[tuple[bool, bool], Signs] = {
    (True, True): Signs("mixed", "food in the net from the bed and from higher up"),
    (False, True): Signs("mid", "food off the bed and no rise: they meet it in mid-water"),
    (True, False): Signs("bottom", "food in the net from the bed alone"),
    (False, False): Signs("bottom", "no sign: by the bed, as most days"),
}
"""By whether the net held food from the bed, and from higher up or on the wing."""


def signs(rises: Rises, found: tuple[Found, ...]) -> Signs:
    """Return the level at which fish feed by rises and net; by the bed where there is no sign."""
    low: bool = any(one.where == "bed" and one.stage != "winged_mayfly" for one in found)
    high = any(one.where != "bed" or one.stage == "winged_mayfly" for one in found)
    if rises == "bubbles" and low:
        return Signs("mixed", "rises that leave bubbles, and food from the bed in the net")
    return BY_RISE.get(rises) or BY_NET[low, high]


@dataclass(frozen=True, slots=True)
class Offer:
    """A fly in words and size that is asked for, and why.

    ``light``: on no bead, as what hangs free above a heavy one. ``free``: nothing asks for just this size, so that it may go
    with
    its bead, a size either way.
    """

    form: str
    hook: int
    dressing: DressingClass
    reason: str
    tone: Tone = "natural"
    mark: Mark = "none"
    light: bool = False
    free: bool = False


def netted(rises: Rises, found: tuple[Found, ...]) -> tuple[Offer, ...]:
    """Return the flies that stand for what the net held, of the level that is fished first, each form once."""
    level = signs(rises, found).level
    ranked = sorted(found, key=lambda one: (level == "bottom") != (one.where == "bed"))
    offers: dict[str, Offer] = {}
    for one in ranked:
        form, dressing = FORMS[one.stage]
        if rises == "no_bubbles" and one.stage in ("mayfly_nymph", "winged_mayfly"):
            form, dressing = "low-riding emerger", "dubbed"
        offers.setdefault(
            form, Offer(form, hook_for_body(one.body_mm), dressing, f"{form} for what the net holds")
        )
    return tuple(offers.values())
