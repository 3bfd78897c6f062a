"""Databases of the tests' own: a seeded template, and a fresh copy of it for every test that asks."""

import asyncio
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager

import psycopg

from deriva.service.store.cluster import Cluster
from deriva.service.store.engine import connect, migrate
from deriva.service.usecases.demo import seed, seed_database

TEMPLATE = "template_seeded"


async def _places(url: str) -> None:
    engine, sessions = connect(url)
    async with sessions.begin() as session:
        await seed(session)
    await engine.dispose()


def _in_its_own_loop(url: str, *, seasons: bool, gauges: str = "") -> None:
    """Seed in a thread: Playwright may have a loop in this one."""
    with ThreadPoolExecutor(1) as thread:
        thread.submit(
            lambda: asyncio.run(seed_database(url, gauges=gauges) if seasons else _places(url))
        ).result()


def seed_seasons_too(url: str, *, gauges: str = "") -> None:
    """Put the whole demo into a database, with its gauge where one is to be read."""
    _in_its_own_loop(url, seasons=True, gauges=gauges)


def make_template(cluster: Cluster) -> None:
    """Make the template: the demo's places without its seasons."""
    cluster.create(TEMPLATE)
    migrate(cluster.url(TEMPLATE))
    _in_its_own_loop(cluster.url(TEMPLATE), seasons=False)


def _server(cluster: Cluster) -> psycopg.Connection:
    return psycopg.connect(cluster.url("postgres").replace("+asyncpg", ""), autocommit=True)


@contextmanager
def fresh(cluster: Cluster, name: str) -> Iterator[str]:
    """Make a copy of the template for one test; yield its name."""
    with _server(cluster) as server:
        server.execute(f'drop database if exists "{name}" with (force)')
        server.execute(f'create database "{name}" template {TEMPLATE}')
    yield name
    with _server(cluster) as server:
        server.execute(f'drop database "{name}" with (force)')
