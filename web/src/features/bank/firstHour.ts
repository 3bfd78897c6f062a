/** The first hour on the bank: what the core says of it, and where a drift of it is fished. */
import type { Outcome, Ranked, Situation } from "../../api/client";
import type { Log } from "../../local/logbook";
import type { InHand } from "../../local/records";
import hour from "../trade/firstHour.json";
import type { Spot } from "./spots";

const SCHOOL = hour.school as NonNullable<Situation["school"]>;

export const HOUR_KEYS = hour.keys as readonly { outcome: Outcome; name: string; what: string }[];

/** A lie as somebody is advised for who fishes one fly. */
export const plainly = (situation: Situation): Situation => ({
  ...situation,
  school: { ...SCHOOL, ...situation.school, flies: SCHOOL.flies },
});

/** The rig of a first hour among those that can be used here, if it can. */
export const rigOfTheHour = (ranked: readonly Ranked[] | undefined): Ranked | undefined =>
  ranked?.find((one) => one.rig === hour.rig && one.setup);

/** Whether a rig is one float and one fly already: its length is left alone then. */
export const isOfTheHour = (rod: InHand | null): boolean =>
  rod !== null && rod.rig !== "dry" && rod.rig === hour.rig && rod.setup.flies === 1;

const turnsOf = (lanes: number | undefined): readonly number[] => {
  const all = hour.turns;
  return all[Math.min(lanes ?? all.length, all.length) - 1] ?? [];
};

/** Where the next drift is fished after so many; the far lane again when all were. */
export function turnOf(drifts: number, lanes: number | undefined): Spot {
  let lane = 0;
  let left = drifts;
  for (const share of turnsOf(lanes)) {
    lane += 1;
    if (left < share) break;
    left -= share;
  }
  return { lane: Math.max(1, lane), stance: 1 };
}

/** What a beginner is told now, and how many of the drifts are done. */
export function toldNow({ drifts }: Pick<Log, "drifts">, lanes: number | undefined) {
  const turns = turnsOf(lanes);
  const all = turns.reduce((sum, one) => sum + one, 0);
  const done = drifts.length;
  const last = drifts.at(-1)?.body.outcome;
  const moved = done > 0 && turnOf(done, lanes).lane !== turnOf(done - 1, lanes).lane;
  const next = done === 0 ? hour.begin : moved ? hour.further : null;
  return { done, all, after: last ? hour.after[last] : null, next: done >= all ? hour.done : next };
}
