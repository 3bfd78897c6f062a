"""The real app on a real database in a real browser."""

import os
import subprocess
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Literal

import psycopg
import pytest
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, Request, Response, expect

from browser import VIEWPORTS, chromium
from deriva.service.serving import free_port, kill_app, scratch_cluster, start_app
from deriva.service.store.cluster import Cluster
from tests.databases import fresh, make_template

expect.set_options(timeout=20_000)  # how long a slow and busy machine may take; what is there is seen at once


SIZES: dict[str, Any] = {
    **VIEWPORTS,
    "small phone": {**VIEWPORTS["phone"], "viewport": {"width": 320, "height": 568}},
}

THROTTLE = int(os.environ.get("DERIVA_THROTTLE", "1"))
"""So many times slower the browser's pages are run, to see that nothing hangs on speed."""


class Running:
    """The app and its database, which a test may pull the plug of. Its gauges are read where a test may start a stand-in."""

    def __init__(self, cluster: Cluster, database: str, log: Path) -> None:
        self.cluster, self.database, self.log, self.port = cluster, database, log, free_port()
        self.address = f"http://127.0.0.1:{self.port}"
        self.gauges_port = free_port()
        self.gauges = f"http://127.0.0.1:{self.gauges_port}"
        self.app: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start what does not run."""
        self.cluster.start()
        if self.app is None:
            self.app = start_app(
                self.cluster.url(self.database),
                port=self.port,
                log=self.log,
                gauges=self.gauges,
                gauge_every_s=1.0,
            )

    def kill(self) -> None:
        if self.app is not None:
            kill_app(self.app)
            self.app = None

    def rows(self) -> psycopg.Connection:
        """Return a connection to the database, past the service."""
        return psycopg.connect(self.cluster.url(self.database).replace("+asyncpg", ""), autocommit=True)

    def stored(self, query: str) -> list[tuple[Any, ...]]:
        """Return what the database holds."""
        with self.rows() as rows:
            return rows.execute(query).fetchall()

    def pull_the_plug(self) -> None:
        """Stop app and database as a power cut would."""
        self.kill()
        self.cluster.stop("immediate")


@pytest.fixture(scope="session")
def durable() -> Iterator[Cluster]:
    with scratch_cluster(durable=True) as cluster:
        make_template(cluster)
        yield cluster


@pytest.fixture(scope="session")
def shared(durable: Cluster, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Running]:
    """One app for all tests: its start takes longer than most of them."""
    service = Running(durable, "walked", tmp_path_factory.mktemp("app") / "app.log")
    yield service
    service.kill()


@pytest.fixture
def running(shared: Running) -> Iterator[Running]:
    """The app on a database that only this test has; the app finds its connections cut, as after a restart, and goes on."""
    with fresh(shared.cluster, shared.database):
        shared.start()
        yield shared


@pytest.fixture
def rows(running: Running) -> Iterator[psycopg.Connection]:
    """The database, past the service."""
    with running.rows() as connection:
        yield connection


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with chromium() as made:
        yield made


@pytest.fixture(params=list(VIEWPORTS))
def viewport(request: pytest.FixtureRequest) -> str:
    return str(request.param)


@pytest.fixture
def context(
    browser: Browser, viewport: str, running: Running, request: pytest.FixtureRequest
) -> Iterator[BrowserContext]:
    # one dot a pixel: four times as many are drawn for pictures, and nothing is measured in them
    size = SIZES[viewport] | {"device_scale_factor": 1}
    workers: Literal["allow", "block"] = "allow" if request.node.get_closest_marker("kept") else "block"
    made = browser.new_context(
        **size, service_workers=workers, base_url=running.address, accept_downloads=True
    )
    yield made
    made.close()


@pytest.fixture
def page(context: BrowserContext, running: Running) -> Iterator[Page]:
    """A page that is signed in; anything asked of another host, thrown by a script, or a 5xx, fails the test."""
    opened = context.new_page()
    if THROTTLE > 1:
        context.new_cdp_session(opened).send("Emulation.setCPUThrottlingRate", {"rate": THROTTLE})
    elsewhere: list[str] = []
    thrown: list[str] = []

    def asked(request: Request) -> None:
        if not request.url.startswith((running.address, "data:", "blob:")):
            elsewhere.append(request.url)

    def logged(message: ConsoleMessage) -> None:
        # what a lost signal keeps from coming is said on the screen
        lost = ("Failed to load resource", "when fetching the script")
        if message.type == "error" and not any(one in message.text for one in lost):
            thrown.append(message.text)

    def answered(response: Response) -> None:
        if response.status >= 500:
            thrown.append(f"{response.status} {response.request.method} {response.url}")

    opened.on("request", asked)
    opened.on("response", answered)
    opened.on("console", logged)
    opened.on("pageerror", lambda error: thrown.append(str(error)))
    # as the button does, which others press: a screen less to draw in every test
    signed = context.request.post("/api/session/demo", headers={"Origin": running.address})
    assert signed.ok
    opened.goto("/")
    opened.get_by_role("navigation", name="Steps").wait_for()
    yield opened
    assert elsewhere == []
    assert thrown == []
