"""How right it was, from what was logged: depths carried and found, depths by eye and found, touches, lengths corrected."""

from datetime import UTC, datetime, timedelta
from itertools import product

import psycopg
import pytest

from deriva.core.coach.ask import Asked
from deriva.core.model.logged import TOUCHES, Direction, Fished, Outcome, Pace
from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Place, Situation
from deriva.core.model.water import Water
from tests.service.anglers import Bank, at, count

DAY = datetime(2026, 5, 1, 12, tzinfo=UTC)


def eyes(bank: Bank, pairs: int, off: float) -> None:
    """Judge a depth by eye, and measure it an hour after, on some days."""
    for k in range(pairs):
        for hours, how, depth in ((0, "eye", 1.0), (1, "staff", 1.0 / off)):
            when = (DAY + timedelta(days=k, hours=hours)).isoformat()
            bank.kept("readings", bank.reading(at=when, depth_m=depth, depth_how=how))


def test_eye__is_reckoned_with_once_the_angler_says_so(bank: Bank, rows: psycopg.Connection) -> None:
    rows.execute("delete from reading")
    before = bank.client.get("/api/learn/calibration").json()
    assert before["eye"] is None
    assert bank.client.put("/api/learn/eye", json={"own": True}).status_code == 422
    eyes(bank, 8, off=1.8)
    found = bank.client.get("/api/learn/calibration").json()
    assert found["eye"]["pairs"] == 8
    assert found["by_eye"]["inside"] == 0
    assert "80 % too much" in found["eye"]["words"]
    assert 0.25 < found["eye"]["error"] < 0.6
    assert found["own_error"] is None
    told = bank.client.put("/api/learn/eye", json={"own": True}).json()
    assert told["eye_error"] == found["eye"]["error"]

    def spread(how: str) -> float:
        row = bank.kept("readings", bank.reading(at=at(0), depth_m=1.0, depth_how=how))
        read = rows.execute("select depth_sd_m from reading where id = %s", (row,)).fetchone()
        assert read is not None
        return float(read[0])

    assert spread("eye") == pytest.approx(found["eye"]["error"])
    assert spread("staff") == 0.05
    bank.client.put("/api/learn/eye", json={"own": False})
    assert spread("eye") == 0.25


def test_carried_depths__are_held_against_those_measured_at_another_flow(
    bank: Bank, rows: psycopg.Connection
) -> None:
    rows.execute("delete from reading")
    for k in range(9):
        when = (DAY + timedelta(days=k)).isoformat()
        flow = 2.0 + 0.5 * k
        depth = 0.8 * (flow / 2.0) ** 0.4
        row = bank.kept("readings", bank.reading(at=when, depth_m=depth, depth_how="staff"))
        rows.execute("update reading set flow_m3_s = %s where id = %s", (flow, row))
    found = bank.client.get("/api/learn/calibration").json()["carried"]
    assert found["pairs"] == 8
    assert found["inside"] == 8  # a lie that follows its rating to the letter
    assert found["off"]["median"] == pytest.approx(1.0, abs=0.05)


