"""Asking the log over HTTP. Truth: what the demo's seasons planted."""

from collections.abc import Iterator
from datetime import datetime
from typing import Any

import psycopg
import pytest
from fastapi.testclient import TestClient

from deriva.core.learn.dimensions import DIMENSIONS
from deriva.core.model.quantity import plain, qty
from deriva.service.store.cluster import Cluster
from deriva.service.usecases.demo_seasons import BY_BEAD, FORMS, OUTINGS
from tests.databases import fresh, seed_seasons_too
from tests.service.anglers import Bank, at, faults
from tests.service.conftest import NAME
from tests.service.test_effort import kept, kept_fish, recounted, recounted_fish


@pytest.fixture(scope="module")
def fished(cluster: Cluster) -> Iterator[str]:
    """A database with both seasons in it, to be copied."""
    with fresh(cluster, "fished") as name:
        seed_seasons_too(cluster.url(name))
        yield name


@pytest.fixture
def database(cluster: Cluster, fished: str) -> Iterator[str]:
    with fresh(cluster, NAME, template=fished) as name:
        yield cluster.url(name)


def qty_between(low: float, high: float) -> str:
    return f"{qty(low, 'm³/s', 1)} to {qty(high, 'm³/s', 1)}"


def ask(client: TestClient, by: str, **question: Any) -> dict[str, Any]:  # noqa: ANN401
    answer = client.post("/api/learn/answers", json={"by": by, **question})
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def test_seasons__are_answered_as_they_were_planted(client: TestClient, rows: psycopg.Connection) -> None:
    assert kept(rows) == recounted(rows)
    low = ask(client, "bead", only=[{"dimension": "flow", "part": "below_normal"}])
    assert (low["certainty"], low["best"]) == ("sure", "2.5")
    assert max(BY_BEAD["low"].items(), key=lambda one: one[1])[0] == 2.5
    fly = ask(client, "fly")
    assert (fly["certainty"], fly["best"]) == ("sure", max(FORMS, key=lambda one: one[1])[0])
    assert ask(client, "rig")["certainty"] != "sure"  # nothing was planted
    flow = ask(client, "flow", per="hour")
    assert (flow["best"], flow["also"]) == ("normal", "Clearly worse than normal flow: above normal flow.")
    light = ask(client, "light")
    assert (light["certainty"], light["best"]) == ("sure", "dusk")


def test_every_question__has_an_answer_with_a_sentence(client: TestClient) -> None:
    for by in DIMENSIONS:
        if by in (
            "zone",
            "ranked",
            "trend",
            "gauged",
        ):  # nothing was foretold of these settings, and no gauge was there
            assert ask(client, by)["certainty"] == "empty"
            continue
        parts = client.get("/api/learn/parts", params={"dimension": by}).json()
        assert parts, by
        found = ask(client, by, measure="fish", only=[{"dimension": by, "part": parts[0]["key"]}])
        assert (found["certainty"], found["best"]) == ("alone", parts[0]["key"])
        assert found["parts"][0]["drifts"] == parts[0]["drifts"]
        assert plain(found["sentence"]).startswith("All of it was ")


def test_fish__say_which_fly_took_and_when(client: TestClient, rows: psycopg.Connection) -> None:
    """Of all drifts of rigs with several flies: what is asked is counted anew from the drifts and the fish themselves."""
    assert kept_fish(rows) == recounted_fish(rows)
    told = rows.execute(
        "select c.fly, c.phase, s.setup ->> 'dropper_form' is not null, s.rig = 'dry_dropper' from catch c"
        " join drift d on d.id = c.drift_id join setting s on s.id = d.setting_id"
    ).fetchall()
    moments = {one["key"]: one for one in ask(client, "moment", measure="fish")["parts"]}
    for phase, part in moments.items():
        assert part["count"] == sum(one[1] == phase for one in told) > (0 if phase != "swing" else -1)
    assert len({(part["drifts"], part["outings"]) for part in moments.values()}) == 1
    assert ask(client, "moment", measure="fish")["sentence"].startswith(
        "More fish took on the drift than on the drop: "
    )
    flies = ask(client, "took", measure="fish")
    for part in flies["parts"]:
        assert part["count"] == sum(one[0] == part["key"] and (one[2] or one[3]) for one in told)
    assert flies["rests_on"].startswith(f"{max(part['drifts'] for part in flies['parts'])} drifts ")
    sunk = ask(client, "took", measure="fish", only=[{"dimension": "moment", "part": "drop"}])
    assert sum(part["count"] for part in sunk["parts"]) == sum(
        one[1] == "drop" and (one[2] or one[3]) for one in told
    )
    question = {"by": "moment", "measure": "fish"}
    behind = client.post("/api/learn/outings", json={"question": question, "part": "drop"}).json()
    assert 0 < len(behind) <= moments["drop"]["count"]
    assert all(one["tally"]["fish"] > 0 for one in behind)
    refused = client.post("/api/learn/answers", json={"by": "moment", "measure": "takes"})
    assert refused.status_code == 422
    assert "ask for fish" in next(iter(faults(refused).values()))


