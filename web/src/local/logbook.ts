/** The log of the outing under way, read off the device's own entries; pure but for the hook at the end. */
import { useLiveQuery } from "dexie-react-hooks";
import type { Lie } from "../api/client";
import { type Of, ofKind, ofOuting, once, stopsOf, unsent } from "./entries";
import { type Bodies, device, type Entry, type Kind } from "./records";

export interface Log {
  outing: Of<"outings"> | null;
  stop: Of<"stops"> | null;
  /** The stops of the stay at this lie, oldest first: read again, it is another. */
  stops: Of<"stops">[];
  setting: Of<"settings"> | null;
  settings: Of<"settings">[];
  /** What was last set here, on whatever device: it hangs on the rod. */
  rod: Of<"settings"> | null;
  /** What was last set in the outing at another lie, before anything is set here: one comes with it on the rod. */
  carried: Of<"settings"> | null;
  /** Standing drifts of the stay at this lie, oldest first. */
  drifts: Of<"drifts">[];
  catches: Of<"catches">[];
  /** What was found of the bottom here in this outing, oldest first. */
  soundings: Of<"soundings">[];
  /** How many entries the service has not acknowledged yet, and what it refused. */
  waiting: number;
  refused: Of<Kind>[];
}

const byTime =
  <T extends { id: string }>(at: (entry: T) => string) =>
  (a: T, b: T) =>
    at(a).localeCompare(at(b)) || a.id.localeCompare(b.id);

/** The outing that is under way. */
const openOf = (outings: Of<"outings">[]): Of<"outings"> | null =>
  outings
    .filter((e) => !e.body.ended_at && !e.body.gone)
    .sort(byTime((e) => e.body.started_at))
    .at(-1) ?? null;

/** The stops at lies of an outing, the first one first. */
export const stopsIn = (entries: Entry[], outing: string | undefined): Of<"stops">[] =>
  entries
    .filter((e): e is Of<"stops"> => e.kind === "stops" && e.body.outing_id === outing)
    .sort(byTime((e) => e.body.at));

/** The stops of a stay at a lie up to one of an outing's: read again while one stays, it is another. */
export function stayOf(stops: Of<"stops">[], id: string | undefined): Of<"stops">[] {
  const last = stops.findIndex((one) => one.id === id);
  const before = stops.slice(0, last + 1);
  return before.slice(before.findLastIndex((one) => one.body.lie_id !== stops[last]?.body.lie_id) + 1);
}

/** The log as it stands at a lie, from what is kept of an angler: of the outing under way, and of what the service has not taken, all. */
export function logAt(entries: Entry[], lie: string): Log {
  const of = <K extends Kind>(kind: K) => entries.filter((e): e is Of<K> => e.kind === kind);
  const outing = openOf(of("outings"));
  const stops = stopsIn(entries, outing?.id);
  const latest = stops.at(-1) ?? null;
  const stop = latest?.body.lie_id === lie ? latest : null;
  const ofStay = stayOf(stops, stop?.id);
  const stay = new Set(ofStay.map((e) => e.id));
  const settings = of("settings")
    .filter((e) => stay.has(e.body.stop_id))
    .sort(byTime((e) => e.body.at));
  const ofOuting = new Set(stops.map((e) => e.id));
  const before = of("settings")
    .filter((e) => ofOuting.has(e.body.stop_id))
    .sort(byTime((e) => e.body.at));
  const here = new Set(settings.map((e) => e.id));
  const drifts = of("drifts")
    .filter((e) => here.has(e.body.setting_id) && !e.body.undone)
    .sort(byTime((e) => e.body.at));
  const standing = new Set(drifts.map((e) => e.id));
  return {
    outing,
    stop,
    stops: ofStay,
    setting: settings.findLast((e) => e.body.stop_id === stop?.id) ?? null,
    rod: settings.at(-1) ?? null,
    carried: settings.length > 0 ? null : (before.at(-1) ?? null),
    settings,
    drifts,
    soundings: of("soundings")
      .filter((e) => e.body.lie_id === lie && !e.body.gone)
      .filter((e) => outing && Date.parse(e.body.at) >= Date.parse(outing.body.started_at))
      .sort(byTime((e) => e.body.at)),
    catches: of("catches").filter((e) => standing.has(e.body.drift_id) && !e.body.undone),
    waiting: entries.filter((e) => e.sent === 0 && e.refused === null).length,
    refused: entries.filter((e) => e.refused !== null),
  };
}

/** The last drift that one device logged. */
export const ownLast = (log: Log, device: string): Of<"drifts"> | undefined =>
  log.drifts.findLast((one) => one.device === device);

/** The log at a lie as the device has it now. */
export async function readLog(angler: string, lie: string): Promise<Log> {
  const [outings, soundings, waiting] = await Promise.all([
    ofKind(angler, "outings"),
    ofKind(angler, "soundings"),
    unsent(angler),
  ]);
  const open = openOf(outings);
  const fished = open ? await ofOuting(angler, open.id) : [];
  return logAt(once([...outings, ...fished, ...soundings, ...waiting]), lie);
}

/** Where and with what is fished at a lie as the device has it now: the outing, the stop and the setting. */
export async function readStand(
  angler: string,
  lie: string,
): Promise<Pick<Log, "outing" | "stop" | "setting">> {
  const outings = await ofKind(angler, "outings");
  const open = openOf(outings);
  return logAt([...outings, ...(open ? await stopsOf(open.id) : [])], lie);
}

/** Whose log the device keeps. */
const kept = async (): Promise<string | undefined> =>
  ((await device.notes.get("angler"))?.value as { id: string } | undefined)?.id;

