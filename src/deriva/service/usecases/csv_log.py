"""From the rows of a table to a log: which outing, which stay, which setting each drift belongs to.

A stay ends where the lie or the water changes, a setting where the rig does, an outing where the day does. Every row gets an id
that follows from what it says, so that the same file taken in twice is one log.
"""

import hashlib
import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime, tzinfo
from typing import Any
from uuid import UUID

from deriva.core.errors import DerivaError
from deriva.core.model.beat import BeatRules
from deriva.core.model.setup import DrySetup, Setup
from deriva.core.model.situation import Fish, Situation
from deriva.core.model.water import Water
from deriva.core.read import read_noun, write_noun
from deriva.core.record.blur import METRES_PER_DEGREE
from deriva.service.formats.everything import Found
from deriva.service.formats.gpx import Waypoint
from deriva.service.formats.log_csv import YES_OR_NO, Row
from deriva.service.formats.samples import Malformed, shown

RIGS = {
    "euro": "euro", "tight line": "euro", "tightline": "euro", "indicator": "indicator", "float": "indicator",
    "dry dropper": "dry_dropper", "dry": "dry", "single dry": "dry", "dry fly": "dry",
}  # fmt: skip
OUTCOMES = {
    "clean": "clean", "nothing": "clean", "tick": "tick", "touch": "tick", "hung": "hung", "hung up": "hung", "snag": "hung",
    "missed": "missed", "missed a take": "missed", "fish": "fish", "caught": "fish", "lost fly": "lost_fly",
    "lost the fly": "lost_fly",
}  # fmt: skip
"""What others call how a drift ended (common practice, no source)."""

APART_M = 20.0
TIPPET_X = 5
"""What is taken for the tippet where a file does not say: the ordinary one."""

WATER = ("depth_m", "surface_speed_m_s", "clarity_m", "temperature_c")
RIG = ("rig", "point_bead_mm", "depth_setting_m", "tippet_x", "point_fly", "point_hook")
SEEN = ("pace", "direction", "lost")


def made_id(at: datetime, *what: object) -> str:
    """Return an id (UUIDv7) that follows from a time and what is told apart by it."""
    digest = hashlib.sha256(repr(what).encode()).digest()
    stamp = int(at.timestamp() * 1000.0) & ((1 << 48) - 1)
    rest = int.from_bytes(digest[:10], "big")
    number = stamp << 80 | 7 << 76 | (rest >> 62 & 0xFFF) << 64 | 2 << 62 | rest & ((1 << 62) - 1)
    return str(UUID(int=number))


@dataclass(frozen=True, slots=True)
class Lie:
    """A lie as it is known, with its newest reading, or as it is made."""

    id: str
    name: str
    kind: str
    bed: str
    along_m: float
    reading: Mapping[str, Any] | None


@dataclass(frozen=True, slots=True)
class Beat:
    """Where it was fished: the beat, and its lies by name."""

    id: str
    row: Mapping[str, Any]
    lies: Mapping[str, Lie]

    @property
    def above_m(self) -> float:
        """Where the next lie would stand: a cast above the last."""
        return max((lie.along_m + APART_M for lie in self.lies.values()), default=0.0)


