"""Accounts at the real database: signing up, in and out; what is not told apart; limits, sessions, tickets, leaving."""

import re
from collections.abc import Callable, Iterator
from typing import Any

import psycopg
import pytest
from fastapi.testclient import TestClient
from fastapi_users.password import PasswordHelper
from httpx2 import Response

from deriva.service.main import build
from deriva.service.settings import Settings
from deriva.service.usecases.account import LETTER_TO, SIGN_IN, tidy
from tests.service.anglers import count, faults

PASSWORD = "slate heron copper tide"  # noqa: S105
OTHER = "willow anvil quartz moth"
MIA, TOM = "mia@example.org", "tom@example.org"

Open = Callable[[], TestClient]


@pytest.fixture
def app_of(database: str) -> Iterator[Callable[..., TestClient]]:
    opened: list[TestClient] = []

    def made(**settings: Any) -> TestClient:  # noqa: ANN401
        client = TestClient(build(Settings(database_url=database, **settings)), raise_server_exceptions=False)
        opened.append(client.__enter__())
        return client

    yield made
    for client in opened:
        client.__exit__(None, None, None)


@pytest.fixture
def fresh_app(app_of: Callable[..., TestClient]) -> TestClient:
    """An installation that is no demo, with nobody in it but the tests' template."""
    return app_of()


def browser(client: TestClient, host: str = "testclient") -> TestClient:
    """Return another browser at the same service."""
    other = TestClient(client.app, raise_server_exceptions=False, client=(host, 50000))
    other.portal = client.portal
    return other


def sign_up(client: TestClient, email: str = MIA, password: str = PASSWORD, name: str = "Mia") -> Response:
    return client.post("/api/account", json={"name": name, "email": email, "password": password})


def sign_in(client: TestClient, email: str = MIA, password: str = PASSWORD) -> Response:
    return client.post("/api/session", json={"email": email, "password": password})


def ticket(rows: psycopg.Connection, to: str) -> str:
    """Return the ticket of the newest letter to somebody."""
    found = rows.execute(
        'select text from mail where "to" = %s order by at desc, id desc limit 1', (to,)
    ).fetchone()
    assert found is not None
    ticket = re.search(r"#(\S+)", found[0])
    assert ticket is not None
    return ticket[1]


def enrolled(client: TestClient, rows: psycopg.Connection, email: str = TOM) -> TestClient:
    """Return a browser of another angler's, signed in; the first account must have been made."""
    other = browser(client)
    assert sign_up(other, email, OTHER, "Tom").json()["angler"] is None
    assert other.post("/api/account/confirm", json={"ticket": ticket(rows, email)}).status_code == 200
    assert sign_in(other, email, OTHER).json()["angler"]["name"] == "Tom"
    return other


def test_first_run__asks_for_the_first_account_and_signs_it_in(fresh_app: TestClient) -> None:
    assert fresh_app.get("/api/session").json()["first_run"] is True
    made = sign_up(fresh_app)
    assert made.status_code == 200
    assert made.json()["angler"]["name"] == "Mia"
    assert made.json()["first_run"] is False
    cookie = made.headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=lax" in cookie
    assert fresh_app.get("/api/beats").json() == []
    assert fresh_app.post("/api/session/demo").status_code == 404


def test_sign_up__confirms_the_address_by_its_letter(fresh_app: TestClient, rows: psycopg.Connection) -> None:
    sign_up(fresh_app)
    other = browser(fresh_app)
    sign_up(other, TOM, OTHER, "Tom")
    assert sign_in(other, TOM, OTHER).status_code == 403
    letter = ticket(rows, TOM)
    assert other.post("/api/account/confirm", json={"ticket": letter}).status_code == 200
    assert sign_in(other, TOM.upper(), OTHER).status_code == 200
    assert other.post("/api/account/confirm", json={"ticket": letter}).status_code == 422
    assert other.post("/api/account/confirm", json={"ticket": letter[:-3] + "abc"}).status_code == 422


