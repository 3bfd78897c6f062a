/** What a change of a reading starts from, and whether it corrects one or is another. */
import { describe, expect, test } from "vitest";
import type { Lie, Reading, Situation } from "../../api/client";
import { baseOf, carriedFrom, changed, idFor, isOfToday } from "./base";

const READING = {
  ...{ id: "r1", lie_id: "l", at: "2026-06-01T09:00:00Z", fresh_until: "2026-06-01T15:00:00Z" },
  ...{ depth_m: 0.9, depth_sd_m: 0.04, depth_how: "staff", surface_speed_m_s: 0.5 },
  ...{ speed_error_m_s: 0.05, speed_how: "bubbles", clarity_m: 1.5, temperature_c: 11, flow_m3_s: 4 },
} as unknown as Reading;
const LIE = { stands_on: "reading" } as Lie;
const SITUATION = { water: { depth_m: 1.1, surface_speed_m_s: 0.6 } } as Situation;
const at = (hour: string) => Date.parse(`2026-06-01T${hour}:00Z`);

describe("a change of a reading", () => {
  test("corrects one of the day, and is another once that is over", () => {
    expect(idFor(LIE, READING, at("14:59"))).toBe("r1");
    expect(idFor(LIE, READING, at("15:01"))).not.toBe("r1");
    const carried = { stands_on: "flow" } as Lie;
    expect(idFor(carried, READING, at("10:00"))).not.toBe("r1");
    expect(idFor(carried, { ...READING, depth_how: "flow" }, at("10:00"))).toBe("r1");
  });
  test("is of a lie that was read today, which has gone with the river or has not", () => {
    const seen = [{ at: "2026-05-01T09:00:00Z" }, { at: READING.at, depth_m: 0.9 }];
    const lie = { stands_on: "flow", reading: READING, today: { seen } } as unknown as Lie;
    expect(carriedFrom(lie, at("14:59"))).toBe(seen[1]);
    expect(carriedFrom(lie, at("15:01"))).toBeNull();
    expect(carriedFrom({ ...lie, stands_on: "reading" }, at("14:59"))).toBeNull();
    // signs written since, on what was carried, are no reading of the depth
    const signs = { ...READING, at: "2026-06-01T11:00:00Z", fresh_until: "2026-06-01T17:00:00Z" };
    expect(carriedFrom({ ...lie, reading: signs }, at("14:59"))).toBe(seen[1]);
    expect(carriedFrom({ ...lie, reading: signs }, at("15:01"))).toBeNull();
  });
  test("is of a lie that is told of for today, by a reading of the day or by the flow, or as it once was read", () => {
    const lie = { stands_on: "reading", reading: READING } as Lie;
    const told = ["14:59", "15:01"].map((hour) => isOfToday(lie, at(hour)));
    expect([...told, isOfToday({ ...lie, stands_on: "flow" }, at("15:01"))]).toEqual([true, false, true]);
    expect(isOfToday({ stands_on: null, reading: null } as Lie)).toBe(false);
  });
  test("keeps a timed speed with its error, and sends nothing that the service made", () => {
    const base = baseOf(LIE, SITUATION, READING);
    expect(base.speed).toEqual({ how: "timed", surface_speed_m_s: 0.5, error_m_s: 0.05 });
    for (const made of ["id", "at", "flow_m3_s", "fresh_until", "speed_how"])
      expect(base).not.toHaveProperty(made);
  });
  test("of a lie that was carried starts from what it was carried to, and a depth then given was seen", () => {
    const carried = baseOf({ stands_on: "flow" } as Lie, SITUATION, READING);
    expect(carried).toMatchObject({ depth_m: 1.1, depth_how: "flow" });
    expect(changed(carried, { depth_m: 1.3 })).toMatchObject({
      depth_m: 1.3,
      depth_how: "eye",
      depth_sd_m: null,
    });
    expect(changed(carried, { clarity_m: 2 })).toMatchObject({ depth_how: "flow", clarity_m: 2 });
  });
});
