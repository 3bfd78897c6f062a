/** What is read of a log that has grown: the same as of the whole of it, and no more than the outing under way. */
import "fake-indexeddb/auto";
import { beforeEach, expect, test } from "vitest";
import type { Setup } from "../api/client";
import { end, land, moveTo, tap, undo } from "../features/bank/useBank";
import { since } from "./entries";
import { entriesOf, entriesThatWait, ledgerOf, linesOf, waitingOutings, withWritten } from "./ledger";
import { endedLately, latestOf, logAt, readLog } from "./logbook";
import { device, type Entry, type InHand, LOG } from "./records";

const ANGLER = "angler-1";
const rig = (depth_setting_m: number) =>
  ({
    lie: "any",
    rig: "euro",
    depth_setting_m,
    point_bead_mm: 3,
    setup: { depth_setting_m } as Setup,
  }) as InHand;
const bankAt = (lie: string, depth_m = 1) => ({
  ...{ angler: ANGLER, beat: "beat-1", lie, inHand: rig(depth_m) },
  situation: { water: { depth_m } } as never,
});
const LIES = ["lie-1", "lie-2"];
const OUTCOMES = ["clean", "tick", "fish", "hung"] as const;
const all = () => device.entries.toArray();

/** Fish both lies of a beat, with a fish, a drift taken back and another setting; the outing stays open. */
async function fish(drifts: number): Promise<void> {
  for (const lie of LIES) {
    for (let k = 0; k < drifts; k++) {
      const id = await tap(bankAt(lie, k < drifts / 2 ? 1 : 1.2), OUTCOMES[k % OUTCOMES.length] ?? "clean");
      const landed = { species: "brown trout", length_mm: 300, length_how: "eye" } as const;
      if (k === 2)
        await land(ANGLER, { ...landed, drift_id: id, fly: "point", phase: "drift", undone: false });
    }
    await undo(bankAt(lie));
  }
}

/** What of the store was read while something was done. */
async function readFor(action: () => Promise<unknown>): Promise<number> {
  let count = 0;
  const counting = (one: Entry) => {
    count++;
    return one;
  };
  device.entries.hook("reading", counting);
  await action();
  device.entries.hook("reading").unsubscribe(counting);
  return count;
}

beforeEach(async () => {
  globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
  await Promise.all(LOG.map((table) => table.clear()));
});

test("a tap and what is drawn after it read no more when there were other outings before", async () => {
  const aTap = async () => {
    await tap(bankAt("lie-2", 1.2), "tick");
    await readLog(ANGLER, "lie-2");
  };
  await fish(6);
  const first = await readFor(aTap);
  const whole = (await all()).length;
  for (let k = 0; k < 5; k++) {
    await end(bankAt("lie-2"));
    await device.entries.toCollection().modify({ sent: 1 });
    await fish(6);
  }
  expect((await all()).length).toBeGreaterThan(5 * whole);
  // of an outing that is over there is its own line, and its fish
  expect(await readFor(aTap)).toBeLessThan(first + 5 * 8);
});

test("what is read is what the whole of it says, at every lie and of every outing", async () => {
  for (let k = 0; k < 3; k++) {
    await fish(4 + k);
    if (k < 2) await end(bankAt("lie-2"));
    if (k === 0) await device.entries.toCollection().modify({ sent: 1 });
  }
  const entries = await all();
  for (const lie of [...LIES, "lie-3"]) expect(await readLog(ANGLER, lie)).toEqual(logAt(entries, lie));
  const outings = entries.filter((one) => one.kind === "outings").map((one) => one.id);
  expect(outings).toHaveLength(3);
  for (const outing of outings) {
    const some = await entriesOf(ANGLER, outing);
    expect(some.length).toBeLessThan(entries.length);
    expect(ledgerOf(some, outing, [])).toEqual(ledgerOf(entries, outing, []));
    expect(latestOf(some, outing)).toEqual(latestOf(entries, outing));
  }
  expect(endedLately(entries, "beat-1")?.id).toBe(outings.at(1));
  const waiting = waitingOutings(await entriesThatWait(ANGLER), []);
  expect(waiting).toEqual(waitingOutings(entries, []));
  expect(waiting).toHaveLength(2);
  const times = entries.flatMap((one) => (one.kind === "drifts" ? one.body.at : [])).sort();
  const [from = ""] = times.slice(times.length / 2);
  const fished = (await since(ANGLER, from)).filter((one) => one.kind === "drifts");
  expect(fished).toHaveLength(times.filter((one) => one > from).length);
});

test("what was corrected here of an outing that the service alone has in full is found by what the service told", async () => {
  await fish(4);
  const outing = (await readLog(ANGLER, "lie-1")).outing?.id ?? "";
  const told = ledgerOf(await all(), outing, []);
  if (!told) throw new Error("no outing");
  await Promise.all(LOG.map((table) => table.clear()));
  await moveTo(ANGLER, linesOf(told).slice(0, 2), "lie-3", bankAt("lie-3").situation);
  const moved = withWritten(told, await entriesOf(ANGLER, outing, told), []);
  expect(moved).toEqual(withWritten(told, await all(), []));
  expect(moved.stops.map((one) => one.lie_id)).toContain("lie-3");
});
