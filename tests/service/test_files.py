"""A log as files. Every writer is read back by other people's readers (pandas, geojson, gpxpy, dwca, pypdf, jsonschema); what
is read again is the same log, in another account too; what is malformed has a reason with its place, and leaves nothing behind.
"""

import asyncio
import csv
import io
import json
import zipfile
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

import geojson
import gpxpy
import jsonschema
import pandas as pd
import psycopg
import pytest
from dwca.read import DwCAReader
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from deriva.service.formats.log_csv import armed, defused, guessed
from deriva.service.formats.places import point
from deriva.service.schemas.everything import PARENTS, ROWS
from deriva.service.store.models import Base
from deriva.service.usecases import imports
from deriva.service.usecases.csv_log import made_id
from deriva.service.usecases.log_job import LogJob
from deriva.service.usecases.take_log import take_log
from tests.service.anglers import Bank, at, count, new_id
from tests.service.mauled import mauled

PLACE = {"latitude": 47.5678, "longitude": -15.4321}
FORMULA = "=cmd|' /C calc'!A0"


@pytest.fixture
def its_own_process() -> None:
    """Where a log is taken in as it is for real: in a process of its own."""


@pytest.fixture(autouse=True)
def _in_this_process(request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch) -> None:
    """A process takes a second to start, and does what is done here."""
    if "its_own_process" in request.fixturenames:
        return

    async def here(_: str, given: bytes) -> bytes:
        await asyncio.to_thread(take_log, LogJob.from_json(given))
        return b""

    monkeypatch.setattr(imports, "apart_for", here)


@pytest.fixture
def logged(bank: Bank) -> str:
    """An outing with two settings, a drift of two fish, one of none, a note, at a lie with a name that a sheet would run."""
    bank.lie["name"] = FORMULA
    body = {name: bank.lie[name] for name in ("name", "kind", "bed", "along_m")}
    bank.kept("lies", {"beat_id": bank.beat["id"], **body, **PLACE}, bank.lie["id"])
    bank.kept("readings", bank.reading())
    bank.kept("soundings", bank.sounding())
    outing, stop, setting = bank.begin()
    two = bank.kept(
        "drifts",
        bank.drift(
            setting, outcome="fish", lane=2, pace="slower", direction="up", dried=True, weed=True, lost="both"
        ),
    )
    for species, mm in (("brown trout", 310.0), ("grayling", None)):
        bank.kept(
            "catches",
            bank.fish(two, species=species, length_mm=mm, length_how="none" if mm is None else "measured"),
        )
    bank.kept("drifts", bank.drift(setting, at=at(5)))
    bank.kept(
        "drifts", bank.drift(bank.kept("settings", bank.dry(stop, at=at(6))), at=at(7), outcome="missed")
    )
    bank.kept("notes", {"outing_id": outing, "at": at(8), "text": "Alder <all> day & dusk."})
    return outing


def file_of(bank: Bank, name: str, **how: Any) -> bytes:  # noqa: ANN401
    answer = bank.client.get(f"/api/files/{name}", params=how)
    assert answer.status_code == 200, answer.text
    assert "attachment" in answer.headers["content-disposition"]
    return answer.content


def take(bank: Bank, text: bytes, kind: str, **how: Any) -> dict[str, Any]:  # noqa: ANN401
    """Hand a log in and wait for how it ends."""
    row = new_id()
    if "columns" in how:
        how["columns"] = json.dumps(how["columns"])
    sent = bank.client.put(f"/api/imports/log/{row}", params={"format": kind, **how}, content=text)
    assert sent.status_code == 200, sent.text
    found = sent.json()
    while found["state"] in ("running", "cancelling"):
        found = bank.client.get(f"/api/imports/{row}").json()
    return dict(found)


