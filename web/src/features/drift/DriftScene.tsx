import type { DriftPath } from "../../api/client";
import { BodyMark, LineMark, TopMark } from "../../draw/rig";
import { useWidth } from "../../draw/size";
import { Bed, type Frame, LARGER, Ruler, Water, yOf, Zone } from "../../draw/water";
import { useUnits } from "../../units/context";

const AIR_PX = 80;
const BUBBLE_M = 0.6;

interface Props {
  path: DriftPath;
  time: number;
  roughness: number;
}

/** The rig at one moment, to scale; the picture travels with its top end, so the bed and the bubbles show the drift. */
export function DriftScene({ path, time, roughness }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show } = useUnits();
  const phone = width < 520;
  const water = phone ? 210 : 240;
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
          <LineMark points={points} sighter={path.sighter_points} active />
          <TopMark frame={frame} x={x(here)} sizeMm={path.top_size_mm} top={path.top} fill="var(--signal)" />
          {path.body_nodes.map((node, body) => (
            <BodyMark
              key={node}
              frame={frame}
              x={x(xs[node] ?? 0)}
              heightM={zs[node] ?? 0}
              sizeMm={path.body_size_mm[body] ?? 0}
              part={path.body_parts[body] ?? "point"}
            />
          ))}
          <text x={width - 8} y={20} textAnchor="end" fontSize={14} fill="var(--ink)">
            {show(here, "m", 1)} downstream{touched ? " · touching the bed" : ""}
          </text>
          <text x={width - 8} y={frame.height - 9} textAnchor="end" fontSize={12} fill="var(--paper)">
            to scale; flies {LARGER} × larger; ringed bubble landed with the{" "}
            {path.top === "tip" ? "line" : path.top}
          </text>
        </svg>
      )}
    </div>
  );
}
