"""Like with like. Truth: a published table, `statsmodels`, and differences planted to vanish."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from statsmodels.stats.contingency_tables import StratifiedTable

from deriva.core.learn.strata import Two, mantel_haenszel, mixed_up

ADMISSIONS = (
    (512, 313, 89, 19), (353, 207, 17, 8), (120, 205, 202, 391), (138, 279, 131, 244), (53, 138, 94, 299), (22, 351, 24, 317),
)  # fmt: skip
"""Six departments, men and women admitted and not: Bickel, Hammel & O'Connell 1975, Science 187 (from memory)."""


def test_mantel_haenszel__of_the_admissions_to_six_departments() -> None:
    """Men were admitted more often over all, odds 1.84; within departments not: 0.905, as is known of this table (memory)."""
    strata = [Two(a, a + b, c, c + d) for a, b, c, d in ADMISSIONS]
    within = mantel_haenszel(strata)
    assert within is not None
    assert within.ratio == pytest.approx(0.9047, abs=5e-5)
    found = mixed_up(strata)
    assert found is not None
    assert found.crude.ratio == pytest.approx(1.84, abs=0.005)
    assert found.left == "gone"
    assert found.stratum in {0, 1}  # the two that most men asked for, and that took most


cell = st.integers(1, 60)


@given(st.lists(st.tuples(cell, cell, cell, cell), min_size=1, max_size=6))
def test_mantel_haenszel__agrees_with_statsmodels(tables: list[tuple[int, int, int, int]]) -> None:
    theirs = StratifiedTable([np.array([[a, b], [c, d]], dtype=float) for a, b, c, d in tables])
    ours = mantel_haenszel([Two(a, a + b, c, c + d) for a, b, c, d in tables])
    assert ours is not None
    assert ours.ratio == pytest.approx(theirs.oddsratio_pooled)
    assert ours.log_variance == pytest.approx(theirs.logodds_pooled_se**2)
    assert ours.chi2 == pytest.approx(theirs.test_null_odds(correction=False).statistic, abs=1e-9)


def test_strata__without_both_or_without_takes_say_nothing() -> None:
    assert mantel_haenszel([Two(3, 10, 0, 0), Two(0, 0, 2, 9)]) is None
    assert mantel_haenszel([Two(0, 10, 2, 9)]) is None
    assert mixed_up([Two(3, 10, 2, 10)]) is None


def test_same_water__is_no_mixing_up() -> None:
    assert mixed_up([Two(30, 100, 10, 100), Two(15, 100, 5, 100)]) is None