def test_csv__is_a_table_that_no_sheet_runs(bank: Bank, logged: str) -> None:
    table = pd.read_csv(io.BytesIO(file_of(bank, "csv", outing=logged)), parse_dates=["time"])
    assert len(table) == 4
    assert list(table["species"].dropna()) == ["brown trout", "grayling"]
    assert table["drift_id"].nunique() == 3
    assert table["length[mm]"].dropna().tolist() == [310.0]
    assert table["time"].dt.tz is not None
    assert table["rig"].tolist() == ["euro", "euro", "euro", "dry"]
    assert table["point_fly"].iloc[-1] == "foam 10"
    assert set(table["lie"]) == {f"'{FORMULA}"}
    for text in ("=1", "+1", "-1", "@x", "\tx", "'=1", "plain", ""):
        told = defused(text)
        assert isinstance(told, str)
        assert armed(told) == text or text == "'=1"
    assert defused(-1.5) == -1.5


def test_geojson__has_a_point_a_stop_no_closer_than_was_wished(bank: Bank, logged: str) -> None:
    for exact in (False, True):
        whole = geojson.loads(file_of(bank, "geojson", find="dry", exact=exact).decode())
        assert whole.is_valid
        (one,) = [one for one in whole["features"] if one["properties"]["outing"] == logged]
        longitude, latitude = one["geometry"]["coordinates"]
        away = abs(latitude - PLACE["latitude"]) + abs(longitude - PLACE["longitude"])
        assert (away < 1e-9) is exact
        assert (one["properties"]["drifts"], one["properties"]["missed"]) == (3, 1)
        assert [fish["species"] for fish in one["properties"]["fish"]] == ["brown trout", "grayling"]
    hidden = point((PLACE["latitude"], PLACE["longitude"]), exact=False)
    assert hidden is not None
    assert hidden == point((PLACE["latitude"] + 0.02, PLACE["longitude"] + 0.02), exact=False)
    assert hidden.within_m is not None
    assert 6000 < hidden.within_m < 8000  # half of the diagonal of 11.1 by 7.5 km


def test_gpx__takes_lies_to_a_map_and_back(bank: Bank, stranger: Bank, logged: str) -> None:
    text = file_of(bank, "gpx", outing=logged)
    (way,) = gpxpy.parse(text.decode()).waypoints
    assert (way.name, way.latitude, way.longitude) == (FORMULA, PLACE["latitude"], PLACE["longitude"])
    more = gpxpy.gpx.GPX()
    more.waypoints = [
        gpxpy.gpx.GPXWaypoint(47.0 + 0.001 * k, -15.0, name=f"Stone {k}", description="by the ash")
        for k in (2, 0, 1)
    ]
    beat = stranger.beat
    south = {name: beat[name] for name in ("river_id", "name", "position")} | {"flows_to_deg": 180.0}
    stranger.kept("beats", south, beat["id"])
    done = take(stranger, more.to_xml().encode(), "gpx", beat_id=beat["id"])
    assert (done["state"], done["result"]["new"]) == ("done", {"lie": 3})
    lies = stranger.client.get("/api/beats").json()[0]["lies"]
    assert [lie["name"] for lie in lies] == [
        "Another lie",
        "Stone 0",
        "Stone 1",
        "Stone 2",
    ]  # upstream is north
    assert lies[3]["along_m"] - lies[2]["along_m"] == pytest.approx(111.2, abs=0.1)
    assert (lies[3]["latitude"], lies[3]["notes"]) == (47.002, "by the ash")
    again = take(stranger, more.to_xml().encode(), "gpx", beat_id=beat["id"])
    assert again["result"]["new"] == {}
    assert "On which beat" in take(stranger, text, "gpx", beat_id=bank.beat["id"])["message"]