def test_school__is_the_side_that_stood_where_one_fished(
    client: TestClient, rows: psycopg.Connection
) -> None:
    half = rows.execute(
        "update stop set situation = jsonb_set(situation, '{school,flies}', '\"one\"')"
        " where extract(day from at)::int % 2 = 0 returning id"
    ).fetchall()
    parts = client.get("/api/learn/parts", params={"dimension": "school_flies"}).json()
    drifts = rows.execute(
        "select count(*) from drift d join setting s on s.id = d.setting_id"
        " where not d.undone and s.stop_id = any(%s)",
        ([row for (row,) in half],),
    ).fetchone()
    assert drifts is not None
    assert {one["key"]: one["drifts"] for one in parts}["one"] == drifts[0]
    assert [one["label"] for one in parts] == ["two where legal", "one"]
    assert ask(client, "school_flies")["certainty"] in ("open", "likely")  # nothing was planted


def test_drifts_behind__an_answer_are_a_page_of_the_ledger(client: TestClient) -> None:
    question: dict[str, Any] = {"by": "rig", "only": [{"dimension": "month", "part": "7"}]}
    found = client.post("/api/learn/outings", json={"question": question, "part": "indicator"}).json()
    assert len(found) == ask(client, **question)["parts"][1]["outings"] > 0
    assert {datetime.fromisoformat(one["started_at"]).month for one in found} == {7}
    assert [one["started_at"] for one in found] == sorted((one["started_at"] for one in found), reverse=True)
    listed = client.get("/api/outings").json()
    assert all(one in listed for one in found if one["started_at"] >= listed[-1]["started_at"])


def test_questions__offered_are_those_that_can_be_answered(bank: Bank, client: TestClient) -> None:
    offered = client.get("/api/learn/questions").json()
    assert len(offered["dimensions"]) == len(DIMENSIONS)
    assert len(offered["suggested"]) >= 5
    for one in offered["suggested"]:
        assert ask(client, **one["question"])["question"] == one["words"]
    assert OUTINGS >= 60
    assert bank.client.get("/api/outings").status_code == 200


def test_trend__is_what_the_gauge_said_of_the_hours_before_an_outing(
    client: TestClient, rows: psycopg.Connection
) -> None:
    bank = Bank(client)
    gauge = bank.kept("gauges", {"river_id": bank.beat["river_id"], "name": "G", "format": "csv"})
    newest = client.get("/api/outings").json()[:3]
    for outing, now, then in zip(newest, (4.0, 2.0, 3.0), (3.0, 3.0, 3.05), strict=True):
        for hours, flow in ((1, now), (7, then)):
            rows.execute(
                "insert into gauge_value (angler_id, gauge_id, parameter, daily, at, value, worth, code)"
                " select angler_id, id, 'flow', false, %s::timestamptz - make_interval(hours => %s), %s, 'good', ''"
                " from gauge where id = %s",
                (outing["started_at"], hours, flow, gauge),
            )
    parts = {one["key"]: one for one in client.get("/api/learn/parts", params={"dimension": "trend"}).json()}
    drifts = [one["tally"]["drifts"] for one in newest]
    assert {key: one["drifts"] for key, one in parts.items()} == dict(
        zip(("rising", "falling", "steady"), drifts, strict=True)
    )
    assert {one["key"] for one in ask(client, "trend")["parts"]} == {"rising", "falling", "steady"}
    flows = client.get("/api/learn/parts", params={"dimension": "gauged"}).json()
    assert [(one["label"], one["drifts"]) for one in flows] == [
        (qty_between(2, 4), drifts[1] + drifts[2]), (qty_between(4, 8), drifts[0])
    ]  # fmt: skip
    only = [{"dimension": "trend", "part": "rising"}]
    assert sum(one["drifts"] for one in ask(client, "rig", only=only)["parts"]) == drifts[0]
    behind = client.post("/api/learn/outings", json={"question": {"by": "trend"}, "part": "falling"}).json()
    assert [one["id"] for one in behind] == [newest[1]["id"]]


