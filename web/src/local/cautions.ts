/** Cautions as the service and the device know them: data, each with its level and its code. */
import type { Caution } from "../api/client";

/** What nobody should start on without having read it. */
export const stops = (cautions: readonly Caution[]): Caution[] =>
  cautions.filter((one) => one.level === "stop");

/** What stands at a lie: what stops the whole beat today, then what is said of the lie; each thing once, the lie's own word. */
export function standing(day: readonly Caution[], lie: readonly Caution[]): Caution[] {
  const here = new Set(lie.map((one) => one.code));
  return [...stops(day).filter((one) => !here.has(one.code)), ...lie];
}
