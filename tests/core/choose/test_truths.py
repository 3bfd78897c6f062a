"""Truths that no formula may break, whatever the water: properties over drawn situations."""

from dataclasses import replace
from itertools import pairwise

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from deriva.core.choose.candidates import families
from deriva.core.choose.evaluate import evaluate
from deriva.core.choose.judge import judge_rig
from deriva.core.choose.near import around
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.coach.options import settings_near
from deriva.core.drift.steady import steady_drift
from deriva.core.model.rig import RIG_KINDS, Rig, RigKind
from deriva.core.model.situation import Box, Place, Rules, School, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.rigs.assemble import assemble
from deriva.core.tackle.flies import Fly
from deriva.core.water.appetite import moves
from tests.core.situations import CLEAR_FLAT, FAR_POOL, POCKETS, RUN

DEPTHS, SPEEDS = st.floats(0.5, 2.0), st.floats(0.15, 1.2)


def rig_of(kind: RigKind, situation: Situation, bead_mm: float, setting: float) -> Rig:
    one = next(f for f in families(situation, kind, fine=False) if f.point.bead_mm == bead_mm)
    return replace(
        one, dropper=None, dropper_spacing_m=None, dropper_tag_m=0.0, depth_setting_m=round(setting, 2)
    )


def water(depth: float, speed: float) -> Situation:
    return replace(RUN, water=replace(RUN.water, depth_m=depth, surface_speed_m_s=speed))


@settings(max_examples=25, deadline=None)
@given(kind=st.sampled_from(["euro", "indicator"]), depth=DEPTHS, speed=SPEEDS, share=st.floats(0.7, 1.1))
def test_heavier__never_rides_higher(kind: RigKind, depth: float, speed: float, share: float) -> None:
    situation = water(depth, speed)
    settled = []
    for bead in (2.0, 2.5, 3.0, 3.5, 4.0):
        rig = replace(rig_of(kind, situation, bead, share * depth), tippet_x=5)
        if rig.float_ is not None:  # one float for all of them: it is the bead that is asked about
            rig = replace(rig, float_=rig_of(kind, situation, 4.0, share * depth).float_)
        settled.append(steady_drift(assemble(rig, situation.water.column())).body_depth_m[0])
    assert all(b >= a - 0.004 for a, b in pairwise(settled))


@settings(max_examples=25, deadline=None)
@given(depth=DEPTHS, speed=SPEEDS, faster=st.floats(1.05, 1.8))
def test_faster__never_asks_for_less_weight_at_equal_length(
    depth: float, speed: float, faster: float
) -> None:
    """Under a float: the fly of the same rig settles no deeper, so whatever weight is enough in the faster water is in the
    slower."""
    slow, fast = water(depth, speed), water(depth, speed * faster)
    rig = rig_of("indicator", fast, 3.0, depth)
    at = [steady_drift(assemble(rig, one.water.column())) for one in (slow, fast)]
    assume(not at[0].grounded)
    assert at[1].body_depth_m[0] <= at[0].body_depth_m[0] + 0.004


@settings(max_examples=25, deadline=None)
@given(depth=DEPTHS, speed=SPEEDS, deeper=st.floats(1.05, 1.6))
def test_deeper__never_asks_for_less_weight_at_equal_length(
    depth: float, speed: float, deeper: float
) -> None:
    """The same rig hangs no nearer to the bed of deeper water."""
    rig = rig_of("indicator", water(depth, speed), 3.0, 0.95 * depth)
    above = []
    for d in (depth, depth * deeper):
        steady = steady_drift(assemble(rig, water(d, speed).water.column()))
        above.append(d - steady.body_depth_m[0])
    assert above[1] >= above[0] - 0.004


