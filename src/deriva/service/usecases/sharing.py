"""Sharing a beat or an outing: to be read, by one address, until it is taken back."""

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.errors import Impossible
from deriva.core.record.blur import moved
from deriva.service.schemas.sharing import ShareIn
from deriva.service.store import accounts, observed, owned, places, shares
from deriva.service.store.models import Angler, Beat, Lie, Outing, Reading, River, Share
from deriva.service.usecases.caps import within
from deriva.service.usecases.logbook import Ledger, ledger

FINE = 1 << 24


@dataclass(frozen=True, slots=True)
class SharedWithMe:
    """What another angler shares: whose it is, what it is and what it is called."""

    share: Share
    owner: str
    kind: Literal["beat", "outing"]
    name: str


@dataclass(frozen=True, slots=True)
class SharedBeat:
    """A beat as its reader may see it: where its river is, as far off as was wished (degrees), and its lies as last read."""

    beat: Beat
    river: str
    place: tuple[float, float] | None
    lies: Sequence[tuple[Lie, Reading | None]]


@dataclass(frozen=True, slots=True)
class Shared:
    """What a share holds."""

    share: Share
    owner: str
    beat: SharedBeat | None
    outing: Ledger | None


def _drawn() -> float:
    return secrets.randbelow(FINE) / FINE


async def share(session: AsyncSession, angler_id: UUID, share_id: UUID, asked: ShareIn) -> None:
    """Share something of one's own, or change with whom. Raises Impossible for another distance than before: two distances,
    or two draws of one, would say where the place is.
    """
    thing = Beat if asked.beat_id is not None else Outing
    wanted = asked.beat_id or asked.outing_id
    if wanted is None or not await owned.owned(session, thing, angler_id, {wanted}):
        raise owned.NotYours("beat or outing")
    await within(session, Share, angler_id, share_id)
    if asked.beat_id is not None and asked.blur_m > 0.0:
        beat = await owned.get_owned(session, Beat, angler_id, asked.beat_id)
        drawn = {
            "angler_id": angler_id, "river_id": beat.river_id, "reader": asked.reader, "blur_m": asked.blur_m,
            "turn": _drawn(), "stretch": _drawn(),
        }  # fmt: skip
        await shares.draw_blur(session, drawn)
        stands = await shares.blur(session, angler_id, beat.river_id, asked.reader)
        if stands is not None and stands.blur_m != asked.blur_m:
            said = f"{stands.blur_m / 1000.0:g} km"
            text = f"blur_m: this reader has the river {said} off: another distance would give its place away. Take {said}"
            raise Impossible(text, field="blur_m")
    values: dict[str, Any] = {
        "reader": asked.reader, "beat_id": asked.beat_id, "outing_id": asked.outing_id, "blur_m": asked.blur_m,
        "revoked_at": None,
    }  # fmt: skip
    await owned.put_many(session, Share, angler_id, {share_id: values}, replace=True)


async def revoke(session: AsyncSession, angler_id: UUID, share_id: UUID) -> None:
    """Take a share back."""
    await shares.revoke_share(session, angler_id, share_id)


async def list_shares(session: AsyncSession, angler_id: UUID) -> Sequence[tuple[Share, str]]:
    """Return what the angler shares, each with the name of the thing."""
    return await shares.shares_of(session, angler_id)


async def _reader(session: AsyncSession, angler_id: UUID) -> str:
    return await accounts.email_of(session, angler_id) or ""


async def list_shared(session: AsyncSession, angler_id: UUID) -> list[SharedWithMe]:
    """Return what others share with the angler."""
    return [
        SharedWithMe(one, owner, "beat" if one.beat_id is not None else "outing", name)
        for one, owner, name in await shares.shared_with(session, await _reader(session, angler_id))
    ]


async def _beat(session: AsyncSession, share: Share, beat_id: UUID) -> SharedBeat:
    owner = share.angler_id
    beat = await owned.get_owned(session, Beat, owner, beat_id)
    river = await owned.get_owned(session, River, owner, beat.river_id)
    place: tuple[float, float] | None = None
    drawn = await shares.blur(session, owner, river.id, share.reader)
    if river.latitude is not None and river.longitude is not None:
        if share.blur_m == 0.0:
            place = (river.latitude, river.longitude)
        elif drawn is not None:
            place = moved(
                latitude=river.latitude, longitude=river.longitude, by_m=drawn.blur_m, turn=drawn.turn,
                stretch=drawn.stretch,
            )  # fmt: skip
    readings = await observed.newest_readings(session, owner)
    lies = [lie for lie in await places.lies(session, owner) if lie.beat_id == beat_id]
    return SharedBeat(beat, river.name, place, [(lie, readings.get(lie.id)) for lie in lies])


async def read_shared(session: AsyncSession, angler_id: UUID, share_id: UUID) -> Shared:
    """Return what a share holds, to the one whom it is for; raises :class:`NotYours` to everybody else."""
    share = await shares.share_for(session, await _reader(session, angler_id), share_id)
    owner = await session.get_one(Angler, share.angler_id)
    return Shared(
        share=share,
        owner=owner.name,
        beat=None if share.beat_id is None else await _beat(session, share, share.beat_id),
        outing=None if share.outing_id is None else await ledger(session, share.angler_id, share.outing_id),
    )