/** The lie at which one stands in the outing under way; null where there is none, undefined while the device is being read. */
export const useStanding = (): string | null | undefined =>
  useLiveQuery(async () => {
    const angler = await kept();
    const open = angler ? openOf(await ofKind(angler, "outings")) : null;
    return open ? (stopsIn(await stopsOf(open.id), open.id).at(-1)?.body.lie_id ?? null) : null;
  }, []);

/** The live log at a lie; undefined while the device is still being read. */
export const useLog = (angler: string, lie: string): Log | undefined =>
  useLiveQuery(async () => (angler ? readLog(angler, lie) : undefined), [angler, lie]);

export type Held = Of<"readings">;

/** A lie as the service last told of it. */
type Told = Pick<Lie, "id" | "reading">;

/** Whether a reading is newer than the one that a lie stands on. The service takes none to be of after it came in. */
const isNews = (held: Held, { reading }: Told): boolean =>
  !reading || Date.parse(reading.at) < Math.min(Date.parse(held.body.at), Date.parse(held.at));

/** The newest reading of a lie, if what the service told of the lie is from before it: it waits, is on its way, or was refused. */
export const heldAt = (entries: Entry[], lie: Told): Held | null => {
  const newest = entries
    .filter((e): e is Held => e.kind === "readings" && e.body.lie_id === lie.id)
    .sort(byTime((e) => e.at))
    .at(-1);
  return newest && isNews(newest, lie) ? newest : null;
};

/** The newest reading of a lie that the service has not told of; undefined while the device is being read. */
export const useHeldNow = (lie: Told): Held | null | undefined =>
  useLiveQuery(async () => {
    const angler = await kept();
    return angler ? heldAt(await ofKind(angler, "readings"), lie) : null;
  }, [lie.id, lie.reading?.at]);
export const useHeld = (lie: Told): Held | null => useHeldNow(lie) ?? null;

/** How many of an outing's drifts can be corrected on the bank. */
const LATEST = 100;

/** A drift of the outing with all that hangs on it; one that was taken back is there, to be put back. */
export interface Line {
  drift: As<"drifts">;
  setting: As<"settings">;
  stop: As<"stops">;
  fish: As<"catches">[];
}

/** A record, whoever told of it. */
interface As<K extends Kind> {
  id: string;
  body: Bodies[K];
}

/** The last drifts of an outing, the newest first. */
export function latestOf(entries: Entry[], outing: string, most = LATEST): Line[] {
  const of = <K extends Kind>(kind: K) => entries.filter((e): e is Of<K> => e.kind === kind);
  const stops = new Map(
    of("stops")
      .filter((e) => e.body.outing_id === outing)
      .map((e) => [e.id, e]),
  );
  const settings = new Map(
    of("settings")
      .filter((e) => stops.has(e.body.stop_id))
      .map((e) => [e.id, e]),
  );
  return of("drifts")
    .filter((e) => settings.has(e.body.setting_id))
    .sort(byTime((e) => e.body.at))
    .slice(-most)
    .reverse()
    .flatMap((drift) => {
      const setting = settings.get(drift.body.setting_id);
      const stop = setting && stops.get(setting.body.stop_id);
      const fish = of("catches").filter((e) => e.body.drift_id === drift.id);
      return setting && stop ? [{ drift, setting, stop, fish }] : [];
    });
}

export const useLatest = (angler: string, outing: string | undefined): Line[] =>
  useLiveQuery(
    async () => (outing ? latestOf(await ofOuting(angler, outing), outing) : []),
    [angler, outing],
  ) ?? [];

/** The newest outing here that has ended and can be gone on with, within half a day. */
const GO_ON_MS = 12 * 3600 * 1000;
export const canGoOn = (endedAt: string | null | undefined, now = Date.now()): boolean =>
  now - Date.parse(endedAt ?? "") < GO_ON_MS;
export function endedLately(entries: Entry[], beat: string, now = Date.now()): Of<"outings"> | null {
  return (
    entries
      .filter((e): e is Of<"outings"> => e.kind === "outings" && e.body.beat_id === beat && !e.body.gone)
      .filter((e) => canGoOn(e.body.ended_at, now))
      .sort(byTime((e) => e.body.ended_at ?? ""))
      .at(-1) ?? null
  );
}
export const useEndedLately = (angler: string, beat: string): Of<"outings"> | null =>
  useLiveQuery(async () => endedLately(await ofKind(angler, "outings"), beat), [angler, beat]) ?? null;

/** Outings as this device knows them, which the service may not yet: taken back, ended, gone on with. */
export function asWritten<T extends { id: string; ended_at: string | null }>(
  outings: T[],
  entries: Entry[],
): T[] {
  const here = new Map(
    entries.filter((e) => e.kind === "outings" && e.refused === null).map((e) => [e.id, e as Of<"outings">]),
  );
  return outings.flatMap((one) => {
    const known = here.get(one.id);
    if (known?.body.gone) return [];
    return known?.sent === 0 ? [{ ...one, ended_at: known.body.ended_at ?? null }] : [one];
  });
}
export const useAsWritten = <T extends { id: string; ended_at: string | null }>(
  angler: string | undefined,
  outings: T[],
): T[] => {
  const entries = useLiveQuery(async () => (angler ? ofKind(angler, "outings") : []), [angler]);
  return asWritten(outings, entries ?? []);
};

/** Lies that were added or changed here and are not at the service yet. */
export const useHeldLies = (): Of<"lies">[] =>
  useLiveQuery(async () => {
    const angler = await kept();
    if (!angler) return [];
    const lies = await ofKind(angler, "lies");
    return lies.filter((e) => e.sent === 0 && e.refused === null);
  }, []) ?? [];
