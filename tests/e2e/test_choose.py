"""Choosing and setting: the box and the school bind the advice, the least change is taken, a rig is tied and compared."""

import io
import json
import re
from typing import Any

import pytest
from playwright.sync_api import Locator, Page, Request, Route, expect
from pypdf import PdfReader

from tests.e2e.conftest import Running
from tests.e2e.screens import begin, fish_with, go, heading, lie, sound

LINE = re.compile("sighter to point fly|Float to point fly")


@pytest.fixture
def viewport() -> str:
    """One size, as on the bank; every screen is walked at both sizes in test_screens and test_walk."""
    return "phone"


def test_box__is_filled_counted_and_binds_the_advice(page: Page) -> None:
    page.get_by_role("link", name="Box").click()
    heading(page, "nymphs of 19 kinds")
    sound(page)
    page.get_by_role("radio", name="fewest left").click()
    page.get_by_role("button", name="one worm fewer").click()
    row = page.get_by_role("listitem").filter(has_text="worm")
    expect(row).to_contain_text("1 left")
    page.get_by_role("button", name="Put in a fly").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("radio", name="cased caddis").click()
    sheet.get_by_role("radio", name="3.5").click()
    sheet.get_by_role("button", name="I have timed it").click()
    seconds = sheet.get_by_role("textbox", name="Time")
    seconds.fill("0.15")
    seconds.press("Enter")
    sound(page)
    sheet.get_by_role("button", name="Put it in").click()
    expect(sheet.get_by_role("alert").first).to_contain_text("this fly takes between", ignore_case=True)
    seconds.fill("1.2")
    seconds.press("Enter")
    sheet.get_by_role("button", name="Put it in").click()
    expect(page.get_by_role("listitem").filter(has_text="cased caddis")).to_contain_text("tank-tested")
    heading(page, "nymphs of 20 kinds")


@pytest.mark.kept
def test_rod__in_hand_says_what_a_rig_is_built_on(page: Page) -> None:
    """An ordinary line on a tapered leader: the tight line goes on level monofilament, and the box keeps what was said."""
    page.get_by_role("link", name="Box").click()
    rod = page.locator("section").filter(has=page.get_by_role("heading", name="Rod, line, leader"))
    expect(rod).to_contain_text("not said")
    for _ in range(4):
        rod.get_by_role("slider", name="Rod").press("ArrowLeft")
    for _ in range(5):
        rod.get_by_role("slider", name="Weight of line").press("ArrowRight")
    with page.expect_response(lambda one: one.url.endswith("/api/angler") and one.status == 200):
        rod.get_by_role("radio", name="tapered", exact=True).click()
    page.reload()
    expect(rod.get_by_role("radio", name="tapered", exact=True)).to_be_checked()
    expect(rod).to_contain_text("3.00 m")
    page.context.set_offline(True)  # what could not be kept is not there to be changed
    expect(rod).to_contain_text("3.00 m · line 5 · tapered")
    expect(rod.get_by_role("slider")).to_have_count(0)
    page.context.set_offline(False)
    with page.expect_response(lambda one: one.url.endswith("/api/angler") and one.status == 200):
        rod.get_by_role("button", name="Weight not known").click()
    expect(rod).to_contain_text("not said")
    page.get_by_role("link", name="Deriva").click()
    lie(page, "Ash run")
    go(page, "Rig")
    page.get_by_role("radiogroup", name="Rig").get_by_role("radio").filter(has_text="Euro").click()
    heading(page, "Euro ·")
    expect(page.get_by_role("main")).to_contain_text("loop on level monofilament")
    page.get_by_role("link", name="How to tie it").click()
    expect(page.get_by_role("radio", name="tapered", exact=True)).to_be_checked()
    expect(page.get_by_role("main")).to_contain_text("in place of the tapered one")
    page.get_by_role("radio", name="thin line").click()
    expect(page.get_by_role("main")).to_contain_text("on a thin line")


def test_dry__is_dried_and_which_way_it_is_fished_is_logged(page: Page, running: Running) -> None:
    fish_with(page, "Ash run", "Dry-dropper")
    page.get_by_role("button", name="Clean").click()
    page.get_by_role("button", name="Change setting").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("radio", name="fed down").click()
    sheet.get_by_role("button", name="I have dried the dry").click()
    expect(sheet.get_by_role("button", name="Dried: the next drift starts the count")).to_be_disabled()
    sound(page)
    sheet.get_by_role("button", name="Leave it").click()
    page.get_by_role("button", name="Tick").click()
    page.get_by_role("button", name="Undo").click()  # the dry is as dry as it was
    page.get_by_role("button", name="Missed").click()
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("3 drifts here")).to_be_visible()
    expect(page.get_by_text("all saved")).to_be_visible()
    stored = running.stored(
        "select outcome, direction, dried from drift where not undone order by at desc limit 3"
    )
    assert stored[::-1] == [("clean", "up", False), ("missed", "down", True), ("clean", "down", False)]


