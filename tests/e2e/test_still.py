"""On the bank nothing that can be touched moves, whatever arrives; and nothing old is shown for water that was read again."""

import re

import psycopg
import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Route, expect

from browser import VIEWPORTS
from tests.e2e.conftest import SIZES, Running
from tests.e2e.screens import begin, choose, controlled, go, heading, lie, sound

TOUCHED = "button, a, [role=radio], [role=slider], select, input"
SHIFTS = """() => {
  window.shifted = [];
  new PerformanceObserver(list => list.getEntries().forEach(one => window.shifted.push(
    [one.value, ...one.sources.map(s => s.node ? (s.node.outerHTML ?? s.node.textContent ?? '').slice(0, 120) : '')]
  ))).observe({ type: 'layout-shift', buffered: false });
}"""
PLACES = f"""() => [...document.querySelectorAll('main {TOUCHED.replace(", ", ", main ")}')]
  .filter(one => getComputedStyle(one).visibility !== 'hidden' && one.getClientRects().length)
  .map(one => {{ const at = one.getBoundingClientRect();
    return [(one.textContent.trim() || one.ariaLabel || '').replace(/[\\d.]+/g, '#').slice(0, 16),
      Math.round(at.left), Math.round(at.top + scrollY), Math.round(at.width), Math.round(at.height)]; }})"""


@pytest.fixture(params=list(SIZES))
def viewport(request: pytest.FixtureRequest) -> str:
    return str(request.param)


def places(page: Page) -> dict[str, tuple[int, int, int, int]]:
    """Return where everything that can be touched is, by its words; what comes and goes in a reserved place is not counted."""
    return {name: (x, y, w, h) for name, x, y, w, h in page.evaluate(PLACES) if name in STAY}


STAY = {
    "Cleanno touch", "Tick" + "light touch", "Hung upstopped", "Missednot hooked", "Fishto hand", "Lost flybroke of",
    "Undo", "Change setting", "Time a bubble", "End outing", "nearer lane", "further lane", "stance downstrea",
    "stance upstream", "slower than bubb", "same pace", "faster",
}  # fmt: skip


def test_bank__no_key_moves_through_an_outing(page: Page) -> None:
    lie(page, "Ash run")
    go(page, "Log")
    begin(page)
    keys = {
        name: page.get_by_role("button", name=re.compile(f"^{name}"))
        for name in ("Clean", "Tick", "Missed", "Hung up")
    }
    expect(keys["Clean"]).to_be_visible()
    expect(page.get_by_text("all saved")).to_be_visible()
    at_first = places(page)
    assert len(at_first) == len(STAY), STAY - set(at_first)
    page.evaluate(SHIFTS)
    for n in range(1, 15):
        keys[("Clean", "Clean", "Tick", "Clean", "Hung up", "Missed")[n % 6]].click()
        expect(page.get_by_text(f"{n} drift{'s' if n > 1 else ''} here")).to_be_visible()
        assert places(page) == at_first, n
        if n % 3 == 0:
            expect(page.get_by_test_id("coach")).to_have_attribute("data-after", str(n))
            assert places(page) == at_first, n
    expect(page.get_by_text("all saved")).to_be_visible()
    page.get_by_role("button", name="further lane").click()
    page.get_by_role("radio", name="faster").click()
    assert places(page) == at_first
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("13 drifts here")).to_be_visible()
    assert places(page) == at_first
    assert page.evaluate("window.shifted") == []


PHONES = ((390, 844), (375, 667), (360, 640), (320, 568), (844, 390))
KEYS = ("Clean", "Tick", "Hung up", "Missed", "Fish", "Lost fly")


def in_sight(page: Page, *names: str, top: float = 0, side: float = 0, bottom: float = 0) -> None:
    """Expect buttons to be whole on the screen as it opens, and the coach's line with them, none in what a phone keeps."""
    assert page.evaluate("scrollY") == 0
    room = page.viewport_size
    assert room is not None
    line = page.get_by_test_id("coach")
    for one in (line, *(page.get_by_role("button", name=re.compile(f"^{name}")) for name in names)):
        box = one.bounding_box()
        assert box is not None
        assert box["x"] >= side
        assert box["y"] >= top
        assert box["x"] + box["width"] <= room["width"] - side, (room, one)
        assert box["y"] + box["height"] <= room["height"] - bottom, (room, one)
    word, key = (
        line.locator("..").bounding_box(),
        page.get_by_role("button", name=re.compile("^Clean")).bounding_box(),
    )
    assert word is not None
    assert key is not None
    assert key["y"] - word["y"] - word["height"] >= APART_PX, room


