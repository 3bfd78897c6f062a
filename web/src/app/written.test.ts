import { hashKey } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { nameOf } from "./written";

test("a question is named as the query store itself would", () => {
  const water = {
    surface_speed_m_s: 0.9,
    depth_m: 1.2,
    bed: 'cobble "large"\u2028',
    kind: undefined,
    sd: null,
  };
  const situation = {
    water,
    place: { cover: ["roots", undefined, { b: 1, a: [] }], at_m: 1e-7, along_m: -0 },
  };
  const again = { place: situation.place, water: { ...water } };
  for (const key of [
    [],
    ["beats"],
    ["tune", situation, { bead: null }],
    ["coach", { drifts: [{ outcome: "clean" }], situation }, undefined, null, true, Number.NaN],
  ]) {
    expect(nameOf(key)).toBe(hashKey(key));
    expect(nameOf(key)).toBe(hashKey(key)); // and where it was written out before
  }
  expect(nameOf(["tune", again])).toBe(nameOf(["tune", situation]));
});
