import type { DriftPath } from "../../api/client";
import { Figure } from "../../ui/figure";
import { useUnits } from "../../units/context";
import { percent } from "../../units/units";

/** What can be read off the drift at one moment, each with its why. */
export function Readout({ path, time }: { path: DriftPath; time: number }) {
  const { show } = useUnits();
  const at = Math.min(path.top_pace.length - 1, Math.round(time / path.frame_s));
  const fly = path.fly_pace[0]?.[at];
  const lean = path.sighter_deg?.[at];
  const touched = path.touches.filter((touch) => touch.t_s <= time).length;
  const facts: [string, string, string][] = [
    ["top_pace", path.top === "tip" ? "Tip to bubbles" : "Float to bubbles", percent(path.top_pace[at] ?? 0)],
    ["fly_pace", "Fly to its water", fly === null || fly === undefined ? "—" : percent(fly)],
    ["pull", "Pull on the line", show(path.pull_g[at] ?? 0, "g")],
    ["touches", "Touches so far", touched === 0 ? "none" : String(touched)],
  ];
  if (lean !== undefined)
    facts.push([
      "sighter",
      "Sighter",
      `${Math.abs(lean).toFixed(0)}° ${lean >= 0 ? "tip ahead" : "tip behind"}`,
    ]);
  return (
    <div className="-mx-2 mt-1 grid grid-cols-[repeat(auto-fit,minmax(6.5rem,1fr))] sm:flex sm:flex-wrap sm:gap-x-6">
      {facts.map(([number, label, value]) => (
        <Figure
          key={number}
          label={label}
          value={value}
          why={path.why.find((one) => one.number === number)}
        />
      ))}
    </div>
  );
}