def test_evidence__stands_beside_the_rig_in_the_water_that_it_speaks_of(client: TestClient) -> None:
    low: dict[str, Any] = {
        "by": "bead",
        "measure": "takes",
        "per": "drift",
        "only": [{"dimension": "flow", "part": "below_normal"}],
    }
    fly: dict[str, Any] = {"by": "fly", "measure": "takes", "per": "drift", "only": []}
    assert client.put("/api/learn/evidence", json={"questions": [low, fly]}).status_code == 200
    assert client.get("/api/learn/evidence").json()["questions"] == [low, fly]
    here = {
        "place": "lie", "id": "0197a000-0000-7000-8000-000000000000", "kind": "run", "flow_class": "below_normal",
        "temperature_c": 12.0, "light": "day",
    }  # fmt: skip
    shown = client.post("/api/learn/evidence/here", json=here).json()
    assert [(one["question"]["by"], one["certainty"]) for one in shown] == [("bead", "sure"), ("fly", "sure")]
    assert shown[0]["sentence"] == ask(client, **low)["sentence"]
    high = client.post("/api/learn/evidence/here", json=here | {"flow_class": "above_normal"}).json()
    assert [one["question"]["by"] for one in high] == ["fly"]
    point = [{"dimension": "took", "part": "point"}]
    several: list[dict[str, Any]] = [
        fly, fly | {"measure": "fish"}, fly | {"by": "setting"}, fly, fly | {"by": "hook", "per": "hour"},
        fly | {"by": "rig", "measure": "fish", "only": point},
    ]  # fmt: skip
    assert client.put("/api/learn/evidence", json={"questions": several}).status_code == 200
    together = client.post("/api/learn/evidence/here", json=here).json()
    assert [one["sentence"] for one in together] == [ask(client, **one)["sentence"] for one in several]
    assert len({one["sentence"] for one in together}) == 5
    for wrong in (low | {"measure": "hung"}, fly | {"by": "month"}):
        refused = client.put("/api/learn/evidence", json={"questions": [fly, wrong]})
        assert refused.status_code == 422
        assert refused.json()["faults"][0]["field"] == "questions.1"
    assert client.put("/api/learn/evidence", json={"questions": []}).status_code == 200
    assert client.post("/api/learn/evidence/here", json=here).json() == []


def test_here__is_the_lie_in_water_like_today_s_and_leads_to_its_question(client: TestClient) -> None:
    lies = client.get("/api/learn/parts", params={"dimension": "lie"}).json()
    asked = {
        "place": "lie",
        "id": lies[0]["key"],
        "flow_class": "normal",
        "temperature_c": 12.0,
        "light": "day",
    }
    found = client.post("/api/learn/here", json=asked).json()
    assert found["sentence"].startswith(f"{lies[0]['label']}, normal flow")
    rested = ask(client, **(found["question"] | {"by": "rig"}))
    assert sum(part["drifts"] for part in rested["parts"]) == found["drifts"] >= 40
    never = asked | {"flow_class": "much_above_normal"}
    assert client.post("/api/learn/here", json=never).json() is None


def test_stranger__is_told_nothing_of_another_s_log(client: TestClient, stranger: Bank) -> None:
    assert client.get("/api/learn/questions").json()["suggested"] != []
    assert stranger.client.get("/api/learn/questions").json()["suggested"] == []
    assert ask(stranger.client, "bead")["certainty"] == "empty"
    assert stranger.client.get("/api/learn/parts", params={"dimension": "lie"}).json() == []


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"by": "moon"}, "by"),
        ({"by": "rig", "per": "week"}, "per"),
        ({"by": "rig", "only": [{"dimension": "flow", "part": ""}]}, "only.0.part"),
        ({"by": "rig", "only": [{"dimension": "flow", "part": "normal"}] * 7}, "only"),
        *(
            ({"by": "rig", "only": [{"dimension": of, "part": part}]}, "only.0.part")
            for of, part in (
                ("wind", "ä"),
                ("zone", "9"),
                ("depth", "-1"),
                ("bead", "heavy"),
                ("flow", "low"),
            )
        ),
    ],
)
def test_question__that_is_none_is_refused_by_name(
    client: TestClient, body: dict[str, Any], field: str
) -> None:
    answer = client.post("/api/learn/answers", json=body)
    assert answer.status_code == 422
    assert field in faults(answer)


def found(client: TestClient, asked: str) -> list[dict[str, Any]]:
    answer = client.get("/api/search", params={"find": asked})
    assert answer.status_code == 200, answer.text
    outings: list[dict[str, Any]] = answer.json()["outings"]
    return outings


