import type { OutingSummary } from "../../api/client";
import { useUnits } from "../../units/context";
import { day, weekday } from "../../units/units";

export const date = (at: string) => `${weekday(at)} ${day(at)} ${new Date(at).getFullYear()}`;

export const several = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;

export function counts({ tally }: OutingSummary): string {
  const parts = [
    several(tally.drifts, "drift", "drifts"),
    `${tally.fish} fish`,
    `${tally.missed} missed`,
    several(tally.touches, "touch", "touches"),
  ];
  if (tally.lost_flies > 0) parts.push(`${several(tally.lost_flies, "fly", "flies")} lost`);
  return parts.join(" · ");
}

/** An outing in a list. */
export function OutingLine({ outing }: { outing: OutingSummary }) {
  const { clock } = useUnits();
  return (
    <>
      <span className="font-semibold">{outing.beat}</span> · {date(outing.started_at)},{" "}
      {clock(outing.started_at)}
      {outing.ended_at === null && <span className="ml-2 font-semibold text-signal">under way</span>}
      <span className="block text-soft">{counts(outing)}</span>
    </>
  );
}
