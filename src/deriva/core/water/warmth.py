"""Temperatures of the water at which something changes for fish, for insects, or for whoever stands in it, °C.

Each is common practice, no source, unless it says otherwise; each stands here and nowhere else.
"""

STOP_C = 20.0
CAREFUL_C = 18.0
"""Trout fishing stops, and care begins (fishery authorities; the beat's own rule comes before)."""

SWIM_C = 4.0
"""At this and below a swim lasts minutes."""

COLD_FISH_C = 6.0
WARM_FISH_C = 16.5
"""Fish lie in soft deep water up to the one, and move into broken water from the other on."""

STIFF_C = 6.0
LIVELY_C = 14.0
"""Below the one they hardly move for a fly, above the other they rise further to it."""

NO_RISE_C = 7.0
"""Colder, and no dry is looked at."""

LIGHT_FROM_C = 8.0
"""In colder water fish do not move with the light, and the sun that warms it is welcome."""

HATCH_FROM_C = 8.0
"""From here on pupae rise: the upper fly is one."""

STONEFLY_BELOW_C = 5.0
"""In the coldest water the nymphs that are about are stoneflies and midges."""

WARMEST_HOUR_BELOW_C = 10.0
"""Where the best of the day is colder, it is best because it is the warmest."""

CHASES_C = (6.0, 19.0)
"""Between these a large fish leaves its hole for a small streamer."""
