"""Reading the water: beats and lies as they stand today, and what an angler reads at one."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.day.lies import Judgement, judge_lie, working_order
from deriva.core.day.today import FRESH_H
from deriva.core.model.beat import BeatRules
from deriva.core.model.situation import Box, Fish, Place, School, Situation
from deriva.core.model.water import Water, carried_on
from deriva.core.ranges import DEPTH_M, DEPTH_SD_M, SURFACE_SPEED_M_S, TEMPERATURE_C, WIND_M_S
from deriva.core.read import read_noun
from deriva.core.tackle.rod import Rod
from deriva.core.water import bottom
from deriva.core.water.bottom import Bottom, Sounded
from deriva.core.water.geometry import Carried
from deriva.core.water.light import Light
from deriva.core.water.taken import Taken, measured
from deriva.service.schemas.log import ReadingIn, SpeedBubbles, SpeedTimed
from deriva.service.store import gauges, observed, owned, places
from deriva.service.store.models import Angler, Beat, Lie, Reading, River, Sounding
from deriva.service.usecases.box import box_of
from deriva.service.usecases.river import AtFlow, Rated, State, light_at, over_river, rated_lies, state_of

FRESH = timedelta(hours=FRESH_H)
YEAR = timedelta(days=365.25)

RATING_POINTS = 13


@dataclass(frozen=True, slots=True)
class Today:
    """A lie carried to today's flow, with what was seen at others and the rating that follows: flow (m³/s) and depth (m)."""

    at: AtFlow
    seen: Sequence[Reading]
    rating: Sequence[tuple[float, Carried]]


@dataclass(frozen=True, slots=True)
class Standing:
    """A lie as it stands: its newest reading, whether it is as that says still, what it is carried to today, the situation that
    follows, None: never read; and what is known of its bottom spot by spot.
    """

    lie: Lie
    reading: Reading | None
    fresh: bool
    today: Today | None
    situation: Situation | None
    bottom: Sequence[Bottom]


@dataclass(frozen=True, slots=True)
class BeatStanding:
    """A beat, its lies from downstream up, those that were read in working order, and what a first reading starts from."""

    beat: Beat
    river: str
    lies: Sequence[Standing]
    working: Sequence[tuple[Standing, Judgement]]
    carried: dict[str, Any]


@dataclass(frozen=True)
class Sight:
    """What is known of an angler's lies now: their newest readings, those at known flows, and each river's gauge."""

    now: datetime
    newest: dict[UUID, Reading]
    rated: dict[UUID, Rated]
    states: dict[UUID, State]
    rivers: dict[UUID, River]
    lights: dict[UUID, Light | None]
    winds: dict[UUID, float]
    box: Box | None
    soundings: dict[UUID, list[Sounding]]


async def sight(session: AsyncSession, angler: Angler, rivers: set[UUID]) -> Sight:
    """Gather what is known of the lies on these rivers."""
    now = datetime.now(UTC)
    states = {river: await state_of(session, angler.id, river, now=now) for river in rivers}
    lights: dict[UUID, Light | None] = {}
    by_id: dict[UUID, River] = {}
    winds: dict[UUID, float] = {}
    for river in rivers:
        place = by_id[river] = await owned.get_owned(session, River, angler.id, river)
        sky = await gauges.weather(session, place, since=now - timedelta(hours=1), until=now)
        if sky:
            winds[river] = WIND_M_S.clamp(sky[-1].wind_m_s)
        lights[river] = light_at(place, now, cloud=sky[-1].cloud if sky else 0.0)
    soundings: defaultdict[UUID, list[Sounding]] = defaultdict(list)
    for one in await observed.soundings(session, angler.id):
        soundings[one.lie_id].append(one)
    return Sight(
        now=now,
        soundings=soundings,
        newest=await observed.newest_readings(session, angler.id),
        rated=await rated_lies(session, angler.id),
        rivers=by_id,
        lights=lights,
        winds=winds,
        box=await box_of(session, angler.id),
        states={river: state for river, state in states.items() if state is not None and state.current(now)},
    )


def _today(rated: Rated | None, flow_m3_s: float | None) -> Today | None:
    """Carry a lie to today's flow; None where no flow is known now, or none at which it was read."""
    if rated is None or flow_m3_s is None:
        return None
    flows = [flow_m3_s, *(r.flow_m3_s for r in rated.readings if r.flow_m3_s is not None)]
    low, high = 0.6 * min(flows), 1.6 * max(flows)
    rating = []
    for k in range(RATING_POINTS):
        flow = low * (high / low) ** (k / (RATING_POINTS - 1))
        rating.append((flow, rated.at(flow).depth))
    return Today(rated.at(flow_m3_s), rated.readings, rating)


