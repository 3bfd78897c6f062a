"""What an angler writes, on the real database: once however often it is sent, theirs alone, and read back whole."""

import csv
import io
from datetime import UTC, datetime

import psycopg
import pytest
from fastapi.testclient import TestClient

from tests.service.anglers import SETUP, Bank, at, batch, count, event, faults, new_id

TABLES = {
    "readings": "reading",
    "outings": "outing",
    "stops": "stop",
    "settings": "setting",
    "drifts": "drift",
    "catches": "catch",
    "lies": "lie",
    "soundings": "sounding",
}


def bodies(bank: Bank) -> dict[str, tuple[str, dict[str, object]]]:
    """Return one row of every kind an angler writes, each stored, with its id and body."""
    outing, stop, setting = bank.begin()
    drift = bank.kept("drifts", bank.drift(setting, outcome="fish"))
    return {
        "readings": (bank.kept("readings", bank.reading()), bank.reading()),
        "outings": (outing, bank.outing()),
        "stops": (stop, bank.stop(outing)),
        "settings": (setting, bank.setting(stop)),
        "drifts": (drift, bank.drift(setting, outcome="fish")),
        "catches": (bank.kept("catches", bank.fish(drift)), bank.fish(drift)),
        "lies": (bank.kept("lies", new_lie(bank)), new_lie(bank)),
        "soundings": (bank.kept("soundings", bank.sounding()), bank.sounding()),
    }


def new_lie(bank: Bank) -> dict[str, object]:
    return {"beat_id": bank.beat["id"], "name": "New", "kind": "run", "bed": "gravel", "along_m": 5.0}


@pytest.mark.parametrize("kind", TABLES)
def test_write__twice_stores_once(bank: Bank, rows: psycopg.Connection, kind: str) -> None:
    row, body = bodies(bank)[kind]
    before = count(rows, TABLES[kind])
    assert bank.kept(kind, body, row) == row
    assert count(rows, TABLES[kind]) == before


@pytest.mark.parametrize("kind", TABLES)
def test_write__another_angler_s_row_is_not_there(
    bank: Bank, stranger: Bank, rows: psycopg.Connection, kind: str
) -> None:
    """Neither by hanging one's own under it, nor under its id, which is then a row of one's own; nothing says that it is."""
    row, theirs = bodies(bank)[kind]
    mine = bodies(stranger)[kind][1]
    stored = f"select * from {TABLES[kind]} where angler_id = (select angler_id from lie where id = %s) order by id"  # noqa: S608
    before = rows.execute(stored, (bank.lie["id"],)).fetchall()
    assert before
    assert "of yours" in stranger.write(kind, theirs)[1][None]
    assert stranger.write(kind, mine, row)[1] == {}
    assert rows.execute(stored, (bank.lie["id"],)).fetchall() == before


def test_get__another_angler_s_outing_is_not_there(bank: Bank, stranger: Bank) -> None:
    outing, *_ = bank.begin()
    for path in (f"/api/outings/{outing}", f"/api/files/csv?outing={outing}"):
        assert stranger.client.get(path).status_code == 404
    assert stranger.client.get("/api/outings").json() == []
    assert {beat["name"] for beat in stranger.beats} == {"Another beat"}


