import type { Question } from "../../api/client";

/** What a rate is of. */
export const PER = { drift: "a drift", hour: "an hour", zone_hour: "an hour in the zone" } as const;

/** What a rate is shown of: a hundred drifts, or an hour. */
export const shownOf = (question: Question) =>
  question.per === "drift" ? { times: 100, unit: "in 100 drifts" } : { times: 1, unit: PER[question.per] };

/** A rate as it is shown, as exact as it is known. */
export const shownRate = (rate: number, times: number): string =>
  (rate * times).toFixed(rate * times < 9.5 ? 1 : 0);