def test_outings__are_found_by_words_that_must_all_fit(client: TestClient, rows: psycopg.Connection) -> None:
    """Against the ledger itself: what each outing holds, looked at one by one."""
    page = client.get("/api/outings").json()
    ledgers = [client.get(f"/api/outings/{one['id']}").json() for one in page[:20]]
    since = page[19]["started_at"]

    def want(*asked: str, that: Any) -> None:  # noqa: ANN401
        ids = [one["id"] for one in found(client, " ".join(asked)) if one["started_at"] >= since]
        assert ids == [one["outing"]["id"] for one in ledgers if that(one)], asked

    def lies(one: dict[str, Any]) -> set[str]:
        return {stop["lie"] for stop in one["stops"]}

    def rigs(one: dict[str, Any]) -> set[str]:
        return {setting["rig"] for stop in one["stops"] for setting in stop["settings"]}

    want("stair", that=lambda one: "Staircase" in lies(one))
    want("alders", that=lambda one: "Far alders" in lies(one))  # never fished
    want("Cinder", "weir", that=lambda one: one["outing"]["beat"] == "Cinder Weir")
    want(
        "indicator",
        "and",
        "SHELF",
        that=lambda one: "indicator" in rigs(one) and one["outing"]["beat"] == "Long Shelf",
    )
    want("blank", that=lambda one: one["outing"]["tally"]["fish"] == 0)
    want("fish", that=lambda one: one["outing"]["tally"]["fish"] > 0)
    year = page[0]["started_at"][:4]
    want("september", year, that=lambda one: one["outing"]["started_at"].startswith(f"{year}-09"))
    want(
        "low", "grayling",
        that=lambda one: {stop["situation"]["water"]["flow_class"] for stop in one["stops"]} == {"below_normal"}
        and any(
            fish["species"] == "grayling"
            for stop in one["stops"] for setting in stop["settings"] for drift in setting["drifts"] for fish in drift["catches"]
        ),
    )  # fmt: skip
    assert client.get("/api/search", params={"find": "xyzzy wall"}).json() == {
        "outings": [],
        "unknown": ["xyzzy"],
    }
    rows.execute("update lie set notes = 'An otter lives here' where name = 'Wall seam'")
    assert found(client, "otter") == found(client, "seam") != []
    assert len(found(client, "")) == 50
    bank = Bank(client)
    note = {
        "outing_id": page[3]["id"],
        "at": page[3]["started_at"],
        "text": "A dipper sang.\nRenamed by the weir-keeper",
    }
    row = bank.kept("notes", note)
    assert client.get(f"/api/outings/{page[3]['id']}").json()["notes"] == [
        {"id": row, "at": page[3]["started_at"], "text": note["text"], "stop_id": None, "catch_id": None}
    ]
    assert [one["id"] for one in found(client, "dip")] == [page[3]["id"]]
    bank.kept("notes", note | {"gone": True}, row)
    assert found(client, "dipper") == []
    older = client.get("/api/search", params={"find": "", "after": found(client, "")[-1]["id"]}).json()
    assert len(older["outings"]) == OUTINGS - 50


def test_stranger__finds_no_outing_of_another_s(client: TestClient, stranger: Bank) -> None:
    assert found(client, "wall") != []
    assert found(stranger.client, "wall") == []


def test_trial__counts_what_was_fished_since_it_began_and_says_whose_turn_it_is(
    client: TestClient, bank: Bank, rows: psycopg.Connection
) -> None:
    assert client.get("/api/learn/trial").json() is None
    none = client.put("/api/learn/trial", json={"by": "bead", "first": "x", "second": "3.0"})
    assert faults(none).keys() == {"first"}
    trial = {"by": "bead", "first": "2.5", "second": "3.0"}
    assert client.put("/api/learn/trial", json=trial).status_code == 204
    began = client.get("/api/learn/trial").json()
    assert began["trial"] == trial
    drifts = [one["drifts"] for one in began["standing"]["sides"]]
    assert drifts == [0, 0]  # two seasons before it do not count
    assert (began["standing"]["turn"], began["standing"]["left"]) == ("2.5", 10)
    rows.execute("delete from outing")  # the fixed day of these writings lies before the seasons
    outing = bank.kept("outings", bank.outing(started_at=at(-90)))
    stop = bank.kept("stops", bank.stop(outing, at=at(-90)))
    before = bank.kept("settings", bank.setting(stop, at=at(-80)))
    setting = bank.kept("settings", bank.setting(stop))
    rows.execute("update angler set trial_began_at = %s", (at(0),))
    bank.kept("drifts", bank.drift(before, at=at(-70)))
    bank.kept(
        "drifts", bank.drift(before, at=at(1))
    )  # on the rod when it began: what is fished from then on counts
    for outcome in ("clean", "missed"):
        bank.kept("drifts", bank.drift(setting, outcome=outcome))
    now = client.get("/api/learn/trial").json()["standing"]
    assert [(one["label"], one["drifts"], one["takes"]) for one in now["sides"]] == [
        ("⟦2.5 mm⟧", 0, 0),
        ("⟦3.0 mm⟧", 3, 1),
    ]
    assert now["certainty"] == "empty"
    for wrong in ({**trial, "second": "2.5"}, {**trial, "by": "lie"}, {**trial, "first": ""}):
        assert client.put("/api/learn/trial", json=wrong).status_code == 422
    assert client.delete("/api/learn/trial").status_code == 204
    assert client.get("/api/learn/trial").json() is None
