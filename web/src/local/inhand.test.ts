/** The rig in hand: the later choice stands, a carried rod is swapped whole, and how one fishes stays until it is said otherwise. */
import "fake-indexeddb/auto";
import { beforeEach, describe, expect, test } from "vitest";
import type { Ranked, Setup } from "../api/client";
import { buzzOnTime, dry, fishFirstHour, fishOn, isDried, readDirection, wearGloves, wetted } from "./habits";
import {
  asAdvised,
  carrySecond,
  leaveSecond,
  rigOf,
  swapRods,
  take,
  tieDry,
  tuningOf,
  untie,
} from "./inhand";
import { device, type InHand, type RigInHand } from "./records";

const LIE = "lie-1";
const setup = (depth_setting_m: number): Setup =>
  ({ flies: 1, depth_setting_m, point_bead_mm: 3, dropper_bead_mm: null, float: null }) as Setup;
const ranked = (depth: number, rig: Ranked["rig"] = "euro"): Ranked =>
  ({ rig, setup: setup(depth), limits: null }) as unknown as Ranked;
const inHand = async (): Promise<InHand | undefined> => device.inHand.get(LIE);
const depthOf = (one: InHand | undefined) => (one && one.rig !== "dry" ? one.depth_setting_m : null);

beforeEach(async () => {
  await Promise.all([device.inHand.clear(), device.notes.clear()]);
});

describe("a rig that is taken", () => {
  test("stands until a later one is, whichever was worked out first", async () => {
    await take(LIE, ranked(1.0), { at: "2026-06-01T10:00:00Z" });
    await take(LIE, ranked(1.2), { at: "2026-06-01T10:05:00Z" });
    expect(depthOf(await inHand())).toBe(1.2);
    await take(LIE, ranked(0.8), { at: "2026-06-01T10:03:00Z" }); // chosen before, and only now worked out
    expect(depthOf(await inHand())).toBe(1.2);
  });

  test("for want of a choice gives way to one, and takes no choice's place", async () => {
    await take(LIE, ranked(1.0), { unlessChosen: true });
    expect((await inHand())?.at).toBeUndefined();
    await take(LIE, ranked(1.4), { at: "2026-06-01T10:00:00Z" });
    await take(LIE, ranked(0.9), { unlessChosen: true });
    expect(depthOf(await inHand())).toBe(1.4);
  });

  test("that is the same again was chosen when it was", async () => {
    await take(LIE, ranked(1.0), { at: "2026-06-01T10:00:00Z" });
    await take(LIE, ranked(1.0), { at: "2026-06-01T11:00:00Z" });
    expect((await inHand())?.at).toBe("2026-06-01T10:00:00Z");
    await take(LIE, ranked(1.0, "indicator"), { at: "2026-06-01T11:00:00Z" });
    expect(await inHand()).toMatchObject({ rig: "indicator", at: "2026-06-01T11:00:00Z" });
  });

  test("cannot be one that cannot be used", async () => {
    const none = { ...ranked(1.0), setup: null } as Ranked;
    expect(asAdvised(LIE, none)).toBeNull();
    await take(LIE, none);
    expect(await inHand()).toBeUndefined();
  });

  test("is asked about by what it is made of, and nothing else", () => {
    expect(tuningOf("euro", setup(1.1))).toMatchObject({ rig: "euro", depth_setting_m: 1.1, flies: 1 });
    expect(Object.keys(tuningOf("euro", setup(1.1)))).not.toContain("point_form");
  });
});

describe("a single dry", () => {
  const DRY = { float: "foam 10", tippet_x: 4 } as Parameters<typeof tieDry>[1];

  test("remembers the rig whose place it took, also where another dry was on before", async () => {
    await take(LIE, ranked(1.0));
    await tieDry(LIE, DRY, (await inHand()) ?? null);
    const first = await inHand();
    expect(first?.rig).toBe("dry");
    await tieDry(LIE, { ...DRY, tippet_x: 5 }, first ?? null);
    expect(depthOf(rigOf((await inHand()) ?? null) ?? undefined)).toBe(1.0);
  });

  test("is taken off again for the rig, which is set anew", async () => {
    await take(LIE, ranked(1.0), { at: "2026-06-01T10:00:00Z" });
    await tieDry(LIE, DRY, (await inHand()) ?? null);
    await untie(rigOf((await inHand()) ?? null) as RigInHand);
    const now = await inHand();
    expect(depthOf(now)).toBe(1.0);
    expect(Date.parse(now?.at ?? "")).toBeGreaterThan(Date.parse("2026-06-01T10:00:00Z"));
  });
});

describe("a second rod", () => {
  const carried = async (angler: string) => (await device.notes.get(`second rod of ${angler}`))?.value;

  test("is swapped whole, there and back, and is its angler's own", async () => {
    await take(LIE, ranked(1.0));
    const first = (await inHand()) as InHand;
    await carrySecond("mia", { ...first, rig: "indicator" } as InHand);
    await swapRods("mia", first);
    expect((await inHand())?.rig).toBe("indicator");
    expect(await carried("mia")).toEqual(first);
    await swapRods("mia", (await inHand()) as InHand);
    expect((await inHand())?.rig).toBe("euro");
    expect(await carried("tom")).toBeUndefined();
    await leaveSecond("mia");
    expect(await carried("mia")).toBeUndefined();
  });

  test("that nobody carries changes nothing", async () => {
    await take(LIE, ranked(1.0));
    const before = await inHand();
    await swapRods("mia", before as InHand);
    expect(await inHand()).toEqual(before);
  });
});

describe("how one fishes", () => {
  test("is upstream until one feeds down, and stays so", async () => {
    expect(await readDirection()).toBe("up");
    await fishOn("down");
    expect(await readDirection()).toBe("down");
  });

  test("a dry that was dried is dry for one drift", async () => {
    expect(await isDried()).toBe(false);
    await dry();
    expect(await isDried()).toBe(true);
    await wetted();
    expect(await isDried()).toBe(false);
  });

  test.each([
    ["buzz on time", buzzOnTime],
    ["gloves", wearGloves],
    ["first hour", fishFirstHour],
  ] as const)("%s is on until it is off", async (key, set) => {
    await set(true);
    expect(await device.notes.get(key)).toBeDefined();
    await set(false);
    expect(await device.notes.get(key)).toBeUndefined();
  });
});
