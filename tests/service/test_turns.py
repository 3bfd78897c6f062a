"""Turns at computing: so many at once, one of an angler's at a time, nothing for nobody."""

import asyncio
import json
import os
import signal
from collections.abc import Callable
from concurrent.futures import BrokenExecutor, Future, ThreadPoolExecutor
from functools import partial
from threading import Barrier, Event, get_ident
from typing import Any
from uuid import UUID

import pytest
from fastapi.testclient import TestClient

from deriva.service.api.turns import AN_ANGLER, Busy, Queue, Unwanted
from deriva.service.workers import Worker
from tests.loops import run
from tests.service.anglers import faults, new_id
from tests.situations import CONTRACT


def threads(count: int) -> list[ThreadPoolExecutor]:
    return [ThreadPoolExecutor(1) for _ in range(count)]


def test_queue__refuses_past_those_that_wait_and_frees_what_it_gave() -> None:
    async def crowd() -> tuple[int, int]:
        queue = Queue(threads(1), waiting=2)
        gate = Event()
        refused = served = 0

        async def one() -> None:
            nonlocal refused, served
            try:
                await queue.run(UUID(new_id()), gate.wait)
                served += 1
            except Busy:
                refused += 1

        first = [asyncio.create_task(one()) for _ in range(5)]
        while refused < 2:
            await asyncio.sleep(0)
        gate.set()
        await asyncio.gather(*first)
        await one()  # there is room again
        return served, refused

    assert run(crowd()) == (4, 2)


def test_queue__one_of_an_angler_s_at_a_time_and_a_turn_is_the_work_s_not_the_request_s() -> None:
    async def crowd() -> list[str]:
        queue = Queue(threads(2), waiting=20)
        greedy, other = UUID(new_id()), UUID(new_id())
        gate, order = Event(), list[str]()
        many = [asyncio.create_task(queue.run(greedy, gate.wait)) for _ in range(4)]
        await asyncio.sleep(0)
        await queue.run(
            other, lambda: order.append("other")
        )  # while all of the greedy one's are waiting or held
        many[0].cancel()  # given up by whoever asked; its thread goes on, and holds the turn
        await asyncio.gather(many[0], return_exceptions=True)
        assert queue.held[greedy] == 4
        with pytest.raises(Busy):
            await asyncio.gather(*(queue.run(greedy, gate.wait) for _ in range(AN_ANGLER)))
        gate.set()
        await asyncio.gather(*many[1:])
        while queue.held:
            await asyncio.sleep(0)
        assert (queue.room, queue.own) == (22, {})
        return order

    assert run(crowd()) == ["other"]


def test_queue__computes_nothing_for_who_has_hung_up_when_the_turn_comes() -> None:
    async def crowd() -> list[str]:
        queue = Queue(threads(1), waiting=4)
        angler, gate, done = UUID(new_id()), Event(), list[str]()

        async def yes() -> bool:
            return True

        async def no() -> bool:
            return False

        first = asyncio.create_task(queue.run(angler, gate.wait))
        stale = asyncio.create_task(queue.run(angler, lambda: done.append("stale"), yes))
        wanted = asyncio.create_task(queue.run(angler, lambda: done.append("wanted"), no))
        await asyncio.sleep(0)
        gate.set()
        await asyncio.gather(first, wanted)
        with pytest.raises(Unwanted):
            await stale
        while queue.held:
            await asyncio.sleep(0)
        assert (queue.room, queue.own) == (5, {})
        return done

    assert run(crowd()) == ["wanted"]


def test_queue__works_at_many_things_side_by_side_only_where_nobody_waits() -> None:
    async def crowd() -> None:
        queue = Queue(threads(2), waiting=4)
        angler, gate, both = UUID(int=0), Event(), Barrier(2)
        assert await queue.each(angler, [partial(pow, k, 2) for k in range(9)]) == [k**2 for k in range(9)]
        await queue.each(angler, [both.wait, both.wait])  # neither goes on without the other
        taken = asyncio.create_task(queue.run(UUID(int=1), gate.wait))
        await asyncio.sleep(0)
        by: list[int] = []
        await queue.each(angler, [lambda: by.append(get_ident())] * 3)
        assert len(set(by)) == 1
        gate.set()
        await taken

        def fails() -> bool:
            failed.set()
            raise LookupError

        failed, over = Event(), Event()
        asked = asyncio.create_task(queue.each(angler, [fails, over.wait]))
        await asyncio.to_thread(failed.wait)
        await asyncio.sleep(0)
        assert not asked.done()  # what it holds is given back when all of it has ended
        over.set()
        with pytest.raises(LookupError):
            await asked
        while queue.held:
            await asyncio.sleep(0)
        assert (queue.room, queue.free, queue.turns.locked()) == (6, {0, 1}, False)

    run(crowd())


