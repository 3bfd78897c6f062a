"""Weather and sun: read over HTTP from the stand-in, well and broken; the sun against another library."""

import json
from datetime import UTC, datetime, timedelta, timezone
from typing import Any
from uuid import UUID

import httpx2 as httpx
import pandas as pd
import psycopg
import pvlib
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from deriva.service.adapters import gauge as adapter
from deriva.service.adapters.gauge import Sources, Unread
from deriva.service.adapters.sun import sun_at, sun_day
from deriva.service.formats.samples import Malformed
from deriva.service.formats.weather import parse_weather
from deriva.service.store.engine import connect
from deriva.service.usecases.river import refresh_weather
from deriva.standins.app import create
from deriva.standins.marrowen import series
from tests.databases import key_of
from tests.loops import run
from tests.service.anglers import Bank, new_id

BASE = "http://stand-in"


@given(
    st.floats(-60.0, 60.0),
    st.floats(-179.0, 179.0),
    st.datetimes(datetime(2001, 1, 1), datetime(2060, 1, 1), timezones=st.just(UTC)),
)
@settings(max_examples=40, deadline=None)
def test_sun__agrees_with_the_nrel_algorithm_of_pvlib(
    latitude: float, longitude: float, at: datetime
) -> None:
    """Against `pvlib`'s solar position algorithm (Reda & Andreas 2004, NREL), to a tenth of a degree in height."""
    theirs = pvlib.solarposition.get_solarposition(pd.DatetimeIndex([at]), latitude, longitude).iloc[0]
    height, bearing = sun_at(latitude=latitude, longitude=longitude, at=at)
    assert height == pytest.approx(float(theirs["elevation"]), abs=0.1)
    if abs(height) < 80.0:  # near the zenith a bearing means little
        off = (bearing - float(theirs["azimuth"]) + 180.0) % 360.0 - 180.0
        assert abs(off) < 1.0


def test_sun_day__turns_in_order_and_not_at_all_in_the_polar_night() -> None:
    day = sun_day(latitude=47.0, longitude=-15.0, at=datetime(2026, 5, 1, tzinfo=UTC))
    assert day.rises is not None
    assert day.sets is not None
    assert day.dark is not None
    assert day.rises < day.sets < day.dark
    winter = sun_day(latitude=80.0, longitude=0.0, at=datetime(2026, 12, 21, tzinfo=UTC))
    assert (winter.rises, winter.sets) == (None, None)


@pytest.mark.parametrize("longitude", [-179.0, -120.0, 0.0, 87.0, 174.0])
def test_sun_day__is_the_day_that_is_over_the_river(longitude: float) -> None:
    """Whatever the hour by Greenwich: asked at noon there, the sun has risen within half a day and sets within another."""
    noon = datetime(2026, 3, 20, 12, tzinfo=timezone(timedelta(hours=longitude / 15.0)))
    day = sun_day(latitude=47.0, longitude=longitude, at=noon)
    assert day.rises is not None
    assert day.sets is not None
    assert timedelta(0) < noon - day.rises < timedelta(hours=12)
    assert timedelta(0) < day.sets - noon < timedelta(hours=12)


GOOD = {
    "time": ["2026-05-01T11:00:00Z", "2026-05-01T10:00:00Z"],
    "air_c": [11.0, 10.0],
    "wind_m_s": [2.0, 3.0],
    "cloud": [0.5, 0.6],
    "rain_mm_h": [0.0, 1.0],
}


def test_weather__is_read_in_order_with_thunder_where_it_is_said() -> None:
    first, last = parse_weather(json.dumps(GOOD | {"thunder": [0.4, 0.0]}).encode())
    assert first.at < last.at
    assert (first.rain_mm_h, last.thunder) == (1.0, 0.4)


def test_weather__an_hour_twice_is_once_and_the_later_stands() -> None:
    twice = {name: json.loads(json.dumps(values)) * 2 for name, values in GOOD.items()}
    twice["air_c"] = [11.0, 10.0, 12.0, 10.0]
    hours = parse_weather(json.dumps(twice).encode())
    assert [hour.air_c for hour in hours] == [10.0, 12.0]


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"time": ["0001-01-01T00:00:00+14:00", "2026-05-01T10:00:00Z"]}, "time.0: the year 1 "),
        ({"cloud": [0.5, 1.6]}, "cloud.1"),
        ({"wind_m_s": [2.0]}, "1 values for 2 times"),
        ({"time": ["yesterday", "today"]}, "time.0"),
        ({"air_c": None}, "air_c"),
    ],
)
def test_weather__malformed_names_the_list_and_the_place(change: dict[str, Any], said: str) -> None:
    with pytest.raises(Malformed, match=said):
        parse_weather(json.dumps(GOOD | change).encode())
    with pytest.raises(Malformed, match="the whole"):
        parse_weather(b"<html>")


