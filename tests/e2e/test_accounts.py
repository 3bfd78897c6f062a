"""Accounts in the browser: made by a letter, ended on the bank without losing a tap, two anglers on one phone."""

import re

import psycopg
import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

from browser import VIEWPORTS
from tests.e2e.conftest import Running
from tests.e2e.screens import begin, go, heading, leave_the_keys, lie, sound

PASSWORD = "slate heron copper tide"  # noqa: S105
MIA = "mia@example.org"


@pytest.fixture
def viewport() -> str:
    """On the phone, where sessions end at the wrong moment."""
    return "phone"


def sign_in(page: Page) -> None:
    page.get_by_label("Mail address").fill(MIA)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in", exact=True).click()


def sign_out(page: Page) -> None:
    page.get_by_role("link", name="account").click()
    page.get_by_role("button", name="Sign out").click()
    expect(page.get_by_role("button", name="Fish the Marrowen")).to_be_visible()


def make_account(page: Page) -> None:
    """Make an account, follow the letter's link, sign in, and answer what is asked once."""
    page.get_by_role("button", name="Make an account").click()
    page.get_by_label("Your name").fill("Mia")
    page.get_by_label("Mail address").fill(MIA)
    page.get_by_label("Password").fill("password1234")
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_role("alert")).to_contain_text("hard to guess")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_role("status")).to_contain_text("A letter is on its way")
    sound(page)
    page.get_by_role("link", name="read them here").click()
    page.get_by_role("link").first.click()
    expect(page.get_by_role("heading", name="Your address is confirmed")).to_be_visible()
    page.get_by_role("link", name="On to Deriva").click()
    sign_in(page)
    asked = page.get_by_role("dialog", name="Before you start")
    asked.get_by_label("Home river").fill("Marrowen")
    asked.get_by_role("button", name="Done").click()
    expect(asked).to_be_hidden()


def test_account__is_made_by_a_letter_and_sees_nothing_of_the_demo_s(page: Page) -> None:
    sign_out(page)
    make_account(page)
    page.get_by_role("link", name="account").click()
    heading(page, "Mia")
    expect(page.get_by_text("at home on the Marrowen")).to_be_visible()
    expect(page.get_by_text("(this one)")).to_be_visible()
    sound(page)
    for name in ("Ash run", "Sallow Bend"):
        expect(page.get_by_text(name)).to_have_count(0)
    page.reload()
    heading(page, "Mia")


def fish(page: Page, taps: int) -> None:
    lie(page, "Ash run")
    go(page, "Rig")
    heading(page, "in the zone")
    go(page, "Log")
    begin(page)
    for n in range(1, taps + 1):
        page.get_by_role("button", name="Clean").click()
        expect(page.get_by_text(re.compile(f"{n} drifts? here"))).to_be_visible()


NOTES_THE_DOOR = """() => new MutationObserver((_, self) => {
  if (!document.querySelector('#root button')) return;
  window.opened = performance.now();
  self.disconnect();
}).observe(document, { childList: true, subtree: true })"""
"""When the first key was there: what can wait is fetched from then on, sooner or later by the machine."""


@pytest.mark.kept
def test_door__opens_before_the_app_is_there(browser: Browser, running: Running) -> None:
    """Who is new here waits for little script, and leaves nothing on the device by looking in."""
    context = browser.new_context(**VIEWPORTS["phone"], base_url=running.address, service_workers="block")
    context.add_init_script(f"({NOTES_THE_DOOR})()")
    page = context.new_page()
    page.goto("/")
    start = page.get_by_role("button", name="Fish the Marrowen")
    expect(start).to_be_visible()
    scripts: list[int] = page.evaluate(
        "() => performance.getEntriesByType('resource')"
        ".filter(one => one.name.endsWith('.js') && one.startTime < window.opened).map(one => one.encodedBodySize)"
    )
    assert len(scripts) > 1
    assert 0 < sum(scripts) < 150_000
    assert page.evaluate("() => indexedDB.databases()") == []
    assert page.title() == "Deriva"
    start.click()
    expect(page.get_by_role("navigation", name="Steps")).to_be_visible()
    assert "deriva" in [one["name"] for one in page.evaluate("() => indexedDB.databases()")]
    context.close()


NOTHING_IS_SAT_OUT = """() => {
  const later = window.setTimeout;
  window.setTimeout = (act, ms = 0, ...told) => ms > 10 && ms <= 300 ? 0 : later(act, ms, ...told);
}"""
"""Timers of a tenth of a second or three never ring: what opens all the same waited for files and answers alone."""


def test_door__and_what_is_fetched_when_it_is_asked_for_are_shown_as_soon_as_they_are_there(
    browser: Browser, running: Running
) -> None:
    """React holds back for 0.3 s whatever it had to wait for within a drawing."""
    context = browser.new_context(**VIEWPORTS["phone"], base_url=running.address, service_workers="block")
    context.add_init_script(f"({NOTHING_IS_SAT_OUT})()")
    page = context.new_page()
    page.goto("/")
    page.get_by_role("button", name="Fish the Marrowen").click()
    steps = page.get_by_role("navigation", name="Steps")
    expect(steps).to_be_visible()
    expect(page.locator("html")).to_have_attribute("data-kept", re.compile("beats"))
    page.reload()  # who is known here comes in by another way
    expect(steps).to_be_visible()
    page.get_by_role("button", name="What do these words mean?").click()
    expect(page.get_by_role("button", name="Tap a word, or be done")).to_be_visible()
    context.close()