def test_places__are_added_changed_and_another_s_stay_another_s(bank: Bank, stranger: Bank) -> None:
    river = bank.kept("rivers", {"name": "Sallow brook"})
    rules = {
        "max_flies": 1, "added_weight": False, "barbless": True, "lead": False, "release": True,
        "season_first": "03-15", "season_last": "09-30",
    }  # fmt: skip
    body = {
        "river_id": river,
        "name": " Mill reach ",
        "position": 3,
        "rules": rules,
        "rules_text": "One fly.\nNo wading.",
    }
    beat = bank.kept("beats", body)
    lie_body = {"beat_id": beat, "name": "Sluice", "kind": "pool_head", "bed": "cobble", "along_m": 12.0}
    lie = bank.kept("lies", lie_body)
    bank.kept("lies", {**lie_body, "name": "Old sluice"}, lie)
    found = next(one for one in bank.client.get("/api/beats").json() if one["id"] == beat)
    assert (found["river"], found["name"], found["rules"]) == ("Sallow brook", "Mill reach", rules)
    assert [(one["name"], one["reading"], one["situation"]) for one in found["lies"]] == [
        ("Old sluice", None, None)
    ]
    assert stranger.put("beats", body)[1].status_code == 404
    theirs = {**body, "river_id": stranger.beats[0]["river_id"]}
    assert stranger.put("beats", {**theirs, "name": "Theirs"}, beat)[1].status_code == 200  # one of their own
    bank.kept("readings", {**bank.reading(), "lie_id": lie})
    read = next(one for one in bank.client.get("/api/beats").json() if one["id"] == beat)["lies"][0]
    assert read["situation"]["rules"]["max_flies"] == 1


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"name": "   "}, "name"),
        ({"kind": "lagoon"}, "kind"),
        ({"along_m": -1}, "along_m"),
        ({"notes": "\x00"}, "notes"),
    ],
)
def test_lie__bad_input_names_the_field(bank: Bank, change: dict[str, object], field: str) -> None:
    assert set(bank.write("lies", {**new_lie(bank), **change})[1]) == {field}


@pytest.mark.parametrize(
    ("change", "field"),
    [({"lane": 0}, "lane"), ({"stance": 1.5}, "stance"), ({"depth_m": 90}, "depth_m"), ({"depth_sd_m": None}, "depth_sd_m")],
)  # fmt: skip
def test_sounding__bad_input_names_the_field(bank: Bank, change: dict[str, object], field: str) -> None:
    assert set(bank.write("soundings", bank.sounding(**change))[1]) == {field}


def test_ids__are_uuidv7(bank: Bank) -> None:
    one = event("outings", "0b6cf3f0-38c3-4d7b-9b9a-3f7a4c1f8a11", bank.outing())
    answer = bank.client.post("/api/sync", json=batch(one))
    assert answer.status_code == 422
    assert "events.0.record" in faults(answer)


def test_outing__freezes_its_conditions_and_ends(bank: Bank) -> None:
    bank.kept("readings", bank.reading(temperature_c=9.5, clarity_m=0.7))
    outing = bank.kept("outings", bank.outing())
    bank.kept("readings", bank.reading(at=at(30), temperature_c=17.0))
    bank.kept("outings", bank.outing(ended_at=at(90)), outing)
    book = bank.client.get(f"/api/outings/{outing}").json()["outing"]
    newest = max(lie["reading"]["at"] for lie in bank.beat["lies"] if lie["reading"])
    if newest < at(-60):
        assert (book["conditions"]["temperature_c"], book["conditions"]["clarity_m"]) == (9.5, 0.7)
    assert datetime.fromisoformat(book["ended_at"]) == datetime.fromisoformat(at(90))


def test_setting__is_never_edited(bank: Bank) -> None:
    outing, stop, setting = bank.begin()
    bank.kept("settings", bank.setting(stop, depth_setting_m=2.0), setting)
    stops = bank.client.get(f"/api/outings/{outing}").json()["stops"]
    assert [one["depth_setting_m"] for one in stops[0]["settings"]] == [1.0]


def test_setting__of_an_app_that_knew_no_tags_is_kept(bank: Bank, rows: psycopg.Connection) -> None:
    """Phones write what they were built to write; a field that came later has the meaning of its absence."""
    _, stop, _ = bank.begin()
    assert "dropper_tag_m" not in SETUP
    kept = bank.kept("settings", bank.setting(stop))
    found = rows.execute("select setup from setting where id = %s", (kept,)).fetchone()
    assert found is not None
    assert found[0]["dropper_tag_m"] == 0.0


