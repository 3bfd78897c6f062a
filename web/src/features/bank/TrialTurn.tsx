import type { Log } from "../../local/logbook";
import { useRoad } from "../../local/road";
import { useTrial, useTurnHere } from "../../queries/trial";
import { useUnits } from "../../units/context";

/** Whose turn it is, on the bank: as the service counts, once it has the last drift, and without signal as this device does. */
export function TrialTurn({ log }: { log: Pick<Log, "drifts" | "waiting"> }) {
  const { say } = useUnits();
  const arrived = log.waiting === 0;
  const { data } = useTrial(`${log.drifts.length} ${log.drifts.at(-1)?.id}`, arrived);
  const here = useTurnHere(!useRoad());
  const told = data === null ? null : (arrived && data?.standing) || here;
  if (!told) return null;
  const { sides, turn, left } = told;
  const now = sides.find((one) => one.key === turn);
  const other = sides.find((one) => one.key !== turn);
  if (!now || !other) return null;
  return (
    <p role="status" className="rounded-xl bg-paper px-3 py-2">
      {`Fair trial: ${say(now.label)} for ${left} ${left === 1 ? "drift" : "drifts"} more, then ${say(other.label)}.`}
    </p>
  );
}
