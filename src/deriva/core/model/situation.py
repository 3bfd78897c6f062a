"""What an angler stands in front of: water, place, fish, rules, school, box. Every default is stated here."""

from dataclasses import dataclass, field
from typing import Annotated, Literal

from deriva.core.check import Checked
from deriva.core.model.water import Water
from deriva.core.ranges import BEAD_MM, DISTANCE_M, FLIES, FLOAT_MM, MONTH, WIND_M_S, Most, Text
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.floats import DRIES, INDICATORS
from deriva.core.tackle.food import Feeding, Found, Rises, signs
from deriva.core.tackle.rod import Rod

Cover = Literal["rocks", "roots", "branches"]
"""What stands in or over the lie: rocks that split the current, roots that hold a fly, branches over the cast."""


@dataclass(frozen=True, slots=True)
class Place(Checked):
    """Where the angler stands to the fish, and what is in the way."""

    distance_m: Annotated[float, DISTANCE_M] = 7.0
    wading_allowed: bool = True
    wind_m_s: Annotated[float, WIND_M_S] = 2.0
    tight_casting: bool = False
    cover: Annotated[tuple[Cover, ...], Most(3)] = ()


@dataclass(frozen=True, slots=True)
class Fish(Checked):
    """What the fish are doing. ``feeding`` None: as rises and net sample say, by the bed where there is no sign.

    ``refusing``: they come to the fly and turn away. ``spawning``: suckers, salmon or trout spawn close by.
    """

    feeding: Feeding | None = None
    species: Annotated[str, Text()] = "brown trout"
    rises: Rises = "none"
    found: Annotated[tuple[Found, ...], Most(6)] = ()
    refusing: bool = False
    spawning: bool = False

    @property
    def level(self) -> Feeding:
        """The level they feed at: as the angler says, or as rises and net say."""
        return self.feeding or signs(self.rises, self.found).level

    @property
    def hugs_bed(self) -> bool:
        """Whether they lie closer to the bed than trout do: grayling (common practice, no source)."""
        return self.species.strip().lower() == "grayling"


@dataclass(frozen=True, slots=True)
class Rules(Checked):
    """The rules of the beat that bind a rig."""

    max_flies: Annotated[int, FLIES] = 2
    added_weight: bool = True
    barbless: bool = True
    lead: bool = False
    release: bool = True


@dataclass(frozen=True, slots=True)
class School:
    """Where practitioners disagree, and which side this angler takes.

    ``depth``: the float set as computed, at 1.5-2 times the depth in fast water ("long"), or at about the depth ("depth").
    ``flies``: two whenever legal, or one. ``heavy``: heaviest fly at the point, or first on the line.
    ``weight``: in the flies only, or shot on the leader. ``pace``: dead drift, or led a touch faster.
    ``bottom``: touch it often, or stay near it but clear. ``tied``: the second fly hangs from a tag of its own, or sits on
    the line (to the bend, the eye or a ring). ``winter``: a large fly, worth the effort, or midges, since that is what drifts.
    """

    depth: Literal["computed", "long", "depth"] = "computed"
    flies: Literal["two", "one"] = "two"
    heavy: Literal["point", "first"] = "point"
    weight: Literal["flies", "shot"] = "flies"
    pace: Literal["dead", "lead"] = "dead"
    bottom: Literal["touch", "near"] = "touch"
    tied: Literal["tag", "line"] = "tag"
    winter: Literal["large", "small"] = "large"


@dataclass(frozen=True, slots=True)
class Box(Checked):
    """What the angler owns, where that limits the choice; empty tuples mean none of the kind.

    ``flies`` None: any fly can be had on the beads named; otherwise these nymphs and no other.
    """

    beads_mm: Annotated[tuple[Annotated[float, BEAD_MM], ...], Most(40)]
    floats_mm: Annotated[tuple[Annotated[float, FLOAT_MM], ...], Most(40)] = tuple(
        f.size_mm for f in INDICATORS
    )
    dries: Annotated[tuple[Annotated[str, Text()], ...], Most(40)] = tuple(f.name for f in DRIES)
    flies: Annotated[tuple[Fly, ...], Most(200)] | None = None

    @property
    def weighted(self) -> tuple[float, ...]:
        """The beads to be had on a fly, mm, smallest first."""
        if self.flies is None:
            return tuple(sorted(self.beads_mm))
        return tuple(sorted({fly.bead_mm for fly in self.flies if fly.bead_mm is not None}))


@dataclass(frozen=True, slots=True)
class Situation(Checked):
    """One lie, now. ``month`` None: nothing is made of the season."""

    water: Water
    place: Place = field(default_factory=Place)
    fish: Fish = field(default_factory=Fish)
    rules: Rules = field(default_factory=Rules)
    school: School = field(default_factory=School)
    box: Box | None = None
    rod: Rod = field(default_factory=Rod)
    month: Annotated[int, MONTH] | None = None
    hemisphere: Literal["north", "south"] = "north"
    light: Literal["day", "dusk", "dark"] = "day"

    @property
    def northern_month(self) -> int | None:
        """The month of the northern year with the same season; None where the month is not known."""
        if self.month is None or self.hemisphere == "north":
            return self.month
        return (self.month + 5) % 12 + 1
