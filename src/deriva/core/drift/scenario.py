"""A rig in a column of water, as the solvers take it: plain SI numbers, checked once, here."""

from dataclasses import dataclass
from typing import Literal

from deriva.core.errors import Impossible, OutOfRange
from deriva.core.model.column import Column
from deriva.core.ranges import TAG_M, TIP_HEIGHT_M, TIP_SPEED_M_S
from deriva.core.tackle.body import Body
from deriva.core.water.properties import FRESH_KG_M3

TopKind = Literal["float", "tip", "free"]

MAX_BODIES = 6


@dataclass(frozen=True, slots=True)
class Top:
    """What holds the upper end of the line: a float on the surface, a rod tip above it, or nothing."""

    kind: TopKind
    mass_kg: float = 0.0
    drag_area_m2: float = 0.0
    height_m: float = 0.0
    speed_m_s: float = 0.0


@dataclass(frozen=True, slots=True)
class LineSection:
    """A level piece of line; sections are listed from the top end down."""

    length_m: float
    diameter_m: float
    density_kg_m3: float


@dataclass(frozen=True, slots=True)
class Scenario:
    """One rig in one column. Building it checks it; a solver never meets an impossible one."""

    water: Column
    top: Top
    line: tuple[LineSection, ...]
    bodies: tuple[Body, ...]

    @property
    def line_length_m(self) -> float:
        """Whole length of the line, m."""
        return sum(section.length_m for section in self.line)

    def __post_init__(self) -> None:
        """Check ranges and that the numbers can be true together."""
        if self.water.bed_ks_m >= self.water.depth_m:
            raise Impossible(
                f"water.bed_ks_m = {self.water.bed_ks_m:g} m is as large as the depth of {self.water.depth_m:g} m: "
                "the stones would stand out of the water",
                field="water.bed_ks_m",
            )
        if self.top.kind == "tip":
            TIP_HEIGHT_M.check("top.height_m", self.top.height_m)
            TIP_SPEED_M_S.check("top.speed_m_s", self.top.speed_m_s)
        self._check_line_and_bodies()

    def _check_line_and_bodies(self) -> None:
        if not self.line:
            raise Impossible("line is empty: at least one section is needed", field="line")
        if not 1 <= len(self.bodies) <= MAX_BODIES:
            raise Impossible(
                f"bodies has {len(self.bodies)} entries; 1..{MAX_BODIES} are possible", field="bodies"
            )
        for i, section in enumerate(self.line):
            for name in ("length_m", "diameter_m", "density_kg_m3"):
                if getattr(section, name) <= 0:
                    raise OutOfRange(f"line.{i}.{name}", getattr(section, name), 0, float("inf"), "")
        length = self.line_length_m
        for i, body in enumerate(self.bodies):
            if not 0.0 < body.along_m <= length + 1e-9:
                raise Impossible(
                    f"bodies.{i}.along_m = {body.along_m:g} m is not on the line, which is {length:g} m long",
                    field=f"bodies.{i}.along_m",
                )
            if self.top.kind != "float" and body.mass_kg <= FRESH_KG_M3 * body.displaced_m3:
                raise Impossible(
                    f"bodies.{i}.mass_g = {1000 * body.mass_kg:g} g is lighter than the water it displaces "
                    f"({1e6 * body.displaced_m3:.3g} g): without a float it would not sink",
                    field=f"bodies.{i}.mass_g",
                )
        last = max(body.along_m for body in self.bodies)
        if last < length - 1e-9:
            raise Impossible(
                f"line is {length:g} m long but the last body sits at {last:g} m: end the line at its last body",
                field="line",
            )
        lowest = max(self.bodies, key=lambda body: body.along_m)
        self._check_tags(lowest)
        if lowest.mass_kg <= FRESH_KG_M3 * lowest.displaced_m3:
            raise Impossible(
                f"the lowest body weighs {1000 * lowest.mass_kg:g} g and displaces {1e6 * lowest.displaced_m3:.3g} g of "
                "water: it would float, not sink",
                field="bodies",
            )
        if lowest.diameter_m >= self.water.depth_m:
            raise Impossible("the lowest body is thicker than the water is deep", field="bodies")
        if self.top.kind == "tip" and self.top.height_m >= length:
            raise Impossible(
                f"top.height_m = {self.top.height_m:g} m, but the line is only {length:g} m long: "
                "the flies would hang in the air",
                field="top.height_m",
            )

    def _check_tags(self, lowest: Body) -> None:
        for i, body in enumerate(self.bodies):
            if body.tag_m == 0.0:
                continue
            if not TAG_M.lo < body.tag_m <= TAG_M.hi:
                raise OutOfRange(f"bodies.{i}.tag_m", body.tag_m, TAG_M.lo, TAG_M.hi, TAG_M.unit)
            if body.tag_diameter_m <= 0.0:
                raise OutOfRange(
                    f"bodies.{i}.tag_diameter_mm", 1e3 * body.tag_diameter_m, 0, float("inf"), "mm"
                )
            if body.along_m > lowest.along_m - 1e-6:
                raise Impossible(
                    f"bodies.{i}.tag_m = {body.tag_m:g} m, but it is tied in where the line ends: lengthen the line instead",
                    field=f"bodies.{i}.tag_m",
                )
            if any(
                b is not body and b.tag_m > 0.0 and abs(b.along_m - body.along_m) < 1e-3 for b in self.bodies
            ):
                raise Impossible(
                    f"bodies.{i}.tag_m = {body.tag_m:g} m: two tags are tied in at {body.along_m:g} m; set them apart",
                    field=f"bodies.{i}.along_m",
                )
            if body.mass_kg <= FRESH_KG_M3 * body.displaced_m3:
                raise Impossible(
                    f"bodies.{i} hangs from a tag and is lighter than the water it displaces: it would not hang",
                    field=f"bodies.{i}.mass_g",
                )
