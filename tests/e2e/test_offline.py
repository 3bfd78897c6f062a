"""On the bank with no signal: the app opens from cold, taps are kept, and the service ends with what was tapped."""

import re

import pytest
from playwright.sync_api import BrowserContext, Page, expect

from tests.e2e.conftest import Running
from tests.e2e.screens import begin, controlled, go, heading, lie, sound

TAPS = ("Clean", "Clean", "Tick", "Clean", "Hung up", "Clean", "Missed", "Tick")


@pytest.fixture
def viewport() -> str:
    """On the phone: at home there is signal."""
    return "phone"


def logged(running: Running) -> list[tuple[str, bool]]:
    found = running.stored(
        "select outcome, undone from drift where at > now() - interval '1 hour' order by at, id"
    )
    return [(str(outcome), bool(undone)) for outcome, undone in found]


@pytest.mark.kept
def test_bank__opens_cold_without_signal_and_loses_no_tap(
    page: Page, context: BrowserContext, running: Running
) -> None:
    controlled(page)
    lie(page, "Ash run")
    go(page, "Rig")
    heading(page, "in the zone")
    go(page, "Log")
    begin(page)
    expect(page.get_by_text("all saved")).to_be_visible()
    for kind in ("beats", "column", "advice", "hung"):
        expect(page.locator("html")).to_have_attribute("data-kept", re.compile(kind))
    context.set_offline(True)
    page.reload()
    heading(page, "mm")
    expect(page.get_by_role("img", name="The rig in hand")).to_be_visible()
    for n, name in enumerate(TAPS, 1):
        page.get_by_role("button", name=name).click()
        expect(page.get_by_text(f"{n} drift{'s' if n > 1 else ''} here")).to_be_visible()
    expect(page.get_by_text("The coach was not taken along")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("7 drifts here")).to_be_visible()
    expect(page.get_by_text("waiting for signal")).to_be_visible()
    sound(page)
    page.reload()  # killed and opened again, still without signal
    expect(page.get_by_text("7 drifts here")).to_be_visible()
    assert logged(running) == []
    go(page, "Ledger")
    main = page.get_by_role("main")
    main.get_by_role("link", name=re.compile("under way")).first.click()
    expect(main).to_contain_text("7 drifts · 0 fish · 1 missed · 2 touches")
    expect(main).to_contain_text("As it stands on this device")
    sound(page)
    go(page, "Log")  # where one stands, though the ledger is of no lie
    expect(page.get_by_text("7 drifts here")).to_be_visible()
    mute = page.get_by_text("The coach was not taken along")
    expect(mute).to_be_visible()
    context.set_offline(False)
    saved = page.get_by_text("all saved")
    # the browser may not say that signal is back; what waits is not left until the next look then
    saved.or_(page.get_by_role("button", name="send now")).click()
    expect(saved).to_be_visible()
    expect(mute).to_be_hidden()  # it is asked again, and not only at the next tap
    expect(page.get_by_test_id("coach")).to_have_attribute("data-after", "7")
    outcomes = {"Clean": "clean", "Tick": "tick", "Hung up": "hung", "Missed": "missed"}
    assert logged(running) == [(outcomes[tap], k == len(TAPS) - 1) for k, tap in enumerate(TAPS)]
    page.goto("/")  # opened anew
    expect(page.get_by_role("main")).to_contain_text("Cinder Weir · Marrowen")


def test_lie__that_was_never_opened_is_fished_without_signal(page: Page, context: BrowserContext) -> None:
    """With what hangs on the rod. What is asked of it in vain, again and again, does not take the pad away."""
    lie(page, "Ash run")
    go(page, "Rig")
    heading(page, "in the zone")
    go(page, "Log")
    begin(page)
    page.get_by_role("button", name="Clean").click()
    context.set_offline(True)
    page.get_by_role("button", name="Leave the keys").click()
    page.get_by_role("link", name=re.compile("Alder tail")).click()
    expect(page.get_by_text("what hangs on the rod")).to_be_visible()
    page.get_by_role("button", name="Fish Alder tail").click()
    page.get_by_role("button", name="Tick").click()
    expect(page.get_by_text("1 drift here")).to_be_visible()


KEEP_THE_ENGINE = """async (spoil) => {
  const { files, started } = await (await fetch("/engine/engine.json")).json();
  const kept = await caches.open("engine");
  await kept.addAll(files.map((one) => one.url));
  if (spoil) await kept.put(started, new Response("no memory of an engine"));
}"""


