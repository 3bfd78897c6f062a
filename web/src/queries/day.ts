/** The day at a beat: what fits into the time that there is, planned again as it goes on. */
import { useEffect, useState } from "react";
import { type Beat, type DayAsked, type DayPlan, questions, unwrap } from "../api/client";
import { useKeptAngler } from "../local/angler";
import { useMadeToday, useSaidTimes } from "../local/day";
import { dayHere } from "../local/engine";
import { useStanding } from "../local/logbook";
import { useHereToo } from "./either";
import { useToday } from "./places";

const MINUTE_MS = 60_000;

/** The clock goes on in steps: a plan is for people, and what is asked anew each minute is asked for nothing. */
const STEP_MS = 5 * MINUTE_MS;

const A_DAY_MIN = 24 * 60;

/** No more than these, the latest: a day has not so many. */
const MOST_MADE = 1500;

const stepped = (): number => Math.floor(Date.now() / STEP_MS) * STEP_MS;

function useNow(): number {
  const [now, tell] = useState(stepped);
  useEffect(() => {
    const timer = setInterval(() => tell(stepped()), MINUTE_MS / 3);
    return () => clearInterval(timer);
  }, []);
  return now;
}

export interface PlannedDay {
  /** When it was planned: its minutes are from then. */
  now: number;
  plan: DayPlan;
  /** The lie at which one stands, null before the first. */
  here: string | null;
  /** It is of what is known no more: it keeps its place, unseen, until it is planned again. */
  stale: boolean;
}

/** The day at a beat, as it is planned now; undefined until it is. */
export function useDay(beat: Beat, movesOn = false) {
  const now = useNow();
  const angler = useKeptAngler()?.id ?? "";
  const today = useToday(beat.id).data;
  const [said, all, standing] = [useSaidTimes(), useMadeToday(angler), useStanding()];
  const ofBeat = (id: string | null | undefined) => beat.lies.some((one) => one.id === id);
  const here = standing && ofBeat(standing) ? standing : null;
  const from = (at: string | number | null | undefined) =>
    at === null || at === undefined ? null : (new Date(at).getTime() - now) / MINUTE_MS;
  const asked: DayAsked = {
    lies: beat.working.flatMap(({ lie_id, score, drifts }) => {
      const name = beat.lies.find((one) => one.id === lie_id)?.name;
      return name ? [{ lie: lie_id, name, score, drifts }] : [];
    }),
    made: (all ?? [])
      .filter((one) => ofBeat(one.lie))
      .slice(-MOST_MADE)
      .map(({ lie, at }) => ({ lie, ago_min: Math.min(A_DAY_MIN, Math.max(0, (now - at) / MINUTE_MS)) })),
    here,
    begins_min: from(said?.from),
    ends_min: from(said?.until),
    best_from_min: from(today?.best?.starts),
    best_until_min: from(today?.best?.ends),
    dark_min: from(today?.light?.dark),
    worth_it: today?.worth_it ?? true,
    moves_on: movesOn,
  };
  const known = said !== undefined && all !== undefined && standing !== undefined;
  const {
    data,
    error,
    refetch,
    isPlaceholderData: stale,
  } = useHereToo(
    {
      queryKey: ["day-plan", now, asked],
      queryFn: async () => ({
        now,
        here,
        plan: await unwrap(questions.POST("/api/day-plan", { body: asked })),
      }),
    },
    async () => ({ now, here, plan: await dayHere(asked) }),
    { enabled: known && asked.lies.length > 0, stays: true, before: true, passing: true },
  );
  const day: PlannedDay | undefined = data && { ...data, stale };
  return { day, error, again: refetch };
}
