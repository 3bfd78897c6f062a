import type { DriftPath } from "../../api/client";
import { useUnits } from "../../units/context";
import { percent } from "../../units/units";

/** What can be read off the drift at one moment: pace against the bubbles, pull, the sighter's lean, the fly's pace. */
export function Readout({ path, time }: { path: DriftPath; time: number }) {
  const { show } = useUnits();
  const at = Math.min(path.top_pace.length - 1, Math.round(time / path.frame_s));
  const fly = path.fly_pace[0]?.[at];
  const lean = path.sighter_deg?.[at];
  const facts: [string, string][] = [
    [path.top === "tip" ? "Tip to bubbles" : "Float to bubbles", percent(path.top_pace[at] ?? 0)],
    ["Fly to its water", fly === null || fly === undefined ? "—" : percent(fly)],
    ["Pull on the line", show(path.pull_g[at] ?? 0, "g")],
  ];
  if (lean !== undefined)
    facts.push(["Sighter", `${Math.abs(lean).toFixed(0)}° ${lean >= 0 ? "tip ahead" : "tip behind"}`]);
  const ticks = path.touches.filter((touch) => touch.t_s <= time && touch.part !== "shot");
  facts.push(["Touches so far", ticks.length === 0 ? "none" : String(ticks.length)]);
  return (
    <dl className="mt-2 grid grid-cols-3 gap-x-4 gap-y-1 sm:flex sm:flex-wrap sm:gap-x-8">
      {facts.map(([name, value]) => (
        <div key={name}>
          <dt className="text-sm text-soft">{name}</dt>
          <dd className="font-semibold">{value}</dd>
        </div>
      ))}
    </dl>
  );
}
