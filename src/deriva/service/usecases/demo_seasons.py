"""Two seasons of made-up outings for the demo: rigs as the advisor sets them, drifts by seeded chance.

How a drift ends follows what the core computes for the rig (its hang-ups, its share in the zone); the rest of the
chances are invented, as is the river.
"""

import random
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession
from uuid_utils.compat import uuid7

from deriva.core.choose.judge import Usable
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.model.logged import Outcome, Phase
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.read import write_noun
from deriva.core.water.flow import FlowClass
from deriva.service.store.models import Angler, Catch, Drift, Outing, Setting, Stop
from deriva.service.usecases.reading import beats_as_they_stand


@dataclass(frozen=True)
class DemoDay:
    """A day of a season: ``height`` is the water's height against today's."""

    month: int
    day: int
    hour: int
    height: float
    temperature_c: float
    clarity_m: float
    flow_class: FlowClass
    beat: str


DAYS = (
    DemoDay(4, 18, 12, 1.35, 7.5, 0.5, "above_normal", "Sallow Bend"),
    DemoDay(5, 23, 10, 1.1, 11.0, 1.2, "normal", "Cinder Weir"),
    DemoDay(7, 11, 7, 0.8, 15.5, 2.4, "below_normal", "Sallow Bend"),
    DemoDay(9, 20, 11, 1.0, 13.0, 1.8, "normal", "Long Shelf"),
)

STAYS = 2
LEAST_DRIFTS, MOST_DRIFTS = 7, 16
TICK, MISSED, FISH_IN_ZONE, LOST_OF_HUNG, CARELESS = 0.16, 0.05, 0.14, 0.2, 0.03
RATING = 0.4
"""How the depth of a lie answers to the height of the water, as a power; its speed takes the same."""


def _outcome(rng: random.Random, judged: Usable) -> Outcome:
    e = judged.evaluation
    if rng.random() < e.hang_chance + CARELESS:
        return "lost_fly" if rng.random() < LOST_OF_HUNG else "hung"
    chances: tuple[tuple[float, Outcome], ...] = (
        (FISH_IN_ZONE * e.zone_share, "fish"),
        (MISSED, "missed"),
        (TICK, "tick"),
    )
    return next((outcome for chance, outcome in chances if rng.random() < chance), "clean")


def _on_the_day(situation: Situation, day: DemoDay) -> Situation:
    water = situation.water
    return replace(
        situation,
        water=replace(
            water,
            depth_m=round(water.depth_m * day.height**RATING, 2),
            depth_sd_m=round(water.spread_m, 3),
            surface_speed_m_s=round(water.surface_speed_m_s * day.height**RATING, 2),
            clarity_m=day.clarity_m,
            temperature_c=day.temperature_c,
            flow_class=day.flow_class,
        ),
    )


def _catch(rng: random.Random, angler_id: UUID, drift: Drift, *, dropper: bool, dry: bool) -> Catch:
    fly = "dropper" if dropper and rng.random() < 0.3 else "dry" if dry and rng.random() < 0.2 else "point"
    phase: Phase = rng.choices(("drop", "drift", "swing"), (0.2, 0.65, 0.15))[0]
    return Catch(
        id=uuid7(),
        angler_id=angler_id,
        drift_id=drift.id,
        at=drift.at,
        species="brown trout" if rng.random() < 0.8 else "grayling",
        length_mm=float(10 * round(rng.lognormvariate(5.55, 0.22) / 10)),
        length_how="eye",
        fly=fly,
        phase=phase,
    )


async def seed_seasons(session: AsyncSession, angler: Angler, *, now: datetime, years: int = 2) -> None:
    """Write the outings of this season, as far as it has gone, and of the one before."""
    rng = random.Random(20)  # noqa: S311 - a made-up season, the same every time
    beats = {one.beat.name: one for one in await beats_as_they_stand(session, angler)}
    for year in range(now.year - years + 1, now.year + 1):
        for day in DAYS:
            at = datetime(year, day.month, day.day, day.hour, tzinfo=UTC)
            if at >= now:
                continue
            here = beats[day.beat]
            frozen = {
                "clarity_m": day.clarity_m,
                "temperature_c": day.temperature_c,
                "flow_class": day.flow_class,
            }
            outing = Outing(
                id=uuid7(), angler_id=angler.id, beat_id=here.beat.id, started_at=at, conditions=frozen
            )
            session.add(outing)
            await session.flush()
            read = [(one.lie, one.situation) for one in here.lies if one.situation is not None]
            for lie, today in sorted(rng.sample(read, STAYS), key=lambda one: one[0].along_m):
                at = await _stay(
                    session, rng, outing=outing, lie_id=lie.id, situation=_on_the_day(today, day), at=at
                )
            outing.ended_at = at
    await session.flush()


async def _stay(
    session: AsyncSession,
    rng: random.Random,
    *,
    outing: Outing,
    lie_id: UUID,
    situation: Situation,
    at: datetime,
) -> datetime:
    """Fish one lie with the rig that the advisor puts first; return when the angler walks on."""
    best = advise(situation, wide).ranked[0]
    if not isinstance(best, Usable):
        return at
    setup = Setup.of(best.rig, lead_m=best.evaluation.lead_m)
    mine = {"angler_id": outing.angler_id}
    stop = Stop(
        id=uuid7(), outing_id=outing.id, lie_id=lie_id, at=at,
        situation=write_noun(situation), **mine,
    )  # fmt: skip
    session.add(stop)
    await session.flush()
    setting = Setting(
        id=uuid7(), stop_id=stop.id, at=at, rig=best.kind, depth_setting_m=setup.depth_setting_m,
        point_bead_mm=setup.point_bead_mm, setup=write_noun(setup), **mine,
    )  # fmt: skip
    session.add(setting)
    await session.flush()
    for _ in range(rng.randint(LEAST_DRIFTS, MOST_DRIFTS)):
        at += timedelta(seconds=rng.randint(50, 150))
        drift = Drift(
            id=uuid7(), setting_id=setting.id, at=at, outcome=_outcome(rng, best),
            pace=rng.choice(("slower", "slower", "same", None)), **mine,
        )  # fmt: skip
        session.add(drift)
        await session.flush()
        if drift.outcome == "fish":
            dropper, dry = setup.dropper_form is not None, best.kind == "dry_dropper"
            session.add(_catch(rng, outing.angler_id, drift, dropper=dropper, dry=dry))
    return at + timedelta(minutes=10)
