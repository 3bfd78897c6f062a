/**
 * What the service last answered, kept on the device: the app opens on the bank with no signal and shows the lies, rigs and
 * columns as they were last computed. Nothing that a person wrote is kept here; that is the outbox's.
 */
import {
  type DehydratedState,
  dehydrate,
  hashKey,
  hydrate,
  type InfiniteData,
  type Query,
  type QueryClient,
} from "@tanstack/react-query";
import { device } from "./records";

const KEPT = new Set(["beats", "rivers", "box", "schools", "today"]);
/** Of the ledger its newest page: what was looked for in it is asked for again. */
const LEDGER = hashKey(["outings"]);
/** What is worked out for every step of a slider. */
const PASSED = "tune";
const NEWEST_OF = new Set(["column", "advice", PASSED, "hung"]);
const NEWEST = 60;
/** Outings that were opened last; one is large. */
const OPENED = 5;
const isOuting = ({ queryKey: [kind, ...of] }: Query) => kind === "ledger" && of.length === 1;
const LATER_MS = 400;

/** Old answers are of no use: a lie stands differently after two days. */
export const STALE_MS = 48 * 3600 * 1000;

const kind = (one: Query) => String(one.queryKey[0]);
/** Whether an answer is of a kind that is kept. */
const ofUse = (one: Query) =>
  KEPT.has(kind(one)) || NEWEST_OF.has(kind(one)) || one.queryHash === LEDGER || isOuting(one);

/** What is worth keeping: all that is about the river, and the newest of what was computed for its lies. */
export function worthKeeping(queries: Query[]): Set<Query> {
  const answered = queries.filter((one) => one.state.data !== undefined); // also where asking again has failed since
  const newest = (of: (one: Query) => boolean, most: number) =>
    answered
      .filter(of)
      .sort((a, b) => b.state.dataUpdatedAt - a.state.dataUpdatedAt)
      .slice(0, most);
  const computed = newest((one) => NEWEST_OF.has(kind(one)), NEWEST);
  const kept = answered.filter((one) => KEPT.has(kind(one)) || one.queryHash === LEDGER);
  return new Set([...kept, ...computed, ...newest(isOuting, OPENED)]);
}

const newestPage = ({ pages, pageParams }: InfiniteData<unknown>): InfiniteData<unknown> => ({
  pages: pages.slice(0, 1),
  pageParams: pageParams.slice(0, 1),
});

/** How long what was computed for a beat may be used; the river has changed after that. */
export const PACK_KEEPS_MS = 7 * 24 * 3600 * 1000;

/** Put back what was packed, so that the app opens on it; what was answered later comes after and stands. */
export async function unpack(client: QueryClient, now = Date.now()): Promise<void> {
  for (const pack of await device.packs.toArray())
    if (now - pack.at < PACK_KEEPS_MS) hydrate(client, pack.state as DehydratedState);
}

/** Put back what was kept, leaving out what is too old. */
export async function recall(client: QueryClient, now = Date.now()): Promise<void> {
  const found = await device.answers.get("answers");
  if (!found) return;
  const state = found.state as DehydratedState;
  hydrate(client, {
    ...state,
    queries: state.queries.filter((one) => now - one.state.dataUpdatedAt < STALE_MS),
  });
  // shown at once, and asked again as soon as there is somebody to ask
  await client.invalidateQueries({ refetchType: "none" });
}

/** Keep what is answered from now on; `told` hears which kinds of answers are safe on the device. */
export function remember(client: QueryClient, told: (kinds: string[]) => void = () => undefined): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let passing: ReturnType<typeof setTimeout> | undefined;
  const keep = () => {
    const worth = worthKeeping(client.getQueryCache().getAll());
    const state = dehydrate(client, { shouldDehydrateQuery: (query) => worth.has(query) });
    for (const one of state.queries) {
      const { data } = one.state;
      const what = one.queryHash === LEDGER ? newestPage(data as InfiniteData<unknown>) : data;
      one.state = { ...one.state, data: what, status: "success", error: null, fetchStatus: "idle" };
    }
    const kinds = new Set(state.queries.map((one) => String(one.queryKey[0])));
    device.answers.put({ key: "answers", state }).then(
      () => told([...kinds]),
      () => undefined, // a full store loses no tap: it can be asked again
    );
  };
  const stop = client.getQueryCache().subscribe((event) => {
    // a word of the coach after every tap is no reason to write down all that is kept
    if (event.type !== "updated" || event.action.type !== "success" || !ofUse(event.query)) return;
    // what a thumb passes on its way is not written down, which takes longer than drawing it; what it rests on is
    if (kind(event.query) === PASSED) {
      clearTimeout(passing);
      passing = setTimeout(keep, LATER_MS);
      return;
    }
    // answers that keep coming put nothing off: what is on the screen is safe so long after it came
    timer ??= setTimeout(() => {
      timer = undefined;
      keep();
    }, LATER_MS);
  });
  return () => {
    clearTimeout(timer);
    clearTimeout(passing);
    stop();
  };
}