APART_PX = 4

KEPT = (((390, 844), {"top": 47, "bottom": 34}), ((844, 390), {"top": 0, "side": 47, "bottom": 21}))
"""What a phone without a button keeps of its screen, upright and on its side, px (an example, from memory)."""
"""The coach's word is a key itself where it asks for a change: a thumb must not press both."""


def whole(page: Page) -> None:
    """Expect every key, the coach's line and what hangs to be read to their ends."""
    cut = page.evaluate(
        "() => [...document.querySelectorAll('h1, [data-testid=coach], [data-testid=coach] *, button')]"
        ".filter(one => one.checkVisibility() && !one.classList.contains('sr-only'))"
        ".filter(one => one.scrollWidth > one.clientWidth + 1 || one.scrollHeight > one.clientHeight + 1)"
        ".filter(one => getComputedStyle(one).overflow !== 'visible').map(one => one.textContent)"
    )
    assert cut == []


@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_bank__has_a_phone_s_screen_to_itself(page: Page) -> None:
    """No header, no ribbon, no steps; all keys without scrolling, also on a small phone and on its side."""
    lie(page, "Ash run")
    go(page, "Log")
    begin(page)
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_test_id("coach")).to_have_attribute("data-after", "1")
    steps = page.get_by_role("navigation", name="Steps")
    expect(steps).to_have_count(0)
    for width, height in PHONES:
        page.set_viewport_size({"width": width, "height": height})
        in_sight(page, *KEYS, "Undo", "Leave the keys")
        sound(page)
    edges = page.context.new_cdp_session(page)
    for (width, height), kept in (*KEPT, (PHONES[0], {})):
        page.set_viewport_size({"width": width, "height": height})
        insets = {one: kept.get(one, kept.get("side", 0)) for one in ("top", "bottom", "left", "right")}
        edges.send("Emulation.setSafeAreaInsetsOverride", {"insets": insets})
        in_sight(page, *KEYS, "Undo", "Leave the keys", **kept)
    page.evaluate("() => { document.documentElement.style.fontSize = '200%' }")
    for width, height in PHONES[:2]:
        page.set_viewport_size({"width": width, "height": height})
        in_sight(page, *KEYS)
    page.set_viewport_size({"width": 320, "height": 568})
    whole(page)
    page.get_by_role(
        "button", name="1 drift here"
    ).click()  # not under the keys, which are higher than the screen
    page.get_by_role("dialog").get_by_role("button", name="Back to the keys").click()
    page.set_viewport_size({"width": 390, "height": 844})
    whole(page)
    page.evaluate("() => { document.documentElement.style.fontSize = '' }")
    page.get_by_role("button", name="Leave the keys").click()
    expect(steps).to_be_visible()
    page.get_by_role("button", name="Only the keys").click()
    expect(steps).to_have_count(0)
    page.go_back()
    expect(steps).to_be_visible()
    expect(page.get_by_role("button", name="Only the keys")).to_be_visible()
    page.go_back()
    heading(page, "deep")


@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_sheet__whose_file_comes_late_does_not_open_over_a_thumb_that_went_on(page: Page) -> None:
    lie(page, "Ash run")
    go(page, "Log")
    begin(page)
    expect(page.get_by_text("all saved")).to_be_visible()
    held: list[Route] = []
    page.route(re.compile("/assets/sheets-"), lambda route: held.append(route))  # noqa: PLW0108 - a builtin cannot be marked
    page.reload()
    page.get_by_role("button", name="Change setting").click()

    def press(key: str, drifts: str) -> None:
        page.get_by_role("button", name=re.compile(f"^{key}")).click()
        expect(page.get_by_text(f"{drifts} here")).to_be_visible()

    press("Fish", "1 drift")
    press("Clean", "2 drifts")
    with page.expect_response(re.compile("/assets/sheets-")):
        for one in held:
            one.continue_()
    page.unroute_all()
    press("Clean", "3 drifts")
    page.get_by_role("button", name="End outing").click()
    sheet = page.get_by_role("dialog")
    # the last that was asked for, and it alone
    expect(sheet.get_by_role("button", name="End it")).to_be_visible()
    expect(sheet).to_have_count(1)


