import type { Column, DriftPath } from "../../api/client";
import { BodyMark, LineMark, TopMark } from "../../draw/rig";
import { useWidth } from "../../draw/size";
import { Bed, type Frame, LARGER, Ruler, Water, yOf, Zone } from "../../draw/water";
import { useUnits } from "../../units/context";

const AIR_PX = 80;
const BUBBLE_M = 0.6;

interface Props {
  path: DriftPath;
  ghosts: DriftPath[];
  time: number;
  column: Column;
}

/** The rig at one moment, to scale; the picture travels with its top end, so the bed and the bubbles show the drift. */
export function DriftScene({ path, ghosts, time, column }: Props) {
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
  // the picture keeps rod or float and the point fly in sight, whichever runs ahead
  const middle = 0.5 * (here + (path.body_x_m[0]?.[at] ?? here));
  const focus = width * 0.58;
  const x = (metres: number) => focus + (metres - middle) * frame.scale;
  const points = xs.map((m, k): [number, number] => [x(m), yOf(frame, zs[k] ?? 0)]);
  const drifted = time * path.surface_speed_m_s; // of a bubble that the rig landed beside
  const first = Math.floor((middle - width / frame.scale - drifted) / BUBBLE_M);
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
          <Bed frame={frame} roughness={column.bed_ks_m} shift={middle * frame.scale - focus} />
          <Arrows frame={frame} column={column} />
          <Ruler frame={frame} />
          {path.touches
            .filter((touch) => touch.t_s <= time)
            .map((touch) => (
              <path
                key={`${touch.part}${touch.t_s}`}
                d={`M${x(touch.x_m)} ${yOf(frame, 0) - 12}v14m-5 -6l5 6l5 -6`}
                fill="none"
                stroke="var(--caution-ground)"
                strokeWidth={2.5}
              />
            ))}
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
          {ghosts.map((ghost, k) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a ghost is known by its place in the ranking
            <Ghost key={k} ghost={ghost} time={time} frame={frame} x={x} />
          ))}
          <LineMark points={points} sighter={path.sighter_points} active />
          <TopMark frame={frame} x={x(here)} sizeMm={path.top_size_mm} top={path.top} fill="var(--signal)" />
          <Bodies path={path} at={at} points={points} frame={frame} x={x} />
          {/* at the end that the line leaves free while the flies hang behind it, and legible where it does not */}
          <text
            x={10}
            y={20}
            fontSize={14}
            fill="var(--ink)"
            stroke="var(--paper)"
            strokeWidth={4}
            paintOrder="stroke"
          >
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

/** Another rig that landed at the same moment in the same place. */
function Ghost({
  ghost,
  time,
  frame,
  x,
}: {
  ghost: DriftPath;
  time: number;
  frame: Frame;
  x: (metres: number) => number;
}) {
  const at = Math.min(ghost.line_x_m.length - 1, Math.round(time / ghost.frame_s));
  const xs = ghost.line_x_m[at] ?? [];
  const zs = ghost.line_height_m[at] ?? [];
  const points = xs.map((m, k): [number, number] => [x(m), yOf(frame, zs[k] ?? 0)]);
  return (
    <g opacity={0.45}>
      <LineMark points={points} sighter={ghost.sighter_points} active={false} />
      <TopMark
        frame={frame}
        x={x(xs[0] ?? 0)}
        sizeMm={ghost.top_size_mm}
        top={ghost.top}
        fill="var(--soft)"
      />
      <Bodies path={ghost} at={at} points={points} frame={frame} x={x} />
    </g>
  );
}

/** Flies and shot at one moment, each with its tag. */
function Bodies({
  path,
  at,
  points,
  frame,
  x,
}: {
  path: DriftPath;
  at: number;
  points: readonly (readonly [number, number])[];
  frame: Frame;
  x: (metres: number) => number;
}) {
  return path.body_parts.map((part, body) => (
    <BodyMark
      key={part}
      frame={frame}
      x={x(path.body_x_m[body]?.[at] ?? 0)}
      heightM={path.depth_m - (path.body_depth_m[body]?.[at] ?? 0)}
      knot={points[path.body_knots[body] ?? 0]}
      sizeMm={path.body_size_mm[body] ?? 0}
      part={part}
    />
  ));
}

const ARROWS = [2, 6, 10, 14, 18, 22, 26, 30];
const ARROW_FROM = 60;
const ARROW_PX = 54;

/** The current at some heights, the longest arrow the fastest. */
function Arrows({ frame, column }: { frame: Frame; column: Column }) {
  const fastest = Math.max(...column.profile.map((p) => p.speed_m_s));
  return (
    <g stroke="var(--water-4)" fill="var(--water-4)" opacity={0.55}>
      {ARROWS.map((k) => {
        const p = column.profile[k];
        if (!p) return null;
        const y = yOf(frame, p.height_m);
        const end = ARROW_FROM + (ARROW_PX * p.speed_m_s) / fastest;
        return (
          <g key={k}>
            <line x1={ARROW_FROM} x2={end - 5} y1={y} y2={y} strokeWidth={1.5} />
            <path d={`M${end} ${y}l-7 -3v6z`} stroke="none" />
          </g>
        );
      })}
    </g>
  );
}
