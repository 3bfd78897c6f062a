/** Take it along: everything of a beat that the app needs without signal, in one tap, with its size and how far it is. */
import { dehydrate, type QueryClient } from "@tanstack/react-query";
import {
  adviceOf,
  beatsQuery,
  boxQuery,
  columnOf,
  ledgerOf,
  marchesOf,
  schoolsQuery,
  todayOf,
  tuneOf,
} from "../api/asks";
import { api, type Beat, type Situation, type Tuning, unwrap } from "../api/client";
import { heard, roadCarries } from "../api/road";
import { PACK_KEEPS_MS } from "./answers";
import { ENGINE, engineKept, listing } from "./engine";
import { keepFiles } from "./files";
import { rigOf, take, tuningOf } from "./inhand";
import { askToKeep } from "./kept";
import { device, type Pack } from "./records";
import { askTrial } from "./trial";

export interface Progress {
  what: string;
  /** 0 to 1. */
  share: number;
  bytes: number;
}

/** So many of the last outings at a beat come along, to be looked up there. */
const LAST_OUTINGS = 3;

/** Fetch what of the engine is not kept yet, saying how many bytes of it have come. */
async function fetchEngine(told: (bytes: number, of: number) => void): Promise<number> {
  const kept = await caches.open(ENGINE);
  const { files } = await listing();
  const all = files.reduce((sum, one) => sum + one.bytes, 0);
  let done = 0;
  for (const { url, bytes } of files) {
    if (!(await kept.match(url))) {
      const response = await fetch(url);
      if (!response.ok) throw new TypeError(`${url} could not be fetched`);
      const coming = new TransformStream<Uint8Array, Uint8Array>({
        transform(part, onwards) {
          heard(); // it is large: what else is asked for meanwhile waits behind it
          onwards.enqueue(part);
        },
      });
      // unpacked: the header of how it came would be a lie
      const body = await new Response(response.body?.pipeThrough(coming)).arrayBuffer();
      const type = response.headers.get("content-type") ?? "application/octet-stream";
      await kept.put(url, new Response(body, { headers: { "content-type": type } }));
    }
    done += bytes;
    told(done, all);
  }
  const wanted = new Set(files.map(({ url }) => new URL(url, location.origin).href));
  for (const old of await kept.keys()) if (!wanted.has(old.url)) await kept.delete(old);
  return all;
}

/** After the app has been renewed, fetch the engine that goes with it, for a beat that was taken along with the one before. */
export async function renewEngine(): Promise<void> {
  if (roadCarries() && (await device.packs.count()) > 0 && !(await engineKept()))
    await fetchEngine(() => undefined);
}

/** A pack that is older than this is renewed when the app is opened on signal: the river will have moved. */
const RENEWED_AFTER_MS = 3600 * 1000;

/** Pack anew what an angler has taken along; what cannot be fetched now stays as it was. */
export async function renewPacks(client: QueryClient, angler: string, now = Date.now()): Promise<void> {
  if (!roadCarries()) return;
  for (const { beat, at, angler: whose } of await device.packs.toArray())
    if (whose === angler && now - at > RENEWED_AFTER_MS)
      await packBeat(client, angler, beat, () => undefined);
}

/** Keep how the rigs of a lie hang there, for the engine. */
async function keepMarches(client: QueryClient, lie: string, situation: Situation, tunings: Tuning[]) {
  const each = [...new Map(tunings.map((one) => [JSON.stringify(one), one])).values()];
  if (each.length === 0) return;
  const packed = await client.fetchQuery(marchesOf(situation, each));
  await device.marches.put({ lie, at: Date.now(), packed });
}

const read = (lie: Beat["lies"][number]): Situation[] => (lie.situation ? [lie.situation] : []);

/** Pack a beat. What is half done is not kept: a pack is whole or it is not there. */
export async function packBeat(
  client: QueryClient,
  angler: string,
  beatId: string,
  told: (progress: Progress) => void,
): Promise<Pack> {
  await askToKeep();
  keepFiles();
  const engine = await fetchEngine((bytes, of) =>
    told({ what: "The engine", share: (0.5 * bytes) / of, bytes }),
  );
  const fresh = { staleTime: 0 };
  const beats = await client.fetchQuery({ ...beatsQuery, ...fresh });
  const beat = beats.find((one) => one.id === beatId);
  if (!beat) throw new Error("There is no such beat of yours.");
  const keys: (readonly unknown[])[] = [beatsQuery.queryKey];
  const get = async <T>(
    query: { queryKey: readonly unknown[]; queryFn: () => Promise<T> },
    again = false,
  ) => {
    keys.push(query.queryKey);
    return client.fetchQuery({ ...query, ...(again ? fresh : {}) });
  };
  await get(todayOf(beatId), true);
  await get(boxQuery, true);
  await get(schoolsQuery);
  await askTrial(angler);
  const outings = await unwrap(api.GET("/api/outings"));
  const here = outings.filter((one) => one.beat_id === beatId).slice(0, LAST_OUTINGS);
  for (const { id } of here) await get(ledgerOf(id), true);
  const lies = beat.lies.flatMap((lie) => read(lie).map((situation) => ({ lie, situation })));
  for (const [k, { lie, situation }] of lies.entries()) {
    told({ what: lie.name, share: 0.5 + (0.5 * k) / lies.length, bytes: engine });
    await get(columnOf(situation));
    const { ranked } = await get(adviceOf(situation));
    if (ranked[0]) await take(lie.id, ranked[0], { unlessChosen: true });
    const hand = rigOf((await device.inHand.get(lie.id)) ?? null);
    const tied = hand && tuningOf(hand.rig, hand.setup);
    if (tied) await get(tuneOf(situation, tied));
    const advised = ranked.flatMap(({ rig, setup }) => (setup ? [tuningOf(rig, setup)] : []));
    await keepMarches(client, lie.id, situation, tied ? [tied, ...advised] : advised);
  }
  const wanted = new Set(keys.map((key) => JSON.stringify(key)));
  const state = dehydrate(client, {
    shouldDehydrateQuery: (one) => wanted.has(JSON.stringify(one.queryKey)),
  });
  const pack: Pack = {
    ...{ beat: beatId, angler, at: Date.now(), state },
    bytes: engine + JSON.stringify(state).length,
  };
  await device.packs.put(pack);
  told({ what: "", share: 1, bytes: pack.bytes });
  return pack;
}

export interface Readiness {
  ready: boolean;
  at: number | null;
  bytes: number;
  /** What is missing or wrong, in words. */
  lacks: string[];
}

/** Whether a beat can be fished from this device with no signal. */
export async function readiness(angler: string, beat: Beat): Promise<Readiness> {
  const pack = await device.packs.get(beat.id);
  const mine = pack?.angler === angler ? pack : undefined;
  const lacks: string[] = [];
  if (!mine) lacks.push("the beat has not been packed");
  else if (Date.now() - mine.at > PACK_KEEPS_MS) lacks.push("what was packed is over a week old");
  if (!(await engineKept())) lacks.push("the engine is not here");
  if (!navigator.serviceWorker?.controller) lacks.push("the app itself is not kept yet: reload once");
  const unread = beat.lies.filter((lie) => !lie.situation).map((lie) => lie.name);
  if (unread.length > 0 && mine) lacks.push(`not read yet: ${unread.join(", ")}`);
  const ready = lacks.every((one) => one.startsWith("not read yet"));
  return { ready, at: mine?.at ?? null, bytes: mine?.bytes ?? 0, lacks };
}
