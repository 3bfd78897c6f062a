"""How right Deriva has been for an angler, and how right the angler's eye."""

from collections import defaultdict
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import asdict, dataclass
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.errors import DerivaError, Impossible
from deriva.core.learn.calibration import FEW, Forecast, Pair, eye
from deriva.core.learn.foretell import foretell, place
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.read import read_noun
from deriva.core.water.geometry import DEPTH_EXPONENT, Observed, carry, fit_rating
from deriva.service.store import foretelling, observed
from deriva.service.store.foretelling import NOT_KNOWN, Counts, Unsaid
from deriva.service.store.models import Angler, Reading
from deriva.service.usecases.river import depth_at_flow

MEASURED = ("staff", "line")
"""Depths that were measured, and so are what another is held against."""

SAME_WATER = timedelta(hours=3)
"""So long after one depth another is of the same water."""

AT_ONCE = 40
"""So many settings are said something of at once: about a second of computing."""

STOPS_AT_ONCE = 4
"""The same, of stops whose rigs are ranked."""

Say = Callable[[Sequence[Unsaid]], list[dict[str, Any]]]


@dataclass(frozen=True, slots=True)
class Found:
    """What how right things were rests on: depths carried along a rating and found, depths by eye and found, touches as said
    and as they came, lengths by eye over measured; of how many settings something was said, of how many.
    """

    carried: Sequence[Pair]
    by_eye: Sequence[Pair]
    forecasts: Sequence[Forecast]
    lengths: Sequence[float]
    counts: Counts


async def unsaid(session: AsyncSession, angler_id: UUID) -> tuple[Say, Sequence[Unsaid]]:
    """Return some settings of which something is still to be said, and what says it: what they do before how they stood."""
    settings = await foretelling.unsaid(session, angler_id, most=AT_ONCE)
    if settings:
        return say, settings
    return rank, await foretelling.unsaid(session, angler_id, most=AT_ONCE, ranks=True)


def say(settings: Sequence[Unsaid]) -> list[dict[str, Any]]:
    """Say what settings do; nothing of a rig that cannot hang as it is written down."""
    rows: list[dict[str, Any]] = []
    for one in settings:
        row: dict[str, Any] = {"setting_id": one.id, "in_zone": None, "tick": None, "hung": None}
        with suppress(DerivaError):
            row |= asdict(foretell(read_noun(Situation, one.situation), one.rig, read_noun(Setup, one.setup)))
        rows.append(row)
    return rows


def rank(settings: Sequence[Unsaid]) -> list[dict[str, Any]]:
    """Say of the settings of a few stops where their rigs stand among those that are advised there; of a water that cannot be
    read, that it is not known.
    """
    stops = list({one.stop: one.situation for one in settings}.items())[:STOPS_AT_ONCE]
    rows: list[dict[str, Any]] = []
    for stop, written in stops:
        advice = None
        with suppress(DerivaError):
            advice = advise(read_noun(Situation, written), wide)
        rows += [
            {"setting_id": one.id, "ranked": NOT_KNOWN if advice is None else place(advice, one.rig)}
            for one in settings
            if one.stop == stop
        ]
    return rows


async def keep(session: AsyncSession, angler_id: UUID, rows: Sequence[dict[str, Any]]) -> Counts:
    """Write down what was said; return how far it has come."""
    await foretelling.keep(session, angler_id, rows)
    return await foretelling.counts(session, angler_id)


async def found(session: AsyncSession, angler_id: UUID) -> Found:
    """Gather what was said and what was found."""
    carried, by_eye = _pairs(await observed.all_readings(session, angler_id))
    forecasts, counts = await foretelling.forecasts(session, angler_id)
    lengths = await foretelling.lengths_corrected(session, angler_id)
    return Found(carried, by_eye, forecasts, lengths, counts)


async def reckon_with_eye(session: AsyncSession, angler_id: UUID, *, own: bool) -> Angler:
    """Reckon with the angler's own eye for depth, as far as it has been found, or with what is usual again."""
    angler = await session.get_one(Angler, angler_id)
    angler.eye_error = None
    if own:
        judged = eye(_pairs(await observed.all_readings(session, angler_id))[1])
        if judged is None:
            raise Impossible(
                f"own: fewer than {FEW} depths by eye were measured after: nothing is known of your eye yet",
                field="own",
            )
        angler.eye_error = judged.error
    await session.flush()
    return angler


def _pairs(readings: Sequence[Reading]) -> tuple[list[Pair], list[Pair]]:
    """Return measured depths beside what the rating said before, and beside what an eye said shortly before."""
    carried: list[Pair] = []
    by_eye: list[Pair] = []
    judged: dict[UUID, Reading] = {}
    gauged: defaultdict[UUID, list[tuple[datetime, Observed]]] = defaultdict(list)
    for one in readings:
        flow = one.flow_m3_s
        if one.depth_how in MEASURED:
            found, found_sd = one.depth_m, one.depth_sd_m / one.depth_m
            last = judged.get(one.lie_id)
            if last is not None and one.at - last.at < SAME_WATER:
                by_eye.append(Pair(last.depth_m, last.depth_sd_m / last.depth_m, found, found_sd))
            before = one.at - SAME_WATER
            seen = [depth for at, depth in gauged[one.lie_id] if at <= before]
            if flow is not None and seen:
                said = carry(fit_rating(seen, exponent=DEPTH_EXPONENT), flow_m3_s=flow)
                carried.append(Pair(said.value, said.relative_sd, found, found_sd))
        if one.depth_how == "eye":
            judged[one.lie_id] = one
        if one.depth_how != "flow" and flow is not None:
            gauged[one.lie_id].append((one.at, depth_at_flow(one)))
    return carried, by_eye