class CsvLog:
    """The log of some rows, in the order of their times."""

    def __init__(self, beat: Beat, zone: tzinfo, rig: str | None) -> None:
        self.beat, self.zone, self.rig = beat, zone, rig
        self.made: dict[str, Lie] = {}
        self.stop: tuple[object, ...] = ()
        self.setting: tuple[object, ...] = ()
        self.outing: dict[str, Any] | None = None
        self.drifts: set[str] = set()

    def rows(self, rows: Iterable[Row]) -> Iterator[Found]:
        """Yield what the rows are, parents before children; each outing comes behind its drifts' times are known.

        Raises Malformed with the line of a row that says too little.
        """
        timed = sorted(rows, key=_time)
        for day in _days(timed, self.zone):
            yield from self._outing(day)

    def _outing(self, day: list[Row]) -> Iterator[Found]:
        first, last = _time(day[0]), _time(day[-1])
        outing = made_id(first, "outing", self.beat.id, first.isoformat())
        values = {
            "id": outing, "beat_id": self.beat.id, "started_at": first.isoformat(), "ended_at": last.isoformat(),
            "conditions": {}, "gone": False,
        }  # fmt: skip
        yield Found("outing", values, day[0].line, 1)
        self.stop = self.setting = ()
        for row in day:
            yield from self._row(outing, row)

    def _row(self, outing: str, row: Row) -> Iterator[Found]:
        at = _time(row)
        lie, new = self._lie(row, at)
        if new is not None:
            yield Found("lie", new, row.line, 1)
        water = {name: row.cells.get(name) for name in WATER}
        if self.stop[:2] != (lie.id, water):
            stop = made_id(at, "stop", outing, lie.id, at.isoformat())
            self.stop, self.setting = (lie.id, water, stop), ()
            situation = self._situation(row, lie, at)
            values = {
                "id": stop, "outing_id": outing, "lie_id": lie.id, "at": at.isoformat(),
                "situation": write_noun(situation),
            }  # fmt: skip
            yield Found("stop", values, row.line, 1)
        rig = {name: row.cells.get(name) for name in RIG}
        if self.setting[:1] != (rig,):
            setting = made_id(at, "setting", self.stop[2], sorted(rig.items(), key=str), at.isoformat())
            self.setting = rig, setting
            yield Found("setting", self._setting(row, setting, at), row.line, 1)
        yield from self._drift(row, at)

    def _lie(self, row: Row, at: datetime) -> tuple[Lie, dict[str, Any] | None]:
        """Return the lie of a row, and its own row if it is a new one."""
        name = str(row.cells.get("lie", "")).strip()
        if not name:
            raise Malformed(row.line, 1, "at which lie is not said")
        known = self.beat.lies.get(name.lower()) or self.made.get(name.lower())
        if known is not None:
            return known, None
        along = self.beat.above_m + APART_M * len(self.made)
        made = Lie(made_id(at, "lie", self.beat.id, name.lower()), name, "run", "gravel", along, None)
        self.made[name.lower()] = made
        return made, {
            "id": made.id, "beat_id": self.beat.id, "name": name, "kind": "run", "bed": "gravel", "along_m": along,
            "notes": "",
        }  # fmt: skip

    def _situation(self, row: Row, lie: Lie, at: datetime) -> Situation:
        told = {name: row.cells[name] for name in WATER if name in row.cells}
        read = lie.reading or {}
        for name, said in (("depth_m", "how deep it was"), ("surface_speed_m_s", "how fast it ran")):
            if name not in told and name not in read:
                text = f"{said} is not said, and {lie.name} was never read: a column of it is wanted"
                raise Malformed(row.line, 1, text)
        known = {name: read[name] for name in WATER if name in read}
        try:
            water = read_noun(Water, {"kind": lie.kind, "bed": lie.bed, **known, **told})
            rules = read_noun(BeatRules, self.beat.row["rules"]).of_a_rig
            fish = replace(Fish(), species=self.beat.row["species"])
        except DerivaError as error:
            raise Malformed(row.line, 1, error.message) from None
        south = (self.beat.row.get("latitude") or 0.0) < 0.0
        return Situation(
            water, rules=rules, fish=fish, month=at.astimezone(self.zone).month,
            hemisphere="south" if south else "north",
        )  # fmt: skip

    def _setting(self, row: Row, setting: str, at: datetime) -> dict[str, Any]:
        said = str(row.cells.get("rig", self.rig or "")).replace("_", " ").replace("-", " ").strip().lower()
        rig = RIGS.get(said)
        if rig is None:
            wanted = "euro, indicator, dry-dropper or dry"
            raise Malformed(row.line, 1, f"{shown(said)} is no rig that is known here: {wanted}")
        fly = str(row.cells.get("point_fly", ""))
        tippet = row.cells.get("tippet_x", TIPPET_X)
        head = {"id": setting, "stop_id": self.stop[2], "at": at.isoformat(), "rig": rig}
        try:
            if rig == "dry":
                return {**head, "setup": write_noun(read_noun(DrySetup, {"float": fly, "tippet_x": tippet}))}
            depth = row.cells.get("depth_setting_m")
            if depth is None:
                raise Malformed(row.line, 1, "how deep the rig was set is not said")
            setup = read_noun(
                Setup,
                {
                    "flies": 1, "point_bead_mm": row.cells.get("point_bead_mm"), "point_form": fly,
                    "point_hook": row.cells.get("point_hook"), "point_dressing": "", "dropper_form": None,
                    "dropper_hook": None, "dropper_bead_mm": None, "depth_setting_m": depth, "dropper_spacing_m": None,
                    "tippet_x": tippet, "shot_g": 0.0, "float": None, "tip_pace": None, "lead_m": None,
                },
            )  # fmt: skip
        except DerivaError as error:
            raise Malformed(row.line, 1, error.message) from None
        return {
            **head, "depth_setting_m": depth, "point_bead_mm": row.cells.get("point_bead_mm"), "setup": write_noun(setup),
        }  # fmt: skip

    def _drift(self, row: Row, at: datetime) -> Iterator[Found]:
        cells = row.cells
        caught = "species" in cells or "length_mm" in cells
        said = str(cells.get("outcome", "fish" if caught else "clean")).replace("_", " ").strip().lower()
        outcome = OUTCOMES.get(said)
        if outcome is None:
            raise Malformed(
                row.line, 1, f"{shown(said)} is no way that a drift ends: {', '.join(sorted(set(OUTCOMES)))}"
            )
        given = str(cells.get("drift_id", ""))
        drift = given or made_id(at, "drift", self.setting[1], at.isoformat(), row.line)
        if drift not in self.drifts:
            self.drifts.add(drift)
            values = {
                "id": drift, "setting_id": self.setting[1], "at": at.isoformat(), "outcome": outcome,
                "lane": cells.get("lane"), "stance": cells.get("stance"), "undone": False,
                **{name: cells.get(name, False) for name in YES_OR_NO},
                **{name: cells.get(name) for name in SEEN},
            }  # fmt: skip
            yield Found("drift", values, row.line, 1)
        if caught or outcome == "fish":
            yield Found("catch", self._fish(row, drift, at), row.line, 1)

    def _fish(self, row: Row, drift: str, at: datetime) -> dict[str, Any]:
        cells = row.cells
        length = cells.get("length_mm")
        return {
            "id": made_id(at, "fish", drift, row.line), "drift_id": drift, "at": at.isoformat(),
            "species": cells.get("species", "other"), "length_mm": length,
            "length_how": cells.get("length_how", "none" if length is None else "eye"),
            "fly": cells.get("fly", "point"), "phase": cells.get("phase", "drift"), "condition": cells.get("condition"),
            "undone": False,
        }  # fmt: skip


