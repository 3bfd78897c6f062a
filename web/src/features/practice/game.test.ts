import { beforeEach, describe, expect, it, vi } from "vitest";
import type { PracticeWater } from "../../api/client";
import { anySeed, firstHand, forget, gameOf, keep, keptOf, SEEDS } from "./game";

const store = new Map<string, string>();
beforeEach(() => {
  store.clear();
  vi.stubGlobal("sessionStorage", {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => void store.set(key, value),
    removeItem: (key: string) => void store.delete(key),
  });
});

const water = {
  game: { drill: "free", seed: 7, casts: [], school: null, box: { beads_mm: [3] } },
  starts: [{ rig: "indicator", depth_setting_m: 1.4, point_bead_mm: 3 }],
} as unknown as PracticeWater;

describe("a game on this device", () => {
  it("goes on where it was after a reload, and begins anew once it is forgotten", () => {
    const hand = firstHand(water);
    expect(hand).toMatchObject({ rig: "indicator", depth_setting_m: 1.4, strike_s: null, outcome: null });
    const kept = { id: "a", told: water.game, casts: [hand], hand, hinted: true, clock: 62 };
    keep("free", 7, kept);
    expect(keptOf("free", 7)).toEqual(kept);
    expect(keptOf("free", 8)).toBeNull();
    forget("free", 7);
    expect(keptOf("free", 7)).toBeNull();
  });

  it("is played on where the device is full or what it kept is spoiled", () => {
    store.set("practice free 7", "{half");
    expect(keptOf("free", 7)).toBeNull();
    vi.stubGlobal("sessionStorage", {
      setItem: () => {
        throw new DOMException("full", "QuotaExceededError");
      },
    });
    const kept = { id: "a", told: water.game, casts: [], hand: firstHand(water), hinted: false, clock: 0 };
    expect(() => keep("free", 7, kept)).not.toThrow();
  });

  it("keeps the box that the water was told with", () => {
    expect(gameOf(water.game, [firstHand(water)])).toMatchObject({ seed: 7, box: { beads_mm: [3] } });
  });

  it("draws seeds of at most six figures", () => {
    const seeds = Array.from({ length: 200 }, anySeed);
    expect(seeds.every((one) => Number.isInteger(one) && one >= 0 && one < SEEDS)).toBe(true);
    expect(new Set(seeds).size).toBeGreaterThan(150);
  });
});