def test_darwin_core__has_the_effort_with_the_fish(bank: Bank, logged: str, tmp_path: Path) -> None:
    archive = tmp_path / "log.zip"
    archive.write_bytes(file_of(bank, "darwin-core", outing=logged))
    term = "http://rs.tdwg.org/dwc/terms/"
    with DwCAReader(str(archive)) as read:
        assert read.core_contains_term(term + "eventID")
        assert read.metadata.find("dataset/title").text
        (event,) = list(read)
        assert event.data[term + "sampleSizeValue"] == "3"
        assert float(event.data[term + "decimalLatitude"]) != PLACE["latitude"]
        assert float(event.data[term + "coordinateUncertaintyInMeters"]) > 6000
        assert FORMULA not in str(event.data)
        names = [fish.data[term + "scientificName"] for fish in event.extensions]
    assert names == ["Salmo trutta Linnaeus, 1758", "Thymallus thymallus (Linnaeus, 1758)"]
    with zipfile.ZipFile(archive) as inside:
        assert sorted(inside.namelist()) == ["eml.xml", "event.txt", "meta.xml", "occurrence.txt"]


def test_report__says_what_was_fished_in_the_reader_s_units_and_hour(bank: Bank, logged: str) -> None:
    def text(**how: Any) -> str:  # noqa: ANN401
        (page,) = PdfReader(io.BytesIO(file_of(bank, "pdf", outing=logged, **how))).pages
        return page.extract_text()

    assert "1 June 2026" in text()
    assert "12:04: brown trout, 31 cm" in text().replace("\n", " ").replace("12:03", "12:04")
    assert "Alder <all> day & dusk." in text()
    assert "missed a take" in text()
    bank.client.put("/api/angler", json={"units": "us"})
    assert "14:0" in text(zone="Europe/Vienna")
    assert "1 ft 0 in" in text()
    refused = bank.client.get("/api/files/pdf")
    assert refused.status_code == 422
    assert "of one outing" in refused.json()["faults"][0]["message"]
    assert bank.client.get("/api/files/json").status_code == 422
    assert bank.client.get("/api/files/csv", params={"zone": "Europe/Nowhere"}).status_code == 422


OWN = [table for table in ROWS if table != "gauge_value"]
KEPT_BACK = {
    "river": {"weather_read_at", "weather_trouble", "weather_due_at", "weather_failures"},
    "gauge": {"tried_at", "read_at", "trouble", "due_at", "failures"},
    "change": {"position", "taken_at", "filed"},
}
"""How a gauge or the weather was last read is of the service, not of the log; so is when a writing came in, and after which."""


def rows_of(rows: psycopg.Connection, angler: str) -> dict[str, list[Any]]:
    """Return the rows of an angler's log, whatever whose they are."""
    found = {}
    for table in ROWS:
        but = {"angler_id", *KEPT_BACK.get(table, ())}
        columns = ", ".join(f'"{c.name}"' for c in Base.metadata.tables[table].c if c.name not in but)
        order = "at" if table == "gauge_value" else "id"
        query = f'select {columns} from "{table}" where angler_id = %s order by {order}'  # noqa: S608
        found[table] = rows.execute(query, (angler,)).fetchall()
    return found


def angler_of(bank: Bank) -> str:
    return str(bank.client.get("/api/session").json()["angler"]["id"])


