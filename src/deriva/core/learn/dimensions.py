"""What an answer can be broken down by, and what each part is called. The steps are stated here: they part what practitioners
call by different names.
"""

import re
from bisect import bisect_right
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Literal

from deriva.core.choose.criteria import KIND_WORDS
from deriva.core.choose.schools import DISAGREEMENTS
from deriva.core.choose.schools import Question as Disputed
from deriva.core.errors import Impossible
from deriva.core.model.quantity import qty

DimensionName = Literal[
    "rig", "bead", "fly", "hook", "setting", "lie", "kind", "lane", "beat", "flow", "temperature", "clarity", "depth",
    "speed", "wind", "light", "hour", "month", "zone", "trend", "gauged", "took", "moment", "ranked",
    "school_depth", "school_flies", "school_heavy", "school_weight", "school_pace", "school_bottom", "school_tied",
    "school_winter",
]  # fmt: skip

MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November",
    "December",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Dimension:
    """Something that a drift has. ``edges``: where a measured one is parted, in ``unit``; ``keys``: what it is called, where
    its parts are known beforehand; else its parts are what the log holds.
    """

    name: DimensionName
    words: str
    of: str = "{}"
    """A part of it in a sentence."""
    edges: tuple[float, ...] = ()
    unit: str = ""
    places: int = 0
    keys: tuple[tuple[str, str], ...] = ()
    under: str = "under {}"
    over: str = "{} and more"
    """What its first and last parts are called."""
    counts: bool = False
    """Whether its parts are numbers."""
    of_fish: bool = False
    """Whether it is known of fish to hand alone: every drift fished all of its parts, and only a fish says which it was."""

    of_engine: bool = False
    """Whether the drift engine has to have said it of a setting first."""

    def has(self, key: str) -> bool:
        """Return whether there may be such a part."""
        if self.counts:
            return re.fullmatch(r"[0-9]{1,4}(\.[0-9]{1,4})?", key) is not None
        return not self.parts() or key in self.parts()

    def check(self, key: str, *, field: str) -> None:
        """Raise Impossible where there is no such part."""
        if self.has(key):
            return
        said = "a number" if self.counts else f"one of {', '.join(self.parts())}"
        raise Impossible(f"{field} = {key}: there is no such part of {self.words}: {said}", field=field)

    def label(self, key: str, names: Mapping[str, str]) -> str:
        """Return what a part is called; ``names`` knows lies and beats by their ids."""
        if not self.has(key):
            return key
        if self.edges:
            return self._between(int(key))
        if self.name == "bead":
            return qty(float(key), "mm", 1)
        return dict(self.keys).get(key) or names.get(key) or key

    def _between(self, part: int) -> str:
        said = [qty(edge, self.unit, self.places) if self.unit else f"{edge:g}" for edge in self.edges]
        if part == 0:
            return self.under.format(said[0])
        if part == len(said):
            return self.over.format(said[-1])
        return f"{said[part - 1]} to {said[part]}"

    def part(self, value: float) -> str:
        """Return the part that a measured value is in: the one above an edge that it stands on, as the database has it."""
        return str(bisect_right(self.edges, value))

    def parts(self) -> tuple[str, ...]:
        """Return the keys of its parts in order, where they are known beforehand."""
        if self.edges:
            return tuple(str(k) for k in range(len(self.edges) + 1))
        return tuple(key for key, _ in self.keys)

    def ordered(self, keys: Iterable[str]) -> tuple[str, ...]:
        """Return some of its parts in the order in which they are read."""
        there = set(keys)
        known = self.parts()
        if known:
            return tuple(key for key in known if key in there)
        return tuple(sorted(there, key=float) if self.counts else (key for key in keys if key in there))


SCHOOL_OF: dict[Disputed, DimensionName] = {
    "depth": "school_depth", "flies": "school_flies", "heavy": "school_heavy", "weight": "school_weight",
    "pace": "school_pace", "bottom": "school_bottom", "tied": "school_tied", "winter": "school_winter",
}  # fmt: skip
"""What each question of school is asked by: which side stood where one fished."""

