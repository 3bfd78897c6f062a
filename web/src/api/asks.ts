/** What is asked of the service, apart from when: screens use it, and so does taking a beat along. Answers of the core are keyed by all that went in. */
import { api, type How, questions, type Situation, type Tuning, unwrap } from "./client";

/** What a slider asked for and nobody waits for any more is given up, here and at the service. */
interface Asking {
  signal?: AbortSignal;
}
const to = (signal: AbortSignal | undefined) => (signal ? { signal } : {});

/** What is worked out for every step of a slider is soon of no use. */
export const PASSING_MS = 5 * 60_000;

export const sessionQuery = { queryKey: ["session"], queryFn: () => unwrap(api.GET("/api/session")) };
export const beatsQuery = { queryKey: ["beats"], queryFn: () => unwrap(api.GET("/api/beats")) };
export const boxQuery = { queryKey: ["box"], queryFn: () => unwrap(api.GET("/api/box")) };
export const schoolsQuery = { queryKey: ["schools"], queryFn: () => unwrap(api.GET("/api/schools")) };
export const todayOf = (beat: string) => ({
  queryKey: ["today", beat],
  queryFn: () => unwrap(api.GET("/api/beats/{beat_id}/today", { params: { path: { beat_id: beat } } })),
});
export const ledgerOf = (outing: string) => ({
  queryKey: ["ledger", outing],
  queryFn: () => unwrap(api.GET("/api/outings/{outing_id}", { params: { path: { outing_id: outing } } })),
});
export const columnOf = (situation: Situation) => ({
  queryKey: ["column", situation],
  queryFn: ({ signal }: Asking = {}) =>
    unwrap(questions.POST("/api/column", { body: situation, ...to(signal) })),
});
export const adviceOf = (situation: Situation) => ({
  queryKey: ["advice", situation],
  queryFn: () => unwrap(questions.POST("/api/advice", { body: situation })),
});
export const marchesOf = (situation: Situation, tunings: Tuning[]) => ({
  queryKey: ["marches", situation, tunings],
  gcTime: 0, // a hundred kilobytes, kept elsewhere
  queryFn: () => unwrap(questions.POST("/api/marches", { body: { situation, tunings } })),
});
export const tuneOf = (situation: Situation, tuning: Tuning) => ({
  queryKey: ["tune", situation, tuning],
  queryFn: ({ signal }: Asking = {}) =>
    unwrap(questions.POST("/api/tune", { body: { situation, tuning }, ...to(signal) })),
});

export const pathOf = (situation: Situation, tuning: Tuning | null, how: How) => ({
  queryKey: ["path", situation, tuning, how],
  gcTime: PASSING_MS,
  queryFn: ({ signal }: Asking = {}) =>
    unwrap(
      questions.POST("/api/path", { body: { situation, tuning: tuning as Tuning, ...how }, ...to(signal) }),
    ),
  enabled: tuning !== null,
  staleTime: Number.POSITIVE_INFINITY,
});
