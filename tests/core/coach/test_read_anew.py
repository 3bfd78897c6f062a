"""The coach after a lie was read anew while one fishes there. Truth: waters drawn as the belief says that they are."""

import random
from dataclasses import replace
from pathlib import Path

from deriva.core.choose.sweep import wide
from deriva.core.coach.ask import Asked, word
from deriva.core.coach.belief import CHANGED, begin, learn, respond
from deriva.core.coach.next import Coaching
from deriva.core.model.logged import Fished, LoggedDrift, Outcome
from deriva.core.model.situation import Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import SAME_DEPTH, AsRead, Water
from deriva.core.rigs.resolve import resolve

LIE = Situation(Water(1.2, 0.5, "run", 0.18, "cobble", 1.4, 11.0), Place(6.0))
BEFORE = AsRead(0.8, 0.4)
ENDS: tuple[Outcome, ...] = ("clean", "tick", "hung", "clean", "tick", "clean", "tick", "hung")
CLEAN: Outcome = "clean"


def said(drifts: tuple[Fished, ...], setting_m: float) -> Coaching:
    return word(Asked(LIE, "indicator", drifts, Tuning("indicator", setting_m, 3.0, flies=1)), wide)


def test_word__after_the_water_has_risen_is_of_what_was_read_and_begins_anew() -> None:
    """Eight drifts that reach the bed of a lie of 0.8 m, which is then read to be 1.2 m deep."""
    before = tuple(Fished(0.85, 3.0, one) for one in ENDS)
    blank = said((), 0.85)
    for after in (said(tuple(replace(one, read=BEFORE) for one in before[:k]), 0.85) for k in (2, 4, 8)):
        assert abs(after.belief.depth(0.5) - blank.belief.depth(0.5)) < 0.1
        assert (after.fished, after.thumb) == (0, None)
        assert after.advice.action == blank.advice.action == "deeper"
        assert "lower water" in after.notes[-1]
    assert after.odds.in_vain > 0.0  # what was shown, was shown
    # as if they had been fished in the water of now, the bed would be where nobody has read it
    assert said(before, 0.85).belief.depth(0.9) < 1.1


def test_word__where_the_lie_was_only_read_badly_goes_on_as_it_is_fished() -> None:
    """Never down where 0.8 m was read, and down where 1.2 m is: it was as deep all the while."""
    down: tuple[Outcome, ...] = ("tick", "clean", "tick")
    ends = [*((setting, CLEAN) for setting in (0.85, 1.0) for _ in range(4)), *((1.2, one) for one in down)]
    drifts = tuple(Fished(setting, 3.0, outcome, read=BEFORE) for setting, outcome in ends)
    done = said(drifts, 1.2)
    assert done.fished == len(drifts)
    assert done.advice.action == "hold"
    assert 1.1 < done.belief.depth(0.5) < 1.3


def test_reading__of_the_same_depth_is_the_same_water() -> None:
    """On the device too: there another stop begins where the water is another."""
    bank = Path(__file__).parents[3] / "web/src/features/bank/useBank.ts"
    assert f"const SAME_DEPTH = {SAME_DEPTH};" in bank.read_text()
    drifts = tuple(Fished(1.2, 3.0, one) for one in ENDS)
    again = tuple(replace(one, read=AsRead(1.17, 0.4)) for one in drifts)
    assert said(drifts, 1.2) == said(again, 1.2)


def test_belief__is_calibrated_whether_the_water_has_changed_or_the_reading() -> None:
    """The depth lies within p10-p90 eight times in ten, and what is taken to have changed mostly has."""
    draw = random.Random(21)
    rigs = [resolve(Tuning("indicator", setting, 3.0, flies=1), LIE) for setting in (0.85, 1.1)]
    prior = begin(LIE, "indicator")
    then = BEFORE.before(LIE.water)
    assert then is not None
    was = replace(LIE, water=then.of(LIE.water))
    inside = right = 0
    waters = 200
    for _ in range(waters):
        cell = draw.choices(prior.cells, [one.weight for one in prior.cells])[0]
        changed = draw.random() < CHANGED
        depth, speed = cell.depth_m, cell.surface_speed_m_s
        there = was if changed else LIE
        if changed:
            depth, speed = depth * then.depth, speed * then.speed
        drifts: list[LoggedDrift] = []
        for k in range(8):
            does = respond(rigs[k // 4], there, there.water.column(depth, speed), cell.runs_off)
            outcome: Outcome = draw.choices(("clean", "tick", "hung"), (does.clean, does.tick, does.hung))[0]
            drifts.append(LoggedDrift(rigs[k // 4], outcome, then=then))
        belief = learn(prior, LIE, drifts)
        inside += belief.depth(0.1) <= cell.depth_m <= belief.depth(0.9)
        right += (then in belief.changed) == changed
    assert (
        abs(inside - 0.8 * waters) < 3.0 * (waters * 0.8 * 0.2) ** 0.5 + 0.05 * waters
    )  # cells have a width
    assert right > 0.75 * waters
