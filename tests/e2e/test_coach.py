"""The coach on the bank: what it says is set, tied on and logged in two taps, in all its parts."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.e2e.conftest import Running
from tests.e2e.screens import begin, fish_with, go, heading, lie, sound

LINE = re.compile("sighter to point fly|Float to point fly")


@pytest.fixture
def viewport() -> str:
    """One size, as on the bank; every screen is walked at both sizes in test_screens and test_walk."""
    return "phone"


def fish_a_light_nymph(page: Page) -> Locator:
    """Fish the run with the smallest dry and bead; return the sheet."""
    fish_with(page, "Ash run", "Dry-dropper")
    page.get_by_role("button", name="Change setting").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_text("Fly, dropper, float, tippet").click()
    sheet.get_by_role("radio", name="size 12 hair-wing caddis").click()
    for _ in range(4):
        sheet.get_by_role("button", name="less point bead").click()
    sheet.get_by_role("button", name="Set it").click()
    heading(page, "2.0 mm")
    return sheet


def test_dry__that_a_heavier_bead_would_pull_under_is_changed_with_it(page: Page, running: Running) -> None:
    """What the coach says is set in two taps, whatever floats now."""
    sheet = fish_a_light_nymph(page)
    said = page.get_by_role("button", name=re.compile("^(Heavier|Deeper) to .*, size (10|8) foam"))
    said.click()
    expect(sheet).to_contain_text(re.compile("size (10|8) foam"))
    sheet.get_by_role("button", name="Set it").click()
    heading(page, re.compile(r"[34]\.[05]\smm"))
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("1 drift here")).to_be_visible()
    expect(page.get_by_text("all saved")).to_be_visible()
    stored = running.stored("select setup ->> 'float' from setting order by at desc limit 1")
    assert "foam" in stored[0][0]


def test_another_rig__is_tied_on_in_all_its_parts(page: Page, running: Running) -> None:
    """The dry runs ahead, its nymph never down: what the coach names hangs as it is advised here, and is set as it says."""
    sheet = fish_a_light_nymph(page)
    for n in range(1, 6):
        page.get_by_role("radiogroup", name="Pace").get_by_role("radio", name="faster").click()
        page.get_by_role("button", name="Clean").click()
        expect(page.get_by_test_id("coach")).to_have_attribute("data-after", str(n))
    page.get_by_role("button", name="Another rig: Euro").click()
    at = sheet.get_by_text(re.compile(r"^\d\.\d\d\sm · \d\.\d\smm$")).inner_text().split(" · ")
    sheet.get_by_role("button", name="It is tied on").click()
    heading(page, f"Euro · {at[1]} · {at[0]}")
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("6 drifts here")).to_be_visible()
    expect(page.get_by_text("all saved")).to_be_visible()
    stored = running.stored("select rig, setup from setting order by at desc limit 1")
    assert stored[0][0] == "euro"
    assert (stored[0][1]["flies"], stored[0][1]["dropper_spacing_m"]) == (2, 0.45)


def test_coach__says_the_next_change_and_it_is_made_in_two_taps(page: Page) -> None:
    lie(page, "Wall seam")
    go(page, "Rig")
    slider = page.get_by_role("slider", name=LINE)
    for _ in range(2):
        slider.press("PageDown")  # far too short
    expect(page.locator("section").filter(has_text="Least change")).to_be_visible()
    go(page, "Log")
    before = page.get_by_role("heading", level=1).inner_text()
    begin(page)
    for n in range(4):
        page.get_by_role("radiogroup", name="Pace").get_by_role("radio", name="faster").click()
        page.get_by_role("button", name="Clean").click()
        expect(page.get_by_text(re.compile(f"{n + 1} drifts? here"))).to_be_visible()
    said = page.get_by_role("button", name=re.compile("^(Deeper|Heavier) to"))
    expect(said).to_be_visible()
    expect(page.get_by_role("region", name="Coach")).to_contain_text("Rule of thumb")
    sound(page)
    page.get_by_role("button", name="What comes next").click()
    ahead = page.get_by_role("dialog")
    expect(ahead.get_by_text(re.compile(r"hung up.*: shallower to"))).not_to_have_count(0)
    sound(page)
    ahead.get_by_role("button", name="Back to the keys").click()
    said.click()
    page.get_by_role("dialog").get_by_role("button", name="Set it").click()
    expect(page.get_by_role("heading", level=1)).not_to_have_text(before)
    undone = page.get_by_role("button", name="Undo")
    undone.click()
    expect(page.get_by_text("3 drifts here")).to_be_visible()


def test_lie__read_anew_while_one_fishes_is_what_the_coach_goes_by(page: Page) -> None:
    """It touched, so that it reaches the bed; half as deep again, nothing is known to touch there."""
    fish_with(page, "Wall seam", "Indicator")
    coach = page.get_by_test_id("coach")
    for n, ends in enumerate(("Tick", "Clean", "Tick"), 1):
        page.get_by_role("button", name=ends).click()
        expect(coach).to_have_attribute("data-after", str(n))
    expect(coach).to_contain_text("hold")
    go(page, "Read")
    depth = page.get_by_role("textbox", name="Depth", exact=True)
    depth.fill("2.20")
    depth.press("Enter")
    heading(page, "2.20 m deep")
    go(page, "Log")
    expect(coach).to_contain_text("Deeper to")
    expect(coach).to_have_attribute("data-after", "3")  # they are of the same stay
    page.get_by_role("group", name="Lane and stance").get_by_role("button", name="bottom").click()
    near = page.get_by_role("dialog").get_by_role("button", name="near lane")
    expect(near).to_contain_text(re.compile(r"2\.\d+\sm"))  # what is believed there
    expect(near).to_contain_text("3 drifts")


def test_another_fly__is_tied_on_in_two_taps_and_logged(page: Page) -> None:
    """Fished in the zone and not taken; what is shown after it is another fly, at the same setting."""
    lie(page, "Ash run")
    go(page, "Log")
    before = page.get_by_role("heading", level=1).inner_text()
    begin(page)
    said = page.get_by_role("button", name=re.compile("^Another fly: "))
    setting = page.get_by_role("button", name=re.compile("^(Deeper|Shallower|Heavier|Lighter) to"))
    for n in range(1, 25):
        page.get_by_role("button", name="Tick" if n % 5 == 1 else "Clean").click()
        word = page.get_by_test_id("coach")
        expect(word).to_have_attribute("data-after", str(n))
        expect(word).to_have_attribute("aria-busy", "false")
        if said.is_visible():
            break
        if setting.is_visible():
            setting.click()
            page.get_by_role("dialog").get_by_role("button", name="Set it").click()
            before = page.get_by_role("heading", level=1).inner_text()
    fly = said.inner_text().removeprefix("Another fly: ").split(",")[0]
    sound(page)
    said.click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text(fly)
    sound(page)
    sheet.get_by_role("button", name="It is tied on").click()
    expect(sheet).to_have_count(0)
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_test_id("coach")).not_to_contain_text("Another fly")
    expect(page.get_by_role("heading", level=1)).to_have_text(before)
    expect(page.get_by_text("all saved")).to_be_visible()
    go(page, "Ledger")
    page.get_by_role("main").get_by_role("listitem").get_by_role("link").first.click()
    expect(page.get_by_role("main")).to_contain_text(fly)


def test_first_drift__is_begun_as_the_coach_would(page: Page) -> None:
    """Offered with the rig while it is tied; who took it is not told otherwise on the bank, after one clean drift neither."""
    lie(page, "Wall seam")
    go(page, "Rig")
    rigs = page.get_by_role("radiogroup", name="Rig").get_by_role("radio")
    rigs.filter(has_text="Indicator").click()
    offer = page.get_by_role("button", name=re.compile("^Begin with"))
    expect(offer).to_contain_text(re.compile(r"Begin with [\d.]+\smm at [\d.]+\sm"))
    offered = offer.inner_text().replace("\xa0", " ").removeprefix("Begin with ")
    bead, setting = offered.split(" at ")
    offer.click()
    heading(page, f"Indicator · {bead} · set {setting}")
    expect(page.get_by_role("button", name=f"Set as the coach would begin: {offered}")).to_be_disabled()
    sound(page)
    go(page, "Log")
    begin(page)
    word = page.get_by_test_id("coach")
    for after in range(2):
        expect(word).to_have_attribute("data-after", str(after))
        expect(word).to_have_attribute("aria-busy", "false")
        expect(word).to_contain_text("Coach: hold")
        page.get_by_role("button", name="Clean").click()
