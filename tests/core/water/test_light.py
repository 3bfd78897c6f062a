"""Light on the water. Truth: the geometry of a shadow and a mirror; what anglers make of it is common practice, no
source."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.core.day.sky import light_words, wind_words
from deriva.core.errors import OutOfRange
from deriva.core.model.quantity import plain
from deriva.core.water.light import Light, compass, glare, shaded_bank, shadow_m

bearings = st.floats(0.0, 360.0)


def test_shadow__is_as_long_as_its_thrower_at_45_degrees_and_there_is_none_without_sun() -> None:
    assert shadow_m(Light(45.0, 180.0, 0.0), height_m=1.7) == pytest.approx(1.7)
    assert shadow_m(Light(-1.0, 180.0, 0.0)) is None


@given(st.floats(1.0, 49.0), bearings, bearings, st.floats(0.0, 1.0))
def test_glare__is_worst_towards_a_low_open_sun_and_none_away_from_it(
    height: float, azimuth: float, looking: float, cloud: float
) -> None:
    here = glare(Light(height, azimuth, cloud), looking_deg=looking)
    assert 0.0 <= here <= glare(Light(height, azimuth, 0.0), looking_deg=azimuth) + 1e-12
    if math.cos(math.radians(looking - azimuth)) <= 0.0:
        assert here == 0.0


@given(st.floats(1.0, 90.0), bearings, bearings)
def test_shade__lies_under_the_bank_that_the_sun_stands_behind(
    height: float, azimuth: float, flows_to: float
) -> None:
    bank = shaded_bank(Light(height, azimuth, 0.0), flows_to_deg=flows_to)
    # the right bank, looking downstream, lies a quarter turn clockwise from the way the river runs
    towards_right = math.sin(math.radians(azimuth - flows_to))
    if abs(towards_right) > 0.51:
        assert bank == ("right" if towards_right > 0.0 else "left")
    elif abs(towards_right) < 0.49:
        assert bank is None


@pytest.mark.parametrize(
    ("bearing", "word"),
    [(0, "north"), (359, "north"), (22.4, "north"), (90, "east"), (200, "south"), (315, "north-west")],
)
def test_compass__eight_winds(bearing: float, word: str) -> None:
    assert compass(bearing) == word


@pytest.mark.parametrize(
    ("light", "flows_to", "said"),
    [
        (Light(-20.0, 10.0, 0.0), None, "cannot be seen"),
        (Light(-3.0, 300.0, 0.0), None, "light goes"),
        (Light(-3.0, 60.0, 0.0), None, "First light"),
        (Light(20.0, 180.0, 0.9), 0.0, "easier near the surface"),
        (Light(15.0, 180.0, 0.1), 0.0, "blinds you upstream"),  # runs north: upstream is south, into the sun
        (Light(15.0, 180.0, 0.1), 180.0, "6.3 m ahead, on to the fish"),
        (Light(40.0, 180.0, 0.1), 90.0, "right bank, looking downstream"),  # runs east: south is on the right
        (Light(45.0, 90.0, 0.1), None, "shadow falls 1.7 m to the west"),
    ],
)
def test_light_words__say_what_it_does_to_the_fishing(
    light: Light, flows_to: float | None, said: str
) -> None:
    assert said in plain(" ".join(light_words(light, flows_to_deg=flows_to)))


def test_wind_words__go_from_a_tight_line_to_a_float() -> None:
    assert [wind_words(w).split(": ")[1].split(",")[0] for w in (1.0, 7.0, 12.0)] == [
        "a tight line holds.",
        "a tight line needs the sighter's tip laid on the water",
        "too much for a tight line; fish a float.",
    ]


def test_light__refuses_what_no_sky_has() -> None:
    with pytest.raises(OutOfRange, match=r"cloud = 1\.5"):
        Light(10.0, 10.0, 1.5)
