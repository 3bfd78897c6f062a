"""A real install: what the README says under "Running it for real", word for word, to a second account's first drift; and the
command line for whoever runs it."""

import os
import re
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx2 as httpx
import pytest
import uvicorn

from deriva.service.serve import NotReady, check, options, serve
from deriva.service.serving import STARTS_WITHIN_S, free_port, kill_app, wait_for
from deriva.service.settings import Settings
from deriva.service.store.cluster import Cluster
from root import ROOT
from tests.databases import empty
from tests.loops import apart
from tests.service.anglers import Bank, batch, event, new_id
from tests.service.command import deriva

DERIVA = Path(sys.executable).with_name("deriva")
FIRST, SECOND = "slate heron copper tide", "willow anvil quartz moth"


@pytest.fixture
def bare(cluster: Cluster) -> Iterator[str]:
    """The address of a database with nothing in it."""
    with empty(cluster, "for_real") as name:
        yield cluster.url(name)


def script() -> list[str]:
    """Return the lines of the README's section on running it for real."""
    section = (ROOT / "README.md").read_text().split("## Running it for real")[1].split("\n## ")[0]
    return [line for block in re.findall(r"```sh\n(.*?)```", section, re.S) for line in block.splitlines()]


def shell(folder: Path, exports: list[str], line: str) -> str:
    """Run a line in a shell after the exports; return what it prints."""
    done = subprocess.run(
        ["/bin/bash", "-ec", "\n".join([*exports, line])],
        cwd=folder,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


def signed_in(address: str, path: str, body: dict[str, str]) -> httpx.Client:
    client = httpx.Client(base_url=address, timeout=60.0)
    answer = client.post(path, json=body)
    assert answer.status_code == 200, answer.text
    assert answer.json()["angler"] is not None
    return client


def first_drift(client: httpx.Client) -> dict[str, Any]:
    """Set up a river with a lie, read it, and log a drift; return the outing."""
    river, beat, lie = new_id(), new_id(), new_id()
    places = (
        ("rivers", river, {"name": "Sallow brook"}),
        ("beats", beat, {"river_id": river, "name": "Mill", "position": 0}),
    )
    for kind, row, body in places:
        assert client.put(f"/api/{kind}/{row}", json=body).status_code == 200
    tail = {"beat_id": beat, "name": "Tail", "kind": "run", "bed": "gravel", "along_m": 5.0}
    assert client.post("/api/sync", json=batch(event("lies", lie, tail))).json()["refused"] == []
    bank = Bank(client)  # type: ignore[arg-type] # it puts and gets alike
    bank.kept("readings", bank.reading())
    bank = Bank(client)  # type: ignore[arg-type]
    _, _, setting = bank.begin()
    bank.kept("drifts", bank.drift(setting))
    outings: list[dict[str, Any]] = client.get("/api/outings").json()
    return outings[0]


@pytest.mark.long
def test_readme__is_followed_word_for_word_to_a_second_account_s_first_drift(
    bare: str, tmp_path: Path
) -> None:
    (tmp_path / ".venv").symlink_to(Path(sys.prefix))
    port = free_port()
    address = f"http://127.0.0.1:{port}"
    values = {"DERIVA_DATABASE_URL": bare, "DERIVA_SITE": address}
    install, *lines = script()
    assert (
        install == "make install"
    )  # which fetches and builds for minutes: it left this .venv, and this site in the package
    exports = [f"export DERIVA_PORT={port}"]
    serving: list[subprocess.Popen[bytes]] = []
    printed = ""
    try:
        for line in lines:
            name = re.match(r"export (\w+)=", line)
            if name is not None:
                exports.append(f"export {name[1]}={values.pop(name[1])}")
            elif " serve " in line:
                log = tmp_path / "log"
                with log.open("wb") as out:
                    started = subprocess.Popen(
                        ["/bin/bash", "-ec", "\n".join([*exports, f"exec {line}"])],
                        cwd=tmp_path, stdout=out, stderr=out, start_new_session=True,
                    )  # fmt: skip
                serving.append(started)
                wait_for(port, "/api/ready", log, alive=lambda: serving[0].poll() is None)
                assert '<div id="root">' in httpx.get(address).text
                first = {"name": "Mia", "email": "mia@example.org", "password": FIRST}
                assert first_drift(signed_in(address, "/api/account", first))["tally"]["drifts"] == 1
            else:
                printed = shell(tmp_path, exports, line)
        assert values == {}
        ticket = re.search(rf"{address}/reset#(\S+)", printed)
        assert ticket is not None
        reset = httpx.post(f"{address}/api/account/reset", json={"ticket": ticket[1], "password": SECOND})
        assert reset.status_code == 200
        second = {"email": "tom@example.org", "password": SECOND}
        assert first_drift(signed_in(address, "/api/session", second))["tally"]["drifts"] == 1
    finally:
        for one in serving:
            kill_app(one)


NOWHERE = "postgresql+asyncpg://deriva@127.0.0.1:9/none"


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("migrate",), "the database at postgresql+asyncpg://deriva@127.0.0.1:9/none cannot be used"),
        (("account", "list"), "cannot be used"),
        (("serve",), "The database does not answer"),
        (("backup", "/nowhere/x"), "no backup was made"),
    ],
)
def test_without_a_database__one_sentence_says_what_is_missing(arguments: tuple[str, ...], said: str) -> None:
    done = deriva(NOWHERE, *arguments)
    assert done.exit_code == 2
    assert said in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1
    assert done.stdout == ""


