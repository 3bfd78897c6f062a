"""The drift under a thumb: other ways to land and to hold the rod, other rigs as ghosts, a rig that cannot be."""

import re

from playwright.sync_api import Page, expect

from tests.e2e.screens import AT_A_DESK, IN_THE_HAND, go, heading, lie, sound


@AT_A_DESK
def test_drift__answers_to_every_change(page: Page) -> None:
    lie(page, "Staircase")
    go(page, "Drift")
    heading(page, "down after")
    before = page.get_by_role("heading", level=1).inner_text()
    page.get_by_role("radio", name="flies first").click()
    expect(page.get_by_role("heading", level=1)).not_to_have_text(before)
    heading(page, "in the zone")

    page.get_by_role("slider", name="Point bead").press("Home")
    heading(page, "2.0\u00a0mm")
    page.get_by_role("radio", name="all three").click()
    expect(page.get_by_text("the other rigs dotted")).to_be_visible()
    readout = page.get_by_text(re.compile("to bubbles$"))
    expect(readout.first).to_be_visible()
    page.get_by_role("button", name="Hold").or_(page.get_by_role("button", name="Play")).first.click()
    sound(page)


@IN_THE_HAND
def test_tight_line__is_led_held_still_and_swung(page: Page) -> None:
    lie(page, "Throat")
    go(page, "Rig")
    page.get_by_role("radio", name="Euro").click()
    page.get_by_role("link", name="See its drift").click()
    heading(page, "Euro")
    page.get_by_role("radio", name="tip still").click()
    expect(page.get_by_text(re.compile("tip behind"))).to_be_visible()
    page.get_by_role("radio", name="swing").click()
    slider = page.get_by_role("slider", name="Time since the flies landed")
    slider.press("End")
    expect(page.get_by_text(re.compile("Sighter"))).to_be_visible()
    sound(page)
