"""What practitioners would do in situations written down before the computation was asked: rig, ranges of its setting, and the
next step after some drifts (tests/reference/practice.json; common practice, no source).
"""

import json
from pathlib import Path
from typing import Any

import pytest

from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.coach.ask import Asked, coached
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.read import read_noun

CASES: dict[str, list[dict[str, Any]]] = json.loads(
    (Path(__file__).parents[1] / "reference" / "practice.json").read_text(encoding="utf-8")
)

BELIEVED = {
    (
        "hole-double-nymph",
        "indicator.point_bead_mm",
    ): "two 2.0 mm flies settle at 1.4 of 1.6 m in water this slow",
}
"""Where the computation is believed instead, and why (docs/decisions/0010)."""


@pytest.mark.parametrize("case", CASES["advise"], ids=lambda one: one["id"])
def test_rig__is_the_one_that_is_taken_there_and_set_as_it_is(case: dict[str, Any]) -> None:
    usable = advise(read_noun(Situation, case["in"]), wide).usable
    assert usable[0].kind in case["top"], case["why"]
    setups = {one.kind: Setup.of(one.rig, lead_m=one.evaluation.lead_m) for one in usable}
    for what, (low, high) in case["range"].items():
        rig, name = what.split(".")
        if (case["id"], what) not in BELIEVED:
            value = getattr(setups[rig], name)
            assert value is not None
            assert low <= value <= high, f"{what} = {value}: {case['why']}"


@pytest.mark.parametrize("case", CASES["coach"], ids=lambda one: one["id"])
def test_next_step__is_the_one_that_is_taken_then(case: dict[str, Any]) -> None:
    assert coached(read_noun(Asked, case["in"]), wide).advice.action in case["expect"], case["why"]
