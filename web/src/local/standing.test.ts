/** How a lie stands when it was read again here; and what of the log can be corrected, gone on with and put away. */
import "fake-indexeddb/auto";
import { QueryClient } from "@tanstack/react-query";
import { beforeEach, describe, expect, test } from "vitest";
import type { Beat, Caution, Lie, ReadingIn, Setup } from "../api/client";
import { changeOuting, correct, correctFish, end, moveTo, start, tap } from "../features/bank/useBank";
import type { Angler } from "./angler";
import { depart } from "./angler";
import { ledgerOf, linesOf, withWritten } from "./ledger";
import { endedLately, type Held, heldAt, latestOf, logAt, readLog } from "./logbook";
import { flush, write } from "./outbox";
import { device, type InHand, LOG } from "./records";
import { asRead, heeded, readAgain } from "./standing";

const HEED = {
  depths_m: [0.5, 1],
  staff_m_s: [1.2, 0.6],
  never_m_s: [1.6, 0.8],
  stop_c: 20,
  staff: { level: "caution", code: "wade_with_staff", text: "staff" },
  never: { level: "stop", code: "do_not_wade", text: "never" },
  stop: { level: "stop", code: "warm_stop", text: "stop" },
  always: { level: "note", code: "local_rules", text: "rules" },
} as const satisfies Record<string, number | Caution | readonly number[]>;
const TABLE = HEED as unknown as Beat["heed"][string];
const said = (cautions: Caution[]) => cautions.map((one) => one.text);
const BEAT = {
  ...{ id: "beat-1", heed: { gravel: HEED }, species: "brown trout", wading_allowed: true },
  rig_rules: { max_flies: 1, added_weight: true, barbless: true, lead: false, release: true },
  lies: [],
} as unknown as Beat;
const LIE = {
  ...{ id: "lie-1", kind: "run", bed: "gravel", school: null },
  reading: { at: "2026-06-01T09:00:00Z" },
  situation: {
    water: { depth_m: 0.8, depth_sd_m: 0.04, surface_speed_m_s: 0.5, kind: "run", bed: "gravel" },
    box: null,
  },
} as unknown as Lie;
const READ: ReadingIn = {
  ...{ lie_id: "lie-1", at: "2026-06-01T10:00:00Z", depth_m: 1.2, depth_how: "staff" },
  speed: { how: "typed", surface_speed_m_s: 0.7 },
} as ReadingIn;
const held = (change: Partial<Held> = {}): Held =>
  ({ id: "r", kind: "readings", at: READ.at, refused: null, sent: 0, body: READ, ...change }) as Held;

describe("a lie that was read again", () => {
  test.each([
    [0.4, 1.0, []],
    [0.4, 1.3, ["staff"]],
    [0.4, 1.6, ["never"]],
    [0.6, 0.8, ["never"]], // between two rows the deeper one counts
    [1.1, 0.1, ["never"]], // deeper than the last
    [0.4, null, ["staff"]], // how fast is not known
  ] as const)("%s m deep at %s m/s says %j", (depth, speed, words) => {
    expect(said(heeded(TABLE, depth, speed, 12))).toEqual([...words, "rules"]);
  });

  test("in warm water the fish come first", () => {
    expect(said(heeded(TABLE, 0.4, 0.3, 20))).toEqual(["stop", "rules"]);
    expect(heeded(undefined, 3, 3, 12)).toEqual([]);
  });

  test("stands before what was worked out, unless there is nothing new, or it was refused", () => {
    expect(readAgain(LIE, BEAT, null)).toBeNull();
    expect(readAgain(LIE, BEAT, held({ refused: [] }))).toBeNull();
    expect(readAgain(LIE, BEAT, held())).toMatchObject({
      was: { depth_m: 0.8 },
      cautions: [HEED.never, HEED.always],
    });
  });

  test("has the new numbers and the rules that bind a rig in its situation", () => {
    const angler = { school: { depth: "depth" } } as unknown as Angler;
    const now = asRead(LIE, BEAT, angler, READ);
    expect(now?.water).toMatchObject({ depth_m: 1.2, surface_speed_m_s: 0.7, depth_sd_m: null });
    expect(now?.rules).toEqual({
      max_flies: 1,
      added_weight: true,
      barbless: true,
      lead: false,
      release: true,
    });
    const first = asRead({ ...LIE, situation: null }, BEAT, angler, READ);
    expect(first?.water).toMatchObject({ kind: "run", bed: "gravel", depth_m: 1.2 });
    const timed: ReadingIn = { ...READ, speed: { how: "bubbles", distance_m: 3, seconds: 4 } };
    expect(asRead({ ...LIE, situation: null }, BEAT, angler, timed)).toBeNull(); // the service reckons it
  });
});