def test_settings__are_said_once_what_they_do_and_can_be_asked_by(
    bank: Bank, rows: psycopg.Connection
) -> None:
    outing, stop, setting = bank.begin()
    for k in range(30):
        bank.kept("drifts", bank.drift(setting, at=at(3 + k), outcome="tick" if k % 3 == 0 else "clean"))
    heavy = bank.setting(stop, at=at(50), point_bead_mm=None)
    heavy["setup"] = heavy["setup"] | {"point_bead_mm": None, "flies": 3}  # three flies: not on this beat
    bank.kept("drifts", bank.drift(bank.kept("settings", heavy), at=at(51), outcome="fish"))
    bank.kept("drifts", bank.drift(bank.kept("settings", bank.dry(stop, at=at(60))), at=at(61)))
    asked = {"by": "zone", "measure": "takes", "per": "drift", "only": []}
    assert bank.client.post("/api/learn/answers", json=asked).json()["parts"] == []
    assert bank.client.get("/api/learn/calibration").json()["settings"] == 2
    for ranked in (0, 2, 2):  # what they do before how their rigs stood
        told = bank.client.post("/api/learn/foretold").json()
        assert told == {"said": 2, "ranked": ranked, "settings": 2}
    assert count(rows, "foretold") == 2
    said = rows.execute("select in_zone, tick from foretold where setting_id = %s", (setting,)).fetchone()
    assert said is not None
    (part,) = bank.client.post("/api/learn/answers", json=asked).json()["parts"]
    assert part["drifts"] == 30
    per_hour = bank.client.post("/api/learn/answers", json=asked | {"by": "rig", "per": "zone_hour"}).json()
    hours = rows.execute("select sum(minutes) / 60 from effort where setting_id = %s", (setting,)).fetchone()
    assert hours is not None
    assert per_hour["parts"][0]["hours"] == pytest.approx(hours[0] * said[0])
    assert "an hour in the zone" in per_hour["question"]
    situation = rows.execute("select situation from stop where id = %s", (stop,)).fetchone()
    assert situation is not None
    advised = bank.client.post("/api/advice", json=situation[0]).json()["ranked"]
    (ranked,) = bank.client.post("/api/learn/answers", json=asked | {"by": "ranked"}).json()["parts"]
    assert (ranked["key"], ranked["drifts"]) == ("first" if advised[0]["rig"] == "euro" else "behind", 31)
    rows.execute("update foretold set ranked = null")
    rows.execute("update stop set situation = situation - 'water' where id = %s", (stop,))
    assert bank.client.post("/api/learn/foretold").json()["ranked"] == 2  # it does not stop there for ever
    assert bank.client.post("/api/learn/answers", json=asked | {"by": "ranked"}).json()["parts"] == []
    rows.execute("update foretold set engine = 0")
    assert bank.client.get("/api/learn/calibration").json()["said"] == 0
    bank.client.delete(f"/api/outings/{outing}")


def test_touches__are_of_the_drifts_that_the_coach_learns_from(bank: Bank, rows: psycopg.Connection) -> None:
    """Whatever a drift was, under a tight line and a float."""
    _, stop, tight = bank.begin()
    under = bank.kept("settings", bank.setting(stop, at=at(2), rig="indicator"))
    ends: tuple[Outcome, ...] = ("clean", "tick", "hung")
    paces: tuple[Pace, ...] = ("slower", "same")
    ways: tuple[Direction, ...] = ("up", "down")
    every = list(product(ends, paces, ways, (False, True))) * 2
    for setting in (tight, under):
        for k, (outcome, pace, direction, weed) in enumerate(every):
            told = {"outcome": outcome, "pace": pace, "direction": direction, "weed": weed}
            bank.kept("drifts", bank.drift(setting, at=at(3 + k), **told))
    bank.client.post("/api/learn/foretold")
    for setting, chance in ((tight, 0.05), (under, 0.3)):
        rows.execute("update foretold set tick = %s, hung = 0 where setting_id = %s", (chance, setting))
    found = bank.client.get("/api/learn/calibration").json()["touches"]["bins"]
    fished = tuple(Fished(1.0, 3.0, end, pace, direction=to, weed=weed) for end, pace, to, weed in every)
    lie = Situation(Water(0.9, 0.6), Place())
    kinds: tuple[RigKind, ...] = ("euro", "indicator")
    for kind, seen in zip(kinds, found, strict=True):
        tell = Asked(lie, kind, fished).told
        assert seen["drifts"] == len(tell)
        assert seen["touches"] == sum(one.outcome in TOUCHES for one in tell)


def test_lengths__that_were_corrected_say_how_an_eye_leans(bank: Bank) -> None:
    _, _, setting = bank.begin()
    for k in range(6):
        drift = bank.kept("drifts", bank.drift(setting, outcome="fish"))
        fish = bank.kept("catches", bank.fish(drift, length_mm=330.0, length_how="eye"))
        if k < 5:
            bank.kept("catches", bank.fish(drift, length_mm=300.0 + k, length_how="measured"), fish)
    found = bank.client.get("/api/learn/calibration").json()["lengths"]
    assert found["pairs"] == 5
    assert found["off"]["median"] == pytest.approx(330.0 / 302.0, abs=0.01)


def test_stranger__has_nothing_of_it(bank: Bank, stranger: Bank) -> None:
    eyes(bank, 8, off=1.5)
    bank.begin()
    found = stranger.client.get("/api/learn/calibration").json()
    assert (found["eye"], found["settings"]) == (None, 0)