@pytest.mark.parametrize(
    ("url", "address"),
    [
        ("/iv?x=1", "http://gauges:81/iv?x=1"),
        ("https://water.example/iv", "https://water.example/iv"),
        ("http://169.254.169.254/latest", None),
        ("http://gauges:81/iv", None),
        ("//169.254.169.254/latest", None),
        ("https://water.example@10.0.0.1/iv", None),
        ("file:///etc/passwd", None),
    ],
)
def test_sources__no_address_makes_the_service_knock_at_other_doors(url: str, address: str | None) -> None:
    known = Sources.of("http://gauges:81/", " water.example , ")
    if address is not None:
        assert known.address(url) == address
        return
    with pytest.raises(Unread, match="not read here"):
        known.address(url)


@pytest.fixture
def river(rows: psycopg.Connection, monkeypatch: pytest.MonkeyPatch) -> UUID:
    """The demo angler's river, placed, with its weather at the stand-in."""
    monkeypatch.setattr(adapter, "PAUSE_S", 0.0)
    row = rows.execute(
        "update river set latitude = 47, longitude = -15, weather_url = '/weather?start={start}&end={end}'"
        " where angler_id in (select id from angler where demo) returning id"
    ).fetchone()
    assert row is not None
    found: UUID = row[0]
    return found


def read_weather(database: str, river: UUID, fault: str = "none") -> None:
    async def work() -> None:
        engine, sessions = connect(database)
        transport = httpx.ASGITransport(app=create())
        async with httpx.AsyncClient(transport=transport, base_url=BASE) as client:
            await client.post(f"/faults/{fault}")
            await refresh_weather(sessions, [key_of(database, "river", river)], client, sources=Sources(BASE))
        await engine.dispose()

    run(work())


def today(bank: Bank) -> dict[str, Any]:
    answer = bank.client.get(f"/api/beats/{bank.beat['id']}/today")
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def test_today__has_the_weather_of_the_hour_and_the_sun(bank: Bank, river: UUID, database: str) -> None:
    assert today(bank)["weather"] is None
    read_weather(database, river)
    out = today(bank)
    truth = series(datetime.fromisoformat(out["weather"]["at"]), 1, timedelta(hours=1))
    assert out["weather"]["air_c"] == pytest.approx(float(truth.air_c[0]), abs=0.06)
    assert out["weather"]["wind_m_s"] == pytest.approx(float(truth.wind_m_s[0]), abs=0.06)
    assert out["weather"]["sky_words"]
    assert out["weather"]["wind_words"].startswith("Wind ")
    assert out["weather"]["trouble"] is None
    assert -90.0 <= out["light"]["height_deg"] <= 90.0
    assert out["light"]["words"]


@pytest.mark.parametrize(
    ("fault", "said"), [("error", "the weather answered 500"), ("half", "could not be read")]
)
def test_broken_weather__the_last_foretold_hours_stand_and_the_reason_is_said(
    bank: Bank, river: UUID, database: str, fault: str, said: str
) -> None:
    read_weather(database, river)
    before = today(bank)["weather"]
    read_weather(database, river, fault)
    after = today(bank)["weather"]
    assert said in after["trouble"]
    assert after["air_c"] == before["air_c"]
    assert after["read_at"] == before["read_at"]


def test_closed_season_and_thunder__stand_first(
    bank: Bank, river: UUID, database: str, rows: psycopg.Connection
) -> None:
    read_weather(database, river)
    rows.execute("update weather_hour set thunder = 0.9")
    day = datetime.now(UTC) - timedelta(days=40)
    rules = bank.beat["rules"] | {"season_first": f"{day:%m-%d}", "season_last": f"{day:%m-%d}"}
    body = {
        name: bank.beat[name] for name in ("river_id", "name", "position", "rules_text", "wading_allowed")
    }
    answer = bank.client.put(
        f"/api/beats/{bank.beat['id']}", json={**body, "rules": rules, "flows_to_deg": 90.0}
    )
    assert answer.status_code == 200, answer.text
    cautions = today(bank)["cautions"]
    assert [one["code"] for one in cautions if one["level"] == "stop"] == ["closed", "storm"]
    assert cautions[0]["text"].startswith("Closed today")


def test_river_and_gauge__are_set_up_over_the_api_and_bad_addresses_refused(bank: Bank) -> None:
    river, gauge = new_id(), new_id()
    made = bank.client.put(
        f"/api/rivers/{river}", json={"name": "Sallow brook", "latitude": 47.0, "longitude": -15.0}
    )
    assert made.status_code == 200, made.text
    body = {"river_id": river, "name": "SB-1", "format": "csv", "url": "http://10.0.0.1/iv"}
    refused = bank.client.put(f"/api/gauges/{gauge}", json=body)
    assert refused.status_code == 422
    assert refused.json()["faults"][0]["field"] == "url"
    assert "10.0.0.1 is not read here" in refused.json()["faults"][0]["message"]
    for wrong in ({"latitude": 91.0}, {"weather_url": "ftp://weather"}, {"latitude": "north"}):
        answer = bank.client.put(f"/api/rivers/{new_id()}", json={"name": "x"} | wrong)
        assert answer.status_code == 422, wrong
    found = next(one for one in bank.client.get("/api/rivers").json() if one["id"] == river)
    assert (found["name"], found["latitude"], found["gauge"]) == ("Sallow brook", 47.0, None)
