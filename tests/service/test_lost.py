"""What is lost of a box: one statement for every box, against a plain count of the log."""

import random
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

import psycopg
from sqlalchemy import event

from deriva.service.store.engine import connect
from deriva.service.store.flybox import Kind, lost
from tests.loops import run
from tests.service.anglers import SETUP, Bank, at, new_id

FORMS = ("dubbed mayfly nymph", "slim varnished nymph")
HOOKS = (14, 16)
BEADS = (None, 2.5, 3.0)
NOON = datetime(2026, 6, 1, 12, 0, tzinfo=UTC)


def fished(bank: Bank, rng: random.Random) -> list[tuple[str, int, float | None, datetime]]:
    """Lose flies of every kind at some time, and take some back; return those that are gone."""
    gone: list[tuple[str, int, float | None, datetime]] = []
    _, stop, _ = bank.begin()
    for form in FORMS:
        for hook in HOOKS:
            for bead in BEADS:
                above = rng.choice(FORMS), rng.choice(HOOKS), rng.choice(BEADS)
                upper = dict(zip(("dropper_form", "dropper_hook", "dropper_bead_mm"), above, strict=True))
                point = {"point_form": form, "point_hook": hook, "point_bead_mm": bead}
                setup = {**SETUP, **point, **upper, "flies": 2, "dropper_spacing_m": 0.5}
                setting = bank.kept("settings", bank.setting(stop, point_bead_mm=bead, setup=setup))
                for _ in range(rng.randint(0, 3)):
                    minutes = rng.randint(10, 400)
                    undone = rng.random() < 0.25
                    outcome = "lost_fly" if rng.random() < 0.8 else "hung"
                    which = rng.choice((None, "point", "dropper", "both"))
                    drift = bank.drift(setting, at=at(minutes), outcome=outcome, undone=undone, lost=which)
                    bank.kept("drifts", drift)
                    if outcome == "lost_fly" and not undone:
                        went = [(form, hook, bead)] if which != "dropper" else []
                        went += [above] if which in ("dropper", "both") else []
                        gone += [(*fly, NOON + timedelta(minutes=minutes)) for fly in went]
    return gone


def kinds(rng: random.Random, count: int) -> list[Kind]:
    return [
        Kind(
            UUID(new_id()), rng.choice(FORMS), rng.choice(HOOKS), rng.choice(BEADS),
            NOON + timedelta(minutes=rng.randint(0, 300)),
        )
        for _ in range(count)
    ]  # fmt: skip


def test_lost__is_what_a_plain_count_says_and_one_statement_for_any_box(
    bank: Bank, database: str, rows: psycopg.Connection
) -> None:
    rng = random.Random(5)
    gone = fished(bank, rng)
    assert len(gone) > 5
    found = rows.execute("select id from angler where demo").fetchone()
    assert found is not None
    angler: UUID = found[0]
    boxes = [kinds(rng, count) for count in (1, 3, 12, 40)]
    dries = [Kind(UUID(new_id()), "foam 10", None, None, NOON)]  # of nothing but what is null
    statements: set[str] = set()

    async def asked() -> list[dict[UUID, int]]:
        engine, sessions = connect(database)

        def said(_c: Any, _k: Any, statement: str, *_: Any) -> None:  # noqa: ANN401 - as the engine calls it
            if "unnest" in statement:
                statements.add(statement)

        event.listen(engine.sync_engine, "before_cursor_execute", said)
        async with sessions() as session:
            answers = [await lost(session, angler, one) for one in (*boxes, dries, [])]
        await engine.dispose()
        return answers

    *answers, none, empty = run(asked())
    for box, answer in zip(boxes, answers, strict=True):
        for kind in box:
            mine = [
                one for one in gone
                if one[:3] == (kind.fly, kind.hook, kind.bead_mm) and one[3] >= kind.since
            ]  # fmt: skip
            assert answer.get(kind.item, 0) == len(mine), kind
    assert (none, empty) == ({}, {})
    assert len(statements) == 1
