import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";

const SMALL = "/api/health";
const AT_MOST_MS = 4000;

/** A service that answers nothing until it is told to, but for what `always` says. */
function silent() {
  const waiting: { url: string; answer: () => void }[] = [];
  const asked: string[] = [];
  let answering = (_url: string) => false;
  const answer = (url: string) => new Response(JSON.stringify(url));
  globalThis.fetch = (input, init) => {
    const url = String(input);
    asked.push(url);
    if (answering(url)) return Promise.resolve(answer(url));
    return new Promise((resolve, reject) => {
      waiting.push({ url, answer: () => resolve(answer(url)) });
      init?.signal?.addEventListener("abort", () => reject(init.signal?.reason));
    });
  };
  const now = (of: (url: string) => boolean) => {
    answering = of;
  };
  return { waiting, asked, now };
}

let road: typeof import("./road");
beforeEach(async () => {
  vi.useFakeTimers();
  vi.resetModules();
  road = await import("./road");
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.useRealTimers();
});

const ended = (one: Promise<unknown>) => {
  let how = "waits";
  one.then(
    () => {
      how = "answered";
    },
    (error) => {
      how = error instanceof TypeError ? "given up" : String(error);
    },
  );
  return () => how;
};

describe("the road", () => {
  test("what nothing comes of is given up, the next is not asked, and the way back is found without being asked", async () => {
    const service = silent();
    const told = vi.fn();
    road.watchCarrying(told);
    const question = ended(road.carried("/api/coach", { method: "POST" }, true));
    const writing = ended(road.carried("/api/rivers", { method: "POST" }, false));
    await vi.advanceTimersByTimeAsync(AT_MOST_MS - 100);
    expect([question(), road.roadCarries()]).toEqual(["waits", true]);
    await vi.advanceTimersByTimeAsync(200);
    expect([question(), writing(), road.roadCarries()]).toEqual(["given up", "waits", false]);
    const before = service.asked.length;
    await expect(road.carried("/api/coach", { method: "POST" }, true)).rejects.toThrow(TypeError);
    expect(service.asked.length).toBe(before);
    service.now((url) => url === SMALL);
    await vi.advanceTimersByTimeAsync(30_000);
    expect(road.roadCarries()).toBe(true);
    expect(told).toHaveBeenCalledTimes(2);
  });

  test("who wants to send does not wait until it would be asked again", async () => {
    const service = silent();
    void ended(road.carried("/api/coach", { method: "POST" }, true));
    await vi.advanceTimersByTimeAsync(30_000); // in the longest of the pauses
    service.now((url) => url === SMALL);
    await vi.advanceTimersByTimeAsync(1000);
    expect(road.roadCarries()).toBe(false);
    road.askNow();
    await vi.advanceTimersByTimeAsync(0);
    expect(road.roadCarries()).toBe(true);
  });

  test("what takes the service long is waited for, as long as the small question is answered", async () => {
    const service = silent();
    service.now((url) => url === SMALL);
    const question = ended(road.carried("/api/card", { method: "POST" }, true));
    await vi.advanceTimersByTimeAsync(30_000);
    expect([question(), road.roadCarries()]).toEqual(["waits", true]);
    service.waiting[0]?.answer();
    await vi.advanceTimersByTimeAsync(0);
    expect(question()).toBe("answered");
  });

  test("a road that is slow, and carries, is given the time that it takes", async () => {
    globalThis.fetch = (_, init) =>
      new Promise((resolve, reject) => {
        setTimeout(() => resolve(new Response("{}")), 5000);
        init?.signal?.addEventListener("abort", () => reject(init.signal?.reason));
      });
    const first = ended(road.carried("/api/session", {}, true));
    await vi.advanceTimersByTimeAsync(AT_MOST_MS + 100);
    expect([first(), road.roadCarries()]).toEqual(["given up", false]);
    await vi.advanceTimersByTimeAsync(20_000);
    expect(road.roadCarries()).toBe(true);
    const second = ended(road.carried("/api/session", {}, true));
    await vi.advanceTimersByTimeAsync(5100);
    expect([second(), road.roadCarries()]).toEqual(["answered", true]);
  });

  test("an answer that stops midway is given up; one that comes piece by piece is waited for", async () => {
    let body: ReadableStreamDefaultController<Uint8Array> | undefined;
    globalThis.fetch = (input, init) => {
      if (String(input) === SMALL)
        return new Promise((_, reject) =>
          init?.signal?.addEventListener("abort", () => reject(init.signal?.reason)),
        );
      const stream = new ReadableStream<Uint8Array>({
        start: (made) => {
          body = made;
        },
      });
      init?.signal?.addEventListener("abort", () => body?.error(init.signal?.reason));
      return Promise.resolve(new Response(stream, { status: 418, headers: { "x-said": "so" } }));
    };
    const send = (text: string) => body?.enqueue(new TextEncoder().encode(text));
    const slow = road.carried("/api/beats", {}, true);
    for (const piece of ["[1", ",2", ",3", "]"]) {
      await vi.advanceTimersByTimeAsync(1900);
      send(piece);
    }
    body?.close();
    await vi.advanceTimersByTimeAsync(0);
    const answer = await slow;
    expect([answer.status, answer.headers.get("x-said"), await answer.json()]).toEqual([
      418,
      "so",
      [1, 2, 3],
    ]);
    const half = ended(road.carried("/api/beats", {}, true));
    await vi.advanceTimersByTimeAsync(0);
    send("[1");
    await vi.advanceTimersByTimeAsync(AT_MOST_MS - 100);
    expect([half(), road.roadCarries()]).toEqual(["waits", true]);
    await vi.advanceTimersByTimeAsync(200);
    expect([half(), road.roadCarries()]).toEqual(["given up", false]);
  });

  test("whatever comes opens the road", async () => {
    const service = silent();
    const writing = ended(road.carried("/api/rivers", { method: "POST" }, false));
    await vi.advanceTimersByTimeAsync(AT_MOST_MS + 100);
    expect(road.roadCarries()).toBe(false);
    service.waiting[0]?.answer();
    await vi.advanceTimersByTimeAsync(0);
    expect([writing(), road.roadCarries()]).toEqual(["answered", true]);
  });

  test("a page that was too busy to hear says nothing of the road", async () => {
    silent();
    const question = ended(road.carried("/api/coach", { method: "POST" }, true));
    let busy = 0;
    const awake = performance.now.bind(performance);
    vi.spyOn(performance, "now").mockImplementation(() => awake() + busy);
    await vi.advanceTimersByTimeAsync(AT_MOST_MS - 100);
    busy = 3000;
    await vi.advanceTimersByTimeAsync(200);
    expect([question(), road.roadCarries()]).toEqual(["waits", true]);
    await vi.advanceTimersByTimeAsync(AT_MOST_MS); // and was awake the next time
    expect([question(), road.roadCarries()]).toEqual(["given up", false]);
  });

  test("a lost connection is doubted at once, and what is dropped by who asked is not", async () => {
    const dropped = new AbortController();
    const service = silent();
    const question = ended(road.carried("/api/tune", { signal: dropped.signal }, true));
    dropped.abort("another step of the slider");
    await vi.advanceTimersByTimeAsync(0);
    expect([question(), service.asked]).toEqual(["another step of the slider", ["/api/tune"]]);
    globalThis.fetch = () => Promise.reject(new TypeError("no way there"));
    await expect(road.carried("/api/tune", {}, true)).rejects.toThrow("no way there");
    await vi.advanceTimersByTimeAsync(0);
    expect(road.roadCarries()).toBe(false);
  });
});
