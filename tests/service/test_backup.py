"""A backup put back is the database it was taken of; migrations carry data forward from the first schema."""

from pathlib import Path
from typing import Any

import psycopg
from alembic import command

from deriva.service.store.cluster import Cluster
from deriva.service.store.models import Base
from deriva.service.store.schema import alembic_config, migrate
from tests.databases import PARTED
from tests.pooler import past_the_pooler
from tests.service.anglers import Bank, new_id
from tests.service.command import deriva


def content(rows: psycopg.Connection) -> dict[str, list[tuple[Any, ...]]]:
    return {
        table.name: rows.execute(f'select * from "{table.name}" order by 1').fetchall()  # noqa: S608
        for table in Base.metadata.sorted_tables
    }


@past_the_pooler
def test_restore__puts_back_what_was_backed_up(
    bank: Bank, database: str, rows: psycopg.Connection, tmp_path: Path
) -> None:
    bank.begin()
    file = tmp_path / "all.dump"
    made = deriva(database, "backup", file)
    assert made.exit_code == 0, made.stderr
    before = content(rows)
    bank.begin()
    rows.execute("delete from lie")
    rows.execute("create table litter (n int)")
    assert content(rows) != before
    back = deriva(database, "restore", file)
    assert back.exit_code == 0, back.stderr
    assert content(rows) == before
    assert bank.client.get("/api/outings").json()  # and the service goes on with it
    assert file.read_bytes()[:5] == b"PGDMP"


@past_the_pooler
def test_restore__of_an_older_schema_takes_the_place_of_a_newer(
    database: str, rows: psycopg.Connection, tmp_path: Path
) -> None:
    """Tables that are younger than the backup hold on to those that are in it."""
    if not PARTED:  # which the migrations know nothing of
        command.downgrade(alembic_config(database), "0012")
    file = tmp_path / "old.dump"
    assert deriva(database, "backup", file).exit_code == 0
    rows.execute("create table another_s (n int)")
    migrate(database)
    lies = rows.execute("select id from lie order by id").fetchall()
    rows.execute("delete from lie")
    back = deriva(database, "restore", file)
    assert back.exit_code == 0, back.stderr
    migrate(database)
    assert rows.execute("select id from lie order by id").fetchall() == lies != []
    assert rows.execute("select to_regclass('another_s')").fetchone() == ("another_s",)


@past_the_pooler
def test_restore__of_what_is_no_backup_changes_nothing(
    database: str, rows: psycopg.Connection, tmp_path: Path
) -> None:
    before = content(rows)
    file = tmp_path / "not.dump"
    file.write_bytes(b"PGDMP and then nothing")
    for wrong in (file, tmp_path / "absent.dump"):
        answer = deriva(database, "restore", wrong)
        assert answer.exit_code == 2
        assert "nothing was put back" in answer.stderr
    assert content(rows) == before
    unreachable = deriva("postgresql+asyncpg://deriva@127.0.0.1:1/none", "backup", tmp_path / "none.dump")
    assert unreachable.exit_code == 2
    assert not list(tmp_path.glob("none*"))


FIRST = """
insert into angler (id, name, units, school, demo) values ('{a}', 'Mia', 'us', '{{"flies": "one"}}', false);
insert into sign_in (token_hash, angler_id, expires_at) values (repeat('a', 64), '{a}', now() + interval '1 day');
insert into river (id, angler_id, name) values ('{r}', '{a}', 'Sallow brook');
insert into beat (id, angler_id, river_id, name, position, rules, rules_text, wading_allowed)
 values ('{b}', '{a}', '{r}', 'Mill reach', 0, '{{"max_flies": 1}}', 'One fly', true);
insert into lie (id, angler_id, beat_id, name, kind, bed, along_m, notes)
 values ('{l}', '{a}', '{b}', 'Sluice', 'run', 'gravel', 3, '');
insert into outing (id, angler_id, beat_id, started_at, conditions) values ('{o}', '{a}', '{b}', now(), '{{}}');
insert into stop (id, angler_id, outing_id, lie_id, at, situation)
 values ('{s}', '{a}', '{o}', '{l}', now(), '{{"water": {{"depth_m": 1.0, "surface_speed_m_s": 0.5}}}}');
insert into setting (id, angler_id, stop_id, at, rig, depth_setting_m, point_bead_mm, setup)
 values ('{t}', '{a}', '{s}', now(), 'euro', 1.2, 3.0, '{{"flies": 1}}');
insert into drift (id, angler_id, setting_id, at, outcome, undone) values ('{d}', '{a}', '{t}', now(), 'fish', false);
insert into catch (id, angler_id, drift_id, at, species, length_how, fly, phase, undone)
 values ('{c}', '{a}', '{d}', now(), 'brown trout', 'none', 'point', 'drift', false);
"""


WILD = """
insert into gauge (id, angler_id, river_id, name, format, url) values ('{g}', '{a}', '{r}', 'G', 'csv', '/g');
insert into gauge_value values ('{g}', 'flow', false, now(), 0, 'good', ''),
 ('{g}', 'flow', false, now() - interval '1 hour', 1e308, 'good', ''), ('{g}', 'flow', true, now(), 3.5, 'good', ''),
 ('{g}', 'temperature', false, now(), 0, 'good', '');
update setting set setup = '{{"flies": 1, "tippet_x": 1180591620717411303424, "lead_m": 2.5}}';
"""


def test_migrations__heal_what_no_river_has_and_no_file_can_hold(cluster: Cluster) -> None:
    cluster.create("healed")
    url = cluster.url("healed")
    command.upgrade(alembic_config(url), "0007")
    ids = {name: new_id() for name in "arblostdcg"}
    with psycopg.connect(url.replace("+asyncpg", ""), autocommit=True) as rows:
        rows.execute((FIRST + WILD).format(**ids).encode())
        migrate(url)
        values = rows.execute(
            "select value, worth from gauge_value where parameter = 'flow' order by daily, at"
        )
        assert values.fetchall() == [(None, "missing"), (None, "missing"), (3.5, "good")]
        assert rows.execute("select value from gauge_value where parameter = 'temperature'").fetchone() == (
            0.0,
        )
        assert rows.execute("select setup from setting").fetchone() == (
            {"flies": 1, "tippet_x": 8, "lead_m": 2.5},
        )


def test_migrations__carry_an_angler_s_log_from_the_first_schema(cluster: Cluster) -> None:
    cluster.create("carried")
    url = cluster.url("carried")
    command.upgrade(alembic_config(url), "0001")
    ids = {name: new_id() for name in "arblostdc"}
    with psycopg.connect(url.replace("+asyncpg", ""), autocommit=True) as rows:
        rows.execute(FIRST.format(**ids).encode())
        migrate(url)
        found = rows.execute(
            "select a.name, a.units, a.asked, a.changes, s.id is not null, b.species, l.school, d.lane, c.condition"
            " from angler a join sign_in s on s.angler_id = a.id join beat b on b.angler_id = a.id"
            " join lie l on l.beat_id = b.id join drift d on d.angler_id = a.id join catch c on c.drift_id = d.id"
        ).fetchall()
        assert found == [("Mia", "us", True, 0, True, "brown trout", None, None, None)]
        command.downgrade(alembic_config(url), "0001")
        kept = rows.execute("select outcome from drift").fetchall()
    assert kept == [("fish",)]
