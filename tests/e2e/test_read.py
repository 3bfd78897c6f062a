"""Reading a lie with one thumb: a sounding in three taps, and what rises and net say."""

from playwright.sync_api import Page, expect

from tests.e2e.screens import IN_THE_HAND, heading, lie, sound


@IN_THE_HAND
def test_lie__is_sounded_in_three_taps_and_signs_say_where_they_feed(page: Page) -> None:
    lie(page, "Wall seam")
    page.get_by_role("button", name="Sound it").wait_for()

    # a sounding in three taps: open, touch the ruler, say how
    page.get_by_role("button", name="Sound it").click()
    ruler = page.get_by_role("slider", name="depth")
    before = ruler.get_attribute("aria-valuetext")
    box = page.get_by_role("dialog").get_by_test_id("ruler").bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + 0.5 * box["width"], box["y"] + 0.4 * box["height"])
    said = ruler.get_attribute("aria-valuetext") or ""
    sound(page)
    page.get_by_role("button", name="By staff").click()
    heading(page, f"{said} deep ± ")
    assert said not in ("", before)

    page.get_by_role("radio", name="leave none").click()
    expect(page.get_by_role("main")).to_contain_text("They feed at the top: rises without bubbles")
    page.get_by_role("button", name="In the net").click()
    page.get_by_role("radio", name="cased caddis").click()
    sound(page)
    page.get_by_role("button", name="The bed").click()
    page.get_by_role("radio", name="leave bubbles").click()
    expect(page.get_by_role("main")).to_contain_text(
        "They feed at several levels: rises that leave bubbles, and food"
    )
    page.reload()
    expect(page.get_by_role("main")).to_contain_text("cased caddis, 8 mm, from the bed")
