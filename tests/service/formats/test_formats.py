"""Gauge formats. Truth: documents written by hand after the formats' own descriptions (USGS RDB, OGC 10-126r4), from
memory; other people's readers (`dataretrieval`, `owslib`) of the same documents; round trips of drawn series. The foot is
0.3048 m by definition."""

import io
import json
import math
from datetime import UTC, datetime, timedelta

import pytest
from dataretrieval.rdb import read_rdb
from defusedxml.ElementTree import fromstring
from hypothesis import given
from hypothesis import strategies as st
from owslib.swe.observation.waterml2 import MeasurementTimeseriesObservation

from deriva.service.formats.gauge_csv import parse_csv
from deriva.service.formats.rdb import parse_rdb, worth_of
from deriva.service.formats.samples import Malformed, Sample, tidy
from deriva.service.formats.waterml import parse_waterml
from deriva.service.formats.weather import parse_weather
from deriva.standins import app as standin
from deriva.standins.marrowen import series
from tests.service.mauled import mauled

RDB = """# Data provided for site 01234567
#    TS   parameter  Description
#    12   00060      Discharge, cubic feet per second
agency_cd\tsite_no\tdatetime\ttz_cd\t12_00060\t12_00060_cd\t13_00010\t13_00010_cd\t14_00400\t14_00400_cd
5s\t15s\t20d\t6s\t14n\t10s\t14n\t10s\t14n\t10s
USGS\t01234567\t2026-05-01 07:00\tEDT\t100\tA\t11.4\tP\t7.1\tP
USGS\t01234567\t2026-05-01 07:15\tEDT\tIce\tP\t-999999\tP\t7.1\tP
USGS\t01234567\t2026-05-01 07:30\tEDT\t110\tA:e\t\t\t7.1\tP
"""

DAILY = """# daily means
agency_cd\tsite_no\tdatetime\t12_00060_00003\t12_00060_00003_cd\t12_00060_00001\t12_00060_00001_cd
5s\t15s\t20d\t14n\t10s\t14n\t10s
USGS\t01234567\t2025-05-01\t353.147\tA\t400\tA
"""

WATERML = """<?xml version="1.0" encoding="UTF-8"?>
<wml2:Collection xmlns:wml2="http://www.opengis.net/waterml/2.0" xmlns:om="http://www.opengis.net/om/2.0"
  xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:swe="http://www.opengis.net/swe/2.0">
 <wml2:observationMember><om:OM_Observation>
  <om:observedProperty xlink:href="urn:example:river-discharge" xlink:title="Discharge"/>
  <om:result><wml2:MeasurementTimeseries>
   <wml2:defaultPointMetadata><wml2:DefaultTVPMeasurementMetadata>
     <wml2:quality xlink:href="http://www.opengis.net/def/waterml/2.0/quality/unchecked"/>
     <wml2:uom code="{uom}"/>
   </wml2:DefaultTVPMeasurementMetadata></wml2:defaultPointMetadata>
   <wml2:point><wml2:MeasurementTVP><wml2:time>2026-05-01T11:00:00Z</wml2:time><wml2:value>3.20</wml2:value></wml2:MeasurementTVP></wml2:point>
   <wml2:point><wml2:MeasurementTVP><wml2:time>2026-05-01T13:15:00+02:00</wml2:time><wml2:value>{value}</wml2:value>
     <wml2:metadata><wml2:TVPMeasurementMetadata><wml2:quality xlink:title="Estimate"/></wml2:TVPMeasurementMetadata></wml2:metadata>
   </wml2:MeasurementTVP></wml2:point>
   <wml2:point><wml2:MeasurementTVP><wml2:time>2026-05-01T11:30:00Z</wml2:time><wml2:value/>
     <wml2:metadata><wml2:TVPMeasurementMetadata><wml2:nilReason>withheld</wml2:nilReason></wml2:TVPMeasurementMetadata></wml2:metadata>
   </wml2:MeasurementTVP></wml2:point>
   <wml2:point><wml2:MeasurementTVP><wml2:time>2026-05-01T11:45:00Z</wml2:time><wml2:value>3.3</wml2:value>
     <wml2:metadata><wml2:TVPMeasurementMetadata><wml2:qualifier><swe:Category><swe:value>Ice</swe:value></swe:Category></wml2:qualifier></wml2:TVPMeasurementMetadata></wml2:metadata>
   </wml2:MeasurementTVP></wml2:point>
  </wml2:MeasurementTimeseries></om:result>
 </om:OM_Observation></wml2:observationMember>
 <wml2:observationMember><om:OM_Observation><om:observedProperty xlink:title="Wind speed"/></om:OM_Observation></wml2:observationMember>
</wml2:Collection>"""  # noqa: E501


