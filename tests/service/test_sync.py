"""`POST /api/sync` on the real database: once however often, in any order, two devices with one log, no other's seen."""

import itertools
import json
from datetime import UTC, datetime
from typing import Any
from uuid import UUID, uuid4

import psycopg
import pytest
from fastapi.testclient import TestClient
from httpx2 import Response
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from deriva.service.usecases import sync as syncing
from tests.service.anglers import Bank, at, batch, count, event, faults, new_id


class Phone:
    """A device with its outbox: what it wrote, how far it has read, and the log as it has it."""

    def __init__(self, bank: Bank) -> None:
        self.bank, self.device = bank, new_id()
        self.cursor: int | None = None
        self.numbers = itertools.count(1)
        self.log: dict[str, tuple[tuple[datetime, UUID, int], dict[str, Any]]] = {}
        self.outbox: list[dict[str, Any]] = []

    def write(self, kind: str, record: str, body: dict[str, Any], *, minutes: float = -30) -> dict[str, Any]:
        made = event(kind, record, body, next(self.numbers), minutes=minutes)
        self.outbox.append(made)
        self._merge(made["record"], datetime.fromisoformat(made["at"]), self.device, made["sequence"], body)
        return made

    def _merge(self, record: str, when: datetime, device: str, sequence: int, body: dict[str, Any]) -> None:
        order = (when, UUID(device), sequence)
        if record not in self.log or order > self.log[record][0]:
            self.log[record] = (order, body)

    def post(self, events: list[dict[str, Any]] | None = None, **changes: Any) -> Response:  # noqa: ANN401
        body = {"version": 1, "device": self.device, "cursor": self.cursor, "events": events or [], **changes}
        return self.bank.client.post("/api/sync", json=body)

    def sync(self, *, keep: bool = False) -> dict[str, Any]:
        """Send the outbox and read on, as often as there is more; ``keep`` sends all of it again the next time."""
        while True:
            answer = self.post(self.outbox)
            assert answer.status_code == 200, answer.text
            got: dict[str, Any] = answer.json()
            self.cursor = got["cursor"]
            for change in got["changes"]:
                when = datetime.fromisoformat(change["at"])
                self._merge(change["record"], when, change["device"], change["sequence"], change["body"])
            if not keep:
                self.outbox = []
            if not got["more"]:
                return got

    def outing(self) -> str:
        """Write an outing with a stop and a rig; return the rig's id."""
        outing, stop, setting = new_id(), new_id(), new_id()
        self.write("outings", outing, self.bank.outing())
        self.write("stops", stop, self.bank.stop(outing))
        self.write("settings", setting, self.bank.setting(stop))
        return setting


@pytest.fixture
def phone(bank: Bank) -> Phone:
    return Phone(bank)


def states(rows: psycopg.Connection) -> list[tuple[str, str, bool]]:
    found = rows.execute("select id, outcome, undone from drift order by id").fetchall()
    return [(str(row), str(outcome), bool(undone)) for row, outcome, undone in found]


def test_sync__stores_an_outing_once_however_often_it_is_sent(phone: Phone, rows: psycopg.Connection) -> None:
    setting = phone.outing()
    for outcome in ("clean", "tick", "fish"):
        phone.write("drifts", new_id(), phone.bank.drift(setting, outcome=outcome, lane=2, stance=1))
    first = phone.sync(keep=True)
    again = phone.sync(keep=True)
    assert first["refused"] == again["refused"] == []
    assert {one["id"] for one in first["taken"]} == {one["id"] for one in phone.outbox}
    assert sorted(again["taken"], key=lambda one: one["id"]) == sorted(
        first["taken"], key=lambda one: one["id"]
    )
    assert [outcome for _, outcome, _ in states(rows)] == ["clean", "tick", "fish"]
    assert count(rows, "change") == 6
    book = phone.bank.client.get(f"/api/outings/{phone.outbox[0]['record']}").json()
    assert [d["outcome"] for d in book["stops"][0]["settings"][0]["drifts"]] == ["clean", "tick", "fish"]
    assert book["stops"][0]["settings"][0]["drifts"][0]["lane"] == 2


