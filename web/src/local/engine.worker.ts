/** The Python of the core, on this device: no signal, no wheel fetched, the same code as on the service. */
import type { loadPyodide } from "pyodide";

export interface Listing {
  core: string;
  python: string;
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

const DOORS = `
import json
from deriva.core.portable import answer as _answer
def answer(door, text):
    return json.dumps(_answer(door, json.loads(text)))
answer
`;

type Answer = (door: string, text: string) => string;
let started: Promise<Answer> | null = null;

async function start(): Promise<Answer> {
  const listing = (await (await fetch("/engine/engine.json")).json()) as Listing;
  // not bundled: the loader belongs to the Python beside it, and is kept with it
  const loader = (await import(/* @vite-ignore */ `${listing.python}pyodide.mjs`)) as {
    loadPyodide: typeof loadPyodide;
  };
  const python = await loader.loadPyodide({ indexURL: listing.python });
  const core = await (await fetch(listing.core)).arrayBuffer();
  python.unpackArchive(core, "zip", { extractDir: "/core" });
  python.runPython("import sys; sys.path.insert(0, '/core')");
  return python.runPython(DOORS) as Answer;
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
