"""What is not fished any more, and notes on a stop or a fish."""

import psycopg

from tests.service.anglers import Bank, at, count, faults, new_id

LIE = {"name": "Old weir", "kind": "run", "bed": "gravel", "along_m": 5.0}


def named(bank: Bank, what: str) -> dict[str, bool]:
    """Return what is retired by name, and whether it was fished."""
    return {one["name"]: one["fished"] for one in bank.client.get("/api/retired").json()[what]}


def test_lie__is_retired_and_brought_back_and_deleted_only_if_it_was_never_fished(bank: Bank) -> None:
    outing, *_ = bank.begin()
    body = {"beat_id": bank.beat["id"], **LIE, "latitude": 47.5, "longitude": -15.25}
    fresh = bank.kept("lies", body)
    bank.kept("readings", bank.reading(lie_id=fresh))
    shown = bank.lie_now(fresh)
    assert (shown["latitude"], shown["longitude"]) == (47.5, -15.25)
    bank.kept("lies", body | {"retired": True}, fresh)
    known = bank.lie
    retired = {name: known[name] for name in ("name", "kind", "bed", "along_m")}
    bank.kept("lies", {"beat_id": bank.beat["id"], **retired, "retired": True}, known["id"])
    lies = {lie["id"] for beat in bank.client.get("/api/beats").json() for lie in beat["lies"]}
    assert not lies & {fresh, known["id"]}
    assert named(bank, "lies") == {"Old weir": False, known["name"]: True}
    stays = bank.client.delete(f"/api/lies/{known['id']}")
    assert stays.status_code == 409
    assert "Retire it" in faults(stays)[None]
    assert bank.client.get(f"/api/outings/{outing}").json()["stops"][0]["lie"] == known["name"]
    assert bank.client.delete(f"/api/lies/{fresh}").status_code == 200
    assert bank.client.delete(f"/api/lies/{fresh}").status_code == 404
    bank.kept("lies", {"beat_id": bank.beat["id"], **retired}, known["id"])
    assert bank.lie_now(known["id"])["name"] == known["name"]
    assert named(bank, "lies") == {}


def test_beat__goes_with_its_lies_if_nothing_was_fished(bank: Bank, stranger: Bank) -> None:
    bank.begin()
    body = {name: bank.beat[name] for name in ("river_id", "name", "position")}
    empty = bank.kept("beats", body | {"name": "Mill race", "retired": True})
    bank.kept("lies", {"beat_id": empty, **LIE})
    bank.kept("beats", body | {"retired": True}, bank.beat["id"])
    assert named(bank, "beats") == {"Mill race": False, bank.beat["name"]: True}
    assert bank.client.get("/api/outings").json()[0]["beat"] == bank.beat["name"]
    assert stranger.client.delete(f"/api/beats/{empty}").status_code == 404
    assert bank.client.delete(f"/api/beats/{bank.beat['id']}").status_code == 409
    assert bank.client.delete(f"/api/beats/{empty}").status_code == 200
    assert named(bank, "beats") == {bank.beat["name"]: True}


def test_note__is_of_a_stop_or_a_fish_of_one_s_own(
    bank: Bank, stranger: Bank, rows: psycopg.Connection
) -> None:
    outing, stop, setting = bank.begin()
    fish = bank.kept("catches", bank.fish(bank.kept("drifts", bank.drift(setting, outcome="fish"))))
    note = {"outing_id": outing, "at": at(5), "text": "Swung out from under the root."}
    bank.kept("notes", note | {"stop_id": stop})
    of_fish = bank.kept("notes", note | {"catch_id": fish})
    read = bank.client.get(f"/api/outings/{outing}").json()["notes"]
    assert [(one["stop_id"], one["catch_id"]) for one in read] == [(stop, None), (None, fish)]
    theirs, their_stop, _ = stranger.begin()
    for wrong in ({"stop_id": their_stop}, {"catch_id": new_id()}):
        assert "of yours" in bank.write("notes", note | wrong)[1][None]
    assert "of yours" in bank.write("notes", note | {"outing_id": theirs, "stop_id": stop})[1][None]
    bank.kept("notes", note | {"catch_id": fish, "gone": True}, of_fish)
    assert count(rows, "note") == 2
    assert len(bank.client.get(f"/api/outings/{outing}").json()["notes"]) == 1
