/** Questions to the log, which the service answers. */
import { keepPreviousData, skipToken, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useLiveQuery } from "dexie-react-hooks";
import { useEffect } from "react";
import { PASSING_MS } from "../api/asks";
import {
  api,
  type DimensionName,
  type HereIn,
  type Question,
  questions,
  type Trial,
  unwrap,
} from "../api/client";
import { useKeptAngler } from "../local/angler";
import { turnHere } from "../local/engine";
import { ofKind, since } from "../local/entries";
import { askTrial, goingOn, type KeptTrial, readTrial } from "../local/trial";

/** Whether what stands in an address has the shape of a question; what is wrong in it the service says. */
export const isQuestion = (ask: unknown): ask is Question => {
  const { by, measure, per, only } = (ask ?? {}) as Partial<Record<keyof Question, unknown>>;
  return (
    [by, measure, per].every((one) => typeof one === "string") &&
    Array.isArray(only) &&
    only.every((one) => typeof one?.dimension === "string" && typeof one.part === "string")
  );
};

export const useAskable = () =>
  useQuery({ queryKey: ["learn", "questions"], queryFn: () => unwrap(api.GET("/api/learn/questions")) });

export const useParts = (dimension: DimensionName) =>
  useQuery({
    queryKey: ["learn", "parts", dimension],
    queryFn: () => unwrap(api.GET("/api/learn/parts", { params: { query: { dimension } } })),
  });

/** What the log has of a place in water like today's; null where there is nothing like it. */
export const useLogHere = (place: HereIn | null) =>
  useQuery({
    queryKey: ["learn", "here", place],
    queryFn: () => unwrap(questions.POST("/api/learn/here", { body: place as HereIn })),
    enabled: place !== null,
  });

/** An answer; the one before keeps its room until it is there. */
export const useAnswer = (question: Question | null) =>
  useQuery({
    queryKey: ["learn", "answers", question],
    queryFn: () => unwrap(questions.POST("/api/learn/answers", { body: question as Question })),
    enabled: question !== null,
    placeholderData: keepPreviousData,
  });

export const useBehind = (question: Question, part: string) =>
  useQuery({
    queryKey: ["learn", "outings", question, part],
    queryFn: () => unwrap(questions.POST("/api/learn/outings", { body: { question, part } })),
  });

export const useCalibration = (wanted = true) =>
  useQuery({
    queryKey: ["learn", "calibration"],
    queryFn: () => unwrap(api.GET("/api/learn/calibration")),
    enabled: wanted,
  });

/** Have the drift engine say what the settings that were fished were to do, and how their rigs stood, some at a time, until all are done. */
export function useForetelling(left: number) {
  const client = useQueryClient();
  const more = useMutation({
    mutationFn: () => unwrap(api.POST("/api/learn/foretold")),
    onSuccess: () => client.invalidateQueries({ queryKey: ["learn"] }),
  });
  const { mutate, isPending, isError } = more;
  useEffect(() => {
    if (left > 0 && !isPending && !isError) mutate();
  }, [left, isPending, isError, mutate]);
  return more;
}

/** Let one's own eye for depth be reckoned with, or what is usual. */
export function useOwnEye() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (own: boolean) => unwrap(api.PUT("/api/learn/eye", { body: { own } })),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ["learn", "calibration"] }),
        client.invalidateQueries({ queryKey: ["session"] }),
      ]),
  });
}

/** The questions whose answers are shown beside the rig. */
export const useEvidence = () =>
  useQuery({ queryKey: ["learn", "evidence"], queryFn: () => unwrap(api.GET("/api/learn/evidence")) });

/** Show an answer beside the rig, or no more. */
export function useUseInRig() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (questions: Question[]) => unwrap(api.PUT("/api/learn/evidence", { body: { questions } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["learn", "evidence"] }),
  });
}

/** What the log answers of the water here, as far as the angler wants it beside the rig. */
export const useEvidenceHere = (place: HereIn | null) =>
  useQuery({
    queryKey: ["learn", "evidence", "here", place],
    queryFn: () => unwrap(questions.POST("/api/learn/evidence/here", { body: place as HereIn })),
    enabled: place !== null,
  });

/** How the fair trial stands; null: none is under way. ``after``: the last drift logged here, so that it is asked anew after each. */
export function useTrial(after = "", enabled = true) {
  const angler = useKeptAngler()?.id ?? "";
  return useQuery({
    queryKey: ["learn", "trial", after],
    queryFn: () => askTrial(angler),
    gcTime: PASSING_MS,
    staleTime: 0,
    enabled: enabled && angler !== "",
  });
}

/** Whose turn it is by what this device knows of the trial and was fished here since; undefined where it cannot say. */
export function useTurnHere(
  wanted: boolean,
): { sides: KeptTrial["sides"]; turn: string; left: number } | undefined {
  const angler = useKeptAngler()?.id ?? "";
  const here = useLiveQuery(async () => {
    const kept = await readTrial(angler);
    if (!kept) return null;
    const fished = await since(angler, kept.asked);
    return { sides: kept.sides, going: goingOn(kept, [...fished, ...(await ofKind(angler, "settings"))]) };
  }, [angler]);
  const { data } = useQuery({
    queryKey: ["turn", here?.going],
    networkMode: "always",
    retry: false,
    queryFn: wanted && here ? () => turnHere(here.going) : skipToken,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: PASSING_MS,
  });
  return wanted && here && data ? { sides: here.sides, ...data } : undefined;
}

/** Begin a fair trial, or end the one that is under way. */
export function useTry() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (trial: Trial | null): Promise<void> => {
      if (trial) await unwrap(api.PUT("/api/learn/trial", { body: trial }));
      else await unwrap(api.DELETE("/api/learn/trial"));
    },
    onSuccess: () => client.invalidateQueries({ queryKey: ["learn", "trial"] }),
  });
}