@pytest.mark.kept
@pytest.mark.parametrize("viewport", ["desktop", "phone"], indirect=True)
def test_pages__do_not_shift_while_they_load(page: Page, viewport: str) -> None:
    lie(page, "Ash run")
    page.get_by_role("button", name="Sound it").wait_for()
    read = page.url
    go(page, "Log")
    begin(page)
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("all saved")).to_be_visible()
    page.add_init_script(f"({SHIFTS.replace('buffered: false', 'buffered: true')})()")
    for path, there in (
        (read.replace("/read", "/rig"), "in the zone"),
        ("/", re.compile(r"\d to \d+:\d\d")),  # the day is planned
        ("/ledger", "1 outing, 0 fish"),
    ):
        page.goto(path)
        expect(page.get_by_role("main")).to_contain_text(there)
        if path != "/ledger":
            expect(page.get_by_role("navigation", name="Lies")).to_be_visible()
        total = sum(one[0] for one in page.evaluate("window.shifted"))
        assert total < 0.02, (viewport, path, page.evaluate("window.shifted"))


def put_away(page: Page, context: BrowserContext) -> None:
    """Fish a lie, lose the signal, and read the lie again by staff: far deeper."""
    controlled(page)
    lie(page, "Throat")
    go(page, "Rig")
    heading(page, "in the zone")
    go(page, "Log")
    begin(page)
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("all saved")).to_be_visible()
    for kind in ("beats", "column", "advice"):
        expect(page.locator("html")).to_have_attribute("data-kept", re.compile(kind))
    context.set_offline(True)
    go(page, "Read")
    depth = page.get_by_role("textbox", name="Depth", exact=True)
    depth.fill("1.3")
    depth.press("Enter")
    heading(page, "1.30 m deep, as read just now")


@pytest.mark.kept
@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_water__read_again_without_signal_puts_away_what_was_worked_out_for_the_old(
    page: Page, context: BrowserContext, rows: psycopg.Connection
) -> None:
    put_away(page, context)
    expect(page.get_by_role("complementary", name="Cautions")).to_contain_text("Do not wade the lie itself")
    expect(page.get_by_role("img", name="Water column")).to_have_count(0)
    expect(page.get_by_text("no signal · as of")).to_be_visible()
    sound(page)
    for step in ("Rig", "Drift"):
        go(page, step)
        heading(page, "Worked out for 0.90 m, read again: 1.30 m")
        expect(page.get_by_role("main")).not_to_contain_text("in the zone")
        sound(page)
    go(page, "Log")
    read = page.get_by_role("dialog", name="Stop and read")
    expect(read).to_contain_text("Do not wade the lie itself")
    read.get_by_role("button", name="I have read it").click()
    expect(page.get_by_text("Worked out for 0.90 m, read again: 1.30 m")).to_be_visible()
    expect(page.get_by_role("img", name="The rig in hand")).to_have_count(0)
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("2 drifts here")).to_be_visible()
    sound(page)
    page.goto("/trade/first-hour")  # nor does a bank that is kept simple keep it to itself
    choose(page.get_by_role("radio", name="simple, for a first hour"))
    page.go_back()
    told = page.get_by_role("region", name="What to do now")
    expect(told).to_contain_text("Worked out for 0.90 m, read again: 1.30 m")
    page.get_by_role("button", name="Show everything").click()
    expect(told).to_have_count(0)
    page.reload()  # what was read is not asked for again after a cold start
    expect(page.get_by_text("2 drifts here")).to_be_visible()
    expect(page.get_by_role("dialog")).to_have_count(0)
    context.set_offline(False)
    expect(page.get_by_text("all saved")).to_be_visible()
    depths = rows.execute(
        "select s.situation -> 'water' ->> 'depth_m' from drift d join setting t on t.id = d.setting_id"
        " join stop s on s.id = t.stop_id where d.at > now() - interval '1 hour' order by d.at"
    ).fetchall()
    assert [float(depth) for (depth,) in depths] == [0.9, 1.3]
    go(page, "Rig")
    heading(page, "in the zone")


