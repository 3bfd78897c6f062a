"""Corners that the walk does not pass: a first reading, a rig too heavy for its dry, dusk, feet, keys, and dead ends."""

import re

from playwright.sync_api import BrowserContext, Page, expect

from tests.e2e.screens import AT_A_DESK, IN_THE_HAND, follow, go, heading, lie, sound


@IN_THE_HAND
def test_first_reading__two_numbers_and_the_day_is_carried_over(page: Page) -> None:
    name = "Far alders"
    lie(page, name)
    for step in ("Rig", "Drift", "Log"):
        go(page, step)
        heading(page, "Not read yet")
    page.get_by_role("link", name=f"Read {name}").click()
    heading(page, "How deep, and how fast at the top?")
    expect(page.get_by_role("textbox", name="Water temperature")).to_have_value("12.5")
    sound(page)
    page.get_by_role("textbox", name="Surface speed").fill("0.4")
    page.get_by_role("textbox", name="Surface speed").press("Enter")
    page.get_by_label("Depth", exact=True).fill("0.9")
    page.get_by_label("Depth", exact=True).press("Enter")
    heading(page, "0.90 m deep ± 0.23 m, top at 0.40 m/s")


@AT_A_DESK
def test_rig_too_heavy_for_its_dry__is_said_and_stays_set(page: Page) -> None:
    lie(page, "Long glide")  # no season has a dry of its own on a glide
    go(page, "Rig")
    page.get_by_role("radio").filter(has_text="Dry-dropper").click()
    heading(page, "Dry-dropper · ")
    advised = page.get_by_role("slider", name="Point bead").get_attribute("aria-valuetext") or ""
    bead = page.get_by_role("slider", name="Point bead")
    bead.press("End")
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text(
        re.compile(r"This rig weighs 0\.\d+ g in water and the size \d+ [\w ]+ carries")
    )
    heading(page, "it will not hang")
    expect(bead).to_have_attribute("aria-valuetext", re.compile("4.0"))
    alert.get_by_role("button", name="Take one that carries it").click()
    heading(page, "Dry-dropper · 4.0 mm")
    expect(page.get_by_role("list", name="for", exact=True).filter(visible=True)).to_contain_text("foam")
    page.get_by_role("button", name="As advised").click()
    heading(page, f"Dry-dropper · {advised}")
    assert "4.0" not in advised


@IN_THE_HAND
def test_way_back__closes_what_lies_over_a_page_and_leads_on_where_nothing_does(page: Page) -> None:
    follow(page, page.get_by_role("link", name="Box", exact=True))
    page.get_by_role("button", name="Put in a fly").click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_be_visible()
    page.go_back()
    expect(sheet).to_have_count(0)
    page.get_by_role("button", name="Put in a fly").click()
    sheet.get_by_role("button", name="Close").click()
    expect(sheet).to_have_count(0)
    go(page, "Rig")
    page.get_by_role("button", name=re.compile("^In the zone")).first.click()
    expect(sheet).to_contain_text("Would change it")
    page.go_back()
    expect(sheet).to_have_count(0)
    heading(page, "in the zone")  # the same page still
    follow(page, page.get_by_role("link", name="Box", exact=True))
    page.get_by_role("button", name="Put in a fly").click()
    words = sheet.get_by_label("Or in your own words")
    words.fill("slim and red")
    for answer, left in (("Keep on", 1), ("Throw it away", 0)):
        page.go_back()
        expect(sheet.get_by_role("alert")).to_contain_text("Throw away what you entered?")
        sheet.get_by_role("button", name=answer).click()
        expect(sheet).to_have_count(left)
    page.reload()
    heading(page, "nymphs of")
    page.go_back()  # nothing lies over it: what was put in for the sheet is not felt
    heading(page, "in the zone")


