/** Asking the core on this device. It starts when it is first asked, in a worker of its own: taps never wait for it. */
import Dexie from "dexie";
import {
  type Advice,
  type Build,
  type BuildIn,
  type Changes,
  type CoachIn,
  type Coaching,
  type Column,
  type Comparison,
  type DayAsked,
  type DayPlan,
  type Ranked,
  type ReadingIn,
  Refused,
  type Setup,
  type Situation,
  type Step,
  type Tuning,
} from "../api/client";
import type { components } from "../api/generated";
import type { Listing, Question, Reply } from "./engine.worker";
import { device } from "./records";
import type { Going } from "./trial";

export const ENGINE = "engine";

/** The engine's files, as the newest app wants them; they are fetched once and kept. */
export async function listing(): Promise<Listing> {
  return (await (await fetch("/engine/engine.json")).json()) as Listing;
}

/** Whether every file of the engine is kept here. */
export async function engineKept(): Promise<boolean> {
  try {
    const kept = await caches.open(ENGINE);
    const all = await Promise.all((await listing()).files.map(({ url }) => kept.match(url)));
    return all.every(Boolean);
  } catch {
    return false;
  }
}

let worker: Worker | null = null;

/** Whether this device answers of a lie in a moment: its marches were packed, and the engine is here to read them. */
export async function answersSoon(lie: string): Promise<boolean> {
  try {
    const packed = await device.marches.where("lie").equals(lie).count();
    return packed > 0 && (worker !== null || (await engineKept()));
  } catch {
    return false;
  }
}

/** The engine could not be started: it was not taken along. */
export class NotHere extends Error {}

let asked = 0;
const open = new Map<number, (reply: Reply) => void>();
/** Questions take their turn here and not in the worker, so that one that nobody waits for any more is never worked out. */
let turn: Promise<unknown> = Promise.resolve();

function running(): Worker {
  if (worker) return worker;
  worker = new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" });
  worker.addEventListener("message", ({ data }: MessageEvent<Reply>) => {
    open.get(data.id)?.(data);
    open.delete(data.id);
  });
  worker.addEventListener("error", (event) => {
    for (const [id, answer] of open) answer({ id, text: null, trouble: event.message });
    open.clear();
    given.clear();
    worker = null;
  });
  return worker;
}

const post = (question: Omit<Question, "id">): Promise<Reply> =>
  new Promise((answer) => {
    const id = ++asked;
    open.set(id, answer);
    running().postMessage({ id, ...question } satisfies Question);
  });

/** What came along for a lie: for which rigs, and for which reading. The engine looks no further, whatever it still keeps of it. */
interface Along {
  tunings: Tuning[];
  read_as?: Situation;
}

/** What the engine that runs has been given of each lie, and when that was worked out. */
const given = new Map<string, { at: number; along: Along }>();
/** Lies of which nothing else has been packed since that was looked for: it is asked at every step of a slider. */
const same = new Set<string>();
Dexie.on("storagemutated", (parts) => {
  if (Object.keys(parts).some((part) => part.includes(`/${device.marches.name}/`))) same.clear();
});

/**
 * Give the engine what was packed for a lie, and return what that was. It answers without it too, only later: what it cannot
 * read is left alone.
 */
async function give(lie: string): Promise<Along> {
  const before = given.get(lie);
  if (before && same.has(lie)) return before.along;
  same.add(lie); // before it is looked for: what is packed meanwhile is looked for again
  // by its keys alone: what is kept of a lie is large
  const keys = device.marches.where("[lie+at]").between([lie, -Infinity], [lie, Infinity]).keys();
  const [key] = (await keys.catch(() => [])) as unknown as [string, number][];
  if (before && key?.[1] === before.at) return before.along;
  const kept = key && (await device.marches.get(lie).catch(() => undefined));
  if (!kept) {
    given.delete(lie);
    return { tunings: [] };
  }
  const tunings = kept.packed.rigs.map((one) => one.tuning);
  const { text } = await post({ door: "keep", asked: kept.packed });
  const wasRead = text !== null && !("fault" in (JSON.parse(text) as object));
  const along: Along = wasRead ? { tunings, read_as: kept.packed.situation } : { tunings };
  if (text !== null) given.set(lie, { at: kept.at, along }); // else it did not start: it is given it when it does
  return along;
}

