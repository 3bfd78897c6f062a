"""What hangs on the rod: changed in all its parts, a second one carried, both taken along to the next lie."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.conftest import Running
from tests.e2e.screens import begin, go, heading, lie, sound


@pytest.fixture
def viewport() -> str:
    return "phone"


def sheet(page: Page) -> None:
    page.get_by_role("button", name="Change setting").click()


def set_it(page: Page) -> None:
    page.get_by_role("button", name="Set it").click()
    expect(page.get_by_role("dialog")).to_have_count(0)


def choose(page: Page, group: str, one: str | re.Pattern[str]) -> None:
    page.get_by_role("radiogroup", name=group).get_by_role("radio", name=one).click()


def set_up(page: Page) -> None:
    """Change every part of the rig at Throat, and fish it."""
    lie(page, "Throat")
    go(page, "Log")
    begin(page)
    heading(page, "Euro")
    sheet(page)
    page.get_by_role("dialog").get_by_text("Fly, dropper, tippet").click()
    choose(page, "Dropper", "on")
    choose(page, "Tippet", "7X")
    choose(page, "Point fly", re.compile("dubbed mayfly nymph, size 16, 2.0"))
    sound(page)
    set_it(page)
    heading(page, "2.0 mm")  # a fly of one's own is on its bead
    page.get_by_role("button", name=re.compile("^Clean")).click()


def take_both(page: Page) -> str:
    """Carry a second rod, set it longer, fish it, and fish the first again; return what that is."""
    title = page.get_by_role("heading", level=1)
    sheet(page)
    page.get_by_role("button", name="Carry a second rod").click()
    first = title.inner_text()
    sheet(page)
    page.get_by_role("button", name="more tippet").click()
    set_it(page)
    expect(title).not_to_have_text(first)
    page.get_by_role("button", name=re.compile("^Tick")).click()
    expect(page.get_by_text("2 drifts here")).to_be_visible()
    page.get_by_role("button", name="The other rod").click()
    expect(title).to_have_text(first)
    page.get_by_role("button", name=re.compile("^Hung up")).click()
    expect(page.get_by_text("3 drifts here")).to_be_visible()
    return first


def mishaps(page: Page) -> None:
    """Clear weed off the hook, and lose the upper fly and then both; the second time it is said afterwards."""
    page.get_by_role("button", name=re.compile("^Tick")).click()
    sheet(page)
    weed = page.get_by_role("button", name="I have cleared weed off the hook")
    weed.click()
    expect(page.get_by_role("button", name="Weed cleared")).to_be_disabled()
    page.get_by_role("button", name="Leave it").click()
    expect(page.get_by_role("img", name=re.compile("tick with weed$"))).to_be_visible()
    lost = page.get_by_role("button", name=re.compile("^Lost fly"))
    lost.click()
    which = page.get_by_role("dialog", name="Which fly went?")
    sound(page)
    which.get_by_role("button", name=re.compile("^The upper")).click()
    expect(which).to_have_count(0)
    lost.click()
    which.press("Escape")
    page.get_by_role("button", name=re.compile("drifts here")).click()
    page.get_by_role("button", name="lost fly").first.click()
    choose(page, "Which fly went", "both")
    page.get_by_role("button", name="Done").click()
    page.get_by_role("button", name="Back to the keys").click()


def test_rod__is_set_up_in_all_its_parts_and_a_second_one_is_a_tap_away(page: Page, running: Running) -> None:
    title = page.get_by_role("heading", level=1)
    advised = page.get_by_role("button", name="Advised here")
    set_up(page)
    on_rod = take_both(page)
    lie(page, "Long glide")  # one comes there with what hangs on the rod; what is advised is a tap away
    expect(title).to_have_text(on_rod)
    assert on_rod not in advised.inner_text()
    page.get_by_role("button", name="Fish Long glide").click()
    page.get_by_role("button", name=re.compile("^Clean")).click()
    expect(page.get_by_text("1 drift here")).to_be_visible()
    lie(page, "Bend pool")
    expect(title).to_have_text(on_rod)
    instead = advised.inner_text().removeprefix("Advised here: ")
    advised.click()
    expect(title).to_have_text(instead)
    lie(page, "Throat")
    expect(title).to_have_text(on_rod)
    page.get_by_role("button", name="Fish Throat").click()
    mishaps(page)
    expect(page.get_by_text("all saved")).to_be_visible()
    assert running.stored(
        "select outcome, weed, lost from drift where weed or lost is not null order by at"
    ) == [
        ("tick", True, None),
        ("lost_fly", False, "dropper"),
        ("lost_fly", False, "both"),
    ]
    setups = [
        row[0]
        for row in running.stored(
            "select s.setup from drift d join setting s on s.id = d.setting_id order by d.at, d.id"
        )
    ]
    fished = [(one["flies"], one["point_form"], one["point_hook"], one["tippet_x"]) for one in setups]
    assert fished == [(2, "dubbed mayfly nymph", 16, 7)] * 7
    settings = [one["depth_setting_m"] for one in setups]
    assert settings[1] > settings[0]
    assert settings[2:] == [settings[0]] * 5


def test_gloves__make_the_keys_larger_and_the_phone_tells_when_the_flies_are_down(page: Page) -> None:
    page.add_init_script("navigator.vibrate = (how) => { (window.buzzed ??= []).push(how); return true; }")
    lie(page, "Throat")
    go(page, "Log")
    page.reload()
    begin(page)
    key = page.get_by_role("button", name=re.compile("^Clean"))
    before = key.bounding_box()
    sheet(page)
    choose(page, "Keys", re.compile("gloves"))
    page.get_by_role("radiogroup", name=re.compile("Buzz")).get_by_role("radio", name="on").click()
    page.get_by_role("button", name="Leave it").click()
    expect(page.get_by_role("group", name="Lane and stance")).to_have_count(0)
    after = key.bounding_box()
    assert before is not None
    assert after is not None
    assert after["height"] > 1.8 * before["height"]
    sound(page)
    page.evaluate("window.buzzed = []")
    page.clock.install()
    page.get_by_role("button", name="The flies land").click()
    expect(page.get_by_text(re.compile(r"over \d+\.\d s"))).to_be_visible()
    page.clock.run_for(60_000)
    expect(page.get_by_text("Tap as they land")).to_be_visible()  # the drift is over
    told = page.evaluate("window.buzzed")
    assert told[-1] == [300]
    assert len(told) >= 3
    key.click()
    expect(page.get_by_text("1 drift here")).to_be_visible()
