"""Mending and the why of a drift in words. Truth: the trade's way to mend (common practice, no source)."""

from dataclasses import replace

import pytest

from deriva.core.choose.evaluate import evaluate
from deriva.core.choose.mends import mend_advice
from deriva.core.model.quantity import plain
from deriva.core.model.rig import RIG_KINDS, RigKind
from deriva.core.model.situation import Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water, WaterKind
from deriva.core.rigs.resolve import resolve
from deriva.core.say.why import explain_drift

GLIDE = Situation(Water(1.0, 0.4, "glide"), Place(9.0))


@pytest.mark.parametrize("kind", RIG_KINDS)
def test_mends__are_a_float_s_and_a_tight_line_lies_on_no_water(kind: RigKind) -> None:
    evaluation = evaluate(resolve(Tuning(kind, 0.9, 2.0), GLIDE), GLIDE)
    found = mend_advice(evaluation, GLIDE)
    assert (found is None) == (kind == "euro")
    whys = explain_drift(evaluation, GLIDE)
    assert len({why.number for why in whys}) == len(whys) == (5 if kind == "euro" else 4)
    assert all(why.how and why.source and why.change and why.inputs for why in whys)


@pytest.mark.parametrize(("swirling", "smooth"), [("pocket", "glide"), ("riffle", "pool"), ("eddy", "run")])
def test_mends__come_sooner_where_the_currents_differ_more(swirling: WaterKind, smooth: WaterKind) -> None:
    soon, late = (
        mend_advice(evaluate(resolve(Tuning("indicator", 0.9, 2.0), there), there), there)
        for there in (replace(GLIDE, water=replace(GLIDE.water, kind=kind)) for kind in (swirling, smooth))
    )
    assert soon is not None
    assert late is not None
    assert (soon[0].drags_after_s or 0.0) < (late[0].drags_after_s or 0.0)
    assert soon[0].way == late[0].way == "upstream"  # the water under the line is the faster
    assert "mend upstream" in plain(soon[1])
    assert "strip at" in plain(soon[1])


def test_mends__one_stands_further_off_and_has_longer() -> None:
    """The wider the lane under the line, the flatter its belly."""
    near, far = (
        mend_advice(evaluate(resolve(Tuning("indicator", 0.9, 2.0), there), there), there)
        for there in (replace(GLIDE, place=Place(metres)) for metres in (4.0, 14.0))
    )
    assert near is not None
    assert far is not None
    assert (near[0].drags_after_s or 0.0) < (far[0].drags_after_s or 0.0)
