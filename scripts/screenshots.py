"""Take docs/screenshots/ again: every main view, as a desktop and as a phone, from the demo data."""

import asyncio
import re
import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Browser, Page, expect

from browser import VIEWPORTS, chromium
from deriva.service.serving import free_port, kill_app, scratch_cluster, start_app, start_standin
from deriva.service.store.cluster import Cluster
from deriva.service.store.schema import migrate
from deriva.service.usecases.demo import seed_database
from root import ROOT

TARGET = ROOT / "docs" / "screenshots"
LIE = "Ash run"
WORKED_OUT_MS = 300_000.0
"""How long two seasons may take to be worked out anew, on a machine that has other things to do."""

SCRUBBED_TO = 2
"""Page-up presses from the start of the drift: the moment at which its shape tells most."""


def step(page: Page, name: str) -> None:
    """Take a step of the five; on a phone the keys have the screen to themselves until they are left."""
    link = page.get_by_role("navigation", name="Steps").get_by_role("link", name=name)
    out = page.get_by_role("button", name="Leave the keys")
    expect(link.or_(out).first).to_be_visible()
    if out.is_visible():
        out.click()
    link.click()


def today(page: Page) -> None:
    """Show the river today."""
    expect(page.get_by_role("img", name="Flow of the last two weeks")).to_be_visible()


def read(page: Page) -> None:
    """Show the column of a lie."""
    page.get_by_role("navigation", name="Lies").get_by_role("link", name=LIE).click()
    expect(page.get_by_role("img", name="Water column")).to_be_visible()


