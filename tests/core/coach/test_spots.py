"""The coach from lane to lane. Truth: probability itself, and waters drawn as the belief says that they are."""

import math
import random
from dataclasses import replace

import pytest

from deriva.core.choose.sweep import wide
from deriva.core.coach.ask import Asked, coached, word
from deriva.core.coach.belief import OFF_WEIGHTS, RUNS_OFF, at_spot, begin, learn, respond, seen_from
from deriva.core.coach.next import Advised
from deriva.core.day.lies import judge_lie
from deriva.core.model.logged import Fished, LoggedDrift, Outcome
from deriva.core.model.situation import Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.ranges import LANE, STANCE
from deriva.core.rigs.resolve import resolve
from deriva.core.water.bottom import FIRST, Bottom, Spot, unlike

LIE = Situation(Water(1.1, 0.5, "run", 0.25, "cobble", 1.4, 11.0), Place(6.0))
NEXT, FAR = Spot(2, 1), Spot(5, 1)
RIGS = [resolve(Tuning("indicator", setting, 3.0, flies=1), LIE) for setting in (0.8, 1.1)]
Z80 = 1.2816
"""Eight of ten lie within so many standard deviations."""


def after(outcomes: tuple[Outcome, ...], fished: Spot, here: Spot) -> tuple[float, float]:
    """Return the belief's middle depth and its spread at a spot, after some drifts with the short rig at one."""
    there = at_spot(LIE, (), here)
    belief = learn(
        begin(there, "indicator"), there, [LoggedDrift(RIGS[0], one, spot=fished) for one in outcomes], here
    )
    return belief.depth(0.5), math.log(belief.depth(0.9) / belief.depth(0.1))


def test_belief__what_was_fished_in_another_lane_counts_and_the_less_the_further() -> None:
    ticks: tuple[Outcome, ...] = ("tick",) * 5
    here, beside, far = (after(ticks, FIRST, spot) for spot in (FIRST, NEXT, FAR))
    blank = after((), FIRST, NEXT)
    # a short rig that ticks: shallower than read; five ticks here or beside leave the same few depths
    assert max(here[0], beside[0]) < far[0] < blank[0] + 0.02
    assert here[1] < beside[1] < far[1]
    assert beside[1] < blank[1]
    assert after(ticks, NEXT, NEXT)[0] < beside[0]


def test_belief__knows_no_order_of_spots_and_ends_where_it_began() -> None:
    spots = [Spot(1), Spot(1, 3), Spot(3, 3), Spot(2, 4)]  # the last is as near to both before it
    drifts = [LoggedDrift(RIGS[k % 2], "tick" if k % 3 else "clean", spot=spots[k % 4]) for k in range(12)]
    there = at_spot(LIE, (), NEXT)
    one, back = (learn(begin(there, "indicator"), there, these, NEXT) for these in (drifts, drifts[::-1]))
    assert [cell.weight for cell in one.cells] == pytest.approx([cell.weight for cell in back.cells])
    assert sum(cell.weight for cell in one.cells) == pytest.approx(1.0)
    # where one stands is the first spot of the lie where nothing is said
    said = tuple(Fished(0.8, 3.0, "tick", lane=lane) for lane in (1, 1, None))
    unsaid = tuple(replace(one, lane=None) for one in said)
    answers = [coached(Asked(LIE, "indicator", these), wide) for these in (said, unsaid)]
    assert answers[0] == answers[1]


def test_belief__of_a_lane_stands_whatever_another_says_of_it() -> None:
    """A reading that says next to nothing, and drifts that leave one water of all: no lane beside is impossible."""
    vague = replace(LIE, water=replace(LIE.water, depth_m=0.3, depth_sd_m=2.0, speed_sd_m_s=2.0))
    beside = at_spot(vague, (), Spot(1, 2))
    cells = begin(beside, "indicator").cells
    certain = [0.0] + [-2000.0] * (len(cells) - 1)
    told = seen_from(certain, cells, unlike(FIRST, Spot(1, 2)))
    assert all(math.isfinite(one) for one in told)
    assert max(told) == told[0]


