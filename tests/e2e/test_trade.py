"""The trade explained where it is met: words on any screen, knots, lists, and what to do on the bank when it goes wrong."""

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.e2e.conftest import Running
from tests.e2e.screens import begin, choose, follow, go, heading, lie, sound

PARTS = ("First hour", "Words", "At a lie", "Knots", "Casts", "Lists", "Troubles")


@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_words__on_a_screen_are_tapped_for_their_meaning(page: Page) -> None:
    lie(page, "Ash run")
    page.get_by_role("button", name="Sound it").wait_for()
    page.get_by_role("button", name="What do these words mean?").click()
    words = page.get_by_role("region", name="Words on this screen")
    expect(words.get_by_role("button", name="what is lie?").first).to_be_visible()
    met = words.get_by_role("button", name=re.compile("^what is"))
    assert met.count() >= 5
    met.first.click()
    told = page.get_by_role("dialog")
    expect(told.get_by_role("paragraph")).not_to_be_empty()
    sound(page)
    page.keyboard.press("Escape")
    expect(told).to_have_count(0)
    page.keyboard.press("Escape")
    expect(words).to_have_count(0)


@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_words__that_come_while_one_looks_for_them_are_marked_too(page: Page) -> None:
    held: list[Route] = []

    def hold(route: Route) -> None:
        held.append(route)

    page.route("**/today", hold)
    follow(page, page.get_by_role("heading", name="Cinder Weir").get_by_role("link"))
    page.get_by_role("button", name="What do these words mean?").click()
    words = page.get_by_role("region", name="Words on this screen")
    expect(words.get_by_role("button").first).to_be_visible()
    drift = words.get_by_role("button", name="what is drift?")
    expect(drift).to_have_count(0)
    for late in held:
        late.continue_()
    expect(drift.first).to_be_visible()


@pytest.mark.parametrize("viewport", ["desktop"], indirect=True)
def test_trade__has_every_part_and_its_knots_for_either_hand(page: Page) -> None:
    page.goto("/practice")
    for part in PARTS:
        page.get_by_role("navigation", name="The trade").get_by_role("link", name=part).click()
        expect(page.get_by_role("heading", level=1)).to_have_text(part)
        sound(page)
    page.get_by_role("link", name="Knots").click()
    picture = page.locator("main svg g").first
    expect(picture).not_to_have_attribute("transform", re.compile("scale"))
    page.get_by_role("button", name="Drawn for the right hand").click()
    expect(picture).to_have_attribute("transform", re.compile("scale"))
    page.get_by_role("link", name="Lists").click()
    expect(page.get_by_role("main")).to_contain_text("Local rules and the fishery's own word come first.")


@pytest.mark.kept
@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_trouble__is_two_taps_from_the_bank_also_without_signal(page: Page, running: Running) -> None:
    page.goto("/trade/troubles")  # the app and all its parts are on the device then
    heading(page, "Troubles")
    page.evaluate("() => navigator.serviceWorker.ready")
    page.goto("/")
    lie(page, "Ash run")
    go(page, "Log")
    begin(page)
    page.get_by_role("button", name="Leave the keys").click()
    running.kill()
    page.get_by_role("button", name="Something goes wrong").click()
    sheet = page.get_by_role("dialog", name="What goes wrong?")
    sheet.get_by_text("Never a touch").click()
    expect(sheet.get_by_text("Longer by a hand's breadth")).to_be_visible()
    sound(page)


@pytest.mark.kept
@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_page__begins_at_its_top_and_is_found_where_it_was_left(page: Page) -> None:
    page.goto("/trade/words")
    word = page.get_by_role("main").locator("b", has_text="redd")
    word.scroll_into_view_if_needed()
    page.get_by_role("navigation", name="Steps").get_by_role("link", name="Learn").click()
    expect(page.get_by_role("navigation", name="The log")).to_be_in_viewport()
    page.go_back()
    expect(word).to_be_in_viewport()


@pytest.mark.kept
@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_first_hour__is_one_float_one_fly_and_four_keys_near_to_far(page: Page, running: Running) -> None:
    page.goto("/trade/first-hour")
    choose(page.get_by_role("radio", name="simple, for a first hour"))
    page.goto("/")
    lie(page, "Ash run")
    go(page, "Log")
    heading(page, re.compile("^Indicator"))
    begin(page)
    keys = {
        name: page.get_by_role("button", name=re.compile(f"^{name}"))
        for name in ("Nothing", "It stopped", "Stuck", "Fish")
    }
    told = page.get_by_role("region", name="What to do now")
    expect(told).to_contain_text("Cast upstream")
    for width, height in ((390, 844), (375, 667), (320, 568)):
        page.set_viewport_size({"width": width, "height": height})
        for key in keys.values():
            box = key.bounding_box()
            assert box is not None
            assert 0 <= box["x"] <= box["x"] + box["width"] <= width
            assert 0 <= box["y"] <= box["y"] + box["height"] <= height, (width, height)
        sound(page)
    page.set_viewport_size({"width": 390, "height": 844})
    page.evaluate("() => { document.documentElement.style.fontSize = '200%' }")
    for key in keys.values():
        box = key.bounding_box()
        assert box is not None
        assert 0 <= box["y"] <= box["y"] + box["height"] <= 844
    page.evaluate("() => { document.documentElement.style.fontSize = '' }")
    at_first = {name: key.bounding_box() for name, key in keys.items()}
    for n in range(1, 11):
        keys[("Nothing", "It stopped", "Stuck")[n % 3]].click()
        expect(told).to_contain_text(f"drift {n + 1} of 20")
        assert {name: key.bounding_box() for name, key in keys.items()} == at_first
    expect(told).to_contain_text("Far lane")
    keys["Nothing"].click()
    page.get_by_role("button", name="Show everything").click()
    expect(page.get_by_role("button", name=re.compile("^Lost fly"))).to_be_visible()
    expect(page.get_by_role("group", name="Lane and stance")).to_contain_text("Far lane")
    expect(page.get_by_text("all saved")).to_be_visible()
    fished = running.stored(
        "select t.rig, (t.setup->>'flies')::int, d.lane, count(*) from drift d join setting t on t.id = d.setting_id"
        " where d.at > now() - interval '1 hour' group by 1, 2, 3 order by 3"
    )
    assert fished == [("indicator", 1, 1, 10), ("indicator", 1, 2, 1)]
