/** The rig in hand at a lie: chosen on the Rig screen, used by Drift and Log. */
import { useLiveQuery } from "dexie-react-hooks";
import type { DrySetup, Ranked, Setup, Tuning } from "../api/client";
import { useKeptAngler } from "./angler";
import { useLog } from "./logbook";
import { type Bodies, device, type InHand, type RigInHand } from "./records";

export const tuningOf = (rig: Ranked["rig"], setup: Setup): Tuning => ({
  rig,
  depth_setting_m: setup.depth_setting_m,
  point_bead_mm: setup.point_bead_mm,
  flies: setup.flies,
  dropper_bead_mm: setup.dropper_bead_mm,
  dropper_spacing_m: setup.dropper_spacing_m,
  dropper_tag_m: setup.dropper_tag_m,
  tippet_x: setup.tippet_x,
  shot_g: setup.shot_g,
  float: setup.float,
  tip_pace: setup.tip_pace,
});

/** The rig in hand, or the one that a single dry took the place of; null where there is none. */
export const rigOf = (inHand: InHand | null): RigInHand | null =>
  inHand?.rig === "dry" ? inHand.before : inHand;

/** Whether two flies are on under water, of which either may be lost. */
export const hasTwoNymphs = (on: { rig: "dry" } | { rig: Ranked["rig"]; setup: Setup }): boolean =>
  on.rig !== "dry" && on.setup.dropper_form !== null;

/** Tie a single dry on. */
export const tieDry = async (lie: string, setup: DrySetup, before: InHand | null): Promise<void> => {
  await device.inHand.put({ lie, rig: "dry", setup, before: rigOf(before), at: new Date().toISOString() });
};

/** Take a single dry off again: a rig is set anew. */
export const untie = async (rig: RigInHand): Promise<void> => {
  await device.inHand.put({ ...rig, at: new Date().toISOString() });
};

/** An advised rig as it would be in hand at a lie; null where it cannot be used there. */
export const asAdvised = (lie: string, { rig, setup, limits }: Ranked): RigInHand | null =>
  setup && {
    ...{ lie, rig, setup, limits },
    depth_setting_m: setup.depth_setting_m,
    point_bead_mm: setup.point_bead_mm,
  };

/**
 * Choose a rig for a lie; the same one again changes nothing, also not when it was chosen. ``unlessChosen``: where none is in hand
 * there, looked up with the writing of it, since a choice may still be on its way to the device. ``at``: when it was chosen, where
 * it took a while to work out; what was chosen later stands.
 */
export async function take(
  lie: string,
  ranked: Ranked,
  { unlessChosen = false, at = new Date().toISOString() } = {},
): Promise<void> {
  const advised = asAdvised(lie, ranked);
  if (!advised) return;
  await device.transaction("rw", device.inHand, async () => {
    const before = await device.inHand.get(lie);
    if (before && (unlessChosen || (before.at && before.at > at))) return;
    const same =
      before?.rig === advised.rig && JSON.stringify(before.setup) === JSON.stringify(advised.setup);
    // what was put on for want of a choice gives way to one
    await device.inHand.put(unlessChosen ? advised : { ...advised, at: (same && before.at) || at });
  });
}

/** The rig in hand at a lie; null where none has been chosen, undefined while the device is still being read. */
export const useInHand = (lie: string): InHand | null | undefined =>
  useLiveQuery(async () => (await device.inHand.get(lie)) ?? null, [lie]);

/**
 * What hangs on the rod at a lie: what the log says was set there last, on whatever device, unless another was chosen here since.
 * Null where neither is known, undefined while the device is being read.
 */
export function useOnRod(lie: string): InHand | null | undefined {
  const angler = useKeptAngler();
  const chosen = useInHand(lie);
  const last = useLastInHand();
  const log = useLog(angler?.id ?? "", lie);
  if (chosen === undefined || last === undefined || log === undefined || angler === undefined)
    return undefined;
  return since(chosen, log.rod?.body, lie, rigOf(chosen) ?? rigOf(last));
}

/** What was chosen at a lie, unless the log says that something was set since. */
function since(
  chosen: InHand | null,
  set: Bodies["settings"] | undefined,
  lie: string,
  before: RigInHand | null,
): InHand | null {
  if (!set || (chosen?.at && Date.parse(chosen.at) > Date.parse(set.at))) return chosen;
  if (set.rig === "dry") return { lie, rig: set.rig, setup: set.setup, before, at: set.at };
  const { rig, depth_setting_m, point_bead_mm, setup, at } = set;
  // another kind of rig has other floats, and as much line and as many beads
  const limits = before?.limits && {
    ...before.limits,
    ...(before.rig === rig ? {} : { floats: [], flies: [] }),
  };
  return { lie, rig, depth_setting_m, point_bead_mm, setup, limits: limits ?? null, at };
}

/**
 * What one comes to a lie with in an outing: what was set at the lie before, unless a rig was chosen here since. Null where nothing
 * is carried there, undefined while the device is being read.
 */
export function useCarried(beat: string, lie: string): InHand | null | undefined {
  const angler = useKeptAngler();
  const chosen = useInHand(lie);
  const log = useLog(angler?.id ?? "", lie);
  if (chosen === undefined || log === undefined || angler === undefined) return undefined;
  // another beat has other rules, and is another outing
  if (!log.carried || log.outing?.body.beat_id !== beat) return null;
  const carried = since(chosen, log.carried.body, lie, rigOf(chosen));
  return carried === chosen ? null : carried;
}

/** The key of the second rod among the device's notes, an angler's own. */
const secondOf = (angler: string) => `second rod of ${angler}`;

/** What hangs on the second rod that is carried; null where there is none, undefined while the device is being read. */
export const useSecondRod = (angler: string): InHand | null | undefined =>
  useLiveQuery(
    async () => ((await device.notes.get(secondOf(angler)))?.value as InHand | undefined) ?? null,
    [angler],
  );

/** Carry a second rod, set up like the one in hand. */
export const carrySecond = async (angler: string, like: InHand): Promise<void> => {
  await device.notes.put({ key: secondOf(angler), value: like });
};

/** Leave the second rod behind. */
export const leaveSecond = (angler: string): Promise<void> => device.notes.delete(secondOf(angler));

/** Take the other rod in hand, at this lie; the one in hand is carried as it is. */
export const swapRods = (angler: string, inHand: InHand): Promise<void> =>
  device.transaction("rw", device.inHand, device.notes, async () => {
    const other = (await device.notes.get(secondOf(angler)))?.value as InHand | undefined;
    if (!other) return;
    await device.notes.put({ key: secondOf(angler), value: inHand });
    await device.inHand.put({ ...other, lie: inHand.lie, at: new Date().toISOString() });
  });

/** The rig that was last chosen at any lie: without signal, what hangs on the rod is fished at a lie that has no rig of its own. */
export const useLastInHand = (): InHand | null | undefined =>
  useLiveQuery(
    async () =>
      (await device.inHand.toArray()).sort((a, b) => (a.at ?? "").localeCompare(b.at ?? "")).at(-1) ?? null,
    [],
  );
