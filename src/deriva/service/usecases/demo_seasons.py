"""Two seasons of made-up outings for the demo, by an angler who has habits and among fish that have preferences.

Every lie is a hidden water of the practice river, a little misjudged: what touches, hangs and comes into the zone is its doing.
How keen fish are was planted, and stands here and nowhere else, so that what Learn says can be held against it
(docs/decisions/0018).
"""

import math
import random
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from typing import Any, Literal
from uuid import UUID

import numpy as np
from sqlalchemy import insert
from sqlalchemy.ext.asyncio import AsyncSession
from uuid_utils.compat import uuid7

from deriva.core.errors import DerivaError
from deriva.core.model.logged import Outcome, Phase
from deriva.core.model.rig import RigKind
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import WaterKind
from deriva.core.practice.seen import Take
from deriva.core.practice.stay import stay
from deriva.core.practice.world import WORLD, Hidden, Shoal, misjudged
from deriva.core.read import write_noun
from deriva.core.rigs.resolve import resolve
from deriva.core.water.flow import FlowClass
from deriva.service.store.models import Angler, Catch, Drift, Outing, Setting, Stop
from deriva.service.usecases.reading import BeatStanding, beats_as_they_stand

OUTINGS = 66
SEASON = (4, 10)
"""First and last month."""

RATING = 0.4
"""How the depth of a lie answers to the height of the water, as a power; its speed takes the same."""

KEEN = 0.006
"""Takes a second of a fly in the zone, with nothing for or against it."""

A_DAY = 0.45
"""Spread of what a day adds to the log of that: some days they feed. So with all that follows."""

BY_BEAD: Mapping[str, Mapping[float, float]] = {
    "low": {2.0: 0.5, 2.5: 0.8, 3.0: 0.0, 3.5: -0.6, 4.0: -0.9},
    "normal": {2.0: -0.2, 2.5: 0.1, 3.0: 0.4, 3.5: 0.1, 4.0: -0.4},
    "high": {2.0: -0.9, 2.5: -0.5, 3.0: 0.0, 3.5: 0.5, 4.0: 0.6},
}
BY_FLOW = {"low": 0.0, "normal": 0.2, "high": -0.6}
BY_KIND: Mapping[WaterKind, float] = {
    "pool_head": 0.5,
    "seam": 0.35,
    "drop_off": 0.2,
    "tail_out": -0.2,
    "eddy": -0.5,
}
AT_DUSK = 0.6
COLD, WARM = -0.6, -0.5
"""Below 8 °C and above 17 °C."""

FORMS = (("dubbed mayfly nymph", 0.6), ("slim varnished nymph", 0.0))

LANDED = 0.72
DRY = 0.2
"""Share of the fish of a rig with a dry that took the dry: the practice river has none that rise."""

DRIFT_M = 6.0
"""What this angler fishes out of a lane, not more than twice as far as the fish are."""

SOON_S = 2.5
"""A take so early is one on the drop."""


WaterState = Literal["low", "normal", "high"]
STATES: tuple[WaterState, ...] = ("low", "normal", "high")


@dataclass(frozen=True, slots=True)
class Day:
    """A day of a season as it was; ``feeds``: what it adds to the log-odds of a take."""

    at: datetime
    state: WaterState
    temperature_c: float
    feeds: float

    @property
    def flow_class(self) -> FlowClass:
        """What the gauge would have said of it."""
        classes: dict[WaterState, FlowClass] = {
            "low": "below_normal",
            "normal": "normal",
            "high": "above_normal",
        }
        return classes[self.state]

    @property
    def height(self) -> float:
        """The water's height against today's."""
        return {"low": 0.8, "normal": 1.0, "high": 1.35}[self.state]

    @property
    def clarity_m(self) -> float:
        """How far one saw."""
        return {"low": 2.4, "normal": 1.6, "high": 0.7}[self.state]


