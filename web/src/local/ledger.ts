/** The ledger as this device has it: what was logged here, or heard of, and the service may not have yet. */
import { useLiveQuery } from "dexie-react-hooks";
import type { Beat, Ledger, OutingSummary } from "../api/client";
import { type Of, ofKind, ofOuting, once, outingOf, unsent } from "./entries";
import { type Line, latestOf } from "./logbook";
import type { Bodies, Entry, Kind } from "./records";

type Stop = Ledger["stops"][number];
type Setting = Stop["settings"][number];
type Drift = Setting["drifts"][number];

const byTime = <T extends { at: string; id: string }>(a: T, b: T): number =>
  Date.parse(a.at) - Date.parse(b.at) || a.id.localeCompare(b.id);

/** Counts of an outing's drifts. What they say of the next is worked out by the service. */
function tallyOf(stops: readonly Stop[]): OutingSummary["tally"] {
  const ends = stops.flatMap((stop) => stop.settings.flatMap((one) => one.drifts.map((d) => d.outcome)));
  const of = (...which: Drift["outcome"][]) => ends.filter((one) => which.includes(one)).length;
  return {
    drifts: ends.length,
    touches: of("tick", "hung", "lost_fly"),
    hung: of("hung", "lost_fly"),
    missed: of("missed"),
    fish: of("fish"),
    lost_flies: of("lost_fly"),
    rate: null,
  };
}

/** What is noted of an outing, as this device has it. */
const notesOf = (entries: Entry[], outing: string): Ledger["notes"] =>
  entries
    .filter((e): e is Of<"notes"> => e.kind === "notes" && e.body.outing_id === outing && !e.body.gone)
    .map(({ id, body: { at, text, stop_id = null, catch_id = null } }) => ({
      id,
      at,
      text,
      stop_id,
      catch_id,
    }))
    .sort(byTime);

/** What an outing of the service's is made of, as if it had been written here; `known`: what this device knows better. */
function recordsOf({ outing, notes, stops }: Ledger, known: ReadonlySet<string>): Entry[] {
  const found: Entry[] = [];
  const add = <K extends Kind>(kind: K, id: string, body: Bodies[K]) => {
    const version = { at: outing.started_at, device: "", seq: 0 };
    if (!known.has(id))
      found.push({ id, kind, ...version, angler: "", sent: 1, refused: null, body } as Entry);
  };
  const { id: outing_id, beat_id, started_at, ended_at } = outing;
  add("outings", outing_id, { beat_id, started_at, ended_at, gone: false });
  for (const { id, ...note } of notes) add("notes", id, { ...note, outing_id, gone: false });
  for (const { id: stop_id, lie_id, at, situation, settings } of stops) {
    add("stops", stop_id, { outing_id, lie_id, at, situation });
    for (const { id: setting_id, drifts, ...setting } of settings) {
      add("settings", setting_id, { ...setting, stop_id });
      for (const { id: drift_id, catches, ...drift } of drifts) {
        add("drifts", drift_id, { ...drift, setting_id, undone: false });
        for (const { id, weight_g: _1, weight_low_g: _2, weight_high_g: _3, ...fish } of catches)
          add("catches", id, { ...fish, drift_id, undone: false });
      }
    }
  }
  return found;
}

/** The drifts of an outing as they can be corrected, the newest first. */
export const linesOf = (ledger: Ledger): Line[] => {
  const records = recordsOf(ledger, new Set());
  return latestOf(records, ledger.outing.id, records.length);
};

const bodyOf = ({ weight_g: _1, weight_low_g: _2, weight_high_g: _3, ...fish }: Drift["catches"][number]) =>
  JSON.stringify(Object.entries(fish).sort());