def test_sync__the_later_correction_stands_whichever_comes_first(
    bank: Bank, rows: psycopg.Connection
) -> None:
    early, late = Phone(bank), Phone(bank)
    setting = early.outing()
    drift = new_id()
    early.write("drifts", drift, bank.drift(setting), minutes=-20)
    early.sync()
    late.write("drifts", drift, bank.drift(setting, outcome="tick"), minutes=-5)
    late.sync()
    early.write("drifts", drift, bank.drift(setting, undone=True), minutes=-10)
    early.sync()
    late.sync()
    assert states(rows) == [(drift, "tick", False)]
    assert early.log[drift][1]["outcome"] == late.log[drift][1]["outcome"] == "tick"
    kept = rows.execute(
        "select body->>'outcome', body->>'undone' from change where record = %s order by at", (drift,)
    )
    assert kept.fetchall() == [("clean", "false"), ("clean", "true"), ("tick", "false")]


def test_sync__a_clock_that_runs_ahead_does_not_win_for_good(bank: Bank, rows: psycopg.Connection) -> None:
    ahead, right = Phone(bank), Phone(bank)
    setting = ahead.outing()
    drift = new_id()
    ahead.write("drifts", drift, bank.drift(setting), minutes=60 * 24 * 365)
    got = ahead.sync()
    stood = {datetime.fromisoformat(one["at"]) for one in got["taken"]}
    assert max(stood) <= datetime.now(UTC)
    right.sync()
    # written after the other was taken in, by a clock that is right
    right.write("drifts", drift, bank.drift(setting, outcome="hung"), minutes=5)
    right.sync()
    assert states(rows) == [(drift, "hung", False)]


def test_sync__a_new_device_is_given_the_outing_that_is_open(bank: Bank) -> None:
    first, second = Phone(bank), Phone(bank)
    bank.begin()  # an outing of before, ended
    done = first.outing()
    outing = first.outbox[0]["record"]
    first.write("outings", outing, bank.outing(ended_at=at(300)), minutes=-29)
    first.sync()
    for open_outing in bank.client.get("/api/outings").json():
        if open_outing["ended_at"] is None:
            body = {
                "beat_id": open_outing["beat_id"],
                "started_at": open_outing["started_at"],
                "ended_at": at(400),
            }
            bank.kept("outings", body, open_outing["id"])
    setting = first.outing()
    drift = new_id()
    first.write("drifts", drift, bank.drift(setting))
    first.sync()
    second.sync()
    assert drift in second.log
    assert setting in second.log
    assert done not in second.log


def test_sync__more_changes_than_go_at_once_come_one_page_after_another(bank: Bank) -> None:
    first, second = Phone(bank), Phone(bank)
    setting = first.outing()
    second.sync()
    for _ in range(3):
        for _ in range(150):
            first.write("drifts", new_id(), bank.drift(setting))
        first.sync()
    second.sync()
    assert len(second.log) == 453
    assert {row: order for row, (order, _) in second.log.items()} == {
        row: order for row, (order, _) in first.log.items()
    }


