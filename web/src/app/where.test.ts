import { expect, test } from "vitest";
import { leadsTo } from "./where";

const beats = [
  { id: "A", lies: [{ id: "a1" }, { id: "a2" }] },
  { id: "B", lies: [{ id: "b1" }, { id: "b2" }] },
  { id: "C", lies: [] },
];
const nowhere = { standing: null, seen: null, shown: undefined };

test("the steps lead to where one stands, else to what was last looked at, else to the first lie", () => {
  expect(leadsTo(beats, { standing: "b2", seen: "a2", shown: "A" })).toBe("b2");
  expect(leadsTo(beats, { ...nowhere, seen: "b2" })).toBe("b2");
  expect(leadsTo(beats, { ...nowhere, seen: "b2", shown: "B" })).toBe("b2");
  expect(leadsTo(beats, { ...nowhere, seen: "b2", shown: "A" })).toBe("a1");
  expect(leadsTo(beats, { ...nowhere, standing: "gone", seen: "gone" })).toBe("a1");
  expect(leadsTo(beats, { ...nowhere, shown: "C" })).toBeUndefined();
  expect(leadsTo([], nowhere)).toBeUndefined();
});
