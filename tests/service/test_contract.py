"""The whole API against its own document: nothing that is sent is a fault of the service, no answer is undocumented."""

import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx2 as httpx
import pytest
import schemathesis
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from deriva.service.serving import free_port, kill_app, start_app
from deriva.service.store.cluster import Cluster
from root import ROOT
from tests.databases import fresh

CHECKS = [
    not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance,
]  # fmt: skip
EXAMPLES = int(os.environ.get("DERIVA_CONTRACT_EXAMPLES", "0"))
LEFT_OUT = ["sign_out", "end_session", "missing_flies"]
"""They end the session that the others need; and one looks at every lie of a river for every box, which takes minutes."""

COMPUTED = [
    "column", "advice", "tune", "path", "least_change", "coach_on_the_bank", "look_ahead", "compare", "marches", "build",
    "build_card", "sync", "ask_the_log", "look_back", "foretell_more", "weigh_evidence",
    "cast", "lift", "say_why", "help_once", "lift_off", "finish",
]  # fmt: skip
"""Making bodies for these takes minutes by itself; they run with `make contract`, and are fuzzed by tests of their own."""

document = schemathesis.openapi.from_path(str(ROOT / "openapi.json")).exclude(
    operation_id=LEFT_OUT if EXAMPLES else [*LEFT_OUT, *COMPUTED]
)


@pytest.fixture(scope="module")
def served(cluster: Cluster, tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[str, str]]:
    """The service on a port of its own: its address, and a session's token."""
    log: Path = tmp_path_factory.mktemp("contract") / "app.log"
    with fresh(cluster, "contract") as database:
        port = free_port()
        app = start_app(cluster.url(database), port=port, log=log)
        address = f"http://127.0.0.1:{port}"
        yield address, httpx.post(f"{address}/api/session/demo").cookies["deriva_session"]
        kill_app(app)


@document.parametrize()
@settings(
    max_examples=EXAMPLES or 1, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck)
)
def test_api__answers_as_documented(case: Any, served: tuple[str, str]) -> None:  # noqa: ANN401 - the library's type
    address, token = served
    response = case.call(base_url=address, cookies={"deriva_session": token})
    case.validate_response(response, checks=CHECKS)
