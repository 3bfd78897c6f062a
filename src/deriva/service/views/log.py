"""Outings and their ledgers, as they go over the wire."""

from collections.abc import Sequence
from dataclasses import asdict
from typing import cast
from uuid import UUID

from deriva.core.model.logged import LengthHow
from deriva.core.ranges import FISH_LENGTH_MM
from deriva.core.record.forms import setup_now, situation_now
from deriva.core.record.weight import standard_weight, weight_spread
from deriva.service.schemas.log import (
    BlockOut,
    CatchOut,
    DriftLogOut,
    DrySettingOut,
    FishedOut,
    FlowDayOut,
    LedgerOut,
    NoteOut,
    OutingOut,
    RiverYearOut,
    SeasonOut,
    SettingOut,
    StopOut,
    StripOut,
    TallyOut,
)
from deriva.service.store.models import Catch, Drift, Setting, Stop
from deriva.service.store.seasons import Block
from deriva.service.usecases.logbook import Counted, Ledger
from deriva.service.usecases.season import Year

WEIGHTS = ("weight_g", "weight_low_g", "weight_high_g")


def outing_out(one: Counted) -> OutingOut:
    """Return the wire form of an outing with its counts."""
    outing = one.outing
    counts = {**asdict(one.counts), "rate": asdict(one.rate) if one.rate else None}
    return OutingOut(
        id=outing.id,
        beat_id=outing.beat_id,
        beat=one.beat,
        started_at=outing.started_at,
        ended_at=outing.ended_at,
        conditions=outing.conditions,
        tally=TallyOut.model_validate(counts),
    )


def strip_out(outing: UUID, blocks: Sequence[Block]) -> StripOut:
    """Return the wire form of an outing drawn small."""
    shown = [{name: getattr(one, name) for name in BlockOut.model_fields} for one in blocks]
    return StripOut(id=outing, blocks=[BlockOut.model_validate(one) for one in shown])


def season_out(found: Year) -> SeasonOut:
    """Return the wire form of a year."""
    return SeasonOut(
        year=found.year,
        years=list(found.years),
        rivers=[
            RiverYearOut(river=river, days=[FlowDayOut(at=at, flow_m3_s=flow) for at, flow in days])
            for river, days in found.flows.items()
        ],
        outings=[
            FishedOut.model_validate({name: getattr(one, name) for name in FishedOut.model_fields})
            for one in found.outings
        ],
    )


def ledger_out(book: Ledger) -> LedgerOut:
    """Return the wire form of one outing in full."""
    stops = [_stop_out(stop, lie, book) for stop, lie in book.stops]
    notes = [
        NoteOut.model_validate({name: getattr(note, name) for name in NoteOut.model_fields})
        for note in book.notes
    ]
    return LedgerOut(outing=outing_out(book.counted), notes=notes, stops=stops)


def _stop_out(stop: Stop, lie: str, book: Ledger) -> StopOut:
    settings = [_setting_out(one, book) for one in book.settings.get(stop.id, ())]
    return StopOut.model_validate(
        {
            "id": stop.id,
            "lie_id": stop.lie_id,
            "lie": lie,
            "at": stop.at,
            "situation": situation_now(stop.situation, stop.form),
            "settings": settings,
        }
    )


def _setting_out(setting: Setting, book: Ledger) -> SettingOut | DrySettingOut:
    kind = DrySettingOut if setting.rig == "dry" else SettingOut
    drifts = [_drift_out(one, book) for one in book.drifts.get(setting.id, ())]
    stored = {n: getattr(setting, n) for n in kind.model_fields if n != "drifts"}
    setup = setup_now(setting.setup, setting.form)
    return kind.model_validate(stored | {"setup": setup, "drifts": drifts})


def _drift_out(drift: Drift, book: Ledger) -> DriftLogOut:
    names = ("id", "at", "outcome", "pace", "lane", "stance", "direction", "dried", "weed", "lost")
    fish = [_catch_out(one) for one in book.fish.get(drift.id, ())]
    return DriftLogOut.model_validate({**{n: getattr(drift, n) for n in names}, "catches": fish})


def _catch_out(fish: Catch) -> CatchOut:
    stored = {n: getattr(fish, n) for n in CatchOut.model_fields if n not in WEIGHTS}
    return CatchOut.model_validate(stored | dict(zip(WEIGHTS, _weights(fish), strict=True)))


def _weights(fish: Catch) -> tuple[float | None, float | None, float | None]:
    """Return what a fish of this length is reckoned to weigh, g, and between what 8 of 10 such fish lie."""
    if fish.length_mm is None:
        return None, None, None
    length = FISH_LENGTH_MM.clamp(fish.length_mm)
    how = cast("LengthHow", fish.length_how)
    spread = weight_spread(species=fish.species, length_mm=length, how=how) or (None, None)
    return standard_weight(species=fish.species, length_mm=length), *spread
