/** The angler's writes: kept on the device first, sent in batches, and sent again until the service has them. */
import { v7 as uuidv7 } from "uuid";
import type { components } from "../api/generated";
import { standing } from "./reconcile";
import { type Bodies, device, type Entry, type Kind, LOG, type Written, zone } from "./records";

type Schemas = components["schemas"];
export type Batch = Schemas["SyncIn"];
export type Answer = Schemas["SyncOut"];

export const newId = (): string => uuidv7();

const AT_ONCE = 100;

async function deviceId(): Promise<string> {
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

const mine = (angler: string) =>
  device.events.where("[angler+seq]").between([angler, -Infinity], [angler, Infinity]);

/** Write something down. It is safe when this resolves, signal or none. A known id is a correction. */
export async function write<K extends Kind>(
  angler: string,
  kind: K,
  record: string,
  body: Bodies[K],
): Promise<void> {
  await device.transaction("rw", LOG, async () => {
    const id = await deviceId();
    const seq = ((await mine(angler).last())?.seq ?? 0) + 1;
    const known = await device.entries.get(record);
    const now = new Date().toISOString();
    // a clock that was set back must not let an older writing stand over this one
    const at = known && known.at > now ? known.at : now;
    const event = {
      ...{ id: newId(), device: id, seq, angler, kind, record, at, zone: zone(), body },
      ...{ sent: 0 as const, refused: null },
    };
    await device.events.add(event as Written);
    const entry = { id: record, kind, angler, at, device: id, seq, sent: 0, refused: null, body } as Entry;
    await device.entries.put(entry);
  });
}

export type Courier = (batch: Batch) => Promise<Answer | "later" | { refused: string }>;

/** Send over HTTP: 4xx answers will not get better by repeating (but for a lost sign-in); everything else may. */
export const overHttp: Courier = async (batch) => {
  let response: Response;
  try {
    response = await fetch("/api/sync", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(batch),
    });
    if (response.ok) return (await response.json()) as Answer;
  } catch {
    return "later";
  }
  if ([401, 403, 404, 408, 429].includes(response.status) || response.status >= 500) return "later";
  const problem = (await response.json().catch(() => null)) as { faults?: { message: string }[] } | null;
  return {
    refused: problem?.faults?.map((fault) => fault.message).join(" · ") ?? `refused with ${response.status}`,
  };
};

type Ear = (kinds: ReadonlySet<Kind>) => void;
const ears = new Set<Ear>();

/** Hear which kinds of records the service has taken or told of, once they stand here; returns how to stop. */
export function onHeard(ear: Ear): () => void {
  ears.add(ear);
  return () => ears.delete(ear);
}

let flushing: Promise<boolean> | null = null;

/** Send what has not been acknowledged and read what other devices wrote; false where it has to wait. */
export function flush(angler: string, courier: Courier = overHttp): Promise<boolean> {
  flushing ??= drain(angler, courier).finally(() => {
    flushing = null;
  });
  return flushing;
}

export const waiting = (angler: string): Promise<number> =>
  device.events
    .where("[angler+sent+seq]")
    .between([angler, 0, -Infinity], [angler, 0, Infinity])
    .filter((one) => one.refused === null)
    .count();

async function drain(angler: string, courier: Courier): Promise<boolean> {
  const id = await device.transaction("rw", device.notes, deviceId);
  let most = AT_ONCE;
  for (;;) {
    const batch = await device.events
      .where("[angler+sent+seq]")
      .between([angler, 0, -Infinity], [angler, 0, Infinity])
      .filter((one) => one.refused === null)
      .limit(most)
      .toArray();
    const cursor = ((await device.notes.get(`cursor ${angler}`))?.value as number | undefined) ?? null;
    const events = batch.map(({ id, seq, kind, record, at, zone, body }) => ({
      ...{ id, sequence: seq, kind, record, at, zone },
      body: body as unknown as Record<string, unknown>,
    }));
    const answer = await courier({ version: 1, angler, device: id, cursor, events });
    if (answer === "later") return false;
    if ("refused" in answer && typeof answer.refused === "string") {
      // the whole batch was refused: find out which, by sending fewer
      if (batch.length > 1) {
        most = Math.max(1, Math.floor(batch.length / 2));
        continue;
      }
      if (batch.length === 0) return false;
      await settle(angler, batch, { ...NOTHING, refused: [{ id: batch[0]?.id ?? "", why: answer.refused }] });
      continue;
    }
    const got = answer as Answer;
    await settle(angler, batch, {
      taken: got.taken,
      refused: got.refused.map(({ id, faults }) => ({
        id,
        why: faults.map((one) => one.message).join(" · "),
      })),
      changes: got.changes,
      cursor: got.cursor,
    });
    if (!got.more && batch.length < most) return true;
  }
}

interface Heard {
  taken: Answer["taken"];
  refused: { id: string; why: string }[];
  changes: Answer["changes"];
  cursor: number | null;
}
const NOTHING: Heard = { taken: [], refused: [], changes: [], cursor: null };

/** Mark what was taken and refused, and hear what others wrote: all of it or nothing. */
async function settle(angler: string, batch: Written[], heard: Heard): Promise<void> {
  const sent = new Map(batch.map((one) => [one.id, one]));
  await device.transaction("rw", LOG, async () => {
    for (const { id, at } of heard.taken) {
      const event = sent.get(id);
      if (!event) continue;
      await device.events.update(id, { sent: 1, at });
      const entry = await device.entries.get(event.record);
      // corrected while it was on its way: the newer writing is still to be sent
      if (entry?.device === event.device && entry.seq === event.seq)
        await device.entries.put({ ...entry, sent: 1, at });
    }
    for (const { id, why } of heard.refused) {
      const event = sent.get(id);
      if (!event) continue;
      await device.events.update(id, { refused: why });
      const entry = await device.entries.get(event.record);
      if (entry?.device === event.device && entry.seq === event.seq)
        await device.entries.put({ ...entry, refused: why });
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
