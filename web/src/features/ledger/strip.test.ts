/** An outing from the side: every drift and what came of it has its mark, to scale, and none is off the picture. */
import { describe, expect, test } from "vitest";
import { type Block, HIGH, paths } from "./strip";

const WIDE = 300;
const block = (from_s: number, depth_m: number, set_m: number, ended: string[]): Block =>
  ({ from_s, lie: `${from_s}`, depth_m, set_m, at_s: ended.map((_, k) => from_s + 60 * k), ended }) as Block;
const starts = (path: string) =>
  [...path.matchAll(/M(-?[\d.]+) (-?[\d.]+)/g)].map((one) => [Number(one[1]), Number(one[2])]);
const numbers = (path: string) => [...path.matchAll(/-?[\d.]+/g)].map((one) => Number(one[0]));

const OUTING = [
  block(0, 0.6, 0.5, ["clean", "tick", "fish", "hung"]),
  block(1200, 1.8, 2.4, ["clean", "missed", "lost_fly", "fish", "clean"]),
];

describe("an outing", () => {
  const drawn = paths(OUTING, WIDE);

  test("has a stroke a drift, and a mark for each touch, fish and missed take", () => {
    expect(starts(drawn.drifts)).toHaveLength(9);
    expect(starts(drawn.touched)).toHaveLength(3);
    expect(starts(drawn.fish)).toHaveLength(2);
    expect(starts(drawn.missed)).toHaveLength(1);
    expect(starts(drawn.water)).toHaveLength(2);
    expect(starts(drawn.bed)).toHaveLength(2);
  });

  test("stays inside its picture, in time from left to right", () => {
    const along = starts(drawn.drifts).map(([x]) => x ?? 0);
    expect(along).toEqual([...along].sort((a, b) => a - b));
    for (const [x, y] of Object.values(drawn).flatMap(starts)) {
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x).toBeLessThanOrEqual(WIDE);
      expect(y).toBeGreaterThanOrEqual(0);
      expect(y).toBeLessThanOrEqual(HIGH);
    }
  });

  test("is deeper where it was, and no stroke goes into the bed", () => {
    const [shallow, deep] = starts(drawn.bed).map(([, y]) => y ?? 0);
    expect(deep).toBeGreaterThan(shallow ?? 0);
    const feet = drawn.drifts
      .split("M")
      .slice(1)
      .map((one) => Number(one.split("V")[1]));
    expect(Math.max(...feet.slice(0, 4))).toBeLessThan(shallow ?? 0); // set to less than the depth
    expect(Math.max(...feet.slice(4))).toBeCloseTo(deep ?? 0, 1); // set to more: down to the bed
    expect(starts(drawn.touched).every(([, y]) => y === shallow || y === deep)).toBe(true);
  });

  test("of one drift, or at a depth that nobody read, is drawn all the same", () => {
    for (const one of [
      block(0, 0.5, 0.5, ["clean"]),
      { ...block(0, 0, 0, ["tick"]), depth_m: null, set_m: null } as Block,
    ])
      for (const path of Object.values(paths([one], WIDE)))
        expect(numbers(path).every(Number.isFinite)).toBe(true);
    expect(paths([], WIDE).drifts).toBe("");
  });
});