def rig(page: Page) -> None:
    """Show the three rigs."""
    step(page, "Rig")
    expect(page.get_by_role("img", name="The three rigs")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Begin with .|^Set as the coach"))).to_be_visible()


def tie(page: Page) -> None:
    """Show how the rig is tied."""
    page.get_by_role("link", name="How to tie it").click()
    expect(page.get_by_role("img", name="The leader from the rod end to the fly")).to_be_visible()


def compare(page: Page) -> None:
    """Show two rigs over all water."""
    step(page, "Rig")
    page.get_by_role("link", name="Compare it").click()
    expect(page.get_by_role("img", name="Second: share in the zone")).to_be_visible()


def box(page: Page) -> None:
    """Show the box."""
    page.get_by_role("link", name="Box").click()
    expect(page.get_by_role("heading", name="kinds")).to_be_visible()
    page.evaluate("window.scrollTo(0, 0)")


def drift(page: Page) -> None:
    """Show the drift part of the way down, the other rigs beside it."""
    step(page, "Drift")
    page.get_by_role("button", name="Hold").click()
    page.get_by_role("radio", name="all three").click()
    expect(page.get_by_text("the other rigs dotted")).to_be_visible()
    slider = page.get_by_role("slider", name="Time since")
    slider.press("Home")
    for _ in range(SCRUBBED_TO):
        slider.press("PageUp")
    page.evaluate("window.scrollTo(0, 0)")
    expect(page.get_by_role("img", name="Depth of the flies")).to_be_visible()


def log(page: Page) -> None:
    """Show an outing under way."""
    step(page, "Log")
    page.get_by_role("button", name="Start outing").click()
    read = page.get_by_role("button", name="I have read it")
    expect(read.or_(page.get_by_role("group", name="Lane and stance"))).to_be_visible()
    if read.is_visible():
        read.click()
    for name in ("Clean", "Clean", "Tick", "Clean", "Missed", "Tick"):
        page.get_by_role("button", name=name).click()
    expect(page.get_by_text("6 drifts here")).to_be_visible()
    expect(page.get_by_text("all saved")).to_be_visible()


def catch(page: Page) -> None:
    """Show the sheet for a fish."""
    page.get_by_role("button", name="Fish to hand").click()
    expect(page.get_by_role("dialog")).to_be_visible()


def learn(page: Page) -> None:
    """Show what the log answers."""
    page.get_by_role("button", name="Into the book").click()
    expect(page.get_by_text("all saved")).to_be_visible()
    step(page, "Learn")
    expect(page.get_by_role("heading", name="does better than")).to_be_visible()


def ledger(page: Page) -> None:
    """Show the outings."""
    page.get_by_role("link", name="Ledger").click()
    expect(page.get_by_role("heading", name="Ledger")).to_be_visible()
    expect(page.get_by_role("navigation", name="beside the flow")).to_be_visible()
    expect(page.get_by_role("main").get_by_role("listitem").nth(1).locator("svg")).to_be_visible()


def outing(page: Page) -> None:
    """Show one outing of the season."""
    page.get_by_role("main").get_by_role("listitem").get_by_role("link").nth(3).click()
    expect(page.get_by_role("button", name="Save", exact=True)).to_be_visible()


def right(page: Page) -> None:
    """Show how right it was, once all is worked out."""
    page.goto("/right")
    expect(page.get_by_text(re.compile("^All [0-9]+ settings"))).to_be_visible(timeout=WORKED_OUT_MS)
    expect(page.get_by_role("img", name="Touches as reckoned")).to_be_visible()
    expect(page.get_by_text("still being worked out")).to_have_count(0, timeout=WORKED_OUT_MS)


def above(page: Page) -> None:
    """Show a drift of practice from above the water."""
    page.goto("/practice/first_depth/42")
    page.get_by_role("button", name="Cast").click()
    river = page.get_by_role("img", name=re.compile("The river from above. (?!0[.])"))
    expect(river).to_be_visible()


def practice(page: Page) -> None:
    """Show what was under the water after six drifts, ever shorter."""
    for k in range(6):
        if k:
            slider = page.get_by_role("slider", name="to point fly")
            slider.press("ArrowLeft")
            slider.press("ArrowLeft")
            page.get_by_role("button", name="Cast").click()
        page.get_by_role("button", name="Skip to its end").click()
        page.get_by_role("button", name="Tick").click()
    page.get_by_role("button", name="Enough").click()
    expect(page.get_by_text("One who knew the water: ")).to_be_visible(timeout=WORKED_OUT_MS)


BOTH, DESKTOP, PHONE = ("desktop", "phone"), ("desktop",), ("phone",)
VIEWS: tuple[tuple[Callable[[Page], None], tuple[str, ...]], ...] = (
    (today, BOTH), (read, BOTH), (rig, BOTH), (tie, PHONE), (compare, DESKTOP), (drift, BOTH), (log, BOTH), (catch, ()),
    (learn, DESKTOP), (ledger, DESKTOP), (outing, PHONE), (box, PHONE), (right, DESKTOP), (above, PHONE), (practice, DESKTOP),
)  # fmt: skip
"""The views in the order in which they are walked, and the sizes that are kept of each: fewer than twenty in all."""


def main() -> None:
    """Run the demo on a throw-away cluster and take the pictures."""
    TARGET.mkdir(parents=True, exist_ok=True)
    for old in TARGET.glob("*.png"):
        old.unlink()
    with scratch_cluster() as cluster, tempfile.TemporaryDirectory() as folder:
        gauges = f"http://127.0.0.1:{(port := free_port())}"
        standin = start_standin(port=port, log=Path(folder) / "standin.log")
        for viewport in VIEWPORTS:  # before the browser: it keeps an event loop in this thread
            cluster.create(viewport)
            migrate(cluster.url(viewport))
            asyncio.run(seed_database(cluster.url(viewport), gauges=gauges))
        with chromium() as browser:
            take(browser, cluster, Path(folder), gauges=gauges)
        kill_app(standin)
    print(f"{len(list(TARGET.glob('*.png')))} pictures in {TARGET.relative_to(ROOT)}")


def take(browser: Browser, cluster: Cluster, folder: Path, *, gauges: str) -> None:
    """Take every view at every size."""
    for viewport, settings in VIEWPORTS.items():
        port = free_port()
        app = start_app(cluster.url(viewport), port=port, log=folder / "app.log", gauges=gauges)
        context = browser.new_context(**settings, base_url=f"http://127.0.0.1:{port}")
        page = context.new_page()
        page.goto("/")
        page.get_by_role("button", name="Fish the Marrowen").click()
        for number, (view, sizes) in enumerate(VIEWS):
            view(page)
            if viewport in sizes:
                name = f"{number:02d}-{view.__name__}-{viewport}.png"
                page.screenshot(path=TARGET / name, animations="disabled")
        context.close()
        kill_app(app)


if __name__ == "__main__":
    main()