def test_everything__goes_into_another_account_as_it_was(
    bank: Bank, stranger: Bank, logged: str, its_own_process: None, rows: psycopg.Connection
) -> None:
    """All tables that are an angler's, column by column; and a second time nothing."""
    assert its_own_process is None
    bank.client.post("/api/box/starter")
    cast = {"rig": "indicator", "depth_setting_m": 1.2, "point_bead_mm": 3.0}
    game = {"game": {"drill": "first_depth", "seed": 1, "casts": [cast]}}
    bank.client.put(f"/api/practice/games/{new_id()}", json=game).raise_for_status()
    river = bank.beat["river_id"]
    known = rows.execute("select id, angler_id from gauge where river_id = %s", (river,)).fetchone()
    gauge = new_id() if known is None else known[0]
    if known is None:
        bank.kept("gauges", {"river_id": river, "name": "G", "format": "csv"}, str(gauge))
    rows.execute(
        "insert into gauge_value (angler_id, gauge_id, parameter, daily, at, value, worth, code) values"
        " (%s, %s, 'flow', false, now(), 0.1 + 0.2, 'good', 'A')",
        (angler_of(bank), gauge),
    )
    text = bank.client.get("/api/export").content
    schema = bank.client.get("/api/formats/json/schema").json()
    jsonschema.Draft202012Validator.check_schema(schema)
    jsonschema.validate(json.loads(text), schema, cls=jsonschema.Draft202012Validator)
    before, theirs = rows_of(rows, angler_of(bank)), rows_of(rows, angler_of(stranger))
    assert all(before[table] for table in ROWS)
    dry = take(stranger, text, "json", dry=True)
    assert (dry["state"], rows_of(rows, angler_of(stranger))) == ("done", theirs)
    done = take(stranger, text, "json")
    assert done["state"] == "done", done["message"]
    assert dry["result"] == done["result"]
    assert done["result"]["new"] == {table: len(found) for table, found in before.items()}
    assert "effort" in done["result"]["passed"]
    after = rows_of(rows, angler_of(stranger))
    for table, found in before.items():
        assert [row for row in after[table] if row not in theirs[table]] == found, table
    assert rows_of(rows, angler_of(bank)) == before
    again = take(stranger, text, "json")
    assert (again["rows"], again["result"]["new"]) == (0, {})
    assert again["result"]["there"] == done["result"]["new"]
    batch = {"version": 1, "device": new_id(), "cursor": 0, "events": []}
    heard = stranger.client.post("/api/sync", json=batch).json()
    assert (heard["changes"], heard["cursor"]) == (
        [],
        len(before["change"]),
    )  # no phone hears the taps of years
    assert stranger.client.get(f"/api/outings/{logged}").json()["outing"]["tally"]["fish"] == 1


def test_everything__has_every_column_that_a_row_is_made_of() -> None:
    """What is new in a table must be said to be taken in, or not."""
    for table in ROWS:
        fields = set(json.dumps(ROWS[table].json_schema()).split('"'))
        for column in Base.metadata.tables[table].c:
            if column.name == "angler_id" or column.name in KEPT_BACK.get(table, ()) or column.computed:
                continue
            assert column.name in fields, f"{table}.{column.name}"
    assert {parent for parents in PARENTS.values() for parent in parents.values()} <= set(ROWS)


HEADERS = [
    "Date",
    "Time",
    "Pool",
    "Method",
    "Bead (mm)",
    "Set to (ft)",
    "Depth [ft]",
    "Speed",
    "Fish",
    "Length (in)",
]
COLUMNS = {
    "date": "Date", "clock": "Time", "lie": "Pool", "rig": "Method", "point_bead_mm": "Bead (mm)",
    "depth_setting_m": "Set to (ft)", "depth_m": "Depth [ft]", "surface_speed_m_s": "Speed", "species": "Fish",
    "length_mm": "Length (in)",
}  # fmt: skip
DIARY = [
    ["14.06.2026", "09:30", "Old weir", "tight line", "3", "4", "3", "0,5", "", ""],
    ["14.06.2026", "09:32", "Old weir", "tight line", "3", "4", "3", "0,5", "brown trout", "12"],
    ["14.06.2026", "09:40", "Old weir", "tight line", "2,5", "4", "3", "0,5", "", ""],
    ["14.06.2026", "10:10", "Another lie", "dry-dropper", "2", "2", "2", "0,4", "grayling", ""],
    ["2026-06-15", "23:10", "Old weir", "float", "3", "4", "3", "0,5", "", ""],
]


def sheet(rows: list[list[str]], headers: list[str] = HEADERS) -> bytes:
    text = io.StringIO()
    csv.writer(text, delimiter=";").writerows([headers, *rows])
    return text.getvalue().encode()


