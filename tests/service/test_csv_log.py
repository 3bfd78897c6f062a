"""From rows to a log: what belongs together, whatever the order of the rows, and always the same."""

from collections import Counter
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from uuid import UUID
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.service.formats.everything import Found
from deriva.service.formats.gpx import Waypoint
from deriva.service.formats.log_csv import Row
from deriva.service.formats.samples import Malformed
from deriva.service.schemas.everything import PARENTS, ROWS
from deriva.service.usecases.csv_log import Beat, CsvLog, Lie, lies_of

VIENNA = ZoneInfo("Europe/Vienna")
RULES = {"max_flies": 2, "added_weight": True, "barbless": True, "lead": False, "release": True}
LIE_ID = "0197a000-0000-7000-8000-000000000001"
BEAT = Beat(
    "0197a000-0000-7000-8000-000000000000",
    {"rules": RULES, "species": "brown trout", "flows_to_deg": None, "latitude": 47.0, "longitude": -15.0},
    {"ash run": Lie(LIE_ID, "Ash run", "run", "cobble", 30.0, None)},
)
BEGAN = datetime(2026, 6, 1, 8, tzinfo=UTC)


@st.composite
def diaries(draw: st.DrawFn) -> list[Row]:
    """Draw the rows of some days, in time: lies and rigs come and go."""
    rows: list[Row] = []
    at = BEGAN
    for line in range(2, draw(st.integers(3, 24))):
        at += timedelta(minutes=draw(st.sampled_from([1, 2, 5, 60 * 26])))
        caught = draw(st.booleans())
        lie, rig = draw(st.sampled_from(["Ash run", "Old weir"])), draw(st.sampled_from(["euro", "float"]))
        cells: dict[str, str | float | int | bool | datetime] = {
            "time": at, "lie": lie, "rig": rig, "depth_m": draw(st.sampled_from([0.8, 1.1])), "surface_speed_m_s": 0.5,
            "point_bead_mm": 3.0, "depth_setting_m": 1.2, **({"species": "grayling", "length_mm": 300.0} if caught else {}),
        }  # fmt: skip
        rows.append(Row(line, cells))
    return rows


def log_of(rows: Sequence[Row]) -> list[Found]:
    return list(CsvLog(BEAT, VIENNA, None).rows(rows))


@given(rows=diaries(), data=st.data())
def test_log__is_the_same_in_whatever_order_the_rows_stand(rows: list[Row], data: st.DataObject) -> None:
    found = log_of(rows)
    assert log_of(data.draw(st.permutations(rows))) == found
    counts = Counter(one.table for one in found)
    assert counts["drift"] == len(rows)
    assert counts["catch"] == sum("species" in row.cells for row in rows)
    assert counts["outing"] == len({row.cells["time"].astimezone(VIENNA).date() for row in rows})  # type: ignore[union-attr]
    assert counts["lie"] == any(row.cells["lie"] == "Old weir" for row in rows)


@given(rows=diaries())
def test_log__is_of_rows_that_are_each_good_with_their_parents_before_them(rows: list[Row]) -> None:
    seen = {"beat": {BEAT.id}, "lie": {LIE_ID}}
    for one in log_of(rows):
        ROWS[one.table].validate_python(one.row)
        assert UUID(one.row["id"]).version == 7
        for column, parent in PARENTS[one.table].items():
            assert one.row[column] in seen[parent]
        assert one.row["id"] not in seen.setdefault(one.table, set())
        seen[one.table].add(one.row["id"])


@given(rows=diaries())
def test_stays_and_settings__change_only_where_the_rows_do(rows: list[Row]) -> None:
    found = log_of(rows)
    days = [row.cells["time"].astimezone(VIENNA).date() for row in rows]  # type: ignore[union-attr]
    stays = [(day, row.cells["lie"], row.cells["depth_m"]) for day, row in zip(days, rows, strict=True)]
    settings = [(*stay, row.cells["rig"]) for stay, row in zip(stays, rows, strict=True)]

    def runs(keys: Sequence[object]) -> int:
        return sum(k == 0 or keys[k - 1] != key for k, key in enumerate(keys))

    counts = Counter(one.table for one in found)
    assert (counts["stop"], counts["setting"]) == (runs(stays), runs(settings))


def test_depth__is_the_lie_s_own_where_a_row_says_none_and_never_made_up() -> None:
    row = Row(
        2, {"time": BEGAN, "lie": "ash RUN", "rig": "euro", "point_bead_mm": 3.0, "depth_setting_m": 1.0}
    )
    with pytest.raises(Malformed, match="Ash run was never read"):
        log_of([row])
    read = Lie(
        LIE_ID, "Ash run", "run", "cobble", 30.0, {"depth_m": 1.3, "surface_speed_m_s": 0.7, "clarity_m": 2.0}
    )
    beat = Beat(BEAT.id, BEAT.row, {"ash run": read})
    (stop,) = [one for one in CsvLog(beat, VIENNA, None).rows([row]) if one.table == "stop"]
    assert (
        stop.row["situation"]["water"] | {"depth_m": 1.3, "clarity_m": 2.0, "kind": "run"}
        == stop.row["situation"]["water"]
    )


def test_waypoints__stand_as_far_up_as_they_are_whichever_way_the_beat_runs() -> None:
    points = [Waypoint(k + 1, f"W{k}", "", 47.0 + 0.001 * k, -15.0) for k in range(3)]
    ups = {}
    for flows_to in (180.0, 0.0, None):
        beat = Beat(BEAT.id, {**BEAT.row, "flows_to_deg": flows_to}, {})
        ups[flows_to] = [round(one.row["along_m"]) for one in lies_of(points, beat, BEGAN)]
    assert ups == {180.0: [0, 111, 222], 0.0: [222, 111, 0], None: [0, 111, 222]}
    assert [one.row["along_m"] for one in lies_of(points[:1], BEAT, BEGAN)] == [50.0]  # a cast above the last
    assert list(lies_of([], BEAT, BEGAN)) == []