@pytest.mark.kept
@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_lie__added_and_read_without_signal_is_fished_and_goes_out(
    page: Page, context: BrowserContext, rows: psycopg.Connection
) -> None:
    controlled(page)
    lie(page, "Ash run")
    go(page, "Log")
    heading(page, "mm")
    page.get_by_role("link", name="Cinder Weir").click()
    page.get_by_role("button", name="Add a lie").wait_for()
    for kind in ("beats", "today"):
        expect(page.locator("html")).to_have_attribute("data-kept", re.compile(kind))
    context.set_offline(True)
    page.get_by_role("button", name="Add a lie").click()
    page.get_by_label("Name", exact=True).fill("Found slot")
    page.keyboard.press("Escape")
    expect(page.get_by_role("alert")).to_contain_text("Throw away what you entered?")
    page.get_by_role("button", name="Keep on").click()
    page.get_by_role("button", name="Add it").click()
    page.get_by_role("main").get_by_role("link", name="Found slot").click()
    for label, value in (("Depth", "0.8"), ("Surface speed", "0.6")):
        field = page.get_by_label(label, exact=True)
        field.fill(value)
        field.press("Enter")
    expect(page.get_by_text("This reading is kept here")).to_be_visible()
    go(page, "Log")
    expect(page.get_by_text("Nothing is worked out for it yet")).to_be_visible()
    begin(page)
    page.get_by_role("button", name="Tick").click()
    expect(page.get_by_text("1 drift here")).to_be_visible()
    context.set_offline(False)
    expect(page.get_by_text("all saved")).to_be_visible()
    stored = rows.execute(
        "select l.name, r.depth_m, d.outcome from lie l join reading r on r.lie_id = l.id join stop s on s.lie_id = l.id"
        " join setting t on t.stop_id = s.id join drift d on d.setting_id = t.id where l.name = 'Found slot'"
    ).fetchall()
    assert stored == [("Found slot", 0.8, "tick")]


@pytest.mark.kept
@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_log__is_corrected_on_the_bank_and_an_outing_gone_on_with(
    page: Page, context: BrowserContext, rows: psycopg.Connection
) -> None:
    lie(page, "Ash run")
    go(page, "Log")
    begin(page)
    for n, name in enumerate(("Clean", "Tick", "Clean"), 1):
        page.get_by_role("button", name=re.compile(f"^{name}")).click()
        expect(page.get_by_text(f"{n} drift{'s' if n > 1 else ''} here")).to_be_visible()
    context.set_offline(True)
    page.get_by_role("button", name="3 drifts here").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="tick").click()
    sheet.get_by_role("radio", name="hung up").click()
    sheet.get_by_role("radio", name="slower").click()
    sheet.get_by_text("It was set differently").click()
    sheet.get_by_role("textbox", name="Set to").fill("9")
    sheet.get_by_role("textbox", name="Point bead").fill("4.5")
    expect(sheet.get_by_text("Between 0.10 m and 6.00 m")).to_be_visible()
    sheet.get_by_role("textbox", name="Set to").fill("1.23")
    spans = sheet.get_by_role("radiogroup", name="Set so for")
    choose(spans.get_by_role("radio", name="from here on: 2"))
    sound(page)
    sheet.get_by_role("button", name="That is how it was").click()
    expect(sheet.get_by_role("combobox", name="Setting")).to_contain_text("4.5 mm · 1.23 m")
    sheet.get_by_role("combobox", name="Lie").select_option(label="Wall seam")
    sheet.get_by_role("button", name="Done").click()
    sheet.get_by_role("button", name="clean").first.click()
    sheet.get_by_role("button", name="Take it back").click()
    expect(sheet.get_by_role("button", name="Put it back")).to_be_visible()
    sheet.get_by_role("button", name="Done").click()
    sheet.get_by_role("button", name="Back to the keys").click()
    expect(page.get_by_text("1 drift here")).to_be_visible()
    page.get_by_role("button", name="End outing").click()
    page.get_by_role("dialog").get_by_role("button", name="End it").click()
    page.get_by_role("button", name=re.compile("Resume the outing")).click()
    expect(page.get_by_text("1 drift here")).to_be_visible()
    context.set_offline(False)
    expect(page.get_by_text("all saved")).to_be_visible()
    stored = rows.execute(
        "select d.outcome, d.pace, d.undone, l.name, t.depth_setting_m, (t.setup ->> 'point_bead_mm')::float from drift d"
        " join setting t on t.id = d.setting_id join stop s on s.id = t.stop_id join lie l on l.id = s.lie_id"
        " where d.at > now() - interval '1 hour' order by d.at"
    ).fetchall()
    (first, *rod), second, third = [list(one) for one in stored]
    assert [first, *rod[:3]] == ["clean", None, False, "Ash run"]
    assert rod[3:] != [1.23, 4.5]
    assert second == ["hung", "slower", False, "Wall seam", 1.23, 4.5]
    assert third == ["clean", None, True, "Ash run", 1.23, 4.5]
    assert rows.execute("select count(*) from outing where ended_at is null").fetchone() == (1,)
    go(page, "Ledger")
    page.get_by_role("main").get_by_role("link", name=re.compile("under way")).click()
    page.get_by_role("button", name="Delete", exact=True).click()
    page.get_by_role("dialog").get_by_role("button", name="Delete it").click()
    expect(page.get_by_role("button", name="Taken back. Put it back")).to_be_visible()
    go(page, "Ledger")
    expect(page.get_by_role("main")).not_to_contain_text("under way")