def test_diary__becomes_outings_with_stays_settings_and_units(
    stranger: Bank, rows: psycopg.Connection
) -> None:
    first = take(stranger, sheet(DIARY), "csv", beat_id=stranger.beat["id"])
    assert first["result"]["columns"] == HEADERS
    assert first["result"]["guess"] == COLUMNS
    how = {"beat_id": stranger.beat["id"], "columns": COLUMNS, "zone": "America/Denver"}
    dry = take(stranger, sheet(DIARY), "csv", dry=True, **how)
    assert dry["result"]["new"] == {"lie": 1, "outing": 2, "stop": 3, "setting": 4, "drift": 5, "catch": 2}
    assert count(rows, "drift") == 0
    done = take(stranger, sheet(DIARY), "csv", **how)
    assert done["result"] == dry["result"]
    assert take(stranger, sheet(DIARY), "csv", **how)["result"]["new"] == {}
    newest, oldest = stranger.client.get("/api/outings").json()
    book = stranger.client.get(f"/api/outings/{oldest['id']}").json()
    began = datetime.fromisoformat(oldest["started_at"])
    assert began == datetime(2026, 6, 14, 9, 30, tzinfo=ZoneInfo("America/Denver"))
    assert datetime.fromisoformat(newest["started_at"]).astimezone(UTC).day == 16
    assert [stop["lie"] for stop in book["stops"]] == ["Old weir", "Another lie"]
    setting = book["stops"][0]["settings"][0]
    assert (setting["rig"], setting["point_bead_mm"]) == ("euro", 3.0)
    assert setting["depth_setting_m"] == pytest.approx(4 * 0.3048)
    assert setting["setup"]["point_hook"] is None
    assert book["stops"][0]["situation"]["water"]["depth_m"] == pytest.approx(3 * 0.3048)
    fish = [
        one
        for stop in book["stops"]
        for each in stop["settings"]
        for d in each["drifts"]
        for one in d["catches"]
    ]
    assert [(one["species"], one["length_mm"]) for one in fish] == [
        ("brown trout", pytest.approx(304.8)), ("grayling", None),
    ]  # fmt: skip


def test_csv__of_one_s_own_is_taken_in_by_another_and_not_twice_by_oneself(
    bank: Bank, stranger: Bank, logged: str
) -> None:
    text = file_of(bank, "csv", outing=logged)
    table = list(csv.reader(io.StringIO(text.decode())))
    columns = guessed(table[0])
    again = take(bank, text, "csv", beat_id=bank.beat["id"], columns=columns)
    assert (again["state"], again["result"]["new"]) == ("done", {})
    done = take(stranger, text, "csv", beat_id=stranger.beat["id"], columns=columns)
    assert done["state"] == "done", done["message"]
    (outing,) = stranger.client.get("/api/outings").json()
    back = list(csv.DictReader(io.StringIO(file_of(stranger, "csv", outing=outing["id"]).decode())))
    first = list(csv.DictReader(io.StringIO(text.decode())))
    for old, new in zip(
        *(sorted(one, key=lambda row: (row["time"], row["species"])) for one in (first, back)), strict=True
    ):
        assert {k: v for k, v in old.items() if k not in ("beat", "outing_id")} == {
            k: v for k, v in new.items() if k not in ("beat", "outing_id")
        }


@pytest.mark.parametrize(
    ("row", "said"),
    [
        (["14.06.2026", "09:30", "Old weir", "spoon", "3", "4", "3", "0,5", "", ""], "line 2, column 1: 'spoon' is no rig"),
        (["yesterday", "09:30", "Old weir", "euro", "3", "4", "3", "0,5", "", ""], "“yesterday 09:30” is no time"),
        (["14.06.2026", "09:30", "", "euro", "3", "4", "3", "0,5", "", ""], "at which lie is not said"),
        (["14.06.2026", "09:30", "Old weir", "euro", "3", "4", "deep", "0,5", "", ""], "line 2, column 7: “deep”"),
        (["14.06.2026", "09:30", "Old weir", "euro", "3", "4", "", "0,5", "", ""], "how deep it was is not said"),
        (["14.06.2026", "09:30", "Old weir", "euro", "33", "4", "3", "0,5", "", ""], "outside 1.5 to 6 mm"),
        (["14.06.2026", "09:30", "Old weir", "euro", "3", "4", "3", "0,5", "carp", "900"], "catch.length_mm"),
        (["14.06.1726", "09:30", "Old weir", "euro", "3", "4", "3", "0,5", "", ""], "outside the years"),
        (['14.06.2026"', '"', "Old weir", "euro", "3", "4", "3", "0,5", "", ""], "Line"),
    ],
)  # fmt: skip
def test_diary__that_cannot_be_read_says_where_and_leaves_nothing(
    stranger: Bank, rows: psycopg.Connection, row: list[str], said: str
) -> None:
    ended = take(
        stranger,
        sheet([row, *DIARY]),
        "csv",
        beat_id=stranger.beat["id"],
        columns=COLUMNS,
        zone="Europe/Vienna",
    )
    assert ended["state"] == "failed"
    assert said.lower() in ended["message"].lower()
    assert count(rows, "outing") == 0


