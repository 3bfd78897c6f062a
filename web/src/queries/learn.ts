/** Questions to the log, which the service answers. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type DimensionName, type Question, unwrap } from "../api/client";

export const useAskable = () =>
  useQuery({ queryKey: ["learn", "questions"], queryFn: () => unwrap(api.GET("/api/learn/questions")) });

export const useParts = (dimension: DimensionName) =>
  useQuery({
    queryKey: ["learn", "parts", dimension],
    queryFn: () => unwrap(api.GET("/api/learn/parts", { params: { query: { dimension } } })),
  });

/** An answer; the one before stands, greyed, until it is there. */
export const useAnswer = (question: Question | null) =>
  useQuery({
    queryKey: ["learn", "answers", question],
    queryFn: () => unwrap(api.POST("/api/learn/answers", { body: question as Question })),
    enabled: question !== null,
    placeholderData: keepPreviousData,
  });

export const useBehind = (question: Question, part: string) =>
  useQuery({
    queryKey: ["learn", "outings", question, part],
    queryFn: () => unwrap(api.POST("/api/learn/outings", { body: { question, part } })),
  });