def test_known_and_unknown_addresses__are_answered_alike(
    fresh_app: TestClient, rows: psycopg.Connection
) -> None:
    sign_up(fresh_app)
    other = browser(fresh_app)
    pairs = [
        (sign_in(other, MIA, "wrong wrong wrong wrong"), sign_in(other, TOM, "wrong wrong wrong wrong")),
        (sign_up(other, MIA, OTHER), sign_up(other, TOM, OTHER)),
        (
            other.post("/api/account/forgot", json={"email": MIA}),
            other.post("/api/account/forgot", json={"email": "nobody@example.org"}),
        ),
    ]
    for known, unknown in pairs:
        assert (known.status_code, known.json()) == (unknown.status_code, unknown.json())
        assert set(known.headers) == set(unknown.headers)
    texts = [text for (text,) in rows.execute('select text from mail where "to" = %s', (MIA,)).fetchall()]
    assert any("has one" in text for text in texts)
    assert count(rows, "account") == 2
    assert sign_in(other, MIA, OTHER).status_code == 401  # the second sign-up changed nothing


def test_known_and_unknown_addresses__hash_once_either_way(
    fresh_app: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Time is spent on the password's hash: so many are made for one as for the other. (No clock: clocks flake.)"""
    from deriva.service.usecases import account  # noqa: PLC0415

    sign_up(fresh_app)
    other = browser(fresh_app)
    made: list[str] = []
    helper = type(account.HASHER)
    hash_, verify = helper.hash, helper.verify_and_update

    def hashed(self: PasswordHelper, password: str) -> str:
        made.append("hash")
        return hash_(self, password)

    def verified(self: PasswordHelper, password: str, known: str) -> tuple[bool, str | None]:
        made.append("verify")
        return verify(self, password, known)

    monkeypatch.setattr(helper, "hash", hashed)
    monkeypatch.setattr(helper, "verify_and_update", verified)
    asks: dict[str, Callable[[str], Response]] = {
        "in": lambda email: sign_in(other, email, "wrong wrong wrong wrong"),
        "forgot": lambda email: other.post("/api/account/forgot", json={"email": email}),
        "up": lambda email: sign_up(other, email, OTHER),
    }
    counts: dict[str, set[int]] = {}
    for email in (MIA, TOM):
        for name, ask in asks.items():
            made.clear()
            ask(email)
            counts.setdefault(name, set()).add(len(made))
    assert all(len(found) == 1 for found in counts.values()), counts


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"password": "short"}, "password"),
        ({"password": "password1234"}, "password"),
        ({"password": "mia@example.org"}, "password"),
        ({"email": "mia"}, "email"),
        ({"name": " "}, "name"),
        ({"password": "x" * 129}, "password"),
    ],
)
def test_sign_up__bad_input_names_the_field_and_never_repeats_a_password(
    fresh_app: TestClient, change: dict[str, str], field: str
) -> None:
    answer = fresh_app.post(
        "/api/account", json={"name": "Mia", "email": MIA, "password": PASSWORD, **change}
    )
    assert answer.status_code == 422
    assert field in faults(answer)
    if field == "password":
        assert change["password"] not in answer.text


def test_sign_in__is_limited_over_every_process(
    fresh_app: TestClient, app_of: Callable[..., TestClient]
) -> None:
    sign_up(fresh_app)
    second = app_of()
    answers = [
        sign_in(browser((fresh_app, second)[n % 2]), MIA, "wrong wrong wrong wrong").status_code
        for n in range(SIGN_IN.most + 2)
    ]
    assert answers[: SIGN_IN.most] == [401] * SIGN_IN.most
    assert answers[SIGN_IN.most :] == [429, 429]
    refused = sign_in(browser(second))
    assert refused.status_code == 429  # the right password too
    assert int(refused.headers["retry-after"]) > 0
    elsewhere = browser(second, host="192.0.2.7")  # who guesses does not keep the owner out
    assert sign_in(elsewhere).status_code == 200


def test_letters__are_limited_by_address(fresh_app: TestClient) -> None:
    sign_up(fresh_app)
    codes = [
        browser(fresh_app).post("/api/account/forgot", json={"email": TOM}).status_code
        for _ in range(LETTER_TO.most + 1)
    ]
    assert codes == [200] * LETTER_TO.most + [429]


