import type { PlannedDay } from "../../queries/day";
import { useUnits } from "../../units/context";

/** A plan is no timetable: it is told to five minutes. */
const STEP_MS = 5 * 60_000;

/** When a lie has its turn, or why it has none; unseen while that is planned again. */
export function Turn({ day, ...of }: { lie: string; drifts: number; day: PlannedDay }) {
  return (
    <span className={day.stale ? "invisible" : ""}>
      <Told day={day} {...of} />
    </span>
  );
}

function Told({ lie, drifts, day }: { lie: string; drifts: number; day: PlannedDay }) {
  const { clock } = useUnits();
  const { now, plan, here } = day;
  const leg = plan.legs.find((one) => one.lie === lie);
  const at = (minutes: number) => clock(Math.round((now + 60_000 * minutes) / STEP_MS) * STEP_MS);
  if (leg)
    return (
      <b>
        {lie === here ? "now" : at(leg.begins_min)} to {at(leg.ends_min)} · {leg.drifts} drifts
      </b>
    );
  if (plan.done.includes(lie)) return <>had its {drifts} drifts</>;
  if (plan.left_out.includes(lie)) return <>no time for it</>;
  return <>{plan.left.includes(lie) ? "fished, and left" : `${drifts} drifts`}</>;
}
