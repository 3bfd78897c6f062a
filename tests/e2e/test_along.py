"""A day with no signal: packed, opened cold, thirty drifts with changes and two fish, killed midway, synced one for one."""

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Route, expect
from typer.testing import CliRunner

from browser import VIEWPORTS
from deriva.cli import app
from tests.e2e.conftest import Running
from tests.e2e.screens import begin, controlled, fish_with, go, heading, lie, sound

PACKS_WITHIN_MS = 60_000
COACHES_WITHIN_MS = 60_000

WALK = "HtHtHctcccfcctHcmcctcccfctcccc"
KEYS = {"c": "Clean", "t": "Tick", "H": "Hung up", "m": "Missed", "f": "Fish"}
WORDS = {"c": "clean", "t": "tick", "H": "hung", "m": "missed", "f": "fish"}
CHANGED_AFTER, KILLED_AFTER = 12, 16
ASKED_AFTER = (5, 10, 20, 30)

KIND = re.compile("euro|indicator|dry_dropper")
SECOND_LANE = re.compile("(Far lane|Middle lane|Lane 2 out)first stance")


PACKS = """(change) => new Promise((done) => {
  const open = indexedDB.open("deriva");
  open.onsuccess = () => {
    const kept = open.result.transaction("packs", "readwrite");
    const packs = kept.objectStore("packs");
    packs.getAll().onsuccess = ({ target }) => {
      if (change) for (const one of target.result) packs.put({ ...one, at: one.at - change });
      kept.oncomplete = () => { open.result.close(); done(target.result.map((one) => one.at)); };
    };
  };
})"""
AGED = f"() => ({PACKS})(2 * 3600 * 1000)"
RENEWED = f"""async () => {{
  const young = (at) => Date.now() - at < 3600 * 1000;
  while (!(await ({PACKS})(0)).every(young)) await new Promise((next) => setTimeout(next, 100));
}}"""

HEARS_WHAT_NEEDS_SIGNAL = """() => {
  window.needing = [];
  new MutationObserver(() => {
    for (const said of document.querySelectorAll("[role=status]"))
      if (said.textContent.includes("needs signal")) window.needing.push(said.textContent);
  }).observe(document.body, { childList: true, subtree: true, characterData: true });
}"""


@pytest.fixture
def viewport() -> str:
    return "phone"


def pack(page: Page) -> None:
    page.get_by_role("heading", name="Cinder Weir").get_by_role("link").click()
    along = page.get_by_role("region", name="Take it along")
    along.get_by_role("button", name="Take it along").click()
    expect(along.get_by_role("progressbar").or_(along.get_by_text("Ready for the river"))).to_be_visible()
    expect(along.get_by_role("heading", name="Ready for the river")).to_be_visible(timeout=PACKS_WITHIN_MS)
    expect(along.get_by_text(re.compile(r"Packed today .* MB"))).to_be_visible()


def left_with(page: Page, running: Running, lie: str) -> None:
    """Retire all lies but one: where a beat is packed twice that is enough, and the day takes a whole one along."""
    running.stored(f"update lie set retired = name <> '{lie}' returning id")  # noqa: S608
    page.reload()


EARLIER = """insert into outing (id, angler_id, beat_id, conditions, started_at, ended_at)
  select gen_random_uuid(), angler_id, id, '{}', now() - interval '3 days', now() - interval '70 hours'
  from beat where name = 'Cinder Weir' returning id"""


def read_the_ledger(page: Page, running: Running) -> None:
    """Have been out before, and look at it while there is signal."""
    running.stored(EARLIER)
    go(page, "Ledger")
    expect(page.get_by_role("listitem").get_by_role("link")).to_have_count(1)
    expect(page.locator("html")).to_have_attribute("data-kept", re.compile("outings"))
    page.get_by_role("link", name="Deriva").click()


def ledger_has_both(page: Page) -> None:
    """Without signal: what was seen there last, and what waits here."""
    go(page, "Ledger")
    expect(page.get_by_text("Without signal: the newest as of")).to_be_visible()
    outings = page.get_by_role("listitem").get_by_role("link")
    expect(outings).to_have_count(2)
    outings.last.click()  # it came along with its beat
    expect(page.get_by_text("sharing and saving come with signal")).to_be_visible()
    expect(page.get_by_text("No lie was fished on this outing.")).to_be_visible()
    expect(page.get_by_role("button", name="Share")).to_have_count(0)
    go(page, "Log")


