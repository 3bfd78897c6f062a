"""The log: what an angler writes on the bank, and reading it back."""

import csv
import io
from collections import defaultdict
from dataclasses import asdict
from typing import cast
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.model.logged import LengthHow, Outcome
from deriva.core.ranges import FISH_LENGTH_MM
from deriva.core.record.effort import rate
from deriva.core.record.tally import tally
from deriva.core.record.weight import standard_weight, weight_spread
from deriva.service.formats.names import named
from deriva.service.schemas.log import (
    CatchOut,
    DriftLogOut,
    LedgerOut,
    OutingOut,
    SettingOut,
    StopOut,
    TallyOut,
)
from deriva.service.store import outings, owned
from deriva.service.store.models import Beat, Catch, Outing

WEIGHTS = ("weight_g", "weight_low_g", "weight_high_g")


def _weights(fish: Catch) -> tuple[float | None, float | None, float | None]:
    """Return what a fish of this length is reckoned to weigh, g, and between what 8 of 10 such fish lie."""
    if fish.length_mm is None:
        return None, None, None
    length = FISH_LENGTH_MM.clamp(fish.length_mm)
    how = cast("LengthHow", fish.length_how)
    spread = weight_spread(species=fish.species, length_mm=length, how=how) or (None, None)
    return standard_weight(species=fish.species, length_mm=length), *spread


def _tally(outcomes: list[str]) -> TallyOut:
    counts = tally(cast("list[Outcome]", outcomes))
    found = rate(fish=counts.fish, drifts=counts.drifts)
    return TallyOut.model_validate({**asdict(counts), "rate": asdict(found) if found else None})


def _outing_out(outing: Outing, beat: str, outcomes: list[str]) -> OutingOut:
    return OutingOut(
        id=outing.id,
        beat_id=outing.beat_id,
        beat=beat,
        started_at=outing.started_at,
        ended_at=outing.ended_at,
        conditions=outing.conditions,
        tally=_tally(outcomes),
    )


async def list_outings(session: AsyncSession, angler_id: UUID) -> list[OutingOut]:
    """Return the angler's outings, newest first, with their counts."""
    outcomes = await outings.outcomes(session, angler_id)
    return [
        _outing_out(outing, beat, outcomes.get(outing.id, []))
        for outing, beat in await outings.outings(session, angler_id)
    ]


async def ledger(session: AsyncSession, angler_id: UUID, outing_id: UUID) -> LedgerOut:
    """Return one outing in full: stops, settings, drifts and fish in the order that they came."""
    outing = await owned.get_owned(session, Outing, angler_id, outing_id)
    if outing.gone:
        raise owned.NotYours("outing")
    beat = await owned.get_owned(session, Beat, angler_id, outing.beat_id)
    settings, drifts, catches = await outings.log_of(session, angler_id, outing_id)
    fish: defaultdict[UUID, list[CatchOut]] = defaultdict(list)
    for row in catches:
        fish[row.drift_id].append(
            CatchOut.model_validate(
                {n: getattr(row, n) for n in CatchOut.model_fields if n not in WEIGHTS}
                | dict(zip(WEIGHTS, _weights(row), strict=True))
            )
        )
    taken: defaultdict[UUID, list[DriftLogOut]] = defaultdict(list)
    for drift in drifts:
        taken[drift.setting_id].append(
            DriftLogOut.model_validate(
                {
                    "id": drift.id,
                    "at": drift.at,
                    "outcome": drift.outcome,
                    "pace": drift.pace,
                    "lane": drift.lane,
                    "stance": drift.stance,
                    "catches": fish[drift.id],
                }
            )
        )
    hung: defaultdict[UUID, list[SettingOut]] = defaultdict(list)
    for setting in settings:
        names = ("id", "at", "rig", "depth_setting_m", "point_bead_mm", "setup")
        hung[setting.stop_id].append(
            SettingOut.model_validate(
                {**{n: getattr(setting, n) for n in names}, "drifts": taken[setting.id]}
            )
        )
    stops = [
        StopOut.model_validate(
            {
                "id": stop.id,
                "lie_id": stop.lie_id,
                "lie": lie,
                "at": stop.at,
                "situation": stop.situation,
                "settings": hung[stop.id],
            }
        )
        for stop, lie in await outings.stops(session, angler_id, outing_id)
    ]
    return LedgerOut(outing=_outing_out(outing, beat.name, [drift.outcome for drift in drifts]), stops=stops)


FISH = ("species", "length_mm", "length_how", "weight_g", "fly", "phase", "condition")
CSV_COLUMNS = (
    "time", "beat", "lie", "rig", "point_bead[mm]", "depth_setting[m]", "tippet[X]", "depth[m]", "surface_speed[m/s]",
    "clarity[m]", "temperature[Cel]", "drift_id", "lane", "stance", "outcome", "pace", "species", "length[mm]", "length_how",
    "weight_by_length[g]", "fly", "phase", "condition",
)  # fmt: skip


async def ledger_csv(session: AsyncSession, angler_id: UUID, outing_id: UUID) -> tuple[str, str]:
    """Return an outing as CSV (RFC 4180), times in ISO 8601 with offset, units in the headers; and what to call the file.

    One row a drift; one that brought two fish has two rows with the same drift_id.
    """
    book = await ledger(session, angler_id, outing_id)
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(CSV_COLUMNS)
    for stop in book.stops:
        water = stop.situation.water
        for setting in stop.settings:
            for drift in setting.drifts:
                for fish in drift.catches or (None,):
                    writer.writerow(
                        (
                            drift.at.isoformat(), book.outing.beat, stop.lie, setting.rig, setting.point_bead_mm,
                            setting.depth_setting_m, setting.setup.tippet_x, water.depth_m, water.surface_speed_m_s,
                            water.clarity_m, water.temperature_c, drift.id, drift.lane, drift.stance, drift.outcome, drift.pace,
                            *(getattr(fish, name, None) for name in FISH),
                        )
                    )  # fmt: skip
    return text.getvalue(), named("outing", book.outing.beat, f"{book.outing.started_at:%Y-%m-%d-%H%M}")
