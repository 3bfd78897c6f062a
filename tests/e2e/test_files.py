"""A log that comes from a table at home: looked at, taken in, corrected drift by drift, taken away as file and picture."""

import json
import re
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect

from tests.e2e.screens import AT_A_DESK, IN_THE_HAND, go, lie, sound

DIARY = """Date;Time;Pool;Bead (mm);Set to (ft);Depth [ft];Speed;Fish;Length (in);Sky
2026-06-14;09:30;Alder tail;3;4;3;0,5;;;sun
2026-06-14;09:32;Alder tail;3;4;3;0,5;brown trout;12;sun
2026-06-14;09:40;Alder tail;2,5;4;3;0,5;;;sun
"""


def take_in(page: Page, diary: Path) -> None:
    """Take a diary in, saying first what its columns are."""
    go(page, "Ledger")
    page.get_by_role("button", name="Take a log in").click()
    sheet = page.get_by_role("dialog")
    chosen = page.get_by_label("file of a log")
    chosen.set_input_files(diary)
    expect(sheet.get_by_label("Bead (mm)")).to_have_value("point_bead_mm")
    expect(sheet.get_by_label("Sky")).to_have_value("")
    sound(page)
    sheet.get_by_role("button", name="Look before it is taken in").click()
    expect(sheet).to_contain_text("New in it: 1 outing, 1 stay at a lie, 2 settings, 3 drifts, 1 fish")
    sheet.get_by_role("button", name="Take it in").click()
    expect(sheet).to_contain_text("Taken in: 1 outing")
    sound(page)
    sheet.get_by_role("button", name="Done").click()
    page.get_by_role("main").get_by_role("link", name=re.compile("3 drifts · 1 fish")).click()


@IN_THE_HAND
def test_log__of_a_table_is_taken_in_and_corrected(page: Page, tmp_path: Path) -> None:
    broken = tmp_path / "broken.json"
    broken.write_text('{"format": 4,\n "tables": {"river": [{}]}}')
    (tmp_path / "diary.csv").write_text(DIARY)
    go(page, "Ledger")
    page.get_by_role("button", name="Take a log in").click()
    page.get_by_label("file of a log").set_input_files(broken)
    expect(page.get_by_role("alert")).to_contain_text("Line 2, column 23: river.id")
    page.get_by_role("button", name="Leave it").click()
    take_in(page, tmp_path / "diary.csv")
    main = page.get_by_role("main")
    expect(main).to_contain_text("brown trout 30 cm by eye")
    main.get_by_role("button", name="clean").last.click()
    page.get_by_role("radio", name="tick").click()
    page.get_by_role("button", name="Done").click()
    expect(main.get_by_role("button", name="tick")).to_have_count(1)
    expect(main).to_contain_text("1 touch")
    main.get_by_role("button", name="fish").click()
    page.get_by_role("radio", name=re.compile("from here on: 2")).click()
    sound(page)
    page.get_by_role("dialog").get_by_role("combobox").last.select_option("Long glide")
    page.get_by_role("button", name="Done").click()
    expect(main.get_by_role("heading", name=re.compile("Long glide"))).to_be_visible()
    expect(main.get_by_role("heading", name=re.compile("Alder tail"))).to_be_visible()
    main.get_by_role("button", name="Note on the brown trout").click()
    page.get_by_label("Note", exact=True).fill("From under the root")
    page.get_by_role("button", name="Keep the note").click()
    expect(page.get_by_role("button", name="Keep the note")).to_have_count(0)  # then it is kept
    page.reload()  # what stands is the service's
    expect(main).to_contain_text("From under the root")
    expect(main.get_by_role("heading", name=re.compile("Long glide"))).to_be_visible()
    sound(page)


def opens(page: Page, name: str, to: Path) -> Path:
    """Follow a link that hands a file over."""
    with page.expect_download() as handed:
        page.get_by_role("link", name=name).or_(page.get_by_role("button", name=name)).first.click()
    handed.value.save_as(to)
    return to


@AT_A_DESK
def test_log__is_taken_away_and_a_lie_is_retired(page: Page, tmp_path: Path) -> None:
    go(page, "Ledger")
    page.get_by_role("button", name="Take a log in").click()
    (tmp_path / "diary.csv").write_text(DIARY)
    expect(page.get_by_role("dialog")).to_be_visible()
    page.keyboard.press("Escape")
    take_in(page, tmp_path / "diary.csv")
    for name, start in (("CSV", b"time,"), ("Report", b"%PDF"), ("Darwin Core", b"PK")):
        page.get_by_role("button", name="Save", exact=True).click()
        assert opens(page, name, tmp_path / name).read_bytes().startswith(start)
    page.get_by_role("button", name="Save", exact=True).click()
    sound(page)
    page.get_by_label("With exact places").check()
    whole = json.loads(opens(page, "GeoJSON", tmp_path / "log.geojson").read_bytes())
    assert whole["features"][0]["properties"]["within_m"] is None
    page.get_by_role("button", name="pictures of this page").click()
    sound(page)
    svg = opens(page, "The outing from the side as SVG", tmp_path / "side.svg").read_text()
    assert svg.startswith("<svg")
    assert "var(" not in svg
    with Image.open(opens(page, "The outing from the side as PNG", tmp_path / "side.png")) as picture:
        assert picture.width > 600
        assert len(picture.convert("RGB").resize((60, 20)).getcolors() or []) > 3
    page.keyboard.press("Escape")
    go(page, "Read")
    lie(page, "Ash run")
    page.get_by_role("button", name="Change what Ash run is").click()
    page.get_by_role("button", name="Not fished any more").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    ribbon = page.get_by_role("navigation", name="Lies")
    expect(ribbon.get_by_role("link", name="Ash run")).to_have_count(0)
    page.goto("/rivers")
    gone = page.get_by_role("listitem").filter(has_text="Ash run")
    expect(gone).to_contain_text("Cinder Weir")
    expect(gone.get_by_role("button", name="Delete for good")).to_be_visible()  # nobody fished there
    sound(page)
    gone.get_by_role("button", name="Bring back").click()
    expect(gone).to_have_count(0)
    page.goto("/")
    expect(ribbon.get_by_role("link", name="Ash run")).to_be_visible()
