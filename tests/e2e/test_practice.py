"""A hidden water is fished from above, logged with the six keys and lifted off; by thumb, by keys, and step by step."""

import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.conftest import Running
from tests.e2e.screens import heading, sound


def skip_and_log(page: Page, outcome: str = "Clean") -> None:
    page.get_by_role("button", name="Cast").click()
    page.get_by_role("button", name="Skip to its end").click()
    page.get_by_role("button", name=re.compile(f"^{outcome}")).click()


@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_drill__is_fished_from_above_and_the_water_lifted_off(page: Page) -> None:
    page.goto("/learn")
    page.get_by_role("link", name="Practice").click()
    heading(page, "Practice")
    expect(page.get_by_role("link", name=re.compile("First depth"))).to_be_visible()
    sound(page)
    page.goto("/practice/first_depth/42")
    heading(page, "First depth")
    sound(page)
    page.get_by_role("button", name="Cast").click()
    expect(page.get_by_role("img", name=re.compile("The river from above"))).to_be_visible()
    sound(page)
    page.get_by_role("button", name="Strike").click()
    page.get_by_role("button", name="What could it have told?").wait_for()
    expect(page.get_by_role("status")).not_to_be_empty()  # what, hangs on when the thumb came
    page.get_by_role("button", name="What could it have told?").click()
    expect(page.get_by_text("of the bubbles")).to_be_visible()
    sound(page)
    page.get_by_role("radio", name="slower").click()
    page.get_by_role("button", name=re.compile("^Clean")).click()
    expect(page.get_by_text("Drift 2 of 15")).to_be_visible()
    page.reload()  # goes on where it was
    expect(page.get_by_text("Drift 2 of 15")).to_be_visible()
    skip_and_log(page)
    skip_and_log(page, "Tick")
    page.get_by_role("button", name="Ask the coach, once").click()
    page.get_by_role("dialog").get_by_role("button", name="Set it so").click()
    expect(page.get_by_role("button", name="The coach has spoken")).to_be_disabled()
    page.get_by_role("button", name="Enough: lift the water off").click()
    heading(page, "the water lifted off")
    expect(page.get_by_role("img", name=re.compile("Section of the water.*3 drifts"))).to_be_visible()
    expect(page.get_by_role("heading", name="What mattered most")).to_be_visible()
    expect(page.get_by_text("One who knew the water: ")).to_be_visible()
    expect(page.get_by_text(re.compile("Not passed|Passed:"))).to_be_visible()
    sound(page)
    page.get_by_role("link", name="All drills").click()
    expect(page.get_by_text("played 1")).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("Time in the zone"))).to_be_visible()


@pytest.fixture
def calm(page: Page) -> Page:
    page.emulate_media(reduced_motion="reduce")
    return page


@pytest.mark.parametrize("viewport", ["desktop"], indirect=True)
def test_drill__goes_step_by_step_where_motion_is_unwanted_and_by_keys(calm: Page) -> None:
    page = calm
    page.goto("/practice/pace/3")
    heading(page, "Reading the pace")
    page.keyboard.press("Space")
    moment = page.get_by_role("button", name="Next moment")
    river = page.get_by_role("img", name=re.compile("The river from above"))
    at_first: Any = river.get_attribute("aria-label")
    moment.click()
    expect(river).not_to_have_attribute("aria-label", at_first)
    page.evaluate("() => document.activeElement.blur()")
    page.keyboard.press("Space")  # strikes
    keys = page.get_by_role("button", name=re.compile("^Clean"))
    expect(page.get_by_text("Call the pace first")).to_be_visible()
    page.keyboard.press("c")
    expect(page.get_by_text("Call the pace first")).to_be_visible()
    page.get_by_role("radio", name="faster").click()
    expect(keys).to_be_visible()
    page.evaluate("() => document.activeElement.blur()")
    page.keyboard.press("c")
    expect(page.get_by_text("Drift 2 of 12")).to_be_visible()


@pytest.mark.kept
@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_game__loses_no_drift_when_the_service_goes_and_is_the_same_for_a_friend(
    page: Page, running: Running
) -> None:
    page.goto("/practice/high_water/5")
    heading(page, "The edges in high water")
    expect(page.get_by_text("the soft edge, by eye")).to_be_visible()
    told = page.get_by_text(", by eye:").inner_text()
    skip_and_log(page)
    expect(page.get_by_text("Drift 2 of 15")).to_be_visible()
    page.get_by_role("radio", name="the main current").click()
    expect(page.get_by_text("the main current, by eye")).to_be_visible()
    running.kill()
    page.get_by_role("button", name="Cast").click()
    expect(page.get_by_role("alert")).to_be_visible()
    expect(page.get_by_text("Drift 2 of 15")).to_be_visible()
    running.start()
    skip_and_log(page, "Tick")
    expect(page.get_by_text("Drift 3 of 15")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)
    skip_and_log(page)
    page.get_by_role("button", name="Enough: lift the water off").click()
    expect(page.get_by_text("where nobody was")).to_be_visible()
    page.get_by_role("radio", name="the soft edge").click()
    expect(page.get_by_role("img", name=re.compile("Section of the water.*1 drift through"))).to_be_visible()
    page.get_by_role("button", name="The same again").click()
    page.get_by_role("radio", name="the soft edge").click()
    expect(page.get_by_text(told)).to_be_visible()
    page.goto("/practice/clock/3")
    skip_and_log(page)
    page.get_by_role("radio", name="the upper slot").click()
    skip_and_log(page)  # two minutes' walk
    expect(page.get_by_text("2 of 40 min gone")).to_be_visible()
    page.reload()
    expect(page.get_by_text("2 of 40 min gone")).to_be_visible()
