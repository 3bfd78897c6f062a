"""Accounts at the real database: signing up, in and out; what is not told apart; limits, sessions, tickets, leaving."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from functools import partial
from typing import Any

import psycopg
import pytest
from fastapi.testclient import TestClient
from httpx2 import Response
from pwdlib import PasswordHash
from pwdlib.hashers.argon2 import Argon2Hasher

from deriva.service.store.address import sync_url
from deriva.service.store.cluster import Cluster
from deriva.service.usecases import account as accounts
from deriva.service.usecases import passwords
from deriva.service.usecases.account import LETTER_TO, LETTER_TO_ANY, SIGN_IN, Limit, tidy
from deriva.service.usecases.letters import Letter, send_due
from tests.service.anglers import count, faults
from tests.service.conftest import NAME
from tests.service.post import PostOffice

PASSWORD = "slate heron copper tide"  # noqa: S105
OTHER = "willow anvil quartz moth"
MIA, TOM = "mia@example.org", "tom@example.org"


@pytest.fixture(autouse=True)
def one_span(monkeypatch: pytest.MonkeyPatch) -> None:
    """Let no span of time end while attempts are counted: they turn over at the quarter hour, whoever is looking."""
    began = datetime.now(UTC)  # of today: what is over is forgotten when an app starts
    monkeypatch.setattr(accounts, "_began", lambda *_: began)


def browser(client: TestClient, host: str = "testclient") -> TestClient:
    """Return another browser at the same service."""
    other = TestClient(
        client.app, raise_server_exceptions=False, client=(host, 50000), base_url=str(client.base_url)
    )
    other.portal = client.portal
    return other


def sign_up(client: TestClient, email: str = MIA, password: str = PASSWORD, name: str = "Mia") -> Response:
    return client.post("/api/account", json={"name": name, "email": email, "password": password})


def sign_in(client: TestClient, email: str = MIA, password: str = PASSWORD) -> Response:
    return client.post("/api/session", json={"email": email, "password": password})


def enrolled(client: TestClient, letters: PostOffice, email: str = TOM) -> TestClient:
    """Return a browser of another angler's, signed in; the first account must have been made."""
    other = browser(client)
    assert sign_up(other, email, OTHER, "Tom").json()["angler"] is None
    assert other.post("/api/account/confirm", json={"ticket": letters.ticket(email)}).status_code == 200
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


def test_sign_up__confirms_the_address_by_its_letter(fresh_app: TestClient, letters: PostOffice) -> None:
    sign_up(fresh_app)
    other = browser(fresh_app)
    sign_up(other, TOM, OTHER, "Tom")
    assert sign_in(other, TOM, OTHER).status_code == 401
    letter = letters.ticket(TOM)
    assert other.post("/api/account/confirm", json={"ticket": letter}).status_code == 200
    assert sign_in(other, TOM.upper(), OTHER).status_code == 200
    assert other.post("/api/account/confirm", json={"ticket": letter}).status_code == 422
    assert other.post("/api/account/confirm", json={"ticket": letter[:-3] + "abc"}).status_code == 422


