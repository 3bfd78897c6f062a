"""A real PostgreSQL of the tests' own: a cluster a worker, a fresh copy of a seeded database a test."""

from collections import defaultdict
from collections.abc import Callable, Iterator
from contextlib import nullcontext
from typing import Any

import psycopg
import pytest
from fastapi import FastAPI
from fastapi.testclient import TestClient
from pwdlib import PasswordHash
from pwdlib.hashers.argon2 import Argon2Hasher

from deriva.service.main import build
from deriva.service.serving import scratch_cluster
from deriva.service.settings import Settings
from deriva.service.store.address import sync_url
from deriva.service.store.cluster import Cluster
from deriva.service.usecases import passwords
from deriva.service.workers import Worker
from tests.databases import fresh, make_template
from tests.pooler import POOLED, Pooler, pooler
from tests.service.anglers import Bank, enrol
from tests.service.post import PostOffice


@pytest.fixture(scope="session", autouse=True)
def _passwords_are_hashed_quickly() -> Iterator[None]:
    """What makes a hash slow is the library's; the services that are started as they are run for real hash as they do there."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(passwords, "HASHER", PasswordHash((Argon2Hasher(time_cost=1, memory_cost=64),)))
        yield


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    with scratch_cluster() as made:
        make_template(made)
        yield made


Way = Pooler | Cluster


@pytest.fixture(scope="session")
def way_in(cluster: Cluster) -> Iterator[Way]:
    """What the service is told of the cluster: itself, or the pooler in front of it (`make pooled`)."""
    with pooler(cluster) if POOLED else nullcontext(cluster) as way:
        yield way


NAME = "one_test"
SITE = "http://testserver"


@pytest.fixture
def database(cluster: Cluster, way_in: Way) -> Iterator[str]:
    """The asyncpg address of a database that only this test has."""
    with fresh(cluster, NAME) as name:
        yield way_in.url(name)


@pytest.fixture
def rows(cluster: Cluster, database: str) -> Iterator[psycopg.Connection]:
    """A look into the database past the service."""
    del database  # made before it is looked into
    with psycopg.connect(sync_url(cluster.url(NAME)), autocommit=True) as connection:
        yield connection


@pytest.fixture(scope="session")
def workers() -> Iterator[list[Worker]]:
    """Processes that compute for all tests: one that is new loads its kernels first."""
    made = [Worker(), Worker()]
    yield made
    for worker in made:
        worker.end()


@pytest.fixture(scope="session")
def service(way_in: Way, workers: list[Worker]) -> FastAPI:
    """The service on the database that every test has anew; built once, since that takes longer than most tests."""
    return build(Settings(database_url=way_in.url(NAME), demo=True, site=SITE), workers)


@pytest.fixture
def client(service: FastAPI, database: str) -> Iterator[TestClient]:
    """The service, signed in as the demo angler. An exception that nothing turns into an answer comes back as the 500."""
    del database  # made before the service starts
    with TestClient(service, raise_server_exceptions=False) as made:
        assert made.post("/api/session/demo").status_code == 200
        yield made


@pytest.fixture(scope="session")
def post_office() -> Iterator[PostOffice]:
    """A mail server."""
    office = PostOffice()
    yield office
    office.close()


@pytest.fixture
def letters(post_office: PostOffice) -> PostOffice:
    """The mail server, with nothing in it."""
    post_office.empty()
    return post_office


App = Callable[..., TestClient]


@pytest.fixture(scope="session")
def at_rest() -> defaultdict[str, list[FastAPI]]:
    """Services that an earlier test has stopped, by their settings: to build one takes longer than most tests."""
    return defaultdict(list)


@pytest.fixture
def app_of(
    database: str, letters: PostOffice, at_rest: defaultdict[str, list[FastAPI]], workers: list[Worker]
) -> Iterator[App]:
    """Return a maker of installations on one database, by their settings; they hand letters to the mail server."""
    opened: list[tuple[str, FastAPI, TestClient]] = []

    def made(**settings: Any) -> TestClient:  # noqa: ANN401
        known = Settings(**({"database_url": database, "site": SITE} | letters.settings() | settings))
        kind = repr(known)
        app = at_rest[kind].pop() if at_rest[kind] else build(known, workers)
        client = TestClient(app, raise_server_exceptions=False, base_url=known.site)
        opened.append((kind, app, client.__enter__()))
        return client

    yield made
    for kind, app, client in opened:
        client.__exit__(None, None, None)
        at_rest[kind].append(app)


@pytest.fixture
def fresh_app(app_of: App) -> TestClient:
    """An installation that is no demo, with nobody in it but the tests' template."""
    return app_of()


@pytest.fixture
def bank(client: TestClient) -> Bank:
    """The demo angler at the first lie."""
    return Bank(client)


@pytest.fixture
def stranger(client: TestClient, rows: psycopg.Connection) -> Bank:
    """Another angler with a river, a beat and a lie of their own, at the same service."""
    other = TestClient(client.app, raise_server_exceptions=False)
    other.cookies.set("deriva_session", enrol(rows, "Another angler"))
    other.portal = client.portal
    return Bank(other)