def coach_line(page: Page, drifts: int) -> str:
    """Return what the coach says to do, once it has worked it out here for the drifts so far."""
    line = page.get_by_test_id("coach")
    expect(line).to_have_attribute("data-after", str(drifts), timeout=COACHES_WITHIN_MS)
    expect(page.get_by_text("Worked out on this device.")).to_be_visible()
    return line.inner_text().replace("\xa0", " ").splitlines()[0]


SAYS = {"deeper": "Deeper", "shallower": "Shallower", "heavier": "Heavier", "lighter": "Lighter"}


def coach_of_the_log(running: Running, drifts: int, tmp_path: Path) -> str:
    """Return the line for the advice of `deriva coach` on the first drifts of the log that the service ended with."""
    logged = running.stored(
        "select s.situation, t.rig, t.depth_setting_m, t.point_bead_mm, d.outcome, d.pace, t.setup from drift d"
        " join setting t on t.id = d.setting_id join stop s on s.id = t.stop_id"
        " where d.at > now() - interval '1 hour' order by d.at, d.id",
    )[:drifts]
    situation, rig, depth, bead, _, _, setup = logged[-1]
    kept = (
        "flies",
        "dropper_bead_mm",
        "dropper_spacing_m",
        "dropper_tag_m",
        "tippet_x",
        "shot_g",
        "float",
        "tip_pace",
    )
    question = {
        "situation": situation, "rig": rig,
        "drifts": [
            {"depth_setting_m": row[2], "point_bead_mm": row[3], "outcome": row[4], "pace": row[5]} for row in logged
        ],
        "tuning": {"rig": rig, "depth_setting_m": depth, "point_bead_mm": bead} | {n: setup[n] for n in kept},
    }  # fmt: skip
    file = tmp_path / "asked.json"
    file.write_text(json.dumps(question))
    done = CliRunner().invoke(app, ["coach", str(file)])
    assert done.exit_code == 0, done.stderr
    advice = json.loads(done.stdout)["advice"]
    if advice["action"] == "hold":
        return "Coach: hold"
    return (
        f"{SAYS[advice['action']]} to {advice['depth_setting_m']:.2f} m with {advice['point_bead_mm']:.1f} mm"
    )


def land(page: Page) -> None:
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("radio", name="measured").click()
    sheet.get_by_role("slider", name="Long").press("ArrowRight")
    sheet.get_by_role("radio", name="strong").click()
    sheet.get_by_role("button", name="Into the book").click()
    expect(sheet).to_be_hidden()


RECENT = "select 1 from drift where at > now() - interval '1 hour'"


def is_in_the_ledger(running: Running, changes: int) -> None:
    """Expect the service to have what was tapped, one for one, in order, and no more."""
    stored = running.stored(
        "select d.outcome, d.undone, d.lane from drift d where at > now() - interval '1 hour' order by at, id",
    )
    assert [outcome for outcome, _, _ in stored] == [WORDS[name] for name in WALK]
    assert not any(undone for _, undone, _ in stored)
    assert [lane for _, _, lane in stored] == [1] * 8 + [2] * (len(WALK) - 8)
    fish = running.stored(
        "select c.length_how, c.condition from catch c where at > now() - interval '1 hour'"
    )
    assert fish == [("measured", "strong")] * 2
    settings = running.stored("select count(*) from setting where at > now() - interval '1 hour'")[0][0]
    assert settings == changes + 1
    events = running.stored("select sequence, zone from change order by position")
    assert [sequence for sequence, _ in events] == list(range(1, len(events) + 1))


def set_it(page: Page) -> None:
    page.get_by_role("dialog").get_by_role("button", name="Set it").click()
    expect(page.get_by_role("dialog")).to_be_hidden(timeout=COACHES_WITHIN_MS)


