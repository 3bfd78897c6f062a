/** A game on this device: a reload goes on where it was. No rule of it is here; what a cast does the service says. */
import type { Cast, Game, PracticeWater } from "../../api/client";

export const SEEDS = 1_000_000;

/** A water that nobody chose. */
export const anySeed = (): number => Math.floor(Math.random() * SEEDS);

export interface Kept {
  id: string;
  /** The game as it was told of, with the box of that day: what is tied on now is not changed by what is bought meanwhile. */
  told: Game;
  casts: Cast[];
  /** What is in the hand for the next cast. */
  hand: Cast;
  hinted: boolean;
  /** The game's clock after the last cast, s. */
  clock: number;
}

const keyOf = (drill: string, seed: number) => `practice ${drill} ${seed}`;

export function keep(drill: string, seed: number, kept: Kept): void {
  try {
    sessionStorage.setItem(keyOf(drill, seed), JSON.stringify(kept));
  } catch {
    // a full device plays on: only a reload would begin anew
  }
}

export function keptOf(drill: string, seed: number): Kept | null {
  try {
    return JSON.parse(sessionStorage.getItem(keyOf(drill, seed)) ?? "null") as Kept | null;
  } catch {
    return null;
  }
}

export const forget = (drill: string, seed: number): void => sessionStorage.removeItem(keyOf(drill, seed));

/** The first cast of a water, with the first rig that may be on. */
export function firstHand(water: PracticeWater): Cast {
  const start = water.starts[0] ?? { rig: "euro" as const, depth_setting_m: 1, point_bead_mm: null };
  return {
    ...start,
    up_m: 3,
    lane: 1,
    entry: "straight",
    mend: "none",
    direction: "up",
    strike_s: null,
    outcome: null,
    pace: null,
  };
}

/** A game with these casts; box and school are those that it was told with. */
export const gameOf = (told: Game, casts: Cast[]): Game => ({ ...told, casts });
