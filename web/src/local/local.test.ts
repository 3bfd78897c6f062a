/** The device's own log, on an IndexedDB in memory: nothing is lost, nothing is sent twice as two. */
import "fake-indexeddb/auto";
import Dexie from "dexie";
import { beforeEach, describe, expect, test } from "vitest";
import type { Setup } from "../api/client";
import { keptFrom } from "../features/bank/spots";
import { end, forgetBottom, keepBottom, land, start, tap, undo } from "../features/bank/useBank";
import { reread } from "../features/read/reread";
import { ledgerOf, waitingOutings } from "./ledger";
import { asWritten, heldAt, latestOf, logAt, readLog } from "./logbook";
import {
  type Answer,
  type Batch,
  type Courier,
  flush,
  newId,
  offer,
  onHeard,
  roadIsOpen,
  seenEviction,
  waiting,
  wasEvicted,
  write,
} from "./outbox";
import { later, standing } from "./reconcile";
import { device, type Entry, type InHand, LOG } from "./records";

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
    flies: [1, 2],
    floats: [],
    point_flies: [],
    own_flies: false,
  },
};
const BANK = {
  angler: ANGLER,
  beat: "beat-1",
  lie: "lie-1",
  situation: { water: { depth_m: 1, surface_speed_m_s: 0.5 } } as never,
  inHand: RIG,
};

const entries = async () =>
  (await device.entries.toArray()).sort((a, b) => a.seq - b.seq || a.id.localeCompare(b.id));
const outing = (ended_at: string | null = null) => ({
  beat_id: "beat-1",
  started_at: "2026-06-01T10:00:00Z",
  ended_at,
  gone: false,
});

const taken = (batch: Batch, rest: Partial<Answer> = {}): Answer => ({
  taken: batch.events.map(({ id, at }) => ({ id, at })),
  refused: [],
  changes: [],
  cursor: batch.cursor ?? 0,
  more: false,
  ...rest,
});

/** A service that keeps what it is sent, and answers as told. */
function service(answer: (batch: Batch) => Awaited<ReturnType<Courier>> = taken) {
  const got: Batch[] = [];
  const send: Courier = async (batch) => {
    got.push(batch);
    return answer(batch);
  };
  return { got, send, events: () => got.flatMap((batch) => batch.events) };
}

const change = (record: string, at: string, body: object, other = "device-z"): Answer["changes"][number] => ({
  ...{ id: newId(), device: other, sequence: 1, kind: "outings", record, at },
  body: body as never,
});
const fault = (message: string, field: string | null = null) => ({ code: "NO", field, message });

beforeEach(async () => {
  // no signal, unless a test hands a courier of its own
  globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
  await Promise.all(LOG.map((table) => table.clear()));
});