def _time(row: Row) -> datetime:
    at = row.cells.get("time")
    if not isinstance(at, datetime):
        raise Malformed(row.line, 1, "when it was is not said")
    return at.astimezone(UTC)


def _days(rows: list[Row], zone: tzinfo) -> Iterator[list[Row]]:
    """Part rows by their day where they were fished."""
    day: list[Row] = []
    for row in rows:
        if day and _time(row).astimezone(zone).date() != _time(day[-1]).astimezone(zone).date():
            yield day
            day = []
        day.append(row)
    if day:
        yield day


def lies_of(points: Iterable[Waypoint], beat: Beat, now: datetime) -> Iterator[Found]:
    """Yield the waypoints of a file as lies of a beat: as far up it as they are along the way that it runs, or, where that is
    not known, as far as they are from the first. A name that is there already stays as it is.
    """
    found = list(points)
    if not found:
        return
    ups = {one.n: _up(one, found[0], beat.row.get("flows_to_deg")) for one in found}
    lowest = min(ups.values())
    for one in found:
        if one.name.lower() in beat.lies:
            continue
        values = {
            "id": made_id(now, "lie", beat.id, one.name.lower()), "beat_id": beat.id, "name": one.name, "kind": "run",
            "bed": "gravel", "along_m": round(beat.above_m + ups[one.n] - lowest, 1), "notes": one.text,
            "latitude": one.latitude, "longitude": one.longitude,
        }  # fmt: skip
        yield Found("lie", values, 0, one.n)


def _up(one: Waypoint, origin: Waypoint, flows_to_deg: float | None) -> float:
    """Return how far above another a place is, m."""
    north = (one.latitude - origin.latitude) * METRES_PER_DEGREE
    east = (one.longitude - origin.longitude) * METRES_PER_DEGREE * math.cos(math.radians(one.latitude))
    if flows_to_deg is None:
        return math.hypot(north, east)
    turn = math.radians(flows_to_deg)
    return -(north * math.cos(turn) + east * math.sin(turn))