def test_ledger__is_what_was_logged_in_order_without_what_was_undone(bank: Bank) -> None:
    outing, stop, first = bank.begin()
    second = bank.kept("settings", bank.setting(stop, at=at(10), rig="indicator", depth_setting_m=0.8))
    outcomes = ["clean", "tick", "hung", "missed", "lost_fly"]
    for k, outcome in enumerate(outcomes):
        bank.kept("drifts", bank.drift(first, at=at(3 + k), outcome=outcome))
    undone = bank.kept("drifts", bank.drift(second, at=at(11), outcome="hung"))
    bank.kept("drifts", bank.drift(second, at=at(11), outcome="hung", undone=True), undone)
    landed = bank.kept("drifts", bank.drift(second, at=at(12), outcome="fish", pace="slower"))
    bank.kept("catches", bank.fish(landed))
    wrong = bank.kept("catches", bank.fish(landed, species="boot"))
    bank.kept("catches", bank.fish(landed, species="boot", undone=True), wrong)

    book = bank.client.get(f"/api/outings/{outing}").json()
    one, two = book["stops"][0]["settings"]
    assert [drift["outcome"] for drift in one["drifts"]] == outcomes
    assert [(d["outcome"], d["pace"], [c["species"] for c in d["catches"]]) for d in two["drifts"]] == [
        ("fish", "slower", ["brown trout"])
    ]
    chance = book["outing"]["tally"].pop("rate")
    assert chance["low"] < 1 / 6 < chance["high"]
    (fish,) = two["drifts"][0]["catches"]
    assert fish["weight_g"] == pytest.approx(684.0 * (fish["length_mm"] / 400.0) ** 2.96, rel=0.005)
    assert book["outing"]["tally"] == {
        "drifts": 6,
        "touches": 3,
        "hung": 2,
        "missed": 1,
        "fish": 1,
        "lost_flies": 1,
    }
    listed = bank.client.get("/api/outings").json()[0]["tally"]
    assert listed == book["outing"]["tally"] | {"rate": chance}


def test_csv__opens_in_any_reader_with_units_in_its_headers(bank: Bank) -> None:
    """RFC 4180, ISO 8601 with offset, UCUM-style units; one row a fish, else one a drift."""
    outing, _, setting = bank.begin()
    bank.kept("drifts", bank.drift(setting))
    landed = bank.kept("drifts", bank.drift(setting, at=at(5), outcome="fish"))
    for species in ("brown trout", 'the "other", odd one'):
        bank.kept("catches", bank.fish(landed, species=species))
    answer = bank.client.get(f"/api/files/csv?outing={outing}")
    assert answer.headers["content-type"] == "text/csv; charset=utf-8"
    assert 'filename="outing-sallow-bend-2026-06-01-1200.csv"' in answer.headers["content-disposition"]
    assert "\r\n" in answer.text
    lines = list(csv.DictReader(io.StringIO(answer.text, newline="")))
    assert [line["outcome"] for line in lines] == ["clean", "fish", "fish"]
    assert [line["species"] for line in lines] == ["", "brown trout", 'the "other", odd one']
    assert lines[1]["drift_id"] == lines[2]["drift_id"] == landed
    assert {"depth[m]", "surface_speed[m/s]", "point_bead[mm]", "length[mm]", "temperature[Cel]"} <= lines[
        0
    ].keys()
    assert datetime.fromisoformat(lines[0]["time"]).utcoffset() is not None


def test_single_dry__is_a_setting_with_nothing_under_water(bank: Bank) -> None:
    outing, stop, setting = bank.begin()
    bank.kept("drifts", bank.drift(setting))
    alone = bank.kept("settings", bank.dry(stop, at=at(4)))
    rise = bank.kept("drifts", bank.drift(alone, at=at(5), outcome="fish"))
    bank.kept("catches", bank.fish(rise, fly="dry"))
    book = bank.client.get(f"/api/outings/{outing}").json()["stops"][0]["settings"]
    assert [one["rig"] for one in book] == ["euro", "dry"]
    assert book[1]["setup"] == bank.dry(stop)["setup"]
    assert "depth_setting_m" not in book[1]
    assert book[1]["drifts"][0]["catches"][0]["fly"] == "dry"
    rows = list(csv.DictReader(io.StringIO(bank.client.get(f"/api/files/csv?outing={outing}").text)))
    assert [(row["rig"], row["depth_setting[m]"], row["tippet[X]"]) for row in rows] == [
        ("euro", "1.0", "5"),
        ("dry", "", "4"),
    ]


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"depth_setting_m": 1.0}, "depth_setting_m"),
        ({"setup": SETUP}, "setup.flies"),
        ({"setup": {"float": "", "tippet_x": 4}}, "setup.float"),
        ({"setup": {"float": "foam 10", "tippet_x": 40}}, "setup.tippet_x"),
        ({"rig": "dry_dropper"}, "depth_setting_m"),
        ({"rig": ["dry"]}, "rig"),
    ],
)
def test_single_dry__takes_nothing_that_hangs_and_a_rig_not_without_it(
    bank: Bank, changes: dict[str, object], field: str
) -> None:
    _, stop, _ = bank.begin()
    assert field in bank.write("settings", bank.dry(stop, **changes))[1]


