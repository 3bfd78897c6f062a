/** What the coach says of the drifts so far. */
import { type FetchQueryOptions, keepPreviousData, useQuery } from "@tanstack/react-query";
import { PASSING_MS } from "../api/asks";
import { type CoachIn, questions, unwrap } from "../api/client";
import { coachHere } from "../local/engine";
import { serviceOr, useAhead } from "./either";

export const coachOf = (lie: string, asked: CoachIn | null) => ({
  queryKey: ["coach", asked],
  gcTime: PASSING_MS,
  networkMode: "always" as const,
  retry: false,
  // the next tap makes the question of this one stale: it is dropped wherever it waits
  queryFn: async ({ signal }: { signal: AbortSignal }) => ({
    ...(await serviceOr(
      () => unwrap(questions.POST("/api/coach", { body: asked as CoachIn, signal })),
      (given) => coachHere(lie, asked as CoachIn, given.signal),
      { lie, signal },
    )),
    after: asked?.drifts?.length ?? 0,
  }),
  enabled: asked !== null,
  staleTime: Number.POSITIVE_INFINITY,
});

/**
 * What the drifts so far say, and the next change; the last answer stands while the next is on its way. What could not be said
 * without signal is asked again with it.
 */
export const useCoach = (lie: string, asked: CoachIn | null) =>
  useQuery({ ...coachOf(lie, asked), refetchOnReconnect: true, placeholderData: keepPreviousData });

const LIKELY = ["clean", "tick", "hung", "missed", "fish"] as const;

const wordsFor = (lie: string, clean: CoachIn): FetchQueryOptions[] =>
  LIKELY.map((outcome) => {
    const drifts = clean.drifts?.map((one, k, all) => (k < all.length - 1 ? one : { ...one, outcome }));
    return coachOf(lie, { ...clean, drifts });
  });

/**
 * Have the coach's words on this device worked out while the next drift is fished, for each way that it may end: they are there at
 * the tap. `next` is what will be asked if it ends clean.
 */
export const useWordsAhead = (lie: string, next: CoachIn | null) => useAhead(next, lie, wordsFor);
