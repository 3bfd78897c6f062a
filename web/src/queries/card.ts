/** What the coach would say after the drifts to come, and at the other spots of a lie. */
import { hashKey, useQueries } from "@tanstack/react-query";
import { useState } from "react";
import { type CoachIn, questions, type Step, unwrap } from "../api/client";
import { cardHere } from "../local/engine";
import { coachOf } from "./coach";
import { useHereToo } from "./either";

/** What the coach will say after each likely run of drifts: asked for when it is looked at, and told as it is worked out. */
export function useCard(lie: string, asked: CoachIn) {
  const queryKey = ["card", asked];
  const of = hashKey(queryKey);
  const [soFar, setSoFar] = useState<{ of: string; steps: Step[] }>();
  const whole = useHereToo(
    {
      queryKey,
      queryFn: async () => ({ steps: await unwrap(questions.POST("/api/card", { body: asked })) }),
    },
    ({ signal }) => cardHere(lie, asked, (steps) => setSoFar({ of, steps }), signal),
    { stays: true, passing: true, dropped: true },
  );
  const steps = whole.data?.steps ?? (soFar?.of === of ? soFar.steps : []);
  return { error: whole.error, again: whole.refetch, whole: whole.isSuccess, steps };
}

/** What it says of several spots of a lie at once. */
export const useCoaches = (lie: string, asked: (CoachIn | null)[]) =>
  useQueries({ queries: asked.map((one) => coachOf(lie, one)) });
