import { describe, expect, it } from "vitest";
import { clock } from "../../units/units";
import { placeOf } from "./place";

describe("a place as typed", () => {
  it.each([
    ["47.0, -15.0", [47, -15]],
    ["47.0 -15.0", [47, -15]],
    [" -33.5;151 ", [-33.5, 151]],
    ["47,52 11,10", [47.52, 11.1]],
    ["47,52; 11,10", [47.52, 11.1]],
    ["47.5,-11.1", [47.5, -11.1]],
    ["47° 31' 12\" N, 11° 6' W", [47.52, -11.1]],
    ["47° 31' N 11° 6' E", [47 + 31 / 60, 11.1]],
    ["N 47.52 W 11.1", [47.52, -11.1]],
    ["11.1 E, 47.52 S", [-47.52, 11.1]],
  ])("%s is read", (typed, place) => {
    const found = placeOf(typed);
    for (const k of [0, 1]) expect(found?.[k]).toBeCloseTo(place[k] as number, 9);
  });

  it.each(["by the mill", "47", "47, fifteen", "47, -15, 3", ""])("%s is none", (typed) => {
    expect(placeOf(typed)).toBeNull();
  });
});

describe("a time of the day", () => {
  const afternoon = new Date(2026, 4, 1, 15, 5).toISOString();

  it("goes 24 hours round, or twice 12 for those who read feet", () => {
    expect(clock(afternoon, "metric")).toBe("15:05");
    expect(clock(afternoon, "us").replace(/\s/g, " ")).toBe("3:05 PM");
  });
});
