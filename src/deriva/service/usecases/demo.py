"""The demo: an invented angler on the invented river Marrowen, with two made-up seasons in the ledger."""

from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

from sqlalchemy.ext.asyncio import AsyncSession
from uuid_utils.compat import uuid7

from deriva.core.model.beat import BeatRules
from deriva.core.model.water import WaterKind
from deriva.core.read import write_noun
from deriva.core.tackle.food import Feeding
from deriva.core.water.profile import BedKind
from deriva.core.water.sounding import DepthHow
from deriva.service.schemas.log import ReadingIn, SpeedTyped
from deriva.service.store import outings, sessions
from deriva.service.store.engine import connect
from deriva.service.store.models import Angler, Beat, Lie, Reading, River
from deriva.service.usecases.box import add_starter
from deriva.service.usecases.demo_gauge import seed_gauge
from deriva.service.usecases.demo_seasons import seed_seasons
from deriva.service.usecases.reading import reading_values


@dataclass(frozen=True)
class DemoLie:
    """A lie as the demo angler read it two hours ago; ``depth_m`` None: not read yet."""

    name: str
    kind: WaterKind
    bed: BedKind
    along_m: float
    depth_m: float | None
    how: DepthHow
    surface_speed_m_s: float
    distance_m: float
    notes: str = ""
    feeding: Feeding | None = None
    wind_m_s: float = 2.0


@dataclass(frozen=True)
class DemoBeat:
    """A beat with the fishery's words and what they mean for a rig."""

    name: str
    max_flies: int
    added_weight: bool
    rules_text: str
    wading_allowed: bool
    clarity_m: float
    flows_to_deg: float
    lies: tuple[DemoLie, ...]


WATER_C = 12.5

BEATS = (
    DemoBeat(
        "Sallow Bend", 2, True,
        "Two flies at most. Barbless hooks. No lead. Catch and release. Open all year.", True, 2.0, 225.0,
        (
            DemoLie("Alder tail", "tail_out", "gravel", 20, 0.55, "staff", 0.35, 10, "Fish drop back here at dusk.", "mixed"),
            DemoLie("Long glide", "glide", "gravel", 75, 1.0, "eye", 0.30, 11, "Weed along the far side."),
            DemoLie("Bend pool", "pool", "gravel", 140, 2.1, "eye", 0.38, 13, "Deepest under the sallows.", wind_m_s=3.0),
            DemoLie("Throat", "pool_head", "cobble", 165, 0.9, "staff", 0.85, 5, "Drops off after two rod lengths."),
            DemoLie("Staircase", "pocket", "boulder", 210, 0.6, "staff", 0.95, 4, "One drift behind each stone."),
        ),
    ),
    DemoBeat(
        "Cinder Weir", 3, False, "Three flies at most, no added weight. Barbless. No wading within 30 m of the weir.", True,
        1.4, 180.0,
        (
            DemoLie("Ash run", "run", "cobble", 30, 1.15, "staff", 0.80, 6, wind_m_s=2.5),
            DemoLie("Wall seam", "seam", "gravel", 80, 1.3, "eye", 0.55, 8, "Best on the slow side.", wind_m_s=3.0),
            DemoLie("Back eddy", "eddy", "sand", 95, 1.1, "eye", 0.15, 7, "Runs upstream along the wall.", "mid"),
            DemoLie("Weir apron", "riffle", "cobble", 120, 0.45, "staff", 0.75, 5),
        ),
    ),
    DemoBeat(
        "Long Shelf", 1, False, "One fly. No wading.", False, 1.8, 135.0,
        (
            DemoLie("Shelf edge", "drop_off", "gravel", 40, 1.4, "eye", 0.50, 9, "Pale to dark: they line the edge."),
            DemoLie("Ranunculus channel", "weed_channel", "gravel", 110, 0.7, "eye", 0.40, 8),
            DemoLie("Far alders", "undercut", "gravel", 150, None, "eye", 0.3, 8, "Roots under the bank. Not fished yet."),
        ),
    ),
)  # fmt: skip
"""Downstream to upstream, as one would work them."""

LATITUDE, LONGITUDE = 47.0, -15.0
"""Where the invented country lies: in the middle of an ocean."""

RULES = BeatRules(barbless=True, lead=False, release=True)
"""What holds on every beat of the Marrowen. It is never closed: a demo that is looked at in winter is to be fished, too."""


def _reading(lie: DemoLie, row: Lie, clarity_m: float, at: datetime) -> Reading | None:
    if lie.depth_m is None:
        return None
    reading = ReadingIn(
        lie_id=row.id,
        at=at,
        depth_m=lie.depth_m,
        depth_how=lie.how,
        speed=SpeedTyped(how="typed", surface_speed_m_s=lie.surface_speed_m_s),
        clarity_m=clarity_m,
        temperature_c=WATER_C,
        distance_m=lie.distance_m,
        wind_m_s=lie.wind_m_s,
        feeding=lie.feeding,
    )
    return Reading(id=uuid7(), angler_id=row.angler_id, **reading_values(reading))


async def seed(session: AsyncSession) -> Angler:
    """Make the demo angler with river, beats, lies and a reading of each; does nothing where that is already there."""
    angler = await sessions.demo_angler(session)
    if angler is not None:
        return angler
    angler = Angler(id=uuid7(), name="Demo angler", demo=True, asked=True, school={}, units="metric")
    session.add(angler)
    await session.flush()
    river = River(id=uuid7(), angler_id=angler.id, name="Marrowen", latitude=LATITUDE, longitude=LONGITUDE)
    session.add(river)
    await session.flush()
    read_at = datetime.now(UTC) - timedelta(hours=2)
    for position, beat in enumerate(BEATS):
        row = Beat(
            id=uuid7(), angler_id=angler.id, river_id=river.id, position=position, name=beat.name,
            rules=write_noun(replace(RULES, max_flies=beat.max_flies, added_weight=beat.added_weight)),
            rules_text=beat.rules_text, wading_allowed=beat.wading_allowed,
            flows_to_deg=beat.flows_to_deg,
        )  # fmt: skip
        session.add(row)
        await session.flush()
        for lie in beat.lies:
            place = Lie(
                id=uuid7(), angler_id=angler.id, beat_id=row.id, name=lie.name, kind=lie.kind, bed=lie.bed,
                along_m=lie.along_m, notes=lie.notes,
            )  # fmt: skip
            session.add(place)
            await session.flush()
            reading = _reading(lie, place, beat.clarity_m, read_at)
            if reading is not None:
                session.add(reading)
    await session.flush()
    await add_starter(session, angler.id)
    return angler


async def seed_database(url: str, *, gauges: str = "") -> None:
    """Put the whole demo into a database, once: places, the seasons, and the gauge where one is to be read."""
    engine, sessions = connect(url)
    try:
        async with sessions.begin() as session:
            angler = await seed(session)
            if not await outings.outings(session, angler.id, before=None, most=1):
                await seed_seasons(session, angler, now=datetime.now(UTC))
        if gauges:
            await seed_gauge(sessions, angler, base=gauges)
    finally:
        await engine.dispose()
