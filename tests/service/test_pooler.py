"""The service behind a real pooler that hands every transaction to whichever connection is free."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

import psycopg
import pytest
from fastapi.testclient import TestClient

from deriva.core.errors import Impossible
from deriva.service.store.address import environment
from deriva.service.store.cluster import Cluster
from tests.pooler import pooler
from tests.service.anglers import Bank, at, batch, enrol, event, new_id
from tests.service.conftest import NAME

ANGLERS, BATCHES, DRIFTS = 4, 8, 5


def fish(bank: Bank) -> dict[str, str]:
    """Log batch after batch, and put some drifts right; return the outcomes that must stand."""
    outing = bank.kept("outings", bank.outing())
    stop = bank.kept("stops", bank.stop(outing))
    setting = bank.kept("settings", bank.setting(stop))
    outcomes: dict[str, str] = {}
    for n in range(BATCHES):
        drifts = {new_id(): "tick" if k == n % DRIFTS else "clean" for k in range(DRIFTS)}
        put_right = dict.fromkeys(list(outcomes)[-2:], "hung")
        written = batch(
            *(
                event("drifts", row, {"setting_id": setting, "at": at(10 + n), "outcome": said}, k)
                for k, (row, said) in enumerate({**put_right, **drifts}.items())
            )
        )
        answer = bank.client.post("/api/sync", json=written)
        assert answer.status_code == 200, answer.text
        assert answer.json()["refused"] == []
        outcomes |= put_right | drifts
        for page in (f"/api/outings/{outing}", "/api/beats", "/api/box", "/api/learn/calibration"):
            assert bank.client.get(page).status_code == 200
    return outcomes


def test_pooler__hands_every_transaction_on_and_each_log_is_its_own(
    cluster: Cluster, database: str, rows: psycopg.Connection, app_of: Callable[..., TestClient]
) -> None:
    del database  # made before the pooler is asked for it
    with pooler(cluster) as way:
        client = app_of(database_url=way.url(NAME), demo=True)
        banks: list[Bank] = []
        for k in range(ANGLERS):
            one = TestClient(client.app, raise_server_exceptions=False)
            one.cookies.set("deriva_session", enrol(rows, f"Angler {k}"))
            one.portal = client.portal
            banks.append(Bank(one))
        with ThreadPoolExecutor(ANGLERS) as threads:
            logged = list(threads.map(fish, banks))
    for outcomes in logged:
        found = rows.execute(
            "select id::text, outcome from drift where id = any(%s::uuid[])", (list(outcomes),)
        ).fetchall()
        assert dict(found) == outcomes
    assert rows.execute("select count(*) from drift").fetchone() == (sum(map(len, logged)),)


def test_tools__that_set_something_for_themselves_are_kept_from_it() -> None:
    with pytest.raises(Impossible, match="PostgreSQL itself"):
        environment("postgresql+asyncpg://a@h:1/d?pooler=transaction")
    with pytest.raises(Impossible, match="write transaction"):
        environment("postgresql+asyncpg://a@h:1/d?pooler=session")
