"""What sky and wind mean for the angler, in the trade's words (common practice, no source)."""

from deriva.core.choose.criteria import TIGHT_LINE_M_S, ramp
from deriva.core.model.quantity import qty
from deriva.core.water.light import BLINDING, Light, compass, glare, shaded_bank, shadow_m

COVERED = 0.75
LONG_SHADOW_M = 3.0
HOLDS, GOING = 0.7, 0.3


def light_words(light: Light, *, flows_to_deg: float | None) -> tuple[str, ...]:
    """Return what the light does to the fishing now; what depends on the river's course only where that is known."""
    if light.phase == "night":
        return ("Dark: a sighter or a small float cannot be seen.",)
    if light.phase == "twilight":
        light_does = "First light" if light.rising else "The light goes"
        return (f"{light_does}: white or two-tone on the line, and no fly that you must see.",)
    said: list[str] = []
    if light.cloud >= COVERED:
        said.append("Covered sky: fish are easier near the surface, and no shadow gives you away.")
        return tuple(said)
    sun = f"Sun in the {compass(light.azimuth_deg)}, {light.height_deg:.0f}° up"
    long = shadow_m(light) or 0.0
    if flows_to_deg is None:
        away = compass((light.azimuth_deg + 180.0) % 360.0)
        said.append(f"{sun}: your shadow falls {qty(long, 'm', 1)} to the {away}.")
        return tuple(said)
    upstream = (flows_to_deg + 180.0) % 360.0
    if glare(light, looking_deg=upstream) >= BLINDING:
        said.append(f"{sun}: it blinds you upstream. Two-tone black and white shows best against the glare.")
    elif glare(light, looking_deg=flows_to_deg) >= BLINDING and long >= LONG_SHADOW_M:
        said.append(
            f"{sun}, behind you as you fish up: your shadow runs {qty(long, 'm', 1)} ahead, on to the fish."
        )
    else:
        said.append(f"{sun}: your shadow is {qty(long, 'm', 1)} long.")
    bank = shaded_bank(light, flows_to_deg=flows_to_deg)
    if bank is not None:
        said.append(f"Shade under the {bank} bank, looking downstream: look there first in clear water.")
    return tuple(said)


SKIES: tuple[tuple[float, str], ...] = ((0.2, "clear sky"), (0.6, "broken cloud"), (0.9, "cloudy"))


def sky_words(cloud: float) -> str:
    """Return the sky in words, by the share of it that is covered."""
    return next((words for most, words in SKIES if cloud < most), "covered")


def wind_words(wind_m_s: float) -> str:
    """Return what a wind does to a tight line, by the same measure as the rigs are judged."""
    control = ramp(wind_m_s, *TIGHT_LINE_M_S)
    wind = qty(wind_m_s, "m/s air", 0)
    if control >= HOLDS:
        return f"Wind {wind}: a tight line holds."
    if control >= GOING:
        return f"Wind {wind}: a tight line needs the sighter's tip laid on the water, or a float with the rod low."
    return f"Wind {wind}: too much for a tight line; fish a float."