@pytest.mark.kept
@pytest.mark.long
@pytest.mark.parametrize("spoilt", [False, True], ids=["from memory", "where its memory is of no use"])
def test_engine__starts_and_says_what_the_service_says(
    page: Page, context: BrowserContext, spoilt: bool
) -> None:
    controlled(page)
    lie(page, "Ash run")
    go(page, "Log")
    begin(page)
    page.get_by_role("button", name="Tick").click()
    coach, word = page.get_by_role("region", name="Coach"), page.get_by_test_id("coach")
    expect(word).to_have_attribute("data-after", "1")
    expect(coach).to_contain_text("if it is")
    said = coach.locator("p").first.inner_text()
    page.get_by_role("button", name="Undo").click()
    expect(word).to_have_attribute("data-after", "0")
    page.evaluate(KEEP_THE_ENGINE, spoilt)
    for kind in ("beats", "column", "advice", "hung"):
        expect(page.locator("html")).to_have_attribute("data-kept", re.compile(kind))
    context.set_offline(True)
    page.reload()
    page.get_by_role("button", name="Tick").click()
    expect(word).to_have_attribute("data-after", "1", timeout=60_000)
    expect(page.get_by_text("Worked out on this device.")).to_be_visible()
    expect(coach.locator("p").first).to_have_text(said)
    if not spoilt:
        read_a_lie_that_was_not_taken_along(page)


def read_a_lie_that_was_not_taken_along(page: Page) -> None:
    """The rigs are begun on while the reading is looked at, and it is said that few flies were."""
    page.goto(page.url.replace("/log", "/read"))
    depth = page.get_by_role("textbox", name="Depth", exact=True)
    depth.fill("1.40")
    depth.press("Enter")
    heading(page, "1.40 m deep, as read just now")
    go(page, "Rig")
    expect(page.get_by_text("from a quick look at a few flies")).to_be_visible(timeout=60_000)
    heading(page, "in the zone")


@pytest.mark.kept
def test_bank__what_was_never_worked_out_says_that_it_needs_signal(
    page: Page, context: BrowserContext
) -> None:
    controlled(page)
    lie(page, "Bend pool")
    expect(page.get_by_role("img", name="Water column")).to_be_visible()
    context.set_offline(True)
    go(page, "Rig")
    expect(page.get_by_role("main")).to_contain_text("needs signal")
    context.set_offline(False)
    heading(page, "in the zone")


@pytest.mark.kept
def test_reading__without_signal_is_kept_and_goes_out(page: Page, context: BrowserContext) -> None:
    controlled(page)
    lie(page, "Wall seam")
    page.get_by_role("button", name="Sound it").wait_for()
    for kind in ("beats", "column"):
        expect(page.locator("html")).to_have_attribute("data-kept", re.compile(kind))
    context.set_offline(True)
    depth, warmth = (
        page.get_by_role("textbox", name=name, exact=True) for name in ("Depth", "Water temperature")
    )
    for field, value in ((depth, "1.62"), (warmth, "9.5")):
        field.fill(value)
        field.press("Enter")
    kept = page.get_by_role("status").filter(has_text="This reading is kept here")
    expect(kept).to_be_visible()
    sound(page)
    page.reload()  # killed and opened again, still without signal
    expect(kept).to_be_visible()
    expect(depth).to_have_value("1.62")
    expect(warmth).to_have_value("9.5")
    context.set_offline(False)
    heading(page, "1.62 m deep ± ")
    expect(kept).to_have_count(0)
    expect(warmth).to_have_value("9.5")


@pytest.mark.kept
def test_reading__refused_once_it_got_through_is_said_and_nothing_typed_is_gone(
    page: Page, context: BrowserContext
) -> None:
    lie(page, "Wall seam")
    page.get_by_role("button", name="Sound it").wait_for()
    context.set_offline(True)
    depth = page.get_by_role("textbox", name="Depth", exact=True)
    depth.fill("12")
    depth.press("Enter")
    expect(page.get_by_role("status").filter(has_text="kept here")).to_be_visible()
    context.set_offline(False)
    said = page.get_by_role("status").filter(has_text="This reading was not taken")
    expect(said).to_contain_text("12 is outside 0.05 to 4 m")
    expect(depth).to_have_value("12.00")
    depth.fill("1.2")
    depth.press("Enter")
    heading(page, "1.20 m deep ± ")
    expect(said).to_have_count(0)