def test_step__taken_while_a_screen_is_fetched_is_of_the_lie_just_tapped(
    browser: Browser, running: Running
) -> None:
    context = browser.new_context(**VIEWPORTS["phone"], base_url=running.address, service_workers="block")
    page = context.new_page()
    held: list[Route] = []
    page.goto("/")
    page.get_by_role("button", name="Fish the Marrowen").click()
    seam = page.get_by_role("navigation", name="Lies").get_by_role("link", name="Wall seam")
    seam.wait_for()
    page.route(re.compile("ReadScreen|BankScreen"), lambda route: held.append(route))  # noqa: PLW0108 - a builtin cannot be marked
    address = seam.get_attribute("href")
    seam.click()
    log = page.get_by_role("navigation", name="Steps").get_by_role("link", name="Log")
    assert address is not None
    expect(log).to_have_attribute("href", re.sub("/[a-z]+$", "/log", address))
    log.click()
    page.get_by_role("link", name="account").click()  # and on again, before any of them is there
    expect(page.get_by_role("button", name="Sign out")).to_be_visible()
    for one in held:
        one.continue_()
    page.unroute_all()
    expect(page.get_by_role("button", name="Sign out")).to_be_visible()
    context.close()


@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_second_phone__finds_what_hangs_on_the_rod(page: Page, browser: Browser, running: Running) -> None:
    lie(page, "Ash run")
    go(page, "Log")
    begin(page)
    title = page.get_by_role("heading", level=1)
    begun = title.inner_text()
    page.get_by_role("button", name="Change setting").click()
    more = page.get_by_role("dialog").get_by_role("button", name=re.compile("^more (tippet|float)"))
    for _ in range(3):
        more.click()
    page.get_by_role("button", name="Set it").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(title).not_to_have_text(begun)
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("all saved")).to_be_visible()
    on_the_rod = title.inner_text()
    second = browser.new_context(**VIEWPORTS["phone"], base_url=running.address)
    other = second.new_page()
    other.goto("/")
    other.get_by_role("button", name="Fish the Marrowen").click()
    lie(other, "Ash run")
    go(other, "Rig")
    heading(other, "in the zone")
    go(other, "Log")
    expect(other.get_by_role("heading", level=1)).to_have_text(on_the_rod)
    other.get_by_role("button", name="Clean").click()
    expect(other.get_by_text("2 drifts here")).to_be_visible()
    expect(other.get_by_text("all saved")).to_be_visible()
    settings = running.stored(
        "select depth_setting_m from setting where at > now() - interval '1 hour' order by at"
    )
    assert len(settings) == 2  # as begun, and as changed on the first phone: the second set nothing
    second.close()


@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_place__is_taken_from_where_one_stands(page: Page, context: BrowserContext) -> None:
    context.grant_permissions(["geolocation"])
    context.set_geolocation({"latitude": 47.1234, "longitude": -15.5})
    page.goto("/rivers")
    page.get_by_role("button", name="Add a river").click()
    page.get_by_role("button", name="I stand at it now").click()
    expect(page.get_by_label("Where: latitude, longitude")).to_have_value("47.12340, -15.50000")


SCREENS = (
    "/",
    "read",
    "rig",
    "drift",
    "log",
    "build",
    "compare",
    "/learn",
    "/ledger",
    "/box",
    "/account",
    "/rivers",
    "/practice",
    "/practice/free/7",
    "/trade/words",
    "/trade/knots",
    "/trade/lists",
)


@pytest.mark.parametrize("viewport", ["phone"], indirect=True)
def test_every_page__fits_a_small_phone_and_text_at_200_percent(page: Page) -> None:
    lie(page, "Ash run")
    page.get_by_role("button", name="Sound it").wait_for()
    at_lie = page.url.removesuffix("/read")
    for screen in SCREENS:
        page.goto(screen if screen.startswith("/") else f"{at_lie}/{screen}")
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        for width, text in ((320, "100%"), (390, "200%"), (320, "200%")):
            page.set_viewport_size({"width": width, "height": 844})
            page.evaluate("size => { document.documentElement.style.fontSize = size }", text)
            content, room = page.evaluate(
                "[document.documentElement.scrollWidth, document.documentElement.clientWidth]"
            )
            assert content <= room, (screen, width, content, room)
            cut = page.evaluate(
                "() => [...document.querySelectorAll('main button, main a, main [role=radio]')]"
                ".filter(one => one.scrollWidth > one.clientWidth + 2).map(one => one.textContent.slice(0, 40))"
            )
            assert cut == [], (screen, width, cut)
