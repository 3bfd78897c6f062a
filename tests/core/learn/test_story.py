"""A stay told again, and which answers stand beside the rig."""

from dataclasses import replace

import pytest

from deriva.core.choose.sweep import wide
from deriva.core.coach.ask import Asked, word
from deriva.core.learn.dimensions import DimensionName
from deriva.core.learn.evidence import OF_THE_RIG, fits, is_of_use
from deriva.core.learn.foretell import tuning_of
from deriva.core.learn.question import Only, Question
from deriva.core.learn.story import MOST, Kept, Stay, Told, story
from deriva.core.model.logged import Fished, Outcome
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.rigs.resolve import resolve
from deriva.core.water.bottom import Bottom

LIE = Situation(Water(1.1, 0.5, "run", 0.35, "cobble", 1.4, 11.0))
EURO = Setup.of(resolve(Tuning("euro", 1.2, 3.0, flies=1), LIE))
FLOAT = Setup.of(resolve(Tuning("indicator", 1.3, 3.0, flies=1), LIE))
ENDS: tuple[Outcome, ...] = ("clean", "tick", "hung", "clean", "tick")


def drift(outcome: Outcome, setup: Setup = EURO) -> Fished:
    return Fished(setup.depth_setting_m, setup.point_bead_mm, outcome)


def test_story__says_after_each_drift_what_the_coach_says_of_those_so_far() -> None:
    told = [Told("euro", EURO, drift(one)) for one in ENDS]
    said = story(Stay(LIE, told), wide)
    assert len(said) == len(ENDS)
    for k, one in enumerate(said, 1):
        asked = Asked(LIE, "euro", tuple(each.drift for each in told[:k]), tuning_of("euro", EURO))
        now = word(asked, wide)
        assert (one.middle_m, one.reason) == (now.belief.depth(0.5), now.advice.reason)
        assert one.low_m < one.middle_m < one.high_m
    assert said[-1].middle_m < said[0].middle_m  # it touched: the lie is shallower than it was read


def test_story__knows_what_was_kept_of_a_lane_from_then_on() -> None:
    there = [Told("euro", EURO, replace(drift(one), lane=2)) for one in ENDS]
    kept = Bottom(2, 1, 0.9, 0.05, since_reading=True)
    said = story(Stay(LIE, there, [Kept(0, Bottom(2, 1, 1.6, 0.1)), Kept(3, kept)]), wide)
    begun = story(Stay(LIE, there, [Kept(0, Bottom(2, 1, 1.6, 0.1))]), wide)
    assert said[:3] == begun[:3]
    drifts = tuple(replace(one.drift, in_bottom=k < 3) for k, one in enumerate(there))
    now = word(Asked(LIE, "euro", drifts, tuning_of("euro", EURO), bottom=(kept,)), wide)
    assert (said[4].middle_m, said[4].reason) == (now.belief.depth(0.5), now.advice.reason)
    alone = word(Asked(LIE, "euro", drifts[3:], tuning_of("euro", EURO), bottom=(kept,)), wide)
    assert said[4].middle_m == alone.belief.depth(0.5)


def test_stay__what_is_known_of_the_bottom_holds_the_drifts_of_its_spot_and_of_where_one_stands() -> None:
    lanes = (1, 2, 3, 1, 2, 3)
    drifts = [Told("euro", EURO, replace(drift("tick"), lane=lane)) for lane in lanes]
    kept = [Kept(3, Bottom(2, 1, 0.9, 0.05, since_reading=True)), Kept(0, Bottom(3, 1, 1.6, 0.1))]

    def in_bottom(count: int, before: int = 0, learned: int = 0) -> list[bool]:
        stay = Stay(LIE, drifts, kept, before, learned)
        return [one.in_bottom for one in stay.asked(count).drifts]

    assert in_bottom(3) == [False] * 3  # nothing had been kept
    assert in_bottom(4) == [False, True, False, False]  # from the first lane
    assert in_bottom(5) == [True, True, True, False, False]  # from the second
    # read from the first two: of the lane that is read, and of where one stands there
    assert in_bottom(4, 2, 2) == [True, True, False, False]
    assert in_bottom(6, 2, 2) == [True, True, False, False, False, False]
    assert len(story(Stay(LIE, drifts, before=2, learned=2), wide)) == 4


def test_story__begins_anew_with_another_rig_and_ends_where_one_cannot_hang() -> None:
    told = [Told("euro", EURO, drift("hung")) for _ in range(3)]
    told += [Told("indicator", FLOAT, drift("clean", FLOAT))]
    said = story(Stay(LIE, told), wide)
    alone = story(Stay(LIE, told[3:]), wide)
    assert said[3] == alone[0]
    never = Told("dry_dropper", FLOAT, drift("clean", FLOAT))
    assert story(Stay(LIE, [*told, never, *told]), wide) == said
    assert len(story(Stay(LIE, told[:1] * (MOST + 5)), wide)) == MOST


def test_evidence__fits_only_what_is_known_to_be_so() -> None:
    now: dict[DimensionName, str] = {"flow": "below_normal", "kind": "pool", "lie": "a"}
    low = Only("flow", "below_normal")
    assert fits(Question("bead"), now)
    assert fits(Question("bead", only=(low, Only("kind", "pool"), Only("rig", "euro"))), now)
    assert not fits(Question("bead", only=(low, Only("kind", "run"))), now)
    assert not fits(Question("bead", only=(Only("clarity", "1"),)), now)  # how clear it is, is not known


@pytest.mark.parametrize("by", OF_THE_RIG)
def test_evidence__is_of_what_is_tied_on(by: str) -> None:
    assert is_of_use(Question(by))  # type: ignore[arg-type] # one of them
    assert not is_of_use(Question(by, measure="hung"))  # type: ignore[arg-type]
    assert not is_of_use(Question("month"))
