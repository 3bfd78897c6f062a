/** The angler's writes: kept on the device first, sent in batches, and sent again until the service has them. */
import { v7 as uuidv7 } from "uuid";
import type { Fault } from "../api/client";
import type { components } from "../api/generated";
import { askNow, carried } from "../api/road";
import { standing } from "./reconcile";
import { type Bodies, device, type Entry, type Kind, LOG, type Written, written, zone } from "./records";

type Schemas = components["schemas"];
export type Batch = Schemas["SyncIn"];
export type Answer = Schemas["SyncOut"];

export const newId = (): string => uuidv7();

const AT_ONCE = 100;

export async function deviceId(): Promise<string> {
  const known = await device.notes.get("device");
  if (known) return known.value as string;
  const id = newId();
  await device.notes.put({ key: "device", value: id });
  localStorageMark(id);
  return id;
}

/** A second mark of this device outside the store: if it is there and the store is empty, the browser threw the log away. */
const MARK = "deriva-device";
const localStorageMark = (id: string): void => {
  try {
    localStorage.setItem(MARK, id);
  } catch {
    // no mark: an eviction then goes unnoticed, and no tap is lost by that
  }
};

/** Whether the browser has thrown away what was kept here. */
export async function wasEvicted(): Promise<boolean> {
  const mark = typeof localStorage === "undefined" ? null : localStorage.getItem(MARK);
  const known = (await device.notes.get("device"))?.value;
  if (mark && known === undefined) return true;
  if (!mark && typeof known === "string") localStorageMark(known);
  return false;
}

export const seenEviction = (): void => localStorage.removeItem(MARK);

/** What an angler wrote here and the service has not taken, oldest first. */
const mine = (angler: string) =>
  device.events
    .where("[angler+seq]")
    .between([angler, -Infinity], [angler, Infinity])
    .filter((one) => one.refused === null);

/** Write something down. It is safe when this resolves, signal or none. A known id is a correction. */
export async function write<K extends Kind>(
  angler: string,
  kind: K,
  record: string,
  body: Bodies[K],
): Promise<void> {
  await device.transaction("rw", LOG, async () => {
    const id = await deviceId();
    const seq = (((await device.notes.get(written(angler)))?.value as number | undefined) ?? 0) + 1;
    await device.notes.put({ key: written(angler), value: seq });
    const known = await device.entries.get(record);
    const now = new Date().toISOString();
    // a clock that was set back must not let an older writing stand over this one
    const at = known && known.at > now ? known.at : now;
    const event = {
      ...{ id: newId(), device: id, seq, angler, kind, record, at, zone: zone(), body },
      refused: null,
    };
    await device.events.add(event as Written);
    const entry = { id: record, kind, angler, at, device: id, seq, sent: 0, refused: null, body } as Entry;
    await device.entries.put(entry);
  });
}

/** Take back what was refused of a record: what stood before it, if anything did, stands again. */
async function forget(record: string, before: Entry | undefined): Promise<void> {
  await device.transaction("rw", LOG, async () => {
    await device.events.filter((one) => one.record === record && one.refused !== null).delete();
    await (before ? device.entries.put(before) : device.entries.delete(record));
  });
}

/** Write down what is still in front of somebody: what the service refuses at once is not kept, and its reasons are returned. */
export async function offer<K extends Kind>(
  angler: string,
  kind: K,
  record: string,
  body: Bodies[K],
): Promise<Fault[] | null> {
  const before = await device.entries.get(record);
  await write(angler, kind, record, body);
  await flush(angler);
  const refused = (await device.entries.get(record))?.refused ?? null;
  if (refused) await forget(record, before);
  return refused;
}

export type Courier = (batch: Batch) => Promise<Answer | "later" | { refused: Fault[] }>;

const PATIENCE_MS = 15_000;

/** Send over HTTP: 4xx answers will not get better by repeating (but for a lost sign-in); everything else may. */
export const overHttp: Courier = async (batch) => {
  let response: Response;
  try {
    const sent = {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(batch),
      signal: AbortSignal.timeout(PATIENCE_MS),
    };
    response = await carried("/api/sync", sent, true); // what arrived twice is taken once
    if (response.ok) return (await response.json()) as Answer;
  } catch {
    return "later";
  }
  if ([401, 403, 404, 408, 429].includes(response.status) || response.status >= 500) return "later";
  const problem = (await response.json().catch(() => null)) as { faults?: Fault[] } | null;
  const unsaid = { code: "REFUSED", field: null, message: `refused with ${response.status}` };
  return { refused: problem?.faults ?? [unsaid] };
};

type Ear = (kinds: ReadonlySet<Kind>) => void;
const ears = new Set<Ear>();