def test_reset__sets_the_password_once_and_ends_every_session(
    fresh_app: TestClient, rows: psycopg.Connection
) -> None:
    sign_up(fresh_app)
    other = browser(fresh_app)
    other.post("/api/account/forgot", json={"email": MIA})
    letter = ticket(rows, MIA)
    weak = other.post("/api/account/reset", json={"ticket": letter, "password": "password1234"})
    assert weak.status_code == 422
    assert other.post("/api/account/reset", json={"ticket": letter, "password": OTHER}).status_code == 200
    assert fresh_app.get("/api/beats").status_code == 401
    assert sign_in(other, MIA, PASSWORD).status_code == 401
    assert sign_in(other, MIA, OTHER).status_code == 200
    assert other.post("/api/account/reset", json={"ticket": letter, "password": PASSWORD}).status_code == 422


def test_password__is_changed_with_the_old_one_and_other_sessions_end(fresh_app: TestClient) -> None:
    sign_up(fresh_app)
    other = browser(fresh_app)
    sign_in(other)
    wrong = fresh_app.put("/api/account/password", json={"old": OTHER, "new": OTHER})
    assert wrong.status_code == 401
    assert fresh_app.put("/api/account/password", json={"old": PASSWORD, "new": OTHER}).status_code == 200
    assert fresh_app.get("/api/beats").status_code == 200
    assert other.get("/api/beats").status_code == 401


def test_sessions__are_listed_and_ended_one_by_one(fresh_app: TestClient, rows: psycopg.Connection) -> None:
    sign_up(fresh_app)
    other = browser(fresh_app)
    other.headers["user-agent"] = "Old phone\x07"
    sign_in(other)
    stranger = enrolled(fresh_app, rows)
    listed = fresh_app.get("/api/sessions").json()
    assert [one["here"] for one in listed].count(True) == 1
    phone = next(one for one in listed if one["agent"] == "Old phone")
    assert stranger.delete(f"/api/sessions/{phone['id']}").status_code == 404
    assert other.get("/api/beats").status_code == 200
    assert fresh_app.delete(f"/api/sessions/{phone['id']}").status_code == 200
    assert other.get("/api/beats").status_code == 401
    stored = rows.execute("select token_hash from sign_in").fetchall()
    assert all(len(one[0]) == 64 for one in stored)
    assert fresh_app.cookies["deriva_session"] not in str(stored)


def test_sign_out__ends_the_session_at_the_service(fresh_app: TestClient) -> None:
    sign_up(fresh_app)
    kept = fresh_app.cookies["deriva_session"]
    fresh_app.delete("/api/session")
    thief = browser(fresh_app)
    thief.cookies.set("deriva_session", kept)
    assert thief.get("/api/beats").status_code == 401


def test_sign_up__can_be_closed(app_of: Callable[..., TestClient]) -> None:
    client = app_of(sign_up=False)
    assert sign_up(client).status_code == 200  # the first always
    refused = sign_up(browser(client), TOM, OTHER, "Tom")
    assert refused.status_code == 403
    assert browser(client).get("/api/session").json()["sign_up"] is False


def test_leaving__removes_everything_once_the_grace_is_over_and_not_before(
    fresh_app: TestClient, rows: psycopg.Connection
) -> None:
    sign_up(fresh_app)
    river = "01970000-0000-7000-8000-000000000001"
    fresh_app.put(f"/api/rivers/{river}", json={"name": "Sallow brook"})
    app: Any = fresh_app.app
    assert fresh_app.post("/api/account/leave", json={"password": OTHER}).status_code == 401
    leaves = fresh_app.post("/api/account/leave", json={"password": PASSWORD})
    assert leaves.status_code == 200
    assert fresh_app.portal is not None
    assert fresh_app.portal.call(tidy, app.state.sessions) == 0
    assert fresh_app.get("/api/session").json()["angler"]["leaves_at"] == leaves.json()["leaves_at"]
    assert fresh_app.post("/api/account/stay").json() == {"leaves_at": None}
    fresh_app.post("/api/account/leave", json={"password": PASSWORD})
    rows.execute("update angler set leaves_at = now() - interval '1 minute' where not demo")
    assert fresh_app.portal.call(tidy, app.state.sessions) == 1
    for table in ("account", "change"):
        assert count(rows, table) == 0
    assert rows.execute("select 1 from river where id = %s", (river,)).fetchone() is None
    assert fresh_app.get("/api/beats").status_code == 401
    left = rows.execute(
        "select conrelid::regclass::text from pg_constraint where contype = 'f' and confrelid = 'angler'::regclass"
        " and confdeltype <> 'c'"
    ).fetchall()
    assert left == []  # whatever hangs under an angler goes with the angler


