"""The ledger as it is drawn: a year beside the river, outings as strips, a stay told again, how right it was."""

import re
from itertools import pairwise

from playwright.sync_api import Locator, Page, expect

from tests.databases import seed_seasons_too
from tests.e2e.conftest import Running
from tests.e2e.screens import IN_THE_HAND, follow, go, heading, sound


@IN_THE_HAND
def test_ledger__is_drawn_and_a_stay_is_told_again(page: Page, running: Running) -> None:
    seed_seasons_too(running.cluster.url(running.database))
    go(page, "Ledger")
    main = page.get_by_role("main")
    # the last year in which anything was fished, also where this one has just begun
    season = main.get_by_role("navigation", name=re.compile(r"[1-9]\d* outings of \d{4}"))
    year = int((season.get_attribute("aria-label") or "").split(",")[0].rsplit(" ", 1)[-1])
    last, before = (season.get_by_role("link").nth(k) for k in (-1, -2))
    last.focus()
    page.keyboard.press("ArrowLeft")
    expect(before).to_be_focused()
    opened = before.get_attribute("href")
    page.keyboard.press("Enter")
    expect(main).to_have_attribute("data-at", opened or "")
    go(page, "Ledger")
    expect(main.get_by_role("listitem").first.locator("svg path").first).to_be_attached()
    sound(page)
    page.get_by_role("button", name="Pictures of this page").click()
    with page.expect_download() as drawn:
        page.get_by_role("button", name=re.compile(f"outings of {year}.* as PNG")).click()
    assert drawn.value.path().read_bytes().startswith(b"\x89PNG")
    page.get_by_role("button", name="Done").click()
    page.get_by_role("button", name="the year before").click()
    expect(main.get_by_role("navigation", name=re.compile(f"outings of {year - 1}"))).to_be_visible()
    expect(page.get_by_role("button", name="the year before")).to_be_disabled()
    page.get_by_text("Narrow it").click()
    page.get_by_role("button", name="a big one").click()
    expect(page.get_by_label("Find an outing")).to_have_value("big")
    page.get_by_role("button", name="had fish").click()
    expect(page.get_by_role("button", name="had fish")).to_have_attribute("aria-pressed", "true")
    sound(page)
    page.get_by_role("button", name="a big one").click()
    expect(page.get_by_label("Find an outing")).to_have_value("fish")
    main.get_by_role("listitem").get_by_role("link").first.click()
    _lies_are_named(main)
    page.get_by_role("button", name="How the coach saw it").first.click()
    told = main.get_by_role("img", name=re.compile("The bottom of .* as it became known"))
    expect(told).to_be_visible()
    expect(main).to_contain_text("after 1:")
    sound(page)
    go(page, "Ledger")
    follow(page, page.get_by_role("navigation", name="The log").get_by_role("link", name="How right"))
    heading(page, "How right it was")
    expect(main).to_contain_text(re.compile(r"All \d+ settings that you fished lately"))
    expect(main.get_by_role("img", name=re.compile("Touches as reckoned"))).to_be_visible()
    ranked = main.locator("section").filter(
        has=page.get_by_role("heading", name="The rig that was ranked first")
    )
    expect(ranked).to_contain_text(re.compile("ranked first"))
    sound(page)
    page.get_by_role("link", name="An hour in the zone, by rig").click()
    expect(main).to_contain_text("How many takes an hour in the zone, by rig?")
    heading(page, "an hour in the zone")
    sound(page)


def _lies_are_named(main: Locator) -> None:
    """An outing from the side names its lies, and no name runs into the next."""
    strip = main.get_by_role("img", name=re.compile("The outing from the side"))
    said = strip.get_attribute("aria-label") or ""
    names = strip.locator("text[font-weight='600']")
    assert names.count() >= 2
    assert all(f"{one}, " in said for one in names.all_text_contents())
    across: list[list[float]] = names.evaluate_all(
        "all => all.map(one => one.getBoundingClientRect()).map(({ left, right, top }) => [top, left, right])"
    )
    rows = sorted(across)
    assert all(top < below or right <= left for (top, _, right), (below, left, _) in pairwise(rows))
