"""Answers in words. Truth: logs in which something was planted, and arithmetic."""

from collections.abc import Sequence

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.core.errors import DerivaError
from deriva.core.learn.answer import Row, Tally, answer
from deriva.core.learn.dimensions import DIMENSIONS, DimensionName
from deriva.core.learn.effort import minutes
from deriva.core.learn.here import Here, here
from deriva.core.learn.question import Only, Question
from deriva.core.learn.suggest import suggested
from deriva.core.model.quantity import plain

LOW, HIGH = "below_normal", "above_normal"


def season(
    odds: dict[tuple[str, str], float],
    shares: dict[str, dict[str, float]],
    *,
    outings: int = 80,
    seed: int = 1,
) -> Tally:
    """Return what was fished in a season: log-odds by bead and flow, and how often each bead is fished at each flow."""
    rng = np.random.default_rng(seed)
    rows: list[Row] = []
    for outing in range(outings):
        flow = str(rng.choice(list(shares)))
        day = rng.normal(0.0, 0.3)
        for _ in range(3):
            bead = str(rng.choice(list(shares[flow]), p=list(shares[flow].values())))
            drifts = int(rng.integers(15, 30))
            takes = int(rng.binomial(drifts, 1.0 / (1.0 + np.exp(-(odds[bead, flow] + day)))))
            rows.append(Row(outing, bead, (flow, "3", "run", "day"), takes, drifts, drifts * 1.5 / 60.0))
    return Tally.of(rows)


APART = {LOW: {"2.5": 0.5, "3.5": 0.5}, HIGH: {"2.5": 0.5, "3.5": 0.5}}
MOSTLY = {LOW: {"2.5": 0.85, "3.5": 0.15}, HIGH: {"2.5": 0.15, "3.5": 0.85}}


@pytest.mark.parametrize("per", ["drift", "hour"])
def test_better_bead__is_said_with_how_sure_that_is(per: str) -> None:
    odds = {
        (bead, flow): -2.4 + (1.0 if bead == "2.5" else 0.0)
        for bead in ("2.5", "3.5")
        for flow in (LOW, HIGH)
    }
    question = Question("bead", per="hour" if per == "hour" else "drift")
    found = answer(question, season(odds, APART), {})
    assert (found.certainty, found.best, found.other) == ("sure", "2.5", "3.5")
    assert plain(found.sentence).startswith("A bead of 2.5 mm does better than a bead of 3.5 mm: ")
    assert found.confounds == ()
    assert sum(part.drifts for part in found.parts) == sum(season(odds, APART).drifts)
    assert f"{sum(part.drifts for part in found.parts)} drifts" in found.rests_on


def test_heavy_bead__that_was_fished_in_high_water_is_not_blamed_for_it() -> None:
    """Takes are fewer in high water with either bead; the heavy one was mostly fished there."""
    odds = {
        (bead, flow): -1.8 - (1.3 if flow == HIGH else 0.0) for bead in ("2.5", "3.5") for flow in (LOW, HIGH)
    }
    found = answer(Question("bead"), season(odds, MOSTLY, outings=150), {})
    light, heavy = found.parts
    assert light.rate.low > heavy.rate.median  # as it was fished, it looks so
    assert found.certainty != "sure"
    (said,) = found.confounds
    assert "above normal flow" in said or "below normal flow" in said
    assert said.endswith("within the same flow the difference is gone.")


def test_thin_log__says_how_many_drifts_would_tell_and_fewer_as_it_grows() -> None:
    odds = {
        (bead, flow): -2.4 + (0.6 if bead == "2.5" else 0.0)
        for bead in ("2.5", "3.5")
        for flow in (LOW, HIGH)
    }
    thin, more = (answer(Question("bead"), season(odds, APART, outings=n, seed=4), {}) for n in (8, 30))
    assert thin.certainty in {"open", "likely"}
    assert thin.more_drifts is not None
    assert f"About {thin.more_drifts} drifts more would tell." in thin.sentence
    assert more.certainty == "sure" or (more.more_drifts or 0) < thin.more_drifts


def test_hang_ups__fewer_are_better() -> None:
    odds = {
        (bead, flow): -2.4 + (1.0 if bead == "3.5" else 0.0)
        for bead in ("2.5", "3.5")
        for flow in (LOW, HIGH)
    }
    found = answer(Question("bead", measure="hung"), season(odds, APART), {})
    assert found.best == "2.5"
    assert "hangs less than" in found.sentence


