"""The ledger as it is drawn: strips of outings, a year beside the river, a stay as the coach saw it."""

from datetime import datetime

import psycopg
import pytest

from deriva.core.learn.foretell import tuning_of
from deriva.core.model.setup import Setup
from deriva.core.read import read_noun
from tests.service.anglers import SETUP, Bank, at, new_id

ENDS = ("clean", "clean", "tick", "hung", "tick", "clean", "fish")


def fished(bank: Bank) -> tuple[str, str]:
    """Fish a stay with two settings, one drift of which was taken back, and a dry at the end; return outing and stop."""
    outing, stop, setting = bank.begin()
    for k, outcome in enumerate(ENDS):
        bank.kept("drifts", bank.drift(setting, at=at(3 + k), outcome=outcome))
    bank.kept("drifts", bank.drift(setting, at=at(20), outcome="hung", undone=True))
    longer = SETUP | {"depth_setting_m": 1.2}
    second = bank.kept("settings", bank.setting(stop, at=at(21), depth_setting_m=1.2, setup=longer))
    bank.kept("drifts", bank.drift(second, at=at(22)))
    bank.kept("drifts", bank.drift(bank.kept("settings", bank.dry(stop, at=at(30))), at=at(31)))
    return outing, stop


def test_strip__has_each_setting_with_its_drifts_in_time(bank: Bank, stranger: Bank) -> None:
    outing, _ = fished(bank)
    (strip,) = bank.client.get("/api/strips", params={"outing": [outing, new_id()]}).json()
    first, second, dry = strip["blocks"]
    assert first["ended"] == list(ENDS)
    assert first["at_s"] == [60.0 * (3 + k) for k in range(len(ENDS))]
    assert (first["from_s"], first["set_m"], second["set_m"], dry["set_m"]) == (120.0, 1.0, 1.2, None)
    assert first["lie"] == bank.lie["name"]
    assert stranger.client.get("/api/strips", params={"outing": outing}).json() == []
    assert bank.client.get("/api/strips").status_code == 422


def test_season__is_the_year_beside_the_river(bank: Bank, stranger: Bank, rows: psycopg.Connection) -> None:
    outing, _ = fished(bank)
    empty = bank.kept("outings", bank.outing(started_at="2025-03-01T08:00:00Z"))
    bank.kept("gauges", {"river_id": bank.beat["river_id"], "name": "G", "format": "csv"})
    rows.execute(
        "insert into gauge_value (angler_id, gauge_id, parameter, daily, at, value, worth, code)"
        " select angler_id, id, 'flow', daily, at, value, 'good', '' from gauge, (values"
        " (true, timestamptz '2026-06-01 12:00Z', 3.0), (false, '2026-06-01 06:00Z', 9.0), (false, '2026-06-02 06:00Z', 4.0),"
        " (false, '2026-06-02 18:00Z', 6.0), (true, '2025-12-31 12:00Z', 8.0)) v (daily, at, value)"
    )
    year = bank.client.get("/api/seasons/2026").json()
    assert year["years"] == [2026, 2025]
    (found,) = [one for one in year["outings"] if one["id"] == outing]
    assert (found["drifts"], found["fish"]) == (9, 1)
    days = [(day["at"][:10], day["flow_m3_s"]) for day in year["rivers"][0]["days"]]
    assert days == [
        ("2026-06-01", 3.0),
        ("2026-06-02", 5.0),
    ]  # the gauge's own mean before the mean of its values
    before = bank.client.get("/api/seasons/2025").json()
    assert [(one["id"], one["drifts"]) for one in before["outings"]] == [(empty, 0)]
    theirs = stranger.client.get("/api/seasons/2026").json()
    assert (theirs["outings"], theirs["rivers"], theirs["years"]) == ([], [], [])
    assert bank.client.get("/api/seasons/1066").status_code == 422


def test_season__turns_with_the_sun_over_the_river(bank: Bank, rows: psycopg.Connection) -> None:
    """New Year's morning in the far east is last year by Greenwich still; New Year's Eve in the far west is this year's."""
    for longitude, began, year in (
        (170.0, "2025-12-31T21:00:00Z", 2026),
        (-170.0, "2026-01-01T05:00:00Z", 2025),
    ):
        rows.execute("update river set longitude = %s where id = %s", (longitude, bank.beat["river_id"]))
        outing = bank.kept("outings", bank.outing(started_at=began))
        told = {one: bank.client.get(f"/api/seasons/{one}").json() for one in (2025, 2026)}
        assert {one: [each["id"] for each in said["outings"]] for one, said in told.items()} == {
            2025 + 2026 - year: [],
            year: [outing],
        }
        assert told[2025]["years"] == told[2026]["years"] == [year]
        rows.execute("delete from outing")


