"""What was foretold of the settings that were fished, and what came of them."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from typing import cast as meant
from uuid import UUID

from sqlalchemy import ARRAY, Float, Integer, Select, and_, cast, func, literal, or_, select, text, true
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.learn.calibration import EDGES, Forecast
from deriva.core.learn.effort import MOST_OUTINGS
from deriva.core.learn.foretell import ENGINE
from deriva.core.model.logged import TOUCHES
from deriva.core.model.rig import RigKind
from deriva.core.record.forms import setup_now, situation_now
from deriva.service.store.columns import columns_of
from deriva.service.store.models import Catch, Drift, Effort, Foretold, LogEntry, Outing, Setting, Stop
from deriva.service.store.models.log import UNTOLD

MOST_MEASURED = 400
"""So many measured fish count, the newest: an eye changes."""

NOT_KNOWN = "not known"
"""Where a rig stands in a water that cannot be read as it is written down."""

SAID = and_(
    Foretold.angler_id == Effort.angler_id,
    Foretold.setting_id == Effort.setting_id,
    Foretold.engine == ENGINE,
)


def _newest(angler_id: UUID) -> Select[UUID]:
    """Return the newest outings: what is older says little of how one fishes now."""
    return (
        select(Outing.id)
        .where(Outing.angler_id == angler_id, Outing.gone.is_(False))
        .order_by(Outing.started_at.desc(), Outing.id.desc())
        .limit(MOST_OUTINGS)
    )


def _fished(angler_id: UUID) -> Any:  # noqa: ANN401 - a condition
    newest = _newest(angler_id).cte("newest").prefix_with("materialized")
    return and_(Effort.angler_id == angler_id, Effort.outing_id.in_(select(newest.c.id)), Effort.rig != "dry")


@dataclass(frozen=True, slots=True)
class Unsaid:
    """A setting of which nothing has been said yet, with the stop that it was fished on, as both are written down."""

    id: UUID
    stop: UUID
    situation: dict[str, Any]
    rig: RigKind
    setup: dict[str, Any]

    @staticmethod
    def of(setting: Setting, stop: Stop) -> "Unsaid":
        """Return a setting at its stop, both as they are written now."""
        situation = situation_now(stop.situation, stop.form)
        return Unsaid(
            setting.id,
            stop.id,
            situation,
            meant("RigKind", setting.rig),
            setup_now(setting.setup, setting.form),
        )


async def unsaid(
    session: AsyncSession, angler_id: UUID, *, most: int, ranks: bool = False
) -> Sequence[Unsaid]:
    """Return the newest fished settings of which nothing has been said; ``ranks``: not where their rigs stand."""
    wanted = (
        select(Effort.setting_id, func.max(Effort.at).label("at"))
        .outerjoin(Foretold, SAID)
        .where(_fished(angler_id), (Foretold.ranked if ranks else Foretold.setting_id).is_(None))
        .group_by(Effort.setting_id)
        .order_by(func.max(Effort.at).desc())
        .limit(most)
        .subquery()
    )
    statement = (
        select(Setting, Stop)
        .join(wanted, wanted.c.setting_id == Setting.id)
        .join(Stop, and_(Stop.angler_id == Setting.angler_id, Stop.id == Setting.stop_id))
        .where(Setting.angler_id == angler_id)
        .order_by(wanted.c.at.desc())
    )
    return [Unsaid.of(setting, stop) for setting, stop in (await session.execute(statement)).all()]


@dataclass(frozen=True, slots=True)
class Counts:
    """Of how many fished settings it has been said what they do, and where the rig stood; how many there are."""

    said: int
    ranked: int
    settings: int


class _Settings:
    """The fished settings, each with its drifts and touches over all lanes, beside what was said of it and those of its drifts
    that tell nothing of the bed. One setting after the other: joined, all that was ever said of an angler's is read.
    """

    def __init__(self, angler_id: UUID) -> None:
        which = Effort.outing_id, Effort.setting_id, Effort.rig
        touches = func.sum(Effort.ticks + Effort.hung).label("touches")
        fished = select(*which, func.sum(Effort.drifts).label("drifts"), touches)
        self.fished = fished.where(_fished(angler_id)).group_by(*which).subquery("fished")
        mine = and_(Drift.angler_id == angler_id, Drift.setting_id == self.fished.c.setting_id, text(UNTOLD))
        drifts = func.count().filter(or_(Drift.weed, self.fished.c.rig != "euro"))
        touched = func.count().filter(Drift.outcome.in_(TOUCHES))
        self.untold = select(drifts.label("drifts"), touched.label("touches")).where(mine).lateral("untold")
        of = and_(Foretold.angler_id == angler_id, Foretold.setting_id == self.fished.c.setting_id)
        said = select(Foretold.setting_id, Foretold.ranked, (Foretold.tick + Foretold.hung).label("chance"))
        self.said = said.where(of, Foretold.engine == ENGINE).limit(1).lateral("said")
        self.counts = [
            func.count(one) for one in (self.said.c.setting_id, self.said.c.ranked, self.fished.c.setting_id)
        ]
        """What :class:`Counts` has."""

    def select(self, *columns: Any) -> Select[*tuple[Any, ...]]:  # noqa: ANN401 - whatever is wanted of them
        """Read something of it."""
        return select(*columns).select_from(self.fished.outerjoin(self.said, true()))

    def told(self, *columns: Any) -> Select[*tuple[Any, ...]]:  # noqa: ANN401 - whatever is wanted of them
        """Read something of it, also of what tells nothing."""
        return select(*columns).select_from(
            self.fished.outerjoin(self.said, true()).join(self.untold, true())
        )


async def counts(session: AsyncSession, angler_id: UUID) -> Counts:
    """Return how far it has come with what is said of the settings."""
    settings = _Settings(angler_id)
    return Counts(*(await session.execute(settings.select(*settings.counts))).one())


async def keep(session: AsyncSession, angler_id: UUID, rows: Sequence[dict[str, Any]]) -> None:
    """Write down what was said of some settings, the same of each; one that went meanwhile has nothing said of it."""
    if not rows:
        return
    known = set(
        (
            await session.execute(
                select(Setting.id).where(
                    Setting.angler_id == angler_id, Setting.id.in_([row["setting_id"] for row in rows])
                )
            )
        ).scalars()
    )
    values = [{"angler_id": angler_id, "engine": ENGINE, **row} for row in rows if row["setting_id"] in known]
    if values:
        statement = insert(Foretold).values(values)
        fresh = {name: statement.excluded[name] for name in ("engine", *rows[0]) if name != "setting_id"}
        await session.execute(
            statement.on_conflict_do_update(index_elements=("angler_id", "setting_id"), set_=fresh)
        )


async def forecasts(session: AsyncSession, angler_id: UUID) -> tuple[list[Forecast], Counts]:
    """Return what was said of the chance of a touch, by outing and class of chance, with what came of the drifts that tell of
    it; and how far it has come.
    """
    settings = _Settings(angler_id)
    fished, untold, chance = settings.fished.c, settings.untold.c, settings.said.c.chance
    tell = fished.drifts - untold.drifts
    drifts = cast(func.sum(tell), Integer)
    reckoned = func.sum(chance * tell) / func.nullif(drifts, 0)
    like = func.width_bucket(chance, literal(list(EDGES), ARRAY(Float)))
    touches = cast(func.sum(fished.touches - untold.touches), Integer)
    statement = settings.told(*settings.counts, fished.outing_id, reckoned, drifts, touches)
    *counts, outings, chances, drifted, touched = await columns_of(
        session, statement.group_by(fished.outing_id, like)
    )
    places: dict[UUID, int] = {}
    numbers = [places.setdefault(one, len(places)) for one in outings]
    rows = zip(numbers, chances, drifted, touched, strict=True)
    return [Forecast(*row) for row in rows if row[1] is not None], Counts(*map(sum, counts))


async def lengths_corrected(session: AsyncSession, angler_id: UUID) -> list[float]:
    """Return, of the newest fish whose length was judged by eye and measured after, what was judged over what was measured."""
    how, length = LogEntry.body["length_how"].astext, LogEntry.body["length_mm"].astext
    fish = (
        select(Catch.id, Catch.length_mm)
        .where(
            Catch.angler_id == angler_id,
            Catch.length_how == literal("measured", literal_execute=True),
            Catch.length_mm.is_not(None),
            ~Catch.undone,
        )
        .order_by(Catch.at.desc(), Catch.id.desc())
        .limit(MOST_MEASURED)
        .subquery()
    )
    statement = (
        select(fish.c.id, fish.c.length_mm, length)
        .join(LogEntry, and_(LogEntry.angler_id == angler_id, LogEntry.record == fish.c.id))
        .where(how == "eye", length.is_not(None))
        .order_by(LogEntry.at)
    )
    found = (await session.execute(statement)).all()
    last = {row: float(by_eye) / measured for row, measured, by_eye in found}
    return list(last.values())
