/** What the coach is asked, of what the log holds. */
import "fake-indexeddb/auto";
import { describe, expect, test } from "vitest";
import type { Bottom, Situation } from "../../api/client";
import { dry, fishOn, isDried, readDirection } from "../../local/habits";
import { type Log, readLog } from "../../local/logbook";
import type { InHand } from "../../local/records";
import { afterOneMore, fishedSoFar } from "./fishedSoFar";
import { bottomOf, FIRST, type Spot, spotsOf } from "./spots";
import { start, tap } from "./useBank";

const SITUATION = { water: { depth_m: 1, surface_speed_m_s: 0.5 } } as Situation;
const IN_HAND = { rig: "indicator", setup: { depth_setting_m: 1, point_bead_mm: 3 } } as InHand;
const setting = (id: string, rig: string, depth_setting_m: number, stop_id = "stop") => ({
  id,
  body: {
    stop_id,
    rig,
    depth_setting_m,
    point_bead_mm: 3,
    setup: { point_form: "dubbed nymph", point_hook: 14 },
  },
});
const drift = (id: string, setting_id: string, at: string, outcome = "clean", pace?: string) => ({
  id,
  body: { setting_id, at, outcome, pace },
});
const known = (learnedAt: string | null = null, here = FIRST, bottom: Bottom[] = []) => ({
  learnedAt,
  here,
  bottom,
});
const log = (change: object = {}): Log =>
  ({
    stop: { id: "stop" },
    stops: [{ id: "stop", body: { situation: SITUATION } }],
    settings: [setting("a", "indicator", 0.9), setting("b", "indicator", 1), setting("c", "euro", 1.2)],
    drifts: [
      drift("1", "a", "2026-06-01T10:00:00Z", "clean", "faster"),
      drift("2", "c", "2026-06-01T10:05:00Z"),
      drift("3", "b", "2026-06-01T10:10:00Z", "fish"),
    ],
    soundings: [],
    catches: [{ id: "f", body: { drift_id: "3", fly: "dropper", phase: "swing" } }],
    ...change,
  }) as unknown as Log;