def _situation(
    lie: Lie,
    reading: Reading,
    beat: Beat,
    angler: Angler,
    *,
    fresh: bool,
    at_flow: AtFlow | None,
    known: Sight,
) -> tuple[Situation, bool]:
    """Return a lie as it stands, and whether that is as it was read: of the day, and the river as it was then.

    Where it is not of the day, it is carried to today's flow and weather; where the flow has changed since, what was read is
    carried on with it. A reading whose depth was itself taken over from the flow goes on with the flow, from the depth that was
    read that day before it, if any was.
    """
    rated = known.rated.get(lie.id)
    read = _read_today(reading, rated, known.now) if fresh else None
    water = {
        name: getattr(reading, name)
        for name in (
            "depth_m", "depth_sd_m", "surface_speed_m_s", "clarity_m", "temperature_c", "flow_class", "undertow",
        )
    }  # fmt: skip
    water["speed_sd_m_s"] = reading.speed_error_m_s
    if reading.under_line_m_s is not None:
        water["under_line_ratio"] = reading.under_line_m_s / reading.surface_speed_m_s
    state, wind_m_s = known.states.get(beat.river_id), reading.wind_m_s
    if at_flow is not None and read is not None:
        water |= {"depth_m": read.depth_m, "depth_sd_m": read.depth_sd_m}
    elif at_flow is not None:
        depth = DEPTH_M.clamp(at_flow.depth.value)
        water |= {"depth_m": depth, "depth_sd_m": DEPTH_SD_M.clamp(at_flow.depth.relative_sd * depth)}
        if fresh and rated is not None and reading.flow_m3_s is not None:
            share = at_flow.speed.value / rated.at(reading.flow_m3_s).speed.value
            water["surface_speed_m_s"] = SURFACE_SPEED_M_S.clamp(share * reading.surface_speed_m_s)
    if at_flow is not None and not fresh and state is not None:
        wind_m_s = known.winds.get(beat.river_id, wind_m_s)
        water["surface_speed_m_s"] = SURFACE_SPEED_M_S.clamp(at_flow.speed.value)
        water["speed_sd_m_s"] = min(2.0, at_flow.speed.sd)
    stands = read_noun(Water, {"kind": lie.kind, "bed": lie.bed, **water})
    moved = None if read is None else _moved(stands, read, reading, rated, at_flow)
    if at_flow is not None and state is not None and (moved is not None or not fresh):
        stands = replace(moved or stands, **_by_the_gauge(state))
    # signs are of the day
    signs = (
        {name: getattr(reading, name) for name in ("rises", "found", "refusing", "spawning")} if fresh else {}
    )
    river, light = known.rivers[beat.river_id], known.lights[beat.river_id]
    situation = Situation(
        water=stands,
        place=read_noun(
            Place,
            {
                "distance_m": reading.distance_m,
                "wading_allowed": beat.wading_allowed,
                "wind_m_s": wind_m_s,
                "tight_casting": reading.tight_casting,
                "cover": reading.cover,
            },
        ),
        fish=read_noun(Fish, {"feeding": reading.feeding, "species": beat.species, **signs}),
        rules=read_noun(BeatRules, beat.rules).of_a_rig,
        school=read_noun(School, angler.school if lie.school is None else lie.school),
        box=known.box,
        rod=read_noun(Rod, angler.rod),
        month=over_river(river, known.now).month,
        hemisphere="south" if (river.latitude or 0.0) < 0.0 else "north",
        light="day" if light is None else light.to_see_by,
    )
    return situation, fresh and moved is None and (at_flow is None or reading is read)


def _by_the_gauge(state: State) -> dict[str, Any]:
    """Return what a gauge tells of a water beside its flow."""
    told: dict[str, Any] = {}
    if state.temperature_c is not None:
        told["temperature_c"] = TEMPERATURE_C.clamp(state.temperature_c)
    if state.clarity_m is not None:
        told["clarity_m"] = state.clarity_m
    if state.normal is not None:
        told["flow_class"] = state.normal.flow_class
    return told


def _read_today(reading: Reading, rated: Rated | None, now: datetime) -> Reading | None:
    """Return the reading of the day that gives a lie's depth; None where that was only taken over from the flow."""
    if reading.depth_how != "flow":
        return reading
    seen = rated.readings[-1] if rated is not None and rated.readings else None
    return seen if seen is not None and now - seen.at < FRESH else None


def _moved(
    water: Water, read: Reading, newest: Reading, rated: Rated | None, now: AtFlow | None
) -> Water | None:
    """Return a lie that was read today as it is at the flow of now, its depth since it was read and its speed since the newest
    reading; None where nothing tells of a change.
    """
    if read.flow_m3_s is None or newest.flow_m3_s is None or rated is None or now is None:
        return None
    depth = now.depth.value / rated.at(read.flow_m3_s).depth.value
    return carried_on(water, depth=depth, speed=now.speed.value / rated.at(newest.flow_m3_s).speed.value)


def sounded(
    one: Sounding, *, at: datetime, read: Reading | None, rated: Rated | None, flow_m3_s: float | None
) -> Sounded:
    """Return what was found of a spot as it is told of at a time, when the lie was last read so and the river had so much flow;
    None: nobody knows.
    """
    lately = at - one.at < FRESH
    risen = 0.0 if lately else None
    if rated is not None and flow_m3_s is not None and one.flow_m3_s is not None:
        risen = rated.at(flow_m3_s).depth.value - rated.at(one.flow_m3_s).depth.value
    # what holds of the lie today, read or carried with the flow, is what one started from
    since = lately and read is not None and one.at >= read.at
    found = Bottom(one.lane, one.stance, one.depth_m, one.depth_sd_m, since)
    return Sounded(found, risen, max(0.0, (at - one.at) / YEAR))


