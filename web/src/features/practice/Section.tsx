import { useState } from "react";
import type { Revealed } from "../../api/client";
import { useWidth } from "../../draw/size";
import { type Frame, Ruler, Water, yOf } from "../../draw/water";
import { Slider } from "../../ui/slider";
import { useUnits } from "../../units/context";
import { several } from "../ledger/OutingLine";

const AIR_PX = 26;
const UNDER_PX = 34;
const TOUCHED = ["tick", "hung", "lost_fly"];

const ENDED: Record<string, string> = {
  clean: "clean",
  tick: "a tick",
  hung: "hung up",
  missed: "a take missed",
  fish: "a fish",
  lost_fly: "the fly lost",
};

/** A lane with the water off: its bed, where fish fed, and every drift that went through it, to scale. */
export function Section({ revealed, lane }: { revealed: Revealed; lane: number }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show } = useUnits();
  const section = revealed.sections[lane];
  const paths = revealed.paths.filter((one) => one.lane === lane + 1);
  const [picked, setPicked] = useState(paths.length);
  if (!section) return null;
  const from = section.ground_x_m[0] ?? -1;
  const to = section.ground_x_m.at(-1) ?? 1;
  const scale = width / (to - from);
  const frame: Frame = {
    width,
    surface: AIR_PX,
    scale,
    depth: section.depth_m,
    height: AIR_PX + section.depth_m * scale + UNDER_PX,
  };
  const x = (metres: number) => (metres - from) * scale;
  const y = (height: number) => yOf(frame, height);
  const bed = section.ground_x_m.map(
    (m, k) => `${x(m).toFixed(1)},${y(section.ground_m[k] ?? 0).toFixed(1)}`,
  );
  const one = paths[picked - 1];
  const told = `${show(section.depth_m, "m")} deep, judged ${show(section.judged_depth_m, "m")}; top at ${show(section.surface_speed_m_s, "m/s")}, judged ${show(section.judged_speed_m_s, "m/s")}`;
  return (
    <figure>
      <figcaption>
        {section.name !== "" && <b>{`${section.name}: `}</b>}
        {`${told}; ${section.fish === 0 ? "nobody at home" : section.fish === 1 ? "one fish" : `${section.fish} fish`}.`}
      </figcaption>
      <div ref={ref} className="mt-1 overflow-hidden rounded-2xl">
        {width > 0 && (
          <svg
            width={width}
            height={frame.height}
            role="img"
            aria-label={`Section of the water, to scale: ${told}. ${several(paths.length, "drift", "drifts")} through it.`}
          >
            <rect width={width} height={frame.surface} fill="var(--paper)" />
            <Water frame={frame} />
            <rect
              x={x(-section.reach_m)}
              width={2 * section.reach_m * scale}
              y={y(section.zone_high_m)}
              height={(section.zone_high_m - section.zone_low_m) * scale}
              fill="var(--zone)"
              opacity={0.8}
            />
            <polygon
              points={`0,${frame.height} ${bed.join(" ")} ${width},${frame.height}`}
              fill="var(--bed)"
            />
            <line
              x1={0}
              x2={width}
              y1={y(section.depth_m - section.judged_depth_m)}
              y2={y(section.depth_m - section.judged_depth_m)}
              stroke="var(--ink)"
              strokeDasharray="6 5"
            />
            <text
              x={width - 6}
              y={Math.min(frame.height - 4, y(section.depth_m - section.judged_depth_m) - 4)}
              textAnchor="end"
              fontSize={12}
              fill="var(--ink)"
              stroke="var(--water-0)"
              strokeWidth={3}
              paintOrder="stroke"
            >
              the bed as it was judged
            </text>
            {paths.map((path, k) => (
              <polyline
                // biome-ignore lint/suspicious/noArrayIndexKey: a drift is known by its number
                key={k}
                points={path.x_m
                  .map((m, n) => `${x(m).toFixed(1)},${y(path.height_m[n] ?? 0).toFixed(1)}`)
                  .join(" ")}
                fill="none"
                stroke={k + 1 === picked ? "var(--signal)" : "var(--ink)"}
                strokeWidth={k + 1 === picked ? 3 : 1}
                opacity={k + 1 === picked ? 1 : 0.35}
              />
            ))}
            {paths.map((path, k) => {
              const end = path.x_m.length - 1;
              const mark = TOUCHED.includes(path.outcome) || path.outcome === "fish";
              return mark ? (
                <circle
                  // biome-ignore lint/suspicious/noArrayIndexKey: a drift is known by its number
                  key={k}
                  cx={x(path.x_m[end] ?? 0)}
                  cy={y(path.height_m[end] ?? 0)}
                  r={path.outcome === "fish" ? 5 : 2.5}
                  fill={path.outcome === "fish" ? "var(--signal)" : "var(--ink)"}
                />
              ) : null;
            })}
            <Ruler frame={frame} />
            <text x={x(0)} y={18} textAnchor="middle" fontSize={13} fill="var(--ink)">
              where fish lay
            </text>
          </svg>
        )}
      </div>
      {paths.length > 1 && (
        <Slider
          label="Drift"
          value={picked}
          min={1}
          max={paths.length}
          step={1}
          shown={
            one
              ? `${picked}: ${ENDED[one.outcome] ?? one.outcome}, ${show(one.zone_s, "s", 1)} in the zone`
              : ""
          }
          onChange={setPicked}
        />
      )}
    </figure>
  );
}
