/** What the core works out for a rig as it is set. */
import { type FetchQueryOptions, keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { adviceOf, PASSING_MS, pathOf, tuneOf } from "../api/asks";
import {
  type BuildIn,
  type How,
  questions,
  type Ranked,
  type Situation,
  type Tuning,
  unwrap,
} from "../api/client";
import { adviseHere, answersSoon, buildHere, changeHere, compareHere, tuneHere } from "../local/engine";
import { serviceOr, useAhead, useHereToo } from "./either";

const LEFT_ALONE_MS = 500;

const rigsFor = (lie: string, of: Situation): FetchQueryOptions[] => {
  const { queryKey, queryFn } = adviceOf(of);
  return [
    {
      queryKey,
      queryFn: () => serviceOr(queryFn, () => adviseHere(lie, of)),
      networkMode: "always",
      staleTime: Number.POSITIVE_INFINITY,
    },
  ];
};

/**
 * Have the rigs for a reading worked out on this device while it is still looked at: they are there when they are turned to. Not at
 * once: while it is being changed, its column comes first.
 */
export const useRigsAhead = (lie: string, situation: Situation | null) =>
  useAhead(situation, lie, rigsFor, LEFT_ALONE_MS);

const layFor = (lie: string, of: { situation: Situation; tuning: Tuning }): FetchQueryOptions[] => [
  {
    queryKey: ["laid", of.situation, of.tuning],
    queryFn: async () => (await answersSoon(lie)) && tuneHere(lie, of.situation, of.tuning),
    networkMode: "always",
    gcTime: PASSING_MS,
  },
];

/**
 * Without signal: have a rig that is known from elsewhere worked out on this device before its sliders are moved. The first answer
 * takes several times as long as the next, which build on it.
 */
export const useLaidAhead = (lie: string, situation: Situation, tuning: Tuning | null) =>
  useAhead(tuning && { situation, tuning }, lie, layFor, LEFT_ALONE_MS);

/** A rig as it was set, worked out also where nobody looks any more. */
export const tuned = (lie: string, situation: Situation, tuning: Tuning): Promise<Ranked> =>
  serviceOr(
    () => tuneOf(situation, tuning).queryFn(),
    ({ signal }) => tuneHere(lie, situation, tuning, signal),
    { lie },
  );

export const useTune = (lie: string, situation: Situation, tuning: Tuning | null) =>
  useHereToo(
    tuneOf(situation, tuning as Tuning),
    // what a thumb has passed is not worked out any more
    ({ signal }) => tuneHere(lie, situation, tuning as Tuning, signal),
    { lie, enabled: tuning !== null, before: true, dropped: true },
  );

export const usePath = (situation: Situation, tuning: Tuning | null, how: How) =>
  useQuery({ ...pathOf(situation, tuning, how), placeholderData: keepPreviousData });

/** The drifts of other rigs in the same water, to compare with. */
export const useGhosts = (situation: Situation, tunings: Tuning[], how: How) =>
  useQueries({ queries: tunings.map((tuning) => pathOf(situation, tuning, how)) }).flatMap((one) =>
    one.data ? [one.data] : [],
  );

export const useChanges = (lie: string, situation: Situation, tuning: Tuning | null) =>
  useHereToo(
    {
      queryKey: ["changes", situation, tuning],
      queryFn: () =>
        unwrap(questions.POST("/api/changes", { body: { situation, tuning: tuning as Tuning } })),
    },
    () => changeHere(lie, situation, tuning as Tuning),
    { enabled: tuning !== null, stays: true, passing: true },
  );

export const useCompare = (situation: Situation, first: Tuning | null, second: Tuning | null) =>
  useHereToo(
    {
      queryKey: ["compare", situation, first, second],
      queryFn: () =>
        unwrap(
          questions.POST("/api/compare", {
            body: { situation, first: first as Tuning, second: second as Tuning },
          }),
        ),
    },
    () => compareHere(situation, first as Tuning, second as Tuning),
    { enabled: first !== null && second !== null, stays: true, before: true, passing: true },
  );

/** How a rig is tied; without signal as the light and the rod say. */
export const useBuild = (asked: BuildIn | null) =>
  useHereToo(
    {
      queryKey: ["build", asked],
      queryFn: () => unwrap(questions.POST("/api/build", { body: asked as BuildIn })),
    },
    () => buildHere(asked as BuildIn),
    { enabled: asked !== null, stays: true, before: true, passing: true },
  );
