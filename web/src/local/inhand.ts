/** The rig in hand at a lie: chosen on the Rig screen, used by Drift and Log. */
import { useLiveQuery } from "dexie-react-hooks";
import type { Ranked, Setup, Tuning } from "../api/client";
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

export const take = (lie: string, ranked: Ranked): Promise<string> | undefined =>
  ranked.setup
    ? device.inHand.put({
        lie,
        rig: ranked.rig,
        depth_setting_m: ranked.setup.depth_setting_m,
        point_bead_mm: ranked.setup.point_bead_mm,
        setup: ranked.setup,
        limits: ranked.limits,
      })
    : undefined;

/** The rig in hand at a lie; null where none has been chosen, undefined while the device is still being read. */
export const useInHand = (lie: string): InHand | null | undefined =>
  useLiveQuery(async () => (await device.inHand.get(lie)) ?? null, [lie]);