def test_sync__a_bad_event_is_refused_alone(phone: Phone, rows: psycopg.Connection) -> None:
    setting = phone.outing()
    good = phone.write("drifts", new_id(), phone.bank.drift(setting))
    bad = [
        phone.write("drifts", new_id(), phone.bank.drift(setting, outcome="eaten")),
        phone.write("drifts", new_id(), {"outcome": "clean"}),
        phone.write("catches", new_id(), phone.bank.fish(new_id())),
        phone.write("settings", new_id(), phone.bank.setting(new_id())),
        phone.write("drifts", new_id(), phone.bank.drift(setting, lane=0)),
        phone.write("readings", new_id(), phone.bank.reading(depth_m=99.0)),
    ]
    got = phone.sync()
    assert {one["id"] for one in got["refused"]} == {one["id"] for one in bad}
    by_id = {one["id"]: one["faults"][0]["message"] for one in got["refused"]}
    assert "eaten" in by_id[bad[0]["id"]]
    assert by_id[bad[2]["id"]] == "There is no such drift of yours."
    assert good["id"] in {one["id"] for one in got["taken"]}
    assert len(states(rows)) == 1


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"version": 2}, "version"),
        ({"device": "phone"}, "device"),
        ({"cursor": -1}, "cursor"),
        ({"cursor": "0"}, "cursor"),
        ({"tide": 1}, "tide"),
        ({"events": [{}] * 201}, "events"),
        ({"events": [{"id": "x"}]}, "events.0.id"),
    ],
)
def test_sync__what_is_no_batch_is_refused_whole(phone: Phone, change: dict[str, Any], field: str) -> None:
    answer = phone.post(**change)
    assert answer.status_code == 422
    assert field in faults(answer)


def test_sync__nothing_of_another_angler_s_is_read_taken_or_overwritten(
    bank: Bank, stranger: Bank, rows: psycopg.Connection
) -> None:
    mine, theirs = Phone(bank), Phone(stranger)
    setting = mine.outing()
    drift = new_id()
    mine.write("drifts", drift, bank.drift(setting))
    mine.sync(keep=True)
    before = rows.execute("select * from drift order by id").fetchall()
    assert len(before) == 1
    theirs.write("drifts", drift, stranger.drift(setting, outcome="fish"))  # under their rig
    theirs.write("drifts", new_id(), stranger.drift(setting))
    own = theirs.outing()
    theirs.write(
        "drifts", drift, stranger.drift(own, outcome="fish")
    )  # under their row's id, which says nothing of it
    theirs.outbox += mine.outbox[-1:]  # their very event
    theirs.cursor = 0
    got = theirs.sync()
    assert len(got["refused"]) == 3
    assert got["changes"] == []
    stored = rows.execute("select * from drift where setting_id = %s", (setting,)).fetchall()
    assert stored == before
    assert TestClient(bank.client.app).post("/api/sync", json=batch()).status_code == 401


def test_sync__a_batch_of_another_angler_s_is_left_for_that_angler(
    bank: Bank, stranger: Bank, rows: psycopg.Connection
) -> None:
    """On its way while another signed in: it must be neither taken as theirs nor refused for good."""
    phone = Phone(bank)
    phone.outing()
    mine = bank.client.get("/api/session").json()["angler"]["id"]
    body = {"version": 1, "angler": mine, "device": phone.device, "cursor": None, "events": phone.outbox}
    answer = stranger.client.post("/api/sync", json=body)
    assert answer.status_code == 403
    assert answer.json()["faults"][0]["code"] == "OTHER_ANGLER"
    assert count(rows, "change") == 0
    assert len(bank.client.post("/api/sync", json=body).json()["taken"]) == 3


def test_sync__a_cursor_from_before_a_restore_reads_all_again(bank: Bank) -> None:
    first, second = Phone(bank), Phone(bank)
    setting = first.outing()
    first.sync()
    second.cursor = 10_000
    second.sync()
    assert setting in second.log


Step = tuple[int, int, str, int]
STEPS = st.lists(
    st.tuples(
        st.integers(0, 1),
        st.integers(0, 3),
        st.sampled_from(["clean", "tick", "undo", "sync", "again"]),
        st.integers(-40, 40),
    ),
    max_size=30,
)


