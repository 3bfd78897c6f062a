"""The day at a beat: what fits into the time that there is, and what is left of it from where one stands."""

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.e2e.screens import begin, follow, go, heading, lie


def told_to_move_on(route: Route) -> None:
    """Answer as after the drifts that a lie deserves, which would be twenty taps."""
    came = route.fetch()
    said = came.json()
    route.fulfill(response=came, json=said | {"advice": said["advice"] | {"action": "move_on"}})


@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_day__is_planned_for_the_time_there_is_and_again_from_where_one_stands(page: Page) -> None:
    follow(page, page.get_by_role("link", name="Cinder Weir"))
    order = page.locator("section").filter(has=page.get_by_role("heading", name="In this order"))
    rows = order.get_by_role("listitem")
    expect(rows).to_have_text([re.compile(r"\d to \d+:\d\d · \d+ drifts$")] * 4)
    expect(order).to_contain_text("Time for all of it")
    deserved = re.search(r"· (\d+) drifts", rows.filter(has_text="Back eddy").inner_text())
    assert deserved is not None
    until = order.get_by_label("Until when")
    until.select_option(index=1)  # half an hour to an hour: not for all of it
    expect(order).to_contain_text(re.compile(r"No time for [A-Z].*, worth least today\."))
    expect(rows.filter(has_text="no time for it")).not_to_have_count(0)
    expect(rows.filter(has_text=re.compile(r"\d to \d+:\d\d"))).not_to_have_count(0)
    told = until.input_value()
    lie(page, "Back eddy")
    go(page, "Log")
    begin(page)
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("1 drift here")).to_be_visible()
    page.get_by_role("button", name="The day", exact=True).click()
    day = page.get_by_role("dialog")
    expect(day.get_by_label("Until when")).to_have_value(told)
    # what lies below was gone past: it comes after what is ahead
    day.get_by_label("Until when").select_option(index=20)
    expect(day).to_contain_text("Time for all that is left")
    expect(day.get_by_role("link", name="Back eddy")).to_contain_text(
        re.compile(rf"now to .* {int(deserved[1]) - 1} drifts")
    )
    expect(day.get_by_role("link")).to_have_text(
        [re.compile(name) for name in ("Back eddy", "Weir apron", "Ash run", "Wall seam")]
    )
    day.get_by_role("button", name="Back to the keys").click()
    page.route("**/api/coach", told_to_move_on)
    page.get_by_role("button", name="Clean").click()
    page.get_by_role("button", name="Move on: the day says where to").click()
    expect(day.get_by_role("link", name="Back eddy")).to_contain_text("fished, and left")
    day.get_by_role("link", name="Weir apron").click()
    expect(day).to_be_hidden()
    heading(page, re.compile("·"))
    expect(page.get_by_role("button", name="Fish Weir apron")).to_be_visible()
