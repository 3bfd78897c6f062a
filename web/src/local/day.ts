/** The day on this device: from when until when one fishes, as it was said here, and what has been fished of it. */
import { useLiveQuery } from "dexie-react-hooks";
import { type Of, since } from "./entries";
import { device, type Entry, type Kind } from "./records";

const DAY = "day";

const HALF_HOUR_MS = 30 * 60_000;

/** When one begins and ends, in ms; null where it was not said. */
export interface Times {
  from: number | null;
  until: number | null;
}

/** The day where the phone is, as a word. */
const dayOf = (at: number): string => new Date(at).toDateString();

/** What was said of today, or of an evening that goes on past midnight; undefined while the device is being read. */
export const useSaidTimes = (): Times | undefined =>
  useLiveQuery(async () => {
    const kept = (await device.notes.get(DAY))?.value as (Times & { on: string }) | undefined;
    const goesOn = kept && (kept.on === dayOf(Date.now()) || Date.now() < (kept.until ?? 0));
    return goesOn ? kept : { from: null, until: null };
  }, []);

export const sayTimes = ({ from, until }: Times) =>
  device.notes.put({ key: DAY, value: { from, until, on: dayOf(Date.now()) } });

/** The half hours from a time on. */
export function halfHours(after: number, many: number): number[] {
  const first = Math.ceil(after / HALF_HOUR_MS) * HALF_HOUR_MS;
  return Array.from({ length: many }, (_, k) => first + k * HALF_HOUR_MS);
}

/** A drift that stands, where and when it was made. */
export interface MadeToday {
  lie: string;
  at: number;
}

/** The drifts among some entries that stand, oldest first, by where they were made. */
export function madeIn(entries: readonly Entry[]): MadeToday[] {
  const of = <K extends Kind>(kind: K) => entries.filter((one): one is Of<K> => one.kind === kind);
  const lies = new Map(of("stops").map((one) => [one.id, one.body.lie_id]));
  const stops = new Map(of("settings").map((one) => [one.id, one.body.stop_id]));
  return of("drifts")
    .filter((one) => !one.body.undone)
    .flatMap(({ body }) => {
      const lie = lies.get(stops.get(body.setting_id) ?? "");
      return lie === undefined ? [] : [{ lie, at: Date.parse(body.at) }];
    })
    .sort((a, b) => a.at - b.at);
}

/** What was fished since midnight; undefined while the device is being read. */
export const useMadeToday = (angler: string): MadeToday[] | undefined =>
  useLiveQuery(
    async () =>
      angler ? madeIn(await since(angler, new Date(new Date().setHours(0, 0, 0, 0)).toISOString())) : [],
    [angler],
  );