@settings(
    max_examples=12,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
    derandomize=True,
)
@given(steps=STEPS)
def test_sync__two_devices_and_the_service_end_with_one_log(
    bank: Bank, rows: psycopg.Connection, steps: list[Step]
) -> None:
    """Whatever two devices write of the same drifts, with clocks that are off, and however they send it."""
    phones = [Phone(bank), Phone(bank)]
    setting = phones[0].outing()
    phones[0].sync()
    drifts = [new_id() for _ in range(4)]
    sent: list[list[dict[str, Any]]] = [[], []]
    for who, which, what, minutes in steps:
        one = phones[who]
        if what == "sync":
            sent[who] += one.outbox
            one.sync()
        elif what == "again":
            one.outbox = sent[who][-5:] + one.outbox
        else:
            body = bank.drift(setting, outcome="clean" if what == "undo" else what, undone=what == "undo")
            # clocks in the past: what is dated ahead is ordered by its arrival, which a device learns only then
            one.write("drifts", drifts[which], body, minutes=minutes - 60)
    for one in (*phones, *phones):
        one.sync()
    stored = {row: (outcome, undone) for row, outcome, undone in states(rows)}
    for drift in drifts:
        known = [one.log[drift][1] for one in phones if drift in one.log]
        assert len(known) in (0, 2)
        if known:
            assert {(body["outcome"], body["undone"]) for body in known} == {stored[drift]}


JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=8,
)


@settings(
    max_examples=40,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
    derandomize=True,
)
@given(data=st.data())
def test_sync__nothing_that_is_sent_is_a_fault_of_the_service(phone: Phone, data: st.DataObject) -> None:
    setting = "0197" + str(uuid4())[4:]
    base = event("drifts", new_id(), phone.bank.drift(setting), 1)
    place = data.draw(st.sampled_from(["event", "body", "batch", "nested"]))
    value = data.draw(JSON)
    sent: dict[str, Any] = {"version": 1, "device": phone.device, "cursor": None, "events": [base]}
    if place == "event":
        base[data.draw(st.sampled_from(sorted(base)))] = value
    elif place == "body":
        base["body"][data.draw(st.sampled_from(sorted(base["body"])) | st.text(max_size=6))] = value
    elif place == "batch":
        sent[data.draw(st.sampled_from(sorted(sent)))] = value
    else:
        base["kind"] = data.draw(st.sampled_from(["stops", "settings", "readings", "outings", "catches"]))
        base["body"] = {**phone.bank.stop(new_id()), "situation": value}
    # NaN and Infinity too, which are no JSON but which some writers write
    answer = phone.bank.client.post(
        "/api/sync", content=json.dumps(sent), headers={"content-type": "application/json"}
    )
    assert answer.status_code in (200, 400, 422), answer.text
    if answer.status_code == 200:
        assert len(answer.json()["refused"]) == len(sent["events"])


def test_sync__a_body_over_the_limit_is_refused_unread(phone: Phone) -> None:
    answer = phone.bank.client.post("/api/sync", content=b"[" + b"1," * 5_000_000 + b"1]")
    assert answer.status_code == 413


ROWS = {
    "drift": "id, setting_id, at, outcome, pace, lane, stance, direction, dried, weed, lost, undone",
    "catch": "id, drift_id, at, species, length_mm, length_how, fly, phase, condition, undone",
    "setting": "id, stop_id, at, rig, depth_setting_m, point_bead_mm, setup",
    "stop": "id, outing_id, lie_id, at, situation",
}


