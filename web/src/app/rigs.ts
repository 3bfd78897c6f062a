/** What the three rigs are called. */
import type { RigKind } from "../api/client";

export const RIG: Record<RigKind, string> = {
  euro: "Euro",
  indicator: "Indicator",
  dry_dropper: "Dry-dropper",
};
