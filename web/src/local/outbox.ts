/** The angler's writes: kept on the device first, sent in order, and sent again until the service has them. */
import { v7 as uuidv7 } from "uuid";
import { type Bodies, device, type Entry, type Kind } from "./records";

export const newId = (): string => uuidv7();

/** Write something down. It is safe when this resolves, signal or none. A known id is a correction. */
export async function write<K extends Kind>(
  angler: string,
  kind: K,
  id: string,
  body: Bodies[K],
): Promise<void> {
  await device.transaction("rw", device.entries, async () => {
    const last = await device.entries
      .where("[angler+seq]")
      .between([angler, -Infinity], [angler, Infinity])
      .last();
    const known = await device.entries.get(id);
    const seq = known && known.sent === 0 ? known.seq : (last?.seq ?? 0) + 1;
    await device.entries.put({ id, kind, angler, seq, sent: 0, refused: null, body } as Entry);
  });
}

export type Sender = (entry: Entry) => Promise<"stored" | "later" | { refused: string }>;

/** Send over HTTP: 4xx answers will not get better by repeating (but for a lost sign-in); everything else may. */
export const overHttp: Sender = async (entry) => {
  let response: Response;
  try {
    response = await fetch(`/api/${entry.kind}/${entry.id}`, {
      method: "PUT",
      headers: { "content-type": "application/json" },
      body: JSON.stringify(entry.body),
    });
  } catch {
    return "later";
  }
  if (response.ok) return "stored";
  if (response.status === 401 || response.status === 429 || response.status >= 500) return "later";
  const problem = (await response.json().catch(() => null)) as { faults?: { message: string }[] } | null;
  return {
    refused: problem?.faults?.map((fault) => fault.message).join(" · ") ?? `refused with ${response.status}`,
  };
};

let flushing: Promise<void> | null = null;

/** Send what has not been acknowledged, oldest first; stops at the first that has to wait. */
export function flush(angler: string, send: Sender = overHttp): Promise<void> {
  flushing ??= drain(angler, send).finally(() => {
    flushing = null;
  });
  return flushing;
}

async function drain(angler: string, send: Sender): Promise<void> {
  for (;;) {
    const waiting = await device.entries
      .where("[angler+seq]")
      .between([angler, -Infinity], [angler, Infinity])
      .filter((entry) => entry.sent === 0 && entry.refused === null)
      .first();
    if (!waiting) return;
    const outcome = await send(waiting);
    if (outcome === "later") return;
    await device.transaction("rw", device.entries, async () => {
      const now = await device.entries.get(waiting.id);
      // corrected while it was on its way: the newer version is still to be sent
      if (!now || JSON.stringify(now.body) !== JSON.stringify(waiting.body)) return;
      await device.entries.put(
        outcome === "stored" ? { ...now, sent: 1 } : { ...now, refused: outcome.refused },
      );
    });
  }
}
