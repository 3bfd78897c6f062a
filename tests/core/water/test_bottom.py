"""The bottom of a lie, spot by spot. Truth: one Gaussian conditioned by numpy; a level rises alike everywhere."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.core.water.bottom import PER_LANE, Bottom, Sounded, Spot, expected, today, unlike

spots = st.builds(Spot, st.integers(1, 6), st.integers(1, 6))
known = st.builds(lambda spot, depth, share: Bottom(spot.lane, spot.stance, depth, share * depth),
                  spots, st.floats(0.4, 2.0), st.floats(0.05, 0.35))  # fmt: skip


@given(spots, spots, spots)
def test_unlike__grows_with_the_steps_between(a: Spot, b: Spot, c: Spot) -> None:
    for k in (0, 1):
        assert unlike(a, a)[k] == 0.0
        assert unlike(a, b)[k] == unlike(b, a)[k]
        assert unlike(a, c)[k] <= unlike(a, b)[k] + unlike(b, c)[k] + 1e-12
    assert unlike(Spot(1, 1), Spot(5, 1))[0] == pytest.approx(
        2.0 * PER_LANE
    )  # a path that wanders: four steps go as far as two


def by_the_book(read: Bottom, found: list[Bottom], here: Spot) -> tuple[float, float]:
    """Return mean and variance of the logarithm of the depth at a spot, by conditioning one Gaussian on all that was found at
    once (Rasmussen & Williams, Gaussian Processes for Machine Learning, 2006, section 2.2).
    """
    places = [here, *(one.spot for one in (read, *found))]
    far = 50.0  # what is not known of the lie before: next to nothing
    field = np.array([[far - 0.5 * unlike(a, b)[0] ** 2 for b in places] for a in places])
    noise = np.diag([math.log1p((one.depth_sd_m / one.depth_m) ** 2) for one in (read, *found)])
    logs = np.array([math.log(one.depth_m) for one in (read, *found)])
    weights = np.linalg.solve(field[1:, 1:] + noise, field[1:, [0]])[:, 0]
    return float(weights @ logs), float(field[0, 0] - weights @ field[1:, 0])


@given(known, st.lists(known, max_size=8), spots)
def test_expected__is_a_field_that_wanders_conditioned_on_all_that_is_known(
    read: Bottom, found: list[Bottom], here: Spot
) -> None:
    mean, variance = by_the_book(read, found, here)
    depth, share = expected(read, found, here)
    assert math.log(depth) == pytest.approx(mean, abs=0.02)
    assert math.log1p(share**2) == pytest.approx(variance, rel=0.02)


def test_expected__what_was_found_at_a_spot_is_believed_there_whatever_lies_around_it() -> None:
    """A lie that shelves from 0.8 to 1.4 m, every lane of it known to 5 cm, at three stances."""
    read = Bottom(1, 1, 0.8, 0.08)
    found = [Bottom(lane, stance, 0.6 + 0.2 * lane, 0.05) for lane in range(1, 5) for stance in (1, 2, 3)]
    for one in found:
        depth, share = expected(read, found, one.spot)
        assert depth == pytest.approx(one.depth_m, rel=0.03)
        assert share < 0.07
    # beyond them it goes on as the lane next to it, a step less sure
    depth, share = expected(read, found, Spot(5, 2))
    assert depth == pytest.approx(1.4, rel=0.05)
    assert share > PER_LANE - 0.02


@given(known, known)
def test_expected__what_was_read_counts_once_where_more_was_found_since(read: Bottom, seen: Bottom) -> None:
    """Truth: Bayes' rule with what the drifts alone say, beside which the reading stands once."""
    there = Spot(seen.lane, seen.stance)
    depth, share = expected(read, [seen], there)  # as the coach comes to believe it, and as it is kept
    kept = Bottom(seen.lane, seen.stance, depth, share * depth, since_reading=True)
    for here in (there, read.spot):
        then, now = expected(read, [seen], here), expected(read, [kept], here)
        assert now == pytest.approx(then, rel=2e-3)
        untold = expected(read, [replace(kept, since_reading=False)], here)
        assert untold[1] < now[1]  # it would be taken for surer than it is
    no_more = replace(read, depth_sd_m=1.2 * read.depth_sd_m, since_reading=True)
    assert expected(read, [no_more], there) == expected(read, [], there)


@given(known, known, spots)
def test_expected__what_is_found_makes_no_spot_less_sure(read: Bottom, found: Bottom, here: Spot) -> None:
    assert expected(read, [found], here)[1] <= expected(read, [], here)[1] + 1e-12
    there, far = (expected(read, [], Spot(read.lane + lanes, read.stance))[1] for lanes in (0, 5))
    assert there < far


def test_today__rises_with_the_level_and_is_less_sure_where_nothing_tells_of_it() -> None:
    found = Bottom(2, 1, 1.0, 0.1)
    (same,), (risen,), (untold,) = (today([Sounded(found, level)]) for level in (0.0, 0.3, None))
    assert same.depth_m == pytest.approx(1.0)
    assert same.depth_sd_m == pytest.approx(0.1)
    assert risen.depth_m == pytest.approx(1.3)
    assert risen.depth_sd_m > same.depth_sd_m
    assert untold.depth_m == pytest.approx(1.0)
    assert untold.depth_sd_m > same.depth_sd_m
    old = today([Sounded(found, 0.0, years=4.0)])[0]
    assert old.depth_sd_m > 2.0 * same.depth_sd_m  # beds move


def test_today__what_was_found_last_holds_what_was_found_before_it() -> None:
    one, then = Bottom(2, 1, 1.2, 0.08, since_reading=True), Bottom(2, 1, 1.0, 0.1)
    other = Bottom(1, 3, 0.5, 0.1)
    for order in ((then, one, other), (other, one, then)):
        years = {id(then): 1.0}
        found = today([Sounded(where, 0.0, years.get(id(where), 0.0)) for where in order])
        assert found == (other, one)


def test_today__a_level_that_fell_below_a_spot_leaves_it_the_least_there_is() -> None:
    (dry,) = today([Sounded(Bottom(3, 1, 0.4, 0.1), -0.9)])
    assert 0.0 < dry.depth_m < 0.2
