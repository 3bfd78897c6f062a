"""The store: migrations are the models, the cluster keeps its data, the demo is seeded once."""

import psycopg
import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from psycopg.types.json import Json
from sqlalchemy import create_engine
from uuid_utils.compat import uuid7

from deriva.core.model.situation import School
from deriva.core.read import read_noun
from deriva.service.store.cluster import Cluster
from deriva.service.store.engine import SCHEMA
from deriva.service.store.models import Base
from deriva.service.store.schema import alembic_config, migrate
from deriva.service.usecases.demo import BEATS
from tests.databases import PARTED, seed_seasons_too
from tests.service.anglers import Bank, count
from tests.service.test_effort import kept_fish, recounted_fish


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


def test_migration__keeps_schools_and_bright_flies_in_their_new_words(cluster: Cluster) -> None:
    cluster.create("worded")
    url = cluster.url("worded")
    migrate(url)
    command.downgrade(alembic_config(url), "0008")
    angler, item = uuid7(), uuid7()
    with psycopg.connect(url.replace("+asyncpg", ""), autocommit=True) as connection:
        connection.execute(
            "insert into angler (id, name, units, school, demo) values (%s, 'Old hand', 'metric', %s, false)",
            (angler, Json({"depth": "long", "flies": "one"})),
        )
        connection.execute(
            "insert into box_item (id, angler_id, kind, form, hook, bead_mm, material, dressing, count, counted_at, gone)"
            " values (%s, %s, 'nymph', 'bright-collar stonefly nymph', 12, 3.5, 'tungsten', 'dubbed', 3, now(), false)",
            (item, angler),
        )
        migrate(url)
        (school,) = connection.execute("select school from angler").fetchone() or ({},)
        fly = connection.execute("select form, tone, mark from box_item").fetchone()
        assert read_noun(School, school) == School(flies="one")
        assert fly == ("stonefly nymph", "bright", "collar")
        command.downgrade(alembic_config(url), "0008")
        assert connection.execute("select form from box_item").fetchone() == ("bright-collar stonefly nymph",)


@pytest.mark.skipif(PARTED, reason="the migrations know nothing of parted tables")
def test_migration__counts_the_fish_that_were_there_and_knows_old_writings(
    bank: Bank, database: str, rows: psycopg.Connection
) -> None:
    """A stay that was written before schools had winters is of the first form, and is read as it was meant."""
    outing, stop, setting = bank.begin()
    for fly, phase in (("point", "drop"), ("point", "drop"), ("dropper", "swing")):
        drift = bank.kept("drifts", bank.drift(setting, outcome="fish", lane=2))
        bank.kept("catches", bank.fish(drift, fly=fly, phase=phase))
    counted = kept_fish(rows)
    command.downgrade(alembic_config(database), "0022")
    rows.execute(
        "update stop set situation = jsonb_set(situation #- '{school,winter}', '{school,depth}', '\"long\"') where id = %s",
        (stop,),
    )
    migrate(database)
    assert kept_fish(rows) == counted == recounted_fish(rows)
    told = bank.client.get(f"/api/outings/{outing}").json()["stops"][0]
    assert told["situation"]["school"]["depth"] == "computed"
    parts = bank.client.get("/api/learn/parts", params={"dimension": "school_depth"}).json()
    assert [(one["key"], one["drifts"]) for one in parts] == [("computed", 3)]


def test_demo__is_seeded_once_with_lies_and_two_seasons(database: str, rows: psycopg.Connection) -> None:
    """At least eight lies on two beats; every outing has drifts under a setting."""
    seed_seasons_too(database)
    first = {table: count(rows, table) for table in ("angler", "lie", "outing", "setting", "drift", "catch")}
    seed_seasons_too(database)
    assert {table: count(rows, table) for table in first} == first
    assert len(BEATS) >= 2
    assert first["lie"] >= 8
    assert first["outing"] >= 60
    assert first["drift"] > 5 * first["setting"]
    assert first["catch"] >= 1


def test_cluster__listens_on_loopback_alone(cluster: Cluster) -> None:
    with psycopg.connect(cluster.url("postgres").replace("+asyncpg", "")) as connection:
        listening = connection.execute("show listen_addresses").fetchone()
        sockets = connection.execute("show unix_socket_directories").fetchone()
    assert listening == ("127.0.0.1",)
    assert sockets == ("",)


def test_schema__that_is_wanted_is_the_newest_revision() -> None:
    assert (
        ScriptDirectory.from_config(
            alembic_config("postgresql+asyncpg://nobody@nowhere/none")
        ).get_current_head()
        == SCHEMA
    )
