"""Situations of our own, and how tests draw others."""

from dataclasses import replace
from typing import get_args

from hypothesis import strategies as st

from deriva.core.model.situation import Fish, Place, Rules, School, Situation
from deriva.core.model.water import Water, WaterKind
from deriva.core.tackle.food import Feeding
from deriva.core.water.profile import BedKind

POCKETS = Situation(Water(0.7, 1.0, "pocket", 0.1, "cobble", 1.5, 12.0), Place(4.0))
"""Fast broken water at the rod's end."""

FAR_POOL = Situation(
    Water(1.9, 0.45, "pool", 0.3, "gravel", 1.0, 9.0), Place(14.0, wading_allowed=False, wind_m_s=5.0)
)
"""Slow, deep, across water that may not be waded, in a wind."""

CLEAR_FLAT = Situation(
    Water(0.6, 0.25, "glide", 0.1, "gravel", 2.8, 14.0, "below_normal"),
    Place(10.0, wind_m_s=1.0),
    Fish("mixed"),
)
"""Low clear flat with fish feeding at two levels, ten metres off."""

RUN = Situation(Water(1.1, 0.75, "run", 0.15, "cobble", 1.4, 11.0), Place(6.0))
"""Ordinary water, where all three rigs can fish."""


def at_distance(situation: Situation, distance_m: float) -> Situation:
    """Return the situation from further off or nearer."""
    return replace(situation, place=replace(situation.place, distance_m=distance_m))


SITUATIONS = st.builds(
    Situation,
    st.builds(
        Water,
        depth_m=st.floats(0.3, 2.5),
        surface_speed_m_s=st.floats(0.05, 1.6),
        kind=st.sampled_from(get_args(WaterKind)),
        depth_sd_m=st.floats(0.02, 0.5),
        bed=st.sampled_from(get_args(BedKind)),
        clarity_m=st.floats(0.1, 4.0),
        temperature_c=st.floats(1.0, 21.0),
        undertow=st.booleans(),
    ),
    st.builds(
        Place, distance_m=st.floats(2.0, 20.0), wind_m_s=st.floats(0.0, 12.0), tight_casting=st.booleans()
    ),
    st.builds(Fish, feeding=st.sampled_from(get_args(Feeding))),
    st.builds(Rules, max_flies=st.integers(1, 3), added_weight=st.booleans()),
    st.builds(
        School,
        flies=st.sampled_from(["one", "two"]),
        heavy=st.sampled_from(["point", "first"]),
        weight=st.sampled_from(["flies", "shot"]),
        pace=st.sampled_from(["dead", "lead"]),
    ),
)
