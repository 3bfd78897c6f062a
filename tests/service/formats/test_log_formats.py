"""Formats of a log by themselves. Truth: Python's own readers of the same text (json, csv, XML); round trips of drawn logs."""

import csv
import io
import json
import math
import zipfile
from datetime import UTC, datetime, timedelta, timezone
from typing import Any
from uuid import UUID
from xml.etree.ElementTree import fromstring

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from deriva.service.formats import everything, gpx, log_csv
from deriva.service.formats.book import Book, Drift, Fish, Setting, Stop, Wanted
from deriva.service.formats.darwin_core import DarwinCore
from deriva.service.formats.geojson import GeoJson
from deriva.service.formats.log_csv import LogCsv
from deriva.service.formats.outing_pdf import OutingPdf
from deriva.service.formats.places import CELL_DEG, point
from deriva.service.formats.registry import FORMATS
from deriva.service.formats.samples import Malformed

NOON = datetime(2026, 6, 1, 12, tzinfo=UTC)
WORDS = st.text(st.characters(min_codepoint=32, blacklist_categories=["Cs"]), min_size=1, max_size=20)
NASTY = st.sampled_from(['a"b', "a,b", "=1+1", "ß§\u2028", "<b>&amp;", "'=x", "a;b\tc", "{}"]) | WORDS
IDS = st.integers(0, 2**128 - 1).map(lambda n: UUID(int=n))
DEGREES = st.tuples(st.floats(-89.9, 89.9), st.floats(-179.9, 179.9))


@st.composite
def books(draw: st.DrawFn) -> Book:
    """Draw an outing."""

    def drift(k: int) -> Drift:
        at = NOON + timedelta(seconds=40 * k)
        fish = [
            Fish(
                draw(IDS),
                at,
                draw(NASTY),
                draw(st.none() | st.floats(50, 900)),
                "eye",
                None,
                "point",
                "drop",
                None,
            )
            for _ in range(draw(st.integers(0, 2)))
        ]
        outcome = "fish" if fish else draw(st.sampled_from(["clean", "tick", "hung", "missed", "lost_fly"]))
        return Drift(
            draw(IDS),
            at,
            outcome,
            draw(st.none() | st.just("same")),
            1,
            None,
            "up",
            False,
            True,
            "both",
            fish,
        )

    def setting() -> Setting:
        drifts = [drift(k) for k in range(draw(st.integers(0, 3)))]
        return Setting(NOON, "euro", 1.0, 3.0, draw(st.none() | NASTY), 14, 5, drifts)

    stops = [
        Stop(
            draw(IDS), NOON, draw(IDS), draw(NASTY), draw(st.none() | st.just("run")), draw(st.none() | st.floats(0.2, 3)),
            0.5, 1.0, 11.0, draw(st.none() | DEGREES),
            [setting() for _ in range(draw(st.integers(0, 2)))],
        )
        for _ in range(draw(st.integers(0, 3)))
    ]  # fmt: skip
    ended = draw(st.none() | st.just(NOON + timedelta(hours=3)))
    return Book(
        draw(IDS), draw(NASTY), draw(NASTY), draw(st.none() | DEGREES), NOON, ended, [draw(NASTY)], stops
    )


def written(name: str, outings: list[Book], *, exact: bool = True) -> bytes:
    kind = FORMATS[name].writer
    assert kind is not None
    writer = kind(Wanted(exact=exact))
    return writer.head() + b"".join(writer.add([one]) for one in outings) + writer.foot()


def drifts_of(outings: list[Book]) -> list[Drift]:
    return [drift for book in outings for stop in book.stops for drift in stop.drifts]


@given(outings=st.lists(books(), max_size=3))
def test_csv__is_read_back_cell_by_cell(outings: list[Book]) -> None:
    table = list(csv.DictReader(io.StringIO(written("csv", outings).decode())))
    drifts = drifts_of(outings)
    assert len(table) == sum(max(1, len(drift.fish)) for drift in drifts)
    assert {row["drift_id"] for row in table} == {str(drift.id) for drift in drifts}
    assert not any(str(cell).startswith(log_csv.FORMULA) for row in table for cell in row.values())
    lies = {stop.lie for book in outings for stop in book.stops if any(True for _ in stop.drifts)}
    assert {log_csv.armed(row["lie"]) for row in table} == {
        log_csv.armed(str(log_csv.defused(lie))) for lie in lies
    }


