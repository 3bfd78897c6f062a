"""What the coach begins with and what it will say: before the first drift, and after each likely run of them. Truth: the
coach's own word, drift for drift, and common practice, no source.
"""

import re
from dataclasses import replace

from deriva.core.choose.search import advise, splash
from deriva.core.choose.sweep import wide
from deriva.core.coach.ask import Asked, coached, word
from deriva.core.coach.belief import begin
from deriva.core.coach.card import search_card
from deriva.core.coach.next import first_setting
from deriva.core.coach.options import GROUPS, Gist
from deriva.core.model.logged import Fished, Outcome
from deriva.core.model.quantity import plain
from deriva.core.model.situation import Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.rigs.resolve import resolve

LIE = Situation(Water(1.1, 0.5, "run", 0.35, "cobble", 1.4, 11.0), Place(6.0))


def test_first_setting__is_for_the_depth_judged_within_inches_of_the_advice() -> None:
    question = Asked(LIE, "indicator")
    told = coached(question, wide).advice
    advised = next(one for one in advise(LIE, wide).usable if one.kind == "indicator").evaluation
    assert advised is not None
    assert told.action == "hold"
    assert abs(told.depth_setting_m - advised.rig.depth_setting_m) <= 0.31


def test_beginning__is_said_before_the_first_drift_and_once_followed_is_held() -> None:
    """What is begun with is nearer to the coach's own first setting than what was advised; so set, it is right."""
    pool = Situation(Water(1.6, 0.35, "pool", 0.4, "gravel", 0.8, 12.0), Place(8.0))
    light = Tuning("indicator", 1.57, 2.0)
    asked = Asked(pool, "indicator", (), light, hangs=False)
    told = word(asked, wide).advice
    assert told.action in ("deeper", "heavier")
    assert told.point_bead_mm is not None
    assert told.point_bead_mm > 2.0
    # its share of the drift is less than the rig was told of with, and it is said why
    assert "may run higher or lower than reckoned: so set, it is in the zone for" in plain(told.reason)
    # of what is on, with no drift: the paper card starts there
    assert coached(asked, wide).advice.action == "hold"
    begun = Tuning("indicator", told.depth_setting_m, told.point_bead_mm)
    for hangs in (True, False):
        assert word(Asked(pool, "indicator", (), begun, hangs=hangs), wide).advice.action == "hold"
    after_one: tuple[tuple[Tuning, Outcome, bool], ...] = (
        (light, "clean", True), (light, "tick", False), (begun, "clean", False),
    )  # fmt: skip
    for on, ends, stands in after_one:
        drift = Fished(on.depth_setting_m, on.point_bead_mm, ends)
        after = word(Asked(pool, "indicator", (drift,), on), wide).advice
        assert (after.action == told.action) == stands, (
            after
        )  # one clean drift takes nothing back, and changes nothing
        assert coached(Asked(pool, "indicator", (drift,)), wide).advice.action == "hold"
    tail = Situation(Water(0.55, 0.4, "tail_out", 0.1, "gravel", 2.0, 12.0), Place(8.0))
    brought = word(Asked(tail, "indicator", (), Tuning("indicator", 1.6, 4.0)), wide).advice
    assert brought.action == "shallower"  # it would lie on the bed
    assert brought.depth_setting_m < 0.7


def test_change__that_hangs_up_oftener_says_how_often() -> None:
    """Time in the zone that is paid for with flies is not praised alone; over sand nothing is paid."""
    said = {}
    for bed in ("sand", "cobble"):
        seam = Situation(Water(1.4, 0.52, "seam", 0.19, bed, 0.95, 8.0), Place(8.0))
        told = word(Asked(seam, "indicator", (), Tuning("indicator", 1.2, 3.0), hangs=False), wide).advice
        assert told.action != "hold"
        said[bed] = re.findall(r"hangs up on (\d+) % of drifts, not (\d+) %", plain(told.reason))
    assert said["sand"] == []
    ((then, now),) = said["cobble"]
    assert int(then) >= int(now) + 5


def test_beginning__is_nothing_that_would_be_fished_higher_again_for_its_hang_ups() -> None:
    """Common practice, no source: what hangs every two or three casts is shortened. In thin fast water the coach began so."""
    apron = Situation(Water(0.45, 0.75, "riffle", 0.05, "cobble", 0.95, 4.5), Place(5.0))
    gist = Gist(apron, begin(apron, "dry_dropper").gist(GROUPS))
    advised = resolve(Tuning("dry_dropper", 0.54, 2.0), apron)
    begun = first_setting(apron, advised)
    heavy = resolve(Tuning("dry_dropper", 0.54, 4.0), apron)
    assert gist.option(heavy).useful(gist.weights) > gist.option(begun).useful(gist.weights)  # it fishes best
    assert gist.hung(gist.option(heavy)) > 1 / 3 > gist.hung(gist.option(begun))
    assert begun != advised


def test_splash__is_priced_where_fish_are_wary_alone() -> None:
    """Heavy flies put down fish in clear, slow, thin water; in coloured water not (common practice, no source)."""
    clear = Situation(Water(0.5, 0.25, "tail_out", 0.05, "gravel", 3.0, 12.0), Place(8.0))
    coloured = replace(clear, water=replace(clear.water, clarity_m=0.3))
    light, heavy = (resolve(Tuning("dry_dropper", 0.42, bead), clear) for bead in (2.0, 4.0))
    assert splash(heavy, clear) > 0.05 > splash(light, clear)
    assert splash(heavy, coloured) == 0.0
    first = coached(Asked(clear, "dry_dropper"), wide).advice
    assert first.point_bead_mm == 2.0


def test_card__says_what_will_be_said_after_each_run_of_drifts() -> None:
    """Each step is the coach's own word after so many drifts, and the first that is no hold: of the rig as it is tied, and of
    what the coach would begin with.
    """
    on = Tuning("indicator", 1.5, 3.0)
    question = Asked(LIE, "indicator", (), on)
    begun = word(question, wide).advice
    assert begun.action == "shallower"
    for as_tied, setting, bead in (
        (True, 1.5, 3.0),
        (False, begun.depth_setting_m, begun.point_bead_mm),
    ):
        card = search_card(question, wide, as_tied=as_tied)
        assert [step.outcome for step in card] == ["clean", "tick", "hung"]
        set_so = replace(on, depth_setting_m=setting, point_bead_mm=bead)
        for step in card:
            run = tuple(Fished(setting, bead, step.outcome) for _ in range(step.times))
            for drifts in (run[:-1], run):
                if drifts:
                    told = word(replace(question, drifts=drifts, tuning=set_so), wide).advice
                    assert (told.action == "hold") == (drifts != run or step.action == "hold")
            assert (told.action, told.depth_setting_m, told.reason) == (
                step.action,
                step.depth_setting_m,
                step.reason,
            )
    card = search_card(question, wide, as_tied=True)
    ticked, changed = (next(step for step in card if step.outcome == ended) for ended in ("tick", "hung"))
    assert (ticked.times, ticked.action) == (4, "shallower")
    assert {step.outcome for step in changed.then} == {"clean", "tick", "hung"}
    assert (
        plain(changed.said) == f"2 hung up in a row: shallower to {changed.depth_setting_m:.2f} m with 3.0 mm"
    )
    assert all(not step.then for step in search_card(question, wide, deep=1))
