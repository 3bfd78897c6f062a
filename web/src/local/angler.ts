/** Whose device this is: known with no signal, and after the session has ended, until the angler signs out or another signs in. */
import type { QueryClient } from "@tanstack/react-query";
import { useLiveQuery } from "dexie-react-hooks";
import type { Session } from "../api/client";
import { device } from "./records";

export type Angler = NonNullable<Session["angler"]>;

const KEY = "angler";

/** Undefined while the device is being read, null where nobody is known. */
export const useKeptAngler = (): Angler | null | undefined =>
  useLiveQuery(async () => ((await device.notes.get(KEY))?.value as Angler | undefined) ?? null, []);

/** Forget what was answered and packed for an angler; what was written stays, under that angler's name. */
async function clear(client: QueryClient): Promise<void> {
  await device.transaction("rw", device.answers, device.packs, device.inHand, async () => {
    await Promise.all([device.answers.clear(), device.packs.clear(), device.inHand.clear()]);
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
