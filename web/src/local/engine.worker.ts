/** The Python of the core, on this device: no signal, no wheel fetched, the same code as on the service. */
import type { loadPyodide } from "pyodide";

export interface Listing {
  core: string;
  python: string;
  /** The memory of an engine that has started, compressed. */
  started: string;
  files: { url: string; bytes: number }[];
}

export interface Question {
  id: number;
  door: string;
  asked: unknown;
}

/** The answer of a door as text, or what kept the engine from starting. */
export interface Reply {
  id: number;
  text: string | null;
  trouble: string | null;
}

type Answer = (door: string, text: string) => string;
type Load = typeof loadPyodide;
let started: Promise<Answer> | null = null;

async function start(): Promise<Answer> {
  const listing = (await (await fetch("/engine/engine.json")).json()) as Listing;
  // not bundled: the loader belongs to the Python beside it, and is kept with it
  const loader = (await import(/* @vite-ignore */ `${listing.python}pyodide.mjs`)) as { loadPyodide: Load };
  const core = await (await fetch(listing.core)).arrayBuffer();
  try {
    return await wakeUp(loader.loadPyodide, listing, core);
  } catch {
    return await startUp(loader.loadPyodide, listing, core); // slower by seconds, and the same engine
  }
}

/** Go on from the memory of an engine that has started; what it may yet import lies where it looks for it. */
async function wakeUp(load: Load, listing: Listing, core: ArrayBuffer): Promise<Answer> {
  const { body } = await fetch(listing.started);
  if (!body) throw new Error("There is no engine that has started.");
  const memory = await new Response(body.pipeThrough(new DecompressionStream("gzip"))).arrayBuffer();
  const python = await load({ indexURL: listing.python, _loadSnapshot: memory });
  python.unpackArchive(core, "zip", { extractDir: "/core" });
  return python.globals.get("spoken") as Answer;
}

async function startUp(load: Load, listing: Listing, core: ArrayBuffer): Promise<Answer> {
  const python = await load({ indexURL: listing.python });
  python.unpackArchive(core, "zip", { extractDir: "/core" });
  python.runPython("import sys; sys.path.insert(0, '/core')");
  return python.runPython("from doors import spoken; spoken") as Answer;
}

addEventListener("message", async ({ data }: MessageEvent<Question>) => {
  const reply = (text: string | null, trouble: string | null) =>
    postMessage({ id: data.id, text, trouble } satisfies Reply);
  try {
    started ??= start();
    const answer = await started;
    reply(answer(data.door, JSON.stringify(data.asked)), null);
  } catch (error) {
    started = null; // a file that was not there may be there the next time
    reply(null, error instanceof Error ? error.message : String(error));
  }
});
