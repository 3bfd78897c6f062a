/** What is kept on the device, and where: one table a kind, each with the reason it is there. */
import Dexie, { type EntityTable, type Table, type Transaction } from "dexie";
import { v7 as uuidv7 } from "uuid";
import type { DrySetup, Fault, Limits, RigKind, Setup } from "../api/client";
import type { components } from "../api/generated";
import { STORE } from "./kept";

type Schemas = components["schemas"];

export interface Bodies {
  lies: Schemas["LieIn"];
  outings: Schemas["OutingIn"];
  stops: Schemas["StopIn"];
  settings: Schemas["SettingIn"] | Schemas["DrySettingIn"];
  drifts: Schemas["DriftLogIn"];
  catches: Schemas["CatchIn"];
  readings: Schemas["ReadingIn"];
  soundings: Schemas["SoundingIn"];
  notes: Schemas["NoteIn"];
}
export type Kind = keyof Bodies;

/** Which writing of a record it is: the greatest of (at, device, seq) stands, on every device and on the service. */
export interface Version {
  at: string;
  device: string;
  seq: number;
}

/** One thing that was written here: never edited but for `refused`, the truth until the service has it, and gone from here once it has. */
export interface Written<K extends Kind = Kind> extends Version {
  id: string;
  angler: string;
  kind: K;
  record: string;
  zone: string;
  body: Bodies[K];
  /** Why the service did not take it; null: it has not been asked, or has not answered. */
  refused: Fault[] | null;
}

/** A record as it stands, by this device's writings and those it has heard of. */
export type Entry = {
  [K in Kind]: Version & {
    id: string;
    kind: K;
    angler: string;
    sent: 0 | 1;
    refused: Fault[] | null;
    body: Bodies[K];
  };
}[Kind];

/** The rig in hand at a lie: what was chosen on the Rig screen, kept until another is. */
export interface RigInHand {
  lie: string;
  rig: RigKind;
  depth_setting_m: number;
  point_bead_mm: number | null;
  setup: Setup;
  /** Null: set on another device, and not worked out on this one. */
  limits: Limits | null;
  /** When it was chosen here: what the log says was set later hangs on the rod instead. */
  at?: string;
}

/** A single dry in hand, and the rig that it took the place of, to go back to; null where there was none. */
export interface DryInHand {
  lie: string;
  rig: "dry";
  setup: DrySetup;
  before: RigInHand | null;
  at: string;
}

export type InHand = RigInHand | DryInHand;

/** What the service last answered, so that the app opens without it. May be thrown away at any time: it can be asked again. */
export interface Answers {
  key: string;
  state: unknown;
}

/** A beat that was taken along: what was answered for it, when, and how large it is with the engine. */
export interface Pack {
  beat: string;
  angler: string;
  at: number;
  bytes: number;
  state: unknown;
}

/** How a lie's rigs hang in all the waters that it may be, worked out by the service: the engine here is slow at that alone. */
export interface Marches {
  lie: string;
  at: number;
  packed: components["schemas"]["Packed"];
}

/** The device's own id, how far an angler's changes have been read, and how the last try to send went. */
export interface Note {
  key: string;
  value: unknown;
}

export class Device extends Dexie {
  events!: EntityTable<Written, "id">;
  entries!: EntityTable<Entry, "id">;
  inHand!: Table<InHand, string>;
  answers!: EntityTable<Answers, "key">;
  packs!: EntityTable<Pack, "beat">;
  notes!: EntityTable<Note, "key">;
  marches!: EntityTable<Marches, "lie">;

  constructor() {
    super(STORE);
    // A change of these stores is a new version with a migration, never an edit of a line that has been released.
    this.version(1).stores({ entries: "id, [angler+seq], sent", inHand: "lie" });
    this.version(2).stores({ answers: "key" });
    this.version(3)
      .stores({
        events: "id, [angler+seq], [angler+sent+seq]",
        entries: "id, angler",
        packs: "beat",
        notes: "key",
      })
      .upgrade(eachEntryIsAWriting);
    this.version(4).upgrade(aRefusalHasItsFaults);
    this.version(5).stores({ marches: "lie" });
    // a season of outings is read by what hangs on what, and not whole at every tap
    this.version(6).stores({
      marches: "lie, [lie+at]",
      entries:
        "id, angler, [angler+kind], [angler+sent], [angler+body.at], body.outing_id, body.stop_id, body.setting_id",
    });
    // what is sent is indexed still: a page of before, open beside this one, asks by it
    this.version(7).upgrade(whatWasTakenGoes);
  }
}

/** How many writings of an angler's were made here is kept apart from them: each has the next number, whichever have gone. */
export const written = (angler: string): string => `written ${angler}`;

type WrittenThen = Written & { sent: 0 | 1 };

/** Before version 7 what the service had taken stayed for good, and was counted to number the next. */
async function whatWasTakenGoes(change: Transaction): Promise<void> {
  const events = change.table("events");
  const last = new Map<string, number>();
  await events.each(({ angler, seq }: WrittenThen) => {
    last.set(angler, Math.max(seq, last.get(angler) ?? 0));
  });
  await change.table("notes").bulkPut([...last].map(([angler, value]) => ({ key: written(angler), value })));
  await events.filter((one: WrittenThen) => one.sent === 1).delete();
}

/** Before version 4 only the words of a refusal were kept, and not the field that they were about. */
async function aRefusalHasItsFaults(change: Transaction): Promise<void> {
  for (const table of ["events", "entries"])
    await change
      .table(table)
      .filter((one: { refused: unknown }) => typeof one.refused === "string")
      .modify((one: { refused: unknown }) => {
        one.refused = [{ code: "REFUSED", field: null, message: one.refused }];
      });
}

/** When a record was written, as far as it says; a migration must not fail on one that does not. */
function writtenAt(body: Bodies[Kind]): string {
  const at = Date.parse("at" in body ? body.at : "started_at" in body ? body.started_at : "");
  return new Date(Number.isNaN(at) ? Date.now() : at).toISOString();
}

/** Before version 3 a record was sent as it stood: what stands becomes its one writing. */
async function eachEntryIsAWriting(change: Transaction): Promise<void> {
  const id = uuidv7();
  await change.table("notes").put({ key: "device", value: id });
  const entries = (await change.table("entries").toArray()) as Entry[];
  entries.sort((a, b) => a.seq - b.seq);
  const events: WrittenThen[] = entries.map((one, k) => ({
    id: uuidv7(),
    device: id,
    seq: k + 1,
    angler: one.angler,
    kind: one.kind,
    record: one.id,
    at: writtenAt(one.body),
    zone: zone(),
    body: one.body,
    sent: one.sent,
    refused: one.refused,
  }));
  await change.table("events").bulkPut(events);
  await change
    .table("entries")
    .bulkPut(entries.map((one, k) => ({ ...one, at: events[k]?.at, device: id, seq: k + 1 })));
}

export const zone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";

export const device = new Device();

/** What a writing touches, for a transaction around several. */
export const LOG = [device.events, device.entries, device.notes] as const;
