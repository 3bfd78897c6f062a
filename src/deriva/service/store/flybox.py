"""The fly box, and what was lost of it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    DateTime,
    Double,
    Integer,
    Numeric,
    String,
    Uuid,
    cast,
    column,
    func,
    select,
    text,
    true,
)
from sqlalchemy.ext.asyncio import AsyncSession
from sqlalchemy.types import TypeEngine

from deriva.service.store.models import (
    BoxItem,
    Drift,
    Setting,
)

SAME_MM = 0.01


async def box_items(session: AsyncSession, angler_id: UUID) -> Sequence[BoxItem]:
    """Return what is in the angler's box: nymphs by bead and hook, then dries, then floats."""
    statement = (
        select(BoxItem)
        .where(BoxItem.angler_id == angler_id, BoxItem.gone.is_(False))
        .order_by(
            BoxItem.kind.desc(),
            BoxItem.bead_mm,
            BoxItem.size_mm,
            BoxItem.hook.desc(),
            BoxItem.form,
            BoxItem.id,
        )
    )
    return (await session.execute(statement)).scalars().all()


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of fly that can be lost, as it stands in a setting, and since when its losses count."""

    item: UUID
    fly: str
    hook: int | None
    bead_mm: float | None
    since: datetime


async def lost(session: AsyncSession, angler_id: UUID, kinds: Sequence[Kind]) -> dict[UUID, int]:
    """Return how many of some kinds were lost since they were counted, by item: drifts that ended so and still stand, by the
    point fly or the single dry of their setting, or by the upper fly where that was said.
    """
    if not kinds:
        return {}
    # a column each as one value: a statement with a row for each kind would be another one for every box
    columns: dict[str, TypeEngine[Any]] = {
        "item": Uuid(), "fly": String(), "hook": Integer(), "bead_mm": Double(), "since": DateTime(timezone=True),
    }  # fmt: skip
    table = (
        func.unnest(
            *(cast([getattr(one, name) for one in kinds], ARRAY(kind)) for name, kind in columns.items())
        )
        .table_valued(*(column(name, kind) for name, kind in columns.items()))
        .render_derived("kind")
    )
    # each lost fly's setting by its key: the server thinks them far more than they are, and would read every setting there is
    rig = (
        select(Setting.fly, Setting.hook, Setting.point_bead_mm.label("bead_mm"), Setting.setup)
        .where(Setting.angler_id == Drift.angler_id, Setting.id == Drift.setting_id)
        .limit(1)
        .lateral("rig")
    )
    point = (
        select(rig.c.fly, rig.c.hook, rig.c.bead_mm)
        .where(Drift.lost.is_distinct_from("dropper"))
        .correlate(Drift, rig)
    )
    written = rig.c.setup
    upper = (
        select(
            written["dropper_form"].astext,
            cast(cast(written["dropper_hook"].astext, Numeric()), Integer()),
            cast(written["dropper_bead_mm"].astext, Double()),
        )
        .where(Drift.lost.in_(("dropper", "both")))
        .correlate(Drift, rig)
    )
    fly = point.union_all(upper).lateral("fly")
    gone = (
        select(Drift.at, fly.c.fly, fly.c.hook, fly.c.bead_mm)
        .select_from(Drift)
        .join(rig, true())
        .join(fly, true())
        .where(
            Drift.angler_id == angler_id,
            # as it stands in the index of losses, word for word, and the oldest count as a number
            text("drift.outcome = 'lost_fly' and not drift.undone"),
            Drift.at >= min(one.since for one in kinds),
        )
        .cte("gone")
        .prefix_with("materialized", dialect="postgresql")
    )
    statement = (
        select(table.c.item, func.count())
        .select_from(gone)
        .join(
            table,
            (table.c.fly == gone.c.fly)
            & table.c.hook.is_not_distinct_from(gone.c.hook)
            & (func.abs(func.coalesce(table.c.bead_mm, 0.0) - func.coalesce(gone.c.bead_mm, 0.0)) < SAME_MM)
            & (gone.c.at >= table.c.since),
        )
        .group_by(table.c.item)
    )
    return dict((await session.execute(statement)).all())