def test_nothing_and_one_part__are_said_to_be_so() -> None:
    assert answer(Question("rig"), Tally.of([]), {}).certainty == "empty"
    never = Row(0, "euro", ("normal", "3", "run", "day"), 0, 20, 0.0)
    assert answer(Question("rig", per="zone_hour"), Tally.of([never]), {}).certainty == "empty"
    alone = answer(
        Question("lie"), Tally.of([Row(0, "x", ("normal", "3", "day"), 1, 20, 0.5)]), {"x": "Ash run"}
    )
    assert alone.certainty == "alone"
    assert alone.sentence.startswith("All of it was Ash run: ")


def test_flies__past_the_twentieth_are_left_out_and_counted() -> None:
    rows = [Row(k, f"fly {k}", ("normal", "3", "run", "day"), 1, 10 + k, 0.3) for k in range(26)]
    found = answer(Question("fly"), Tally.of(rows), {})
    assert (len(found.parts), found.left_out) == (20, 6)
    assert "fly 0" not in {part.key for part in found.parts}


def test_questions__are_words_and_those_worth_asking_have_two_parts() -> None:
    asked = Question("bead", measure="fish", per="hour", only=(Only("flow", LOW), Only("temperature", "0")))
    assert (
        plain(asked.words())
        == "How many fish an hour, by bead, flow below normal, water temperature under 6 °C?"
    )
    assert suggested({}) == ()
    found = suggested(
        {"bead": {"2.5": 80, "3.0": 41, "4.0": 3}, "rig": {"euro": 900, "indicator": 39}, "flow": {LOW: 200}}
    )
    assert {one.by for one in found} == {"bead"}
    assert found[0].only == (Only("flow", LOW),)


def spell(outing: int, flow: str, temperature: str, light: str, drifts: int, kind: str = "run") -> Row:
    return Row(outing, "euro", (flow, temperature, kind, light), drifts // 10, drifts, drifts / 40.0)


def looked_back(
    at_lie: Sequence[Row], of_kind: Sequence[Row], now: dict[DimensionName, str], names: dict[str, str]
) -> Here | None:
    places = [(Only("lie", "a"), Tally.of(at_lie)), (Only("kind", "run"), Tally.of(of_kind))]
    return here(places, now, names)


def test_here__is_what_was_fished_in_the_water_most_like_today_s_that_was_fished_enough() -> None:
    now: dict[DimensionName, str] = {
        "flow": LOW,
        "temperature": DIMENSIONS["temperature"].part(12.0),
        "light": "day",
    }
    warm = spell(1, LOW, "3", "day", 50)
    cold = spell(2, LOW, "1", "day", 30)
    dusk = spell(3, LOW, "1", "dusk", 400)
    same = looked_back([warm, cold, dusk], [], now, {"a": "Ash run"})
    assert same is not None
    assert (same.drifts, same.outings, same.takes) == (50, 1, 5)
    assert plain(same.sentence).startswith("Ash run, below normal flow, water 12 °C to 15 °C, daylight: ")
    assert [one.dimension for one in same.question.only] == ["lie", "flow", "temperature", "light"]
    wider = looked_back([spell(1, LOW, "3", "day", 20), cold, dusk], [], now, {"a": "Ash run"})
    assert wider is not None
    assert (wider.drifts, wider.question.only[-1].dimension) == (50, "light")  # whatever the warmth
    elsewhere = looked_back([spell(1, LOW, "3", "day", 5)], [spell(9, LOW, "3", "day", 90)], now, {})
    assert elsewhere is not None
    assert elsewhere.sentence.startswith("The run, ")
    little = looked_back([spell(1, LOW, "3", "day", 5)], [], now, {"a": "Ash run"})
    assert little is not None
    assert little.drifts == 5
    assert looked_back([], [], now, {}) is None


def test_parts__of_what_is_measured_meet_at_their_edges() -> None:
    hour, share = DIMENSIONS["hour"], DIMENSIONS["setting"]
    assert [hour.label(part, {}) for part in hour.parts()][:2] == ["before 7", "7 to 10"]
    assert share.label(share.parts()[-1], {}) == "2 and more"
    assert DIMENSIONS["bead"].ordered(["10.0", "2.5"]) == ("2.5", "10.0")


def test_minutes__are_from_drift_to_drift_without_the_pauses() -> None:
    assert minutes([]) == ()
    assert minutes([100.0, 160.0, 190.0, 4000.0]) == (1.0, 1.0, 0.5, 10.0)


@given(st.sampled_from(sorted(DIMENSIONS)), st.text(min_size=1, max_size=8) | st.integers(-2, 20).map(str))
def test_part__of_anything_is_called_something_or_refused_by_name(name: DimensionName, part: str) -> None:
    dimension = DIMENSIONS[name]
    assert dimension.label(part, {})
    if dimension.has(part):
        return
    with pytest.raises(DerivaError) as refused:
        Only(name, part)
    assert refused.value.field == "part"