def days(rng: random.Random, now: datetime) -> list[Day]:
    """Return the days that were fished in the last two whole seasons: high water in spring, low in summer, warm in July.

    They are the same days, whenever it is asked, until the next season is over.
    """
    found: list[Day] = []
    first, last = SEASON
    newest = now.year if now.month > last else now.year - 1
    for year in (newest - 1, newest):
        day = datetime(year, first, 2, tzinfo=UTC)
        for _ in range(OUTINGS // 2):
            day += timedelta(days=rng.randint(4, 8))
            summer = math.sin(math.pi * (day.month + day.day / 30.0 - first) / (last + 1.0 - first))
            high = 0.5 - 0.4 * summer
            state = rng.choices(STATES, (0.15 + 0.4 * summer, 0.45, high))[0]
            warm = 7.0 + 9.5 * summer + rng.gauss(0.0, 1.5)
            hour = rng.choices((7, 10, 14, 18), (0.15, 0.3, 0.2, 0.35))[0]
            at = day.replace(hour=hour, minute=rng.randint(0, 59))
            found.append(Day(at, state, round(warm, 1), rng.gauss(0.0, A_DAY)))
    return found


def habit(rng: random.Random, day: Day) -> tuple[RigKind, float]:
    """Return the rig and bead that this angler ties on: heavy in high water, and the indicator for no reason."""
    beads, weights = {
        "low": ((2.0, 2.5, 3.0, 3.5), (0.15, 0.35, 0.4, 0.1)),
        "normal": ((2.5, 3.0, 3.5, 4.0), (0.3, 0.4, 0.2, 0.1)),
        "high": ((2.5, 3.0, 3.5, 4.0), (0.1, 0.25, 0.3, 0.35)),
    }[day.state]
    kinds: tuple[RigKind, ...] = ("euro", "indicator", "dry_dropper")
    kind = rng.choices(kinds, (0.6, 0.3, 0.1))[0]
    bead = rng.choices(beads, weights)[0]
    return kind, min(bead, 2.5) if kind == "dry_dropper" else bead


def keenness(day: Day, kind: WaterKind, *, bead_mm: float, form: str, dusk: bool) -> float:
    """Return the takes a second of a fly in the zone that were planted."""
    log = day.feeds + BY_FLOW[day.state] + BY_BEAD[day.state][bead_mm] + BY_KIND.get(kind, 0.0)
    log += dict(FORMS)[form] + (AT_DUSK if dusk else 0.0)
    log += COLD if day.temperature_c < 8.0 else WARM if day.temperature_c > 17.0 else 0.0
    return KEEN * math.exp(log)


def hidden_on(random: np.random.Generator, situation: Situation, day: Day, *, dusk: bool) -> Hidden:
    """Return a lie as it was on a day, and as the angler read it there: off by as much as the reading owns to."""
    water = situation.water
    there = replace(
        water,
        depth_m=round(water.depth_m * day.height**RATING, 2),
        surface_speed_m_s=round(water.surface_speed_m_s * day.height**RATING, 2),
        clarity_m=day.clarity_m,
        temperature_c=day.temperature_c,
        flow_class=day.flow_class,
    )
    read = replace(
        WORLD,
        depth_error_ln=water.spread_m / water.depth_m,
        speed_error_ln=water.speed_spread_m_s / water.surface_speed_m_s,
    )
    off = random.standard_normal(6)
    found = misjudged(there, situation.place, situation.fish, 0, off=off, world=read)
    judged = found.judged.water
    seen = replace(
        judged,
        depth_m=round(judged.depth_m, 2),
        depth_sd_m=round(judged.spread_m, 3),
        surface_speed_m_s=round(judged.surface_speed_m_s, 2),
    )
    as_read = replace(situation, water=seen, month=day.at.month, light="dusk" if dusk else "day")
    return replace(found, judged=as_read)


class Seasons:
    """The rows of the seasons, as they are made."""

    def __init__(self, rng: random.Random, luck: np.random.Generator, angler_id: UUID) -> None:
        self.rng, self.luck, self.angler_id = rng, luck, angler_id
        self.rows: dict[type[Any], list[dict[str, Any]]] = {
            one: [] for one in (Outing, Stop, Setting, Drift, Catch)
        }

    def add(self, table: type[Any], **values: Any) -> UUID:  # noqa: ANN401
        """Add a row, and return its id."""
        made = uuid7()
        self.rows[table].append({"id": made, "angler_id": self.angler_id, **values})
        return made

    def outing(self, day: Day, here: BeatStanding) -> None:
        """Fish a day: two or three lies, upstream."""
        frozen = {
            "clarity_m": day.clarity_m,
            "temperature_c": day.temperature_c,
            "flow_class": day.flow_class,
        }
        outing = self.add(
            Outing, beat_id=here.beat.id, started_at=day.at, ended_at=day.at, conditions=frozen, gone=False
        )
        read = [(one.lie, one.situation) for one in here.lies if one.situation is not None]
        at = day.at
        for lie, today in sorted(
            self.rng.sample(read, min(len(read), self.rng.randint(2, 3))), key=lambda one: one[0].along_m
        ):
            dusk = at.hour >= 19
            hidden = hidden_on(self.luck, today, day, dusk=dusk)
            stop = self.add(Stop, outing_id=outing, lie_id=lie.id, at=at, situation=write_noun(hidden.judged))
            for _ in range(self.rng.randint(1, 2)):
                at = self.setting(stop, hidden, day, at, dusk=dusk)
            at += timedelta(minutes=self.rng.randint(5, 15))
        self.rows[Outing][-1]["ended_at"] = at

    def setting(self, stop: UUID, hidden: Hidden, day: Day, at: datetime, *, dusk: bool) -> datetime:
        """Fish one setting; return when the angler is done with it."""
        rng, situation = self.rng, hidden.judged
        kind, bead = habit(rng, day)
        form, _ = rng.choices(FORMS, (0.55, 0.45))[0]
        depth = situation.water.depth_m
        wanted = depth * rng.choices((0.8, 1.1, 1.35, 1.7), (0.15, 0.4, 0.3, 0.15))[0]
        try:
            rig = resolve(Tuning(kind, round(max(0.4, wanted), 2), bead), situation)
        except DerivaError:  # not what this beat or this float allows: the tight line always is
            kind = "euro"
            rig = resolve(Tuning(kind, round(max(0.4, wanted), 2), bead, flies=1), situation)
        setup = replace(Setup.of(rig), point_form=form)
        setting = self.add(
            Setting, stop_id=stop, at=at, rig=kind, depth_setting_m=setup.depth_setting_m,
            point_bead_mm=setup.point_bead_mm, setup=write_noun(setup),
        )  # fmt: skip
        keen = keenness(day, situation.water.kind, bead_mm=bead, form=form, dusk=dusk)
        fished = stay(
            rig,
            replace(hidden, shoal=Shoal(1, keen)),
            self.luck,
            drifts=rng.randint(12, 26),
            drift_m=min(DRIFT_M, 2.0 * situation.place.distance_m),
        )
        for one in fished:
            at += timedelta(seconds=round(one.lasted_s) + rng.randint(40, 110))
            outcome: Outcome = one.outcome
            if one.take is not None:
                outcome = "fish" if rng.random() < LANDED else "missed"
            drift = self.add(
                Drift, setting_id=setting, at=at, outcome=outcome, lane=rng.choice((None, 1, 1, 2)),
                pace=one.pace, undone=False, dried=False, weed=False,
            )  # fmt: skip
            if one.take is not None and outcome == "fish":
                self.fish(drift, at, one.take, dry=kind == "dry_dropper")
        return at + timedelta(minutes=rng.randint(2, 5))

    def fish(self, drift: UUID, at: datetime, take: Take, *, dry: bool) -> None:
        """Bring a fish to hand."""
        rng = self.rng
        fly = "dry" if dry and rng.random() < DRY else "dropper" if take.fly > 0 else "point"
        phase: Phase = "drop" if take.at_s < SOON_S else "drift"
        self.add(
            Catch, drift_id=drift, at=at, species="brown trout" if rng.random() < 0.8 else "grayling",
            length_mm=float(10 * round(rng.lognormvariate(5.55, 0.22) / 10)), length_how="eye", fly=fly, phase=phase,
            undone=False,
        )  # fmt: skip


async def seed_seasons(session: AsyncSession, angler: Angler, *, now: datetime) -> None:
    """Write the outings of the last two seasons, through the same tables as any other."""
    rng = random.Random(20)  # noqa: S311 - made-up seasons, the same every time
    beats = await beats_as_they_stand(session, angler)
    made = Seasons(rng, np.random.default_rng(20), angler.id)
    for day in days(rng, now.astimezone(UTC)):
        made.outing(day, rng.choices(beats, (0.4, 0.4, 0.2))[0])
    for table, rows in made.rows.items():
        # rows with and without a lane alike, and answered: one by one, each drift's setting would be counted again after it
        many = insert(table).returning(table.id).execution_options(render_nulls=True)
        await session.execute(many, rows)