def pids(queue: Queue, anglers: list[UUID]) -> list[int]:
    async def asked() -> list[int]:
        return [await queue.run(angler, os.getpid) for angler in anglers]

    return run(asked())


def test_worker__that_was_killed_is_replaced_and_an_angler_has_the_same_one() -> None:
    workers = Worker(), Worker()
    queue = Queue(workers, waiting=4)
    anglers = [UUID(int=2), UUID(int=3), UUID(int=2)]
    first, other, again = pids(queue, anglers)
    assert len({first, other, os.getpid()}) == 3
    assert again == first
    assert os.getpriority(os.PRIO_PROCESS, first) > os.getpriority(os.PRIO_PROCESS, 0)
    os.kill(first, signal.SIGKILL)
    replaced, left, _ = pids(queue, anglers)
    assert replaced not in (first, other)
    assert left == other
    workers[1].end()
    with pytest.raises(ProcessLookupError):
        os.kill(other, 0)
    assert pids(queue, anglers)[:2] != [replaced, other]


def test_worker__that_is_killed_over_its_work_is_said_and_the_next_is_there() -> None:
    queue = Queue([Worker()], waiting=4)
    with pytest.raises(BrokenExecutor):
        run(queue.run(UUID(int=1), partial(signal.raise_signal, signal.SIGKILL)))
    assert pids(queue, [UUID(int=1)])


def test_plan__that_was_broken_off_says_so(client: TestClient) -> None:
    class Killed:
        def submit(self, work: Callable[[], Any]) -> Future[Any]:
            raise BrokenExecutor(work)

    client.app.state.queue = Queue([Killed()], waiting=1)  # type: ignore[attr-defined]
    answer = client.post("/api/advice", json=CONTRACT)
    assert (answer.status_code, answer.json()["faults"][0]["code"]) == (503, "BROKEN_OFF")


def test_plan__of_a_slider_that_was_moved_on_is_not_made(client: TestClient) -> None:
    gate, queue = Event(), Queue(threads(1), waiting=4)
    client.app.state.queue = queue  # type: ignore[attr-defined]
    headers = {
        "host": "testserver", "content-type": "application/json",
        "cookie": f"deriva_session={client.cookies['deriva_session']}",
    }  # fmt: skip
    scope = {
        "type": "http", "asgi": {"version": "3.0"}, "http_version": "1.1", "method": "POST", "path": "/api/advice",
        "raw_path": b"/api/advice", "query_string": b"", "scheme": "http", "server": ("testserver", 80),
        "client": ("testclient", 1), "root_path": "",
        "headers": [(name.encode(), value.encode()) for name, value in headers.items()],
    }  # fmt: skip
    sent: list[dict[str, Any]] = []
    came = iter(
        ({"type": "http.request", "body": json.dumps(CONTRACT).encode()}, {"type": "http.disconnect"})
    )

    async def receive() -> dict[str, Any]:
        return next(came)

    async def send(message: dict[str, Any]) -> None:
        sent.append(message)

    async def ask() -> None:
        before = asyncio.create_task(queue.run(UUID(new_id()), gate.wait))
        asked: asyncio.Task[None] = asyncio.create_task(client.app(scope, receive, send))  # type: ignore[arg-type]
        while len(queue.held) < 2:
            await asyncio.sleep(0)
        gate.set()
        await asyncio.gather(before, asked)

    assert client.portal is not None
    client.portal.call(ask)
    assert sent[0]["status"] == 499
    assert json.loads(sent[1]["body"])["faults"][0]["code"] == "HUNG_UP"


def test_plan__a_flood_is_told_when_to_come_back(client: TestClient) -> None:
    client.app.state.queue = Queue(threads(1), waiting=-1)  # type: ignore[attr-defined]
    answer = client.post("/api/advice", json=CONTRACT)
    assert answer.status_code == 429
    assert int(answer.headers["retry-after"]) >= 1
    assert faults(answer)[None].startswith("Too many")
    assert client.get("/api/outings").status_code == 200  # the log answers all the same
