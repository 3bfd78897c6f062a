"""An angler who is moved to another database while taps arrive: nothing acknowledged is lost, and nothing is twice."""

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from threading import Event
from typing import Any
from uuid import UUID

import psycopg
import pytest
from psycopg import sql

from deriva.service.store import moving
from deriva.service.store.address import sync_url
from deriva.service.store.cluster import Cluster
from deriva.service.store.models import Base
from tests.databases import fresh
from tests.service.anglers import Bank, account, new_id
from tests.service.command import deriva
from tests.service.conftest import App
from tests.service.test_sync import Phone

ADDRESS = "mover@example.org"


@pytest.fixture
def elsewhere(cluster: Cluster) -> Iterator[str]:
    with fresh(cluster, "elsewhere") as name:
        yield cluster.url(name)


@pytest.fixture
def mover(stranger: Bank, rows: psycopg.Connection) -> Bank:
    account(rows, stranger, ADDRESS)
    return stranger


def angler_of(bank: Bank) -> UUID:
    return UUID(bank.client.get("/api/session").json()["angler"]["id"])


def theirs(url: str, angler: UUID) -> dict[str, list[Any]]:
    """Return all that is an angler's, table by table, with what the database counts by itself."""
    owned = [*moving.OWNED, (Base.metadata.tables["effort"], "angler_id")]
    with psycopg.connect(sync_url(url)) as rows:
        return {
            table.name: sorted(
                rows.execute(
                    sql.SQL("select * from {} where {} = %s").format(
                        sql.Identifier(table.name), sql.Identifier(owner)
                    ),
                    (angler,),
                ).fetchall(),
                key=str,
            )
            for table, owner in owned
        }


def test_move__while_taps_arrive_loses_none_and_doubles_none(
    mover: Bank, database: str, elsewhere: str, app_of: App
) -> None:
    phone = Phone(mover)
    angler = angler_of(mover)
    setting = phone.outing()
    phone.sync()
    begun, acknowledged = Event(), list[str]()

    def tap_on() -> None:
        while True:
            drift = new_id()
            phone.write("drifts", drift, mover.drift(setting))
            answer = phone.post(phone.outbox)
            if answer.status_code != 200:
                assert answer.status_code == 401, answer.text
                return
            phone.outbox = []
            acknowledged.append(drift)
            if len(acknowledged) == 3:
                begun.set()

    with ThreadPoolExecutor(1) as thumb:
        taps = thumb.submit(tap_on)
        assert begun.wait(60)
        done = deriva(database, "move", ADDRESS.upper(), "--to", elsewhere)
        taps.result()
    assert done.exit_code == 0, done.stderr
    assert "1 outings" in done.stdout
    assert len(phone.outbox) == 1
    assert not any(theirs(database, angler).values())
    there = app_of(database_url=elsewhere)
    there.cookies = mover.client.cookies  # still signed in
    phone.bank = Bank(there)
    last = phone.outbox[0]["record"]
    phone.sync()
    with psycopg.connect(sync_url(elsewhere)) as rows:
        drifts = rows.execute("select id from drift where angler_id = %s", (angler,)).fetchall()
    assert sorted(str(drift) for (drift,) in drifts) == sorted([*acknowledged, last])


def test_move__that_breaks_off_is_done_again_and_brings_every_row(
    mover: Bank, database: str, elsewhere: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    angler = angler_of(mover)
    _, _, setting = mover.begin()
    drift = mover.kept("drifts", mover.drift(setting, outcome="fish", weed=True))
    mover.kept("catches", mover.fish(drift))
    before = theirs(database, angler)
    assert before["effort"]
    commit, commits = psycopg.Connection.commit, iter([True, False])

    def cut_off(self: psycopg.Connection) -> None:
        if next(commits, True):
            return commit(self)
        raise psycopg.OperationalError("the line is cut")

    with monkeypatch.context() as patch:
        patch.setattr(psycopg.Connection, "commit", cut_off)
        broken = deriva(database, "move", ADDRESS, "--to", elsewhere)
    assert broken.exit_code == 2
    assert broken.stderr == "nobody was moved: the line is cut\n"
    assert theirs(database, angler) == before
    mover.kept("drifts", mover.drift(setting, outcome="tick"))  # fished on, where the angler still is
    before = theirs(database, angler)
    assert deriva(database, "move", ADDRESS, "--to", elsewhere).exit_code == 0
    assert theirs(elsewhere, angler) == before
    assert not any(theirs(database, angler).values())


@pytest.mark.parametrize(
    ("address", "to", "said"),
    [
        ("nobody@example.org", "elsewhere", "there is no account of nobody@example.org in this database"),
        (ADDRESS, "here", "both are one and the same database"),
        (ADDRESS, "empty", "the other database has schema None"),
    ],
)
def test_move__says_what_keeps_it_from_it(
    mover: Bank, database: str, elsewhere: str, cluster: Cluster, address: str, to: str, said: str
) -> None:
    angler = angler_of(mover)
    before = theirs(database, angler)
    urls = {"elsewhere": elsewhere, "here": database, "empty": cluster.url("postgres")}
    refused = deriva(database, "move", address, "--to", urls[to])
    assert refused.exit_code == 2
    assert said in refused.stderr
    assert theirs(database, angler) == before
