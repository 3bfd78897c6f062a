"""A fair trial: turns that favour neither, and nothing said before it is enough. Truth: arithmetic, and what was planted."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.core.errors import Impossible
from deriva.core.learn.answer import Row, Tally
from deriva.core.learn.trial import LEAST, standing
from deriva.core.record.turns import TURN, Going, TiedSo, Trial, turn

TRIAL = Trial("fly", "slim", "dubbed")
WATER = ("normal", "2", "run", "day")


def plan(drifts: int) -> list[int]:
    """Return whose each drift is, of an angler who does as he is told."""
    had, order = [0, 0], []
    for _ in range(drifts):
        side, left = turn(*had)
        assert 1 <= left <= 2 * TURN
        had[side] += 1
        order.append(side)
    return order


def test_turns__favour_neither_on_a_day_that_gets_better_or_worse() -> None:
    order = np.array(plan(8 * TURN))
    for end in (4 * TURN, 8 * TURN):
        when = np.arange(end)
        assert when[order[:end] == 0].mean() == when[order[:end] == 1].mean()
        assert (order[:end] == 0).sum() == (order[:end] == 1).sum()


@given(st.integers(0, 300), st.integers(0, 300))
def test_turns__bring_level_whoever_fished_otherwise(first: int, second: int) -> None:
    had = [first, second]
    for _ in range(abs(first - second) + 4 * TURN):
        had[turn(*had)[0]] += 1
    assert abs(had[0] - had[1]) <= 2 * TURN


def fished(each: int, takes: tuple[int, int]) -> Tally:
    """Return four outings with as many drifts of each, and something else beside."""
    rows = [Row(k, "bright", WATER, 3, 9, 0.2) for k in range(4)]
    for key, hits in zip(("slim", "dubbed"), takes, strict=True):
        rows += [Row(k, key, WATER, hits // 4, each // 4, 0.5) for k in range(4)]
    return Tally.of(rows)


def test_trial__says_nothing_until_each_has_had_enough_and_then_who_is_better() -> None:
    early = standing(TRIAL, fished(LEAST - 4, (0, 36)), {})
    assert (early.certainty, [one.drifts for one in early.sides]) == ("empty", [LEAST - 4] * 2)
    assert early.sentence.startswith(f"Not enough yet: 0 takes in {LEAST - 4} drifts against 36")
    done = standing(TRIAL, fished(160, (8, 48)), {})
    assert done.certainty == "sure"
    assert done.sentence.startswith("Dubbed does better than slim")
    alike = standing(TRIAL, fished(160, (16, 16)), {})
    assert alike.certainty == "open"


@given(st.lists(st.sampled_from(["slim", "dubbed", "other"]), max_size=60), st.integers(0, 60))
def test_turn__is_the_same_whoever_has_counted(flies: list[str], told: int) -> None:
    """The service up to some drift and the device from there on, or either alone; what is of neither side counts for none."""

    def counted(upto: list[str]) -> tuple[int, int]:
        return upto.count(TRIAL.first), upto.count(TRIAL.second)

    since = tuple(TiedSo("euro", fly, 14, 2.5) for fly in flies[told:])
    which, left = turn(*counted(flies))
    assert Going(TRIAL, *counted(flies[:told]), since).whose() == ((TRIAL.first, TRIAL.second)[which], left)


def test_trial__is_of_two_that_differ() -> None:
    with pytest.raises(Impossible, match="differ"):
        Trial("bead", "3.0", "3.0")
