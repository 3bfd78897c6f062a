/** The log of the outing under way, read off the device's own entries; pure but for the hook at the end. */
import { useLiveQuery } from "dexie-react-hooks";
import { device, type Entry, type Kind } from "./records";

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
  return logAt(await device.entries.where("angler").equals(angler).toArray(), lie);
}

/** The live log at a lie; undefined while the device is still being read. */
export const useLog = (angler: string, lie: string): Log | undefined =>
  useLiveQuery(() => readLog(angler, lie), [angler, lie]);

export type Held = Of<"readings">;

/** The newest reading of a lie that is kept here and not at the service: it waits for signal, or was refused. */
export const heldAt = (entries: Entry[], lie: string): Held | null =>
  entries
    .filter((e): e is Held => e.kind === "readings" && e.body.lie_id === lie && e.sent === 0)
    .sort(byTime((e) => e.at))
    .at(-1) ?? null;

export const useHeld = (lie: string): Held | null =>
  useLiveQuery(async () => {
    const angler = ((await device.notes.get("angler"))?.value as { id: string } | undefined)?.id;
    return angler ? heldAt(await device.entries.where("angler").equals(angler).toArray(), lie) : null;
  }, [lie]) ?? null;
