"""The river today, from the stand-in over HTTP, and then with the stand-in broken and gone."""

import re
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import httpx2 as httpx
import psycopg
import pytest
from playwright.sync_api import Page, expect

from deriva.service.serving import kill_app, start_standin
from tests.databases import fresh, seed_gauge_too
from tests.e2e.conftest import Running
from tests.e2e.screens import begin, go, heading, lie, sound

UNTIL_SAID = """async ([beat, said]) => {
    for (let asked = 0; asked < 240; asked++) {
        if ((await (await fetch(`/api/beats/${beat}/today`)).text()).includes(said)) return;
        await new Promise(again => setTimeout(again, 500));
    }
}"""
"""The service looks at its gauge every second, and tries three times before it gives up. Asking is cheaper than reloading."""


@pytest.fixture
def viewport() -> str:
    """One size, as at home; every screen is walked at both sizes in test_screens and test_walk."""
    return "desktop"


@pytest.fixture
def running(shared: Running, tmp_path: Path) -> Iterator[Running]:
    """The app with the demo's gauge beside its places, and a stand-in that answers for it.

    It is written where the app does not look: an app that reads the gauge at the same time is left to it, and has not done yet.
    """
    standin = start_standin(port=shared.gauges_port, log=tmp_path / "standin.log")
    with fresh(shared.cluster, "gauged") as gauged:
        seed_gauge_too(shared.cluster.url(gauged), gauges=shared.gauges)
        with fresh(shared.cluster, shared.database, template=gauged):
            shared.start()
            yield shared
    kill_app(standin)


def takes_the_stop_with_it(page: Page, rows: psycopg.Connection) -> None:
    """Fish a lie that was read today, under a river that falls, and rises again to what it was."""
    coach = page.get_by_test_id("coach")
    as_read, gone = re.compile(r"^1\.30\sm"), re.compile(r"^(?!1\.30)\d\.\d\d\sm")
    # as if it had been read at twice the flow of now, and then at that
    for n, (share, deep) in enumerate(((1.0, as_read), (2.0, gone), (0.5, as_read)), 1):
        rows.execute("update reading set flow_m3_s = %s * flow_m3_s where depth_m = 1.3", (share,))
        go(page, "Read")
        page.reload()
        heading(page, deep)
        go(page, "Log")
        if n == 1:
            begin(page)
        page.get_by_role("button", name="Clean").click()
        expect(coach).to_have_attribute("data-after", str(n))  # all are of one stay
        expect(page.get_by_text("all saved")).to_be_visible()
    fished = rows.execute("select (situation->'water'->>'depth_m')::float from stop order by at desc limit 3")
    again, fallen, read = (depth for (depth,) in fished.fetchall())
    assert read == again == 1.3
    assert fallen < read / 1.05


