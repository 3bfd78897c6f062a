/** What hangs on the rod is called, and how it is said on one line. */
import type { Ledger, RigKind, Setup } from "../api/client";
import type { Bodies, InHand } from "../local/records";
import { useUnits } from "../units/context";

export const RIG: Record<RigKind | "dry", string> = {
  euro: "Euro",
  indicator: "Indicator",
  dry_dropper: "Dry-dropper",
  dry: "Single dry",
};

/** The point fly with its size, where that is known. */
export const pointFly = (setup: Pick<Setup, "point_form" | "point_hook">): string =>
  setup.point_hook === null ? setup.point_form : `${setup.point_form}, size ${setup.point_hook}`;

type Setting = InHand | Bodies["settings"] | Ledger["stops"][number]["settings"][number];

/** Says what hangs on the rod and how it is set: "Euro · 3.0 mm · 1.10 m", "Single dry · foam 10 · 4X". */
export function useSetting(): (one: Setting) => string {
  const { show, bead } = useUnits();
  return (one) =>
    one.rig === "dry"
      ? `${RIG.dry} · ${one.setup.float} · ${one.setup.tippet_x}X`
      : `${RIG[one.rig]} · ${bead(one.point_bead_mm)} · ${show(one.depth_setting_m, "m")}`;
}