describe("outbox", () => {
  test("sends oldest first, once, with device, sequence, time and zone", async () => {
    const ids = [newId(), newId(), newId()];
    for (const id of ids) await write(ANGLER, "outings", id, outing());
    const { send, events } = service();
    await flush(ANGLER, send);
    await flush(ANGLER, send);
    expect(events().map((one) => one.record)).toEqual(ids);
    expect(events().every((one) => one.zone && Date.parse(one.at) > 0)).toBe(true);
    expect(await device.events.count()).toBe(0); // what the service has is not kept twice here
    await write(ANGLER, "outings", newId(), outing());
    await flush(ANGLER, send);
    expect(events().map((one) => one.sequence)).toEqual([1, 2, 3, 4]);
    expect((await entries()).every((entry) => entry.sent === 1)).toBe(true);
    expect(await waiting(ANGLER)).toBe(0);
  });

  test("a screen hears when the service has what it shows, and shows what was written here before", async () => {
    const [kept, ended, gone] = [newId(), newId(), newId()];
    await write(ANGLER, "outings", ended, { ...outing(), ended_at: "2026-06-01T12:00:00Z" });
    await write(ANGLER, "outings", gone, { ...outing(), gone: true });
    const listed = [kept, ended, gone].map((id) => ({ id, ended_at: null }));
    const shown = [
      { id: kept, ended_at: null },
      { id: ended, ended_at: "2026-06-01T12:00:00Z" },
    ];
    expect(asWritten(listed, await entries())).toEqual(shown);
    const heard: string[][] = [];
    const deaf = onHeard((kinds) => heard.push([...kinds]));
    const { send } = service();
    await flush(ANGLER, send);
    await flush(ANGLER, send); // nothing new: nothing to hear
    deaf();
    expect(heard).toEqual([["outings"]]);
    // taken by the service: its answer is as good, but what was taken back does not come up again before it is asked
    expect(asWritten(listed, await entries())).toEqual(listed.slice(0, 2));
  });

  test("what is not acknowledged stays, in order, whatever the service says", async () => {
    for (let k = 0; k < 3; k += 1) await write(ANGLER, "outings", newId(), outing());
    const silent = service(() => "later");
    expect(await flush(ANGLER, silent.send)).toBe(false);
    // acknowledges one of three: the other two go out again, under the ids they had
    let first = true;
    const half = service((batch) => {
      const answer = taken(batch, first ? { taken: taken(batch).taken.slice(0, 1), more: true } : {});
      first = false;
      return answer;
    });
    await flush(ANGLER, half.send);
    expect(half.got.map((batch) => batch.events.length)).toEqual([3, 2]);
    expect(half.got[1]?.events.map((one) => one.id)).toEqual(
      half.got[0]?.events.slice(1).map((one) => one.id),
    );
  });

  test("a correction is a writing of its own, and the entry is sent once its last is", async () => {
    const id = newId();
    await write(ANGLER, "outings", id, outing());
    const { send, events } = service((batch) => taken(batch));
    const slow: Courier = async (batch) => {
      if (batch.events.length === 1 && events().length === 0)
        await write(ANGLER, "outings", id, outing("2026-06-01T12:00:00Z"));
      return send(batch);
    };
    await flush(ANGLER, slow);
    expect((await entries())[0]?.sent).toBe(0); // the first writing is there, the correction is not
    await flush(ANGLER, send);
    expect(events().map((one) => one.body)).toEqual([outing(), outing("2026-06-01T12:00:00Z")]);
    expect((await entries())[0]?.sent).toBe(1);
  });

  test("what is refused is kept with the reason, and does not hold up the rest", async () => {
    const bad = newId();
    await write(ANGLER, "outings", bad, outing());
    await write(ANGLER, "outings", newId(), outing());
    const { send } = service((batch) => ({
      ...taken(batch),
      taken: taken(batch).taken.slice(1),
      refused: batch.events.slice(0, 1).map(({ id }) => ({ id, faults: [fault("no such beat")] })),
    }));
    await flush(ANGLER, send);
    expect(await device.entries.get(bad)).toMatchObject({ sent: 0, refused: [fault("no such beat")] });
    expect(await waiting(ANGLER)).toBe(0);
  });

  test("a batch that is refused whole is halved until the one at fault is found", async () => {
    const bad = newId();
    for (let k = 0; k < 4; k += 1) await write(ANGLER, "outings", newId(), outing());
    await write(ANGLER, "outings", bad, outing());
    const { send } = service((batch) =>
      batch.events.some((one) => one.record === bad) ? { refused: [fault("not a batch")] } : taken(batch),
    );
    await flush(ANGLER, send);
    const all = await entries();
    expect(all.filter((one) => one.sent === 1)).toHaveLength(4);
    expect(all.find((one) => one.id === bad)?.refused).toEqual([fault("not a batch")]);
  });

  test("what is still in front of somebody and refused at once is not kept; what was there before stands", async () => {
    const [fresh, known, theirs] = [newId(), newId(), newId()];
    await write(ANGLER, "outings", known, outing());
    const heard = change(theirs, "2026-06-01T10:00:00Z", outing());
    await flush(ANGLER, service((batch) => taken(batch, { changes: [heard] })).send);
    globalThis.fetch = async (_, sent) => {
      const batch = JSON.parse(String(sent?.body)) as Batch;
      const refused = batch.events.map(({ id }) => ({ id, faults: [fault("never", "started_at")] }));
      return Response.json({ ...taken(batch), taken: [], refused });
    };
    for (const id of [fresh, known, theirs])
      expect(await offer(ANGLER, "outings", id, outing("2026-06-01T12:00:00Z"))).toEqual([
        fault("never", "started_at"),
      ]);
    const stands = { sent: 1, refused: null, body: outing() };
    expect(await entries()).toMatchObject([known, theirs].map((id) => ({ id, ...stands })));
    globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
    expect(await offer(ANGLER, "outings", fresh, outing())).toBeNull(); // it is kept, and goes when it can
    expect([await waiting(ANGLER), roadIsOpen()]).toEqual([1, false]);
  });

  test("what is written while a batch is on its way goes with the next, at once", async () => {
    const [first, second] = [newId(), newId()];
    await write(ANGLER, "outings", first, outing());
    const { got, send } = service();
    const whole = flush(ANGLER, async (batch) => {
      if (got.length === 0) {
        await write(ANGLER, "outings", second, outing());
        void flush(ANGLER);
      }
      return send(batch);
    });
    await whole;
    expect(got.map(({ events }) => events.map((one) => one.record))).toEqual([[first], [second]]);
  });

  test("two anglers on one device do not see each other's", async () => {
    await write(ANGLER, "outings", newId(), outing());
    await write("angler-2", "outings", newId(), outing());
    const { send, events } = service();
    await flush("angler-2", send);
    expect(events()).toHaveLength(1);
    expect(await waiting(ANGLER)).toBe(1);
    expect((await readLog("angler-3", "lie-1")).outing).toBeNull();
  });

  test("ids are UUIDv7: they sort by time", () => {
    const ids = Array.from({ length: 50 }, newId);
    expect([...ids].sort()).toEqual(ids);
    expect(ids.every((id) => id[14] === "7")).toBe(true);
  });
});

