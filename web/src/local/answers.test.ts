import "fake-indexeddb/auto";
import { QueryClient } from "@tanstack/react-query";
import Dexie from "dexie";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { recall, remember, STALE_MS, worthKeeping } from "./answers";
import { Device, device } from "./records";

const settled = () => vi.waitFor(async () => expect(await device.answers.get("answers")).toBeDefined());

describe("what the service answered", () => {
  beforeEach(() => device.answers.clear());

  it("is there again when the app opens without it", async () => {
    const before = new QueryClient();
    const stop = remember(before);
    await before.fetchQuery({ queryKey: ["beats"], queryFn: async () => [{ name: "Sallow Bend" }] });
    await before.fetchQuery({ queryKey: ["path", 1], queryFn: async () => "frames and frames" });
    await settled();
    stop();
    const after = new QueryClient();
    await recall(after);
    expect(after.getQueryData(["beats"])).toEqual([{ name: "Sallow Bend" }]);
    expect(after.getQueryData(["path", 1])).toBeUndefined(); // a drift is run again, not kept
    expect(after.getQueryState(["beats"])?.isInvalidated).toBe(true); // and it is asked again at once
  });

  it("stays although asking again has failed", async () => {
    const before = new QueryClient({ defaultOptions: { queries: { retry: false } } });
    const stop = remember(before);
    await before.fetchQuery({ queryKey: ["box"], queryFn: async () => "flies" });
    const lost = {
      queryKey: ["box"],
      queryFn: () => Promise.reject(new TypeError("no signal")),
      staleTime: 0,
    };
    await before.fetchQuery(lost).catch(() => undefined);
    await before.fetchQuery({ queryKey: ["beats"], queryFn: async () => "lies" });
    await settled();
    stop();
    const after = new QueryClient();
    await recall(after);
    expect(after.getQueryState(["box"])).toMatchObject({
      data: "flies",
      status: "success",
      error: null,
    });
  });

  it("is not written down again for what is not kept, as after every tap", () => {
    const before = new QueryClient();
    const stop = remember(before);
    const timers = vi.spyOn(globalThis, "setTimeout");
    const soon = () => timers.mock.calls.filter(([, after = 0]) => after < 1000).length;
    before.setQueryData(["coach", { drifts: 3 }], { advice: "hold" });
    expect(soon()).toBe(0);
    before.setQueryData(["box"], "flies");
    expect(soon()).toBe(1);
    timers.mockRestore();
    stop();
  });

  it("keeps the newest page of the ledger, and nothing that was looked for in it", async () => {
    const before = new QueryClient();
    const stop = remember(before);
    before.setQueryData(["outings"], { pages: [["new"], ["old"]], pageParams: [undefined, "new"] });
    before.setQueryData(["outings", "found", "blank"], { pages: [["none"]], pageParams: [undefined] });
    await settled();
    stop();
    const after = new QueryClient();
    await recall(after);
    expect(after.getQueryData(["outings"])).toMatchObject({ pages: [["new"]] });
    expect(before.getQueryData(["outings"])).toMatchObject({ pages: [["new"], ["old"]] }); // what is looked at stays
    expect(after.getQueryData(["outings", "found", "blank"])).toBeUndefined();
  });

  it("is left out once it is too old", async () => {
    const before = new QueryClient();
    const stop = remember(before);
    await before.fetchQuery({ queryKey: ["beats"], queryFn: async () => "old" });
    await settled();
    stop();
    const after = new QueryClient();
    await recall(after, Date.now() + STALE_MS + 1000);
    expect(after.getQueryData(["beats"])).toBeUndefined();
  });

  it("keeps the newest of what was computed and never a failure", async () => {
    const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
    for (let k = 0; k < 80; k++) client.setQueryData(["tune", k], k, { updatedAt: 1000 + k });
    await client
      .fetchQuery({ queryKey: ["session"], queryFn: () => Promise.reject(new Error("no")) })
      .catch(() => undefined);
    client.setQueryData(["session"], "nobody"); // who is signed in is asked, not remembered
    const worth = [...worthKeeping(client.getQueryCache().getAll())].map((one) => one.queryKey[1]);
    expect(worth).toHaveLength(60);
    expect(worth).toContain(79);
    expect(worth).not.toContain(10);
    expect(worth).not.toContain(undefined);
  });
});

describe("what is answered", () => {
  it("is kept soon after it came, however quickly others follow", async () => {
    vi.useFakeTimers();
    const client = new QueryClient();
    let kept: string[] = [];
    const told = new Promise<void>((done) => {
      const stop = remember(client, (kinds) => {
        kept = kinds;
        stop();
        done();
      });
    });
    for (let k = 0; k < 9; k++) {
      client.setQueryData(k === 0 ? ["beats"] : ["tune", k], k);
      vi.advanceTimersByTime(100);
    }
    vi.useRealTimers();
    await told;
    expect(kept).toContain("beats");
    client.clear();
  });
});

describe("what a slider passes", () => {
  it("is not written down while it moves; what it rests on is", () => {
    vi.useFakeTimers();
    const put = vi.spyOn(device.answers, "put");
    const client = new QueryClient();
    const stop = remember(client);
    for (let k = 0; k < 20; k++) {
      client.setQueryData(["tune", k], k);
      vi.advanceTimersByTime(100);
    }
    expect(put).not.toHaveBeenCalled();
    vi.advanceTimersByTime(400);
    expect(put).toHaveBeenCalledOnce();
    stop();
    put.mockRestore();
    vi.useRealTimers();
    client.clear();
  });
});

describe("the device's store", () => {
  it("keeps every tap when it is opened by a newer app", async () => {
    await device.delete();
    const old = new Dexie("deriva");
    old.version(1).stores({ entries: "id, [angler+seq], sent", inHand: "lie" });
    const tap = { id: "1", kind: "drifts", angler: "a", seq: 1, sent: 0, refused: null, body: {} };
    await old.table("entries").put(tap);
    await old.table("inHand").put({ lie: "l", rig: "euro" });
    old.close();
    const now = new Device();
    expect(await now.entries.toArray()).toMatchObject([tap]);
    expect(await now.events.toArray()).toMatchObject([{ record: "1", angler: "a", sent: 0, body: {} }]);
    expect((await now.inHand.get("l"))?.rig).toBe("euro");
    expect(await now.answers.count()).toBe(0);
    now.close();
    await device.open();
  });
});
