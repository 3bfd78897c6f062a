"""The fly box, and what was lost of it."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.store.models import (
    BoxItem,
    Drift,
    Setting,
)


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


async def lost_flies(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[dict[str, Any], datetime]]:
    """Return the rig as set of every drift that ended in a lost fly and still stands, with its time."""
    statement = (
        select(Setting.setup, Drift.at)
        .join(Drift, Drift.setting_id == Setting.id)
        .where(Drift.angler_id == angler_id, Drift.outcome == "lost_fly", Drift.undone.is_(False))
    )
    return [(setup, at) for setup, at in (await session.execute(statement)).all()]
