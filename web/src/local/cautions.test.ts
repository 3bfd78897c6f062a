/** Which cautions stand at a lie. */
import { expect, test } from "vitest";
import type { Caution } from "../api/client";
import { standing, stops } from "./cautions";

const one = (level: Caution["level"], code: Caution["code"], text: string = code): Caution => ({
  level,
  code,
  text,
});

test("what stops the beat today stands at every lie, what is merely good to know does not", () => {
  const day = [one("stop", "closed"), one("caution", "rising"), one("note", "local_rules")];
  const lie = [one("caution", "wade_with_staff"), one("note", "local_rules")];
  const shown = standing(day, lie);
  expect(shown.map((each) => each.code)).toEqual(["closed", "wade_with_staff", "local_rules"]);
  expect(stops(shown).map((each) => each.code)).toEqual(["closed"]);
});

test("each thing is said once, in the lie's own words", () => {
  const shown = standing([one("stop", "warm_stop", "the river")], [one("stop", "warm_stop", "the lie")]);
  expect(shown.map((each) => each.text)).toEqual(["the lie"]);
});
