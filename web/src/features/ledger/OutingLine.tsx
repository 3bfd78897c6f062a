import type { OutingSummary } from "../../api/client";
import { useUnits } from "../../units/context";

export const day = (at: string) =>
  new Date(at).toLocaleDateString(undefined, {
    weekday: "short",
    day: "numeric",
    month: "long",
    year: "numeric",
  });

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
      <span className="font-semibold">{outing.beat}</span> · {day(outing.started_at)},{" "}
      {clock(outing.started_at)}
      {outing.ended_at === null && <span className="ml-2 font-semibold text-signal">under way</span>}
      <span className="block text-soft">{counts(outing)}</span>
    </>
  );
}
