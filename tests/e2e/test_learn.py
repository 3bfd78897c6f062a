"""Asking the log on the screen, with both of the demo's seasons in it."""

import re

from playwright.sync_api import Page, expect

from tests.databases import seed_seasons_too
from tests.e2e.conftest import Running
from tests.e2e.screens import IN_THE_HAND, go, heading, sound


def find_an_outing(page: Page) -> None:
    """Find one in the ledger by words, and look at it from the side."""
    main = page.get_by_role("main")
    go(page, "Ledger")
    box = page.get_by_label("Find an outing")
    box.fill("xyzzy")
    expect(main).to_contain_text("Nothing in this log is called xyzzy.")
    box.fill("seam fish")
    outing = main.get_by_role("listitem").get_by_role("link").first
    expect(outing).to_contain_text("fish")
    sound(page)
    outing.click()
    page.get_by_role("button", name="Add a note").click()
    page.get_by_label("Note", exact=True).fill("A dipper on the far stone")
    page.get_by_role("button", name="Keep the note").click()
    expect(main).to_contain_text("A dipper on the far stone")
    main.get_by_role("listitem").get_by_role("button", name="Delete").click()
    expect(main).not_to_contain_text("A dipper")
    page.get_by_role("button", name="Put the note back").click()
    expect(main).to_contain_text("A dipper on the far stone")
    expect(page.get_by_role("img", name=re.compile("The outing from the side: .*Wall seam"))).to_be_visible()
    sound(page)
    go(page, "Ledger")
    box.fill("dipper")
    expect(main.get_by_role("listitem")).to_have_count(1)


@IN_THE_HAND
def test_log__is_asked_in_words_and_answers_with_what_it_rests_on(page: Page, running: Running) -> None:
    page.goto('/learn?ask={"by":"moon"}')  # not the shape of a question: as if none were asked
    heading(page, "Not enough is logged to ask yet")
    seed_seasons_too(running.cluster.url(running.database))
    page.reload()
    heading(page, "A bead of 2.5 mm does better than a bead of 3.0 mm")
    main = page.get_by_role("main")
    expect(main).to_contain_text("How many takes a drift, by bead, flow below normal?")
    expect(main.get_by_role("img", name=re.compile(r"2\.5 mm: \d+"))).to_be_visible()
    expect(main).to_contain_text("Drifts of one outing count as alike")
    sound(page)
    page.get_by_role("button", name="How many takes an hour, by flow?").click()
    expect(main).to_contain_text("Clearly worse than normal flow: above normal flow.")
    page.get_by_label("by what").select_option("fly")
    heading(page, "Dubbed mayfly nymph")
    page.get_by_role("button", name="Use this in the rig").click()
    expect(page.get_by_role("button", name="In the rig: take it out")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Try dubbed .* against slim .* fairly$")).click()
    expect(page.get_by_role("heading", name=re.compile("^Fair trial: dubbed"))).to_be_visible()
    expect(main).to_contain_text("Now dubbed mayfly nymph, for 10 drifts")
    page.get_by_label("only some drifts").select_option("kind")
    page.get_by_label("only kind of lie").select_option("pool_head")
    expect(main).to_contain_text("by fly, kind of lie head of the pool?")
    page.get_by_role("button", name="End the trial").click()
    page.get_by_role("button", name="all kind of lie").click()
    expect(main).to_contain_text("How many takes an hour, by fly?")
    page.get_by_role("button", name="m · °C").click()
    page.get_by_label("by what").select_option("temperature")
    expect(main.get_by_role("row", name=re.compile("under 43"))).to_be_visible()
    for width, size in ((320, ""), (390, "200%")):
        page.set_viewport_size({"width": width, "height": 844})
        page.evaluate(f"() => {{ document.documentElement.style.fontSize = '{size}' }}")
        sound(page)
    page.evaluate("() => { document.documentElement.style.fontSize = '' }")
    lies = page.get_by_role("navigation", name="Steps").get_by_role("link", name="Rig")
    lies.click()
    looking_back = page.get_by_role("link", name="Which bead did best")
    expect(looking_back).to_be_visible()
    expect(main.get_by_role("heading", name="Your own evidence")).to_be_visible()
    expect(main).to_contain_text("the rigs above are computed without it")
    sound(page)
    looking_back.click()
    expect(main).to_contain_text("by bead, lie Alder tail, flow")
    page.get_by_role("button", name="all lie").click()
    page.get_by_role("button", name=re.compile("[0-9]+ outings with")).first.click()
    sheet = page.get_by_role("dialog")
    behind = sheet.get_by_role("link").first
    expect(behind).to_contain_text("drifts")
    behind.click()
    expect(page.get_by_role("button", name="Save", exact=True)).to_be_visible()
    find_an_outing(page)