def _standing(lie: Lie, beat: Beat, angler: Angler, known: Sight) -> Standing:
    reading, state = known.newest.get(lie.id), known.states.get(beat.river_id)
    today = _today(known.rated.get(lie.id), None if state is None else state.flow_m3_s)
    fresh = reading is not None and known.now - reading.at < FRESH
    situation = None
    if reading is not None:
        at_flow = today.at if today else None
        situation, fresh = _situation(lie, reading, beat, angler, fresh=fresh, at_flow=at_flow, known=known)
    flow = None if today is None else today.at.flow_m3_s
    found = [
        sounded(one, at=known.now, read=reading, rated=known.rated.get(lie.id), flow_m3_s=flow)
        for one in known.soundings.get(lie.id, ())
    ]
    return Standing(lie, reading, fresh, today, situation, bottom.today(found))


CARRIED = ("clarity_m", "clarity_how", "temperature_c", "distance_m", "wind_m_s", "flow_class")
"""What holds for a whole beat on a day."""


def _carried(readings: list[Reading], state: State | None, wind_m_s: float | None) -> dict[str, Any]:
    """Return what a first reading on a beat starts from: its newest reading, and what gauge and sky say now."""
    found: dict[str, Any] = {}
    if readings:
        newest = max(readings, key=lambda reading: reading.at)
        found = {name: getattr(newest, name) for name in CARRIED}
    if wind_m_s is not None:
        found["wind_m_s"] = wind_m_s
    if state is not None and state.temperature_c is not None:
        found["temperature_c"] = TEMPERATURE_C.clamp(state.temperature_c)
    if state is not None and state.clarity_m is not None:
        found["clarity_m"], found["clarity_how"] = state.clarity_m, "boots"
    if state is not None and state.normal is not None:
        found["flow_class"] = state.normal.flow_class
    return found


def _working(lies: Sequence[Standing], light: Light | None) -> list[tuple[Standing, Judgement]]:
    """Return the lies that have been read in the order of working them today, each with what it is worth now."""
    read = [(one, one.situation) for one in lies if one.situation is not None]
    order = working_order([(one.lie.along_m, situation) for one, situation in read])
    return [(read[k][0], judge_lie(read[k][1], light)) for k in order]


async def standings(session: AsyncSession, angler: Angler, beat_id: UUID) -> list[Standing]:
    """Return the lies of one beat as they stand; raises NotYours for another's."""
    beat = await owned.get_owned(session, Beat, angler.id, beat_id)
    known = await sight(session, angler, {beat.river_id})
    lies = await places.lies(session, angler.id)
    return [_standing(lie, beat, angler, known) for lie in lies if lie.beat_id == beat_id]


async def beats_as_they_stand(session: AsyncSession, angler: Angler) -> list[BeatStanding]:
    """Return every beat of the angler's, in order."""
    beats = await places.beats(session, angler.id)
    known = await sight(session, angler, {beat.river_id for beat, _ in beats})
    by_beat: defaultdict[UUID, list[Lie]] = defaultdict(list)
    for lie in await places.lies(session, angler.id):
        by_beat[lie.beat_id].append(lie)
    found = []
    for beat, river in beats:
        lies = [_standing(lie, beat, angler, known) for lie in by_beat[beat.id]]
        read = [one.reading for one in lies if one.reading is not None]
        state, wind = known.states.get(beat.river_id), known.winds.get(beat.river_id)
        working = _working(lies, known.lights[beat.river_id])
        found.append(BeatStanding(beat, river, lies, working, _carried(read, state, wind)))
    return found


def reading_values(reading: ReadingIn, *, eye_error: float | None = None) -> dict[str, Any]:
    """Return the columns of a reading: speed from a timed bubble and spreads from how things were taken, ``eye_error`` that of
    the angler's eye where it is known.
    """
    values = reading.model_dump(exclude={"speed"})
    speed = reading.speed
    taken = Taken(reading.depth_m, reading.depth_how, reading.depth_sd_m, eye_error=eye_error)
    if isinstance(speed, SpeedBubbles):
        taken = replace(taken, distance_m=speed.distance_m, seconds=speed.seconds)
    else:
        error = speed.error_m_s if isinstance(speed, SpeedTimed) else None
        taken = replace(taken, surface_speed_m_s=speed.surface_speed_m_s, speed_sd_m_s=error)
    found = measured(taken)
    values["depth_sd_m"] = found.depth_sd_m
    values["surface_speed_m_s"], values["speed_error_m_s"] = found.surface_speed_m_s, found.speed_sd_m_s
    values["speed_how"] = "typed" if speed.how == "typed" else "bubbles"
    return values
