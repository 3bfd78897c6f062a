"""The fly box: filling it, counting it, and what it means for the choice of a rig."""

from dataclasses import fields
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession
from uuid_utils.compat import uuid7

from deriva.core.choose.missing import Missing, missing
from deriva.core.choose.sweep import wide
from deriva.core.model.situation import Box, Situation
from deriva.core.tackle.beads import LADDER_MM
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.starter import STARTER_DRIES, STARTER_FLIES, STARTER_FLOATS_MM
from deriva.service.schemas.box import BoxItemIn, DryIn, FloatIn, NymphIn
from deriva.service.store import flybox, history, owned
from deriva.service.store.models import BoxItem
from deriva.service.usecases.caps import within


def _values(item: BoxItemIn) -> dict[str, Any]:
    if isinstance(item, NymphIn):
        return {
            "kind": item.kind,
            "form": item.form,
            "hook": item.hook,
            "bead_mm": item.bead_mm,
            "material": item.material,
            "dressing": item.dressing,
            "tone": item.tone,
            "mark": item.mark,
            "size_mm": None,
            "count": item.count,
            "tank": None if item.tank is None else item.tank.model_dump(),
            "drag_factor": item.fly().drag_factor,
        }
    plain: dict[str, Any] = {
        "kind": item.kind, "hook": None, "bead_mm": None, "material": "tungsten", "dressing": None, "tone": "natural",
        "mark": "none", "size_mm": None, "count": item.count, "tank": None, "drag_factor": None,
    }  # fmt: skip
    if isinstance(item, FloatIn):
        return plain | {"form": f"{item.size_mm:g} mm float", "size_mm": item.size_mm}
    return plain | {"form": item.form}


async def put_item(
    session: AsyncSession, angler_id: UUID, item_id: UUID, item: BoxItemIn, *, now: datetime
) -> None:
    """Put a kind of fly or float in the box, or count it anew: what was lost before counts no more."""
    await within(session, BoxItem, angler_id, item_id)
    values = {**_values(item), "counted_at": now, "gone": False}
    await owned.put(session, BoxItem, angler_id, item_id, values, replace=True)


async def drop_item(session: AsyncSession, angler_id: UUID, item_id: UUID) -> None:
    """Take a kind out of the box."""
    item = await owned.get_owned(session, BoxItem, angler_id, item_id)
    item.gone = True
    await session.flush()


async def add_starter(session: AsyncSession, angler_id: UUID) -> None:
    """Fill in a starter box: every kind of it that is not there yet. Two at once fill it once."""
    await history.hold_log(session, angler_id)
    there = {
        (one.kind, one.form, one.hook, one.bead_mm, one.tone, one.mark)
        for one in await flybox.box_items(session, angler_id)
    }
    wanted: list[BoxItemIn] = [
        NymphIn(
            kind="nymph", form=stock.fly.form, hook=stock.fly.hook, bead_mm=stock.fly.bead_mm,
            dressing=stock.fly.dressing, tone=stock.fly.tone, mark=stock.fly.mark, count=stock.count,
        )
        for stock in STARTER_FLIES
    ]  # fmt: skip
    wanted += [DryIn(kind="dry", form=name, count=count) for name, count in STARTER_DRIES]
    wanted += [FloatIn(kind="float", size_mm=size, count=count) for size, count in STARTER_FLOATS_MM]
    for item in wanted:
        values = _values(item)
        if (
            values["kind"],
            values["form"],
            values["hook"],
            values["bead_mm"],
            values["tone"],
            values["mark"],
        ) not in there:
            await put_item(session, angler_id, uuid7(), item, now=datetime.now(UTC))


def _kind(item: BoxItem) -> flybox.Kind:
    """Return what a fly of the box is called in a setting."""
    if item.kind == "dry":
        return flybox.Kind(item.id, item.form, None, None, item.counted_at)
    return flybox.Kind(item.id, fly_of(item).words, item.hook, item.bead_mm, item.counted_at)


def fly_of(item: BoxItem) -> Fly:
    """Return the nymph that an item of the box is."""
    return Fly(**{one.name: getattr(item, one.name) for one in fields(Fly)})


async def counted(session: AsyncSession, angler_id: UUID) -> list[tuple[BoxItem, int]]:
    """Return what is in the box, each with how many of it were lost since it was counted.

    Of a rig with two flies the lost one is taken to be the point, where nothing is said: it is what meets the stones.
    """
    items = await flybox.box_items(session, angler_id)
    lost = await flybox.lost(session, angler_id, [_kind(item) for item in items if item.kind != "float"])
    return [(item, lost.get(item.id, 0)) for item in items]


async def box_of(session: AsyncSession, angler_id: UUID) -> Box | None:
    """Return what the box leaves to choose from; None where nothing was ever put in it.

    Without any float or dry in it the choice of those is free: a box of nymphs says nothing of them.
    """
    there = await counted(session, angler_id)
    if not there:
        return None
    left = [item for item, lost in there if item.count > lost]
    kinds = {item.kind for item, _ in there}
    flies = [fly_of(item) for item in left if item.kind == "nymph"]
    floats = [item.size_mm for item in left if item.size_mm is not None]
    dries = [item.form for item in left if item.kind == "dry"]
    everything = Box(beads_mm=LADDER_MM)
    return Box(
        beads_mm=tuple(sorted({fly.bead_mm for fly in flies if fly.bead_mm is not None}))
        if "nymph" in kinds
        else everything.beads_mm,
        flies=tuple(flies) if "nymph" in kinds else None,
        floats_mm=tuple(floats) if "float" in kinds else everything.floats_mm,
        dries=tuple(dries) if "dry" in kinds else everything.dries,
    )


def lacking(situation: Situation) -> tuple[Missing, ...]:
    """Return the flies that the box in a situation lacks there."""
    return tuple(missing(situation, wide))
