"""What every walk does with a screen."""

import re

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Locator, Page, expect

SERIOUS = """options => axe.run(document, options).then(({ violations }) => violations
  .filter(one => ["serious", "critical"].includes(one.impact))
  .flatMap(one => one.nodes.map(node => `${one.id}: ${node.html.slice(0, 120)}`)))"""
OPTIONS = {"resultTypes": ["violations"], "iframes": False, "preload": False}
"""No page has a frame in it, and no rule that is asked reads the style sheets."""


AT_A_DESK = pytest.mark.parametrize("viewport", ["desktop"], indirect=True)
IN_THE_HAND = pytest.mark.parametrize("viewport", ["phone"], indirect=True)
"""What does not hang on the size of the screen is seen at one of them."""


def leave_the_keys(page: Page, wanted: Locator) -> None:
    """See to it that what is beside the keys is there: on a phone they have the screen to themselves while one fishes."""
    out = page.get_by_role("button", name="Leave the keys")
    expect(wanted.or_(out).first).to_be_visible()
    if out.is_visible():
        out.click()


def follow(page: Page, link: Locator) -> None:
    """Follow a link, and wait until the screen that it leads to is the one that is shown: its file may have to be fetched."""
    leave_the_keys(page, link)
    address = link.get_attribute("href")
    assert address is not None
    link.click()
    expect(page.get_by_role("main")).to_have_attribute("data-at", address)


def choose(one: Locator) -> None:
    """Choose one of a few, and wait until it is seen to be chosen: what the device keeps is kept from then on."""
    one.click()
    expect(one).to_be_checked()


def go(page: Page, step: str) -> None:
    """Take a step of the five, or go to the ledger beside the last."""
    steps = page.get_by_role("navigation", name="Steps")
    follow(page, steps.get_by_role("link", name="Learn" if step == "Ledger" else step))
    if step == "Ledger":
        follow(page, page.get_by_role("navigation", name="The log").get_by_role("link", name=step))


def lie(page: Page, name: str) -> None:
    """Pick a lie from the ribbon."""
    follow(page, page.get_by_role("navigation", name="Lies").get_by_role("link", name=name))


def heading(page: Page, text: str | re.Pattern[str]) -> None:
    """Expect the answer at the top to hold a text."""
    expect(page.get_by_role("heading", level=1)).to_contain_text(text)


def sound(page: Page) -> None:
    """Expect that axe finds nothing serious, and that nothing is wider than the screen."""
    if not page.evaluate("'axe' in window"):  # once a page: reading it takes as long as looking
        page.evaluate(Axe().axe_script)
    found: list[str] = page.evaluate(SERIOUS, OPTIONS)
    assert found == []
    assert page.evaluate("document.documentElement.scrollWidth <= document.documentElement.clientWidth")


def controlled(page: Page) -> None:
    """Wait until the service worker serves the page. (A promise: waiting for an expression would be to evaluate text.)"""
    page.evaluate(
        "() => new Promise((done, fail) => { setTimeout(fail, 120000, Error('no service worker came'));"
        " navigator.serviceWorker.controller ? done()"
        " : navigator.serviceWorker.addEventListener('controllerchange', () => done()) })"
    )


def begin(page: Page) -> None:
    """Start the outing, reading first what must be read."""
    page.get_by_role("button", name="Start outing").click()
    read = page.get_by_role("button", name="I have read it")
    expect(read.or_(page.get_by_role("button", name="End outing"))).to_be_visible()
    if read.is_visible():
        read.click()


def fish_with(page: Page, where: str, rig: str) -> None:
    """Fish a lie with a kind of rig, set as it is advised."""
    lie(page, where)
    go(page, "Rig")
    choose(page.get_by_role("radiogroup", name="Rig").get_by_role("radio").filter(has_text=rig))
    heading(page, f"{rig} ·")
    go(page, "Log")
    heading(page, f"{rig} ·")
    begin(page)
