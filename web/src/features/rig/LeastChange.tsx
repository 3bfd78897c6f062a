/** From the rig that is on: the least change that is worth its seconds, and the others. */
import { useEffect, useState } from "react";
import type { Ranked, Situation, Tuning } from "../../api/client";
import { tuningOf } from "../../local/inhand";
import { useRoad } from "../../local/road";
import { useChanges } from "../../queries/rigs";
import { Button, Panel, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";

const STILL_MS = 500;

/** A value once it has been left alone for a while: a plan is not asked for at every step of a slider. */
function useStill<T>(value: T): T {
  const [still, setStill] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setStill(value), STILL_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return still;
}

interface Props {
  lie: string;
  situation: Situation;
  tuning: Tuning;
  onTake: (kind: Ranked["rig"], tuning: Tuning) => void;
}

export function LeastChange({ lie, situation, tuning, onTake }: Props) {
  const { say, show } = useUnits();
  const road = useRoad();
  const [wanted, setWanted] = useState(false);
  // on this device it takes a while, which sliders would wait for: it is looked for when asked
  const looks = road || wanted;
  const still = useStill(tuning);
  const changes = useChanges(lie, situation, looks ? still : null);
  if (!looks)
    return (
      <Button className="w-full" onClick={() => setWanted(true)}>
        Look for the least change
      </Button>
    );
  if (changes.isPending) return <Working what="Looking for the least change" here />;
  if (changes.isError)
    return (
      <Panel title="Least change">
        <Trouble error={changes.error} retry={() => changes.refetch()} />
      </Panel>
    );
  const { options, advised, reason } = changes.data;
  return (
    <Panel title="Least change">
      <p className="text-soft">{say(reason)}</p>
      <ul className="mt-2 space-y-2">
        {options.map((one, k) => (
          <li key={one.kind} className="flex items-center gap-3">
            <div className="min-w-0 grow">
              <p className={k === advised ? "font-semibold" : ""}>{say(one.words)}</p>
              <p className="text-sm text-soft">
                {show(one.seconds, "s", 0)} at the knots ·{" "}
                {one.worth >= 0 ? `worth ${one.worth.toFixed(1)} drifts` : "costs more than it gains"}
              </p>
            </div>
            <Button
              look={k === advised ? "main" : "plain"}
              className="shrink-0 whitespace-nowrap"
              onClick={() => onTake(one.rig, tuningOf(one.rig, one.setup))}
              aria-label={`Set it: ${say(one.words)}`}
            >
              Set it
            </Button>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