def plans_the_day(page: Page) -> None:
    """With two fish in the book, what is left of the day is planned here too, by what was fished."""
    expect(page.get_by_text("2 in the book")).to_be_visible()
    page.get_by_role("button", name="The day", exact=True).click()
    day = page.get_by_role("dialog")
    here = day.get_by_role("link", name="Wall seam")
    expect(here).to_contain_text(re.compile(r"now to \d|had its"), timeout=COACHES_WITHIN_MS)
    day.get_by_role("button", name="Back to the keys").click()


@pytest.mark.kept
@pytest.mark.long
def test_day__without_signal_ends_in_the_ledger_one_for_one(
    page: Page, context: BrowserContext, running: Running, tmp_path: Path
) -> None:
    said: dict[int, str] = {}
    controlled(page)
    read_the_ledger(page, running)
    pack(page)
    context.set_offline(True)
    page.reload()
    expect(page.get_by_role("heading", name="Ready for the river")).to_be_visible()
    lie(page, "Wall seam")
    go(page, "Log")
    heading(page, "mm")
    expect(page.get_by_role("img", name="The rig in hand")).to_be_visible()
    begin(page)
    changes = 0
    for n, name in enumerate(WALK, 1):
        page.get_by_role("button", name=KEYS[name]).click()
        if name == "f":
            land(page)
        expect(page.get_by_text(f"{n} drift{'s' if n > 1 else ''} here")).to_be_visible()
        if n in ASKED_AFTER:
            said[n] = coach_line(page, n)
            if said[n].startswith(tuple(SAYS.values())):
                page.get_by_test_id("coach").click()
                set_it(page)
                changes += 1
        if n == CHANGED_AFTER:  # the angler's own mind
            page.get_by_role("button", name="Change setting").click()
            page.get_by_role("dialog").get_by_role("button", name=re.compile("^more (tippet|float)")).click()
            set_it(page)
            changes += 1
        if n == 8:
            page.get_by_role("button", name="further lane").click()
            expect(page.get_by_role("group", name="Lane and stance")).to_contain_text(SECOND_LANE)
        if n == KILLED_AFTER:
            running.kill()  # no page is without signal before it is made: what this one could reach first is not there
            page.close()  # the tab is killed
            page = context.new_page()
            page.goto("/")
            lie(page, "Wall seam")
            go(page, "Log")
            expect(page.get_by_text(f"{n} drifts here")).to_be_visible()
            expect(page.get_by_role("group", name="Lane and stance")).to_contain_text(SECOND_LANE)
    assert changes >= 2, said  # the coach's and the angler's
    plans_the_day(page)
    sound(page)
    ledger_has_both(page)
    assert running.stored(RECENT) == []
    running.start()
    context.set_offline(False)
    expect(page.get_by_text("all saved")).to_be_visible(timeout=COACHES_WITHIN_MS)
    is_in_the_ledger(running, changes)
    assert said == {n: coach_of_the_log(running, n, tmp_path) for n in said}


def begin_trial(context: BrowserContext, running: Running) -> None:
    """Fish an indicator and a euro rig in turns from now on."""
    trial = {"by": "rig", "first": "indicator", "second": "euro"}
    assert context.request.put("/api/learn/trial", data=trial, headers={"Origin": running.address}).ok


def is_laid_before_a_slider_moves(page: Page) -> None:
    """A rig that is known from the pack is judged here as soon as it is shown: the first answer takes longest."""
    go(page, "Rig")
    expect(page.locator("html")).to_have_attribute("data-laid", KIND, timeout=COACHES_WITHIN_MS)
    go(page, "Read")


def read_twice_as_deep(page: Page) -> None:
    depth = page.get_by_role("textbox", name="Depth", exact=True)
    depth.fill("2.40")
    depth.press("Enter")
    heading(page, "2.40 m deep, as read just now")
    expect(page.get_by_text("Mean speed")).to_be_visible(timeout=COACHES_WITHIN_MS)
    expect(page.get_by_role("main")).to_contain_text("Do not wade")


def fish_a_turn(page: Page) -> None:
    """Fish one drift of a trial's first turn; the coach, the trial, and what comes next are worked out here."""
    page.get_by_role("button", name="Clean").click()
    coach_line(page, 1)
    turn = page.get_by_role("status").filter(has_text="Fair trial")
    expect(turn).to_contain_text("for 9 drifts more, then", timeout=COACHES_WITHIN_MS)
    page.get_by_role("button", name="What comes next").click()
    expect(page.get_by_role("dialog")).to_contain_text("hung up", timeout=COACHES_WITHIN_MS)
    page.get_by_role("button", name="Back to the keys").click()