def test_single_dry__is_tied_on_where_they_rise_and_logged(page: Page, running: Running) -> None:
    lie(page, "Ash run")
    go(page, "Read")
    page.get_by_role("radiogroup", name="Rises").get_by_role("radio", name="leave bubbles").click()
    expect(
        page.get_by_role("radiogroup", name="Rises").get_by_role("radio", name="leave bubbles")
    ).to_be_checked()
    go(page, "Rig")
    page.get_by_role("button", name="Tie it on alone").click()
    expect(page.get_by_role("button", name="It is on the rod")).to_be_disabled()
    expect(page.get_by_role("main")).to_contain_text("On the rod: single dry")
    sound(page)
    go(page, "Log")
    heading(page, "Single dry ·")
    begin(page)
    expect(page.get_by_role("button", name="Tick")).to_be_disabled()
    page.keyboard.press("t")
    page.get_by_role("button", name="Clean").click()
    page.get_by_role("button", name="Fish", exact=False).filter(has_text="to hand").click()
    page.get_by_role("button", name="Into the book").click()
    expect(page.get_by_text("nothing to set")).to_be_visible()
    page.get_by_role("group", name="Lane and stance").get_by_role("button", name="bottom").click()
    expect(page.get_by_role("dialog").get_by_role("button", name="near lane")).to_contain_text("not known")
    sound(page)
    page.get_by_role("dialog").get_by_role("button", name="Back to the keys").click()
    page.get_by_role("button", name="Change setting").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="I have dried the dry").click()
    sound(page)
    sheet.get_by_role("button", name="Leave it").click()
    page.get_by_role("button", name="Missed").click()
    expect(page.get_by_text("3 drifts here")).to_be_visible()
    page.reload()  # it is what hangs on the rod, by the log
    heading(page, "Single dry ·")
    page.get_by_role("button", name="Change setting").click()
    page.get_by_role("dialog").get_by_role("button", name="Change to").click()
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("Single dry")
    page.get_by_role("button", name="Tick").click()
    page.get_by_role("button", name="Change setting").click()
    expect(page.get_by_role("dialog").get_by_role("button", name="Tie on a single dry")).to_be_visible()
    page.get_by_role("dialog").get_by_role("button", name="Leave it").click()
    expect(page.get_by_text("4 drifts here")).to_be_visible()
    expect(page.get_by_text("all saved")).to_be_visible()
    stored = running.stored(
        "select d.outcome, s.rig = 'dry', s.depth_setting_m is null, d.dried, c.fly from drift d join setting s"
        " on s.id = d.setting_id left join catch c on c.drift_id = d.id order by d.at desc limit 4"
    )
    assert stored[::-1] == [
        ("clean", True, True, False, None),
        ("fish", True, True, False, "dry"),
        ("missed", True, True, True, None),
        ("tick", False, False, False, None),
    ]
    page.get_by_role("button", name="drifts here").click()
    expect(page.get_by_role("dialog").get_by_text("Single dry ·").first).to_be_visible()
    page.get_by_role("dialog").get_by_role("button", name="Back to the keys").click()
    go(page, "Ledger")
    page.get_by_role("link").filter(has_text="4 drifts").first.click()
    expect(page.get_by_role("main")).to_contain_text("Single dry ·")


def test_box__emptied_of_beads_says_what_would_help(page: Page) -> None:
    page.get_by_role("link", name="Box").click()
    heading(page, "nymphs of 19 kinds")
    nymphs = page.get_by_role("main").get_by_role("button", name=re.compile(r"(bead|mm) · size"))
    for left in range(19, 0, -1):
        nymphs.first.click()
        page.get_by_role("dialog").get_by_role("button", name="Take it out").click()
        heading(page, f"nymphs of {left - 1} kinds")
    page.get_by_role("button", name="Put in a fly").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("radio", name="none").click()
    sheet.get_by_role("button", name="Put it in").click()
    heading(page, "3 nymphs of 1 kinds")
    page.get_by_role("link", name="Deriva").click()
    lie(page, "Ash run")
    go(page, "Rig")
    helps = page.locator("section").filter(has_text="What would help")
    expect(helps).to_contain_text("look beyond your box")
    page.get_by_role("radio", name="any there are").click()
    heading(page, "in the zone")
    expect(helps).to_have_count(0)


