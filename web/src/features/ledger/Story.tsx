import { useState } from "react";
import type { components } from "../../api/generated";
import { useWidth } from "../../draw/size";
import { useStory } from "../../queries/log";
import { Button, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";

type Said = components["schemas"]["Said"];

const HIGH = 150;
const LEFT = 46;
const RIGHT = 8;
const FOOT = 20;
const TOP = 8;

const DO: Record<Said["action"], string> = {
  hold: "hold",
  deeper: "deeper",
  shallower: "shallower",
  heavier: "heavier",
  lighter: "lighter",
  change_fly: "another fly",
  change_rig: "another rig",
  move_on: "move on",
};

/** Where the word is another than after the drift before. */
const turns = (said: readonly Said[]) =>
  said.flatMap((one, k) => (k === 0 || said[k - 1]?.action !== one.action ? [{ ...one, after: k + 1 }] : []));

/** How the bottom became known at a stay, and what the coach said meanwhile. */
export function Story({ outing, stop, lie }: { outing: string; stop: string; lie: string }) {
  const [open, setOpen] = useState(false);
  const story = useStory(outing, stop, open);
  const { say, show } = useUnits();
  if (!open)
    return (
      <Button look="quiet" className="px-2 print:hidden" onClick={() => setOpen(true)}>
        How the coach saw it
      </Button>
    );
  if (story.isError) return <Trouble error={story.error} retry={() => story.refetch()} />;
  if (!story.data)
    return story.fetchStatus === "paused" ? (
      <p className="text-soft">Telling it again needs signal.</p>
    ) : (
      <Working what="Thinking it over again" />
    );
  if (story.data.length === 0)
    return <p className="text-soft">The coach was told nothing of this stay that it could reckon with.</p>;
  return (
    <section aria-label={`How the coach saw ${lie}`} className="mt-2 border-t border-line pt-2">
      <Bottom said={story.data} lie={lie} />
      <ol className="space-y-1">
        {turns(story.data).map((one) => (
          <li key={one.after}>
            <span className="text-soft">{`after ${one.after}: `}</span>
            <b>
              {DO[one.action]}
              {["deeper", "shallower", "heavier", "lighter"].includes(one.action) &&
                ` to ${show(one.to_m, "m")}`}
            </b>
            {". "}
            {say(one.reason)}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Bottom({ said, lie }: { said: Said[]; lie: string }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show } = useUnits();
  const deepest = 1.1 * Math.max(...said.map((one) => Math.max(one.high_m, one.set_m)));
  const x = (k: number) => LEFT + ((k + 0.5) / said.length) * (width - LEFT - RIGHT);
  const y = (depth: number) => TOP + (depth / deepest) * (HIGH - TOP - FOOT);
  const first = said[0];
  const end = said.at(-1);
  const line = (of: (one: Said) => number) =>
    said.map((one, k) => `${x(k).toFixed(1)},${y(of(one)).toFixed(1)}`);
  const band = [...line((one) => one.low_m), ...line((one) => one.high_m).reverse()].join(" ");
  const spoken =
    first && end
      ? `The bottom of ${lie} as it became known: ${show(first.low_m, "m")} to ${show(first.high_m, "m")} after the first drift, ${show(end.low_m, "m")} to ${show(end.high_m, "m")} after ${said.length}`
      : "";
  return (
    <div ref={ref} style={{ minHeight: HIGH }}>
      {width > 0 && (
        <svg width={width} height={HIGH} role="img" aria-label={spoken}>
          <line x1={LEFT} x2={width - RIGHT} y1={y(0)} y2={y(0)} stroke="var(--water-2, var(--line))" />
          <polygon points={band} fill="var(--bed)" opacity={0.5} />
          <polyline
            points={line((one) => one.middle_m).join(" ")}
            fill="none"
            stroke="var(--bed-dark)"
            strokeWidth={2}
          />
          <polyline
            points={line((one) => one.set_m).join(" ")}
            fill="none"
            stroke="var(--signal)"
            strokeWidth={1.5}
            strokeDasharray="5 4"
          />
          {[0, deepest / 2.2, deepest / 1.1].map((depth) => (
            <text key={depth} x={LEFT - 6} y={y(depth) + 4} textAnchor="end" fontSize={12} fill="var(--soft)">
              {show(depth, "m", 1)}
            </text>
          ))}
          <text x={LEFT} y={HIGH - 5} fontSize={12} fill="var(--soft)">
            drift 1
          </text>
          <text x={width - RIGHT} y={HIGH - 5} textAnchor="end" fontSize={12} fill="var(--soft)">
            {said.length}
          </text>
        </svg>
      )}
      <p className="text-sm text-soft">
        Where the bottom was believed to be after each drift, 8 times in 10 within the band. Dashed: how the
        rig was set.
      </p>
    </div>
  );
}