BOMB = b'<?xml version="1.0"?><!DOCTYPE g [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><gpx><wpt lat="1" lon="2"/></gpx>'


@pytest.mark.parametrize(
    ("kind", "text", "said"),
    [
        ("json", b"", "line 1, column 1: the file ends too early"),
        ("json", b'{"format": 4, "tables": {"river": [\n  {"id": 1}]}}', "line 2, column 3: river."),
        ("json", b'{"format": 4,\n "tables": {"river": [}', "line 2, column 23: this is not JSON"),
        ("json", b'{"format": 9, "tables": {}}', "not a format that is known"),
        ("json", b'{"tables": {}}', "its format is not said"),
        ("json", b'{"format": 4}', "no tables in it"),
        ("json", b'{"format": 4, "tables": {"lie": [' + b"[" * 100_000, "nested too deeply"),
        ("json", b'{"format": 4, "tables": {"lie": [NaN]}}', "NaN is no number"),
        ("json", b'{"format": 4, "tables": {}} {}', "nothing is wanted behind the end"),
        ("json", b'\xff{"format": 4}', "line 1, column 1: this is not UTF-8"),
        ("csv", b"PK\x03\x04....", "workbook or an archive"),
        ("csv", b"\xff\xfe\x00", "not UTF-8"),
        ("csv", b"one\n2\n", "one column"),
        ("gpx", BOMB, "entities of its own"),
        ("gpx", b"<gpx><wpt lat='91' lon='2'/></gpx>", "waypoint 1: lat = '91'"),
        ("gpx", b"<kml/>", "'kml', not GPX"),
        ("gpx", b"<gpx><wpt", "line 1, column"),
        ("gpx", b"<gpx/>", "no waypoint"),
        ("gpx", b"<gpx>" + b"<wpt lat='1' lon='2'/>" * 500 + b"</gpx>", "more than 400"),
    ],
)  # fmt: skip
def test_hostile__gets_a_reason_and_leaves_nothing(
    stranger: Bank, rows: psycopg.Connection, kind: str, text: bytes, said: str
) -> None:
    lies = count(rows, "lie")
    ended = take(stranger, text, kind, beat_id=stranger.beat["id"])
    assert ended["state"] == "failed"
    assert said.lower() in ended["message"].lower()
    assert (count(rows, "lie"), count(rows, "outing")) == (lies, 0)


def test_file__that_is_too_large_is_refused_before_it_is_read(bank: Bank, rows: psycopg.Connection) -> None:
    state: Any = getattr(bank.client.app, "state")  # noqa: B009 - an ASGI app has none by its type
    known = state.settings
    state.settings = known.model_copy(update={"file_limit_bytes": 1000})
    sent = bank.client.put(f"/api/imports/log/{new_id()}", params={"format": "json"}, content=b"[" * 2000)
    state.settings = known
    assert sent.status_code == 413
    assert count(rows, "job") == 0


