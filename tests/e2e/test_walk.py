"""One angler, start to finish: read, rig, drift, log through a power cut, ledger; on a desktop and on a phone."""

import csv
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.conftest import Running
from tests.e2e.screens import begin, go, heading, lie, sound


def read(page: Page) -> None:
    """Pick a lie, mistype a depth, correct it, time a bubble."""
    ribbon = page.get_by_role("navigation", name="Lies")
    expect(ribbon.get_by_role("heading").nth(1)).to_be_visible()
    assert ribbon.get_by_role("link").count() >= 8
    lie(page, "Ash run")
    heading(page, "1.15 m deep")
    expect(page.get_by_role("img", name=re.compile("Water column 1.15 m deep"))).to_be_visible()
    depth = page.get_by_label("Depth", exact=True)
    for typed, said in (("12", "12 is outside 0.05 to 4 m"), ("waist", "“waist” is not a number")):
        depth.fill(typed)
        depth.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text(said)
        expect(depth).to_have_value(re.compile(f"^{typed}"))  # what was typed stays
    depth.fill("1,2")
    depth.press("Enter")
    heading(page, "1.20 m deep")
    expect(page.get_by_role("alert")).to_have_count(0)
    page.get_by_role("button", name="Time a bubble").click()
    along = page.get_by_label("Over (a rod length)", exact=True)
    expect(along).to_have_value(re.compile(r"^3\.20?$"))  # of the rod in the box
    along.fill("3")
    along.press("Enter")
    expect(page.get_by_label("Over", exact=True)).to_have_value(re.compile("^3"))
    seconds = page.get_by_label("Seconds", exact=True)
    seconds.fill("4")
    seconds.press("Enter")
    expect(page.get_by_text(re.compile(r"Timed: 0\.75\sm/s ± 0\.09"))).to_be_visible()
    heading(page, "top at 0.75 m/s")
    sound(page)


def rig(page: Page) -> str:
    """See three rigs ranked, choose one, move its sliders; return the answer that stands."""
    go(page, "Rig")
    rigs = page.get_by_role("radiogroup", name="Rig").get_by_role("radio")
    expect(rigs).to_have_count(3)
    expect(rigs.filter(has_text=re.compile(r"^1\."))).to_have_attribute("aria-checked", "true")
    heading(page, "in the zone")
    advised = page.get_by_role("heading", level=1).inner_text()
    expect(page.get_by_role("list", name="for", exact=True).first).not_to_be_empty()
    rigs.filter(has_text="Indicator").click()
    heading(page, "Indicator ·")
    page.get_by_role("slider", name="Float to point fly").press("ArrowRight")
    page.get_by_role("slider", name="Float to point fly").press("ArrowRight")
    page.get_by_role("slider", name="Point bead").press("Home")
    heading(page, "Indicator · 2.0 mm")
    answer = page.get_by_role("heading", level=1).inner_text()
    assert answer != advised
    why = page.get_by_role("button", name=re.compile("Land above the fish"))
    why.click()
    expect(page.get_by_text("Would change it:")).to_be_visible()
    page.keyboard.press("Escape")
    sound(page)
    return answer


def drift(page: Page) -> None:
    """Watch the drift, hold it, scrub it to its end."""
    page.get_by_role("link", name="See its drift").click()
    heading(page, "down after")
    heading(page, "Indicator · 2.0 mm")
    page.get_by_role("button", name="Hold").click()
    slider = page.get_by_role("slider", name="Time since the flies landed")
    slider.press("Home")
    expect(page.get_by_text(re.compile(r"^0\.0\sm downstream"))).to_be_visible()
    slider.press("End")
    expect(page.get_by_text(re.compile(r"^\d\.\d\sm downstream"))).not_to_have_text(re.compile(r"^0\.0"))
    expect(page.get_by_role("img", name=re.compile("Depth of the flies over time"))).to_be_visible()
    sound(page)


