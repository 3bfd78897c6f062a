import type { Carried } from "../../api/client";
import { rulerStep, useWidth } from "../../draw/size";
import { useUnits } from "../../units/context";
import { fromShown, toShown } from "../../units/units";

const HEIGHT = 210;
const LEFT = 52;
const RIGHT = 16;
const TOP = 12;
const BOTTOM = 30;

/** Depth of the lie against flow: the line that is believed with its spread, what was seen at other flows, and today. */
export function RatingPlot({ carried }: { carried: Carried }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show, system } = useUnits();
  const { rating, seen } = carried;
  const low = rating[0];
  const high = rating.at(-1);
  if (!low || !high) return null;
  const span = Math.log(high.flow_m3_s / low.flow_m3_s);
  const x = (flow: number) => LEFT + (Math.log(flow / low.flow_m3_s) / span) * (width - LEFT - RIGHT);
  const deepest = 1.05 * Math.max(high.depth_p90_m, ...seen.map((one) => one.depth_m + one.depth_sd_m));
  const y = (depth: number) => TOP + (depth / deepest) * (HEIGHT - TOP - BOTTOM); // down, as depth is
  const step = rulerStep((HEIGHT - TOP - BOTTOM) / deepest, 30, fromShown(1, "m", system));
  const marks = Array.from({ length: Math.floor(deepest / step) + 1 }, (_, k) => k * step);
  const path = (points: readonly (readonly [number, number])[]) =>
    points.map(([flow, depth]) => `${x(flow).toFixed(1)},${y(depth).toFixed(1)}`).join(" ");
  return (
    <figure className="mt-3 rounded-2xl bg-paper p-1" ref={ref}>
      {width > 0 && (
        <svg
          width={width - 8}
          height={HEIGHT}
          role="img"
          aria-label={`Depth here by flow, from ${seen.length} readings: ${show(carried.depth_m, "m")} at today's ${show(carried.flow_m3_s, "m³/s")}`}
        >
          <polygon
            points={`${path(rating.map((p) => [p.flow_m3_s, p.depth_p10_m]))} ${path([...rating].reverse().map((p) => [p.flow_m3_s, p.depth_p90_m]))}`}
            fill="var(--water-1)"
            opacity={0.55}
          />
          <polyline
            points={path(rating.map((p) => [p.flow_m3_s, p.depth_m]))}
            fill="none"
            stroke="var(--mark)"
            strokeWidth={2}
          />
          <line x1={LEFT} x2={width - RIGHT} y1={y(0)} y2={y(0)} stroke="var(--mark)" strokeWidth={1.5} />
          {marks.map((depth) => (
            <text key={depth} x={LEFT - 6} y={y(depth) + 4} textAnchor="end" fontSize={12} fill="var(--soft)">
              {depth === 0 ? show(0, "m", 0) : toShown(depth, "m", system).toFixed(1)}
            </text>
          ))}
          {[low, high].map((end, k) => (
            <text
              key={end.flow_m3_s}
              x={k === 0 ? LEFT : width - RIGHT}
              y={HEIGHT - 9}
              textAnchor={k === 0 ? "start" : "end"}
              fontSize={12}
              fill="var(--soft)"
            >
              {show(end.flow_m3_s, "m³/s")}
            </text>
          ))}
          {seen.map((one) => (
            <g key={one.at} stroke="var(--ink)" strokeWidth={1.5}>
              <line
                x1={x(one.flow_m3_s)}
                x2={x(one.flow_m3_s)}
                y1={y(one.depth_m - one.depth_sd_m)}
                y2={y(one.depth_m + one.depth_sd_m)}
              />
              <circle cx={x(one.flow_m3_s)} cy={y(one.depth_m)} r={4} fill="var(--paper)" />
            </g>
          ))}
          <line
            x1={x(carried.flow_m3_s)}
            x2={x(carried.flow_m3_s)}
            y1={y(0)}
            y2={y(carried.depth_m)}
            stroke="var(--signal)"
            strokeWidth={2}
          />
          <circle
            cx={x(carried.flow_m3_s)}
            cy={y(carried.depth_m)}
            r={6}
            fill="var(--signal)"
            stroke="var(--ink)"
          />
          <text x={x(carried.flow_m3_s)} y={HEIGHT - 9} textAnchor="middle" fontSize={12} fill="var(--ink)">
            today
          </text>
        </svg>
      )}
      <figcaption className="px-3 pb-2 text-sm text-soft">
        Depth by flow: rings were read, with their error; the band holds 8 times in 10.
      </figcaption>
    </figure>
  );
}