def test_belief__is_calibrated_from_one_lane_to_the_next() -> None:
    """Waters drawn as the belief has them, fished in one lane: the depth of the next lies within p10-p90 eight times in ten."""
    draw = random.Random(20)
    there = at_spot(LIE, (), NEXT)
    before = begin(there, "indicator")
    deep, fast = unlike(FIRST, NEXT)
    # one draw of the next lane is a cell of the belief; the lane fished differs from it as lanes do
    inside = 0
    waters = 200
    for _ in range(waters):
        cell = draw.choices(before.cells, [one.weight for one in before.cells])[0]
        depth = min(4.0, cell.depth_m * math.exp(draw.gauss(0.0, deep)))
        speed = min(2.0, cell.surface_speed_m_s * math.exp(draw.gauss(0.0, fast)))
        column = LIE.water.column(depth, speed)
        drifts: list[LoggedDrift] = []
        for k in range(8):
            does = respond(RIGS[k // 4], LIE, column, cell.runs_off)
            outcome: Outcome = draw.choices(("clean", "tick", "hung"), (does.clean, does.tick, does.hung))[0]
            drifts.append(LoggedDrift(RIGS[k // 4], outcome, spot=FIRST))
        belief = learn(before, there, drifts, NEXT)
        inside += belief.depth(0.1) <= cell.depth_m <= belief.depth(0.9)
    scatter = math.sqrt(waters * 0.8 * 0.2)
    assert abs(inside - 0.8 * waters) < 3.0 * scatter + 0.05 * waters  # cells have a width
    off = RUNS_OFF["indicator"]
    assert {one * off for one, _ in OFF_WEIGHTS} == {cell.runs_off for cell in before.cells}


def test_belief__is_calibrated_in_a_seventh_lane_after_six() -> None:
    """Lanes that wander, each fished: what two beside each other say of a third is not said twice (59 of 100, where it was)."""
    draw = random.Random(4)
    first, here = begin(LIE, "indicator").cells, Spot(7)
    there = at_spot(LIE, (), here)
    waters, inside = 150, 0
    for _ in range(waters):
        cell = draw.choices(first, [one.weight for one in first])[0]
        depth, speed, drifts = cell.depth_m, cell.surface_speed_m_s, list[LoggedDrift]()
        for lane in range(1, here.lane):
            column = LIE.water.column(depth, speed)
            for rig in RIGS:
                does = respond(rig, LIE, column, cell.runs_off)
                ends: list[Outcome] = draw.choices(
                    ("clean", "tick", "hung"), (does.clean, does.tick, does.hung), k=3
                )
                drifts += [LoggedDrift(rig, one, spot=Spot(lane)) for one in ends]
            deep, fast = unlike(Spot(lane), Spot(lane + 1))
            depth = min(4.0, depth * math.exp(draw.gauss(0.0, deep)))
            speed = min(2.0, speed * math.exp(draw.gauss(0.0, fast)))
        belief = learn(begin(there, "indicator"), there, drifts, here)
        inside += belief.depth(0.1) <= depth <= belief.depth(0.9)
    scatter = math.sqrt(waters * 0.8 * 0.2)
    assert abs(inside - 0.8 * waters) < 3.0 * scatter


def test_coach__takes_a_new_lane_for_what_it_was_found_to_be() -> None:
    """Ticks in a near lane of a metre; the next is known to be half as deep again: there one goes deeper, here not."""
    drifts = tuple(Fished(0.95, 3.0, "tick", lane=1) for _ in range(4))
    bottom = (Bottom(2, 1, 1.6, 0.1),)
    clean = tuple(Fished(0.95, 3.0, "clean", lane=2) for _ in range(2))
    here = coached(Asked(LIE, "indicator", drifts, bottom=bottom, lane=1), wide)
    there = coached(Asked(LIE, "indicator", (*drifts, *clean), bottom=bottom), wide)
    assert here.belief.depth(0.5) < 1.15
    assert 1.4 < there.belief.depth(0.5) < 1.8
    assert here.advice.action in ("hold", "shallower", "lighter")
    assert there.advice.action in ("deeper", "heavier")
    moved = coached(Asked(LIE, "indicator", drifts, bottom=bottom, lane=2), wide)
    assert moved.advice.action == "hold"  # until a drift has been fished there
    assert moved.thumb is None


def test_coach__knows_all_but_the_depth_of_the_drifts_that_a_depth_was_kept_from() -> None:
    """What hung, what was shown and how long one has been here is as it was; of the depth they say no more."""
    ends: tuple[Outcome, ...] = ("clean", "tick", "hung", "tick", "hung")
    drifts = tuple(Fished(1.15, 3.0, one, pattern="slim 14") for one in (*("clean",) * 5, *ends))
    before = coached(Asked(LIE, "indicator", drifts), wide)
    assert before.learned is not None
    kept = (Bottom(1, 1, before.learned.depth_m, before.learned.depth_sd_m, since_reading=True),)
    held = tuple(replace(one, in_bottom=True) for one in drifts)
    after = coached(Asked(LIE, "indicator", held, bottom=kept), wide)
    blank = coached(Asked(LIE, "indicator", bottom=kept), wide)
    assert after.belief == blank.belief
    assert after.learned is None  # until as many more say more
    assert before.advice.action == after.advice.action == "shallower"
    assert "Hung on 2 of the last 6" in after.advice.reason
    assert (after.thumb, after.notes[:-1]) == (before.thumb, before.notes[:-1])
    assert after.odds.in_vain == pytest.approx(before.odds.in_vain, rel=0.2)
    assert blank.odds.in_vain == 0.0


@pytest.mark.parametrize("outcome", ["clean", "tick"])
def test_word__in_a_lane_that_was_found_before_is_of_that_lane_before_the_first_drift_there(
    outcome: Outcome,
) -> None:
    """Half as deep again: deeper; shallower by a third: up, also where all that was fished before is in what was kept of it."""
    near = tuple(Fished(0.95, 3.0, outcome, lane=1) for _ in range(3))
    on = Tuning("indicator", 0.95, 3.0, flies=1)

    def said(drifts: tuple[Fished, ...], *bottom: Bottom) -> Advised:
        return word(Asked(LIE, "indicator", drifts, on, lane=2, bottom=bottom), wide).advice

    for drifts in ((), near):
        assert said(drifts, Bottom(2, 1, 1.6, 0.1)).action in ("deeper", "heavier")
    assert said(near, Bottom(3, 1, 1.6, 0.1)).action == "hold"  # nobody knows that of this one
    assert said((), Bottom(2, 1, 0.7, 0.06)).action in ("shallower", "lighter")
    clean = tuple(replace(one, outcome="clean", lane=2) for one in near)
    assert (
        said((*near, *clean[:1]), Bottom(2, 1, 0.95, 0.06)).action == "hold"
    )  # from then on as it is fished


def test_coach__a_fish_in_one_lane_holds_no_rig_in_another() -> None:
    took = tuple(Fished(0.8, 3.0, "fish", lane=1) for _ in range(2))
    deep = tuple(Fished(0.8, 3.0, "clean", lane=3) for _ in range(5))
    bottom = (Bottom(3, 1, 1.7, 0.1),)
    assert coached(Asked(LIE, "indicator", took), wide).advice.reason == "Taken so: fish the same again."
    assert coached(Asked(LIE, "indicator", (*took, *deep), bottom=bottom), wide).advice.action in (
        "deeper",
        "heavier",
    )


def test_lane__that_has_had_its_drifts_sends_one_on_near_to_far_and_then_up() -> None:
    """Fan out in lanes, then two steps upstream (common practice, no source)."""
    due, lanes = judge_lie(LIE).drifts, judge_lie(LIE).lanes
    assert lanes == 2
    share = due // lanes

    def note(lane: int, *outcomes: Outcome, setting: float = 1.2) -> str:
        drifts = tuple(Fished(setting, 3.0, one, lane=lane) for one in outcomes)
        return " ".join(coached(Asked(LIE, "indicator", drifts), wide).notes)

    clean: list[Outcome] = ["clean", "tick"] * 30
    assert "The next lane out" in note(1, *clean[:share])
    assert "Two steps up" in note(lanes, *clean[:share])
    assert "lane" not in note(1, *clean[: share - 1])
    assert "lane" not in note(1, "fish", *clean[: share - 1])
    assert "lane" not in note(1, *clean[:share], setting=0.3)  # never down


def test_lie__of_which_every_spot_is_known_is_coached() -> None:
    """Seasons of it: each says the less of where one stands, the further it is away."""
    spots = [
        Spot(lane, stance) for stance in range(1, int(STANCE.hi) + 1) for lane in range(1, int(LANE.hi) + 1)
    ]
    bottom = tuple(Bottom(one.lane, one.stance, 1.0 if one < Spot(7, 1) else 2.0, 0.1) for one in spots)
    for lane, depth_m in (2, 1.0), (11, 2.0):
        done = coached(Asked(LIE, "indicator", bottom=bottom, lane=lane, stance=50), wide)
        assert done.belief.depth(0.5) == pytest.approx(depth_m, rel=0.1)