describe("a store that the browser threw away", () => {
  const marks = new Map<string, string>();
  beforeEach(() => {
    marks.clear();
    globalThis.localStorage = {
      getItem: (key: string) => marks.get(key) ?? null,
      setItem: (key: string, value: string) => marks.set(key, value),
      removeItem: (key: string) => marks.delete(key),
    } as unknown as Storage;
  });

  test("is said until it has been read, and not of a device that is new", async () => {
    expect(await wasEvicted()).toBe(false);
    await write(ANGLER, "outings", newId(), outing());
    expect(await wasEvicted()).toBe(false);
    await Promise.all(LOG.map((table) => table.clear()));
    expect(await wasEvicted()).toBe(true);
    seenEviction();
    expect(await wasEvicted()).toBe(false);
  });

  test("a batch says whose it is, and waits where another is signed in", async () => {
    await write(ANGLER, "outings", newId(), outing());
    const { got, send } = service();
    globalThis.fetch = async () => new Response("{}", { status: 403 });
    expect(await flush(ANGLER)).toBe(false);
    expect(await waiting(ANGLER)).toBe(1);
    await flush(ANGLER, send);
    expect(got[0]?.angler).toBe(ANGLER);
  });
});

describe("what other devices wrote", () => {
  test("is heard, page by page, and the cursor goes on from there", async () => {
    let page = 0;
    const { got, send } = service((batch) => {
      page += 1;
      return taken(batch, {
        changes: [change(`record-${page}`, "2026-06-01T10:00:00Z", outing())],
        cursor: 10 * page,
        more: page < 3,
      });
    });
    await flush(ANGLER, send);
    expect(got.map((batch) => batch.cursor)).toEqual([null, 10, 20]);
    expect((await entries()).map((one) => one.id)).toEqual(["record-1", "record-2", "record-3"]);
    expect((await device.events.toArray()).length).toBe(0); // nothing of theirs is sent back
  });

  test("the later writing stands, be it theirs or what is still waiting here", async () => {
    const id = newId();
    await write(ANGLER, "outings", id, outing("2026-06-01T12:00:00Z"));
    const theirs = (at: string, ended: string) =>
      service((batch) => taken({ ...batch, events: [] }, { changes: [change(id, at, outing(ended))] }));
    await flush(ANGLER, theirs("2020-01-01T00:00:00Z", "2026-06-01T11:00:00Z").send).catch(() => false);
    expect((await device.entries.get(id))?.body).toMatchObject({ ended_at: "2026-06-01T12:00:00Z" });
    await flush(ANGLER, theirs("2099-01-01T00:00:00Z", "2026-06-01T13:00:00Z").send).catch(() => false);
    expect((await device.entries.get(id))?.body).toMatchObject({ ended_at: "2026-06-01T13:00:00Z" });
  });

  test("the order of writings is total and does not care how a time is written", () => {
    const a = { at: "2026-06-01T10:00:00.500Z", device: "a", seq: 1 };
    expect(later({ ...a, at: "2026-06-01T12:00:00.501+02:00" }, a)).toBe(true);
    expect(later({ ...a, device: "b" }, a)).toBe(true);
    expect(later({ ...a, seq: 2 }, a)).toBe(true);
    expect(later(a, { ...a, at: "2026-06-01T10:00:00.500000Z" })).toBe(false);
  });

  test("a setting is never edited: the one that is known stands", () => {
    const known = { id: "s", kind: "settings", at: "2026-01-01T00:00:00Z", device: "a", seq: 1 } as Entry;
    expect(standing(known, { ...known, at: "2030-01-01T00:00:00Z" } as Entry)).toBe(known);
  });
});

