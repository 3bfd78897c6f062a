import { describe, expect, it } from "vitest";
import type { Lie, Situation } from "../../api/client";
import type { Line } from "../../local/logbook";
import { withHeld } from "../../queries/places";
import { movedWith, waterAt } from "./moving";

const water = (depth_m: number, kind = "run", bed = "gravel") =>
  ({ water: { depth_m, kind, bed }, light: "day" }) as unknown as Situation;

const line = (id: string, stop: string, at: string, lie = "a", situation = water(1)): Line =>
  ({
    drift: { id, body: { at } },
    stop: { id: stop, body: { lie_id: lie, situation } },
    setting: { id: "s", body: {} },
    fish: [],
  }) as unknown as Line;

const T = (minute: number, day = "2026-06-01") => `${day}T10:${String(minute).padStart(2, "0")}:00Z`;
const LINES = [
  line("4", "two", T(40), "b", water(2)),
  line("3", "one", T(30)),
  line("2", "one", T(20)),
  line("1", "one", T(10)),
];
const at = (k: number): Line => LINES[k] as Line;
const LIE = (id: string, situation: Situation | null): Lie =>
  ({ id, kind: "pool", bed: "sand", situation }) as unknown as Lie;

describe("drifts that were at another lie", () => {
  it("go alone, with those of their stay after them, or all of it", () => {
    const ids = (which: "this" | "on" | "all") => movedWith(at(2), LINES, which).map((one) => one.drift.id);
    expect(ids("this")).toEqual(["2"]);
    expect(ids("on")).toEqual(["3", "2"]);
    expect(ids("all")).toEqual(["3", "2", "1"]);
  });

  it("were in the water that was read there on the outing", () => {
    expect(waterAt(LIE("b", water(9)), at(1), LINES).water.depth_m).toBe(2);
  });

  it("were in the water as it is read there now, if that was today", () => {
    const now = line("5", "three", new Date().toISOString());
    expect(waterAt(LIE("c", water(3)), now, [now]).water.depth_m).toBe(3);
  });

  it("else in the water that they were logged in, over the bed of the lie: nothing is made up of another day", () => {
    const moved = waterAt(LIE("c", water(3)), at(1), LINES);
    expect(moved.water).toEqual({ depth_m: 1, kind: "pool", bed: "sand" });
    expect(at(1).stop.body.situation).toEqual(water(1)); // what was logged is as it was
  });
});

describe("a lie that is retired here and not yet at the service", () => {
  const beat = {
    id: "beat",
    lies: [
      { id: "a", name: "Ash" },
      { id: "b", name: "Bend" },
    ],
  } as never;
  const held = (id: string, change: object) =>
    ({
      id,
      body: { beat_id: "beat", name: "New", kind: "run", bed: "sand", along_m: 3, ...change },
    }) as never;

  it("is gone from the ribbon at once, and comes back", () => {
    const names = (...here: never[]) => withHeld([beat], here)[0]?.lies.map((lie) => lie.name);
    expect(names(held("a", { retired: true }))).toEqual(["Bend"]);
    expect(names(held("a", { retired: false }))).toEqual(["New", "Bend"]);
    expect(names(held("c", {}))).toEqual(["Ash", "Bend", "New"]);
    expect(names(held("c", { retired: true }))).toEqual(["Ash", "Bend"]);
  });
});