def test_school__changes_what_is_advised_everywhere_or_here(page: Page) -> None:
    lie(page, "Ash run")
    go(page, "Rig")
    main = page.get_by_role("main")
    expect(main).to_contain_text("above it")
    page.get_by_role("button", name="My school").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("radio", name="at Ash run only").click()
    sheet.get_by_role("radiogroup", name="One fly or two").get_by_role(
        "radio", name="one", exact=True
    ).click()
    expect(sheet).to_contain_text("One fly tangles less")
    sound(page)
    sheet.get_by_role("button", name="Done").click()
    expect(page.get_by_role("button", name="School, here")).to_be_visible()
    expect(main).not_to_contain_text("above it")  # nothing hangs on the rod yet: what is advised is followed


def test_fly__without_a_bead_is_set_fished_and_logged(page: Page) -> None:
    """The school that weights the leader: its flies are bare, from the box to the ledger."""
    page.get_by_role("link", name="Box").click()
    heading(page, "nymphs of 19 kinds")
    page.get_by_role("button", name="Put in a fly").click()
    page.get_by_role("dialog").get_by_role("radio", name="none").click()
    page.get_by_role("dialog").get_by_role("button", name="Put it in").click()
    heading(page, "nymphs of 20 kinds")
    page.get_by_role("link", name="Deriva").click()
    lie(page, "Throat")
    go(page, "Rig")
    heading(page, "in the zone")
    page.get_by_role("button", name="My school").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("radiogroup", name="Where the weight sits").get_by_role(
        "radio", name="in shot on the line"
    ).click()
    sheet.get_by_role("button", name="Done").click()
    page.get_by_role("radiogroup", name="Rig").get_by_role("radio").filter(has_text="Indicator").click()
    heading(page, "Indicator ·")
    bead = page.get_by_role("slider", name="Point bead")
    bead.press("End")
    heading(page, "mm")
    bead.press("Home")
    heading(page, "Indicator · no bead")
    go(page, "Log")
    heading(page, "Indicator · no bead")
    begin(page)
    for n in range(1, 3):
        page.get_by_role("button", name="Clean").click()
        expect(page.get_by_text(f"{n} drift{'s' if n > 1 else ''} here")).to_be_visible()
    expect(page.get_by_test_id("coach")).to_have_attribute("data-after", "2")
    expect(page.get_by_text("all saved")).to_be_visible()
    go(page, "Ledger")
    page.get_by_role("main").get_by_role("link", name=re.compile("Sallow Bend")).first.click()
    expect(page.get_by_role("main")).to_contain_text("Indicator · no bead")


def test_signs__of_the_fish_and_of_the_place_change_what_is_advised(page: Page) -> None:
    lie(page, "Ash run")
    go(page, "Rig")
    main = page.get_by_role("main")
    expect(main).to_contain_text("above it")
    expect(main).not_to_contain_text("egg")
    go(page, "Read")
    page.get_by_role("button", name="rocks in it").click()
    between = page.get_by_role("textbox", name="A bubble between you and the lane")
    page.get_by_role("radiogroup", name="Fish spawning?").get_by_role("radio", name="close by").click()
    between.fill("0.3")
    between.press("Enter")
    expect(page.get_by_role("button", name="As is usual for such a lie")).to_be_enabled()
    between.fill("9999")
    between.press("Enter")
    expect(between).to_have_attribute("aria-invalid", "true")
    between.fill("0.04")
    between.press("Enter")
    sound(page)
    go(page, "Rig")
    expect(main).to_contain_text("egg")
    page.get_by_role("radio").filter(has_text="Indicator").click()
    expect(main).to_contain_text("two ways")  # rocks split the current
    sound(page)
    go(page, "Read")
    expect(page.get_by_role("button", name="rocks in it")).to_have_attribute("aria-pressed", "true")


def read_in(request: Request) -> Any:  # noqa: ANN401 - JSON
    """Return the last reading that a batch to the service holds; None in one without."""
    if not request.url.endswith("/api/sync"):
        return None
    batch: Any = request.post_data_json
    return next((one["body"] for one in reversed(batch["events"]) if one["kind"] == "readings"), None)


def test_taps__lose_nothing_when_an_answer_lands_between_them(page: Page) -> None:
    """Two more taps while the first is on its way, and another while those are."""
    held: list[Route] = []

    def say(group: str, words: str) -> None:
        page.get_by_role("radiogroup", name=group).get_by_role("radio", name=words).click()

    def in_it(name: str) -> Locator:
        return page.get_by_role("button", name=name)

    lie(page, "Ash run")
    page.route("**/api/sync", lambda route: held.append(route))  # noqa: PLW0108 - it asks for a function
    with page.expect_request(lambda one: read_in(one) is not None) as first:
        in_it("rocks in it").click()
    assert read_in(first.value)["cover"] == ["rocks"]
    say("Fish spawning?", "close by")
    say("Do they refuse the fly?", "they turn away")
    expect(page.get_by_role("radio", name="they turn away")).to_be_checked()
    with page.expect_request(lambda one: read_in(one) is not None) as second:
        held.pop().continue_()
    body = read_in(second.value)
    assert (body["cover"], body["spawning"], body["refusing"]) == (["rocks"], True, True)
    in_it("roots, wood").click()
    expect(in_it("roots, wood")).to_have_attribute("aria-pressed", "true")
    with page.expect_request(lambda one: read_in(one) is not None) as third:
        held.pop().continue_()
    body = read_in(third.value)
    assert (sorted(body["cover"]), body["refusing"]) == (["rocks", "roots"], True)


