/** The device's own log, on an IndexedDB in memory: nothing is lost, nothing is sent twice as two. */
import "fake-indexeddb/auto";
import { beforeEach, describe, expect, test } from "vitest";
import type { Setup } from "../api/client";
import { end, land, start, tap, undo } from "../features/bank/useBank";
import { logAt, readLog } from "./logbook";
import { flush, newId, type Sender, write } from "./outbox";
import { device, type Entry, type InHand } from "./records";

const ANGLER = "angler-1";
const SETUP = { depth_setting_m: 1, point_bead_mm: 3, dropper_form: null } as Setup;
const RIG: InHand = {
  lie: "lie-1",
  rig: "euro",
  depth_setting_m: 1,
  point_bead_mm: 3,
  setup: SETUP,
  limits: {
    beads_mm: [2, 3],
    least_m: 0.2,
    most_m: 2,
    step_m: 0.05,
    heaviest_x: 3,
    finest_x: 7,
    fastest_pace: 1.2,
  },
};
const BANK = {
  angler: ANGLER,
  beat: "beat-1",
  lie: "lie-1",
  situation: { water: { depth_m: 1, surface_speed_m_s: 0.5 } } as never,
  inHand: RIG,
};

const entries = () => device.entries.orderBy("[angler+seq]").toArray();
const outing = (ended_at: string | null = null) => ({
  beat_id: "beat-1",
  started_at: "2026-06-01T10:00:00Z",
  ended_at,
});

/** A service that keeps what it is sent, and answers as told. */
function service(answer: (entry: Entry) => Awaited<ReturnType<Sender>> = () => "stored") {
  const got: Entry[] = [];
  const send: Sender = async (entry) => {
    got.push(entry);
    return answer(entry);
  };
  return { got, send };
}

beforeEach(async () => {
  // no signal, unless a test hands a sender of its own
  globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
  await device.entries.clear();
});

describe("outbox", () => {
  test("sends oldest first, once, and marks what was acknowledged", async () => {
    const ids = [newId(), newId(), newId()];
    for (const id of ids) await write(ANGLER, "outings", id, outing());
    const { got, send } = service();
    await flush(ANGLER, send);
    await flush(ANGLER, send);
    expect(got.map((entry) => entry.id)).toEqual(ids);
    expect((await entries()).every((entry) => entry.sent === 1)).toBe(true);
  });

  test("stops at the first that has to wait, so that a child never overtakes its parent", async () => {
    for (let k = 0; k < 3; k += 1) await write(ANGLER, "outings", newId(), outing());
    const { got, send } = service(() => "later");
    await flush(ANGLER, send);
    expect(got).toHaveLength(1);
    expect((await entries()).filter((entry) => entry.sent === 0)).toHaveLength(3);
  });

  test("a correction while it is on its way is sent too", async () => {
    const id = newId();
    await write(ANGLER, "outings", id, outing());
    const got: unknown[] = [];
    const send: Sender = async (entry) => {
      got.push(entry.body);
      if (got.length === 1) await write(ANGLER, "outings", id, outing("2026-06-01T12:00:00Z"));
      return "stored";
    };
    await flush(ANGLER, send);
    expect(got).toEqual([outing(), outing("2026-06-01T12:00:00Z")]);
  });

  test("what is refused is kept with the reason, and does not hold up the rest", async () => {
    const bad = newId();
    await write(ANGLER, "outings", bad, outing());
    await write(ANGLER, "outings", newId(), outing());
    const { got, send } = service((entry) => (entry.id === bad ? { refused: "no such beat" } : "stored"));
    await flush(ANGLER, send);
    expect(got).toHaveLength(2);
    expect(await device.entries.get(bad)).toMatchObject({ sent: 0, refused: "no such beat" });
  });

  test("two anglers on one device do not see each other's", async () => {
    await write(ANGLER, "outings", newId(), outing());
    await write("angler-2", "outings", newId(), outing());
    const { got, send } = service();
    await flush("angler-2", send);
    expect(got.map((entry) => entry.angler)).toEqual(["angler-2"]);
    expect((await readLog("angler-3", "lie-1")).outing).toBeNull();
  });

  test("ids are UUIDv7: they sort by time", () => {
    const ids = Array.from({ length: 50 }, newId);
    expect([...ids].sort()).toEqual(ids);
    expect(ids.every((id) => id[14] === "7")).toBe(true);
  });
});

describe("on the bank without signal", () => {
  test("one tap makes outing, stop, setting and drift, in that order", async () => {
    await tap(BANK, "clean", "slower");
    expect((await entries()).map((entry) => entry.kind)).toEqual(["outings", "stops", "settings", "drifts"]);
    const log = await readLog(ANGLER, "lie-1");
    expect(log.drifts.map((drift) => drift.body.outcome)).toEqual(["clean"]);
    expect(log.waiting).toBe(4);
  });

  test("taps faster than drawings are all kept, under one outing", async () => {
    await start(BANK);
    for (const outcome of ["clean", "tick", "hung", "fish"] as const) await tap(BANK, outcome, null);
    const log = await readLog(ANGLER, "lie-1");
    expect(log.drifts.map((drift) => drift.body.outcome)).toEqual(["clean", "tick", "hung", "fish"]);
    expect((await entries()).filter((entry) => entry.kind === "outings")).toHaveLength(1);
    expect(log.settings).toHaveLength(1);
  });

  test("undo takes back the last standing drift, again and again, and its fish", async () => {
    await tap(BANK, "clean", null);
    const fish = await tap(BANK, "fish", null);
    await land(ANGLER, {
      drift_id: fish,
      species: "brown trout",
      length_mm: 300,
      length_how: "eye",
      fly: "point",
      phase: "drift",
      undone: false,
    });
    expect((await readLog(ANGLER, "lie-1")).catches).toHaveLength(1);
    await undo(BANK);
    let log = await readLog(ANGLER, "lie-1");
    expect(log.drifts.map((drift) => drift.body.outcome)).toEqual(["clean"]);
    expect(log.catches).toHaveLength(0);
    await undo(BANK);
    await undo(BANK);
    log = await readLog(ANGLER, "lie-1");
    expect(log.drifts).toHaveLength(0);
    expect((await entries()).filter((entry) => entry.kind === "drifts")).toHaveLength(2);
  });

  test("a changed setting is a new one, and the next drift hangs under it", async () => {
    await tap(BANK, "clean", null);
    const deeper: InHand = { ...RIG, depth_setting_m: 1.1, setup: { ...SETUP, depth_setting_m: 1.1 } };
    await tap({ ...BANK, inHand: deeper }, "tick", null);
    const log = await readLog(ANGLER, "lie-1");
    expect(log.settings.map((setting) => setting.body.depth_setting_m)).toEqual([1, 1.1]);
    expect(log.drifts.at(-1)?.body.setting_id).toBe(log.settings.at(-1)?.id);
  });

  test("another beat ends the outing and begins one; another lie is another stop", async () => {
    await tap(BANK, "clean", null);
    await tap({ ...BANK, lie: "lie-2" }, "clean", null);
    await tap({ ...BANK, beat: "beat-2", lie: "lie-9" }, "clean", null);
    const all = await entries();
    const outings = all.filter((entry) => entry.kind === "outings");
    expect(outings.map((entry) => entry.body.ended_at === null)).toEqual([false, true]);
    expect(all.filter((entry) => entry.kind === "stops")).toHaveLength(3);
    await end({ ...BANK, beat: "beat-2", lie: "lie-9" });
    expect(logAt(await entries(), "lie-9").outing).toBeNull();
  });
});
