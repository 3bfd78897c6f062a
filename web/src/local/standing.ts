/**
 * How a lie stands when something was read here that the service has not got: the new numbers, what was worked out for the old
 * ones, and what to mind in the new water. Nothing is reckoned here but a look into the service's own table.
 */

import type { Beat, Caution, Lie, ReadingIn, Situation } from "../api/client";
import type { Angler } from "./angler";
import type { Measured } from "./engine";
import type { Held } from "./logbook";

/** What was read since, beside what is worked out. */
export interface Again {
  /** The record of the reading, for what is changed of it. */
  id: string;
  reading: ReadingIn;
  /** Null where the service has never worked anything out here. */
  was: Situation["water"] | null;
  cautions: Caution[];
}

/** The surface speed of a reading; one that was timed is worked out by the service. */
export const speedRead = (reading: ReadingIn): number | null =>
  reading.speed.how === "bubbles" ? null : reading.speed.surface_speed_m_s;

/** What to mind in the water as read, gravest first, by the table that came with the lie. */
export function heeded(
  heed: Beat["heed"][string] | undefined,
  depth: number,
  speed: number | null,
  warmth: number | undefined,
): Caution[] {
  if (!heed) return [];
  const { depths_m, staff_m_s, never_m_s, stop_c, staff, never, stop, always } = heed;
  const said = warmth !== undefined && warmth >= stop_c ? [stop] : [];
  const row = depths_m.findIndex((deep) => deep >= depth);
  const from = (limits: number[]) => limits[row] ?? 0;
  if (row < 0 || (speed !== null && speed >= from(never_m_s)) || from(never_m_s) === 0) said.push(never);
  else if (speed === null || speed >= from(staff_m_s)) said.push(staff);
  return [...said, always];
}

/**
 * A lie as read just now: the situation of before with the new numbers in it, or the first one of the lie. What follows from how
 * they were taken is worked out by the engine, where it is here.
 */
export function asRead(
  lie: Lie,
  beat: Beat,
  angler: Angler,
  reading: ReadingIn,
  measured?: Measured,
): Situation | null {
  const speed = measured?.surface_speed_m_s ?? speedRead(reading) ?? lie.situation?.water.surface_speed_m_s;
  if (speed === undefined) return null;
  const before = lie.situation;
  const { depth_m, clarity_m, temperature_c, flow_class, undertow } = reading;
  const known = { clarity_m, temperature_c, flow_class, undertow };
  const given = Object.fromEntries(Object.entries(known).filter(([, value]) => value !== undefined));
  const water = {
    ...(before?.water ?? { kind: lie.kind, bed: lie.bed }),
    ...given,
    depth_m,
    depth_sd_m: measured?.depth_sd_m ?? reading.depth_sd_m ?? null,
    surface_speed_m_s: speed,
    ...(measured ? { speed_sd_m_s: measured.speed_sd_m_s } : {}),
    under_line_ratio: reading.under_line_m_s ? reading.under_line_m_s / speed : null,
  } as Situation["water"];
  return {
    water,
    place: {
      ...before?.place,
      distance_m: reading.distance_m,
      wind_m_s: reading.wind_m_s,
      tight_casting: reading.tight_casting,
      cover: reading.cover ?? before?.place?.cover ?? [],
      wading_allowed: beat.wading_allowed,
    } as Situation["place"],
    fish: {
      species: beat.species,
      ...before?.fish,
      feeding: reading.feeding ?? null,
      rises: reading.rises,
      found: reading.found,
      refusing: reading.refusing,
      spawning: reading.spawning,
    } as Situation["fish"],
    rules: beat.rig_rules,
    school: lie.school ?? angler.school,
    rod: angler.rod,
    hemisphere: before?.hemisphere ?? "north",
    month: before?.month ?? null,
    light: before?.light ?? "day",
    box: before?.box ?? beat.lies.find((one) => one.situation)?.situation?.box ?? null,
  };
}

/** What was read since the service last told of a lie; null where that is nothing, or what it did not take. */
export function readAgain(lie: Lie, beat: Beat, held: Held | null): Again | null {
  if (!held || held.refused !== null) return null;
  const reading = held.body;
  return {
    id: held.id,
    reading,
    was: lie.situation?.water ?? null,
    cautions: heeded(beat.heed[lie.bed], reading.depth_m, speedRead(reading), reading.temperature_c),
  };
}

/** What is to be minded at a lie whatever else is known. */
export const always = (beat: Beat, lie: Lie): Caution[] => {
  const heed = beat.heed[lie.bed];
  return heed ? [heed.always] : [];
};
