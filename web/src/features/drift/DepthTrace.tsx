import type { DriftPath } from "../../api/client";
import { useWidth } from "../../draw/size";
import { useUnits } from "../../units/context";

const HEIGHT = 160;
const LEFT = 52;
const BOTTOM = 26;

/** Depth of each fly over time, with the strike zone and the bed. */
export function DepthTrace({ path, ghosts, time }: { path: DriftPath; ghosts: DriftPath[]; time: number }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show } = useUnits();
  const lasts = (path.line_x_m.length - 1) * path.frame_s;
  const trace = (depths: readonly number[], frame: number) =>
    depths
      .map((depth, k) => [k * frame, depth] as const)
      .filter(([s]) => s <= lasts)
      .map(([s, depth]) => `${x(s).toFixed(1)},${y(Math.min(Math.max(0, depth), path.depth_m)).toFixed(1)}`)
      .join(" ");
  const flies = path.body_parts.filter((part) => part !== "shot").length;
  const x = (s: number) => LEFT + (s / lasts) * (width - LEFT - 12);
  const y = (depth: number) => 10 + (depth / path.depth_m) * (HEIGHT - BOTTOM - 10);
  const step = [0.5, 1, 2, 5, 10].find((s) => lasts / s <= 8) ?? 10;
  const ticks = Array.from({ length: Math.floor(lasts / step) + 1 }, (_, k) => k * step);
  return (
    <div ref={ref} className="mt-3 rounded-2xl bg-paper p-1">
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={`Depth of the flies over time; the point fly is at ${show(path.body_depth_m[0]?.at(-1) ?? 0, "m")} at the end`}
        >
          <rect
            x={LEFT}
            width={width - LEFT - 12}
            y={y(path.depth_m - path.zone_high_m)}
            height={y(path.depth_m - path.zone_low_m) - y(path.depth_m - path.zone_high_m)}
            fill="var(--zone)"
            opacity={0.6}
          />
          <line
            x1={LEFT}
            x2={width - 12}
            y1={y(path.depth_m)}
            y2={y(path.depth_m)}
            stroke="var(--bed-dark)"
            strokeWidth={4}
          />
          <line x1={LEFT} x2={width - 12} y1={y(0)} y2={y(0)} stroke="var(--water-3)" strokeWidth={2} />
          {[0, path.depth_m / 2, path.depth_m].map((depth) => (
            <text key={depth} x={LEFT - 6} y={y(depth) + 4} textAnchor="end" fontSize={12} fill="var(--soft)">
              {show(depth, "m", 1)}
            </text>
          ))}
          {ticks.map((s) => (
            <text key={s} x={x(s)} y={HEIGHT - 8} textAnchor="middle" fontSize={12} fill="var(--soft)">
              {s} s
            </text>
          ))}
          {ghosts.map((ghost, k) => (
            <polyline
              // biome-ignore lint/suspicious/noArrayIndexKey: a ghost is known by its place in the ranking
              key={k}
              points={trace(ghost.body_depth_m[0] ?? [], ghost.frame_s)}
              fill="none"
              stroke="var(--soft)"
              strokeWidth={1.5}
              strokeDasharray="2 4"
            />
          ))}
          {path.touches.map((touch) => (
            <line
              key={`${touch.part}${touch.t_s}`}
              x1={x(touch.t_s)}
              x2={x(touch.t_s)}
              y1={y(path.depth_m) - 9}
              y2={y(path.depth_m) + 2}
              stroke="var(--caution)"
              strokeWidth={2.5}
            />
          ))}
          {path.swing_from_s !== null && (
            <line
              x1={x(path.swing_from_s)}
              x2={x(path.swing_from_s)}
              y1={y(0)}
              y2={y(path.depth_m)}
              stroke="var(--ink)"
              strokeDasharray="3 5"
            />
          )}
          {path.body_depth_m.slice(0, flies).map((depths, body) => (
            <polyline
              // biome-ignore lint/suspicious/noArrayIndexKey: a fly is known by its place on the rig
              key={body}
              points={trace(depths, path.frame_s)}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={body === 0 ? 2.5 : 1.5}
              strokeDasharray={body === 0 ? undefined : "6 4"}
            />
          ))}
          <line
            x1={x(time)}
            x2={x(time)}
            y1={6}
            y2={HEIGHT - BOTTOM}
            stroke="var(--signal)"
            strokeWidth={2}
          />
        </svg>
      )}
      <p className="px-3 pb-2 text-sm text-soft">
        Depth over time: point fly solid{flies > 1 && ", dropper dashed"}
        {ghosts.length > 0 && ", the other rigs dotted"}; shaded where fish feed
        {path.touches.length > 0 && "; amber: touches of the bed"}.
      </p>
    </div>
  );
}
