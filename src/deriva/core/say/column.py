"""The water column of a situation, for drawing: all of it computed here, nothing by who draws it."""

from dataclasses import dataclass

from deriva.core.choose.zone import strike_zone
from deriva.core.model.caution import Caution
from deriva.core.model.situation import Situation
from deriva.core.say.cautions import cautions
from deriva.core.tackle.food import Feeding, signs
from deriva.core.water.appetite import moves
from deriva.core.water.clarity import reaction_share, turbidity
from deriva.core.water.profile import (
    BED_KS,
    PROFILE_WORDS,
    current_speed,
    is_shallow_for_stones,
    mean_to_surface,
)
from deriva.core.water.window import window_across


@dataclass(frozen=True, slots=True)
class SpeedAt:
    """The current at one height."""

    height_m: float
    speed_m_s: float


@dataclass(frozen=True, slots=True)
class DrawnColumn:
    """A lie's column: likely depths, speed profile, strike zone, what it means.

    ``level_why`` is None where the angler said the level. ``reaction_share`` is how far fish react, as a share of clear
    water; ``lane_m`` how wide a lane one fly fishes; ``window_m`` how wide the window is through which a fish at the
    foot of the column sees the world above.
    """

    depth_m: float
    depth_p10_m: float
    depth_p90_m: float
    bed_ks_m: float
    profile: tuple[SpeedAt, ...]
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
    cautions: tuple[Caution, ...]


PROFILE_POINTS = 33


def drawn_column(situation: Situation) -> DrawnColumn:
    """Return the column of a situation for drawing: all of it computed."""
    water = situation.water
    believed = water.column()
    depths = water.depths()
    zone = strike_zone(situation.fish, depth_m=water.depth_m, temperature_c=water.temperature_c)

    def speed(height_m: float) -> float:
        return current_speed(
            height_m=height_m,
            depth_m=believed.depth_m,
            surface_speed_m_s=believed.surface_speed_m_s,
            bed_ks_m=believed.bed_ks_m,
            profile=believed.profile,
        )

    ratio = mean_to_surface(depth_m=believed.depth_m, bed_ks_m=believed.bed_ks_m, profile=believed.profile)
    dirt = turbidity(clarity_m=water.clarity_m)
    # closer together by the bed, where the current changes fastest
    heights = [water.depth_m * (k / (PROFILE_POINTS - 1)) ** 2 for k in range(PROFILE_POINTS)]
    return DrawnColumn(
        depth_m=water.depth_m,
        depth_p10_m=depths[0],
        depth_p90_m=depths[-1],
        bed_ks_m=believed.bed_ks_m,
        profile=tuple(SpeedAt(h, speed(h)) for h in heights),
        profile_words=PROFILE_WORDS[believed.profile],
        mean_speed_m_s=ratio * water.surface_speed_m_s,
        mean_ratio=ratio,
        zone_low_m=zone.low_m,
        zone_high_m=zone.high_m,
        zone_speed_m_s=speed(0.5 * (zone.low_m + zone.high_m)),
        level=situation.fish.level,
        level_why=None
        if situation.fish.feeding
        else signs(situation.fish.rises, situation.fish.found).reason,
        turbidity_fnu=dirt,
        reaction_share=reaction_share(turbidity_fnu=dirt),
        window_m=window_across(depth_m=water.depth_m),
        lane_m=2.0
        * moves(temperature_c=water.temperature_c, clarity_m=water.clarity_m, species=situation.fish.species),
        shallow=is_shallow_for_stones(depth_m=water.depth_m, bed_ks_m=BED_KS[water.bed]),
        cautions=cautions(situation),
    )