def xml(text: bytes) -> list[Sample]:
    return list(parse_waterml(io.BytesIO(text)))


def waterml(uom: str = "m3/s", value: str = "3.25") -> bytes:
    return WATERML.replace("{uom}", uom).replace("{value}", value).encode()


def at(hour: int, minute: int, day: int = 1) -> datetime:
    return datetime(2026, 5, day, hour, minute, tzinfo=UTC)


def test_rdb__instantaneous_with_zone_units_and_qualifiers() -> None:
    flow = [s for s in parse_rdb(RDB.splitlines()) if s.parameter == "flow"]
    heat = [s for s in parse_rdb(RDB.splitlines()) if s.parameter == "temperature"]
    assert flow[0] == Sample("flow", at(11, 0), pytest.approx(2.8316847), "good", "A")  # type: ignore[arg-type]
    assert flow[1] == Sample("flow", at(11, 15), None, "ice", "Ice")
    assert (flow[2].worth, flow[2].code) == ("estimated", "A:e")
    assert (heat[0].value, heat[0].worth) == (11.4, "provisional")
    assert [h.worth for h in heat[1:]] == ["missing", "missing"]


def test_rdb__daily_mean_at_noon_and_no_other_statistic() -> None:
    (sample,) = parse_rdb(DAILY.splitlines())
    assert sample.at == datetime(2025, 5, 1, 12, tzinfo=UTC)
    assert sample.value == pytest.approx(10.0, rel=1e-5)


@pytest.mark.parametrize(
    ("code", "worth"),
    [
        ("A", "good"),
        ("P", "provisional"),
        ("P e", "estimated"),
        ("A:e", "estimated"),
        ("P Ice", "ice"),
        ("", "good"),
    ],
)
def test_rdb__qualifiers(code: str, worth: str) -> None:
    assert worth_of(code) == worth


@pytest.mark.parametrize(
    ("old", "new", "line", "column", "said"),
    [
        ("\t100\t", "\tten\u00a0m\t", 6, "12_00060", "is not a number"),
        ("07:15\tEDT", "07:15\tXYZ", 7, "tz_cd", "'XYZ' is not a time zone"),
        ("2026-05-01 07:30", "May 1st", 8, "datetime", "is not a time like"),
        ("2026-05-01 07:30", "2026-02-30 07:30", 8, "datetime", "day"),
        ("\t110\tA:e", "\t110", 8, 9, "9 cells where the header has 10"),
        ("5s\t15s\t20d\t6s\t14n\t10s\t14n\t10s\t14n\t10s\n", "", 5, 1, "row of types"),
        ("datetime", "moment", 4, 1, "no column `datetime`"),
        ("00060", "99999", 6, 1, ""),
    ],
)
def test_rdb__malformed_names_line_and_column(
    old: str, new: str, line: int, column: int | str, said: str
) -> None:
    text = RDB.replace(old, new)
    if not said:  # another parameter goes unread, and the temperature stands
        assert {s.parameter for s in parse_rdb(text.splitlines())} == {"temperature"}
        return
    with pytest.raises(Malformed, match=said) as caught:
        list(parse_rdb(text.splitlines()))
    assert (caught.value.line, caught.value.column) == (line, column)


def test_rdb__half_a_file_and_none() -> None:
    with pytest.raises(Malformed, match="without a header"):
        list(parse_rdb(["# only words"]))
    with pytest.raises(Malformed, match="cells where the header"):
        list(parse_rdb(RDB[:-30].splitlines()))


