import type { DriftPath, RigKind } from "../../api/client";
import { useWidth } from "../../draw/size";
import { Bed, type Frame, LARGER, Ruler, Water, yOf, Zone } from "../../draw/water";
import { useUnits } from "../../units/context";

const AIR_PX = 56;
const BUBBLE_M = 0.6;

interface Props {
  path: DriftPath;
  top: RigKind;
  time: number;
  roughness: number;
}

/** The rig at one moment, to scale; the picture travels with its top end, so the bed and the bubbles show the drift. */
export function DriftScene({ path, top, time, roughness }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show } = useUnits();
  const phone = width < 520;
  const water = phone ? 210 : 320;
  const frame: Frame = {
    width,
    surface: AIR_PX,
    scale: water / path.depth_m,
    height: AIR_PX + water + 30,
    depth: path.depth_m,
  };
  const at = Math.min(path.line_x_m.length - 1, Math.round(time / path.frame_s));
  const xs = path.line_x_m[at] ?? [];
  const zs = path.line_height_m[at] ?? [];
  const here = xs[0] ?? 0;
  const focus = width * 0.72;
  const x = (metres: number) => focus + (metres - here) * frame.scale;
  const points = xs.map((m, k) => `${x(m).toFixed(1)},${yOf(frame, zs[k] ?? 0).toFixed(1)}`);
  const drifted = time * path.surface_speed_m_s; // of a bubble that the rig landed beside
  const first = Math.floor((here - width / frame.scale - drifted) / BUBBLE_M);
  const bubbles = Array.from(
    { length: Math.ceil((1.6 * width) / frame.scale / BUBBLE_M) + 2 },
    (_, k) => (first + k) * BUBBLE_M + drifted,
  );
  const touched = path.touch_s.some((s) => s !== null && s <= time);
  return (
    <div ref={ref} className="mt-2 overflow-hidden rounded-2xl">
      {width > 0 && (
        <svg
          width={width}
          height={frame.height}
          role="img"
          aria-label={`The rig ${show(time, "s")} after landing, to scale`}
        >
          <rect width={width} height={frame.surface} fill="var(--paper)" />
          <Water frame={frame} />
          <Zone frame={frame} low={path.zone_low_m} high={path.zone_high_m} label={!phone} />
          <Bed frame={frame} roughness={roughness} shift={here * frame.scale} />
          <Ruler frame={frame} />
          {bubbles.map((m) => (
            <circle
              key={m - drifted}
              cx={x(m)}
              cy={frame.surface}
              r={m === drifted ? 6 : 3.5}
              fill="var(--paper)"
              stroke="var(--water-4)"
              strokeWidth={m === drifted ? 2 : 1}
            />
          ))}
          <polyline
            points={points.join(" ")}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.6}
            strokeLinejoin="round"
          />
          {top !== "euro" && (
            <circle cx={x(here)} cy={frame.surface} r={9} fill="var(--signal)" stroke="var(--ink)" />
          )}
          {top === "euro" && (
            <polyline
              points={points.filter((_, k) => (zs[k] ?? 0) > path.depth_m + 0.1).join(" ")}
              fill="none"
              stroke="var(--signal)"
              strokeWidth={4}
            />
          )}
          {path.body_nodes.map((node) => {
            const cy = Math.min(yOf(frame, zs[node] ?? 0), frame.surface + water - 4);
            return (
              <circle
                key={node}
                cx={x(xs[node] ?? 0)}
                cy={cy}
                r={Math.max(4, 0.0015 * LARGER * frame.scale)}
                fill="var(--ink)"
                stroke="var(--paper)"
                strokeWidth={1}
              />
            );
          })}
          <text x={width - 8} y={20} textAnchor="end" fontSize={14} fill="var(--ink)">
            {show(here, "m", 1)} downstream{touched ? " · touching the bed" : ""}
          </text>
          <text x={width - 8} y={frame.height - 9} textAnchor="end" fontSize={12} fill="var(--paper)">
            to scale; flies {LARGER} × larger; ringed bubble landed with the{" "}
            {top === "euro" ? "line" : "float"}
          </text>
        </svg>
      )}
    </div>
  );
}