def test_cookie__goes_over_https_alone_where_the_site_is_https(app_of: Callable[..., TestClient]) -> None:
    client = app_of(site="https://deriva.example.org")
    answer = sign_up(client)
    assert "secure" in answer.headers["set-cookie"].lower()
    assert "max-age" in answer.headers["strict-transport-security"]


def test_another_site__cannot_write(fresh_app: TestClient) -> None:
    sign_up(fresh_app)
    for headers in (
        {"origin": "https://elsewhere.example.org"},
        {"sec-fetch-site": "cross-site"},
        {"sec-fetch-site": "same-site"},
        {"origin": "null"},
    ):
        answer = fresh_app.put("/api/angler", json={"units": "us"}, headers=headers)
        assert answer.status_code == 403
    for ours in ({"origin": "http://testserver"}, {"sec-fetch-site": "same-origin"}, {}):
        assert fresh_app.put("/api/angler", json={"units": "us"}, headers=ours).status_code == 200


def test_letters__are_shown_on_the_demo_start_alone(
    fresh_app: TestClient, app_of: Callable[..., TestClient]
) -> None:
    sign_up(fresh_app)
    assert fresh_app.get("/api/account/letters").status_code == 404
    demo = app_of(demo=True)
    browser(demo).post("/api/account/forgot", json={"email": MIA})
    assert [one["to"] for one in demo.get("/api/account/letters").json()] == [MIA]


def test_answers__have_the_headers_that_bind_a_browser(fresh_app: TestClient) -> None:
    answer = fresh_app.get("/api/session")
    policy = answer.headers["content-security-policy"]
    assert "script-src 'self' 'wasm-unsafe-eval'" in policy
    assert "unsafe-inline" not in policy
    assert "'unsafe-eval'" not in policy
    assert "http" not in policy  # nothing of anybody else's
    assert answer.headers["x-content-type-options"] == "nosniff"
    assert answer.headers["cache-control"] == "no-store"
    assert len(answer.headers["x-request-id"]) == 36
    assert fresh_app.get("/api/nowhere").headers["content-security-policy"] == policy


def test_ready__says_when_the_schema_is_old(fresh_app: TestClient, rows: psycopg.Connection) -> None:
    assert fresh_app.get("/api/ready").status_code == 204
    rows.execute("update alembic_version set version_num = '0001'")
    answer = fresh_app.get("/api/ready")
    assert answer.status_code == 503
    assert "0001" in answer.json()["faults"][0]["message"]


def test_metrics__count_routes_and_never_places(fresh_app: TestClient) -> None:
    sign_up(fresh_app)
    river = "01970000-0000-7000-8000-000000000002"
    fresh_app.put(f"/api/rivers/{river}", json={"name": "Secret brook"})
    text = fresh_app.get("/metrics").text
    assert 'route="/api/rivers/{river_id}"' in text
    assert river not in text
    assert "Secret" not in text


def test_a_fault_of_the_service__is_said_plainly_with_the_same_headers(
    fresh_app: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    async def broken(*_: object) -> None:
        raise RuntimeError("the secret of the house")

    sign_up(fresh_app)
    monkeypatch.setattr("deriva.service.usecases.logbook.list_outings", broken)
    answer = fresh_app.get("/api/outings")
    assert answer.status_code == 500
    assert answer.json()["faults"][0]["code"] == "UNEXPECTED"
    assert "secret" not in answer.text
    assert "content-security-policy" in answer.headers
    assert len(answer.headers["x-request-id"]) == 36
