"""The near look, on a device, against the whole search: what was advised for one depth, set anew for another."""

import random
from dataclasses import replace

from deriva.core.choose.near import around
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Box, Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.rigs import hung as marches
from deriva.core.rigs.packed import along, pack, unpack
from deriva.core.rigs.resolve import resolve
from deriva.core.water.profile import BED_KS

READ_AGAIN = 5


def test_near__is_nearly_as_good_as_the_whole_search() -> None:
    """Waters read again up to half as deep and twice as deep: hardly anything is lost by looking no further."""
    luck = random.Random(3)
    lost: list[float] = []
    for _ in range(READ_AGAIN):
        depth, speed = luck.uniform(0.5, 1.6), luck.uniform(0.3, 1.0)
        read = Situation(Water(depth, speed, "run", None, luck.choice(tuple(BED_KS))), Place(6.0))
        tunings = [Tuning.of(one.rig) for one in advise(read, wide).usable]
        again = replace(read, water=replace(read.water, depth_m=depth * luck.uniform(0.6, 1.8)))
        near, whole = advise(again, around(tunings)).usable, advise(again, wide).usable
        assert not any(one.evaluation.steady.grounded for one in near)
        assert {one.kind for one in near} == {one.kind for one in whole}
        lost.append(1.0 - near[0].score / whole[0].score)
    assert sorted(lost)[READ_AGAIN // 2] < 0.06
    assert max(lost) < 0.25


def test_near__of_a_kind_that_was_not_advised_looks_at_all_there_is() -> None:
    read = Situation(Water(0.8, 0.5), Place(6.0))
    only_euro = [Tuning("euro", 0.9, 3.0)]
    assert {one.kind for one in advise(read, around(only_euro)).usable} == {
        one.kind for one in advise(read, wide).usable
    }


def test_near__is_the_same_whatever_was_asked_before_and_whatever_was_forgotten() -> None:
    """What a device marched of one rig, for a comparison or another lie, says nothing of which rigs there are; nor does it
    when a part of what came along was let go.
    """
    lie = Situation(Water(0.8, 0.5))
    tied = [Tuning("indicator", 1.0, 2.5)]

    def forget() -> None:
        for remembered in (marches.family, marches._family, marches._mixed):
            remembered.cache_clear()

    def advised(read_as: Situation | None = None) -> list[Rig]:
        return [one.rig for one in advise(lie, around(tied, read_as)).usable]

    forget()
    alone = advised()
    forget()
    heavy = resolve(replace(tied[0], point_bead_mm=4.0), lie)
    assert marches.hung(heavy, lie.water, lie.water.column()) is not None
    assert advised() == alone
    sent = pack(lie, tied)
    forget()
    unpack(sent)
    assert advised(lie) == advised() == alone
    light = resolve(tied[0], lie)
    marches.family(light, lie.water.bed, lie.water.temperature_c).marches.clear()
    assert advised(lie) == alone
    forget()
    assert advised(lie) == alone


def test_near__leaves_what_did_not_come_along() -> None:
    """A bead that the box had not when the lie was packed, and is in it now, would have to be marched first."""
    read = Situation(Water(1.2, 1.1), box=Box((2.5, 3.0), (16.0,), ()))
    now = replace(read, box=Box((2.5, 3.0, 3.5), (16.0,), ()))
    tied = (Tuning("indicator", 1.0, 2.5),)
    came = along(read, tied)
    fits = {
        bead: came.has(resolve(replace(tied[0], point_bead_mm=bead), now), now.water)
        for bead in (2.5, 3.0, 3.5)
    }
    assert fits == {2.5: True, 3.0: True, 3.5: False}
    assert not came.has(resolve(tied[0], now), replace(now.water, surface_speed_m_s=0.4))

    def beads(read_as: Situation | None) -> set[float | None]:
        return {rig.point.bead_mm for rig in around(tied, read_as).find("indicator", now)}

    assert beads(None) == {3.5}  # the best of all, for whoever has the time
    assert beads(read) == {3.0}