def log(page: Page, running: Running) -> None:
    """Log with one thumb, through a reload and a power cut."""
    go(page, "Log")
    begin(page)
    expect(page.get_by_text("0 drifts here")).to_be_visible()
    key = {
        name: page.get_by_role("button", name=re.compile(f"^{name}"))
        for name in ("Clean", "Tick", "Hung up", "Fish")
    }
    for one in key.values():
        box = one.bounding_box()
        assert box is not None
        assert min(box["width"], box["height"]) >= 56
    key["Clean"].click()
    key["Tick"].click()
    key["Hung up"].click()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("2 drifts here")).to_be_visible()
    key["Fish"].click()
    sheet = page.get_by_role("dialog", name="The fish")
    sheet.get_by_role("radio", name="grayling").click()
    page.go_back()  # a wet thumb's stroke
    sheet.get_by_role("button", name="Keep on").click()
    sheet.get_by_role("radio", name="by eye").click()
    sheet.get_by_role("slider", name="Long").press("ArrowRight")
    sheet.get_by_role("radio", name="swing or lift").click()
    sheet.get_by_role("button", name="Into the book").click()
    expect(page.get_by_text("1 in the book")).to_be_visible()
    page.get_by_role("button", name="Change setting").click()
    page.get_by_role("button", name="more float to point fly").click()
    page.get_by_role("button", name="Set it").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    key["Clean"].click()
    expect(page.get_by_text("4 drifts here")).to_be_visible()
    expect(page.get_by_text("all saved")).to_be_visible()
    sound(page)

    page.reload()
    expect(page.get_by_text("4 drifts here")).to_be_visible()
    running.pull_the_plug()
    key["Tick"].click()
    expect(page.get_by_text("5 drifts here")).to_be_visible()
    expect(page.get_by_text("1 kept here, waiting for signal")).to_be_visible()
    running.start()
    expect(page.get_by_text("all saved")).to_be_visible(timeout=30_000)
    page.reload()
    expect(page.get_by_text("5 drifts here")).to_be_visible()
    page.get_by_role("button", name="End outing").click()
    page.get_by_role("dialog").get_by_role("button", name="End it").click()
    expect(page.get_by_role("button", name="Start outing")).to_be_visible()


def ledger(page: Page, folder: Path) -> None:
    """Find the outing with everything in it, and take it along as CSV."""
    expect(page.get_by_text("all saved")).to_be_visible()
    go(page, "Ledger")
    page.get_by_role("main").get_by_role("link", name=re.compile("Cinder Weir")).first.click()
    heading(page, "Cinder Weir")
    main = page.get_by_role("main")
    expect(main).to_contain_text("5 drifts · 1 fish · 0 missed · 2 touches")
    expect(main).to_contain_text("grayling 31 cm by eye, point, on the swing")
    assert main.get_by_role("heading", level=3).count() == 2  # two settings
    sound(page)
    page.get_by_role("button", name="Save", exact=True).click()
    with page.expect_download() as waiting:
        page.get_by_role("link", name="CSV").click()
    waiting.value.save_as(folder / "outing.csv")
    with (folder / "outing.csv").open(newline="", encoding="utf-8") as file:
        lines = list(csv.DictReader(file))
    assert [line["outcome"] for line in lines] == ["clean", "tick", "fish", "clean", "tick"]
    assert [line["species"] for line in lines] == ["", "", "grayling", "", ""]
    assert float(lines[3]["depth_setting[m]"]) > float(lines[0]["depth_setting[m]"])
    assert {line["lie"] for line in lines} == {"Ash run"}


@pytest.mark.kept
@pytest.mark.long
def test_an_outing__start_to_finish(page: Page, running: Running, viewport: str, tmp_path: Path) -> None:
    sound(page)
    read(page)
    rig(page)
    drift(page)
    if viewport == "phone":  # where one fishes; no key moves on a desktop either (test_still)
        log(page, running)
        ledger(page, tmp_path)
