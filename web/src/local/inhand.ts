/** The rig in hand at a lie: chosen on the Rig screen, used by Drift and Log. */
import { useLiveQuery } from "dexie-react-hooks";
import type { Ranked, Setup, Tuning } from "../api/client";
import { useKeptAngler } from "./angler";
import { useLog } from "./logbook";
import { device, type InHand } from "./records";

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

/**
 * Choose a rig for a lie; the same one again changes nothing, also not when it was chosen. ``unlessChosen``: where none is in hand
 * there, looked up with the writing of it, since a choice may still be on its way to the device.
 */
export async function take(lie: string, ranked: Ranked, { unlessChosen = false } = {}): Promise<void> {
  const { rig, setup, limits } = ranked;
  if (!setup) return;
  await device.transaction("rw", device.inHand, async () => {
    const before = await device.inHand.get(lie);
    if (before && unlessChosen) return;
    const same = before?.rig === rig && JSON.stringify(before.setup) === JSON.stringify(setup);
    const at = same ? before.at : undefined;
    const { depth_setting_m, point_bead_mm } = setup;
    await device.inHand.put({
      ...{ lie, rig, depth_setting_m, point_bead_mm, setup, limits },
      at: at ?? new Date().toISOString(),
    });
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
  const set = log.rod?.body;
  const limits = chosen?.limits ?? last?.limits ?? null;
  if (!set || (chosen?.at && Date.parse(chosen.at) > Date.parse(set.at))) return chosen;
  const { rig, depth_setting_m, point_bead_mm, setup, at } = set;
  return { lie, rig, depth_setting_m, point_bead_mm, setup, limits, at };
}

/** The rig that was last chosen at any lie: without signal, what hangs on the rod is fished at a lie that has no rig of its own. */
export const useLastInHand = (): InHand | null | undefined =>
  useLiveQuery(
    async () =>
      (await device.inHand.toArray()).sort((a, b) => (a.at ?? "").localeCompare(b.at ?? "")).at(-1) ?? null,
    [],
  );
