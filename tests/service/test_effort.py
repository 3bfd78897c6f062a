"""What was fished, as the database counts it. Truth: a recount in plain Python."""

import itertools
from collections import Counter, defaultdict
from datetime import datetime
from typing import Any

import psycopg
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from deriva.core.learn.effort import minutes
from deriva.core.record.turns import OF_A_TRIAL, TiedSo
from tests.service.anglers import SETUP, Bank, at, batch, event, new_id

Counts = dict[tuple[str, int], tuple[int, int, int, int, int, float]]


def kept(rows: psycopg.Connection) -> Counts:
    found = rows.execute(
        "select setting_id, lane, drifts, fish, missed, ticks, hung, minutes from effort"
    ).fetchall()
    return {(str(setting), lane): (*counts, round(took, 6)) for setting, lane, *counts, took in found}


def recounted(rows: psycopg.Connection) -> Counts:
    """Count the drifts that stand, from the drifts themselves."""
    told = rows.execute(
        "select setting_id, coalesce(lane, 0), outcome, at from drift where not undone order by at, id"
    )
    settings: dict[str, list[tuple[int, str, datetime]]] = defaultdict(list)
    for setting, lane, outcome, when in told.fetchall():
        settings[str(setting)].append((lane, outcome, when))
    found: dict[tuple[str, int], list[float]] = {}
    for setting, drifts in settings.items():
        took = minutes([when.timestamp() for _, _, when in drifts])
        for (lane, outcome, _), minute in zip(drifts, took, strict=True):
            count = found.setdefault((setting, lane), [0, 0, 0, 0, 0, 0.0])
            for place, those in enumerate(((), ("fish",), ("missed",), ("tick",), ("hung", "lost_fly"))):
                count[place] += place == 0 or outcome in those
            count[5] += minute
    return {
        key: (int(a), int(b), int(c), int(d), int(e), round(f, 6))
        for key, (a, b, c, d, e, f) in found.items()
    }


Fish = dict[tuple[str, int, str, str, str], tuple[int, float | None]]


def kept_fish(rows: psycopg.Connection) -> Fish:
    found = rows.execute(
        "select setting_id, lane, fly, phase, species, fish, longest_mm from caught"
    ).fetchall()
    return {(str(setting), *what): (fish, longest) for setting, *what, fish, longest in found}


def recounted_fish(rows: psycopg.Connection) -> Fish:
    """Count the drifts with fish that stand, by what is said of the fish, and how long the longest was."""
    drifts = rows.execute("select id, setting_id, coalesce(lane, 0), outcome, undone from drift").fetchall()
    where = {
        row: (str(setting), lane)
        for row, setting, lane, how, undone in drifts
        if how == "fish" and not undone
    }
    told = rows.execute("select drift_id, fly, phase, species, length_mm from catch where not undone")
    caught: dict[Any, tuple[set[Any], list[float]]] = defaultdict(lambda: (set(), []))
    for drift, *what, length in told.fetchall():
        if drift in where:
            found = caught[(*where[drift], *what)]
            found[0].add(drift)
            found[1].extend([] if length is None else [length])
    return {key: (len(of), max(lengths, default=None)) for key, (of, lengths) in caught.items()}


WRITINGS = st.lists(
    st.tuples(
        st.integers(0, 5),  # which drift
        st.integers(0, 1),  # under which setting
        st.sampled_from(["clean", "tick", "hung", "lost_fly", "missed", "fish", "fish", "undo"]),
        st.sampled_from([None, ("point", 210.0), ("dropper", None), ("point", 300.0), "undo"]),  # what is said of its fish
        st.sampled_from([None, 1, 2]),
        st.integers(0, 200),  # when it was
        st.integers(-90, -30),  # when that was written
        st.booleans(),  # whether it is sent by itself
    ),
    min_size=1,
    max_size=24,
)  # fmt: skip


@settings(
    max_examples=15,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture],
    derandomize=True,
)
@given(writings=WRITINGS)
def test_counts__are_those_of_a_recount_after_any_order_of_writings(
    bank: Bank, rows: psycopg.Connection, writings: list[tuple[Any, ...]]
) -> None:
    """Drifts that are new, changed, undone, moved to another setting or time, sent late or twice, one by one or together."""
    _, stop, first = bank.begin()
    under = (first, bank.kept("settings", bank.setting(stop, depth_setting_m=1.3)))
    drifts = [new_id() for _ in range(6)]
    numbers = itertools.count(1)
    waiting: list[dict[str, Any]] = []
    fish = [new_id() for _ in drifts]
    for which, where, what, taken, lane, when, written, alone in writings:
        body = bank.drift(
            under[where],
            at=at(when),
            lane=lane,
            outcome="clean" if what == "undo" else what,
            undone=what == "undo",
        )
        waiting.append(event("drifts", drifts[which], body, next(numbers), minutes=written))
        if taken is not None:
            said = (
                {"undone": True} if taken == "undo" else dict(zip(("fly", "length_mm"), taken, strict=True))
            )
            how = "none" if said.get("length_mm", 1.0) is None else "eye"
            species = "grayling" if where else "brown trout"
            caught = bank.fish(drifts[which], species=species, length_how=how, **said)
            waiting.append(event("catches", fish[which], caught, next(numbers), minutes=written))
        if alone:
            assert bank.client.post("/api/sync", json=batch(*waiting)).json()["refused"] == []
            waiting = waiting[-1:] if which == 0 else []  # what was sent may be sent again
    bank.client.post("/api/sync", json=batch(*waiting))
    assert kept(rows) == recounted(rows) != {}
    assert kept_fish(rows) == recounted_fish(rows)


def test_parts__are_called_alike_by_the_database_and_by_a_device_without_it(bank: Bank) -> None:
    """What a fair trial knows its sides by, also for a bead between two steps, a fly without one, and a single dry."""
    _, stop, _ = bank.begin()
    tied: list[TiedSo] = []
    for bead, form, hook in (
        (2.25, "slim", 14),
        (2.35, "dubbed", 16),
        (2.75, "slim", 12),
        (None, "dubbed", None),
    ):
        point = {"point_bead_mm": bead, "point_form": form, "point_hook": hook}
        setting = bank.kept(
            "settings", bank.setting(stop, rig="indicator", point_bead_mm=bead, setup={**SETUP, **point})
        )
        bank.kept("drifts", bank.drift(setting))
        tied.append(TiedSo("indicator", form, hook, bead))
    bank.kept("drifts", bank.drift(bank.kept("settings", bank.dry(stop))))
    tied.append(TiedSo("dry", "foam 10"))
    for by in OF_A_TRIAL:
        parts = bank.client.get("/api/learn/parts", params={"dimension": by}).json()
        counted = {one["key"]: one["drifts"] for one in parts}
        assert counted == Counter(part for one in tied if (part := one.part(by)) is not None), by
