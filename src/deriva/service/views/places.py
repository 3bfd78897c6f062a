"""Beats and lies as they stand today, as they go over the wire."""

import math
from dataclasses import asdict
from functools import cache

from deriva.core.model.beat import BeatRules
from deriva.core.model.water import DECILE_Z
from deriva.core.read import read_noun
from deriva.core.say.cautions import Heed, heed
from deriva.core.water.profile import BED_KS, BedKind
from deriva.service.schemas.log import Conditions, ReadingOut
from deriva.service.schemas.places import (
    BeatIn,
    BeatOut,
    CarriedOut,
    GaugeIn,
    LieIn,
    LieOut,
    RatingPointOut,
    RetiredOut,
    RiverOut,
    SeenOut,
    WorkOut,
)
from deriva.service.store.models import Gauge, Reading, River
from deriva.service.usecases.places import Retired
from deriva.service.usecases.reading import FRESH, BeatStanding, Standing, Today


def river_out(river: River, gauge: Gauge | None) -> RiverOut:
    """Return the wire form of a river with its gauge."""
    known = gauge and GaugeIn.model_validate({name: getattr(gauge, name) for name in GaugeIn.model_fields})
    return RiverOut(
        id=river.id,
        name=river.name,
        latitude=river.latitude,
        longitude=river.longitude,
        weather_url=river.weather_url,
        gauge=known,
        gauge_id=gauge and gauge.id,
    )


def retired_out(found: Retired) -> RetiredOut:
    """Return the wire form of what is not fished any more."""
    return RetiredOut.model_validate(
        {
            "beats": [
                {"id": beat.id, "river": river, "fished": fished}
                | {name: getattr(beat, name) for name in BeatIn.model_fields}
                for beat, river, fished in found.beats
            ],
            "lies": [
                {"id": lie.id, "beat": beat, "fished": fished}
                | {name: getattr(lie, name) for name in LieIn.model_fields}
                for lie, beat, fished in found.lies
            ],
        }
    )


def beat_out(one: BeatStanding) -> BeatOut:
    """Return the wire form of a beat with its lies."""
    beat = one.beat
    rules = read_noun(BeatRules, beat.rules)
    return BeatOut(
        id=beat.id,
        river_id=beat.river_id,
        river=one.river,
        name=beat.name,
        position=beat.position,
        rules=rules,
        rig_rules=rules.of_a_rig,
        rules_text=beat.rules_text,
        wading_allowed=beat.wading_allowed,
        flows_to_deg=beat.flows_to_deg,
        species=beat.species,
        carried=Conditions.model_validate(one.carried),
        working=[
            WorkOut.model_validate(
                {
                    "lie_id": here.lie.id,
                    "order": order,
                    "drifts_a_lane": judged.drifts_a_lane,
                    **asdict(judged),
                }
            )
            for order, (here, judged) in enumerate(one.working, 1)
        ],
        heed=_heed(wading_allowed=beat.wading_allowed),
        lies=[_lie_out(here) for here in one.lies],
    )


def _lie_out(one: Standing) -> LieOut:
    lie = one.lie
    stands_on = None if one.reading is None else "flow" if one.today and not one.fresh else "reading"
    return LieOut.model_validate(
        {
            **{
                name: getattr(lie, name)
                for name in ("id", "name", "kind", "bed", "along_m", "notes", "latitude", "longitude")
            },
            "reading": _reading_out(one.reading) if one.reading else None,
            "today": _carried_out(one.today) if one.today else None,
            "school": lie.school,
            "stands_on": stands_on,
            "situation": one.situation,
            "bottom": one.bottom,
        }
    )


def _reading_out(reading: Reading) -> ReadingOut:
    stored = {name: getattr(reading, name) for name in ReadingOut.model_fields if hasattr(reading, name)}
    return ReadingOut.model_validate({**stored, "fresh_until": reading.at + FRESH})


def _carried_out(today: Today) -> CarriedOut:
    at = today.at
    rating = []
    for flow, depth in today.rating:
        p10, p90 = (depth.value * math.exp(z * depth.relative_sd) for z in (DECILE_Z[0], DECILE_Z[-1]))
        rating.append(RatingPointOut(flow_m3_s=flow, depth_m=depth.value, depth_p10_m=p10, depth_p90_m=p90))
    return CarriedOut(
        flow_m3_s=at.flow_m3_s,
        depth_m=at.depth.value,
        depth_sd_m=at.depth.sd,
        surface_speed_m_s=at.speed.value,
        speed_sd_m_s=at.speed.sd,
        seen=[
            SeenOut.model_validate({name: getattr(r, name) for name in SeenOut.model_fields})
            for r in today.seen
        ],
        rating=rating,
    )


@cache
def _heed(*, wading_allowed: bool) -> dict[BedKind, Heed]:
    """Return what to mind over each bed; it does for every beat where wading is allowed, or is not."""
    return {bed: heed(bed, wading_allowed=wading_allowed) for bed in BED_KS}