@pytest.mark.long
def test_today__with_the_gauge_well_broken_and_gone(
    page: Page, running: Running, rows: psycopg.Connection
) -> None:
    heading(page, "The river is")
    expect(page.get_by_role("img", name=re.compile("Flow of the last two weeks.*normal is"))).to_be_visible()
    expect(page.get_by_role("status")).to_contain_text("Gauge MRW-02: last value")
    expect(page.get_by_role("main")).to_contain_text("at today's flow")
    expect(page.get_by_role("img", name=re.compile(r"The next \d+ hours: water from"))).to_be_visible()
    sky = page.get_by_role("region", name="Sky and wind")
    expect(sky).to_contain_text("tight line")
    expect(sky.get_by_role("img", name="Sun")).to_be_visible()
    sound(page)

    past = page.get_by_label("file of the gauge's past")
    head = "time,flow[m3/s]\n2015-06-01T12:00:00Z,3.2\n"
    for more, said in (
        ("2015-06-02T12:00:00Z,3..1\n", "line 3, column flow[m3/s]: '3..1' is not a number"),
        ("2015-06-02T12:00:00Z,Ice\n", "2 of flow; 1 of them are marked as missing or ice"),
    ):
        text = (head + more).encode()
        past.set_input_files({"name": "past.csv", "mimeType": "text/csv", "buffer": text})
        expect(page.get_by_role("main")).to_contain_text(said)
    sound(page)
    page.get_by_role("button", name="Take it in").click()
    expect(page.get_by_role("main")).to_contain_text("2 values taken in.")

    lie(page, "Wall seam")
    heading(page, "at today's flow")
    expect(page.get_by_role("img", name=re.compile(r"Depth here by flow, from \d readings"))).to_be_visible()
    sound(page)
    depth = page.get_by_label("Depth", exact=True)
    depth.fill("1.3")
    depth.press("Enter")
    heading(page, "1.30 m deep ± 0.33 m, top at")  # a reading of the day, by eye, stands before the flow
    takes_the_stop_with_it(page, rows)

    httpx.post(f"{running.gauges}/faults/error")
    page.get_by_role("link", name="Cinder Weir", exact=True).click()
    page.evaluate(UNTIL_SAID, [page.url.rsplit("/", 1)[-1], "answered 500"])
    page.reload()
    gauge = page.get_by_role("status").filter(has_text="Gauge MRW-02")
    expect(gauge).to_contain_text("At the last try the gauge answered 500; what it said before stands.")
    heading(page, "The river is")
    rows.execute("delete from gauge_value where not daily and at > now() - interval '9 hours'")
    page.reload()
    expect(page.get_by_role("main")).to_contain_text("last heard 9 hours ago")
    sound(page)


def test_a_river_of_one_s_own__with_its_gauge_in_five_minutes(page: Page) -> None:
    page.goto("/rivers")
    page.get_by_role("button", name="Add a river").click()
    page.get_by_label("Name of the river").fill("Sallow brook")
    page.get_by_label("Where: latitude, longitude").fill("by the mill")
    page.get_by_text("Gauge and weather").click()
    page.get_by_label("Address of its values").fill("http://10.0.0.1/iv")
    sound(page)
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("alert")).to_contain_text("“by the mill” is not a place")
    page.get_by_label("Where: latitude, longitude").fill("47.0, -15.0")
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("alert")).to_contain_text("10.0.0.1 is not read here")
    page.get_by_label("Address of its values").fill("/iv?format=csv&start={start}&end={end}")
    page.get_by_role("radio", name="CSV").click()
    page.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("status")).to_contain_text("Gauge Sallow brook: last value")

    page.get_by_role("button", name="Change beat").click()
    page.get_by_label("Open from").fill("2026-03-15")
    page.get_by_role("radio", name="SW").click()
    page.get_by_label("The fishery's own words").fill("One fly below the bridge.")
    page.get_by_role("button", name="Change it").click()
    expect(page.get_by_role("main")).to_contain_text("One fly below the bridge.")

    page.get_by_role("button", name="Add a lie").click()
    page.get_by_label("Name", exact=True).fill("Mill tail")
    page.get_by_role("radio", name="tail-out").click()
    page.get_by_role("button", name="Add it").click()
    page.get_by_role("main").get_by_role("link", name="Mill tail").click()
    heading(page, "How deep, and how fast at the top?")
    for label, value in (("Depth", "0.6"), ("Surface speed", "0.4")):
        field = page.get_by_label(label, exact=True)
        field.fill(value)
        field.press("Enter")
    heading(page, "0.60 m deep")
    expect(page.get_by_role("navigation", name="Lies")).to_contain_text(
        "1 Mill tail"
    )  # it has its place at once
    page.get_by_role("navigation", name="Steps").get_by_role("link", name="Rig").click()
    heading(page, "in the zone")

    page.get_by_role("link", name="Sallow brook", exact=True).click()
    page.get_by_role("button", name="Change beat").click()
    opens = datetime.now(UTC) + timedelta(days=40)
    page.get_by_label("Open from").fill(f"{opens:%Y-%m-%d}")
    page.get_by_label("Open until").fill(f"{opens + timedelta(days=20):%Y-%m-%d}")
    page.get_by_role("button", name="Change it").click()
    heading(page, "Closed today")  # first, and without a reload
    expect(page.get_by_text("Best from")).to_have_count(0)