describe("the coach is asked", () => {
  test("of the drifts of this kind of rig, each under its own setting, a fish with fly and phase", () => {
    expect(fishedSoFar(log(), IN_HAND, SITUATION, known())?.drifts).toEqual([
      {
        ...{
          depth_setting_m: 0.9,
          point_bead_mm: 3,
          ...FIRST,
          outcome: "clean",
          pace: "faster",
          direction: "up",
          dried: false,
          weed: false,
          read: null,
          in_bottom: false,
          dry: null,
        },
        pattern: "dubbed nymph 14",
      },
      {
        depth_setting_m: 1,
        point_bead_mm: 3,
        ...FIRST,
        outcome: "fish",
        pace: null,
        direction: "up",
        dried: false,
        weed: false,
        read: null,
        in_bottom: false,
        dry: null,
        pattern: "dubbed nymph 14",
        fly: "dropper",
        phase: "swing",
      },
    ]);
  });
  test("of which drifts a kept depth was learned from: of the depth they would count twice", () => {
    const of = (at: Spot) =>
      fishedSoFar(log(), IN_HAND, SITUATION, known("2026-06-01T10:05:00Z", at))?.drifts?.map(
        (one) => one.in_bottom,
      );
    expect(of(FIRST)).toEqual([true, false]);
    expect(of({ lane: 2, stance: 1 })).toEqual([true, false]);
  });
  test("of what the lie was read to be when each was fished, where it was read otherwise since", () => {
    const then = { depth_m: 0.8, surface_speed_m_s: 0.4 };
    const before = { id: "before", body: { situation: { water: then } } };
    const held = log({
      stops: [before, ...log().stops],
      settings: [setting("a", "indicator", 0.9, "before"), ...log().settings.slice(1)],
    });
    const reads = (learnedAt: string | null) =>
      fishedSoFar(held, IN_HAND, SITUATION, known(learnedAt))?.drifts?.map((one) => one.read);
    expect(reads(null)).toEqual([then, null]);
    expect(reads("2026-06-01T10:05:00Z")).toEqual([null, null]); // found from it, the depth is of its water
  });
  test("of where each was fished, and of which what is kept of its lane, or of this one, was learned from", () => {
    const next = { lane: 2, stance: 1 };
    const [one, two] = ["2026-06-01T10:20:00Z", "2026-06-01T10:30:00Z"];
    const there = { id: "4", body: { setting_id: "b", at: one, outcome: "tick", ...next } };
    const later = { id: "5", body: { setting_id: "b", at: two, outcome: "hung", ...next } };
    const found = { body: { ...next, depth_m: 1.3, depth_sd_m: 0.1, at: "2026-06-01T10:25:00Z" } };
    const held = log({ drifts: [...log().drifts, there, later], soundings: [found] });
    const asked = fishedSoFar(held, IN_HAND, SITUATION, known(null, next, bottomOf(held, [])));
    expect(asked).toMatchObject(next);
    expect(asked?.drifts?.map((drift) => [drift.lane, drift.outcome, drift.in_bottom])).toEqual([
      [1, "clean", true],
      [1, "fish", true],
      [2, "tick", true],
      [2, "hung", false],
    ]);
    const beside = (bottom = bottomOf(held, [])) =>
      fishedSoFar(held, IN_HAND, SITUATION, known(null, FIRST, bottom))?.drifts?.map((one) => one.in_bottom);
    expect(beside()).toEqual([false, false, true, false]);
    expect(beside([])).toEqual([false, false, false, false]); // what is not believed holds nothing
    const told = [
      { ...next, depth_m: 2, depth_sd_m: 0.3, since_reading: false },
      { lane: 1, stance: 2, depth_m: 0.7, depth_sd_m: 0.1, since_reading: false },
    ];
    const bottom = bottomOf(held, told);
    expect(bottom.map((where) => where.depth_m)).toEqual([1.3, 0.7]); // of today stands before what was told
    const since = (readAt?: string) => bottomOf(held, told, { readAt })[0]?.since_reading;
    expect([since(found.body.at), since(later.body.at), since()]).toEqual([true, false, false]);
    // found before the lie was read, it is told of at the level of the reading; before that is heard of, it is not known
    const read = (change: object) => bottomOf(held, told, { readAt: later.body.at, ...change });
    expect(read({}).map((where) => where.depth_m)).toEqual([2, 0.7]);
    expect(read({ again: true })).toEqual([]);
    expect(spotsOf(held, bottom, { lane: 4, stance: 2 })).toEqual([
      FIRST,
      next,
      { lane: 1, stance: 2 },
      { lane: 4, stance: 2 },
    ]);
  });
  test("of another stop once the river has gone by more than readings differ", async () => {
    globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
    const where = { angler: "angler-2", beat: "beat-1", lie: "lie-1", inHand: IN_HAND };
    const inWater = (depth_m: number) => ({ water: { ...SITUATION.water, depth_m } }) as Situation;
    const taps = async (depth: number, heard = true) => {
      const situation = inWater(depth);
      await tap({ ...where, situation, ofToday: heard ? situation : null }, "clean", FIRST);
    };
    for (const depth of [1, 1.04, 1.1, 1.12]) await taps(depth);
    await taps(0.5, false); // what the service told before it heard of a reading is no river that has gone
    await taps(1); // fallen back to what was read
    const held = await readLog("angler-2", "lie-1");
    expect(held.stops.map((one) => one.body.situation.water.depth_m)).toEqual([1, 1.1, 1]);
    const asked = fishedSoFar(held, IN_HAND, inWater(1), known());
    const read = asked?.drifts?.map((one) => one.read?.depth_m ?? null);
    expect(read).toEqual([null, null, 1.1, 1.1, 1.1, null]);
  });
  test("nothing while nobody fishes, and no drift before the first", () => {
    expect(fishedSoFar(undefined, IN_HAND, SITUATION, known())).toBeNull();
    expect(fishedSoFar(log({ drifts: [] }), IN_HAND, SITUATION, known())?.drifts).toEqual([]);
    expect(fishedSoFar(log({ stop: null }), IN_HAND, SITUATION, known())).toBeNull();
  });
  test("before a drift is tapped, of what it is asked when it is", async () => {
    globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
    const where = { angler: "angler-1", beat: "beat-1", lie: "lie-1", situation: SITUATION };
    const hangs = (rig: string, depth_setting_m: number) =>
      ({
        rig,
        depth_setting_m,
        point_bead_mm: 3,
        setup: { depth_setting_m, point_form: "slim", point_hook: 16, float: "Bushy" },
      }) as InHand;
    await start({ ...where, inHand: hangs("indicator", 1) });
    await dry();
    const fished = [
      { inHand: hangs("indicator", 1), outcome: "clean", pace: null, ...FIRST },
      { inHand: hangs("indicator", 1), outcome: "hung", pace: "slower", ...FIRST },
      { inHand: hangs("indicator", 1.2), outcome: "fish", pace: null, lane: 2, stance: 1 },
      { inHand: hangs("dry_dropper", 0.8), outcome: "tick", pace: "faster", lane: 2, stance: 1 },
      { inHand: hangs("dry_dropper", 0.8), outcome: "missed", pace: null, lane: 2, stance: 1 },
    ] as const;
    for (const [k, { inHand, outcome, ...seen }] of fished.entries()) {
      if (k === 3) await fishOn("down");
      const coming = { ...seen, direction: await readDirection(), dried: k > 2 && (await isDried()) };
      const asked = (of: Parameters<typeof fishedSoFar>[0]) => fishedSoFar(of, inHand, SITUATION, known());
      const ahead = asked(afterOneMore(await readLog("angler-1", "lie-1"), inHand, coming));
      await tap({ ...where, inHand }, outcome, seen);
      const then = asked(await readLog("angler-1", "lie-1"));
      expect(then?.drifts).toHaveLength(k < 3 ? k + 1 : k - 2);
      const last = ahead?.drifts?.at(-1);
      expect({ ...ahead, drifts: [...(ahead?.drifts?.slice(0, -1) ?? []), { ...last, outcome }] }).toEqual(
        then,
      );
    }
  });
});
