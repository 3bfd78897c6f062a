"""The API's document as a page: under the same content policy as the app, and without a network."""

import pytest
from playwright.sync_api import Page, expect


@pytest.mark.parametrize("viewport", ["desktop"], indirect=True)  # who reads it sits at a desk
def test_document__is_shown_from_here_alone(page: Page) -> None:
    wrong: list[str] = []
    page.on("console", lambda said: wrong.append(said.text) if said.type == "error" else None)
    page.on("request", lambda one: wrong.append(one.url) if not one.url.startswith(page.url[:16]) else None)
    page.goto("/api.html")
    expect(page.get_by_role("heading", name="Deriva")).to_be_visible()
    page.locator("#operations-log-sync button").first.click()
    expect(page.get_by_text("all in one transaction").first).to_be_visible()
    assert wrong == []