def test_waterml__defaults_quality_nil_and_units() -> None:
    samples = xml(waterml())
    assert [(s.at, s.value, s.worth) for s in samples] == [
        (at(11, 0), 3.20, "provisional"),
        (at(11, 15), 3.25, "estimated"),
        (at(11, 30), None, "missing"),
        (at(11, 45), 3.3, "ice"),
    ]
    feet = xml(waterml(uom="ft3/s"))
    assert feet[0].value == pytest.approx(3.20 * 0.3048**3)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        (b"<a><b></a>", "line 1, column"),
        (b"<a/>", "no observation"),
        (waterml(uom="furlong"), "'furlong' is not a unit of flow"),
        (waterml(value="lots"), "observation 1, point 2: 'lots' is not a number"),
        (b'<!DOCTYPE x [<!ENTITY a "b"><!ENTITY c "&a;&a;">]><x>&c;</x>', "this XML is not read"),
    ],
)
def test_waterml__malformed_says_where(text: bytes, said: str) -> None:
    with pytest.raises(Malformed, match=said):
        xml(text)


def test_csv__units_in_headers_and_words_for_worth() -> None:
    text = (
        "time,flow[ft3/s],Temperature[DegF],qualifier\n"
        "2026-05-01T13:00:00+02:00,100,50,provisional\n"
        "2026-05-01T11:15:00+00:00,,51,ice\n"
    )
    samples = list(parse_csv(text.splitlines()))
    assert samples[0] == Sample("flow", at(11, 0), pytest.approx(2.8316847), "provisional", "provisional")  # type: ignore[arg-type]
    assert samples[1].value == pytest.approx(10.0)
    assert (samples[2].value, samples[2].worth) == (None, "ice")
    assert samples[3].worth == "ice"


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "line 1, column 1: the first row names no column `time`"),
        ("time,colour\n", "no column of a parameter"),
        ("time,flow[m3/s]\nyesterday,3\n", "line 2, column time: 'yesterday'"),
        ("time,flow[m3/s]\n2026-05-01T11:00:00,3\n", "no offset from UTC"),
        ("time,flow[m3/s]\n2026-05-01T11:00:00Z,3..1\n", "line 2, column flow\\[m3/s\\]: '3..1'"),
        ("time,flow[m3/s]\n0001-01-01T00:00:00+14:00,3\n", "line 2, column time: the year 1 "),
        ("time,flow[m3/s]\n2026-05-01T11:00:00Z," + "9" * 140_000 + "\n", "line 2"),
        ("time,flow[m3/s]\n2026-05-01T11:00:00Z\n", "1 cells where the header has 2"),
    ],
)
def test_csv__malformed_names_line_and_column(text: str, said: str) -> None:
    with pytest.raises(Malformed, match=said):
        list(parse_csv(text.splitlines()))


SERIES = st.lists(
    st.tuples(st.integers(0, 10_000), st.floats(0.01, 500.0).map(lambda v: round(v, 3))),
    min_size=1,
    max_size=20,
    unique_by=lambda pair: pair[0],
)


@given(SERIES)
def test_round_trip__what_a_gauge_wrote_is_what_is_read(series: list[tuple[int, float]]) -> None:
    start = datetime(2026, 1, 1, tzinfo=UTC)
    times = [start + timedelta(minutes=15 * k) for k, _ in series]
    head = "agency_cd\tsite_no\tdatetime\ttz_cd\t1_00060\t1_00060_cd\n5s\t15s\t20d\t6s\t14n\t10s\n"
    rows = "".join(
        f"X\t1\t{t:%Y-%m-%d %H:%M}\tUTC\t{v / 0.3048**3!r}\tA\n"
        for t, (_, v) in zip(times, series, strict=True)
    )
    by_rdb = tidy(parse_rdb((head + rows).splitlines()))
    text = "time,flow[m3/s]\n" + "".join(
        f"{t.isoformat()},{v}\n" for t, (_, v) in zip(times, series, strict=True)
    )
    by_csv = tidy(parse_csv(text.splitlines()))
    assert [(s.at, s.value) for s in by_csv] == sorted(zip(times, (v for _, v in series), strict=True))
    assert [s.at for s in by_rdb] == [s.at for s in by_csv]
    assert [s.value for s in by_rdb] == pytest.approx([s.value for s in by_csv])