def test_file__that_does_not_come_is_said_and_asked_for_again(browser: Browser, running: Running) -> None:
    context = browser.new_context(**VIEWPORTS["phone"], base_url=running.address, service_workers="block")
    page = context.new_page()
    page.goto("/")
    start = page.get_by_role("button", name="Fish the Marrowen")
    context.route("**/assets/app-*.js", lambda route: route.abort())
    start.click()
    expect(page.get_by_role("alert")).to_contain_text("No answer")
    context.unroute("**/assets/app-*.js")
    start.click()
    expect(page.get_by_role("navigation", name="Steps")).to_be_visible()
    context.route("**/assets/BoxScreen-*.js", lambda route: route.abort())
    page.get_by_role("link", name="Box").click()
    trouble = page.get_by_role("alert")
    expect(trouble).to_contain_text("could not be fetched")
    sound(page)
    context.route(
        "**/index.html", lambda route: route.fulfill(body="another app, whose files have other names")
    )
    with page.expect_event("load"):
        trouble.get_by_role("button", name="Try again").click()
    expect(trouble).to_contain_text("could not be fetched")
    context.unroute("**/assets/BoxScreen-*.js")
    trouble.get_by_role("button", name="Try again").click()
    heading(page, re.compile("nymphs of"))
    context.route("**/assets/WordsOverlay-*.js", lambda route: route.abort())
    page.get_by_role("button", name="What do these words mean?").click()
    expect(trouble).to_contain_text("could not be fetched")  # in its place: the screen stays
    heading(page, re.compile("nymphs of"))
    context.unroute("**/assets/WordsOverlay-*.js")
    trouble.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("button", name="Tap a word, or be done")).to_be_visible()
    context.close()


def test_session__ends_on_the_bank_and_no_tap_is_lost(page: Page, rows: psycopg.Connection) -> None:
    fish(page, 1)
    expect(page.get_by_text("all saved")).to_be_visible()
    for kind in ("beats", "hung"):  # what the bank stands on is safe here
        expect(page.locator("html")).to_have_attribute("data-kept", re.compile(kind))
    rows.execute("delete from sign_in")
    page.get_by_role("button", name="Tick").click()
    expect(page.get_by_text("1 kept here, waiting")).to_be_visible()
    page.reload()
    expect(page.get_by_role("alert").filter(has_text="Your session has ended")).to_be_visible()
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("3 drifts here")).to_be_visible()
    sound(page)
    page.get_by_role("button", name="Sign in", exact=True).click()
    page.get_by_role("dialog").get_by_role("button", name="Fish the Marrowen").click()
    expect(page.get_by_text("all saved")).to_be_visible(timeout=15_000)
    found = rows.execute("select outcome from drift where at > now() - interval '1 hour' order by at, id")
    assert [outcome for (outcome,) in found.fetchall()] == ["clean", "tick", "clean"]


def ticks(rows: psycopg.Connection) -> int:
    found = rows.execute("select 1 from drift where outcome = 'tick' and at > now() - interval '1 hour'")
    return len(found.fetchall())


@pytest.mark.kept
def test_two_anglers__on_one_phone_do_not_see_each_other_s(
    page: Page, context: BrowserContext, rows: psycopg.Connection
) -> None:
    fish(page, 1)
    expect(page.get_by_text("all saved")).to_be_visible()
    context.set_offline(True)
    page.get_by_role("button", name="Tick").click()
    expect(page.get_by_text("1 kept here, waiting")).to_be_visible()
    context.route("**/api/sync", lambda route: route.abort())  # signal for all but the log
    context.set_offline(False)
    account = page.get_by_role("link", name="account")
    leave_the_keys(page, account)
    account.click()
    expect(page.get_by_text("1 written here wait for signal")).to_be_visible()
    sign_out(page)
    make_account(page)
    context.unroute("**/api/sync")
    sent: list[str] = []
    page.on(
        "request",
        lambda request: sent.append(request.post_data or "") if "/api/sync" in request.url else None,
    )
    page.evaluate("dispatchEvent(new Event('focus'))")
    page.get_by_role("link", name="account").click()
    expect(page.get_by_text("wait for signal")).to_have_count(0)
    assert ticks(rows) == 0
    assert all('"events":[]' in body for body in sent)
    for name in ("Ash run", "Sallow Bend"):
        expect(page.get_by_text(name)).to_have_count(0)
    sign_out(page)
    page.get_by_role("button", name="Fish the Marrowen").click()
    page.get_by_role("link", name="Deriva").click()
    lie(page, "Ash run")
    go(page, "Log")
    expect(page.get_by_text("2 drifts here")).to_be_visible()
    expect(page.get_by_text("all saved")).to_be_visible(timeout=15_000)
    assert ticks(rows) == 1
