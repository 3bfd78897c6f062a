import { describe, expect, it } from "vitest";
import { clock } from "../../units/units";
import { placeOf } from "./SetupScreen";

describe("a place as typed", () => {
  it.each([
    ["47.0, -15.0", [47, -15]],
    ["47.0 -15.0", [47, -15]],
    [" -33.5;151 ", [-33.5, 151]],
  ])("%s is read", (typed, place) => {
    expect(placeOf(typed)).toEqual(place);
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
