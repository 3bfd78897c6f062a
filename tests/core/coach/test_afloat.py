"""What the coach says to tie on hangs from the float or dry that it names, or from the one that is on."""

from dataclasses import replace

import pytest

from deriva.core.choose.sweep import wide
from deriva.core.coach.ask import Asked, word, written
from deriva.core.coach.card import Step, search_card
from deriva.core.errors import Impossible
from deriva.core.model.logged import Fished
from deriva.core.model.quantity import plain
from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.rigs.resolve import resolve

WATERS = (Water(1.1, 0.8, "run"), Water(1.0, 0.5, "glide"), Water(0.8, 0.7, "riffle"), Water(1.3, 0.6, "run"))


@pytest.mark.parametrize("bead", [2.0, 2.5])
@pytest.mark.parametrize("water", WATERS, ids=lambda one: f"{one.kind}-{one.depth_m}")
@pytest.mark.parametrize("kind", ["indicator", "dry_dropper"])
def test_word__can_be_tied_on_as_it_is_said(kind: RigKind, water: Water, bead: float) -> None:
    here = Situation(water, Place(8.0))
    on = Tuning.of(resolve(Tuning(kind, round(0.9 * water.depth_m, 2), bead), here))
    for fished in (0, 6, 12):
        drifts = (Fished(on.depth_setting_m, bead, "clean"),) * fished
        said = word(Asked(here, kind, drifts, on), wide)
        to = said.advice
        if to.rig != kind:
            continue
        then = replace(on, depth_setting_m=to.depth_setting_m, point_bead_mm=to.point_bead_mm)
        resolve(replace(then, float_=to.float_ or on.float_), here)  # raises where it would go under
        if to.float_ is not None:
            with pytest.raises(Impossible, match="carries"):
                resolve(then, here)
            assert f"the {to.float_}." in to.reason
            assert on.float_ is not None
            assert on.float_ in to.reason


def test_word__names_a_larger_dry_for_a_heavier_bead_and_none_where_the_one_on_will_do() -> None:
    run = Situation(WATERS[-1], Place(8.0))
    small = Tuning.of(resolve(Tuning("dry_dropper", 1.17, 2.0), run))
    told = word(Asked(run, "dry_dropper", (), small), wide)
    assert told.advice.point_bead_mm == 4.0
    assert (small.float_, told.advice.float_) == ("size 12 hair-wing caddis", "size 8 foam stonefly")
    assert written(told)["advice"]["float"] == "size 8 foam stonefly"  # type: ignore[index]
    again = word(Asked(run, "dry_dropper", (), replace(small, float_="size 8 foam stonefly")), wide)
    assert again.advice.point_bead_mm == 4.0
    assert again.advice.float_ is None
    unheard = word(Asked(run, "dry_dropper", (), replace(small, float_="a cork")), wide)
    assert unheard.advice.point_bead_mm == 4.0
    assert "cork" not in unheard.advice.reason


@pytest.mark.parametrize("kind", ["indicator", "dry_dropper"])
def test_card__names_the_float_or_dry_by_which_each_step_can_be_tied_on(kind: RigKind) -> None:
    run = Situation(WATERS[-1], Place(8.0))
    on = Tuning.of(resolve(Tuning(kind, 1.23, 2.0), run))
    waiting = [(one, on.float_) for one in search_card(Asked(run, kind, (), on), wide, as_tied=True)]
    named = list[Step]()
    while waiting:
        step, hangs = waiting.pop()
        then = replace(on, depth_setting_m=step.depth_setting_m, point_bead_mm=step.point_bead_mm)
        resolve(replace(then, float_=step.float_ or hangs), run)  # raises where it would go under
        if step.float_ is not None:
            named.append(step)
            with pytest.raises(Impossible, match="carries"):
                resolve(replace(then, float_=hangs), run)
        waiting += [(one, step.float_ or hangs) for one in step.then]
    assert named
    assert all(plain(one.said).endswith(f" mm and the {one.float_}") for one in named)
