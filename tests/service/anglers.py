"""Anglers at the service, as tests drive them."""

import hashlib
import json
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

import psycopg
from fastapi.testclient import TestClient
from httpx2 import Response
from uuid_utils.compat import uuid7

NOON = datetime(2026, 6, 1, 12, 0, tzinfo=UTC)


def new_id() -> str:
    return str(uuid7())


def at(minutes: float) -> str:
    """Return a moment after noon."""
    return (NOON + timedelta(minutes=minutes)).isoformat()


def event(
    kind: str, record: str, body: dict[str, Any], sequence: int = 0, *, minutes: float = 0.0
) -> dict[str, Any]:
    """Return a writing of a record, made some minutes from now."""
    now = datetime.now(UTC)
    now = now.replace(microsecond=now.microsecond // 1000 * 1000)  # what a browser's clock holds
    written = (now + timedelta(minutes=minutes)).isoformat()
    return {
        "id": new_id(), "sequence": sequence, "kind": kind, "record": record, "at": written, "zone": "Europe/Vienna",
        "body": body,
    }  # fmt: skip


def batch(*events: dict[str, Any]) -> dict[str, Any]:
    """Return what a device that has heard nothing yet sends."""
    return {"version": 1, "device": new_id(), "cursor": None, "events": list(events)}


PLACES = ("rivers", "gauges", "beats", "shares")
"""What is set up by a PUT of its own; everything else goes in with the log."""


def enrol(rows: psycopg.Connection, name: str) -> str:
    """Write an angler with one river, beat and lie straight into the database; return the token that signs in."""
    angler, river, beat, lie = (UUID(new_id()) for _ in range(4))
    rules = json.dumps({"max_flies": 2, "added_weight": True, "barbless": True})
    rows.execute(
        "insert into angler (id, name, units, school, demo) values (%s, %s, 'metric', '{}', false)",
        (angler, name),
    )
    rows.execute("insert into river (id, angler_id, name) values (%s, %s, 'Another water')", (river, angler))
    rows.execute(
        "insert into beat (id, angler_id, river_id, name, position, rules, rules_text, wading_allowed)"
        " values (%s, %s, %s, 'Another beat', 0, %s, '', true)",
        (beat, angler, river, rules),
    )
    rows.execute(
        "insert into lie (id, angler_id, beat_id, name, kind, bed, along_m, notes)"
        " values (%s, %s, %s, 'Another lie', 'run', 'gravel', 10, '')",
        (lie, angler, beat),
    )
    token = "token of " + name
    rows.execute(
        "insert into sign_in (token_hash, angler_id, expires_at) values (%s, %s, now() + interval '1 day')",
        (hashlib.sha256(token.encode()).hexdigest(), angler),
    )
    return token


class Bank:
    """One angler at one lie, with the few writes that an outing is made of."""

    def __init__(self, client: TestClient) -> None:
        self.client = client
        self.beats: list[dict[str, Any]] = client.get("/api/beats").json()
        self.beat = self.beats[0]
        self.lie = self.beat["lies"][0]

    def put(self, kind: str, body: dict[str, Any], row: str | None = None) -> tuple[str, Response]:
        """Set up a place or a share under its id, a new one by default."""
        row = row or new_id()
        return row, self.client.put(f"/api/{kind}/{row}", json=body)

    def write(
        self, kind: str, body: dict[str, Any], row: str | None = None
    ) -> tuple[str, dict[str | None, str]]:
        """Log a record under its id, a new one by default; return the id, and what was wrong with it, field to message."""
        row = row or new_id()
        answer = self.client.post("/api/sync", json=batch(event(kind, row, body)))
        assert answer.status_code == 200, answer.text
        refused = answer.json()["refused"]
        return row, {fault["field"]: fault["message"] for one in refused for fault in one["faults"]}

    def kept(self, kind: str, body: dict[str, Any], row: str | None = None) -> str:
        """Write a row that must be accepted; return its id."""
        if kind in PLACES:
            row, answer = self.put(kind, body, row)
            assert answer.status_code == 200, answer.text
            return row
        row, wrong = self.write(kind, body, row)
        assert not wrong
        return row

    def lie_now(self, lie_id: str | None = None) -> dict[str, Any]:
        """Return a lie as it stands, by default the one that the angler is at."""
        beats = self.client.get("/api/beats").json()
        return next(one for beat in beats for one in beat["lies"] if one["id"] == (lie_id or self.lie["id"]))

    def reading(self, **changes: Any) -> dict[str, Any]:  # noqa: ANN401
        speed = {"how": "typed", "surface_speed_m_s": 0.5}
        return {"lie_id": self.lie["id"], "at": at(-60), "depth_m": 0.8, "speed": speed, **changes}

    def sounding(self, **changes: Any) -> dict[str, Any]:  # noqa: ANN401
        found = {"lane": 2, "stance": 1, "depth_m": 1.2, "depth_sd_m": 0.1}
        return {"lie_id": self.lie["id"], "at": at(-60), **found, **changes}

    def outing(self, **changes: Any) -> dict[str, Any]:  # noqa: ANN401
        return {"beat_id": self.beat["id"], "started_at": at(0), **changes}

    def stop(self, outing: str, **changes: Any) -> dict[str, Any]:  # noqa: ANN401
        situation = self.lie["situation"] or {"water": {"depth_m": 1.0, "surface_speed_m_s": 0.5}}
        return {"outing_id": outing, "lie_id": self.lie["id"], "at": at(1), "situation": situation, **changes}

    def setting(self, stop: str, **changes: Any) -> dict[str, Any]:  # noqa: ANN401
        return {
            "stop_id": stop, "at": at(2), "rig": "euro", "depth_setting_m": 1.0, "point_bead_mm": 3.0, "setup": SETUP,
            **changes,
        }  # fmt: skip

    def dry(self, stop: str, **changes: Any) -> dict[str, Any]:  # noqa: ANN401
        return {
            "stop_id": stop,
            "at": at(2),
            "rig": "dry",
            "setup": {"float": "foam 10", "tippet_x": 4},
            **changes,
        }

    def drift(self, setting: str, **changes: Any) -> dict[str, Any]:  # noqa: ANN401
        return {"setting_id": setting, "at": at(3), "outcome": "clean", **changes}

    def fish(self, drift: str, **changes: Any) -> dict[str, Any]:  # noqa: ANN401
        return {
            "drift_id": drift, "at": at(4), "species": "brown trout", "length_mm": 310, "length_how": "eye",
            "fly": "point", "phase": "drift", **changes,
        }  # fmt: skip

    def begin(self) -> tuple[str, str, str]:
        """Start an outing at the lie with a rig; return the ids of outing, stop and setting."""
        outing = self.kept("outings", self.outing())
        stop = self.kept("stops", self.stop(outing))
        return outing, stop, self.kept("settings", self.setting(stop))


def account(rows: psycopg.Connection, bank: Bank, email: str) -> None:
    """Give an angler an address that is confirmed."""
    rows.execute(
        "insert into account (id, email, hashed_password, is_active, is_verified)"
        " values (%s, %s, 'none', true, true)",
        (bank.client.get("/api/session").json()["angler"]["id"], email),
    )


SETUP: dict[str, Any] = {
    "flies": 1, "point_bead_mm": 3.0, "point_form": "dubbed mayfly nymph", "point_hook": 14, "point_dressing": "dubbed",
    "dropper_form": None, "dropper_hook": None, "dropper_bead_mm": None, "depth_setting_m": 1.0,
    "dropper_spacing_m": None, "tippet_x": 5, "shot_g": 0.0, "float": None, "tip_pace": 0.86, "lead_m": 1.2,
}  # fmt: skip


def count(rows: psycopg.Connection, table: str) -> int:
    found = rows.execute(f"select count(*) from {table}").fetchone()  # noqa: S608
    assert found is not None
    return int(found[0])


def faults(answer: Response) -> dict[str | None, str]:
    """Return the faults of a refusal, field to message."""
    return {fault["field"]: fault["message"] for fault in answer.json()["faults"]}
