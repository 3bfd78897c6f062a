/** Questions to the log, which the service answers. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type DimensionName, type HereIn, type Question, unwrap } from "../api/client";

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
    queryFn: () => unwrap(api.POST("/api/learn/here", { body: place as HereIn })),
    enabled: place !== null,
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
