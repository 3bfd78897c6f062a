/** What moves with a drift that was at another lie, and the water that it was in there. */
import type { Lie, Situation } from "../../api/client";
import type { Line } from "../../local/logbook";

const OF_THE_DAY_MS = 12 * 3600 * 1000;

/** How much of a stay moves with a drift that was at another lie. */
export type Which = "this" | "on" | "all";

/** The drifts that move with one: it alone, those of its stay from it on, or the whole stay. */
export const movedWith = (line: Line, lines: readonly Line[], which: Which): Line[] =>
  lines.filter((one) => {
    if (which === "this" || one.stop.id !== line.stop.id) return one.drift.id === line.drift.id;
    return which === "all" || Date.parse(one.drift.body.at) >= Date.parse(line.drift.body.at);
  });

/** How line and bead were set. */
export interface SetTo {
  depth_setting_m: number;
  point_bead_mm: number | null;
}

/** The drifts that were fished with the setting of one: it alone, those from it on, or all of them. */
export const setWith = (line: Line, lines: readonly Line[], which: Which): Line[] =>
  movedWith(line, lines, which).filter((one) => one.setting.id === line.setting.id);

/** The water that a drift was in, had it been at another lie: as it was read there on that outing, or by its newest reading
 * while that is of the day; else what was read where it was logged stands, over the bed that the lie has.
 */
export function waterAt(lie: Lie, { stop, drift }: Line, lines: readonly Line[]): Situation {
  const read = lines.find((one) => one.stop.body.lie_id === lie.id)?.stop.body.situation;
  const ofTheDay = Math.abs(Date.now() - Date.parse(drift.body.at)) < OF_THE_DAY_MS;
  if (read || (ofTheDay && lie.situation)) return read ?? lie.situation ?? stop.body.situation;
  const { situation } = stop.body;
  return { ...situation, water: { ...situation.water, kind: lie.kind, bed: lie.bed } };
}
