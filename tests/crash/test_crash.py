"""Killing service, database and phone amid a stream of taps: nothing acknowledged is lost, nothing is there twice.

A few rounds run with every test; `make crash` runs fifty. The rounds are drawn from a seed that the test says.
"""

import os
import random
import threading
from pathlib import Path

import pytest

from deriva.service.serving import kill_app, scratch_cluster
from tests.crash.phones import PATIENCE_S, Phone, Service, Stream, all_sent, begun, stopped, whole
from tests.databases import fresh, make_template

ROUNDS = int(os.environ.get("DERIVA_CRASH_ROUNDS", "1"))
FEW = 1
SEED = int(os.environ.get("DERIVA_CRASH_SEED", "20261125"))


@pytest.mark.long
@pytest.mark.parametrize("processes", [1] if ROUNDS <= FEW else [1, 2])
def test_crash__nothing_acknowledged_is_lost_and_nothing_is_twice(tmp_path: Path, processes: int) -> None:
    chance = random.Random(SEED)
    with scratch_cluster(durable=True) as cluster:
        make_template(cluster)
        with fresh(cluster, "crashed") as database:
            service = Service(cluster, database, tmp_path / "app.log", processes=processes)
            service.start()
            phones, setting = begun(service, tmp_path)
            for _ in range(ROUNDS):
                enough = threading.Semaphore(0)
                streams = [
                    Stream(phone, service.address, setting, random.Random(chance.random()), enough=enough)
                    for phone in phones
                ]
                for stream in streams:
                    stream.start()
                for _ in range(chance.randint(1, 30)):
                    if all(stream.broke for stream in streams):
                        break  # both phones were killed
                    assert enough.acquire(timeout=PATIENCE_S)
                service.crash(chance.choice(["service", "database", "both"]))
                stopped(streams)
                phones = [
                    Phone(phone.file, phone.cookie) for phone in phones
                ]  # opened again from what was kept
                service.start()
                whole(service, phones)
            all_sent(service, phones)
            kill_app(service.app)