@settings(
    max_examples=12,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
    derandomize=True,
)
@given(data=st.data())
def test_sync__ends_with_what_a_plain_reckoning_of_the_writings_says(
    bank: Bank, rows: psycopg.Connection, data: st.DataObject
) -> None:
    """Two devices write, correct, take back and send in pieces, out of order and again: what stands are the writings of the
    greatest (time, device, sequence), whether they went in at one call or were looked at one by one.
    """
    phones = [Phone(bank), Phone(bank)]
    setting = phones[0].outing()
    phones[0].sync()
    known: dict[str, tuple[tuple[datetime, UUID, int], dict[str, Any]]] = {}
    waiting: list[list[dict[str, Any]]] = [[], []]
    drifts: list[str] = []
    for minute in range(data.draw(st.integers(2, 12))):
        which = data.draw(st.integers(0, 1))
        phone = phones[which]
        again = bool(drifts) and data.draw(st.booleans())
        drift = data.draw(st.sampled_from(drifts)) if again else new_id()
        drifts.append(drift)
        outcome, undone = data.draw(st.sampled_from(["clean", "tick", "fish"])), data.draw(st.booleans())
        body = bank.drift(setting, outcome=outcome, undone=undone)
        made = phone.write("drifts", drift, body, minutes=data.draw(st.integers(-90, -1)) - minute / 100)
        waiting[which].append(made)
        order = datetime.fromisoformat(made["at"]), UUID(phone.device), made["sequence"]
        if drift not in known or order > known[drift][0]:
            known[drift] = order, body
        if data.draw(st.booleans()):
            some = data.draw(st.permutations(waiting[which]))[: data.draw(st.integers(1, 3))]
            assert phone.post(some).json()["refused"] == []  # and sent again below, with the rest
    for which, phone in enumerate(phones):
        for _ in range(2):
            assert phone.post(waiting[which]).json()["refused"] == []
    stood = {str(row): (outcome, undone) for row, outcome, undone in rows.execute(
        "select id, outcome, undone from drift where setting_id = %s", (setting,)
    ).fetchall()}  # fmt: skip
    assert stood == {drift: (body["outcome"], body["undone"]) for drift, (_, body) in known.items()}
    positions = [n for (n,) in rows.execute("select position from change order by position").fetchall()]
    assert positions == list(range(1, len(positions) + 1))


def test_sync__at_one_call_or_one_by_one_stores_the_same(
    bank: Bank, stranger: Bank, rows: psycopg.Connection, monkeypatch: pytest.MonkeyPatch
) -> None:
    """All that a phone may write on the bank, once through each door; under the same ids, which are each angler's own."""
    calls: list[bool] = []
    at_once = syncing.sync_new

    async def watched(*args: Any, **told: Any) -> Any:  # noqa: ANN401
        done = await at_once(*args, **told)
        calls.append(done is not None)
        return done

    async def never(*_: Any, **__: Any) -> None:  # noqa: ANN401
        return None

    ids = iter([new_id() for _ in range(6)] * 2)
    logs: list[dict[str, list[Any]]] = []
    for one, door in ((bank, watched), (stranger, never)):
        monkeypatch.setattr(syncing, "sync_new", door)
        phone = Phone(one)
        outing, stop, setting, dry, drift, fish = (next(ids) for _ in range(6))
        phone.write("outings", outing, bank.outing(beat_id=one.beat["id"]))
        phone.sync()
        phone.write("stops", stop, bank.stop(outing, lie_id=one.lie["id"]))
        phone.write("settings", setting, bank.setting(stop))
        phone.write("settings", dry, bank.dry(stop))
        told = {
            "lane": 2,
            "stance": 1,
            "pace": "slower",
            "direction": "up",
            "dried": True,
            "weed": True,
            "lost": "both",
        }
        phone.write("drifts", drift, bank.drift(setting, **told))
        phone.write("catches", fish, bank.fish(drift, length_mm=251.5))
        phone.sync()
        angler = one.client.get("/api/session").json()["angler"]["id"]
        logs.append({})
        for table, columns in ROWS.items():
            query = f"select {columns} from {table} where angler_id = %s order by id"  # noqa: S608
            logs[-1][table] = rows.execute(query, (angler,)).fetchall()
        bodies = "select kind, record, sequence, body from change where angler_id = %s order by position"
        logs[-1]["change"] = rows.execute(bodies, (angler,)).fetchall()
    assert calls == [False, True]  # the outing is looked at: its conditions are frozen
    mine, theirs = (json.loads(json.dumps(log, default=str).replace(one.lie["id"], "lie").replace(one.beat["id"], "beat"))
                    for log, one in zip(logs, (bank, stranger), strict=True))  # fmt: skip
    for table in (*ROWS, "change"):
        assert len(mine[table]) >= 1
        assert mine[table] == theirs[table], table
