/** Questions to the log, which the service answers. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, type DimensionName, type HereIn, type Question, questions, unwrap } from "../api/client";

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
