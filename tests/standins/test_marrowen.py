"""The stand-in looks like a river, and writes what the adapters read. Truth: what the seasons do; the formats' readers."""

import io
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from fastapi.testclient import TestClient

from deriva.service.formats.gauge_csv import parse_csv
from deriva.service.formats.rdb import parse_rdb
from deriva.service.formats.read import whole
from deriva.service.formats.samples import Malformed, tidy
from deriva.service.formats.waterml import parse_waterml
from deriva.standins.app import create
from deriva.standins.marrowen import STEP, series

YEAR = series(datetime(2024, 1, 1, tzinfo=UTC), 365 * 24, timedelta(hours=1))


def test_river__any_stretch_is_the_same_river() -> None:
    part = series(datetime(2024, 5, 1, tzinfo=UTC), 48, timedelta(hours=1))
    k = 24 * 121
    assert part.start == YEAR.time(k)
    assert part.flow_m3_s == pytest.approx(YEAR.flow_m3_s[k : k + 48], rel=0.02)
    assert part.temperature_c == pytest.approx(YEAR.temperature_c[k : k + 48], abs=0.05)


def test_river__has_seasons_storms_and_warm_afternoons() -> None:
    flow, warm = YEAR.flow_m3_s, YEAR.temperature_c
    month = np.array([YEAR.time(k).month for k in range(len(flow))])
    assert np.median(flow[month == 8]) < np.median(flow[month == 2])
    assert np.median(flow[month == 5]) > np.median(flow[month == 8])
    assert warm[month == 7].mean() > 13.0
    assert warm[month == 1].mean() < 6.0
    assert flow.min() > 0.3
    assert flow.max() > 3.5 * np.median(flow)  # spates
    steps = np.diff(np.log(flow))
    assert steps.max() > 3.0 * -steps.min()  # up in hours, down over days
    july = warm[month == 7].reshape(-1, 24)
    assert july[:, 15].mean() > july[:, 5].mean() + 1.0


def test_formats__are_read_by_their_readers_and_agree() -> None:
    client = TestClient(create())
    span = {"start": "2026-05-01T00:00:00Z", "end": "2026-05-02T00:00:00Z"}
    texts = {kind: client.get("/iv", params={**span, "format": kind}) for kind in ("rdb", "waterml", "csv")}
    read = {
        "rdb": tidy(parse_rdb(texts["rdb"].text.splitlines())),
        "waterml": tidy(parse_waterml(io.BytesIO(texts["waterml"].content))),
        "csv": tidy(parse_csv(texts["csv"].text.splitlines())),
    }
    flows = {
        kind: [(s.at, s.value) for s in samples if s.parameter == "flow"] for kind, samples in read.items()
    }
    assert len(flows["rdb"]) == 97
    for kind in ("waterml", "csv"):
        assert [at for at, _ in flows[kind]] == [at for at, _ in flows["rdb"]]
        assert [v for _, v in flows[kind]] == pytest.approx([v for _, v in flows["rdb"]], rel=2e-3)
    daily = list(parse_rdb(client.get("/dv", params=span).text.splitlines()))
    assert daily[0].value == pytest.approx(np.mean([v for _, v in flows["rdb"][:-1]]), rel=0.02)


def test_now__is_the_end_of_what_is_served() -> None:
    client = TestClient(create())
    last = tidy(parse_rdb(client.get("/iv").text.splitlines()))[-1].at
    assert timedelta() <= datetime.now(UTC) - last < 2 * STEP
    weather = client.get("/weather").json()
    assert len(weather["time"]) == len(weather["wind_m_s"]) == 7 * 24 + 1
    assert (
        client.get("/iv", params={"start": "2030-01-01T00:00:00Z", "end": "2026-01-01T00:00:00Z"}).status_code
        == 400
    )


def test_faults__on_request() -> None:
    client = TestClient(create())
    client.post("/faults/error")
    assert client.get("/iv").status_code == 500
    client.post("/faults/half")
    # by how it ends: the middle of a file moves with the hour, and may be the end of a row
    with pytest.raises(Malformed):
        whole("rdb", client.get("/iv").content)
    client.post("/faults/jump")
    ahead = tidy(parse_rdb(client.get("/iv").text.splitlines()))[-1].at
    assert ahead > datetime.now(UTC) + timedelta(minutes=40)
    client.post("/faults/none")
    assert client.get("/iv").status_code == 200
    assert client.post("/faults/flood").status_code == 422