def test_rig__is_chosen_though_one_walks_on_before_it_is_worked_out(page: Page) -> None:
    """No answer comes while another screen is opened: an advised rig is on the rod at once, one set by hand when it comes."""
    held: list[Route] = []
    lie(page, "Ash run")
    go(page, "Rig")
    heading(page, "Euro ·")
    page.route("**/api/tune", lambda route: held.append(route))  # noqa: PLW0108 - it asks for a function
    page.get_by_role("radiogroup", name="Rig").get_by_role("radio").filter(has_text="Indicator").click()
    heading(page, "Indicator ·")
    go(page, "Log")
    heading(page, "Indicator ·")
    go(page, "Rig")
    line = page.get_by_role("slider", name=LINE)
    with page.expect_request("**/api/tune"):
        line.press("ArrowRight")
    longer = float(line.get_attribute("aria-valuenow") or "")
    with page.expect_request("**/api/tune"):
        page.get_by_role("link", name="How to tie it").click()
    heading(page, "How to tie it")
    held.pop().continue_()
    expect(page.get_by_role("main")).to_contain_text(re.compile(rf"set {longer:.2f}\sm"))


def test_reading__that_gets_nowhere_leaves_no_old_number_standing(page: Page) -> None:
    """There is signal by the browser's word, and nothing comes through."""
    held: list[Route] = []
    lie(page, "Ash run")
    heading(page, "1.15 m deep ± ")
    page.route("**/api/sync", lambda route: held.append(route))  # noqa: PLW0108 - it asks for a function
    depth = page.get_by_role("textbox", name="Depth", exact=True)
    depth.fill("1.30")
    depth.press("Enter")
    heading(page, "1.30 m deep, as read just now")
    go(page, "Rig")
    heading(page, "Worked out for 1.15 m, read again: 1.30 m")
    held.pop().continue_()
    heading(page, "in the zone")
    go(page, "Read")
    heading(page, "1.30 m deep ± ")


def test_least_change__is_offered_and_taken(page: Page) -> None:
    lie(page, "Ash run")
    go(page, "Rig")
    slider = page.get_by_role("slider", name=LINE)
    for _ in range(2):
        slider.press("PageDown")
    least = page.locator("section").filter(has_text="Least change")
    expect(least).to_contain_text(re.compile("Over the next 20 drifts it brings"))
    sound(page)
    take = least.get_by_role("button", name=re.compile("Set it: (Lengthen|Slide)"))
    words = take.get_attribute("aria-label") or ""
    set_to = re.findall(r"\d\.\d\d", words)[-1]
    take.click()
    expect(slider).to_have_attribute("aria-valuetext", re.compile(set_to))


def test_build__is_read_printed_and_shared(page: Page) -> None:
    lie(page, "Ash run")
    go(page, "Rig")
    page.get_by_role("link", name="How to tie it").click()
    heading(page, "How to tie it")
    expect(page.get_by_role("img", name="The leader from the rod end to the fly")).to_be_visible()
    sound(page)
    page.get_by_role("radio", name="a dark bank").click()
    expect(page.get_by_role("main")).to_contain_text("two-tone black and white")
    with page.expect_download() as saved:
        page.get_by_role("button", name="Share it (JSON)").click()
    made = json.loads(saved.value.path().read_text())
    assert made["format"] == "deriva-build/1"
    below = sum(one["length_m"] for one in made["sections"] if "tippet" in one["name"])
    assert f"{below:.2f} m" in made["answer"]
    with page.expect_download() as card:
        page.get_by_role("button", name="Card for the pocket").click()
    pages = PdfReader(io.BytesIO(card.value.path().read_bytes())).pages
    assert len(pages) == 2  # the back says what comes next
    assert "black and white" in " ".join(pages[0].extract_text().split())


def test_compare__maps_both_and_answers_to_the_slider(page: Page) -> None:
    lie(page, "Ash run")
    go(page, "Rig")
    page.get_by_role("link", name="Compare it").click()
    heading(page, re.compile("At this speed|As good as each other"))
    expect(page.get_by_role("img", name=re.compile("First: share in the zone"))).to_be_visible()
    sound(page)
    said = page.get_by_role("heading", level=1).inner_text()
    page.get_by_role("slider", name=LINE).first.press("PageUp")
    expect(page.get_by_role("heading", level=1)).not_to_have_text(said)