@given(outings=st.lists(books(), max_size=3), exact=st.booleans())
def test_geojson__is_json_with_a_feature_a_stop(outings: list[Book], exact: bool) -> None:
    whole = json.loads(written("geojson", outings, exact=exact))
    stops = [(book, stop) for book in outings for stop in book.stops]
    assert [one["id"] for one in whole["features"]] == [str(stop.id) for _, stop in stops]
    for one, (book, stop) in zip(whole["features"], stops, strict=True):
        place = stop.place or book.river_place
        assert (one["geometry"] is None) is (place is None)
        assert one["properties"]["lie"] == stop.lie
        if place is not None and exact:
            assert one["geometry"]["coordinates"] == [place[1], place[0]]


@given(outings=st.lists(books(), min_size=1, max_size=2))
def test_darwin_core__has_every_stop_and_fish_whatever_they_are_called(outings: list[Book]) -> None:
    with zipfile.ZipFile(io.BytesIO(written("darwin-core", outings))) as archive:
        fromstring(archive.read("meta.xml"))  # noqa: S314 - our own
        fromstring(archive.read("eml.xml"))  # noqa: S314
        rows = {
            name: list(
                csv.DictReader(io.StringIO(archive.read(name).decode(), newline=""), dialect="excel-tab")
            )
            for name in ("event.txt", "occurrence.txt")
        }
    stops = [stop for book in outings for stop in book.stops]
    assert [row["eventID"] for row in rows["event.txt"]] == [str(stop.id) for stop in stops]
    fish = [one for drift in drifts_of(outings) for one in drift.fish]
    assert [row["vernacularName"] for row in rows["occurrence.txt"]] == [one.species for one in fish]
    assert all(None not in row for found in rows.values() for row in found)


@given(outing=books())
def test_report_and_waypoints__are_made_of_any_outing(outing: Book) -> None:
    assert written("pdf", [outing]).startswith(b"%PDF")
    text = written("gpx", [outing])
    there = {stop.lie_id: stop for stop in outing.stops if stop.place is not None}
    if not there:
        with pytest.raises(Malformed, match="no waypoint"):
            list(gpx.read(io.BytesIO(text)))
        return
    found = list(gpx.read(io.BytesIO(text)))
    assert len(found) == len(there)
    for one, stop in zip(found, there.values(), strict=True):
        assert stop.place is not None
        assert (one.latitude, one.longitude) == pytest.approx(stop.place, abs=1e-6)


@given(place=DEGREES)
def test_point__that_is_hidden_is_the_same_for_all_of_its_cell_and_says_how_far_off_it_may_be(
    place: tuple[float, float],
) -> None:
    hidden = point(place, exact=False)
    assert hidden is not None
    assert hidden.within_m is not None
    north = (place[0] - hidden.latitude) * 111_195.0
    east = (place[1] - hidden.longitude) * 111_195.0 * math.cos(math.radians(hidden.latitude))
    assert math.hypot(north, east) <= 1.02 * hidden.within_m + 1.0
    assert abs(place[0] - hidden.latitude) <= CELL_DEG / 2.0 + 1e-9
    again = point((hidden.latitude, hidden.longitude), exact=False)
    assert again == hidden


JSON = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-(10**9), 10**9)
    | st.floats(allow_nan=False, allow_infinity=False)
    | WORDS,
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(WORDS, inner, max_size=3),
    max_leaves=8,
)
TABLES = st.dictionaries(
    st.sampled_from(["river", "lie", "drift", "change"]), st.lists(JSON, max_size=4), max_size=4
)


@given(
    tables=TABLES,
    more=st.dictionaries(st.sampled_from(["angler", "version"]), JSON),
    indent=st.none() | st.integers(0, 3),
)
def test_everything__is_read_as_json_reads_it_with_the_line_of_each_row(
    tables: dict[str, list[Any]], more: dict[str, Any], indent: int | None
) -> None:
    text = json.dumps({"format": 4, **more, "tables": tables}, indent=indent, ensure_ascii=False)
    found = list(everything.read(io.BytesIO(text.encode())))
    assert [(one.table, one.row) for one in found] == [
        (table, row) for table, rows in tables.items() for row in rows
    ]
    lines = text.split("\n")
    for one in found:
        rest = lines[one.line - 1][one.column - 1 :]
        begins = json.dumps(one.row, ensure_ascii=False)[0]
        assert rest.startswith(begins)


@given(text=st.binary(max_size=200) | st.text(max_size=200).map(str.encode))
@example(b'{"format": 4, "tables": {"a": [1e999]}}')
@example(b'{"format": 4, "tables": {"a": [' + b"9" * 6000 + b"]}}")
@example(b'{"format": 4, "format": 4}')
@example(b'{"a" 1}')
@example(b"[1]")
def test_everything__that_is_no_such_file_is_malformed_and_nothing_else(text: bytes) -> None:
    try:
        list(everything.read(io.BytesIO(text)))
    except Malformed as error:
        assert isinstance(error.line, int)
        assert error.message