/** An outing of the service's with what was corrected or heard of here since: what rests on what was there before is gone. */
export function withWritten(ledger: Ledger, entries: Entry[], beats: readonly Beat[]): Ledger {
  const here = entries.filter((one) => one.refused === null);
  const all = [...recordsOf(ledger, new Set(here.map((one) => one.id))), ...here];
  const known = new Map(ledger.stops.map((stop) => [stop.lie_id, stop.lie]));
  const now = ledgerOf(all, ledger.outing.id, beats, known);
  if (!now) return ledger;
  const weighed = new Map(
    ledger.stops.flatMap((stop) =>
      stop.settings.flatMap((one) =>
        one.drifts.flatMap((drift) => drift.catches.map((fish) => [fish.id, fish] as const)),
      ),
    ),
  );
  for (const drift of now.stops.flatMap((stop) => stop.settings.flatMap((one) => one.drifts)))
    drift.catches = drift.catches.map((fish) => {
      const before = weighed.get(fish.id);
      return before && bodyOf(before) === bodyOf(fish) ? before : fish;
    });
  const { rate: _, ...counts } = ledger.outing.tally;
  const { rate: __, ...fresh } = now.outing.tally;
  const same = Object.entries(counts).every(([name, n]) => fresh[name as keyof typeof fresh] === n);
  const { tally } = same ? ledger.outing : now.outing;
  const { ended_at } = now.outing;
  return { ...now, outing: { ...ledger.outing, ended_at, tally }, notes: ledger.notes };
}

/** One outing in full, from all entries of an angler; null where the device knows of none. `known`: names of lies. */
export function ledgerOf(
  entries: Entry[],
  id: string,
  beats: readonly Beat[],
  known: ReadonlyMap<string, string> = new Map(),
): Ledger | null {
  const of = <K extends Kind>(kind: K) => entries.filter((e): e is Of<K> => e.kind === kind);
  const outing = of("outings").find((e) => e.id === id && !e.body.gone);
  if (!outing) return null;
  const beat = beats.find((one) => one.id === outing.body.beat_id);
  const added = new Map(of("lies").map((e) => [e.id, e.body.name]));
  const lieName = (lie: string): string =>
    beat?.lies.find((one) => one.id === lie)?.name ?? added.get(lie) ?? known.get(lie) ?? "A lie";
  const fishOf = (drift: string): Drift["catches"] =>
    of("catches")
      .filter((e) => e.body.drift_id === drift && !e.body.undone)
      .map(({ id: fish, body }) => ({
        ...{ id: fish, at: body.at, species: body.species, fly: body.fly, phase: body.phase },
        length_mm: body.length_mm ?? null,
        length_how: body.length_how ?? "none",
        condition: body.condition ?? null,
        weight_g: null,
        weight_low_g: null,
        weight_high_g: null,
      }))
      .sort(byTime);
  const driftsOf = (setting: string): Drift[] =>
    of("drifts")
      .filter((e) => e.body.setting_id === setting && !e.body.undone)
      .map(({ id: drift, body }) => ({
        ...{ id: drift, at: body.at, outcome: body.outcome, pace: body.pace ?? null },
        ...{ lane: body.lane ?? null, stance: body.stance ?? null, direction: body.direction ?? null },
        ...{ dried: body.dried ?? false, weed: body.weed ?? false, lost: body.lost ?? null },
        catches: fishOf(drift),
      }))
      .sort(byTime);
  const settingsOf = (stop: string): Setting[] =>
    of("settings")
      .filter((e) => e.body.stop_id === stop)
      .map(({ id: setting, body }): Setting => {
        const known = { id: setting, at: body.at, drifts: driftsOf(setting) };
        if (body.rig === "dry") return { ...known, rig: body.rig, setup: body.setup };
        const { rig, depth_setting_m, point_bead_mm, setup } = body;
        return { ...known, rig, depth_setting_m, point_bead_mm, setup };
      })
      .sort(byTime);
  const stops = of("stops")
    .filter((e) => e.body.outing_id === id)
    .map(({ id: stop, body }): Stop => {
      const { lie_id, at, situation } = body;
      return { id: stop, lie_id, lie: lieName(lie_id), at, situation, settings: settingsOf(stop) };
    })
    .sort(byTime);
  const { beat_id, started_at, ended_at } = outing.body;
  return {
    outing: {
      ...{ id, beat_id, beat: beat?.name ?? "A beat", started_at, ended_at: ended_at ?? null },
      conditions: {},
      tally: tallyOf(stops),
    },
    notes: notesOf(entries, id),
    stops,
  };
}