def test_tidy__sorts_and_lets_the_later_of_two_stand() -> None:
    first, second = Sample("flow", at(11, 0), 1.0, "provisional"), Sample("flow", at(11, 0), 1.1, "good")
    early = Sample("flow", at(10, 0), 0.9, "good")
    assert tidy([first, second, early]) == [early, second]


START = datetime(2026, 5, 1, tzinfo=UTC)
WROTE = series(START, 6)
DOCUMENTS: dict[str, bytes] = {
    "rdb": standin.rdb(WROTE, START).encode(),
    "csv": standin.plain_csv(WROTE, START).encode(),
    "waterml": standin.waterml(WROTE, START).replace("><", ">\n<").encode(),
    "weather": json.dumps(
        {
            "time": [START.isoformat(), (START + timedelta(hours=1)).isoformat()],
            "air_c": [11.0, 10.0], "wind_m_s": [2.0, 3.0], "cloud": [0.5, 0.6], "rain_mm_h": [0.0, 1.0],
        },
        indent=1,
    ).encode(),
}  # fmt: skip


@pytest.mark.parametrize("kind", DOCUMENTS)
@given(data=st.data())
def test_anything__is_read_or_refused_with_a_place(kind: str, data: st.DataObject) -> None:
    text = data.draw(mauled(DOCUMENTS[kind]) | st.binary(max_size=200))
    try:
        if kind == "weather":
            assert all(math.isfinite(one.air_c) for one in parse_weather(text))
            return
        lines = text.decode("utf-8", "replace").splitlines()
        samples = xml(text) if kind == "waterml" else list((parse_rdb if kind == "rdb" else parse_csv)(lines))
    except Malformed as error:
        assert error.message
        assert "\0" not in str(error)  # it goes into the database
        assert kind in ("waterml", "weather") or error.line >= 1
    else:
        assert all(one.value is None or math.isfinite(one.value) for one in samples)
        assert all(one.at.tzinfo is not None and 1800 < one.at.year < 2200 for one in samples)


def test_rdb__read_the_same_by_dataretrieval() -> None:
    """The stand-in's RDB, read here and by `dataretrieval`'s own reader: the same discharge, stage and temperature."""
    now = datetime(2026, 5, 1, tzinfo=UTC)
    text = standin.rdb(series(now - timedelta(days=2), 180), now)
    theirs = read_rdb(text, dtypes=dict.fromkeys(("1_00060", "1_00065", "1_00010"), float))
    ours = list(parse_rdb(text.splitlines()))
    for column, parameter, unit in (
        ("1_00060", "flow", 0.3048**3), ("1_00065", "stage", 0.3048), ("1_00010", "temperature", 1.0),
    ):  # fmt: skip
        mine = [sample for sample in ours if sample.parameter == parameter]
        assert [sample.value for sample in mine] == pytest.approx((theirs[column] * unit).tolist())
        stamps = [f"{sample.at:%Y-%m-%d %H:%M}" for sample in mine]
        assert stamps == theirs["datetime"].astype(str).str.slice(0, 16).tolist()


def test_waterml__read_the_same_by_owslib() -> None:
    """The stand-in's WaterML 2.0, read here and by OWSLib's reader: the same times and values."""
    now = datetime(2026, 5, 1, tzinfo=UTC)
    text = standin.waterml(series(now - timedelta(days=1), 96), now).encode()
    first = next(fromstring(text).iter("{http://www.opengis.net/om/2.0}OM_Observation"))
    theirs = list(MeasurementTimeseriesObservation(first).get_result())
    ours = [sample for sample in xml(text) if sample.parameter == "flow"]
    assert len(ours) == len(theirs) == 96
    assert [sample.value for sample in ours] == pytest.approx([float(point.value) for point in theirs])
    assert [sample.at for sample in ours] == [point.datetime for point in theirs]