def test_known_and_unknown_addresses__are_answered_alike(
    fresh_app: TestClient, rows: psycopg.Connection, letters: PostOffice
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
    assert "has one" in letters.letter(MIA)
    assert (
        sign_in(other, TOM, OTHER).json() == sign_in(other, "nobody@example.org", OTHER).json()
    )  # not confirmed: as unknown
    assert count(rows, "account") == 2
    assert sign_in(other, MIA, OTHER).status_code == 401  # the second sign-up changed nothing


def test_known_and_unknown_addresses__hash_once_either_way(
    fresh_app: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Time is spent on the password's hash: so many are made for one as for the other. (No clock: clocks flake.)"""
    sign_up(fresh_app)
    other = browser(fresh_app)
    made: list[str] = []
    helper = type(passwords.HASHER)
    hash_, verify = helper.hash, helper.verify

    def hashed(self: PasswordHash, password: str) -> str:
        made.append("hash")
        return hash_(self, password)

    def verified(self: PasswordHash, password: str, known: str) -> bool:
        made.append("verify")
        return verify(self, password, known)

    monkeypatch.setattr(helper, "hash", hashed)
    monkeypatch.setattr(helper, "verify", verified)
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
        assert "after validation" not in answer.text
    if change.get("password") == "short":
        assert faults(answer)[field].endswith("has fewer than 12 letters")


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
    fresh_app: TestClient, letters: PostOffice
) -> None:
    sign_up(fresh_app)
    other = browser(fresh_app)
    other.post("/api/account/forgot", json={"email": MIA})
    letter = letters.ticket(MIA)
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


def test_sessions__are_listed_and_ended_one_by_one(
    fresh_app: TestClient, rows: psycopg.Connection, letters: PostOffice
) -> None:
    sign_up(fresh_app)
    other = browser(fresh_app)
    other.headers["user-agent"] = "Old phone\x07"
    sign_in(other)
    stranger = enrolled(fresh_app, letters)
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


tidying = partial(tidy, posted=True)


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
    assert fresh_app.portal.call(tidying, app.state.sessions) == 0
    assert fresh_app.get("/api/session").json()["angler"]["leaves_at"] == leaves.json()["leaves_at"]
    assert fresh_app.post("/api/account/stay").json() == {"leaves_at": None}
    fresh_app.post("/api/account/leave", json={"password": PASSWORD})
    rows.execute("update angler set leaves_at = now() - interval '1 minute' where not demo")
    assert fresh_app.portal.call(tidying, app.state.sessions) == 1
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
    demo = app_of(demo=True, smtp_host="")
    browser(demo).post("/api/account/forgot", json={"email": MIA})
    found: list[dict[str, Any]] = []
    while not found:  # it is written in the background
        found = demo.get("/api/account/letters").json()
    assert [one["to"] for one in found] == [MIA]
    assert "/reset#" in found[0]["text"]


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


def at_once(*asks: Callable[[], Response]) -> list[int]:
    """Ask several things at the same moment; return the status of each."""
    with ThreadPoolExecutor(len(asks)) as threads:
        return [done.status_code for done in threads.map(lambda ask: ask(), asks)]


def test_password__forty_wrong_tries_at_once_leave_the_others_their_connections(
    fresh_app: TestClient, letters: PostOffice, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(passwords, "HASHER", PasswordHash((Argon2Hasher(),)))  # as slow as it is for real
    sign_up(fresh_app)
    other = enrolled(fresh_app, letters)
    wrong = {"old": OTHER, "new": OTHER + " fen"}
    tries = [lambda: fresh_app.put("/api/account/password", json=wrong)] * 40
    codes = at_once(*tries, lambda: other.get("/api/sessions"))
    assert codes[-1] == 200
    assert set(codes[:-1]) == {401, 429}
    assert codes.count(401) == SIGN_IN.most


def test_password__of_four_changes_at_once_one_is_made(fresh_app: TestClient) -> None:
    sign_up(fresh_app)
    news = [f"{OTHER} {word}" for word in ("fen", "ash", "oat", "elm")]
    asks = [
        partial(fresh_app.put, "/api/account/password", json={"old": PASSWORD, "new": new}) for new in news
    ]
    assert sorted(at_once(*asks)) == [200, 401, 401, 401]


def test_reset__one_ticket_is_used_once_however_many_try(fresh_app: TestClient, letters: PostOffice) -> None:
    sign_up(fresh_app)
    browser(fresh_app).post("/api/account/forgot", json={"email": MIA})
    body = {"ticket": letters.ticket(MIA), "password": OTHER}
    asks = [partial(browser(fresh_app).post, "/api/account/reset", json=body) for _ in range(6)]
    assert sorted(at_once(*asks)) == [200, 422, 422, 422, 422, 422]


def test_sign_up__again_takes_the_place_of_whoever_did_before_the_address_was_confirmed(
    fresh_app: TestClient, letters: PostOffice, rows: psycopg.Connection
) -> None:
    sign_up(fresh_app)
    intruder, owner = browser(fresh_app), browser(fresh_app)
    sign_up(intruder, TOM, PASSWORD, "Not Tom")
    first = letters.ticket(TOM)
    sign_up(owner, TOM, OTHER, "Tom")
    second = letters.ticket(TOM)
    assert owner.post("/api/account/confirm", json={"ticket": first}).status_code == 422
    assert owner.post("/api/account/confirm", json={"ticket": second}).status_code == 200
    assert sign_in(intruder, TOM, PASSWORD).status_code == 401
    assert sign_in(owner, TOM, OTHER).json()["angler"]["name"] == "Tom"
    assert count(rows, "account") == 2


def test_sign_up__that_nobody_confirms_goes_after_a_day(
    fresh_app: TestClient, rows: psycopg.Connection
) -> None:
    sign_up(fresh_app)
    sign_up(browser(fresh_app), TOM, OTHER, "Tom")
    app: Any = fresh_app.app
    assert fresh_app.portal is not None
    fresh_app.portal.call(tidying, app.state.sessions)
    assert count(rows, "account") == 2
    rows.execute("update angler set created_at = now() - interval '25 hours'")
    fresh_app.portal.call(tidying, app.state.sessions)
    assert [row[0] for row in rows.execute("select email from account").fetchall()] == [MIA]


def test_letter__of_an_account_that_is_just_deleted_waits_for_nobody(
    fresh_app: TestClient, rows: psycopg.Connection, cluster: Cluster
) -> None:
    """Who deletes an account comes from it to its letters, who sends one from it to the account: neither may hold the first."""
    sign_up(fresh_app)
    app: Any = fresh_app.app
    assert fresh_app.portal is not None

    async def post(letter: Letter) -> None:
        sent.append(letter)

    sent: list[Letter] = []
    sending = partial(send_due, site="http://testserver")
    rows.execute(
        'insert into mail (id, account_id, "to", about, tries, due_at)'
        " select gen_random_uuid(), id, email, 'confirm', 0, now() - interval '1 hour' from account"
    )
    with psycopg.connect(sync_url(cluster.url(NAME))) as deleting:
        deleting.execute("select 1 from account for update")
        assert fresh_app.portal.call(sending, app.state.sessions, post) == 0
        deleting.execute("delete from angler where id in (select id from account)")
    assert (sent, count(rows, "mail")) == ([], 0)


def test_sign_up__twice_at_once_is_one_account(fresh_app: TestClient, rows: psycopg.Connection) -> None:
    sign_up(fresh_app)
    asks = [partial(sign_up, browser(fresh_app), TOM, OTHER, "Tom") for _ in range(4)]
    assert at_once(*asks) == [200, 200, 200, 200]
    assert count(rows, "account") == 2


def test_password__that_is_made_to_be_slow_to_judge_is_judged_in_a_moment(fresh_app: TestClient) -> None:
    """So many letters are looked at: what the judge does with 72 of these takes ten seconds and more."""
    slow = "p@$$w0rd1!l0v3y0u" * 4 + "0oO0"
    body = {"name": "Mia", "email": MIA, "password": slow}
    assert fresh_app.post("/api/account", json=body).status_code in (200, 422)
    judged: list[str] = []

    def judge(password: str, user_inputs: list[str]) -> dict[str, Any]:
        judged.extend([password, *user_inputs])
        return {"guesses_log10": 12.0, "feedback": {"warning": ""}}

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("zxcvbn.zxcvbn", judge)
        sign_up(browser(fresh_app), "x" * 60 + "@example.org", slow)
    assert max(map(len, judged)) <= passwords.JUDGED


def test_owner__is_not_locked_out_by_guesses_from_many_places(
    fresh_app: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(accounts, "SIGN_IN_ANY", Limit("anywhere", 12, 15))
    sign_up(fresh_app)
    for place in range(5):
        other = browser(fresh_app, host=f"192.0.2.{place}")
        for _ in range(3):
            assert sign_in(other, MIA, "wrong wrong wrong wrong").status_code in (401, 429)
    assert sign_in(browser(fresh_app, host="192.0.2.200")).status_code == 429
    assert sign_in(browser(fresh_app)).status_code == 200  # from where the owner has been before


def test_letters__a_stranger_does_not_use_up_the_owner_s(fresh_app: TestClient) -> None:
    sign_up(fresh_app)
    stranger = browser(fresh_app, host="192.0.2.9")
    codes = [
        stranger.post("/api/account/forgot", json={"email": MIA}).status_code
        for _ in range(LETTER_TO.most + 1)
    ]
    assert codes[-1] == 429
    assert browser(fresh_app).post("/api/account/forgot", json={"email": MIA}).status_code == 200
    assert LETTER_TO_ANY.most > LETTER_TO.most


def test_letters__wait_for_a_mail_server_that_turns_them_away_and_keep_no_ticket(
    fresh_app: TestClient, letters: PostOffice, rows: psycopg.Connection
) -> None:
    sign_up(fresh_app)
    letters.closed = True
    browser(fresh_app).post("/api/account/forgot", json={"email": MIA})
    while letters.turned_away == 0:
        pass
    letters.closed = False
    rows.execute("update mail set due_at = now()")
    browser(fresh_app).post(
        "/api/account/forgot", json={"email": TOM}
    )  # rings the bell, and asks for nobody's
    ticket = letters.ticket(MIA)
    stored = [
        str(row)
        for table in ("mail", "ticket", "attempt", "account")
        for row in rows.execute(f"select * from {table}").fetchall()  # noqa: S608
    ]
    assert stored
    assert not any(ticket in row for row in stored)
    assert letters.none_for(TOM)


def test_without_mail__no_letter_is_promised(app_of: Callable[..., TestClient]) -> None:
    client = app_of(smtp_host="")
    assert client.get("/api/session").json()["letters"] is False
    sign_up(client)
    other = browser(client)
    assert sign_up(other, TOM, OTHER, "Tom").json()["letters"] is False
    refused = other.post("/api/account/forgot", json={"email": MIA})
    assert refused.status_code == 503
    assert "deriva account reset" in faults(refused)[None]