describe("a store of before", () => {
  test("becomes writings: what was sent stays sent, what waited is sent once", async () => {
    await device.delete();
    const old = new Dexie("deriva");
    old.version(1).stores({ entries: "id, [angler+seq], sent", inHand: "lie" });
    old.version(2).stores({ answers: "key" });
    const body = outing();
    const kept = { kind: "outings", angler: ANGLER, refused: null, body };
    await old.table("entries").bulkPut([
      { ...kept, id: "a", seq: 1, sent: 1 },
      { ...kept, id: "b", seq: 7, sent: 0 },
      { ...kept, id: "c", seq: 8, sent: 0, refused: "no such beat" },
    ]);
    old.close();
    await device.open();
    expect(await waiting(ANGLER)).toBe(1);
    expect(await device.events.count()).toBe(2); // with the refused one; the service has the other
    expect((await device.entries.get("c"))?.refused?.map((one) => one.message)).toEqual(["no such beat"]);
    const { send, events } = service();
    await flush(ANGLER, send);
    expect(events()).toMatchObject([{ record: "b", body, sequence: 2 }]);
    await write(ANGLER, "outings", newId(), outing());
    await flush(ANGLER, send);
    expect(events().map((one) => one.sequence)).toEqual([2, 4]);
  });
});

describe("on the bank without signal", () => {
  test("one tap makes outing, stop, setting and drift, in that order", async () => {
    await tap(BANK, "clean", { pace: "slower", lane: 2 });
    expect((await entries()).map((entry) => entry.kind)).toEqual(["outings", "stops", "settings", "drifts"]);
    const log = await readLog(ANGLER, "lie-1");
    expect(log.drifts.map((drift) => drift.body.outcome)).toEqual(["clean"]);
    expect(log.waiting).toBe(4);
  });

  test("taps faster than drawings are all kept, under one outing", async () => {
    await start(BANK);
    for (const outcome of ["clean", "tick", "hung", "fish"] as const) await tap(BANK, outcome);
    const log = await readLog(ANGLER, "lie-1");
    expect(log.drifts.map((drift) => drift.body.outcome)).toEqual(["clean", "tick", "hung", "fish"]);
    expect((await entries()).filter((entry) => entry.kind === "outings")).toHaveLength(1);
    expect(log.settings).toHaveLength(1);
  });

  test("undo takes back the last standing drift, again and again, and its fish", async () => {
    await tap(BANK, "clean");
    const fish = await tap(BANK, "fish");
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

  test("the ledger of what is here is what was tapped, without what was taken back", async () => {
    const first = await tap(BANK, "tick");
    await tap(
      { ...BANK, inHand: { ...RIG, depth_setting_m: 1.1, setup: { ...SETUP, depth_setting_m: 1.1 } } },
      "fish",
    );
    await tap(BANK, "lost_fly");
    await undo(BANK);
    const [outing] = waitingOutings(await entries(), []);
    expect(outing?.tally).toMatchObject({ drifts: 2, touches: 1, fish: 1, lost_flies: 0 });
    const ledger = ledgerOf(await entries(), outing?.id ?? "", []);
    const settings = ledger?.stops.flatMap((stop) => stop.settings) ?? [];
    expect(settings.map((one) => one.drifts.map((drift) => drift.outcome))).toEqual([["tick"], ["fish"], []]);
    expect(settings[0]?.drifts[0]?.id).toBe(first);
    await device.entries.toCollection().modify({ sent: 1 });
    expect(waitingOutings(await entries(), [])).toEqual([]);
  });

  test("a changed setting is a new one, and the next drift hangs under it", async () => {
    await tap(BANK, "clean");
    const deeper: InHand = { ...RIG, depth_setting_m: 1.1, setup: { ...SETUP, depth_setting_m: 1.1 } };
    await tap({ ...BANK, inHand: deeper }, "tick");
    const dry: InHand = {
      lie: "lie-1",
      rig: "dry",
      setup: { float: "foam", tippet_x: 4 },
      before: RIG,
      at: "",
    };
    await tap({ ...BANK, inHand: dry }, "missed");
    await tap({ ...BANK, inHand: dry }, "fish");
    const log = await readLog(ANGLER, "lie-1");
    expect(log.settings.map(({ body }) => body.rig !== "dry" && body.depth_setting_m)).toEqual([
      1,
      1.1,
      false,
    ]);
    expect(log.settings.at(-1)?.body).toMatchObject({ rig: "dry", setup: dry.setup });
    expect(log.drifts.slice(-2).map(({ body }) => body.setting_id)).toEqual(
      Array(2).fill(log.settings.at(-1)?.id),
    );
  });

  test("another beat ends the outing and begins one; another lie is another stop", async () => {
    await tap(BANK, "clean");
    await tap({ ...BANK, lie: "lie-2" }, "clean");
    await tap({ ...BANK, beat: "beat-2", lie: "lie-9" }, "clean");
    const all = await entries();
    const outings = all.filter((entry) => entry.kind === "outings");
    expect(outings.map((entry) => entry.body.ended_at === null)).toEqual([false, true]);
    expect(all.filter((entry) => entry.kind === "stops")).toHaveLength(3);
    await end({ ...BANK, beat: "beat-2", lie: "lie-9" });
    expect(logAt(await entries(), "lie-9").outing).toBeNull();
  });
});

describe("a depth that was kept", () => {
  test("is of the drifts before it at its spot, in its outing, until it is forgotten", async () => {
    const [first, second, other] = [
      await tap(BANK, "tick"),
      await tap(BANK, "clean"),
      { lane: 2, stance: 1 },
    ];
    const beside = await tap(BANK, "tick", other);
    await keepBottom(ANGLER, { lie_id: BANK.lie, ...other, depth_m: 1.1, depth_sd_m: 0.05 });
    const later = await tap(BANK, "clean", other);
    const read = { lie_id: BANK.lie, at: new Date().toISOString(), depth_m: 0.9, depth_how: "drifts" };
    await write(ANGLER, "readings", "r-1", read as never);
    const lines = latestOf(await entries(), (await readLog(ANGLER, BANK.lie)).outing?.id ?? "");
    const keptOf = async (id: string) => {
      const line = lines.find((one) => one.drift.id === id);
      return line && (await keptFrom(ANGLER, line));
    };
    const depths = async () => {
      const each = await Promise.all([first, second, beside, later].map(keptOf));
      return each.map((kept) => kept?.map((one) => one.body.depth_m));
    };
    expect(await depths()).toEqual([[0.9], [0.9], [1.1], []]);
    const [kept] = (await keptOf(beside)) ?? [];
    if (kept?.kind === "soundings") await forgetBottom(ANGLER, kept);
    expect(await depths()).toEqual([[0.9], [0.9], [], []]);
  });
});

describe("a reading with no signal", () => {
  const reading = (lie_id: string, depth_m: number, minute = 0) => ({
    lie_id,
    at: new Date(Date.parse("2026-06-01T10:00:00Z") + 60_000 * minute).toISOString(),
    depth_m,
    speed: { how: "typed" as const, surface_speed_m_s: 0.5 },
  });
  const told = (at: string | null) => ({ id: "lie-1", reading: at && { at } }) as never;
  const held = async (at: string | null = null) => heldAt(await entries(), told(at));

  test("is held for its lie, the newest of two, until the service tells of it", async () => {
    await write(ANGLER, "readings", "r-1", reading("lie-1", 1.1) as never);
    await write(ANGLER, "readings", "r-2", reading("lie-2", 2) as never);
    await write(ANGLER, "readings", "r-1", reading("lie-1", 1.3, 5) as never);
    expect((await held())?.body.depth_m).toBe(1.3);
    expect((await held("2026-06-01T10:04:59Z"))?.body.depth_m).toBe(1.3);
    await flush(ANGLER, async (batch) => taken(batch));
    expect((await held("2026-06-01T10:04:59Z"))?.body.depth_m).toBe(1.3); // sent, but what is shown is of before
    expect(await held("2026-06-01T10:05:00Z")).toBeNull();
  });

  test("of a clock that runs ahead is of when it came in", async () => {
    const ahead = new Date(Date.now() + 3600_000).toISOString();
    await write(ANGLER, "readings", "r-1", { ...reading("lie-1", 1.1), at: ahead } as never);
    const came = new Date().toISOString();
    await flush(ANGLER, async (batch) =>
      taken(batch, { taken: batch.events.map(({ id }) => ({ id, at: came })) }),
    );
    expect(await held(came)).toBeNull();
  });

  test("is built on by the next tap, whatever was drawn", async () => {
    const drawn = { id: "r-1", body: reading("lie-1", 1.1) as never };
    const now = { id: "lie-1", reading: null } as never;
    await reread(ANGLER, now, drawn, { wind_m_s: 4 });
    await reread(ANGLER, now, drawn, { temperature_c: 9 });
    expect((await held())?.body).toMatchObject({ depth_m: 1.1, wind_m_s: 4, temperature_c: 9 });
    expect(await entries()).toHaveLength(1);
  });

  test("stays with its reason when it is refused", async () => {
    await write(ANGLER, "readings", "r-1", reading("lie-1", 12) as never);
    const why = [{ code: "OUT", field: "depth_m", message: "12 is outside 0.05 to 4 m" }];
    await flush(ANGLER, async (batch) => ({
      ...taken(batch),
      taken: [],
      refused: batch.events.map(({ id }) => ({ id, faults: why })),
    }));
    expect(await held()).toMatchObject({ refused: why, body: { depth_m: 12 } });
  });
});
