/** Where the screens are, and what an address carries. */
import type { Question } from "../api/client";

export type LieScreen = "read" | "rig" | "drift" | "log" | "build" | "compare";

export const address = {
  beat: (beat: string) => `/beat/${beat}`,
  lie: (lie: string, screen: LieScreen) => `/lie/${lie}/${screen}`,
  outing: (outing: string) => `/ledger/${outing}`,
  drill: (drill: string, seed: string | number) => `/practice/${drill}/${seed}`,
  part: (part: string) => `/trade/${part}`,
  shared: (share: string) => `/shared/${share}`,
  asked: (ask: Question) => `/learn?ask=${encodeURIComponent(JSON.stringify(ask))}`,
};

/** The question in a search; undefined where none can be made out. */
export function askedIn(search: string): unknown {
  try {
    return JSON.parse(new URLSearchParams(search).get("ask") ?? "null") ?? undefined;
  } catch {
    return undefined;
  }
}