@IN_THE_HAND
def test_set_up__a_beat_and_a_lie_and_the_rules_bind(page: Page) -> None:
    page.get_by_role("button", name="Add a beat").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="Add it").click()
    expect(sheet.get_by_role("alert")).to_be_visible()  # without a name
    sheet.get_by_label("Name").fill("Mill reach")
    sheet.get_by_role("radiogroup", name="Flies allowed").get_by_role("radio", name="one").click()
    sheet.get_by_label("The fishery's own words").fill("One fly. Barbless.")
    sound(page)
    sheet.get_by_role("button", name="Add it").click()
    expect(page.get_by_text("No lie yet")).to_be_visible()
    expect(page.get_by_role("main")).to_contain_text("One fly. Barbless.")
    page.get_by_role("button", name="Add a lie").click()
    sheet.get_by_label("Name").fill("Sluice")
    sheet.get_by_role("radio", name="pool head").click()
    sheet.get_by_role("radio", name="cobble").click()
    sheet.get_by_role("button", name="Add it").click()
    lie(page, "Sluice")
    heading(page, "How deep, and how fast at the top?")
    for label, value in (("Depth", "0.9"), ("Surface speed", "0.8")):
        box = page.get_by_role("textbox", name=label)
        box.fill(value)
        box.press("Enter")
    heading(page, "0.90 m deep")
    expect(page.get_by_role("main")).to_contain_text("pool head over cobble · Mill reach")
    go(page, "Rig")
    expect(page.get_by_role("radio").filter(has_text="Dry-dropper")).to_contain_text("not here")
    page.get_by_role("radio").filter(has_text="Dry-dropper").click()
    expect(page.get_by_role("main")).to_contain_text("counts as two flies; the rules here allow one")


@IN_THE_HAND
def test_dusk_and_feet__are_kept_and_legible(page: Page) -> None:
    page.get_by_role("button", name="dusk colours").click()
    page.get_by_role("button", name="m · °C").click()
    lie(page, "Ash run")
    heading(page, " ft deep")
    go(page, "Rig")
    heading(page, " ft above")
    sound(page)
    page.reload()
    expect(page.get_by_role("button", name="day colours")).to_be_visible()
    heading(page, " ft above")
    page.get_by_role("button", name="ft · °F").click()
    heading(page, " m above")
    steps = page.get_by_role("navigation", name="Steps")
    fill = "one => getComputedStyle(one).backgroundColor"
    page.emulate_media(
        forced_colors="active"
    )  # a system's own few colours: what is chosen is seen by the fill that it has for it
    assert steps.get_by_role("link", name="Rig").evaluate(fill) != steps.evaluate(fill)
    page.emulate_media(forced_colors="none")
    dark = "rgb(16, 25, 23)"
    expect(page.locator("meta[name=theme-color]")).to_have_attribute("content", "#101917")
    page.unroute_all()
    page.route(
        "**/assets/index-*.js", lambda route: route.abort()
    )  # before the app is there it is dusk already
    page.reload()
    expect(page.locator("body")).to_have_css("background-color", dark)


@AT_A_DESK
def test_keys__do_what_the_buttons_do(page: Page) -> None:
    lie(page, "Long glide")
    page.keyboard.press("2")
    heading(page, "in the zone")
    page.keyboard.press("]")
    expect(page.get_by_role("main")).to_contain_text("Bend pool")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_contain_text("undo the last tap")
    page.keyboard.press("1")  # a sheet is open: nothing happens behind it
    page.keyboard.press("Escape")
    heading(page, "in the zone")
    page.keyboard.press("1")
    heading(page, "deep ±")
    page.get_by_label("Depth", exact=True).press("5")  # typing is typing
    heading(page, "deep ±")


@IN_THE_HAND
def test_dead_ends__say_what_to_do(page: Page, context: BrowserContext) -> None:
    page.goto("/lie/00000000-0000-7000-8000-000000000000/rig")
    expect(page.get_by_role("alert")).to_contain_text("Pick one from the ribbon")
    page.goto("/ledger/00000000-0000-7000-8000-000000000000")
    expect(page.get_by_role("alert")).to_contain_text("no such outing of yours")
    page.goto("/nowhere")
    expect(page.get_by_role("alert")).to_contain_text("nothing at this address")
    context.clear_cookies()
    page.goto("/")
    ended = page.get_by_role("alert").filter(has_text="Your session has ended")
    ended.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("dialog").get_by_role("button", name="Fish the Marrowen")).to_be_visible()
    sound(page)
