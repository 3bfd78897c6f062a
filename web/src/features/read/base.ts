/** What a change of a reading starts from. */
import type { Lie, Reading, ReadingIn, Situation } from "../../api/client";
import { newId } from "../../local/outbox";
import type { Timed } from "./SpeedField";

export type Base = Omit<ReadingIn, "at">;

/** The reading of the day, or what the lie is carried to at today's flow. */
export function baseOf(lie: Lie, situation: Situation, reading: Reading): Base {
  const {
    id: _id,
    at: _at,
    depth_sd_m,
    flow_m3_s: _flow,
    fresh_until: _until,
    surface_speed_m_s,
    speed_error_m_s: error_m_s,
    speed_how,
    ...rest
  } = reading;
  if (lie.stands_on === "reading")
    return {
      ...rest,
      // what drifts found has an error of its own; that of everything else follows from how it was taken
      depth_sd_m: reading.depth_how === "drifts" ? depth_sd_m : null,
      speed:
        speed_how === "bubbles" && error_m_s !== null
          ? { how: "timed", surface_speed_m_s, error_m_s }
          : { how: "typed", surface_speed_m_s },
    };
  const { depth_m, surface_speed_m_s: speed, clarity_m, temperature_c, flow_class } = situation.water;
  return {
    ...rest,
    depth_m,
    depth_sd_m: null,
    depth_how: "flow",
    clarity_m: clarity_m ?? rest.clarity_m,
    temperature_c: temperature_c ?? rest.temperature_c,
    flow_class: flow_class ?? rest.flow_class,
    rises: situation.fish?.rises ?? "none",
    found: situation.fish?.found ?? [],
    refusing: situation.fish?.refusing ?? false,
    spawning: situation.fish?.spawning ?? false,
    speed: { how: "typed", surface_speed_m_s: speed },
  };
}

/** The speed of a reading as its field shows it; one that was timed and not reckoned yet has no number. */
export function speedOf({ speed }: Base): { speed: number | null; timed: Timed | null } {
  if (speed.how === "bubbles") return { speed: null, timed: { speed_m_s: null, error_m_s: null } };
  const { surface_speed_m_s } = speed;
  return {
    speed: surface_speed_m_s,
    timed:
      speed.how === "timed" ? { speed_m_s: surface_speed_m_s, error_m_s: speed.error_m_s ?? null } : null,
  };
}

/** A change of a reading: a depth that somebody gives has been seen, if only by eye, and its old error goes. */
export function changed(base: Base, change: Partial<ReadingIn>): Base {
  if (change.depth_m === undefined && change.depth_how === undefined) return { ...base, ...change };
  const seen = base.depth_how === "flow" || base.depth_how === "drifts" ? { depth_how: "eye" as const } : {};
  return { ...base, ...seen, depth_sd_m: null, ...change };
}

/** What was read of a lie today, at the flow of then, where it is carried on from that with the river. */
export function carriedFrom({ stands_on, reading, today }: Lie, now = Date.now()) {
  const last = today?.seen.at(-1);
  if (stands_on !== "flow" || !reading || !last) return null;
  const aDay = Date.parse(reading.fresh_until) - Date.parse(reading.at);
  return now - Date.parse(last.at) < aDay ? last : null;
}

/** Whether what the service tells of a lie is told for today: read, or as it follows from the flow, not as it once was read. */
export const isOfToday = ({ stands_on, reading }: Lie, now = Date.now()): boolean =>
  stands_on === "flow" || (reading !== null && now < Date.parse(reading.fresh_until));

/** A change corrects a reading of the day, and what was written then of a lie that is carried; else it is a new one. */
export function idFor(lie: Lie, reading: Reading, now = Date.now()): string {
  const its = lie.stands_on === "reading" || reading.depth_how === "flow";
  return its && now < Date.parse(reading.fresh_until) ? reading.id : newId();
}