HEARS_THE_COACH = """{
  window.asked = [];
  const open = new Map(), laid = new Map(), said = {}, Plain = window.Worker;
  window.Worker = class extends Plain {
    constructor(...given) {
      super(...given);
      this.addEventListener("message", ({ data: { id } }) => {
        if (laid.has(id)) document.documentElement.dataset.laid = laid.get(id);
        const drifts = open.get(id);
        if (drifts === undefined) return;
        said[drifts] = (said[drifts] ?? 0) + 1;
        document.documentElement.dataset.words = `${said[drifts]} after ${drifts}`;
      });
    }
    postMessage(told) {
      if (told.door === "coach") {
        const { length } = told.asked.asked.drifts;
        window.asked.push(length);
        open.set(told.id, length);
      }
      if (told.door === "tune") laid.set(told.id, told.asked.tuning.rig);
      super.postMessage(told);
    }
  };
}"""
"""After how many drifts the coach on this device was asked for a word, and how many it has said after the last of those; and
the rig that was last judged here as it is set.
"""


def word_is_there_at_the_tap(page: Page) -> None:
    """While a drift is fished the word after it is worked out, for each way that it may end: the tap asks for nothing."""
    expect(page.locator("html")).to_have_attribute("data-words", "5 after 2", timeout=COACHES_WITHIN_MS)
    before = page.evaluate("window.asked.length")
    page.get_by_role("button", name="Tick").click()
    coach_line(page, 2)
    assert set(page.evaluate("window.asked")[before:]) <= {3}


def word_does_not_wait_for_a_slow_service(page: Page) -> None:
    """Signal that carries, and slowly: what this device can say is said while the service's word is on its way."""
    held: list[Route] = []

    def hold(route: Route) -> None:
        held.append(route)

    page.route("**/api/coach", hold)
    for drifts in (3, 4):  # the word after the third was worked out before there was signal
        page.get_by_role("button", name="Clean").click()
        coach_line(page, drifts)
    assert held
    page.unroute("**/api/coach")


def read_where_nothing_comes(page: Page) -> None:
    """One bar, and nothing arrives: what the device can say is not waited for; when something comes, the service says it."""
    page.route("**/api/**", lambda _route: None)
    go(page, "Read")
    depth = page.get_by_role("textbox", name="Depth", exact=True)
    depth.fill("1.20")
    depth.press("Enter")
    expect(page.get_by_text("no answer")).to_be_visible(timeout=COACHES_WITHIN_MS)
    go(page, "Rig")
    expect(page.get_by_text("Worked out on this device, for 1.20 m")).to_be_visible(timeout=COACHES_WITHIN_MS)
    heading(page, "in the zone")
    page.unroute("**/api/**")
    expect(page.get_by_text("Worked out on this device")).to_have_count(0, timeout=COACHES_WITHIN_MS)
    expect(page.get_by_text("no answer")).to_have_count(0)
    heading(page, "in the zone")


