"""The water column of a lie, for drawing, and one drift as frames."""

from typing import Annotated

from deriva.core.drift.bed import TouchKind
from deriva.core.drift.mending import Way
from deriva.core.drift.path import Handling
from deriva.core.drift.transient import Entry
from deriva.core.say.column import DrawnColumn
from deriva.core.say.picture import Part, TopMark
from deriva.service.schemas.advise import WhyNoun
from deriva.service.schemas.base import Wire
from deriva.service.schemas.nouns import Noun, SituationNoun, TuningNoun

ColumnNoun = Annotated[DrawnColumn, Noun()]
"""A lie's column, as the core draws it."""


class PathIn(Wire):
    """Which rig to run, where, how it lands, and what a rod tip does with it."""

    situation: SituationNoun
    tuning: TuningNoun
    entry: Entry = "straight"
    handling: Handling = "dead"
    swing: bool = False


class TouchOut(Wire):
    """A touch of the bed; ``depth_share`` is how deep among the stones, ``hang_chance`` what it is likely to end in."""

    part: Part
    kind: TouchKind
    t_s: float
    x_m: float
    lasts_s: float
    depth_share: float
    speed_m_s: float
    hang_chance: float


class MendOut(Wire):
    """How long the line on the water lets the float go free, which way to mend, how often; null: no need."""

    drags_after_s: float | None
    way: Way | None
    mends: int
    words: str


class PathOut(Wire):
    """A drift as frames at equal times; lines hold x downstream and height above the bed, node by node. The pull of the
    line is in grams, as a balance would read it.

    What begins with ``body_`` goes body by body, the point fly first; ``body_knots`` are the nodes of the line that the
    bodies, or their tags, are tied in at. The first ``sighter_points`` nodes are the sighter.
    """

    frame_s: float
    ends_s: float
    in_zone_share: float
    reached_s: float | None
    depth_m: float
    zone_low_m: float
    zone_high_m: float
    surface_speed_m_s: float
    top: TopMark
    top_size_mm: float
    sighter_points: int
    line_x_m: list[list[float]]
    line_height_m: list[list[float]]
    body_knots: list[int]
    body_x_m: list[list[float]]
    body_parts: list[Part]
    body_size_mm: list[float]
    body_depth_m: list[list[float]]
    touch_s: list[float | None]
    touches: list[TouchOut]
    top_pace: list[float]
    pull_g: list[float]
    sighter_deg: list[float] | None
    fly_pace: list[list[float | None]]
    reached_m: float | None
    swing_from_s: float | None
    under_from_s: float | None
    mend: MendOut | None
    warnings: list[str]
    why: list[WhyNoun]
    t50_s: float | None
    t80_s: float | None
