/**
 * Whether anything comes from the service. The browser knows whether there is signal; that signal carries nothing is found out here:
 * what is not answered for a while is doubted, and a small question settles it.
 */

/** What is not answered by then is doubted; and the small question, which costs the service nothing, is answered by then, or
 * nothing comes. */
const PATIENCE_MS = 2000;
/** Where nothing comes nobody waits for the small question: it may take longer each time, and tells how slow the road is. */
const LATER_PATIENCE_MS = [4000, 8000, 15_000];
const MOST_PATIENCE_MS = 15_000;
/** How long after that it is asked again, and again. */
const ASKED_AGAIN_MS = [2000, 5000, 15_000];
/** A page that was busy for longer than this when time was up may have its answer already. */
const LATE_MS = 500;
const SMALL = "/api/health";
const NOTHING = "nothing comes from the service";

let answers = true;
let heardLast = 0;
/** How long an answer may take: twice what the last took on a road that was found to be slow. */
let patience = PATIENCE_MS;
/** The asking that goes on, if one does. */
let settling: symbol | null = null;
const waiting = new Set<AbortController>();
const watchers = new Set<() => void>();

/** Whether there is signal, and something comes of what is asked. */
export const roadCarries = (): boolean => hasSignal() && answers;

/** Whether there is signal, as far as the browser knows. */
export const hasSignal = (): boolean => globalThis.navigator?.onLine ?? true; // there is no browser in a test

/** Be told when that may have changed; returns how to stop. */
export function watchCarrying(told: () => void): () => void {
  watchers.add(told);
  return () => watchers.delete(told);
}

function set(now: boolean): void {
  if (now === answers) return;
  answers = now;
  if (!now) for (const one of waiting) one.abort(NOTHING);
  for (const told of watchers) told();
}

/** Something came. */
export function heard(): void {
  heardLast = performance.now();
  set(true);
}

function tookFor(began: number): void {
  patience = Math.min(MOST_PATIENCE_MS, Math.max(PATIENCE_MS, 2 * (performance.now() - began)));
}

let wake: () => void = () => undefined;
const pause = (ms: number) =>
  new Promise<void>((done) => {
    wake = done;
    setTimeout(done, ms);
  });

/** Ask the small question now, where it would be asked later: somebody waits for it. */
export const askNow = (): void => wake();

/** Ask the small question: whether anything came by when it was due, or null where this page was too busy to tell. */
async function asked(limit: number): Promise<boolean | null> {
  const began = performance.now();
  const due = new AbortController();
  const timer = setTimeout(() => due.abort(), limit);
  try {
    await fetch(SMALL, { cache: "no-store", signal: due.signal });
    tookFor(began);
    return true;
  } catch {
    if (heardLast > began) return true;
    return performance.now() - began > limit + LATE_MS ? null : false;
  } finally {
    clearTimeout(timer);
  }
}

async function settle(mine: symbol): Promise<void> {
  const nth = (of: number[], k: number) => of[Math.min(Math.max(0, k), of.length - 1)] ?? 0;
  for (let k = 0; settling === mine; ) {
    const comes = await asked(answers ? patience : nth(LATER_PATIENCE_MS, k - 1));
    if (settling !== mine || comes === null) continue;
    if (comes) heard();
    else set(false);
    if (comes) break;
    await pause(nth(ASKED_AGAIN_MS, k++));
    if (answers) break; // something else came
  }
  if (settling === mine) settling = null;
}

function doubt(since: number): void {
  if (heardLast > since || settling || !hasSignal()) return;
  settling = Symbol();
  void settle(settling);
}

function joined(parts: Uint8Array[]): Uint8Array<ArrayBuffer> {
  const all = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

/** The answer with all that belongs to it: a head may come and the rest not. */
async function whole(response: Response): Promise<Response> {
  if (!response.body) return response;
  const reader = response.body.getReader();
  const parts: Uint8Array[] = [];
  for (;;) {
    const since = performance.now();
    const timer = setTimeout(() => doubt(since), patience);
    try {
      const { done, value } = await reader.read();
      if (done) return new Response(joined(parts), response); // a Blob would be made in another process, and waited for
      parts.push(value);
      heard();
    } finally {
      clearTimeout(timer);
    }
  }
}

/**
 * Fetch over the road. What may be asked again is given up, as if there were no signal, once it is clear that nothing comes; anything
 * else is waited for.
 */
export async function carried(
  input: RequestInfo | URL,
  init: RequestInit,
  again: boolean,
): Promise<Response> {
  if (again && !answers) throw new TypeError(NOTHING);
  const began = performance.now();
  const timer = setTimeout(() => doubt(began), patience);
  const lost = new AbortController();
  if (again) waiting.add(lost);
  const given = init.signal ?? (input instanceof Request ? input.signal : null);
  given?.addEventListener("abort", () => lost.abort(given.reason));
  try {
    const response = await fetch(input, again ? { ...init, signal: lost.signal } : init);
    heard();
    return again ? await whole(response) : response;
  } catch (error) {
    if (lost.signal.reason === NOTHING) throw new TypeError(NOTHING, { cause: error });
    if (error instanceof TypeError) doubt(began);
    throw error;
  } finally {
    clearTimeout(timer);
    waiting.delete(lost);
  }
}

/** Hear from the browser that signal came or went. What was found out before does not hold in another place. */
export function hearBrowser(): void {
  const changed = () => {
    answers = true;
    patience = PATIENCE_MS;
    settling = null;
    for (const told of watchers) told();
  };
  addEventListener("online", changed);
  addEventListener("offline", changed);
}
