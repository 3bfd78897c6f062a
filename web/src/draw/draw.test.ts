import { describe, expect, test } from "vitest";
import { plainly } from "../api/client";
import { lines } from "./lines";
import { type Picture, reach } from "./rig";
import { rulerStep } from "./size";
import { type Frame, yOf } from "./water";

const frame: Frame = { width: 600, surface: 50, scale: 200, height: 300, depth: 1 };

describe("drawn to scale", () => {
  test("the surface is where it is, and the bed a depth below", () => {
    expect(yOf(frame, frame.depth)).toBe(50);
    expect(yOf(frame, 0)).toBe(250);
  });

  test("a rig reaches as far as its line does in the picture, not up in the air", () => {
    const picture = {
      depth_m: 1,
      line: [
        { x_m: 0.9, height_m: 2.2 },
        { x_m: 0.2, height_m: 1.1 },
        { x_m: -0.3, height_m: 0.1 },
      ],
    } as Picture;
    expect(reach(picture, 0.2)).toEqual({ up: -0.3, down: 0.2 });
    expect(reach(picture, 2)).toEqual({ up: -0.3, down: 0.9 });
  });

  test.each([
    [267, 34, 1, 0.2],
    [80, 34, 1, 0.5],
    [20, 34, 1, 2],
  ])("at %d px a metre, marks %d px apart or more stand every %d × %d m", (scale, apart, unit, step) => {
    expect(rulerStep(scale, apart, unit)).toBeCloseTo(step);
    expect(rulerStep(scale, apart, unit) * scale).toBeGreaterThanOrEqual(apart);
  });
});

test.each([
  ["depth_m = 12 is outside 0.05 to 4 m", "12 is outside 0.05 to 4 m"],
  ["tuning.point_bead_mm = 4: this rig weighs too much", "This rig weighs too much"],
  ["speed is missing", "Speed is missing"],
])("a fault is said plainly: %s", (message, said) => {
  expect(plainly({ code: "X", field: null, message })).toBe(said);
});

describe("lines of text", () => {
  test("break between words and lose none", () => {
    const text = "12 m is out of reach of a tight line.";
    const found = lines(text, 14);
    expect(found.join(" ")).toBe(text);
    expect(Math.max(...found.map((one) => one.length))).toBeLessThanOrEqual(14);
    expect(lines("unbreakable", 4)).toEqual(["unbreakable"]);
  });
});
