/** Reading what is kept of a log: no more of it than is asked for, since it grows with every outing and a tap waits for it. */
import { device, type Entry, type Kind } from "./records";

export type Of<K extends Kind> = Extract<Entry, { kind: K }>;

export async function ofKind<K extends Kind>(angler: string, kind: K): Promise<Of<K>[]> {
  return (await device.entries.where("[angler+kind]").equals([angler, kind]).toArray()) as Of<K>[];
}

/** What the service has not taken: it waits, or was refused. */
export const unsent = (angler: string): Promise<Entry[]> =>
  device.entries.where("[angler+sent]").equals([angler, 0]).toArray();

const A_DAY_MS = 24 * 3600_000;

/** What was fished and seen after a time, by what was written of it. */
export async function since(angler: string, at: string): Promise<Entry[]> {
  // times are written in more than one form: their order as words is that of time but within a day
  const from = new Date(Date.parse(at) - A_DAY_MS).toISOString();
  const found = await device.entries.where("[angler+body.at]").above([angler, from]).toArray();
  return found.filter(
    (one) => one.angler === angler && "at" in one.body && Date.parse(one.body.at) > Date.parse(at),
  );
}

type Parent = "body.outing_id" | "body.stop_id" | "body.setting_id";
/** What hangs on some records: whole at each, since to step through many at once takes a turn of the browser's for every one. */
async function under(parent: Parent, ids: Iterable<string>): Promise<Entry[]> {
  const each = [...new Set(ids)].map((id) => device.entries.where(parent).equals(id).toArray());
  return (await Promise.all(each)).flat();
}
const idsOf = (entries: Entry[], kind: Kind): string[] =>
  entries.filter((one) => one.kind === kind).map((one) => one.id);

/** What of an outing the service told of, by which what hangs on it is found. */
export type Told = Record<"stops" | "settings" | "drifts" | "others", string[]>;
const NOTHING: Told = { stops: [], settings: [], drifts: [], others: [] };

/** Where an outing was fished, and with what: its stops, with its notes, and its settings. */
export async function stopsOf(outing: string, told = NOTHING): Promise<Entry[]> {
  const first = await under("body.outing_id", [outing]);
  const set = await under("body.stop_id", [...told.stops, ...idsOf(first, "stops")]);
  return once([...first, ...set]);
}

/** All that is kept of an outing: itself, its stops, settings, drifts, fish and notes. */
export async function ofOuting(angler: string, outing: string, told = NOTHING): Promise<Entry[]> {
  const { stops, settings, drifts, others } = told;
  const [known, first, caught] = await Promise.all([
    device.entries.bulkGet([outing, ...stops, ...settings, ...drifts, ...others]),
    stopsOf(outing, told),
    ofKind(angler, "catches"), // fewer than drifts, of which there may be many to look under
  ]);
  const fished = await under("body.setting_id", [...settings, ...idsOf(first, "settings")]);
  const here = new Set([...drifts, ...idsOf(fished, "drifts")]);
  const landed = caught.filter((one) => here.has(one.body.drift_id));
  return once([...known.flatMap((one) => one ?? []), ...first, ...fished, ...landed]);
}

/** Each entry once. */
export const once = (entries: Entry[]): Entry[] => [...new Map(entries.map((one) => [one.id, one])).values()];

/** The outing that something was fished in or noted of; null where it is not known here, or there is none. */
export async function outingOf(entry: Entry): Promise<string | null> {
  if (entry.kind === "outings") return entry.id;
  const { body } = entry;
  if ("outing_id" in body) return body.outing_id;
  const parent =
    "stop_id" in body
      ? body.stop_id
      : "setting_id" in body
        ? body.setting_id
        : "drift_id" in body
          ? body.drift_id
          : null;
  const above = parent ? await device.entries.get(parent) : undefined;
  return above ? outingOf(above) : null;
}
