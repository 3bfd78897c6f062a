"""Databases of the tests' own: a seeded template, and a fresh copy of it for every test that asks."""

import os
from collections.abc import Iterator
from contextlib import AbstractContextManager, contextmanager
from uuid import UUID

import psycopg

from deriva.service.store.address import sync_url
from deriva.service.store.cluster import Cluster
from deriva.service.store.engine import connect
from deriva.service.store.owned import Key
from deriva.service.store.schema import migrate
from deriva.service.usecases.demo import seed, seed_database
from deriva.service.usecases.demo_gauge import seed_gauge
from parted import part
from tests.loops import run

TEMPLATE = "template_seeded"

PARTED = os.environ.get("DERIVA_PARTED") == "1"
"""Whether all that is an angler's is parted by angler: every test must hold on such a database too."""


async def _places(url: str) -> None:
    engine, sessions = connect(url)
    async with sessions.begin() as session:
        await seed(session)
    await engine.dispose()


async def _gauge(url: str, gauges: str) -> None:
    engine, sessions = connect(url)
    async with sessions.begin() as session:
        angler = await seed(session)
    await seed_gauge(sessions, angler, base=gauges)
    await engine.dispose()


def seed_seasons_too(url: str) -> None:
    """Put the whole demo into a database."""
    run(seed_database(url))


def seed_gauge_too(url: str, *, gauges: str) -> None:
    """Put the demo's gauge beside its places, with what it has measured."""
    run(_gauge(url, gauges))


def make_template(cluster: Cluster) -> None:
    """Make the template: the demo's places without its seasons, on a server whose clock is of an odd zone far away."""
    with _server(cluster) as server:
        server.execute("alter system set timezone = 'Asia/Kathmandu'")
        server.execute("select pg_reload_conf()")
    cluster.create(TEMPLATE)
    migrate(cluster.url(TEMPLATE))
    run(_places(cluster.url(TEMPLATE)))
    if PARTED:
        part(cluster.url(TEMPLATE))


def key_of(url: str, table: str, row: UUID) -> Key:
    """Return whose a row is, and its id."""
    with psycopg.connect(sync_url(url)) as rows:
        found = rows.execute(f"select angler_id from {table} where id = %s", (row,)).fetchone()  # noqa: S608
    assert found is not None
    return found[0], row


def _server(cluster: Cluster) -> psycopg.Connection:
    return psycopg.connect(sync_url(cluster.url("postgres")), autocommit=True)


@contextmanager
def fresh(cluster: Cluster, name: str, *, template: str = TEMPLATE) -> Iterator[str]:
    """Make a copy of the template for one test; yield its name."""
    with _server(cluster) as server:
        server.execute(f'drop database if exists "{name}" with (force)')
        # its files copied, and not written to the log block by block as well: twice as fast where they are small
        server.execute(f'create database "{name}" template {template} strategy file_copy')
    yield name
    with _server(cluster) as server:
        server.execute(f'drop database "{name}" with (force)')


def empty(cluster: Cluster, name: str) -> AbstractContextManager[str]:
    """Make a database with nothing in it for one test; yield its name."""
    return fresh(cluster, name, template="template1")
