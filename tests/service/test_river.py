"""The gauge, read over HTTP from its stand-in, well and broken; the river today; lies carried to today's flow."""

import asyncio
import gzip
from collections.abc import AsyncIterator, Callable, Coroutine, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import asynccontextmanager
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

import httpx2 as httpx
import numpy as np
import psycopg
import pytest
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.adapters import gauge as adapter
from deriva.service.adapters.gauge import Sources, Unread, read_gauge
from deriva.service.store import due, gauges
from deriva.service.store.address import sync_connect
from deriva.service.store.engine import Sessions, connect
from deriva.service.store.models import Gauge
from deriva.service.store.owned import Key
from deriva.service.usecases.river import read_all, refresh
from deriva.standins.app import Breakage, create
from deriva.standins.marrowen import series
from tests.databases import key_of
from tests.loops import run
from tests.service.anglers import Bank, count, new_id

BASE = "http://stand-in"
IV = "/iv?format={kind}&start={{start}}&end={{end}}"


@pytest.fixture(autouse=True)
def no_pauses(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(adapter, "PAUSE_S", 0.0)


@pytest.fixture
def gauge(rows: psycopg.Connection) -> UUID:
    """A gauge on the demo angler's river."""
    made = UUID(new_id())
    rows.execute(
        "insert into gauge (id, angler_id, river_id, name, format, url, daily_url)"
        " select %s, angler_id, id, 'MRW-02', 'rdb', %s, '/dv?start={start}&end={end}' from river"
        " where angler_id in (select id from angler where demo)",
        (made, IV.format(kind="rdb")),
    )
    return made


class StandIn:
    """The stand-in, spoken to over HTTP without a socket, and the service's reading of it."""

    def __init__(self, database: str) -> None:
        self.database = database
        self.app = create()

    def read(self, gauge: UUID, fault: str = "none") -> None:
        async def work(sessions: Sessions) -> None:
            async with httpx.AsyncClient(
                transport=httpx.ASGITransport(app=self.app), base_url=BASE
            ) as client:
                await client.post(f"/faults/{fault}")
                await refresh(
                    sessions, [key_of(self.database, "gauge", gauge)], client, sources=Sources(BASE)
                )

        self.run(work)

    def run(self, work: Callable[[Sessions], Coroutine[Any, Any, None]]) -> None:
        @asynccontextmanager
        async def sessions() -> AsyncIterator[Sessions]:
            engine, made = connect(self.database)
            yield made
            await engine.dispose()

        async def whole() -> None:
            async with sessions() as made:
                await work(made)

        run(whole())


@pytest.fixture
def standin(database: str) -> StandIn:
    return StandIn(database)


def today(bank: Bank) -> dict[str, Any]:
    answer = bank.client.get(f"/api/beats/{bank.beat['id']}/today")
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def test_today__is_what_the_gauge_says_against_what_is_normal(
    bank: Bank, gauge: UUID, standin: StandIn
) -> None:
    assert today(bank)["gauge"]["unasked"]
    standin.read(gauge)
    out = today(bank)
    assert not out["gauge"]["unasked"]
    at = datetime.fromisoformat(out["flow"]["at"])
    truth = series(at, 1)
    assert out["flow"]["m3_s"] == pytest.approx(float(truth.flow_m3_s[0]), rel=1e-3)
    assert out["temperature_c"] == pytest.approx(float(truth.temperature_c[0]), abs=0.05)
    assert out["flow"]["worth"] == "provisional"
    assert out["flow"]["age_h"] < 1.0
    # the normal band by brute force from the simulated river: the same days of earlier years, within a week
    days = series(datetime(at.year - 20, 12, 31, tzinfo=UTC), 24 * 7320, timedelta(hours=1))
    means = days.flow_m3_s[: 24 * 7320].reshape(-1, 24).mean(axis=1)
    dates = [days.start + timedelta(days=k) for k in range(len(means))]
    doy = at.timetuple().tm_yday
    same = [
        q
        for d, q in zip(dates, means, strict=True)
        if d.year < at.year
        and min(abs(d.timetuple().tm_yday - doy), 365 - abs(d.timetuple().tm_yday - doy)) <= 7
    ]
    assert out["normal"]["median_m3_s"] == pytest.approx(float(np.median(same)), rel=0.05)
    assert out["normal"]["low_m3_s"] < out["normal"]["median_m3_s"] < out["normal"]["high_m3_s"]
    assert 17 <= out["normal"]["years"] <= 20
    assert len(out["hydrograph"]) > 13 * 24
    assert "The river is" in out["sentence"]
    assert out["approach"]["kneeling_m"] < out["approach"]["wading_m"] < out["approach"]["standing_m"] <= 9.7
    assert out["cautions"][-1]["code"] == "local_rules"


def test_reading_again__corrects_and_never_doubles(
    bank: Bank, gauge: UUID, standin: StandIn, rows: psycopg.Connection
) -> None:
    standin.read(gauge)
    before = count(rows, "gauge_value")
    rows.execute(
        "update gauge_value set value = 99 where at = (select max(at) from gauge_value where not daily)"
    )
    standin.read(gauge)
    assert before <= count(rows, "gauge_value") <= before + 8
    assert today(bank)["flow"]["m3_s"] < 50.0


@pytest.mark.parametrize(
    ("fault", "said"),
    [("error", "the gauge answered 500"), ("half", "in the middle of a line"), ("jump", "clock runs ahead")],
)
def test_broken_gauge__the_last_good_values_stand_and_the_reason_is_said(
    bank: Bank, gauge: UUID, standin: StandIn, rows: psycopg.Connection, fault: str, said: str
) -> None:
    standin.read(gauge)
    before, stored = today(bank), count(rows, "gauge_value")
    standin.read(gauge, fault)
    after = today(bank)
    assert said in after["gauge"]["trouble"]
    assert after["flow"]["m3_s"] == before["flow"]["m3_s"]
    assert count(rows, "gauge_value") <= stored + 4
    standin.read(gauge)
    assert today(bank)["gauge"]["trouble"] is None


def test_silent_gauge__grows_old_and_lies_fall_back_to_their_readings(
    bank: Bank, gauge: UUID, standin: StandIn, rows: psycopg.Connection
) -> None:
    standin.read(gauge)
    rows.execute("update reading set at = at - interval '10 days', flow_m3_s = null")
    standin.read(gauge)
    assert bank.client.get("/api/beats").json()[0]["lies"][0]["stands_on"] == "flow"
    rows.execute("delete from gauge_value where not daily and at > now() - interval '9 hours'")
    out = today(bank)
    assert out["flow"]["age_h"] > 8.9
    assert out["trend"] is None
    assert any("last heard 9 hours ago" in one["text"] for one in out["cautions"])
    lie = bank.client.get("/api/beats").json()[0]["lies"][0]
    assert lie["stands_on"] == "reading"
    assert lie["today"] is None


def test_lie__is_carried_along_its_rating_and_a_fresh_reading_stands_before_it(
    bank: Bank, gauge: UUID, standin: StandIn, rows: psycopg.Connection
) -> None:
    standin.read(gauge)
    flow = today(bank)["flow"]["m3_s"]
    lie = bank.lie["id"]
    rows.execute("delete from reading")
    for days, share in ((30, 2.0), (60, 0.5)):
        row = bank.kept(
            "readings",
            bank.reading(
                at=(datetime.now(UTC) - timedelta(days=days)).isoformat(),
                depth_m=round(0.8 * share**0.4, 3),
                depth_how="staff",
            ),
        )
        rows.execute("update reading set flow_m3_s = %s where id = %s", (flow * share, row))
    found = bank.client.get("/api/beats").json()[0]["lies"][0]
    assert found["id"] == lie
    assert found["stands_on"] == "flow"
    assert found["today"]["depth_m"] == pytest.approx(0.8, rel=0.01)
    assert found["situation"]["water"]["depth_m"] == pytest.approx(0.8, rel=0.01)
    assert 0.0 < found["situation"]["water"]["depth_sd_m"] < 0.15
    assert len(found["today"]["seen"]) == 2
    rating = found["today"]["rating"]
    assert all(p["depth_p10_m"] < p["depth_m"] < p["depth_p90_m"] for p in rating)
    assert [p["depth_m"] for p in rating] == sorted(p["depth_m"] for p in rating)
    bank.kept("readings", bank.reading(at=datetime.now(UTC).isoformat(), depth_m=0.7, depth_how="staff"))
    now = bank.lie_now()
    assert now["stands_on"] == "reading"
    assert now["situation"]["water"]["depth_m"] == 0.7
    assert now["reading"]["flow_m3_s"] == pytest.approx(flow, rel=0.05)
    assert now["today"]["depth_m"] < 0.8  # it has learned
    # read when there was half as much: of the day, but not of the river as it is; carried on from what was read
    signs = bank.reading(at=datetime.now(UTC).isoformat(), depth_m=0.7, depth_how="staff", rises="bubbles")
    rows.execute(
        "update reading set flow_m3_s = %s where id = %s", (flow / 2.0, bank.kept("readings", signs))
    )
    risen = bank.lie_now()
    assert risen["stands_on"] == "flow"
    water = risen["situation"]["water"]
    assert water["depth_m"] == pytest.approx(0.7 * 2.0**0.4, rel=0.05)
    assert now["situation"]["water"]["depth_sd_m"] < water["depth_sd_m"] < 0.15 * water["depth_m"]
    assert water["surface_speed_m_s"] > now["situation"]["water"]["surface_speed_m_s"]
    assert risen["situation"]["fish"]["rises"] == "bubbles"  # signs are of the day
    # signs written on what was carried take nothing back of what was read that day, and read nothing
    carried = {"depth_m": water["depth_m"], "depth_how": "flow", "rises": "none"}
    speed = {"how": "typed", "surface_speed_m_s": water["surface_speed_m_s"]}
    written = bank.reading(at=datetime.now(UTC).isoformat(), speed=speed, **carried)
    row = bank.kept("readings", written)
    signed = bank.lie_now()
    assert (signed["stands_on"], signed["reading"]["depth_how"]) == ("flow", "flow")
    assert signed["situation"]["fish"]["rises"] == "none"
    for what in ("depth_m", "depth_sd_m"):
        assert signed["situation"]["water"][what] == pytest.approx(water[what], rel=1e-6)
    rows.execute("delete from reading where depth_m = 0.7")
    alone = bank.lie_now()["situation"]["water"]
    assert alone["depth_m"] == pytest.approx(0.8, rel=0.01)  # by the flow alone
    assert alone["surface_speed_m_s"] == pytest.approx(water["surface_speed_m_s"], rel=1e-6)
    rows.execute("update reading set flow_m3_s = %s where id = %s", (flow / 2.0, row))
    assert bank.lie_now()["situation"]["water"]["surface_speed_m_s"] > alone["surface_speed_m_s"]


def test_bottom__of_each_spot_rises_with_the_level_of_the_lie(
    bank: Bank, gauge: UUID, standin: StandIn, rows: psycopg.Connection
) -> None:
    """Twice the flow lifts a lie of 0.8 m by some 0.25 m; a lane found to be 1.2 m deep then is so much shallower now."""
    standin.read(gauge)
    flow = today(bank)["flow"]["m3_s"]
    rows.execute("delete from reading")
    long_ago = (datetime.now(UTC) - timedelta(days=30)).isoformat()
    row = bank.kept("readings", bank.reading(at=long_ago, depth_m=0.8, depth_how="staff"))
    rows.execute("update reading set flow_m3_s = %s where id = %s", (flow, row))
    now = bank.kept("soundings", bank.sounding(at=datetime.now(UTC).isoformat(), lane=3, depth_m=0.5))
    then = bank.kept("soundings", bank.sounding(at=long_ago))
    rows.execute("update sounding set flow_m3_s = %s where id = %s", (2.0 * flow, then))

    def bottom() -> dict[int, tuple[float, float]]:
        return {one["lane"]: (one["depth_m"], one["depth_sd_m"]) for one in bank.lie_now()["bottom"]}

    found = bottom()
    assert found[3] == pytest.approx((0.5, 0.1), abs=0.01)
    risen = 0.8 * (2.0**0.4 - 1.0)  # Leopold & Maddock's mean exponent of depth
    assert found[2][0] == pytest.approx(1.2 - risen, abs=0.02)
    assert found[2][1] > 0.1
    rows.execute("update sounding set flow_m3_s = null where id = %s", (then,))
    assert bottom()[2] == pytest.approx((1.2, 0.209), abs=0.002)  # nothing tells of the level
    bank.kept("soundings", bank.sounding(at=long_ago, gone=True), then)
    assert set(bottom()) == {3}
    stored = rows.execute("select flow_m3_s from sounding where id = %s", (now,)).fetchone()
    assert stored == (pytest.approx(flow, rel=0.05),)


def test_station__is_asked_once_for_all_who_follow_it_however_many_processes_there_are(
    stranger: Bank, gauge: UUID, standin: StandIn, rows: psycopg.Connection
) -> None:
    """A follower who is new to it is told of its month and its years; of one who knew them the last hours are corrected."""
    standin.read(gauge)
    rows.execute("update gauge set due_at = now() + interval '1 minute'")  # soon, and so with the others
    known = "update gauge_value set code = 'kept' where gauge_id = %s and not daily and at < now() - interval '7 hours'"
    kept = rows.execute(known, (gauge,)).rowcount
    joined = UUID(new_id())
    follow = (
        "insert into gauge (id, angler_id, river_id, name, format, url, daily_url)"
        " select %s, r.angler_id, r.id, 'G', g.format, g.url, g.daily_url from gauge g, river r"
        " where g.id = %s and r.id = %s"
    )
    rows.execute(follow, (joined, gauge, stranger.beat["river_id"]))
    other = UUID(new_id())
    rows.execute(follow, (other, gauge, stranger.beat["river_id"]))
    rows.execute(
        "update gauge set format = 'csv', url = %s, daily_url = null where id = %s",
        (IV.format(kind="csv"), other),
    )
    asked: list[str] = []

    async def work(sessions: Sessions) -> None:
        async def noted(request: httpx.Request) -> None:
            asked.append(request.url.path + request.url.params.get("format", ""))

        wire = httpx.ASGITransport(app=standin.app)
        async with httpx.AsyncClient(
            transport=wire, base_url=BASE, event_hooks={"request": [noted]}
        ) as client:
            await asyncio.gather(*(read_all(sessions, client, sources=Sources(BASE)) for _ in range(3)))

    standin.run(work)
    assert sorted(asked) == ["/dv", "/ivcsv", "/ivrdb"]
    span = "select max(at) - min(at) from gauge_value where gauge_id = %s and not daily"
    month = rows.execute(span, (joined,)).fetchone()
    assert month is not None
    assert month[0] > timedelta(days=29)
    years = rows.execute(
        "select count(*) from gauge_value where gauge_id = %s and daily", (joined,)
    ).fetchone()
    assert years is not None
    assert years[0] > 19 * 365
    left = rows.execute("select count(*) from gauge_value where code = 'kept'").fetchone()
    assert left == (kept,)
    behind = rows.execute(
        "select count(*) from gauge where due_at < now() + interval '2 minutes' or read_at is null"
    )
    assert behind.fetchone() == (0,)


def test_station__one_follower_that_cannot_be_stored_keeps_it_from_none_of_the_others(
    gauge: UUID, standin: StandIn, rows: psycopg.Connection, monkeypatch: pytest.MonkeyPatch
) -> None:
    both = [gauge, UUID(new_id())]
    rows.execute(
        "insert into gauge (id, angler_id, river_id, name, format, url)"
        " select %s, angler_id, river_id, 'G', format, url from gauge",
        (both[1],),
    )
    rows.execute("update gauge set daily_url = null")
    put = gauges.put_gauge_values
    failed: list[UUID] = []

    async def first_fails(session: AsyncSession, of: Gauge, *given: Any, **named: Any) -> None:  # noqa: ANN401
        if not failed:
            failed.append(of.id)
            raise SQLAlchemyError
        await put(session, of, *given, **named)

    monkeypatch.setattr(gauges, "put_gauge_values", first_fails)

    async def work(sessions: Sessions) -> None:
        async with httpx.AsyncClient(transport=httpx.ASGITransport(app=standin.app), base_url=BASE) as client:
            await read_all(sessions, client, sources=Sources(BASE))

    standin.run(work)
    stored = rows.execute("select distinct gauge_id from gauge_value").fetchall()
    assert {one for (one,) in stored} == set(both) - set(failed)
    assert len(failed) == 1


def test_reading_now__says_what_another_reading_of_it_is_about_to_store(
    bank: Bank, gauge: UUID, database: str, rows: psycopg.Connection
) -> None:
    """The round of all gauges may be storing what a new one said just when its angler asks for it."""
    waiting = "select count(*) from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()"
    with (
        ThreadPoolExecutor(1) as angler,
        sync_connect(database) as another,
    ):
        another.execute("select 1 from gauge where id = %s for update", (gauge,))
        another.execute("update gauge set read_at = now() where id = %s", (gauge,))
        answer = angler.submit(bank.client.post, f"/api/gauges/{gauge}/read")
        while not answer.done() and rows.execute(waiting).fetchone() == (0,):
            pass
        another.commit()
        assert answer.result().json()["read_at"] is not None


def test_without_a_gauge__the_page_says_so(bank: Bank, stranger: Bank) -> None:
    out = today(bank)
    assert out["gauge"] is None
    assert "read it at the lie" in out["sentence"]
    assert stranger.client.get(f"/api/beats/{bank.beat['id']}/today").status_code == 404


def sent(text: bytes, **headers: str) -> httpx.Response:
    """Return an answer as it comes over a wire, in pieces."""
    return httpx.Response(200, stream=httpx.ByteStream(text), headers=headers)


def fetch(handler: Callable[[httpx.Request], httpx.Response], kind: str = "csv") -> int:
    async def work() -> int:
        async with httpx.AsyncClient(transport=httpx.MockTransport(handler)) as client:
            now = datetime.now(UTC)
            read = await read_gauge(client, BASE + "/iv?s={start}", kind=kind, since=now, until=now)
            return read.count

    return run(work())


GOOD = b"time,flow[m3/s]\n2026-05-01T11:00:00Z,3\n"


def test_adapter__unpacks_a_packed_answer_and_no_bomb() -> None:
    assert fetch(lambda _: sent(gzip.compress(GOOD), **{"content-encoding": "gzip"})) == 1
    bomb = gzip.compress(b"0" * (3 * adapter.LARGEST_BYTES))
    assert len(bomb) < 50_000
    with pytest.raises(Unread, match="more than the 8 MB"):
        fetch(lambda _: sent(bomb, **{"content-encoding": "gzip"}))
    with pytest.raises(Unread, match="packed as br"):
        fetch(lambda _: sent(GOOD, **{"content-encoding": "br"}))


def test_flow__that_no_river_has_is_a_missing_value_and_stops_nothing(
    bank: Bank, gauge: UUID, standin: StandIn, rows: psycopg.Connection
) -> None:
    standin.read(gauge)
    for kind in (Breakage.ZERO, Breakage.WILD):
        rows.execute("delete from gauge_value where not daily and at > now() - interval '2 hours'")
        standin.read(gauge, kind)
        assert today(bank)["flow"]["m3_s"] > 0.0
        bank.kept("readings", bank.reading(at=datetime.now(UTC).isoformat()))
        wild = (
            "select count(*) from gauge_value where parameter = 'flow' and not value between 0.001 and 5000"
        )
        assert rows.execute(wild).fetchone() == (0,)
    missing = rows.execute("select count(*) from gauge_value where parameter = 'flow' and worth = 'missing'")
    assert missing.fetchone() != (0,)


def test_round__hanging_and_dripping_gauges_hold_up_no_other_and_are_asked_ever_more_seldom(
    gauge: UUID, standin: StandIn, rows: psycopg.Connection, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(adapter, "DEADLINE_S", 4.0)
    for k, path in enumerate(["/hang"] * 3 + ["/drip"] * 3 + ["/xml"]):
        rows.execute(
            "insert into gauge (id, angler_id, river_id, name, format, url)"
            " select %s, angler_id, river_id, 'G', %s, %s from gauge limit 1",
            (UUID(new_id()), "waterml" if path == "/xml" else "csv", path + f"?{k}"),
        )

    async def hostile(request: httpx.Request) -> httpx.Response:
        if request.url.path == "/hang":
            await asyncio.Event().wait()
        if request.url.path == "/drip":
            return httpx.Response(200, stream=Drip())
        if request.url.path == "/xml":
            return sent(b"<a>" + b"<b/>" * 400_000 + b"</a>")
        return sent(GOOD)

    async def work(sessions: Sessions) -> None:
        async with httpx.AsyncClient(transport=httpx.MockTransport(hostile)) as client:
            await read_all(sessions, client, sources=Sources(BASE))
            again = await asked(sessions)
            assert again == []  # none is due again at once, by this process or by another

    async def asked(sessions: Sessions) -> Sequence[Sequence[Key]]:
        async with sessions.begin() as session:
            now = datetime.now(UTC)
            return await due.take_due_gauges(session, due.Lease(now, now, now), most=50)

    rows.execute("update gauge set format = 'csv', daily_url = null where id = %s", (gauge,))
    standin.run(work)
    found = rows.execute("select id, failures, trouble, due_at - tried_at from gauge").fetchall()
    good = next(row for row in found if row[0] == gauge)
    assert good[1:3] == (0, None)
    for row in found:
        if row[0] != gauge:
            assert row[1] == 1
            assert row[2]
            assert row[3] > good[3]


class Drip(httpx.AsyncByteStream):
    """A body that comes byte by byte and never ends."""

    async def __aiter__(self) -> AsyncIterator[bytes]:
        while True:
            await asyncio.sleep(0.01)
            yield b"1"


def test_gauge__without_an_address_is_kept_and_its_past_comes_from_files(bank: Bank) -> None:
    river = bank.beat["river_id"]
    gauge = bank.kept("gauges", {"river_id": river, "name": "Old staff", "format": "csv"})
    listed = bank.client.get("/api/rivers").json()
    assert next(one for one in listed if one["id"] == river)["gauge"]["name"] == "Old staff"
    text = f"time,flow[m3/s]\n{(datetime.now(UTC) - timedelta(hours=1)).isoformat()},3.0\n"
    params = {"gauge_id": gauge, "kind": "csv"}
    assert (
        bank.client.put(f"/api/imports/{new_id()}", params=params, content=text.encode()).status_code == 200
    )


def test_adapter__tries_again_what_may_get_better() -> None:
    asked: list[str] = []

    def handler(request: httpx.Request) -> httpx.Response:
        asked.append(str(request.url))
        if len(asked) == 1:
            raise httpx.ReadTimeout("slow")
        return httpx.Response(503) if len(asked) == 2 else sent(GOOD)

    assert fetch(handler) == 1
    assert len(asked) == 3
    assert "{start}" not in asked[0]


@pytest.mark.parametrize(
    ("answer", "said", "tries"),
    [
        (httpx.Response(404), "answered 404", 1),
        (httpx.Response(500), "answered 500", 3),
        (b"<html>maintenance</html>\n", "line 1, column 1", 3),
        (b"time,flow[m3/s]\n0001-01-01T00:00:00+14:00,3\n", "the year 1 ", 3),
        (b"time,flow[m3/s]\n2026-05-01T11:00:00Z,3", "middle of a line", 3),
        (GOOD + b"#" * adapter.LARGEST_BYTES, "more than the 8 MB", 1),
        (httpx.ReadTimeout("slow"), "did not answer within 8 s", 3),
        (httpx.ConnectError("no"), "could not be reached", 3),
    ],
)
def test_adapter__says_what_went_wrong(
    answer: httpx.Response | bytes | Exception, said: str, tries: int
) -> None:
    asked = 0

    def handler(_: httpx.Request) -> httpx.Response:
        nonlocal asked
        asked += 1
        if isinstance(answer, Exception):
            raise answer
        return sent(answer) if isinstance(answer, bytes) else answer

    with pytest.raises(Unread, match=said):
        fetch(handler)
    assert asked == tries


def test_reading__of_what_stands_there_and_how_fish_behave_reaches_the_situation(bank: Bank) -> None:
    said = {"refusing": True, "spawning": True, "cover": ["rocks", "branches"], "under_line_m_s": 0.3}
    bank.kept("readings", bank.reading(at=datetime.now(UTC).isoformat(), **said))
    there = next(
        lie
        for beat in bank.client.get("/api/beats").json()
        for lie in beat["lies"]
        if lie["id"] == bank.lie["id"]
    )
    assert {name: there["reading"][name] for name in said} == said
    situation = there["situation"]
    assert situation["fish"]["refusing"]
    assert situation["fish"]["spawning"]
    assert situation["place"]["cover"] == ["rocks", "branches"]
    assert situation["water"]["under_line_ratio"] == pytest.approx(
        0.3 / situation["water"]["surface_speed_m_s"]
    )
    assert 1 <= situation["month"] <= 12
    assert situation["light"] in ("day", "dusk")
    advice = bank.client.post("/api/advice", json=situation).json()
    assert any("egg" in (one["setup"]["dropper_form"] or "") for one in advice["ranked"] if one["setup"])
    assert "tied" in advice["schools"]
