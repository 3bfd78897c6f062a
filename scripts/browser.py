"""Debian's Chromium, driven by Playwright, as a desktop and as a phone: for the tests and for the screenshots."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from playwright.sync_api import Browser, sync_playwright

CHROMIUM = "/usr/bin/chromium-headless-shell"
FLAGS = (
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
    # pages live for seconds here: to compile what they run anew and better takes a fifth of all, and never pays
    "--js-flags=--no-opt --no-maglev",
)  # fmt: skip

VIEWPORTS: dict[str, dict[str, Any]] = {
    "desktop": {"viewport": {"width": 1280, "height": 800}},
    "phone": {
        "viewport": {"width": 390, "height": 844},
        "device_scale_factor": 2,
        "has_touch": True,
        "is_mobile": True,
    },
}


@contextmanager
def chromium() -> Iterator[Browser]:
    """Run a headless Chromium."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
        try:
            yield browser
        finally:
            browser.close()