const ANGLER = "angler-1";
const RIG = {
  ...{ lie: "lie-1", rig: "euro", depth_setting_m: 1, point_bead_mm: 3 },
  ...{ setup: { depth_setting_m: 1 } as Setup, limits: null },
} as InHand;
const BANK = { angler: ANGLER, beat: "beat-1", lie: "lie-1", situation: { water: {} } as never, inHand: RIG };
const entries = () => device.entries.toArray();
const openOuting = async () => (await readLog(ANGLER, "lie-1")).outing;

describe("the log on the bank", () => {
  beforeEach(async () => {
    globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
    await Promise.all(LOG.map((table) => table.clear()));
  });

  test("a lie that was read since is another stop of one stay", async () => {
    await tap(BANK, "clean");
    await tap({ ...BANK, readAt: new Date(Date.now() + 1000).toISOString() }, "tick");
    const log = logAt(await entries(), "lie-1");
    expect((await entries()).filter((one) => one.kind === "stops")).toHaveLength(2);
    expect(log.drifts.map((one) => one.body.outcome)).toEqual(["clean", "tick"]);
  });

  test("two corrections faster than drawings both stand, and a drift moves to another lie with its rig", async () => {
    await tap(BANK, "clean");
    const outing = (await openOuting())?.id ?? "";
    const [line] = latestOf(await entries(), outing);
    if (!line) throw new Error("no drift");
    await correct(ANGLER, line.drift, { outcome: "hung" });
    await correct(ANGLER, line.drift, { pace: "slower" });
    await moveTo(ANGLER, [line], "lie-2", BANK.situation);
    const [now] = latestOf(await entries(), outing);
    expect(now?.drift.body).toMatchObject({ outcome: "hung", pace: "slower" });
    expect(now?.stop.body.lie_id).toBe("lie-2");
    expect(now?.setting.body.setup).toEqual(RIG.setup);
    expect((await readLog(ANGLER, "lie-1")).stop).not.toBeNull(); // one still stands here
  });

  test("a drift that is moved back is where it was, and one of a lie read anew takes no drift before it out of the stay", async () => {
    await tap(BANK, "clean");
    await tap({ ...BANK, readAt: new Date(Date.now() + 1000).toISOString() }, "tick");
    const before = await readLog(ANGLER, "lie-1");
    const ids = async () => (await readLog(ANGLER, "lie-1")).drifts.map((one) => one.body.setting_id);
    const was = await ids();
    const move = async (lie: string) => {
      const lines = latestOf(await entries(), before.outing?.id ?? "");
      const line = lines.find((one) => one.drift.id === before.drifts[1]?.id);
      await moveTo(ANGLER, line ? [line] : [], lie, BANK.situation);
    };
    await move("lie-2");
    expect(await ids()).toEqual(was.slice(0, 1));
    await move("lie-1");
    expect(await ids()).toEqual(was);
    const stops = (await entries()).filter((one) => one.kind === "stops");
    expect(stops.map((one) => one.body.lie_id).sort()).toEqual(["lie-1", "lie-1", "lie-2"]);
    await move("lie-2");
    expect((await entries()).filter((one) => one.kind === "settings")).toHaveLength(3);
  });

  test("several drifts of one stay move together, and the ledger of the service shows it at once", async () => {
    for (const outcome of ["clean", "tick", "fish"] as const) await tap(BANK, outcome);
    const outing = (await openOuting())?.id ?? "";
    const told = ledgerOf(await entries(), outing, []);
    if (!told) throw new Error("no outing");
    const fish = { id: "fish-1", at: READ.at, species: "grayling", length_mm: 300, length_how: "eye" };
    const [stop] = told.stops;
    Object.assign(stop?.settings[0]?.drifts[2] ?? {}, {
      catches: [{ ...fish, fly: "point", phase: "drift", condition: null, weight_g: 250 }],
    });
    told.outing.tally.rate = { median: 0.3, low: 0.1, high: 0.6 };
    await Promise.all([device.entries.clear(), device.events.clear()]); // another device, to which none of it was told
    const lines = linesOf(told);
    expect(lines.map((one) => one.drift.body.outcome)).toEqual(["fish", "tick", "clean"]);
    expect(lines[0]?.fish[0]?.body.species).toBe("grayling");
    expect(withWritten(told, await entries(), [])).toEqual(told);
    await moveTo(ANGLER, lines.slice(0, 2), "lie-2", BANK.situation);
    const moved = withWritten(told, await entries(), []);
    const by = (lie: string) =>
      moved.stops
        .filter((one) => one.lie_id === lie)
        .flatMap((one) => one.settings.flatMap((each) => each.drifts.map((drift) => drift.outcome)));
    expect([by("lie-2"), by("lie-1")]).toEqual([["tick", "fish"], ["clean"]]);
    expect(moved.stops.filter((one) => one.lie_id === "lie-2")[0]?.settings).toHaveLength(1);
    expect(moved.outing.tally.rate).toEqual(told.outing.tally.rate); // as many drifts and fish as before
    const weight = (ledger: typeof told) =>
      ledger.stops.flatMap((one) => one.settings.flatMap((each) => each.drifts.flatMap((d) => d.catches)))[0]
        ?.weight_g;
    expect(weight(moved)).toBe(250);
    const [line] = linesOf(moved);
    if (!line?.fish[0]) throw new Error("no fish");
    await correctFish(ANGLER, line.fish[0], { length_mm: 350 });
    await correct(ANGLER, lines[2]?.drift ?? line.drift, { undone: true });
    const after = withWritten(told, await entries(), []);
    expect(weight(after)).toBeNull(); // it was of the other length
    expect(after.outing.tally).toMatchObject({ drifts: 2, rate: null });
  });

  test("an outing without a drift is taken back when it ends; one with drifts can be gone on with", async () => {
    await start(BANK);
    await end(BANK);
    expect(endedLately(await entries(), "beat-1")).toBeNull();
    await tap(BANK, "clean");
    await end(BANK);
    const ended = endedLately(await entries(), "beat-1");
    if (!ended) throw new Error("no outing");
    await tap({ ...BANK, lie: "lie-2" }, "tick"); // another is begun meanwhile
    await changeOuting(ANGLER, ended.id, ended.body, { ended_at: null });
    expect((await openOuting())?.id).toBe(ended.id);
    const open = (await entries()).filter(
      (one) => one.kind === "outings" && !one.body.ended_at && !one.body.gone,
    );
    expect(open).toHaveLength(1);
  });

  test("who signs out leaves nothing here that was sent, and all that was not", async () => {
    await tap(BANK, "clean");
    await flush(ANGLER); // the one that the tap began, which finds no signal
    await flush(ANGLER, async (batch) => ({
      ...{ taken: batch.events.map(({ id, at }) => ({ id, at })), refused: [], changes: [] },
      ...{ cursor: 9, more: false },
    }));
    await write(ANGLER, "readings", "r-9", READ);
    await depart(new QueryClient(), { angler: null } as never);
    expect((await device.events.toArray()).map((one) => one.record)).toEqual(["r-9"]);
    expect((await entries()).map((one) => one.id)).toEqual(["r-9"]);
    expect(heldAt(await entries(), { id: "lie-1", reading: null })?.body.depth_m).toBe(1.2);
    expect(await device.notes.get(`cursor ${ANGLER}`)).toBeUndefined();
  });
});