@pytest.mark.kept
@pytest.mark.long
def test_water__read_again_without_signal_is_worked_out_on_the_device(
    page: Page, context: BrowserContext, running: Running
) -> None:
    """Twice as deep and timed anew: picture, advice, cautions, sliders and coach are of the new water, and so is the log."""
    controlled(page)
    page.add_init_script(HEARS_THE_COACH)
    left_with(page, running, "Wall seam")
    begin_trial(context, running)
    pack(page)
    context.set_offline(True)
    page.reload()
    page.evaluate(HEARS_WHAT_NEEDS_SIGNAL)
    lie(page, "Wall seam")
    is_laid_before_a_slider_moves(page)
    read_twice_as_deep(page)
    go(page, "Rig")
    expect(page.get_by_text("Worked out on this device, for 2.40 m")).to_be_visible(timeout=COACHES_WITHIN_MS)
    heading(page, "in the zone")
    expect(page.get_by_role("main")).to_contain_text("Do not wade")
    sound(page)
    page.get_by_role("radiogroup", name="Rig").get_by_role("radio").filter(has_text="Indicator").click()
    heading(page, "Indicator ·")
    line = page.get_by_role("slider", name=re.compile("Float to point fly"))
    before = float(line.get_attribute("aria-valuenow") or "")
    line.press("ArrowRight")
    longer = float(line.get_attribute("aria-valuenow") or "")
    assert longer > before
    heading(page, f"{longer:.2f} m")
    page.get_by_role("link", name="How to tie it").click()
    expect(page.get_by_text("From the rod end down")).to_be_visible(timeout=COACHES_WITHIN_MS)
    expect(page.get_by_role("button", name="Card for the pocket")).to_have_count(0)  # the service prints it
    go(page, "Rig")
    page.get_by_role("link", name="Compare it").click()
    expect(page.get_by_text("At this speed").or_(page.get_by_text("As good as"))).to_be_visible(
        timeout=COACHES_WITHIN_MS
    )
    go(page, "Log")
    heading(page, re.compile(rf"Indicator · .*mm · {longer:.2f}\sm"))
    begin(page)
    fish_a_turn(page)
    word_is_there_at_the_tap(page)
    assert page.evaluate("window.needing") == []  # not for a moment, of what is worked out here
    context.set_offline(False)
    expect(page.get_by_text("all saved")).to_be_visible(timeout=COACHES_WITHIN_MS)
    word_does_not_wait_for_a_slow_service(page)
    expect(page.get_by_text("all saved")).to_be_visible()
    (deep,) = running.stored(
        "select distinct (s.situation->'water'->>'depth_m')::float from drift d join setting t on t.id = d.setting_id"
        " join stop s on s.id = t.stop_id where d.at > now() - interval '1 hour'"
    )
    assert deep == (2.4,)
    go(page, "Rig")  # the service looks at all there is
    heading(page, "in the zone")
    expect(page.get_by_text("Worked out on this device")).to_have_count(0)
    read_where_nothing_comes(page)
    page.evaluate(AGED)  # opened again on signal hours later, what was taken along is renewed
    page.reload()
    page.evaluate(RENEWED)


def test_two_phones__of_one_angler_end_with_one_log(page: Page, browser: Browser, running: Running) -> None:
    lie(page, "Ash run")
    go(page, "Rig")
    heading(page, "in the zone")
    go(page, "Log")
    begin(page)
    page.get_by_role("button", name="Clean").click()
    expect(page.get_by_text("all saved")).to_be_visible()
    other_phone = browser.new_context(**VIEWPORTS["phone"], base_url=running.address)
    other = other_phone.new_page()
    other.goto("/")
    other.get_by_role("button", name="Fish the Marrowen").click()
    lie(other, "Ash run")
    go(other, "Log")
    expect(other.get_by_text("1 drift here")).to_be_visible()
    other.get_by_role("button", name="Tick").click()
    expect(other.get_by_text("2 drifts here")).to_be_visible()
    expect(other.get_by_text("all saved")).to_be_visible()
    page.evaluate("dispatchEvent(new Event('focus'))")  # looked at again
    expect(page.get_by_text("2 drifts here")).to_be_visible()
    page.get_by_role("button", name="Undo mine").click()  # the last tap is the other thumb's
    expect(page.get_by_text("1 drift here")).to_be_visible()
    expect(page.get_by_role("button", name="Undo mine")).to_be_disabled()
    expect(page.get_by_text("all saved")).to_be_visible()
    other.evaluate("dispatchEvent(new Event('focus'))")
    expect(other.get_by_text("1 drift here")).to_be_visible()
    assert running.stored("select outcome, undone from drift order by at desc limit 2") == [
        ("tick", False),
        ("clean", True),
    ]
    other_phone.close()


def test_lanes__are_moved_by_a_swipe_and_by_its_buttons(page: Page) -> None:
    lie(page, "Ash run")
    go(page, "Rig")
    heading(page, "in the zone")
    go(page, "Log")
    begin(page)
    strip = page.get_by_role("group", name="Lane and stance")
    expect(strip).to_contain_text("Near lanefirst stance")
    sound(page)  # before the first drift
    box = strip.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def swipe(dx: float, dy: float) -> None:
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + dx, y + dy)
        page.mouse.up()

    swipe(80, 5)
    expect(strip).to_contain_text(SECOND_LANE)
    swipe(3, -80)
    expect(strip).to_contain_text(re.compile("(Far lane|Middle lane|Lane 2 out)2 steps up"))
    swipe(-80, 0)
    strip.get_by_role("button", name="stance downstream").click()
    expect(strip).to_contain_text("Near lanefirst stance")
    expect(strip.get_by_role("button", name="nearer lane")).to_be_disabled()


