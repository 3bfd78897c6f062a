"""The log read back: outings with their counts, and one in full."""

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import cast
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.learn.find import words
from deriva.core.learn.story import Kept, Stay, Told
from deriva.core.model.logged import Direction, Fished, FlyOnRig, Outcome, Pace, Phase
from deriva.core.model.rig import RigKind
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.model.water import AsRead
from deriva.core.read import read_noun
from deriva.core.record.effort import Rate, rate
from deriva.core.record.forms import setup_now, situation_now
from deriva.core.record.tally import Tally, tally
from deriva.core.water.bottom import today
from deriva.service.store import observed, outings, owned
from deriva.service.store.models import Beat, Catch, Drift, Note, Outing, Reading, Setting, Stop
from deriva.service.usecases.reading import FRESH, sounded
from deriva.service.usecases.river import rated_lies

A_PAGE = 50
"""So many outings are listed at once."""


@dataclass(frozen=True, slots=True)
class Counted:
    """An outing with the name of its beat, what was counted, and how often a drift brought a fish, if there were any."""

    outing: Outing
    beat: str
    counts: Tally
    rate: Rate | None


@dataclass(frozen=True, slots=True)
class Ledger:
    """One outing in full, in the order that it came: stops with the names of their lies, and what hangs under each row."""

    counted: Counted
    notes: Sequence[Note]
    stops: Sequence[tuple[Stop, str]]
    settings: Mapping[UUID, Sequence[Setting]]
    """By stop."""
    drifts: Mapping[UUID, Sequence[Drift]]
    """By setting."""
    fish: Mapping[UUID, Sequence[Catch]]
    """By drift."""


def _counted(outing: Outing, beat: str, outcomes: Mapping[str, int]) -> Counted:
    counts = tally(cast("Mapping[Outcome, int]", outcomes))
    return Counted(outing, beat, counts, rate(fish=counts.fish, drifts=counts.drifts))


async def list_outings(session: AsyncSession, angler_id: UUID, *, after: UUID | None = None) -> list[Counted]:
    """Return a page of the angler's outings, newest first, with their counts: the first, or the one after an outing."""
    last = None if after is None else await owned.get_owned(session, Outing, angler_id, after)
    before = None if last is None else (last.started_at, last.id)
    return await counted(
        session, angler_id, await outings.outings(session, angler_id, before=before, most=A_PAGE)
    )


@dataclass(frozen=True, slots=True)
class Search:
    """A page of the outings that fit, and the words that the log does not know."""

    outings: Sequence[Counted]
    unknown: Sequence[str]


async def find(session: AsyncSession, angler_id: UUID, asked: str, *, after: UUID | None = None) -> Search:
    """Return a page of the outings that fit every word of what was asked, newest first."""
    last = None if after is None else await owned.get_owned(session, Outing, angler_id, after)
    before = None if last is None else (last.started_at, last.id)
    like = words(asked, await outings.named(session, angler_id))
    page = await outings.outings(session, angler_id, before=before, most=A_PAGE, like=like)
    return Search(await counted(session, angler_id, page), [word.text for word in like if not word.means])


async def counted(
    session: AsyncSession, angler_id: UUID, page: Sequence[tuple[Outing, str]]
) -> list[Counted]:
    """Return some outings with the names of their beats, with their counts."""
    outcomes = await outings.outcomes(session, angler_id, [outing.id for outing, _ in page])
    return [_counted(outing, beat, outcomes.get(outing.id, {})) for outing, beat in page]


async def ledger(session: AsyncSession, angler_id: UUID, outing_id: UUID) -> Ledger:
    """Return one outing in full; raises NotYours for another's, and for one that was taken back."""
    outing = await owned.get_owned(session, Outing, angler_id, outing_id)
    if outing.gone:
        raise owned.NotYours("outing")
    beat = await owned.get_owned(session, Beat, angler_id, outing.beat_id)
    settings, drifts, catches = await outings.log_of(session, angler_id, outing_id)
    by_stop: defaultdict[UUID, list[Setting]] = defaultdict(list)
    for setting in settings:
        by_stop[setting.stop_id].append(setting)
    by_setting: defaultdict[UUID, list[Drift]] = defaultdict(list)
    for drift in drifts:
        by_setting[drift.setting_id].append(drift)
    by_drift: defaultdict[UUID, list[Catch]] = defaultdict(list)
    for one in catches:
        by_drift[one.drift_id].append(one)
    counted = _counted(outing, beat.name, Counter(drift.outcome for drift in drifts))
    stops = await outings.stops(session, angler_id, outing_id)
    notes = await outings.notes(session, angler_id, outing_id)
    return Ledger(counted, notes, stops, by_stop, by_setting, by_drift)


