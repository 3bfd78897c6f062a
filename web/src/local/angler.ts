/** Whose device this is: known with no signal, and after the session has ended, until the angler signs out or another signs in. */
import type { QueryClient } from "@tanstack/react-query";
import { useLiveQuery } from "dexie-react-hooks";
import type { Session } from "../api/client";
import { newId } from "./outbox";
import { device } from "./records";
import { TRIAL } from "./trial";

export type Angler = NonNullable<Session["angler"]>;

const KEY = "angler";

/** Undefined while the device is being read, null where nobody is known. */
export const useKeptAngler = (): Angler | null | undefined =>
  useLiveQuery(async () => ((await device.notes.get(KEY))?.value as Angler | undefined) ?? null, []);

/** Forget what was answered, packed and kept for an angler; what was not sent yet stays, under that angler's name. */
async function clear(client: QueryClient): Promise<void> {
  const { answers, packs, inHand, marches, events, entries, notes } = device;
  await device.transaction("rw", [answers, packs, inHand, marches, events, entries, notes], async () => {
    await Promise.all([answers.clear(), packs.clear(), inHand.clear(), marches.clear()]);
    // a record is whole or it is not here: one with a writing that waits stays as it is
    const waiting = new Set((await events.toArray()).map((one) => one.record));
    await entries
      .where("id")
      .above("")
      .and((one) => !waiting.has(one.id))
      .delete();
    // what was heard of others' writings is gone with it, and is asked for again from the start
    await notes.where("key").startsWith("cursor ").delete();
    await notes.put({ key: "device", value: newId() }); // what it wrote itself it hears of as another's
    await notes.where("key").startsWith("heeded ").delete();
    await notes.where("key").startsWith(TRIAL).delete();
  });
  client.removeQueries({ predicate: (query) => query.queryKey[0] !== "session" });
}

/** Take somebody to be the device's angler; what was another's is put away first. */
export async function settle(client: QueryClient, angler: Angler): Promise<void> {
  const kept = (await device.notes.get(KEY))?.value as Angler | undefined;
  if (kept && kept.id !== angler.id) await clear(client);
  await device.notes.put({ key: KEY, value: angler });
}

/** Somebody has signed in here. */
export async function arrive(client: QueryClient, session: Session): Promise<void> {
  if (session.angler) await settle(client, session.angler);
  client.setQueryData(["session"], session);
}

/** The angler signs out: nothing that was answered stays here. */
export async function depart(client: QueryClient, session: Session): Promise<void> {
  await device.notes.delete(KEY);
  await clear(client);
  client.setQueryData(["session"], session);
}
