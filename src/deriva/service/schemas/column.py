"""The water column of a lie, for drawing, and one drift as frames."""

from deriva.core.drift.bed import TouchKind
from deriva.core.drift.mending import Way
from deriva.core.drift.path import Handling
from deriva.core.drift.transient import Entry
from deriva.core.say.picture import Part, TopMark
from deriva.core.tackle.food import Feeding
from deriva.service.schemas.advise import WhyNoun
from deriva.service.schemas.base import Wire
from deriva.service.schemas.nouns import CautionNoun, SituationNoun, TuningNoun


class SpeedAtOut(Wire):
    """The current at one height."""

    height_m: float
    speed_m_s: float


class ColumnOut(Wire):
    """A lie's column: likely depths, speed profile, strike zone, what it means.

    ``level_why`` is null where the angler said the level. ``reaction_share`` is how far fish react, as a share of clear
    water; ``lane_m`` how wide a lane one fly fishes; ``window_m`` how wide the window is through which a fish at the
    foot of the column sees the world above.
    """

    depth_m: float
    depth_p10_m: float
    depth_p90_m: float
    bed_ks_m: float
    profile: list[SpeedAtOut]
    profile_words: str
    mean_speed_m_s: float
    mean_ratio: float
    zone_low_m: float
    zone_high_m: float
    zone_speed_m_s: float
    shallow: bool
    level: Feeding
    level_why: str | None
    turbidity_fnu: float
    reaction_share: float
    lane_m: float
    window_m: float
    cautions: list[CautionNoun]


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