/** What is kept here of an outing, with the names of lies that were added here; `told`: what the service has of it. */
export async function entriesOf(angler: string, outing: string, told?: Ledger): Promise<Entry[]> {
  const stops = told?.stops ?? [];
  const settings = stops.flatMap((stop) => stop.settings);
  const drifts = settings.flatMap((one) => one.drifts);
  const idsOf = (of: readonly { id: string }[]) => of.map((one) => one.id);
  const known = {
    ...{ stops: idsOf(stops), settings: idsOf(settings), drifts: idsOf(drifts) },
    others: idsOf([...(told?.notes ?? []), ...drifts.flatMap((one) => one.catches)]),
  };
  return [...(await ofOuting(angler, outing, known)), ...(await ofKind(angler, "lies"))];
}

/** An outing as this device has it; undefined while it is being read. */
export const useLedgerHere = (
  angler: string | undefined,
  id: string,
  beats: readonly Beat[] | undefined,
): Ledger | null | undefined =>
  useLiveQuery(
    async () => (angler ? ledgerOf(await entriesOf(angler, id), id, beats ?? []) : undefined),
    [angler, id, beats],
  );

/** An outing of the service's as it stands here. */
export const useAsCorrected = (
  angler: string | undefined,
  ledger: Ledger | undefined,
  beats: readonly Beat[] | undefined,
): Ledger | undefined =>
  useLiveQuery(
    async () =>
      angler && ledger
        ? withWritten(ledger, await entriesOf(angler, ledger.outing.id, ledger), beats ?? [])
        : ledger,
    [angler, ledger, beats],
    ledger,
  );

/** Notes of an outing as they stand: what the service has, with what was written or heard of here in its place. */
export const useNotes = (angler: string | undefined, ledger: Ledger): Ledger["notes"] =>
  useLiveQuery(
    async () => {
      const entries = angler ? await ofKind(angler, "notes") : [];
      const known = new Set(entries.filter((e) => e.kind === "notes").map((e) => e.id));
      const elsewhere = ledger.notes.filter((one) => !known.has(one.id));
      return [...elsewhere, ...notesOf(entries, ledger.outing.id)].sort(byTime);
    },
    [angler, ledger],
    ledger.notes,
  );

/** What of an outing waits here: its own writing, or one of what was fished on it. */
function waits(entries: Entry[], { outing, notes, stops }: Ledger): boolean {
  const ids = new Set([
    outing.id,
    ...notes.map((one) => one.id),
    ...stops.flatMap((stop) => [
      stop.id,
      ...stop.settings.flatMap((one) => [one.id, ...one.drifts.map((drift) => drift.id)]),
    ]),
  ]);
  return entries.some((e) => e.sent === 0 && e.refused === null && ids.has(e.id));
}

/** What is kept here of the outings of which something waits. */
export async function entriesThatWait(angler: string): Promise<Entry[]> {
  const waiting = (await unsent(angler)).filter((one) => one.refused === null);
  const outings = new Set(await Promise.all(waiting.map(outingOf)));
  const found = await Promise.all([...outings].map((one) => (one ? entriesOf(angler, one) : [])));
  return once(found.flat());
}

/** The outings of which something waits here, as this device has them, the newest first. */
export function waitingOutings(entries: Entry[], beats: readonly Beat[]): OutingSummary[] {
  return entries
    .filter((e): e is Of<"outings"> => e.kind === "outings")
    .flatMap((e) => ledgerOf(entries, e.id, beats) ?? [])
    .filter((one) => waits(entries, one))
    .map((one) => one.outing)
    .sort((a, b) => Date.parse(b.started_at) - Date.parse(a.started_at));
}

export const useWaitingOutings = (
  angler: string | undefined,
  beats: readonly Beat[] | undefined,
): OutingSummary[] =>
  useLiveQuery(
    async () => (angler ? waitingOutings(await entriesThatWait(angler), beats ?? []) : []),
    [angler, beats],
  ) ?? [];