async function ask<T>(door: string, what: object, lie?: string, signal?: AbortSignal): Promise<T> {
  if (!worker && !(await engineKept()))
    throw new NotHere("This needs signal here: the beat was not taken along.");
  const mine = turn.then(async () => {
    const along = lie ? await give(lie) : undefined;
    signal?.throwIfAborted();
    return post({ door, asked: { ...what, ...along } });
  });
  turn = mine.catch(() => undefined);
  const reply = await mine;
  if (reply.text === null) throw new NotHere(reply.trouble ?? "The engine did not start.");
  const said = JSON.parse(reply.text) as { answer?: T; fault?: components["schemas"]["Fault"] };
  if (said.fault) throw new Refused(422, [said.fault]);
  return said.answer as T;
}

export interface Hung {
  setup: Setup;
  picture: NonNullable<components["schemas"]["RankedOut"]["picture"]>;
  numbers: NonNullable<components["schemas"]["RankedOut"]["numbers"]>;
}

export const coachHere = (lie: string, question: CoachIn, signal: AbortSignal): Promise<Coaching> =>
  ask<Coaching>("coach", { asked: question }, lie, signal);
/** Look ahead, one way that drifts end after the other: `soFar` hears each, and a word of the coach comes in between. */
export async function cardHere(
  lie: string,
  question: CoachIn,
  soFar: (steps: Step[]) => void,
  signal: AbortSignal,
): Promise<{ steps: Step[] }> {
  const steps: Step[] = [];
  for (let part = 0, parts = 1; part < parts; part++) {
    const said = await ask<{ steps: Step[]; parts: number }>("card", { asked: question, part }, lie, signal);
    steps.push(...said.steps);
    soFar([...steps]);
    parts = said.parts;
  }
  return { steps };
}
export const changeHere = (lie: string, situation: Situation, tuning: Tuning): Promise<Changes> =>
  ask<Changes>("change", { situation, tuning }, lie);
export const compareHere = (situation: Situation, first: Tuning, second: Tuning): Promise<Comparison> =>
  ask<Comparison>("compare", { situation, first, second });
export const buildHere = ({ situation, tuning, background, leader }: BuildIn): Promise<Build> =>
  ask<Build>("build", { situation, tuning, background, leader });
export const adviseHere = (lie: string, situation: Situation): Promise<Advice> =>
  ask<Advice>("advise", { situation }, lie);
export const columnHere = (situation: Situation): Promise<Column> => ask<Column>("column", { situation });
export const tuneHere = (
  lie: string,
  situation: Situation,
  tuning: Tuning,
  signal?: AbortSignal,
): Promise<Ranked> => ask<Ranked>("tune", { situation, tuning }, lie, signal);
export const hangHere = (situation: Situation, tuning: Tuning): Promise<Hung> =>
  ask<Hung>("hang", { situation, tuning });

/** Whose turn it is in a fair trial, and for how many drifts more. */
export const turnHere = (going: Going): Promise<{ turn: string; left: number }> =>
  ask<{ turn: string; left: number }>("turn", going);

/** What of a beat fits into the time that there is. */
export const dayHere = (asked: DayAsked): Promise<DayPlan> => ask<DayPlan>("day", asked);

/** What a reading says of depth and speed: all that follows from how they were taken. */
export interface Measured {
  depth_sd_m: number;
  surface_speed_m_s: number;
  speed_sd_m_s: number | null;
}

export function measureHere(
  { depth_m, depth_how, depth_sd_m, speed }: ReadingIn,
  eye_error: number | null,
): Promise<Measured> {
  const deep = { depth_m, depth_how: depth_how ?? "eye", depth_sd_m: depth_sd_m ?? null, eye_error };
  const { how, ...fast } = speed;
  const { error_m_s, ...said } = { error_m_s: null, ...fast };
  return ask<Measured>("measure", {
    ...deep,
    ...said,
    ...(how === "timed" ? { speed_sd_m_s: error_m_s } : {}),
  });
}

/** Start the engine before it is needed at a lie; an engine that is not here stays away in silence. */
export const wake = (lie: string): void => void ask("coach", {}, lie).catch(() => undefined);
