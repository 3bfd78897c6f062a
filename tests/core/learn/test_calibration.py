"""How right Deriva is said to be: on logs drawn so that it is known. Truth: the draws themselves, and probability."""

import math
from dataclasses import replace

import numpy as np
import pytest

from deriva.core.coach.belief import begin, respond
from deriva.core.learn.calibration import BAND, FEW, Forecast, Pair, bands, eye, length, touches
from deriva.core.learn.foretell import foretell, tuning_of
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.rigs.resolve import resolve
from deriva.core.water.sounding import DEPTH_ERROR


def drawn(
    rng: np.random.Generator, pairs: int, *, said_sd: float, true_sd: float, off: float = 1.0
) -> list[Pair]:
    """Draw depths that are said to be known to ``said_sd`` and are to ``true_sd``."""
    sigma = math.sqrt(math.log1p(true_sd**2))
    depths = rng.uniform(0.4, 2.0, pairs)
    return [Pair(off * d * math.exp(sigma * rng.normal()), said_sd, d, 0.02) for d in depths]


@pytest.mark.parametrize(
    ("true_sd", "off", "said"),
    [
        (0.2, 1.0, "as they should"),
        (0.5, 1.0, "too narrow"),
        (0.05, 1.0, "wider than"),
        (0.2, 1.3, "too much"),
    ],
)
def test_bands__are_judged_by_how_often_they_held(true_sd: float, off: float, said: str) -> None:
    rng = np.random.default_rng(3)
    found = bands(drawn(rng, 300, said_sd=0.2, true_sd=true_sd, off=off), "Depths")
    assert found is not None
    assert said in found.words
    assert found.off.low <= off <= found.off.high


def test_bands__that_are_right_are_called_wrong_no_oftener_than_they_may_be() -> None:
    """Of 400 logs of 30 pairs drawn as was said, the interval of the share misses 8 in 10 in about one in ten."""
    rng = np.random.default_rng(4)
    wrong = 0
    for _ in range(400):
        found = bands(drawn(rng, 30, said_sd=0.25, true_sd=0.25), "Depths")
        assert found is not None
        wrong += not found.share.low <= BAND <= found.share.high
    assert wrong <= 0.14 * 400
    assert bands([Pair(1.0, 0.1, 1.0, 0.0)] * (FEW - 1), "Depths") is None


def test_eye__is_drawn_towards_what_is_usual_and_ends_at_its_own() -> None:
    rng = np.random.default_rng(5)
    few = eye(drawn(rng, 6, said_sd=0.25, true_sd=0.5))
    many = eye(drawn(rng, 600, said_sd=0.25, true_sd=0.5))
    good = eye(drawn(rng, 600, said_sd=0.25, true_sd=0.08))
    assert few is not None
    assert many is not None
    assert good is not None
    assert DEPTH_ERROR["eye"] < few.error < many.error == pytest.approx(0.47, abs=0.03)
    assert good.error == pytest.approx(0.08, abs=0.02)
    assert eye([]) is None
    leaning = length([1.1, 1.12, 1.08, 1.15, 1.05, 1.1])
    assert leaning is not None
    assert "10 % too much" in leaning.words


def test_touches__are_as_reckoned_or_not() -> None:
    rng = np.random.default_rng(6)

    def logged(times: float) -> list[Forecast]:
        found = []
        for outing in range(60):
            for chance in rng.uniform(0.02, 0.7, 3):
                come = min(0.95, times * chance * math.exp(0.2 * rng.normal()))
                found.append(Forecast(outing, float(chance), 20, int(rng.binomial(20, come))))
        return found

    right, low = touches(logged(1.0)), touches(logged(0.5))
    assert right is not None
    assert low is not None
    assert sum(one.seen.low <= one.reckoned <= one.seen.high for one in right.bins) >= len(right.bins) - 1
    assert "less often than reckoned" in low.words
    assert sum(one.drifts for one in right.bins) == 60 * 3 * 20
    assert touches(logged(1.0)[:1]) is None


LIE = Situation(Water(1.1, 0.5, "run", 0.35, "cobble", 1.4, 11.0))


def test_foretell__is_the_mean_over_the_waters_that_the_reading_leaves_open() -> None:
    rig = resolve(Tuning("indicator", 1.2, 3.0), LIE)
    setup = Setup.of(rig)
    assert resolve(tuning_of("indicator", setup), LIE) == rig
    told = foretell(LIE, "indicator", setup)
    cells = begin(LIE, "indicator").gist(11)
    there = [respond(rig, LIE, LIE.water.column(c.depth_m, c.surface_speed_m_s), c.runs_off) for c in cells]
    assert told.in_zone == pytest.approx(
        sum(c.weight * one.useful for c, one in zip(cells, there, strict=True))
    )
    known = replace(LIE, water=replace(LIE.water, depth_sd_m=0.02))
    shallow = replace(known, water=replace(known.water, depth_m=0.8))
    deep = replace(known, water=replace(known.water, depth_m=2.0))
    chances = [foretell(one, "indicator", setup) for one in (deep, known, shallow)]
    assert chances[0].tick + chances[0].hung < chances[2].tick + chances[2].hung
    assert chances[0].in_zone < chances[1].in_zone