async def _kept(
    session: AsyncSession, angler_id: UUID, stop: Stop, read: Reading | None, fished_at: Sequence[datetime]
) -> list[Kept]:
    """Return what had been kept of the bottom of a lie by the end of a stay, in time, at the level that the lie was read at."""
    if not fished_at:
        return []
    found = await observed.soundings_until(session, angler_id, stop.lie_id, fished_at[-1])
    if not found:
        return []
    flow = read.flow_m3_s if read is not None and stop.at - read.at < FRESH else None
    rated = None if flow is None else (await rated_lies(session, angler_id)).get(stop.lie_id)
    kept: list[Kept] = []
    for one in found:
        then = sounded(one, at=max(stop.at, one.at), read=read, rated=rated, flow_m3_s=flow)
        kept += [Kept(sum(at <= one.at for at in fished_at), there) for there in today([then])]
    return kept


async def _stayed(session: AsyncSession, angler_id: UUID, stop: Stop) -> dict[UUID, Situation]:
    """Return the stops of a stay up to one of them, with their waters: read again while one stays, a lie is another stop."""
    stayed: list[Stop] = []
    for one, _ in await outings.stops(session, angler_id, stop.outing_id):
        stayed = [*stayed, one] if one.lie_id == stop.lie_id else []
        if one.id == stop.id:
            break
    return {one.id: read_noun(Situation, situation_now(one.situation, one.form)) for one in stayed}


def _as_read(situation: Situation) -> AsRead:
    return AsRead(situation.water.depth_m, situation.water.surface_speed_m_s)


async def stay(session: AsyncSession, angler_id: UUID, outing_id: UUID, stop_id: UUID) -> Stay:
    """Return a stay of the angler's as the coach was told of it: its water, its drifts in time, but for those with nothing
    under water, and what had been kept of its bottom. Raises NotYours.
    """
    stop = await owned.get_owned(session, Stop, angler_id, stop_id)
    if stop.outing_id != outing_id:
        raise owned.NotYours("stop")
    settings, drifts, catches = await outings.log_of(session, angler_id, outing_id)
    stayed = await _stayed(session, angler_id, stop)
    by_id = {one.id: one for one in settings if one.stop_id in stayed and one.rig != "dry"}
    fish = {one.drift_id: one for one in reversed(catches)}
    told: list[Told] = []
    fished_at: list[datetime] = []
    order = list(stayed)
    of_stay = [(by_id[one.setting_id], one) for one in drifts if one.setting_id in by_id]
    for setting, drift in sorted(of_stay, key=lambda one: order.index(one[0].stop_id)):
        fished_at.append(drift.at)
        setup = read_noun(Setup, setup_now(setting.setup, setting.form))
        caught = fish.get(drift.id)
        told.append(
            Told(
                rig=cast("RigKind", setting.rig),
                setup=setup,
                drift=Fished(
                    setup.depth_setting_m, setup.point_bead_mm, cast("Outcome", drift.outcome), cast("Pace | None", drift.pace),
                    fly=cast("FlyOnRig | None", caught and caught.fly), phase=cast("Phase | None", caught and caught.phase),
                    direction=cast("Direction", drift.direction or "up"), dried=drift.dried, lane=drift.lane,
                    stance=drift.stance, pattern=f"{setup.point_form} {setup.point_hook}",
                    weed=drift.weed, read=None if setting.stop_id == stop_id else _as_read(stayed[setting.stop_id]),
                ),
            )
        )  # fmt: skip
    read = await observed.reading_at(session, angler_id, stop.lie_id, stop.at)
    learned_at = read.at if read is not None and read.depth_how == "drifts" else None
    return Stay(
        stayed[stop_id],
        told,
        await _kept(session, angler_id, stop, read, fished_at),
        before=sum(one.stop_id != stop_id for one, _ in of_stay),
        learned=0 if learned_at is None else sum(at <= learned_at for at in fished_at),
    )
