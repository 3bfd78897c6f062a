"""Phones that tap and send without pause, the service under them, and what must be so when they are done."""

import json
import os
import random
import threading
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import httpx2 as httpx
import psycopg

from deriva.service.serving import free_port, kill_app, start_app
from deriva.service.store.cluster import Cluster
from tests.service.anglers import SETUP, batch, event, new_id

PATIENCE_S = 60.0
ZONE = "Europe/Vienna"


class Torn(Exception):
    """The phone was killed."""


class Phone:
    """A phone whose outbox is a file that is only ever added to: killed and opened again, it knows what the file says."""

    def __init__(self, file: Path, cookie: str) -> None:
        self.file, self.cookie = file, cookie
        self.device = new_id()
        self.events: list[dict[str, Any]] = []
        self.taken: set[str] = set()
        self.cursor: int | None = None
        for line in file.read_text().splitlines() if file.exists() else ():
            kept = json.loads(line)
            self.device = kept.get("device", self.device)
            self.cursor = kept.get("cursor", self.cursor)
            self.events += kept.get("events", [])
            self.taken |= set(kept.get("taken", []))
        if not file.exists():
            self._keep(device=self.device)

    def _keep(self, **what: Any) -> None:  # noqa: ANN401
        with self.file.open("a") as out:
            out.write(json.dumps(what) + "\n")
            out.flush()
            os.fsync(out.fileno())

    def write(self, kind: str, record: str, body: dict[str, Any]) -> None:
        made = {
            "id": new_id(), "sequence": len(self.events) + 1, "kind": kind, "record": record,
            "at": datetime.now(UTC).isoformat(), "zone": ZONE, "body": body,
        }  # fmt: skip
        self._keep(events=[made])
        self.events.append(made)

    def waiting(self) -> list[dict[str, Any]]:
        return [one for one in self.events if one["id"] not in self.taken]

    def sync(self, address: str, *, most: int, torn: bool = False) -> int:
        """Send some of what waits; ``torn``: killed after the service has answered and before that is kept."""
        batch = self.waiting()[:most]
        body = {"version": 1, "device": self.device, "cursor": self.cursor, "events": batch}
        answer = httpx.post(
            address + "/api/sync", json=body, timeout=PATIENCE_S, cookies={"deriva_session": self.cookie}
        )
        answer.raise_for_status()
        got = answer.json()
        assert got["refused"] == []
        if torn:
            raise Torn
        ids = [one["id"] for one in got["taken"]]
        self._keep(taken=ids, cursor=got["cursor"])
        self.taken |= set(ids)
        self.cursor = got["cursor"]
        return len(ids)


def standing(events: list[tuple[str, dict[str, Any]]]) -> dict[str, tuple[str, bool]]:
    """Return each drift's outcome as the events say, the latest standing; computed here, not by the service."""
    newest: dict[str, tuple[tuple[datetime, str, int], tuple[str, bool]]] = {}
    for device, one in events:
        if one["kind"] == "drifts":
            order = (datetime.fromisoformat(one["at"]), device, one["sequence"])
            state = (one["body"]["outcome"], one["body"]["undone"])
            if one["record"] not in newest or order > newest[one["record"]][0]:
                newest[one["record"]] = (order, state)
    return {record: state for record, (_, state) in newest.items()}


class Stream(threading.Thread):
    """One phone that taps and sends without pause, until something breaks or it is told to stop. ``named``: refusals by these
    names break nothing; it sends again.
    """

    def __init__(
        self,
        phone: Phone,
        address: str,
        setting: str,
        chance: random.Random,
        *,
        enough: threading.Semaphore | None = None,
        named: Collection[str] = (),
    ) -> None:
        super().__init__(daemon=True)
        self.phone, self.address, self.setting, self.chance = phone, address, setting, chance
        self.named = named
        self.acknowledged = enough or threading.Semaphore(0)
        self.refused = threading.Semaphore(0)
        self.refusals: Counter[str] = Counter()
        self.stopped = threading.Event()
        self.broke: Exception | None = None

    def tap(self, drifts: list[str]) -> None:
        """Write some drifts down, new ones and others anew."""
        for _ in range(self.chance.randint(1, 6)):
            again = drifts and self.chance.random() < 0.3
            record = self.chance.choice(drifts) if again else new_id()
            drifts.append(record)
            outcome = self.chance.choice(["clean", "tick", "hung", "missed"])
            body = {
                "setting_id": self.setting, "at": datetime.now(UTC).isoformat(), "outcome": outcome,
                "undone": bool(again and self.chance.random() < 0.5),
            }  # fmt: skip
            self.phone.write("drifts", record, body)

    def send(self) -> None:
        """Send some of what waits; raises what breaks it."""
        try:
            torn = not self.named and self.chance.random() < 0.05
            self.phone.sync(self.address, most=self.chance.randint(1, 12), torn=torn)
        except httpx.HTTPStatusError as error:
            code = error.response.json()["faults"][0]["code"]
            if code not in self.named:
                raise
            self.refusals[code] += 1
            self.refused.release()
        else:
            self.acknowledged.release()

    def run(self) -> None:
        drifts = [one["record"] for one in self.phone.events if one["kind"] == "drifts"]
        try:
            while not self.stopped.is_set():
                self.tap(drifts)
                self.send()
        except (httpx.HTTPError, Torn) as error:
            self.broke = error
            self.acknowledged.release()
            self.refused.release()


