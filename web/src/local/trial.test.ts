import { describe, expect, test } from "vitest";
import type { Entry } from "./records";
import { goingOn, type KeptTrial } from "./trial";

const KEPT: KeptTrial = {
  asked: "2026-06-01T10:00:00Z",
  trial: { by: "bead", first: "2.5", second: "3.0" },
  sides: [
    { key: "2.5", label: "2.5 mm", drifts: 12, takes: 1 },
    { key: "3.0", label: "3.0 mm", drifts: 7, takes: 0 },
  ],
};

const entry = (kind: string, id: string, body: object) => ({ kind, id, body }) as unknown as Entry;
const drift = (id: string, setting_id: string, at: string, undone = false) =>
  entry("drifts", id, { setting_id, at, undone, outcome: "clean" });

describe("a trial that goes on", () => {
  test("counts what was logged here since it was told of, as it was tied, and nothing that was taken back", () => {
    const setup = { point_form: "dubbed nymph", point_hook: 14 };
    const entries = [
      entry("settings", "a", { rig: "euro", point_bead_mm: 2.5, setup }),
      entry("settings", "b", { rig: "dry", setup: { float: "foam 10" } }),
      drift("1", "a", "2026-06-01T09:59:00Z"), // told of
      drift("2", "a", "2026-06-01T10:01:00Z"),
      drift("3", "a", "2026-06-01T10:02:00Z", true),
      drift("4", "b", "2026-06-01T10:03:00Z"),
      drift("5", "not here", "2026-06-01T10:04:00Z"),
    ];
    expect(goingOn(KEPT, entries)).toEqual({
      ...{ trial: KEPT.trial, first: 12, second: 7 },
      since: [
        { rig: "euro", fly: "dubbed nymph", hook: 14, bead_mm: 2.5 },
        { rig: "dry", fly: "foam 10", hook: null, bead_mm: null },
      ],
    });
  });
});