DIMENSIONS: dict[DimensionName, Dimension] = {
    one.name: one
    for one in (
        Dimension(
            "rig", "rig", of="the {} rig",
            keys=(("euro", "euro"), ("indicator", "indicator"), ("dry_dropper", "dry-dropper"), ("dry", "single dry")),
        ),
        Dimension("bead", "bead", of="a bead of {}", counts=True),
        Dimension("fly", "fly"),
        Dimension("hook", "size of hook", of="size {}", counts=True),
        Dimension(
            "setting", "setting against the depth", of="a setting {} times the depth", edges=(0.8, 1.0, 1.25, 1.6, 2.0)
        ),
        Dimension("lie", "lie"),
        Dimension("kind", "kind of lie", of="the {}", keys=tuple(KIND_WORDS.items())),
        Dimension("lane", "lane", of="lane {}", counts=True),
        Dimension("beat", "beat"),
        Dimension(
            "flow", "flow", of="{} flow",
            keys=(
                ("much_below_normal", "much below normal"), ("below_normal", "below normal"), ("normal", "normal"),
                ("above_normal", "above normal"), ("much_above_normal", "much above normal"),
            ),
        ),
        Dimension("temperature", "water temperature", of="water {}", edges=(6.0, 9.0, 12.0, 15.0, 18.0), unit="°C"),
        Dimension("clarity", "clarity", of="clarity {}", edges=(0.5, 1.0, 2.0), unit="m", places=1),
        Dimension("depth", "depth", of="water {} deep", edges=(0.5, 0.8, 1.2, 1.8), unit="m", places=1),
        Dimension("speed", "speed at the top", of="water at {}", edges=(0.3, 0.6, 0.9, 1.2), unit="m/s", places=1),
        Dimension("wind", "wind", of="wind {}", edges=(2.0, 5.0, 8.0), unit="m/s air"),
        Dimension("light", "light", keys=(("day", "daylight"), ("dusk", "dusk"), ("dark", "the dark"))),
        Dimension(
            "hour", "hour by the sun", of="the time {} by the sun", edges=(7.0, 10.0, 13.0, 16.0, 19.0),
            under="before {}", over="{} and later",
        ),
        Dimension(
            "trend", "rise or fall of the flow", of="a {} river",
            keys=(("rising", "rising"), ("steady", "steady"), ("falling", "falling")),
        ),
        Dimension(
            "gauged", "flow by the gauge", of="a flow of {}", edges=(0.5, 1.0, 2.0, 4.0, 8.0, 16.0), unit="m³/s", places=1,
        ),
        Dimension(
            "zone", "time in the zone, as reckoned", of="{} in 100 of the drift in the zone", edges=(20.0, 40.0, 60.0, 80.0),
            of_engine=True,
        ),
        Dimension("month", "month", keys=tuple((str(k), name) for k, name in enumerate(MONTHS, 1))),
        Dimension(
            "took", "which fly took", of="the {}", of_fish=True,
            keys=(("point", "point fly"), ("dropper", "dropper"), ("dry", "dry")),
        ),
        Dimension(
            "moment", "moment of the take", of="on the {}", of_fish=True,
            keys=(("drop", "drop"), ("drift", "drift"), ("swing", "swing or lift")),
        ),
        Dimension(
            "ranked", "place of the rig among those advised", of="a rig {}", of_engine=True,
            keys=(("first", "ranked first"), ("behind", "ranked behind another")),
        ),
        *(
            Dimension(
                SCHOOL_OF[one.question], f"school: {one.asks.lower()}", of="the school “{}”",
                keys=tuple((side.value, side.name) for side in one.sides),
            )
            for one in DISAGREEMENTS
        ),
    )
}  # fmt: skip

OF_FISH: tuple[DimensionName, ...] = tuple(one.name for one in DIMENSIONS.values() if one.of_fish)

WATERS: tuple[DimensionName, ...] = ("flow", "temperature", "kind", "light")
"""What a comparison is made within: like flow, like warmth, like lies, like light."""

SAME_THING: dict[DimensionName, tuple[DimensionName, ...]] = {
    "lie": ("kind",),
    "beat": ("kind",),
    "depth": ("kind",),
    "speed": ("kind", "flow"),
    "clarity": ("flow",),
    "gauged": ("flow",),
    "hour": ("light",),
    "month": ("temperature",),
}
"""What says so nearly the same as another that to compare within it would leave nothing to compare."""


def within(by: DimensionName) -> tuple[DimensionName, ...]:
    """Return what a comparison by something is made within."""
    return tuple(name for name in WATERS if name != by and name not in SAME_THING.get(by, ()))
