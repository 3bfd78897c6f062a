"""The store: migrations are the models, the cluster keeps its data, the demo is seeded once."""

import psycopg
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import create_engine

from deriva.service.store.cluster import Cluster
from deriva.service.store.engine import alembic_config, migrate
from deriva.service.store.models import Base
from deriva.service.usecases.demo import BEATS
from tests.databases import seed_seasons_too
from tests.service.anglers import count


def differences(url: str) -> list[object]:
    engine = create_engine(url.replace("+asyncpg", "+psycopg"))
    with engine.connect() as connection:
        found: list[object] = compare_metadata(MigrationContext.configure(connection), Base.metadata)
    engine.dispose()
    return found


def test_migrations__make_what_the_models_say_and_go_back(cluster: Cluster) -> None:
    cluster.create("migrated")
    url = cluster.url("migrated")
    migrate(url)
    assert differences(url) == []
    command.downgrade(alembic_config(url), "base")
    assert len(differences(url)) > 5
    migrate(url)
    migrate(url)
    assert differences(url) == []


def test_demo__is_seeded_once_with_lies_and_two_seasons(database: str, rows: psycopg.Connection) -> None:
    """At least eight lies on two beats; every outing has drifts under a setting that the advisor made."""
    seed_seasons_too(database)
    first = {table: count(rows, table) for table in ("angler", "lie", "outing", "setting", "drift", "catch")}
    seed_seasons_too(database)
    assert {table: count(rows, table) for table in first} == first
    assert len(BEATS) >= 2
    assert first["lie"] >= 8
    assert first["outing"] >= 4
    assert first["drift"] > 5 * first["setting"]
    assert first["catch"] >= 1


def test_cluster__listens_on_loopback_alone(cluster: Cluster) -> None:
    with psycopg.connect(cluster.url("postgres").replace("+asyncpg", "")) as connection:
        listening = connection.execute("show listen_addresses").fetchone()
        sockets = connection.execute("show unix_socket_directories").fetchone()
    assert listening == ("127.0.0.1",)
    assert sockets == ("",)