def test_reading__by_bubble_and_by_staff(bank: Bank) -> None:
    speed = {"how": "bubbles", "distance_m": 3.0, "seconds": 4.0}
    read_at = datetime.now(UTC).isoformat()
    row = bank.kept("readings", bank.reading(at=read_at, speed=speed, depth_how="staff"))
    now = bank.lie_now()
    reading = now["reading"]
    assert reading["id"] == row
    assert reading["surface_speed_m_s"] == pytest.approx(0.75)
    assert reading["speed_error_m_s"] == pytest.approx(0.0895, abs=0.001)
    assert reading["depth_sd_m"] == pytest.approx(0.05 * 0.8)
    kept = {"how": "timed", "surface_speed_m_s": 0.75, "error_m_s": reading["speed_error_m_s"]}
    bank.kept("readings", bank.reading(at=read_at, speed=kept, wind_m_s=4.0), row)
    changed = bank.lie_now()["reading"]
    assert (changed["speed_how"], changed["wind_m_s"]) == ("bubbles", 4.0)
    assert changed["speed_error_m_s"] == reading["speed_error_m_s"]
    situation = now["situation"]
    assert situation["water"]["depth_m"] == 0.8
    assert situation["rules"].items() <= bank.beat["rules"].items()


def test_reading__newest_stands_and_a_first_one_carries_the_day_over(bank: Bank) -> None:
    last = bank.beats[-1]
    unread = next(lie for lie in last["lies"] if lie["reading"] is None)
    assert unread["situation"] is None
    read = max((lie["reading"] for lie in last["lies"] if lie["reading"]), key=lambda one: one["at"])
    assert last["carried"]["temperature_c"] == read["temperature_c"]
    assert last["carried"]["clarity_m"] == read["clarity_m"]
    body = {**bank.reading(), "lie_id": unread["id"], **last["carried"]}
    bank.kept("readings", body)
    bank.kept("readings", {**body, "at": at(-600), "depth_m": 3.0})  # an older one, sent later
    lies = bank.client.get("/api/beats").json()[-1]["lies"]
    assert next(lie for lie in lies if lie["id"] == unread["id"])["reading"]["depth_m"] == 0.8


def test_beat__is_worked_from_the_tail_up_with_a_reason_for_every_lie(bank: Bank) -> None:
    for beat in bank.beats:
        along = {lie["id"]: lie["along_m"] for lie in beat["lies"] if lie["reading"]}
        assert [work["lie_id"] for work in beat["working"]] == sorted(along, key=along.__getitem__)
        assert all(
            work["reasons"] and 0 < work["score"] <= 1 and work["drifts"] >= 1 for work in beat["working"]
        )


def test_length__is_never_insisted_on(bank: Bank) -> None:
    _, _, setting = bank.begin()
    drift = bank.kept("drifts", bank.drift(setting, outcome="fish"))
    bank.kept(
        "catches", {"drift_id": drift, "at": at(5), "species": "grayling", "fly": "point", "phase": "swing"}
    )


def test_session__signs_out_and_then_nothing_is_shown(client: TestClient, bank: Bank) -> None:
    assert client.get("/api/session").json()["angler"]["name"] == "Demo angler"
    assert client.put("/api/angler", json={"units": "us"}).json()["units"] == "us"
    assert client.delete("/api/session").json()["angler"] is None
    for path in ("/api/beats", "/api/outings", f"/api/outings/{new_id()}"):
        answer = client.get(path)
        assert answer.status_code == 401
        assert "Sign in" in answer.json()["faults"][0]["message"]
    assert client.post("/api/sync", json=batch(event("outings", new_id(), bank.outing()))).status_code == 401
    assert client.post("/api/tune", json={"situation": {}, "tuning": SETUP}).status_code == 401
