"""The build of a rig: every piece from the line to the fly, with what to cut it at, and what holds and shows it.

Leaders, knots, strengths and colours are common practice, no source; lengths below the sighter or float are the rig's.
"""

import math
from dataclasses import dataclass
from typing import Literal

from deriva.core.model.rig import Rig
from deriva.core.rigs.assemble import SHOT_ABOVE_FLY_M, SIGHTER_DIAMETER_M
from deriva.core.tackle.flies import KNOWN_AS, Fly
from deriva.core.tackle.rod import TAPERED_M, Leader
from deriva.core.tackle.tippet import tippet_diameter, tippet_for_hook

Material = Literal["nylon", "fluorocarbon"]
Background = Literal["dark", "bright", "shy"]
"""What the float or sighter is seen against: a dark bank, bright water, or by fish that are shy of colour."""

KNOT_M = 0.06
"""Line that goes into a knot and its trimmed end, m."""

SIGHTER_M = 0.5
EURO_LEADER_M, EURO_LEADER_MM = 8.0, 0.28
LINE_LEADER_M = 2.0
FLOAT_LEADER_M, FLOAT_LEADER_MM = 2.7, 0.25
DRY_LEADER_M = 2.4
LEVEL_DRY_M = 8.0
"""How far a dry is lobbed on level monofilament, which does not turn it over (common practice, no source)."""

HEAVIER_ABOVE_X = 1
"""The leader above a float is at least a size heavier than the tippet, so that a snag costs the flies and not the float."""

KNOTTED_PA = 0.9e9
"""Load over section at which knotted tippet breaks, Pa: 5X at about 1.7 kg; the spool's label comes first."""


@dataclass(frozen=True, slots=True)
class Section:
    """A piece of line from the rod end down: ``length_m`` as it fishes, ``cut_m`` with what its knots use up."""

    name: str
    material: Material
    diameter_m: float
    length_m: float
    cut_m: float
    breaks_at_n: float
    note: str


@dataclass(frozen=True, slots=True)
class Tied:
    """A fly, float, dry or shot, ``above_point_m`` measured along the line from the point fly up."""

    part: Literal["point", "dropper", "dry", "float", "shot"]
    words: str
    above_point_m: float


@dataclass(frozen=True, slots=True)
class Build:
    """A rig to tie: pieces and what hangs from them, from the rod end down, and sentences to heed."""

    sections: tuple[Section, ...]
    tied: tuple[Tied, ...]
    colour: str
    notes: tuple[str, ...]

    @property
    def length_m(self) -> float:
        """Length from the end of the line or the tip ring to the point fly, m; a tag is beside the line."""
        return sum(section.length_m for section in self.sections if section.name != "tag")


def breaking_load(*, diameter_m: float) -> float:
    """Return the load at which knotted line of a diameter breaks, N (see :data:`KNOTTED_PA`)."""
    return KNOTTED_PA * math.pi * diameter_m**2 / 4.0


def _section(
    name: str, material: Material, diameter_m: float, length_m: float, *, knots: int = 2, note: str = ""
) -> Section:
    return Section(
        name=name,
        material=material,
        diameter_m=diameter_m,
        length_m=length_m,
        cut_m=round(length_m + knots * KNOT_M, 2),
        breaks_at_n=breaking_load(diameter_m=diameter_m),
        note=note,
    )


def _called(fly: Fly) -> str:
    """Return a fly in words, with the generic name of its form where everybody knows it by one."""
    known = KNOWN_AS.get(fly.form)
    return fly.words if known is None else f"{fly.words} ({known})"


