/** The rod in hand: its length, line and leader, which say how far a tight line reaches and what a rig is built on. */
import { useRef, useState } from "react";
import * as bounds from "../../api/bounds";
import type { Rod } from "../../api/client";
import { useRod } from "../../queries/angler";
import { Choice } from "../../ui/choosing";
import { useOnline } from "../../ui/online";
import { Button, Panel, Trouble } from "../../ui/parts";
import { Slider } from "../../ui/slider";
import { useUnits } from "../../units/context";

const LENGTH = bounds.Rod.length_m;
const WEIGHT = bounds.Rod.line_weight;
const STILL_MS = 400;

export const LEADERS = [
  ["level", "level monofilament"],
  ["line", "thin line"],
  ["tapered", "tapered"],
  ["long", "long tapered"],
] as const;

export function RodPanel({ rod }: { rod: Rod }) {
  const { show } = useUnits();
  const store = useRod();
  const online = useOnline();
  const [now, setNow] = useState(rod);
  const later = useRef<number>(undefined);
  /** A slider is stored once it stands still. */
  const change = (part: Partial<Rod>, wait = 0) => {
    const next = { ...now, ...part };
    setNow(next);
    window.clearTimeout(later.current);
    later.current = window.setTimeout(() => store.mutate(next), wait);
  };
  const line = rod.line_weight == null ? "line not said" : `line ${rod.line_weight}`;
  const leader = LEADERS.find(([key]) => key === rod.leader)?.[1] ?? "any leader";
  if (!online)
    return (
      <Panel title="Rod, line, leader">
        <p className="text-lg font-semibold">
          {show(rod.length_m, "m")} · {line} · {leader}
        </p>
        <p className="text-soft">It can be changed once there is signal.</p>
      </Panel>
    );
  return (
    <Panel title="Rod, line, leader">
      <Slider
        label="Rod"
        value={now.length_m}
        min={LENGTH.min}
        max={LENGTH.max}
        step={0.05}
        shown={show(now.length_m, "m")}
        onChange={(length_m) => change({ length_m }, STILL_MS)}
      />
      <Slider
        label="Weight of line"
        value={now.line_weight ?? WEIGHT.min}
        min={WEIGHT.min}
        max={WEIGHT.max}
        step={1}
        shown={now.line_weight === null ? "not said" : `${now.line_weight}`}
        onChange={(line_weight) => change({ line_weight }, STILL_MS)}
      />
      <Button
        className={`px-3 ${now.line_weight == null ? "invisible" : ""}`}
        onClick={() => change({ line_weight: null })}
      >
        Weight not known
      </Button>
      <Choice
        label="Leader on it"
        value={now.leader === "any" ? null : now.leader}
        options={LEADERS}
        onChange={(leader) => change({ leader })}
        clearable={() => change({ leader: "any" })}
      />
      <p className="mt-2 text-sm text-soft">
        A longer rod holds more line off the water; an ordinary line sags out of its tip and ends a tight line
        sooner.
      </p>
      {store.isError && <Trouble error={store.error} />}
    </Panel>
  );
}