@pytest.mark.parametrize("situation", [POCKETS, FAR_POOL, CLEAR_FLAT, RUN])
def test_stricter_rules__never_add_a_fly_nor_shot(situation: Situation) -> None:
    flies: dict[RigKind, list[int]] = {kind: [] for kind in RIG_KINDS}
    for most in (3, 2, 1):
        for added in (True, False):
            rules = Rules(max_flies=most, added_weight=added)
            for judged in advise(replace(situation, rules=rules), wide).usable:
                flies[judged.kind].append(judged.rig.flies)
                assert judged.rig.flies <= most
                assert added or judged.rig.shot_g == 0.0
    assert all(counts == sorted(counts, reverse=True) for counts in flies.values())


OWN = Box((), flies=tuple(Fly("tungsten nymph", 14, bead) for bead in (2.0, 2.5, 3.5)))


@pytest.mark.parametrize("box", [None, OWN], ids=["any box", "flies of one's own"])
@pytest.mark.parametrize("depth_m", [0.9, 1.4, 2.0])
@pytest.mark.parametrize("kind", RIG_KINDS)
def test_heaviest_fly__is_at_the_point_also_of_what_the_coach_and_a_device_try(
    kind: RigKind, depth_m: float, box: Box | None
) -> None:
    """The point fly is the heaviest of a rig (common practice, no source), unless the angler has it the other way."""
    here = replace(water(depth_m, 0.6), rules=Rules(max_flies=3), box=box)
    tried = list(families(here, kind))
    two = [one for one in tried if one.dropper is not None]
    assert {one.point.bead_mm for one in two} == {one.point.bead_mm for one in tried}  # the second fly stays
    heavy = replace(
        max(two, key=lambda one: one.dropper.bead_mm or 0.0 if one.dropper else 0.0), depth_setting_m=1.2
    )
    near = around([Tuning.of(heavy)]).find(kind, here)
    for one in [*tried, *settings_near(heavy, here), *near]:
        assert one.dropper is None or (one.dropper.bead_mm or 0.0) <= (one.point.bead_mm or 0.0)


def test_upper_fly__that_outweighs_the_point_by_hand_is_said_unless_it_is_fished_so() -> None:
    two = next(one for one in families(RUN, "euro") if one.dropper is not None)
    assert two.dropper is not None
    set_so = replace(two, depth_setting_m=1.2, dropper=replace(two.dropper, bead_mm=3.0))
    for bead, school, said in (
        (2.0, School(), True),
        (3.0, School(), False),
        (2.0, School(heavy="first"), False),
    ):
        rig = replace(set_so, point=replace(two.point, bead_mm=bead))
        judged = judge_rig(rig, replace(RUN, school=school))
        assert any("upper fly is heavier" in one for one in judged.warnings) == said


@given(st.floats(0.05, 5.0), st.floats(1.0, 3.0))
def test_worse_clarity__never_widens_a_lane(clarity: float, clearer: float) -> None:
    murky, clear = (
        moves(temperature_c=11.0, clarity_m=c, species="brown trout")
        for c in (clarity, min(10.0, clarity * clearer))
    )
    assert murky <= clear


@settings(max_examples=8, deadline=None)
@given(
    depth=st.floats(0.7, 1.8), speed=st.floats(0.2, 1.0), sd=st.floats(0.05, 0.15), wider=st.floats(1.5, 3.0)
)
def test_wider_uncertainty__never_raises_the_promised_share(
    depth: float, speed: float, sd: float, wider: float
) -> None:
    """Of the best rig there is: what cannot be known cannot be promised. A hundredth is left to the settings' steps."""
    sure = Situation(Water(depth, speed, "run", sd * depth, "gravel", 1.4, 11.0), Place(5.0))
    unsure = replace(sure, water=replace(sure.water, depth_sd_m=sd * wider * depth))

    def promised(situation: Situation) -> float:
        shares = [j.evaluation.zone_share for j in advise(situation, wide).usable]
        return max(shares)

    assert promised(unsure) <= promised(sure) + 0.02


def test_share__at_the_depth_believed_is_within_what_is_promised() -> None:
    for judged in advise(RUN, wide).usable:
        e = evaluate(judged.rig, RUN)
        assert e.zone_share_low <= e.zone_share <= e.zone_share_high
