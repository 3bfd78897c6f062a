import type { Today } from "../../api/client";
import { useWidth } from "../../draw/size";
import { useUnits } from "../../units/context";
import { day } from "../../units/units";

const HEIGHT = 230;
const LEFT = 56;
const RIGHT = 26;
const LABEL_PX = 64;
const TOP = 14;
const BOTTOM = 28;
const DAY_MS = 86_400_000;

/** Flow of the last days over the normal band of each, with now marked; the way down is carried on where it is falling. */
export function Hydrograph({ today }: { today: Today }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show } = useUnits();
  const points = today.hydrograph.map((p) => ({ ...p, t: Date.parse(p.at) }));
  const first = points[0];
  const last = points.at(-1);
  if (!first || !last) return null;
  const falls = today.recession;
  const until = falls ? Math.min(Date.parse(falls.reached_at), last.t + 4 * DAY_MS) : last.t;
  const most = 1.08 * Math.max(...points.map((p) => Math.max(p.flow_m3_s, p.high_m3_s ?? 0)));
  const x = (t: number) => LEFT + ((t - first.t) / Math.max(1, until - first.t)) * (width - LEFT - RIGHT);
  const y = (flow: number) => TOP + (1 - flow / most) * (HEIGHT - TOP - BOTTOM);
  const path = (flows: readonly (readonly [number, number])[]) =>
    flows.map(([t, flow]) => `${x(t).toFixed(1)},${y(flow).toFixed(1)}`).join(" ");
  const banded = points.filter((p) => p.low_m3_s !== null && p.high_m3_s !== null);
  const aDay = x(first.t + DAY_MS) - x(first.t);
  const apart = [1, 2, 4, 7].find((days) => days * aDay >= LABEL_PX) ?? 14;
  const days = Array.from(
    { length: Math.floor((last.t - first.t) / (apart * DAY_MS)) + 1 },
    (_, k) => last.t - apart * k * DAY_MS,
  );
  const flow = today.flow?.m3_s ?? last.flow_m3_s;
  return (
    <div ref={ref} className="mt-2 min-h-[244px] rounded-2xl bg-paper p-1">
      {width > 0 && (
        <svg
          width={width - 8}
          height={HEIGHT}
          role="img"
          aria-label={`Flow of the last two weeks, from ${show(first.flow_m3_s, "m³/s")} to ${show(flow, "m³/s")} now${today.normal ? `; normal is ${show(today.normal.low_m3_s, "m³/s")} to ${show(today.normal.high_m3_s, "m³/s")}` : ""}`}
        >
          {banded.length > 1 && (
            <polygon
              points={`${path(banded.map((p) => [p.t, p.high_m3_s ?? 0]))} ${path([...banded].reverse().map((p) => [p.t, p.low_m3_s ?? 0]))}`}
              fill="var(--zone)"
              opacity={0.75}
            />
          )}
          {[0, most / 2, most / 1.08].map((level) => (
            <text key={level} x={LEFT - 6} y={y(level) + 4} textAnchor="end" fontSize={12} fill="var(--soft)">
              {show(level, "m³/s", level < 10 ? 1 : 0).replace(/\s.*$/, "")}
            </text>
          ))}
          <line x1={LEFT} x2={width - RIGHT} y1={y(0)} y2={y(0)} stroke="var(--line)" />
          {days.map((t) => (
            <text key={t} x={x(t)} y={HEIGHT - 8} textAnchor="middle" fontSize={12} fill="var(--soft)">
              {t === last.t ? "now" : day(t)}
            </text>
          ))}
          <polyline
            points={path(points.map((p) => [p.t, p.flow_m3_s]))}
            fill="none"
            stroke="var(--mark)"
            strokeWidth={2.5}
            strokeLinejoin="round"
          />
          {falls && (
            <line
              x1={x(last.t)}
              y1={y(last.flow_m3_s)}
              x2={x(until)}
              y2={y(falls.target_m3_s)}
              stroke="var(--mark)"
              strokeWidth={2}
              strokeDasharray="4 5"
            />
          )}
          <circle cx={x(last.t)} cy={y(last.flow_m3_s)} r={6} fill="var(--signal)" stroke="var(--ink)" />
          <text x={LEFT} y={12} fontSize={12} fill="var(--soft)">
            {show(0, "m³/s").replace(/^\S+\s/, "")}
            {banded.length > 1 && " · shaded: normal for the day"}
          </text>
        </svg>
      )}
    </div>
  );
}