/** Hear which kinds of records the service has taken or told of, once they stand here; returns how to stop. */
export function onHeard(ear: Ear): () => void {
  ears.add(ear);
  return () => ears.delete(ear);
}

let flushing: Promise<boolean> | null = null;
let asked = false;

/** Send what has not been acknowledged and read what other devices wrote; false where it has to wait. */
export function flush(angler: string, courier: Courier = overHttp): Promise<boolean> {
  asked = true; // what was written while a batch is on its way goes with the next, at once
  flushing ??= drainWhileAsked(angler, courier).finally(() => {
    flushing = null;
  });
  return flushing;
}

/** The same at an angler's wish: where nothing came of the road, it is looked at again at once, and what waits goes out with it. */
export function sendNow(angler: string): Promise<boolean> {
  askNow();
  return flush(angler);
}

async function drainWhileAsked(angler: string, courier: Courier): Promise<boolean> {
  let arrived = true;
  while (asked && arrived) {
    asked = false;
    arrived = await drain(angler, courier);
    setRoad(arrived);
  }
  return arrived;
}

let open = true;
const watchers = new Set<() => void>();
function setRoad(now: boolean): void {
  if (now === open) return;
  open = now;
  for (const told of watchers) told();
}

/** Whether what was last sent arrived. While it does, what is written here is with the service in a moment. */
export const roadIsOpen = (): boolean => open;
export function watchRoad(told: () => void): () => void {
  watchers.add(told);
  return () => watchers.delete(told);
}

export const waiting = (angler: string): Promise<number> => mine(angler).count();

async function drain(angler: string, courier: Courier): Promise<boolean> {
  const id = await device.transaction("rw", device.notes, deviceId);
  let most = AT_ONCE;
  for (;;) {
    const batch = await mine(angler).limit(most).toArray();
    const cursor = ((await device.notes.get(`cursor ${angler}`))?.value as number | undefined) ?? null;
    const events = batch.map(({ id, seq, kind, record, at, zone, body }) => ({
      ...{ id, sequence: seq, kind, record, at, zone },
      body,
    }));
    const answer = await courier({ version: 1, angler, device: id, cursor, events });
    if (answer === "later") return false;
    if (!("taken" in answer)) {
      // the whole batch was refused: find out which, by sending fewer
      if (batch.length > 1) {
        most = Math.max(1, Math.floor(batch.length / 2));
        continue;
      }
      if (batch.length === 0) return false;
      await settle(angler, batch, {
        ...NOTHING,
        refused: [{ id: batch[0]?.id ?? "", faults: answer.refused }],
      });
      continue;
    }
    await settle(angler, batch, answer);
    if (!answer.more && batch.length < most) return true;
  }
}

type Heard = Pick<Answer, "taken" | "refused" | "changes"> & { cursor: number | null };
const NOTHING: Heard = { taken: [], refused: [], changes: [], cursor: null };

/** Let go of what was taken, mark what was refused, and hear what others wrote: all of it or nothing. */
async function settle(angler: string, batch: Written[], heard: Heard): Promise<void> {
  const sent = new Map(batch.map((one) => [one.id, one]));
  await device.transaction("rw", LOG, async () => {
    for (const { id, at } of heard.taken) {
      const event = sent.get(id);
      if (!event) continue;
      await device.events.delete(id);
      const entry = await device.entries.get(event.record);
      // corrected while it was on its way: the newer writing is still to be sent
      if (entry?.device === event.device && entry.seq === event.seq)
        await device.entries.put({ ...entry, sent: 1, at });
    }
    for (const { id, faults } of heard.refused) {
      const event = sent.get(id);
      if (!event) continue;
      await device.events.update(id, { refused: faults });
      const entry = await device.entries.get(event.record);
      if (entry?.device === event.device && entry.seq === event.seq)
        await device.entries.put({ ...entry, refused: faults });
    }
    for (const { record, sequence, kind, at, body, device: other } of heard.changes) {
      const known = await device.entries.get(record);
      const heardOf = {
        id: record,
        kind,
        angler,
        at,
        device: other,
        seq: sequence,
        sent: 1,
        refused: null,
        body,
      };
      const stands = standing(known, heardOf as unknown as Entry);
      if (stands !== known) await device.entries.put(stands);
    }
    if (heard.cursor !== null) await device.notes.put({ key: `cursor ${angler}`, value: heard.cursor });
  });
  const taken = heard.taken.flatMap(({ id }) => sent.get(id)?.kind ?? []);
  const kinds = new Set<Kind>([...taken, ...heard.changes.map(({ kind }) => kind)]);
  if (kinds.size > 0) for (const ear of ears) ear(kinds);
}