@given(text=st.binary(max_size=300) | st.text(max_size=300).map(str.encode))
@example(b'a,b\n"unfinished,1\n')
@example(b"a,b\r1,2\r")
def test_table__that_cannot_be_read_is_malformed_and_nothing_else(text: bytes) -> None:
    try:
        headers, rows = log_csv.table(io.BytesIO(text))
        for line, row in rows:
            assert line >= 1
            assert all(isinstance(cell, str) for cell in row)
        assert len(headers) > 1
    except Malformed as error:
        assert error.message


@pytest.mark.parametrize(
    ("field", "header", "cell", "value"),
    [
        ("depth_m", "Depth [ft]", "3", 0.9144), ("depth_m", "depth (cm)", "85", 0.85), ("depth_m", "Depth", "1,2", 1.2),
        ("length_mm", "Length (in)", "12", 304.8), ("length_mm", "Length [cm]", "31", 310.0),
        ("surface_speed_m_s", "Speed [ft/s]", "2", 0.6096), ("temperature_c", "Water (F)", "50", 10.0),
        ("temperature_c", "Water [degF]", "50", 10.0), ("temperature_c", "t [Cel]", "7.5", 7.5), ("lane", "Lane", "2", 2),
        ("tippet_x", "tippet[X]", "5", 5), ("point_bead_mm", "Bead", "2 .5", 2.5),
    ],
)  # fmt: skip
def test_number__is_in_si_whatever_the_header_says(field: str, header: str, cell: str, value: float) -> None:
    """Inch 25.4 mm and foot 0.3048 m by definition; 50 °F are 10 °C."""
    text = f"time;{header}\n2026-06-01;{cell}\n"
    (row,) = log_csv.read(io.BytesIO(text.encode()), {"time": "time", field: header}, UTC)
    assert row.cells[field] == pytest.approx(value)


@pytest.mark.parametrize(
    ("said", "at"),
    [
        ("2026-06-01 14:30", NOON + timedelta(minutes=30)), ("2026-06-01T12:30:00Z", NOON + timedelta(minutes=30)),
        ("1.6.2026 14:30", NOON + timedelta(minutes=30)), ("2026-06-01T14:30:30+02:00", NOON + timedelta(minutes=30.5)),
    ],
)  # fmt: skip
def test_time__without_an_offset_is_of_the_zone_that_was_said(said: str, at: datetime) -> None:
    text = f"when\tlie\n{said}\tpool\n".encode("utf-16")
    zone = timezone(timedelta(hours=2))
    (row,) = log_csv.read(io.BytesIO(text), {"time": "when", "lie": "lie"}, zone)
    assert row.cells["time"] == at


@pytest.mark.parametrize(
    ("text", "columns", "said"),
    [
        ("time,depth [fathom]\n2026-06-01,1\n", {"time": "time", "depth_m": "depth [fathom]"}, "in fathom"),
        ("time,lie\n06/01/2026,a\n", {"time": "time", "lie": "lie"}, "line 2, column 1"),
        ("time,lie\n2026-06-01,a\n\n2026-13-01,b\n", {"time": "time", "lie": "lie"}, "line 4, column 1"),
        ("time,dried\n2026-06-01,maybe\n", {"time": "time", "dried": "dried"}, "neither true nor false"),
        ("time,lie,lie\n2026-06-01,a,b\n", {"time": "time"}, "two columns"),
        ("time,lie\n2026-06-01,a\n", {"time": "when"}, "no column “when”"),
    ],
)
def test_table__says_where_it_cannot_be_read(text: str, columns: dict[str, str], said: str) -> None:
    with pytest.raises(Malformed, match=said.replace("[", r"\[")):
        list(log_csv.read(io.BytesIO(text.encode()), columns, UTC))


def test_guess__knows_its_own_headers_and_those_of_a_diary() -> None:
    own = log_csv.guessed(log_csv.COLUMNS)
    assert own["point_bead_mm"] == "point_bead[mm]"
    assert own["length_mm"] == "length[mm]"
    assert own["drift_id"] == "drift_id"
    assert set(own.values()) <= set(log_csv.COLUMNS)
    assert len(set(own.values())) == len(own)
    assert log_csv.guessed(["Day", "Hour", "Pool", "Bead", "Result", "Notes"]) == {
        "date": "Day", "clock": "Hour", "lie": "Pool", "point_bead_mm": "Bead", "outcome": "Result",
    }  # fmt: skip


def test_registry__names_every_writer_once() -> None:
    kinds = {type(one.writer(Wanted())) for one in FORMATS.values() if one.writer}
    assert kinds == {LogCsv, GeoJson, DarwinCore, OutingPdf, gpx.Gpx}
    assert all(one.holds and one.loses for one in FORMATS.values())
