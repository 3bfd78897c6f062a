"""The whole API against its own document: nothing that is sent is a fault of the service, no answer is undocumented."""

import os
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import httpx2 as httpx
import pytest

from deriva.service.serving import free_port, kill_app, start_app
from deriva.service.store.cluster import Cluster
from root import ROOT
from tests.databases import fresh

CHECKS = "not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance"
PHASES = "examples,coverage,fuzzing"
EXAMPLES = int(os.environ.get("DERIVA_CONTRACT_EXAMPLES", "0"))
LEFT_OUT = ["sign_out", "end_session", "missing_flies"]
"""They end the session that the others need; and one looks at every lie of a river for every box, which takes minutes."""

COMPUTED = [
    "column", "advice", "tune", "path", "least_change", "coach_on_the_bank", "look_ahead", "compare", "marches", "build",
    "build_card", "sync", "ask_the_log", "look_back", "foretell_more", "weigh_evidence",
    "cast", "lift", "say_why", "help_once", "lift_off", "finish",
]  # fmt: skip
"""Making bodies for these takes minutes by itself; they run with `make contract`, and are fuzzed by tests of their own."""


@pytest.fixture
def served(cluster: Cluster, tmp_path: Path) -> Iterator[tuple[str, str]]:
    """The service on a port of its own: its address, and a session's token."""
    with fresh(cluster, "contract") as database:
        port = free_port()
        app = start_app(cluster.url(database), port=port, log=tmp_path / "app.log", warm=EXAMPLES > 0)
        address = f"http://127.0.0.1:{port}"
        cookies = httpx.post(f"{address}/api/session/demo").cookies
        # what is asked first of the processes that compute waits until they are there, however long that takes here
        httpx.get(f"{address}/api/learn/calibration", cookies=cookies, timeout=None).raise_for_status()
        yield address, cookies["deriva_session"]
        kill_app(app)


@pytest.mark.long
def test_api__answers_as_documented(served: tuple[str, str], tmp_path: Path) -> None:
    address, token = served
    left = LEFT_OUT if EXAMPLES else [*LEFT_OUT, *COMPUTED]
    done = subprocess.run(
        [
            Path(sys.executable).with_name("schemathesis"), "run", ROOT / "openapi.json", "--url", address,
            "--header", f"Cookie: deriva_session={token}", "--checks", CHECKS, "--phases", PHASES,
            "--max-examples", str(EXAMPLES or 1), "--suppress-health-check", "all", "--generation-deterministic",
            "--warnings", "off", "--no-color",
            *(f"--exclude-operation-id={one}" for one in left),
        ],
        stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, check=False, cwd=tmp_path,
    )  # fmt: skip
    assert done.returncode == 0, done.stdout
