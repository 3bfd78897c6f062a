"""The drills: each with one lesson, a water made for it, and a bar to pass. What is planted stands here, no source."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

import numpy as np

from deriva.core.model.quantity import percent
from deriva.core.model.rig import RIG_KINDS, RigKind
from deriva.core.model.situation import Box, Fish, Place, School, Situation
from deriva.core.model.water import Water
from deriva.core.practice.cast import DrillName
from deriva.core.practice.world import Array, Hidden, Shoal, misjudged

Control = Literal["rig", "setting", "bead", "up", "entry", "mend", "direction", "lane"]
Measure = Literal["zone", "takes", "pace"]
Random = np.random.Generator

REACH_M = 1.5
"""How far up and down its lane a fish is worth a fly; torpid ones: :data:`COLD_REACH_M`."""

COLD_REACH_M = 0.6


@dataclass(frozen=True, slots=True)
class Bar:
    """What it takes to pass: ``zone``, a share of the seconds in the zone of one who knew the water; ``takes``, a share of the
    takes struck in time, with no more strikes at nothing than takes; ``pace``, a share of the paces called right.
    """

    measure: Measure
    least: float

    @property
    def words(self) -> str:
        """The bar in words."""
        if self.measure == "takes":
            return f"{percent(self.least)} of the takes struck in time, and no more strikes at nothing than takes"
        if self.measure == "pace":
            return f"{percent(self.least)} of the paces called right"
        return f"{percent(self.least)} of the time in the zone of one who knew the water"


@dataclass(frozen=True, slots=True)
class Drill:
    """A drill as it is told beforehand. ``minutes``: None, it is drifts that are counted."""

    name: DrillName
    title: str
    lesson: str
    task: str
    kinds: tuple[RigKind, ...]
    controls: tuple[Control, ...]
    drifts: int
    bar: Bar
    minutes: float | None = None


@dataclass(frozen=True)
class Waters:
    """The lanes of a drill, from the near one, what it takes to go from one to another, and how near a fish a fly must pass."""

    lanes: tuple[Hidden, ...]
    lane_s: float = 15.0
    reach_m: float = REACH_M


FLOATED: tuple[RigKind, ...] = ("indicator", "dry_dropper")
TWO: tuple[RigKind, ...] = ("indicator", "euro")

DRILLS: tuple[Drill, ...] = (
    Drill(
        "first_hour", "First hour",
        "Near to far, from one stance: there may be a fish at your feet. Watch the float, and strike at whatever it does "
        "that the bubbles do not.",
        "One float, one fly, one length of line, and twenty drifts: begin near, and go a step further out when nothing comes.",
        ("indicator",), ("lane",), 20, Bar("takes", 0.3),
    ),
    Drill(
        "first_depth", "First depth",
        "Find the bottom before the fish: lengthen by a hand's breadth and more until it ticks, then come up a little.",
        "The depth is a guess by eye. Be in the zone as soon as you can, and stay there.",
        TWO, ("rig", "setting", "bead", "up"), 15, Bar("zone", 0.6),
    ),
    Drill(
        "weight_or_length", "Weight or length?",
        "In fast water more line only trails further behind: what does not sink wants weight. In slow water it wants length.",
        "Fast and deep, and a light fly is on. Get it down.",
        TWO, ("rig", "setting", "bead", "up"), 15, Bar("zone", 0.6),
    ),
    Drill(
        "pace", "Reading the pace",
        "Cast upstream, a float a little slower than the bubbles says that the flies are down. Fed downstream, a slow float is "
        "held back by its line and says nothing.",
        "Call the pace of every drift: slower than the bubbles, the same, or faster.",
        ("indicator",), ("setting", "bead", "direction", "up"), 12, Bar("pace", 0.75),
    ),
    Drill(
        "tick_or_take", "Tick or take",
        "A stone is let go of at once; a fish holds on. Strike at all that lasts, and at once: it is free.",
        "The depth is right and fish are there. Strike at takes.",
        TWO, ("rig", "setting", "bead", "up"), 20, Bar("takes", 0.5),
    ),
    Drill(
        "mend", "Drag, and the mend",
        "Line on faster water bellies downstream and pulls: mend upstream, as the flies land. On slower water, downstream.",
        "Other water runs between you and the fish. Keep the drift alive.",
        FLOATED, ("rig", "setting", "bead", "up", "mend"), 12, Bar("zone", 0.6),
    ),
    Drill(
        "drop_off", "Over the drop-off",
        "Set for the deep side, and let the flies fall behind the edge: slack from a tuck or a heap drops them, a straight "
        "line holds them up.",
        "Shallow water falls away a little above the fish. The depth that was judged is that of the deep side.",
        TWO, ("rig", "setting", "bead", "up", "entry"), 15, Bar("zone", 0.55),
    ),
    Drill(
        "undertow", "Undertow",
        "Where the bottom runs faster than the top the fly goes ahead of the sighter: steer by touches, not by pace.",
        "A boil in a corner pool: the bottom may outrun the top.",
        ("euro", "indicator"), ("rig", "setting", "bead", "up"), 15, Bar("zone", 0.5),
    ),
    Drill(
        "hatch", "Hatch in mid-water",
        "Fish that rise to what rises are not at the bottom: light and short, whatever the depth.",
        "Mayflies in the net sample, some of them winged, and no rises. The water is deep.",
        FLOATED, ("rig", "setting", "bead", "up"), 15, Bar("zone", 0.6),
    ),
    Drill(
        "cold", "Cold: on the nose",
        "A torpid fish will not move: the fly has to be down before it comes to the nose, and slow there.",
        "The water has 3 °C. Fish take within two hands of where they lie, and hug the bottom.",
        TWO, ("rig", "setting", "bead", "up", "entry"), 20, Bar("zone", 0.5),
    ),
    Drill(
        "high_water", "The edges in high water",
        "High water empties the middle: the soft strip by the bank holds the fish, and most walk through it.",
        "A spate that falls and clears: a soft edge by the bank, and the main current beyond.",
        TWO, ("rig", "setting", "bead", "up", "lane"), 15, Bar("zone", 0.5),
    ),
    Drill(
        "clock", "The day's clock",
        "Drifts in the zone without a take say that nobody is at home; drifts that were never down say nothing.",
        "Three slots, a walk of two minutes apart, and 40 minutes. Seconds in the zone count where fish are.",
        TWO, ("rig", "setting", "bead", "up", "lane"), 40, Bar("zone", 0.35), 40.0,
    ),
    Drill(
        "free", "Free practice",
        "Twenty drifts in a water that you do not know, with your own box and school.",
        "Anything may be there.",
        RIG_KINDS, ("rig", "setting", "bead", "up", "entry", "mend", "direction"), 20, Bar("zone", 0.6),
    ),
)  # fmt: skip

BY_NAME = {one.name: one for one in DRILLS}


PLACE, DOWN, TWO_FISH = Place(6.0), Fish("bottom"), Shoal(2)


def _hidden(
    random: Random, seed: int, water: Water, *, place: Place = PLACE, fish: Fish = DOWN,
    shoal: Shoal = TWO_FISH, error: float = 1.0, **more: float | str | None,
) -> Hidden:  # fmt: skip
    """Return a hidden water; ``error`` scales how far depth and speed were misjudged."""
    off: Array = random.standard_normal(6)
    off[:2] = np.clip(off[:2], -1.5, 1.5) * error
    return replace(misjudged(water, place, fish, seed, off=off), shoal=shoal, **more)  # type: ignore[arg-type]


def _one(random: Random, low: float, high: float) -> float:
    return round(float(random.uniform(low, high)), 2)


def _first_depth(random: Random, seed: int) -> Waters:
    water = Water(_one(random, 0.7, 1.6), _one(random, 0.35, 0.7), "run")
    return Waters((_hidden(random, seed, water),))


def _weight(random: Random, seed: int) -> Waters:
    water = Water(_one(random, 1.2, 1.6), _one(random, 0.75, 0.95), "pool_head", bed="cobble")
    return Waters((_hidden(random, seed, water, error=0.5),))


def _pace(random: Random, seed: int) -> Waters:
    water = Water(_one(random, 0.8, 1.5), _one(random, 0.4, 0.8), "run")
    return Waters((_hidden(random, seed, water),))


def _tick(random: Random, seed: int) -> Waters:
    water = Water(_one(random, 0.7, 1.2), _one(random, 0.4, 0.7), "run", bed="cobble")
    return Waters((_hidden(random, seed, water, shoal=Shoal(12, 0.25, 0.05), error=0.2),))


def _mend(random: Random, seed: int) -> Waters:
    water = Water(_one(random, 0.7, 1.3), _one(random, 0.4, 0.6), "seam")
    under = float(random.choice((0.45, 1.6)))
    hidden = _hidden(random, seed, water, place=Place(9.0), error=0.4, under_line=under)
    judged = replace(hidden.judged, water=replace(hidden.judged.water, under_line_ratio=under))
    return Waters((replace(hidden, judged=judged),))


def _drop_off(random: Random, seed: int) -> Waters:
    water = Water(_one(random, 1.1, 1.6), _one(random, 0.45, 0.7), "drop_off")
    drop = round(0.45 * water.depth_m, 2)
    return Waters((_hidden(random, seed, water, error=0.5, drop_m=drop),))


def _undertow(random: Random, seed: int) -> Waters:
    water = Water(_one(random, 0.9, 1.5), _one(random, 0.3, 0.5), "pool", undertow=True)
    return Waters((_hidden(random, seed, water, error=0.6),))


def _hatch(random: Random, seed: int) -> Waters:
    water = Water(_one(random, 1.3, 2.0), _one(random, 0.35, 0.6), "pool")
    return Waters((_hidden(random, seed, water, fish=Fish("mid"), error=0.6),))


def _cold(random: Random, seed: int) -> Waters:
    water = Water(_one(random, 0.9, 1.5), _one(random, 0.25, 0.45), "pool", temperature_c=3.0)
    return Waters((_hidden(random, seed, water, shoal=Shoal(2, 0.05, 0.0), error=0.6),), reach_m=COLD_REACH_M)


def _high(random: Random, seed: int) -> Waters:
    edge = Water(
        _one(random, 0.5, 0.8), _one(random, 0.3, 0.45), "bank_edge", clarity_m=0.4, flow_class="above_normal"
    )
    main = Water(
        _one(random, 1.4, 1.8),
        _one(random, 1.0, 1.3),
        "run",
        bed="cobble",
        clarity_m=0.4,
        flow_class="above_normal",
    )
    return Waters(
        (
            _hidden(random, seed, edge, place=Place(3.0), shoal=Shoal(3, 0.1), name="the soft edge"),
            _hidden(random, seed, main, shoal=Shoal(0), error=0.5, name="the main current"),
        )
    )


def _clock(random: Random, seed: int) -> Waters:
    home = int(random.integers(3))
    names = ("the lower slot", "the middle slot", "the upper slot")
    lanes = [
        _hidden(
            random, seed, Water(_one(random, 0.6, 1.3), _one(random, 0.35, 0.7), "run"),
            shoal=Shoal(4, 0.15) if k == home else Shoal(0), error=0.6, name=names[k],
        )
        for k in range(3)
    ]  # fmt: skip
    return Waters(tuple(lanes), lane_s=120.0)


def _first_hour(random: Random, seed: int) -> Waters:
    depth, speed = _one(random, 0.6, 0.9), _one(random, 0.35, 0.5)
    home = int(random.integers(4))
    names = ("at your feet", "a rod's length out", "two rods out", "as far as you reach")
    lanes = [
        _hidden(
            random, seed, Water(round(depth + 0.08 * k, 2), round(speed + 0.04 * k, 2), "run"), place=Place(3.0 + 2.0 * k),
            shoal=Shoal(3, 0.2, 0.05) if k == home else Shoal(1, 0.08, 0.05), error=0.15, name=names[k],
        )
        for k in range(4)
    ]  # fmt: skip
    return Waters(tuple(lanes), lane_s=5.0)


def _free(random: Random, seed: int) -> Waters:
    kinds = ("run", "pool_head", "pool", "seam", "riffle", "glide")
    kind = kinds[int(random.integers(len(kinds)))]
    speed = _one(random, 0.2, 0.45) if kind in ("pool", "glide") else _one(random, 0.4, 0.95)
    depth = _one(random, 0.35, 0.7) if kind == "riffle" else _one(random, 0.6, 2.0)
    water = Water(depth, speed, kind, bed="gravel" if random.uniform() < 0.5 else "cobble")  # type: ignore[arg-type]
    shoal = Shoal(int(random.integers(0, 4)), float(random.uniform(0.03, 0.15)))
    under = None if random.uniform() < 0.5 else float(random.uniform(0.6, 1.5))
    return Waters((_hidden(random, seed, water, shoal=shoal, under_line=under),))


MAKE: dict[DrillName, Callable[[Random, int], Waters]] = {
    "free": _free, "first_depth": _first_depth, "weight_or_length": _weight, "pace": _pace, "tick_or_take": _tick,
    "mend": _mend, "drop_off": _drop_off, "undertow": _undertow, "hatch": _hatch, "cold": _cold, "high_water": _high,
    "clock": _clock, "first_hour": _first_hour,
}  # fmt: skip
"""How the waters of each drill are made. Their order is part of every seed: a new one goes to the end, or games that were kept
and links that were sent would be of other waters."""


@lru_cache(maxsize=256)
def waters(drill: DrillName, seed: int) -> Waters:
    """Return the waters of a drill: a seed gives the same ones to everybody."""
    return MAKE[drill](np.random.default_rng((seed, list(MAKE).index(drill))), seed)


def as_judged(drill: DrillName, seed: int, lane: int, school: School | None, box: Box | None) -> Situation:
    """Return a lane as an angler judges it, with what is in the box."""
    judged = waters(drill, seed).lanes[lane - 1].judged
    return replace(judged, school=school or judged.school, box=box)
