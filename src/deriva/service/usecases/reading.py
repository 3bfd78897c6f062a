"""Reading the water: beats and lies as they stand today, and what an angler reads at one."""

from collections import defaultdict
from typing import Any
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.advice.cautions import cautions
from deriva.core.advice.situation import Situation
from deriva.core.advice.zone import strike_zone
from deriva.core.water.profile import BED_KS, current_speed, is_shallow_for_stones, mean_to_surface
from deriva.core.water.sounding import depth_sd
from deriva.core.water.timing import bubble_speed
from deriva.service.schemas.advise import (
    RulesModel,
    SchoolModel,
    SituationFish,
    SituationModel,
    SituationPlace,
    SituationWater,
)
from deriva.service.schemas.column import ColumnOut, SpeedAtOut
from deriva.service.schemas.log import BeatOut, Conditions, LieOut, ReadingIn, ReadingOut, SpeedBubbles
from deriva.service.store import queries
from deriva.service.store.models import Angler, Beat, Lie, Reading

PROFILE_POINTS = 33


def _reading_out(reading: Reading) -> ReadingOut:
    return ReadingOut.model_validate(
        {name: getattr(reading, name) for name in ReadingOut.model_fields}, strict=False
    )


def _situation(lie: Lie, reading: Reading, beat: Beat, angler: Angler) -> SituationModel:
    return SituationModel(
        water=SituationWater.model_validate(
            {
                "kind": lie.kind,
                "bed": lie.bed,
                **{
                    name: getattr(reading, name)
                    for name in (
                        "depth_m", "depth_sd_m", "surface_speed_m_s", "clarity_m", "temperature_c", "flow_class", "undertow",
                    )
                },
            }
        ),
        place=SituationPlace(
            distance_m=reading.distance_m,
            wading_allowed=beat.wading_allowed,
            wind_m_s=reading.wind_m_s,
            tight_casting=reading.tight_casting,
        ),
        fish=SituationFish.model_validate({"feeding": reading.feeding}),
        rules=RulesModel.model_validate(beat.rules),
        school=SchoolModel.model_validate(angler.school),
    )  # fmt: skip


def _lie_out(lie: Lie, reading: Reading | None, beat: Beat, angler: Angler) -> LieOut:
    return LieOut.model_validate(
        {
            **{name: getattr(lie, name) for name in ("id", "name", "kind", "bed", "along_m", "notes")},
            "reading": _reading_out(reading) if reading else None,
            "situation": _situation(lie, reading, beat, angler) if reading else None,
        }
    )


CARRIED = ("clarity_m", "temperature_c", "distance_m", "wind_m_s", "flow_class")
"""What holds for a whole beat on a day."""


def _carried(readings: list[Reading]) -> Conditions:
    if not readings:
        return Conditions()
    newest = max(readings, key=lambda reading: reading.at)
    return Conditions.model_validate({name: getattr(newest, name) for name in CARRIED})


async def list_beats(session: AsyncSession, angler: Angler) -> list[BeatOut]:
    """Return every beat of the angler's with its lies, each lie with its newest reading."""
    readings = await queries.newest_readings(session, angler.id)
    by_beat: defaultdict[UUID, list[Lie]] = defaultdict(list)
    for lie in await queries.lies(session, angler.id):
        by_beat[lie.beat_id].append(lie)
    return [
        BeatOut(
            id=beat.id,
            river=river,
            name=beat.name,
            rules=RulesModel.model_validate(beat.rules),
            rules_text=beat.rules_text,
            wading_allowed=beat.wading_allowed,
            carried=_carried([readings[lie.id] for lie in by_beat[beat.id] if lie.id in readings]),
            lies=[_lie_out(lie, readings.get(lie.id), beat, angler) for lie in by_beat[beat.id]],
        )
        for beat, river in await queries.beats(session, angler.id)
    ]


def reading_values(reading: ReadingIn) -> dict[str, Any]:
    """Return the columns of a reading: speed from a timed bubble and spreads from how things were taken."""
    values = reading.model_dump(exclude={"speed"})
    if isinstance(reading.speed, SpeedBubbles):
        timed = bubble_speed(distance_m=reading.speed.distance_m, seconds=reading.speed.seconds)
        values |= {"surface_speed_m_s": timed.speed_m_s, "speed_error_m_s": timed.error_m_s}
    else:
        values |= {"surface_speed_m_s": reading.speed.surface_speed_m_s, "speed_error_m_s": None}
    values["speed_how"] = reading.speed.how
    values["depth_sd_m"] = depth_sd(depth_m=reading.depth_m, how=reading.depth_how)
    return values


async def put_reading(session: AsyncSession, angler: Angler, reading_id: UUID, reading: ReadingIn) -> LieOut:
    """Store a reading, or its correction under the same id; return the lie as it now stands."""
    values = reading_values(reading)
    await queries.put(session, Reading, angler.id, reading_id, values, replace=True)
    lie = await queries.get_owned(session, Lie, angler.id, reading.lie_id)
    beat = await queries.get_owned(session, Beat, angler.id, lie.beat_id)
    stored = await queries.get_owned(session, Reading, angler.id, reading_id)
    return _lie_out(lie, stored, beat, angler)


def column(situation: Situation) -> ColumnOut:
    """Return the column of a situation for drawing: all of it computed by the core."""
    water = situation.water
    believed = water.column()
    depths = water.depths()
    zone = strike_zone(
        feeding=situation.fish.feeding, depth_m=water.depth_m, temperature_c=water.temperature_c
    )

    def speed(height_m: float) -> float:
        return current_speed(
            height_m=height_m,
            depth_m=believed.depth_m,
            surface_speed_m_s=believed.surface_speed_m_s,
            bed_ks_m=believed.bed_ks_m,
            profile=believed.profile,
        )

    ratio = mean_to_surface(depth_m=believed.depth_m, bed_ks_m=believed.bed_ks_m, profile=believed.profile)
    # closer together by the bed, where the current changes fastest
    heights = [water.depth_m * (k / (PROFILE_POINTS - 1)) ** 2 for k in range(PROFILE_POINTS)]
    return ColumnOut(
        depth_m=water.depth_m,
        depth_p10_m=depths[0],
        depth_p90_m=depths[-1],
        bed_ks_m=believed.bed_ks_m,
        profile=[SpeedAtOut(height_m=h, speed_m_s=speed(h)) for h in heights],
        mean_speed_m_s=ratio * water.surface_speed_m_s,
        mean_ratio=ratio,
        zone_low_m=zone.low_m,
        zone_high_m=zone.high_m,
        zone_speed_m_s=speed(0.5 * (zone.low_m + zone.high_m)),
        shallow=is_shallow_for_stones(depth_m=water.depth_m, bed_ks_m=BED_KS[water.bed]),
        cautions=list(cautions(situation)),
    )