def is_forgotten_where_a_drift_of_it_is_moved(page: Page) -> None:
    """A depth that was kept says so where one of its drifts is put right."""
    sheet = page.get_by_role("dialog")
    page.get_by_role("button", name="11 drifts here").click()
    sheet.get_by_role("button", name="tick").last.click()
    expect(sheet).to_contain_text("was found from this drift among others, and stands as it is.")
    sheet.get_by_role("combobox", name="Lie").select_option(label="Wall seam")
    sheet.get_by_role("button", name="Forget it").click()  # of where it was
    expect(sheet.get_by_role("button", name="Forget it")).to_have_count(0)
    sheet.get_by_role("combobox", name="Lie").select_option(label="Ash run")
    sheet.get_by_role("button", name="Done").click()
    sheet.get_by_role("button", name="Back to the keys").click()


def test_bottom__is_found_lane_by_lane_and_kept_for_another_day(page: Page, running: Running) -> None:
    fish_with(
        page, "Ash run", "Indicator"
    )  # ticks tell more of the depth than on a line that a tip may hold up
    page.get_by_role("button", name="Clean").click()
    strip = page.get_by_role("group", name="Lane and stance")
    strip.get_by_role("button", name="further lane").click()
    for n in range(2, 12):
        page.get_by_role("button", name="Tick").click()
        expect(page.get_by_text(f"{n} drifts here")).to_be_visible()
    expect(page.get_by_test_id("coach")).to_have_attribute("data-after", "11")
    page.get_by_role("button", name="as the depth here").click()
    sheet = page.get_by_role("dialog")
    is_forgotten_where_a_drift_of_it_is_moved(page)
    page.get_by_role("button", name="as the depth here").click()
    strip.get_by_role("button", name="bottom").click()
    kept = sheet.get_by_role("button", name=re.compile("^(far lane|middle lane|lane 2)"))
    expect(kept).to_contain_text("10 drifts, kept")
    expect(sheet.get_by_role("button", name="near lane")).to_contain_text("1 drift")
    sound(page)
    sheet.get_by_role("button", name=re.compile("Forget what was kept of the .* lane|lane 2")).click()
    expect(kept).not_to_contain_text("kept")
    sheet.get_by_role("button", name="Back to the keys").click()
    page.get_by_role("button", name="as the depth here").click()
    strip.get_by_role("button", name="bottom").click()
    expect(kept).to_contain_text("10 drifts, kept")
    sheet.get_by_role("button", name="near lane").click()
    expect(strip).to_contain_text("Near lanefirst stance")
    expect(page.get_by_text("all saved")).to_be_visible()
    ((lane, depth, sd),) = running.stored("select lane, depth_m, depth_sd_m from sounding where not gone")
    assert lane == 2
    (read,) = running.stored("select count(*) from reading where depth_how = 'drifts'")
    assert read == (0,)  # what the lie is read as is another lane's
    page.get_by_role("button", name="End outing").click()
    page.get_by_role("dialog").get_by_role("button", name="End it").click()
    page.get_by_role("button", name="Start outing").click()
    strip.get_by_role("button", name="bottom").click()
    expect(kept).to_contain_text(re.compile(r" to .*0 drifts, kept"))  # what is believed of it now has come
    shown = re.search(r"([\d.]+)\sm", kept.inner_text())
    assert shown is not None
    assert (
        abs(float(shown[1]) - depth) <= 0.1 * sd
    )  # what was read of the near lane is in it, and counts once
    lies = [lie for beat in page.request.get("/api/beats").json() for lie in beat["lies"]]
    (told,) = [one for lie in lies for one in lie["bottom"]]
    assert (told["lane"], round(told["depth_m"], 2)) == (
        lane,
        round(depth, 2),
    )  # and it was kept as it was found