def test_job__that_is_to_stop_leaves_nothing(
    bank: Bank, stranger: Bank, logged: str, rows: psycopg.Connection, database: str, tmp_path: Path
) -> None:
    path = tmp_path / "log.json"
    path.write_bytes(bank.client.get("/api/export").content)
    angler, row = angler_of(stranger), new_id()
    rows.execute(
        "insert into job (id, angler_id, kind, state, rows, share, message, started_at)"
        " values (%s, %s, 'log', 'cancelling', 0, 0, '', now())",
        (row, angler),
    )
    before = rows_of(rows, angler)
    take_log(LogJob(database, UUID(angler), UUID(row), path, "json", dry=False))
    ended = stranger.client.get(f"/api/imports/{row}").json()
    assert (ended["state"], ended["message"]) == ("cancelled", "Stopped; nothing was taken in.")
    assert rows_of(rows, angler) == before
    assert bank.client.get(f"/api/imports/{row}").status_code == 404
    assert logged


def test_everything__hangs_nothing_under_another_s(
    bank: Bank, stranger: Bank, logged: str, rows: psycopg.Connection
) -> None:
    whole = json.loads(bank.client.get("/api/export").content)
    drift = whole["tables"]["drift"][0]
    stray = json.dumps({"format": 4, "tables": {"drift": [drift]}}).encode()
    assert "neither before it in the file nor yours" in take(stranger, stray, "json")["message"]
    twice = json.dumps({"format": 4, "tables": {"river": whole["tables"]["river"] * 2}}).encode()
    assert "stands here twice" in take(stranger, twice, "json")["message"]
    many = [whole["tables"]["river"][0] | {"id": new_id()} for _ in range(31)]
    full = json.dumps({"format": 4, "tables": {"river": many}}).encode()
    assert "more than 30 rivers" in take(stranger, full, "json")["message"]
    for name in ("csv", "pdf", "geojson", "gpx", "darwin-core"):
        assert stranger.client.get(f"/api/files/{name}", params={"outing": logged}).status_code == 404
    assert count(rows, "river") == 2


@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(data=st.data())
def test_mauled__is_all_taken_in_or_nothing_with_a_reason(
    bank: Bank, stranger: Bank, rows: psycopg.Connection, database: str, tmp_path: Path, data: st.DataObject
) -> None:
    kind = data.draw(st.sampled_from(("json", "csv", "gpx")))
    if not (tmp_path / "json").exists():
        outing, _, setting = bank.begin()
        bank.kept("catches", bank.fish(bank.kept("drifts", bank.drift(setting, outcome="fish"))))
        (tmp_path / "json").write_bytes(bank.client.get("/api/export").content)
        (tmp_path / "csv").write_bytes(file_of(bank, "csv", outing=outing))
        (tmp_path / "gpx").write_bytes(b"<gpx>\n<wpt lat='1' lon='2'>\n<name>a</name>\n</wpt>\n</gpx>\n")
    path = tmp_path / "log"
    path.write_bytes(data.draw(mauled((tmp_path / kind).read_bytes())))
    angler, row = angler_of(stranger), new_id()
    rows.execute(
        "insert into job (id, angler_id, kind, state, rows, share, message, started_at)"
        " values (%s, %s, 'log', 'running', 0, 0, '', now())",
        (row, angler),
    )
    before = rows_of(rows, angler)
    columns = guessed(next(csv.reader(io.StringIO((tmp_path / "csv").read_text()))))
    job = LogJob(
        database, UUID(angler), UUID(row), path, kind, dry=False,
        beat_id=UUID(stranger.beat["id"]), columns=columns,
    )  # fmt: skip
    take_log(job)
    ended = rows.execute("select state, message from job where id = %s", (row,)).fetchone()
    assert ended is not None
    state, message = ended
    assert state in ("done", "failed")
    assert "went wrong here" not in message
    if state == "failed":
        assert rows_of(rows, angler) == before
        assert len(message) > 20
    for path_read in ("/api/beats", "/api/outings", "/api/box"):
        assert stranger.client.get(path_read).status_code == 200


def test_made_id__follows_from_what_it_is_of() -> None:
    noon = datetime(2026, 6, 1, 12, tzinfo=UTC)
    one = made_id(noon, "drift", "a")
    assert one == made_id(noon, "drift", "a") != made_id(noon, "drift", "b")
    assert one[14] == "7"
    assert one[19] in "89ab"
    assert int(one.replace("-", "")[:12], 16) == noon.timestamp() * 1000
