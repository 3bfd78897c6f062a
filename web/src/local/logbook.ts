/** The log of the outing under way, read off the device's own entries; pure but for the hook at the end. */
import { useLiveQuery } from "dexie-react-hooks";
import { api, unwrap } from "../api/client";
import { type Bodies, device, type Entry, type Kind } from "./records";

type Of<K extends Kind> = Extract<Entry, { kind: K }>;

export interface Log {
  outing: Of<"outings"> | null;
  stop: Of<"stops"> | null;
  setting: Of<"settings"> | null;
  settings: Of<"settings">[];
  /** Standing drifts of the stop, oldest first. */
  drifts: Of<"drifts">[];
  catches: Of<"catches">[];
  /** How many entries the service has not acknowledged yet, and what it refused. */
  waiting: number;
  refused: Of<Kind>[];
}

const byTime =
  <T extends { id: string }>(at: (entry: T) => string) =>
  (a: T, b: T) =>
    at(a).localeCompare(at(b)) || a.id.localeCompare(b.id);

/** The log as it stands at a lie, from all entries of an angler. */
export function logAt(entries: Entry[], lie: string): Log {
  const of = <K extends Kind>(kind: K) => entries.filter((e): e is Of<K> => e.kind === kind);
  const outing =
    of("outings")
      .filter((e) => !e.body.ended_at)
      .sort(byTime((e) => e.body.started_at))
      .at(-1) ?? null;
  const stops = of("stops").filter((e) => e.body.outing_id === outing?.id);
  const latest = stops.sort(byTime((e) => e.body.at)).at(-1) ?? null;
  const stop = latest?.body.lie_id === lie ? latest : null;
  const settings = of("settings")
    .filter((e) => e.body.stop_id === stop?.id)
    .sort(byTime((e) => e.body.at));
  const here = new Set(settings.map((e) => e.id));
  const drifts = of("drifts")
    .filter((e) => here.has(e.body.setting_id) && !e.body.undone)
    .sort(byTime((e) => e.body.at));
  const standing = new Set(drifts.map((e) => e.id));
  return {
    outing,
    stop,
    setting: settings.at(-1) ?? null,
    settings,
    drifts,
    catches: of("catches").filter((e) => standing.has(e.body.drift_id) && !e.body.undone),
    waiting: entries.filter((e) => e.sent === 0 && e.refused === null).length,
    refused: entries.filter((e) => e.refused !== null),
  };
}

/** The log at a lie as the device has it now. */
export async function readLog(angler: string, lie: string): Promise<Log> {
  const mine = device.entries.where("[angler+seq]").between([angler, -Infinity], [angler, Infinity]);
  return logAt(await mine.toArray(), lie);
}

/** The live log at a lie; undefined while the device is still being read. */
export const useLog = (angler: string, lie: string): Log | undefined =>
  useLiveQuery(() => readLog(angler, lie), [angler, lie]);

/** Bring an outing that is open on the service, but unknown here, on to this device. */
export async function adoptOpenOuting(angler: string): Promise<void> {
  const open = (await unwrap(api.GET("/api/outings"))).find((outing) => outing.ended_at === null);
  if (!open || (await device.entries.get(open.id))) return;
  const book = await unwrap(
    api.GET("/api/outings/{outing_id}", { params: { path: { outing_id: open.id } } }),
  );
  const found: [Kind, string, Bodies[Kind]][] = [
    ["outings", open.id, { beat_id: open.beat_id, started_at: open.started_at, ended_at: null }],
  ];
  for (const { id, lie_id, at, situation, settings } of book.stops) {
    found.push(["stops", id, { outing_id: open.id, lie_id, at, situation }]);
    for (const { drifts, ...setting } of settings) {
      found.push(["settings", setting.id, { ...without(setting, "id"), stop_id: id }]);
      for (const drift of drifts) {
        const { outcome, pace } = drift;
        found.push([
          "drifts",
          drift.id,
          { setting_id: setting.id, at: drift.at, outcome, pace, undone: false },
        ]);
        for (const fish of drift.catches)
          found.push(["catches", fish.id, { ...without(fish, "id"), drift_id: drift.id, undone: false }]);
      }
    }
  }
  const entries = found.map(([kind, id, body], k) => ({
    id,
    kind,
    angler,
    seq: k - found.length,
    sent: 1,
    refused: null,
    body,
  }));
  await device.entries.bulkPut(entries as Entry[]);
}

function without<T extends object, K extends keyof T>(value: T, key: K): Omit<T, K> {
  const { [key]: _, ...rest } = value;
  return rest;
}