def test_stay__is_told_again_as_the_coach_tells_the_same_drifts_now(bank: Bank) -> None:
    outing, stop = fished(bank)
    told = bank.client.get(f"/api/outings/{outing}/stops/{stop}/story").json()
    assert len(told) == len(ENDS) + 1  # the dry says nothing of the bottom
    assert all(one["low_m"] < one["middle_m"] < one["high_m"] for one in told)
    assert [one["set_m"] for one in told] == [1.0] * len(ENDS) + [1.2]
    tuning = tuning_of("euro", read_noun(Setup, SETUP))
    drifts = [{"depth_setting_m": 1.0, "point_bead_mm": 3.0, "outcome": outcome} for outcome in ENDS[:4]]
    on = {
        "rig": "euro",
        "depth_setting_m": 1.0,
        "point_bead_mm": 3.0,
        "flies": 1,
        "tippet_x": 5,
        "shot_g": 0.0,
    }
    asked = {"situation": bank.stop(outing)["situation"], "rig": "euro", "drifts": drifts}
    asked["tuning"] = on | {"dropper_tag_m": tuning.dropper_tag_m, "tip_pace": tuning.tip_pace}
    now = bank.client.post("/api/coach", json=asked).json()
    assert told[3]["middle_m"] == pytest.approx(now["depth_belief_m"]["p50"])
    assert (told[3]["action"], told[3]["reason"]) == (now["advice"]["action"], now["advice"]["reason"])
    other = bank.kept("outings", bank.outing(started_at=at(600)))
    assert bank.client.get(f"/api/outings/{other}/stops/{stop}/story").status_code == 404
    assert datetime.fromisoformat(at(0)).year == 2026


def test_stay__is_told_with_what_was_kept_of_its_lane(bank: Bank) -> None:
    """Kept after the third drift of the second lane: told of from the fourth on, without the three that it was kept from."""
    outing, stop, setting = bank.begin()
    told = []
    for k, outcome in enumerate(ENDS[:4]):
        if k == 3:
            bank.kept("soundings", bank.sounding(at=at(5.5), depth_m=0.9, depth_sd_m=0.05))
            told.append(bank.client.get(f"/api/outings/{outing}/stops/{stop}/story").json())
        bank.kept("drifts", bank.drift(setting, at=at(3 + k), outcome=outcome, lane=2))
    told.append(bank.client.get(f"/api/outings/{outing}/stops/{stop}/story").json())
    before, after = told
    assert after[:3] == before
    assert after[3]["middle_m"] == pytest.approx(0.9, abs=0.08)
    assert before[2]["middle_m"] < 0.7
    bank.kept("soundings", bank.sounding(at=at(-60 * 24 * 40), lane=2, depth_m=2.0))  # another day's
    assert bank.client.get(f"/api/outings/{outing}/stops/{stop}/story").json()[3] == after[3]
    assert bank.client.get(f"/api/outings/{outing}/stops/{stop}/story").json()[0] != after[0]


@pytest.mark.parametrize("how", ["drifts", "staff"])
def test_stay__goes_on_where_the_lie_is_read_anew(bank: Bank, how: str) -> None:
    """The depth is as read. Found from its drifts, that they hung is known of after it; of another level it says nothing."""
    outing, stop, setting = bank.begin()
    ends = ("clean", "tick", "hung", "tick", "hung")
    for k, outcome in enumerate(ends):
        bank.kept("drifts", bank.drift(setting, at=at(3 + k), outcome=outcome))
    found = {"depth_m": 0.9, "depth_sd_m": 0.05}
    bank.kept("readings", bank.reading(at=at(9), depth_how=how, **found))
    situation = bank.lie["situation"]
    situation = situation | {"water": situation["water"] | found}
    later = bank.kept("stops", bank.stop(outing, at=at(10), situation=situation))
    again = bank.kept("settings", bank.setting(later, at=at(10)))
    bank.kept("drifts", bank.drift(again, at=at(11)))
    first, second = (
        bank.client.get(f"/api/outings/{outing}/stops/{one}/story").json() for one in (stop, later)
    )
    assert (len(first), len(second)) == (len(ends), 1)
    assert second[0]["middle_m"] == pytest.approx(0.9, abs=0.08)
    assert "Hung on 2 of the last 5" in first[-1]["reason"]
    assert ("Hung on 2 of the last 6" in second[0]["reason"]) == (how == "drifts")


def test_month__turns_with_the_sun_over_the_river(bank: Bank, rows: psycopg.Connection) -> None:
    """An evening of September in the far west is October by Greenwich already."""
    rows.execute("update river set longitude = -120.0 where id = %s", (bank.beat["river_id"],))
    evening = "2026-10-01T01:00:00Z"
    outing = bank.kept("outings", bank.outing(started_at=evening))
    setting = bank.kept(
        "settings", bank.setting(bank.kept("stops", bank.stop(outing, at=evening)), at=evening)
    )
    bank.kept("drifts", bank.drift(setting, at=evening))
    asked = {
        word: bank.client.get("/api/search", params={"find": word}).json()
        for word in ("september", "october")
    }
    assert [[one["id"] for one in said["outings"]] for said in asked.values()] == [[outing], []]
    months = bank.client.post("/api/learn/answers", json={"by": "month"}).json()["parts"]
    assert [(one["key"], one["drifts"]) for one in months] == [("9", 1)]
    bank.kept("shares", {"outing_id": outing, "reader": "friend@example.org", "blur_m": 1000.0})
    assert [one["name"] for one in bank.client.get("/api/shares").json()] == ["2026-09-30"]