class Service:
    """The app on a durable cluster, to be killed and started again."""

    def __init__(
        self,
        cluster: Cluster,
        database: str,
        log: Path,
        *,
        processes: int = 1,
        settings: Mapping[str, str] | None = None,
    ) -> None:
        self.cluster, self.database, self.log, self.processes = cluster, database, log, processes
        self.settings = dict(settings or {})

    def start(self) -> None:
        self.cluster.start()
        self.port = free_port()
        self.app = start_app(
            self.cluster.url(self.database),
            port=self.port,
            log=self.log,
            processes=self.processes,
            warm=False,
            more=self.settings,
        )

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def rows(self) -> psycopg.Connection:
        return psycopg.connect(self.cluster.url(self.database).replace("+asyncpg", ""))

    def crash(self, how: str) -> None:
        if how == "database":
            self.cluster.stop("immediate")
        kill_app(self.app)
        if how == "both":
            self.cluster.stop("immediate")


def signed_up(service: Service) -> str:
    """Make an account by its letter and sign in; return the session's token."""
    account = {"email": "mia@example.org", "password": "slate heron copper tide"}
    api = service.address + "/api"
    httpx.post(api + "/account", json={"name": "Mia", **account}).raise_for_status()
    letter: str | None = None
    while letter is None:  # the simulated outbox writes it in the background
        with service.rows() as rows:
            found = rows.execute('select text from mail where "to" = %s', (account["email"],)).fetchone()
        assert found is not None
        letter = found[0]
    ticket = letter.split("#")[1].split()[0]
    httpx.post(api + "/account/confirm", json={"ticket": ticket}).raise_for_status()
    return httpx.post(api + "/session", json=account).cookies["deriva_session"]


def place(service: Service, cookie: str) -> tuple[str, str]:
    """Set up a river with a beat and a lie; return the ids of the beat and of the lie."""
    river, beat, lie = new_id(), new_id(), new_id()
    for kind, row, body in (
        ("rivers", river, {"name": "Sallow brook"}),
        ("beats", beat, {"river_id": river, "name": "Mill reach", "position": 0}),
    ):
        answer = httpx.put(
            f"{service.address}/api/{kind}/{row}", json=body, cookies={"deriva_session": cookie}
        )
        answer.raise_for_status()
    sluice = {"beat_id": beat, "name": "Sluice", "kind": "run", "bed": "gravel", "along_m": 1.0}
    httpx.post(
        f"{service.address}/api/sync",
        json=batch(event("lies", lie, sluice)),
        cookies={"deriva_session": cookie},
    ).raise_for_status()
    return beat, lie


def whole(service: Service, phones: Sequence[Phone]) -> None:
    """Expect every acknowledged event on disk once, every drift as the events on disk say, and no other."""
    with service.rows() as rows:
        kept = rows.execute(
            "select id, device, kind, record, at, sequence, body from change where kind <> 'lies'"
        ).fetchall()
        drifts = {
            str(row): (outcome, undone)
            for row, outcome, undone in rows.execute("select id, outcome, undone from drift").fetchall()
        }
        positions = [p for (p,) in rows.execute("select position from change order by position").fetchall()]
    ids = Counter(str(row[0]) for row in kept)
    written = {one["id"] for phone in phones for one in phone.events}
    assert not [event for event in ids if event not in written]
    assert all(count == 1 for count in ids.values())
    lost = {event for phone in phones for event in phone.taken} - set(ids)
    assert lost == set()
    assert positions == list(range(1, len(positions) + 1))
    on_disk = [
        (
            str(device),
            {"kind": kind, "record": str(record), "at": at.isoformat(), "sequence": seq, "body": body},
        )
        for _, device, kind, record, at, seq, body in kept
    ]
    assert drifts == standing(on_disk)


def begun(service: Service, folder: Path) -> tuple[list[Phone], str]:
    """Sign an angler up, and set a rig at a lie; return the angler's two phones and the rig's id."""
    cookie = signed_up(service)
    beat, lie = place(service, cookie)
    phones = [Phone(folder / f"phone-{k}.jsonl", cookie) for k in (0, 1)]
    outing, stop, setting = new_id(), new_id(), new_id()
    now = datetime.now(UTC) - timedelta(minutes=1)
    first = phones[0]
    first.write("outings", outing, {"beat_id": beat, "started_at": now.isoformat()})
    first.write(
        "stops", stop,
        {
            "outing_id": outing, "lie_id": lie, "at": now.isoformat(),
            "situation": {"water": {"depth_m": 1.0, "surface_speed_m_s": 0.5}},
        },
    )  # fmt: skip
    first.write(
        "settings", setting,
        {
            "stop_id": stop, "at": now.isoformat(), "rig": "euro", "depth_setting_m": 1.0, "point_bead_mm": 3.0,
            "setup": SETUP,
        },
    )  # fmt: skip
    first.sync(service.address, most=10)
    return phones, setting


def stopped(streams: Sequence[Stream]) -> None:
    """Stop streams; none may hang."""
    for stream in streams:
        stream.stopped.set()
        stream.join(PATIENCE_S)
        assert not stream.is_alive()


def all_sent(service: Service, phones: Sequence[Phone]) -> None:
    """Send what still waits, and expect every drift as the phones wrote it."""
    for phone in phones:
        while phone.waiting():
            phone.sync(service.address, most=100)
    whole(service, phones)
    everything = [(phone.device, one) for phone in phones for one in phone.events]
    with service.rows() as rows:
        found = rows.execute("select id, outcome, undone from drift").fetchall()
    assert {str(row): (outcome, undone) for row, outcome, undone in found} == standing(everything)