def test_serve__says_what_is_missing(bare: str, tmp_path: Path) -> None:
    with pytest.raises(NotReady, match="no built site"):
        apart(check, Settings(database_url=bare, web_dist=tmp_path))
    with pytest.raises(NotReady, match="deriva migrate"):
        apart(check, Settings(database_url=bare))
    wrong = deriva(bare, "serve", DERIVA_SMTP_SECURITY="maybe")
    assert wrong.exit_code == 2
    assert "DERIVA_SMTP_SECURITY" in wrong.stderr


def test_accounts__are_kept_from_the_command_line(bare: str, tmp_path: Path) -> None:
    assert deriva(bare, "migrate").stdout == "the schema is up to date\n"
    assert "no accounts yet" in deriva(bare, "account", "list").stdout
    made = deriva(bare, "account", "add", "Tom@Example.org", DERIVA_SITE="https://d.example.org")
    assert re.search(r"tom@example.org .*\nhttps://d.example.org/reset#\S{43}\n$", made.stdout)
    assert "has an account" in deriva(bare, "account", "add", "tom@example.org").stderr
    assert "ADDRESS = 'tom'" in deriva(bare, "account", "add", "tom").stderr
    assert "no account of mia" in deriva(bare, "account", "reset", "mia@example.org").stderr
    assert "can sign in no more" in deriva(bare, "account", "disable", "tom@example.org").stdout
    assert "disabled" in deriva(bare, "account", "list").stdout
    assert "can sign in" in deriva(bare, "account", "disable", "tom@example.org", "--undo").stdout
    file = tmp_path / "all.dump"
    assert deriva(bare, "backup", str(file)).exit_code == 0
    asked = deriva(bare, "restore", str(file), given="n\n")
    assert asked.exit_code == 2
    assert "1 accounts" in asked.stdout
    assert "nothing was put back" in asked.stderr
    assert deriva(bare, "restore", str(file), given="y\n").exit_code == 0
    assert deriva(bare, "restore", str(file), "--yes").exit_code == 0


def test_ready__fails_without_a_site(app_of: Any, tmp_path: Path) -> None:  # noqa: ANN401
    client = app_of(web_dist=tmp_path)
    answer = client.get("/api/ready")
    assert answer.status_code == 503
    assert "no built site" in answer.text
    assert client.get("/").status_code == 404


@pytest.mark.long
def test_counts__of_all_processes_are_at_a_port_of_their_own(bare: str, tmp_path: Path) -> None:
    assert deriva(bare, "migrate").exit_code == 0
    port, metrics, log = free_port(), free_port(), tmp_path / "log"
    known = os.environ | {
        "DERIVA_DATABASE_URL": bare, "DERIVA_METRICS_PORT": str(metrics), "DERIVA_WARM": "false", "DERIVA_SITE": f"http://127.0.0.1:{port}",
        "TMPDIR": str(tmp_path),
    }  # fmt: skip
    command = [str(DERIVA), "serve", "--port", str(port), "--workers", "2"]
    with log.open("wb") as out:
        serving = subprocess.Popen(command, env=known, stdout=out, stderr=out, start_new_session=True)
    try:
        wait_for(port, "/api/ready", log, alive=lambda: serving.poll() is None)
        for _ in range(20):
            with httpx.Client() as client:  # a connection each, so that both processes answer some
                client.get(f"http://127.0.0.1:{port}/api/rivers/{new_id()}")
        text = httpx.get(f"http://127.0.0.1:{metrics}/metrics").text
        total = sum(
            float(line.rsplit(" ", 1)[1])
            for line in text.splitlines()
            if line.startswith("deriva_requests_total") and 'route="/api/{rest:path}"' in line
        )
        assert total == 20.0
        assert "/api/rivers/0" not in text
        assert httpx.get(f"http://127.0.0.1:{port}/metrics").text.startswith(
            "<!"
        )  # a screen's address, no counts
        answered = [line for line in log.read_text().splitlines() if '"answered"' in line]
        assert len(answered) >= 20
        assert all(line.startswith("{") for line in answered)
        serving.terminate()
        assert serving.wait(60) == 0
        assert list(tmp_path.glob("deriva-counts-*")) == []
    finally:
        if serving.poll() is None:
            kill_app(serving)


def test_process__is_given_as_long_to_say_something_as_a_start_may_take() -> None:
    """One that loads for longer than it is waited for is ended and started anew, and never answers anybody."""
    config = uvicorn.Config("deriva.service.main:create", **options(Settings(database_url="")))
    assert config.timeout_worker_healthcheck >= STARTS_WITHIN_S


def test_serve__stopped_puts_away_what_its_counts_were_kept_in(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    kept: list[Path] = []

    def stopped(*_: object, **__: object) -> None:
        kept.extend(tmp_path.iterdir())
        signal.raise_signal(signal.SIGTERM)  # as uvicorn does once it has stopped for one

    monkeypatch.setattr(tempfile, "tempdir", str(tmp_path))
    monkeypatch.setattr("deriva.service.serve.check", lambda _: None)
    monkeypatch.setattr("uvicorn.run", stopped)
    monkeypatch.setenv("PROMETHEUS_MULTIPROC_DIR", "")
    monkeypatch.setattr("prometheus_client.start_http_server", lambda *_, **__: None)
    before = signal.signal(signal.SIGTERM, signal.SIG_IGN)
    try:
        with pytest.raises(SystemExit):
            serve(Settings(database_url="", metrics_port=9000), host="127.0.0.1", port=8000, workers=1)
    finally:
        signal.signal(signal.SIGTERM, before)
    assert len(kept) == 1
    assert not kept[0].exists()
