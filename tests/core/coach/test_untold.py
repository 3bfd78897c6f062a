"""Drifts that tell nothing of the water, and what is said of them instead."""

from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from deriva.core.choose.sweep import wide
from deriva.core.coach.ask import Asked, coached, word, written
from deriva.core.model.logged import Fished, Outcome
from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Place, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water

LIE = Situation(Water(1.1, 0.5, "run", 0.35, "cobble", 1.4, 11.0), Place(6.0))
OUTCOMES: tuple[Outcome, ...] = ("clean", "tick", "hung", "missed", "fish", "lost_fly")
SET = st.sampled_from([0.9, 1.1])


def held(setting: float, outcome: Outcome = "clean") -> Fished:
    return Fished(setting, 3.0, outcome, "slower", direction="down")


@given(
    drifts=st.lists(
        st.builds(Fished, SET, st.just(3.0), st.sampled_from(OUTCOMES), weed=st.booleans()), max_size=12
    )
)
@settings(max_examples=25)
def test_weed__on_a_hook_tells_nothing_of_bed_or_fish_and_again_and_again_where_to_go(
    drifts: list[Fished],
) -> None:
    """A strand of weed ends the drift; on every one: shorter, or the channel between (common practice, no source)."""
    on = Tuning("indicator", 1.0, 3.0)
    bare = tuple(one for one in drifts if not one.weed)
    said = written(coached(Asked(LIE, "indicator", tuple(drifts), on), wide))
    known = written(coached(Asked(LIE, "indicator", bare, on), wide))
    again = sum(one.weed for one in drifts[-3:])
    note = [f"Weed on {again} of the last 3 drifts: shorter, so that it passes over, or the channel between."]
    assert said["notes"] == [
        *(note if again > 1 else []),
        *coached(Asked(LIE, "indicator", bare, on), wide).notes,
    ]
    assert said | {"notes": None} == known | {"notes": None}


@given(
    before=st.lists(st.builds(Fished, SET, st.just(3.0), st.sampled_from(OUTCOMES)), max_size=8),
    since=st.integers(min_value=1, max_value=4),
    kind=st.sampled_from(("euro", "indicator", "dry_dropper")),
)
@settings(max_examples=30)
def test_float__that_its_line_holds_back_tells_nothing_and_is_to_be_fed_faster_first(
    before: list[Fished], since: int, kind: RigKind
) -> None:
    """Feed faster before judging depth (common practice, no source). A tight line has no float to be held."""
    on = Tuning(kind, 1.1, 3.0)
    known = coached(Asked(LIE, kind, tuple(before), on), wide)
    asked = Asked(LIE, kind, (*before, *[held(1.1)] * since), on)
    seen, done = coached(asked, wide), word(asked, wide)
    said = done.advice
    if kind == "euro":
        assert seen.belief != known.belief
        assert "Feed" not in said.reason
        return
    assert written(seen) == written(known)
    if since > 1:
        assert said.action not in ("deeper", "heavier")
    if since > 1 and said.action == "hold":
        assert said.reason.startswith("Fed downstream and slower than the bubbles")
        assert done.notes[0].endswith("feed faster.")
        assert (said.depth_setting_m, said.point_bead_mm) == (1.1, 3.0)


def test_float__held_back_that_touches_all_the_same_tells_how_shallow_it_is() -> None:
    on = Tuning("indicator", 1.1, 3.0)
    none = coached(Asked(LIE, "indicator", (), on), wide).belief
    touched = coached(Asked(LIE, "indicator", (held(1.1, "tick"), held(1.1, "hung")), on), wide).belief
    assert touched.depth(0.5) < none.depth(0.5)


def test_word__in_another_lane_or_with_another_rig_is_not_of_floats_that_were_held_back_before() -> None:
    asked = Asked(LIE, "indicator", (held(1.1), held(1.1)), Tuning("indicator", 1.1, 3.0))
    for other in (replace(asked, lane=2), replace(asked, tuning=Tuning("indicator", 1.0, 3.0))):
        assert "Fed downstream" in word(asked, wide).advice.reason
        assert "Fed downstream" not in word(other, wide).advice.reason


def test_word__is_of_the_rig_that_was_fished_last_whether_it_told_anything_or_not() -> None:
    """Without a whole rig told, what is on is what the last drift was fished with."""
    drifts = (Fished(0.9, 3.0, "tick"), held(0.7), held(0.7))
    said = word(Asked(LIE, "indicator", drifts), wide).advice
    assert (said.action, said.depth_setting_m, said.point_bead_mm) == ("hold", 0.7, 3.0)
