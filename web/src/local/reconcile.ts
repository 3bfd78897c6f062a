/** Two writings of one record: which stands. The same rule as the service's, so that all end with the same log. */
import type { Entry, Kind, Version } from "./records";

/** What is never edited: the first that is known stands. */
const FIXED: ReadonlySet<Kind> = new Set(["stops", "settings"]);

export function later(a: Version, b: Version): boolean {
  const [ta, tb] = [Date.parse(a.at), Date.parse(b.at)];
  if (ta !== tb) return ta > tb;
  if (a.device !== b.device) return a.device > b.device;
  return a.seq > b.seq;
}

/** What stands after hearing of another writing; the very same object where nothing changes. */
export function standing(known: Entry | undefined, heard: Entry): Entry {
  if (!known) return heard;
  if (FIXED.has(heard.kind)) return known;
  return later(heard, known) ? heard : known;
}