def _below(rig: Rig, top: str) -> tuple[list[Section], list[Tied]]:
    """Return the tippet from ``top`` down to the point fly, in one piece or cut at the dropper, with what hangs on it."""
    d, x = tippet_diameter(x=rig.tippet_x), f"{rig.tippet_x}X"
    bead = f", {rig.point.bead_mm:.1f} mm {rig.point.material}" if rig.point.bead_mm else ", no bead"
    tied = [Tied("point", f"{_called(rig.point)}, size {rig.point.hook}{bead}", 0.0)]
    lowest_knot = 0.0
    if rig.dropper is None or rig.dropper_spacing_m is None:
        sections = [_section("tippet", "fluorocarbon", d, rig.depth_setting_m, note=f"{x}, {top} to fly")]
    else:
        lowest_knot = rig.dropper_spacing_m
        sections = [
            _section(
                "upper tippet",
                "fluorocarbon",
                d,
                rig.depth_setting_m - lowest_knot,
                note=f"{x}, {top} to dropper",
            ),
            _section("lower tippet", "fluorocarbon", d, lowest_knot, note=f"{x}, dropper to point"),
        ]
        if rig.dropper_tag_m > 0.0:
            tag = "the end of the upper tippet, left long"
            sections.insert(1, _section("tag", "fluorocarbon", d, rig.dropper_tag_m, knots=1, note=tag))
        bead = (
            f", {rig.dropper.bead_mm:.1f} mm {rig.dropper.material}" if rig.dropper.bead_mm else ", no bead"
        )
        tied.insert(0, Tied("dropper", f"{_called(rig.dropper)}, size {rig.dropper.hook}{bead}", lowest_knot))
    if rig.shot_g > 0.0:
        above = min(rig.depth_setting_m - 0.05, lowest_knot + SHOT_ABOVE_FLY_M)
        tied.insert(0, Tied("shot", f"{rig.shot_g:.1f} g of tin", above))
    return sections, tied


def _above(rig: Rig, leader: Leader) -> tuple[list[Section], list[Tied]]:
    """Return what lies above the tippet: leader, sighter, float or dry."""
    if rig.float_ is None:
        long_m, note = EURO_LEADER_M, "level; 8 to 12 m"
        if leader == "line":
            long_m, note = LINE_LEADER_M, "on a thin line, which can also cast a dry"
        elif leader in TAPERED_M:
            note = "level; 8 to 12 m, looped to the line in place of the tapered one"
        return [
            _section("leader", "nylon", EURO_LEADER_MM / 1e3, long_m, note=note),
            _section(
                "sighter", "nylon", SIGHTER_DIAMETER_M, SIGHTER_M, note="two colours, a ring at its lower end"
            ),
        ], []
    if rig.kind == "indicator":
        thick = max(FLOAT_LEADER_MM / 1e3, tippet_diameter(x=max(0, rig.tippet_x - HEAVIER_ABOVE_X)))
        long_m = TAPERED_M.get(leader, FLOAT_LEADER_M)
        above = _section("leader", "nylon", thick, long_m, note="the float rides at its lower end")
        return [above], [Tied("float", rig.float_.name, rig.depth_setting_m)]
    x = max(3, min(tippet_for_hook(hook=rig.float_.hook or 12), rig.tippet_x))
    above = _section(
        "leader",
        "nylon",
        tippet_diameter(x=x),
        TAPERED_M.get(leader, DRY_LEADER_M),
        note=f"{'level' if leader == 'level' else 'tapered'} to {x}X, to the dry",
    )
    return [above], [Tied("dry", rig.float_.name, rig.depth_setting_m)]


COLOURS: dict[Background, str] = {
    "dark": "White, or two-tone black and white: it stands out against a dark bank.",
    "bright": "Red, yellow or orange: they show on bright water.",
    "shy": "White or clear: it looks like a bubble to fish that are shy of colour.",
}
"""One school's colours (common practice, no source)."""

OTHER_SCHOOL = (
    "Others carry three colours, pink, yellow and black, and watch whichever shows. Face the darker bank."
)


def build(rig: Rig, *, background: Background = "dark", leader: Leader = "any") -> Build:
    """Return how to tie a rig, seen against a background, on a leader."""
    above, carried = _above(rig, leader)
    below, flies = _below(rig, {"euro": "sighter", "indicator": "float", "dry_dropper": "dry"}[rig.kind])
    notes = [
        f"Cut lengths hold {100 * KNOT_M:.0f} cm for each knot.",
        "Wet every knot before it is drawn tight; try the rig with a steady pull.",
    ]
    if rig.kind == "euro" and leader in TAPERED_M:
        notes.insert(0, "An ordinary line sags from the tip ring: keep it on the reel.")
    if rig.kind == "dry_dropper" and leader == "level":
        notes.insert(0, f"Level monofilament turns no dry over: lob it, up to {LEVEL_DRY_M:.0f} m.")
    if rig.kind == "indicator":
        notes.insert(
            0, "The leader above the float is heavier than the tippet: a snag costs the flies, not the float."
        )
    if rig.kind == "dry_dropper":
        notes.insert(
            0,
            "Tie the tippet to the dry's bend, or both to tags; land the nymph straight up- or downstream of it.",
        )
    return Build((*above, *below), (*carried, *flies), f"{COLOURS[background]} {OTHER_SCHOOL}", tuple(notes))
