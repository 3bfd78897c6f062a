/** The first hour: near to far, each lane its share, and something to do after every drift. */
import { describe, expect, test } from "vitest";
import type { Log } from "../../local/logbook";
import hour from "../trade/firstHour.json";
import { toldNow, turnOf } from "./firstHour";

const after = (...outcomes: string[]) =>
  ({ drifts: outcomes.map((outcome) => ({ body: { outcome } })) }) as unknown as Log;

describe("turns", () => {
  test.each([1, 2, 3, 4])("of %i lanes go out one by one and never back", (lanes) => {
    const fished = Array.from({ length: 25 }, (_, k) => turnOf(k, lanes).lane);
    expect(fished[0]).toBe(1);
    expect(new Set(fished.slice(0, 20)).size).toBe(lanes);
    expect([...fished].sort((a, b) => a - b)).toEqual(fished);
    expect(fished.at(-1)).toBe(lanes);
  });
  test("of a lie of unknown width, or of six lanes, reach as far as a beginner", () => {
    for (const lanes of [undefined, 6]) expect(turnOf(19, lanes).lane).toBe(hour.turns.length);
  });
});

test("there is something to do before the first drift, at a new lane, after any outcome, and at the end", () => {
  expect(toldNow(after(), 2)).toEqual({ done: 0, all: 20, after: null, next: hour.begin });
  const ten = Array.from({ length: 10 }, () => "clean");
  expect(toldNow(after(...ten), 2).next).toBe(hour.further);
  expect(toldNow(after(...ten.slice(1), "tick"), 1)).toMatchObject({
    next: null,
    after: hour.after.tick,
  });
  expect(toldNow(after(...ten, ...ten), 2).next).toBe(hour.done);
});
