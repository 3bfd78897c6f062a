/** A rig in the water, to scale; only flies and floats are drawn larger than life, all by the same factor. */
import type { Ranked } from "../api/client";
import { type Frame, LARGER, yOf } from "./water";

export type Picture = NonNullable<Ranked["picture"]>;
export type TopKind = Picture["top"];
export type Part = Picture["bodies"][number]["part"];

const enlarged = (frame: Frame, mm: number): number => (mm / 2000) * LARGER * frame.scale;

/** Metres of air that a frame shows above the water. */
const air = (frame: Frame): number => frame.surface / frame.scale;

/** How far a settled rig reaches up- and downstream of its top end, in metres, as far as it is in the picture. */
export function reach(picture: Picture, airM: number): { up: number; down: number } {
  const seen = picture.line.filter((p) => p.height_m <= picture.depth_m + airM).map((p) => p.x_m);
  return { up: Math.min(0, ...seen), down: Math.max(...seen) };
}

interface FlyProps {
  frame: Frame;
  x: number;
  heightM: number;
  /** Where on the line the fly, or its tag, is tied in, in pixels. */
  knot: readonly [number, number] | undefined;
  sizeMm: number;
  part: Part;
}

/** A fly with its bead towards the current, on its tag if it has one; or a shot. */
export function BodyMark({ frame, x, heightM, knot, sizeMm, part }: FlyProps) {
  const r = Math.max(3.5, enlarged(frame, sizeMm));
  const y = Math.min(yOf(frame, heightM), frame.surface + frame.depth * frame.scale - r * 0.6);
  if (part === "shot") return <circle cx={x} cy={y} r={r * 0.7} fill="var(--soft)" stroke="var(--ink)" />;
  return (
    <g>
      {knot && <line x1={knot[0]} y1={knot[1]} x2={x} y2={y} stroke="var(--ink)" strokeWidth={1.1} />}
      <path
        d={`M${x} ${y}q${r * 2} ${-r * 0.3} ${r * 3.1} ${r * 0.9}q${-r * 1.6} ${r * 0.9} ${-r * 3.1} ${-r * 0.3}z`}
        fill="var(--bed-dark)"
        stroke="var(--ink)"
        strokeWidth={0.8}
      />
      <circle cx={x} cy={y} r={r} fill="var(--ink)" />
      <circle cx={x - r * 0.3} cy={y - r * 0.3} r={r * 0.3} fill="var(--paper)" />
    </g>
  );
}

/** The float or dry that is watched; a rod tip has none. */
export function TopMark({
  frame,
  x,
  sizeMm,
  top,
  fill,
}: {
  frame: Frame;
  x: number;
  sizeMm: number;
  top: TopKind;
  fill: string;
}) {
  if (top === "tip") return null;
  const r = Math.max(5, enlarged(frame, sizeMm) * (top === "dry" ? 0.6 : 1));
  const y = frame.surface;
  if (top === "float")
    return (
      <g stroke="var(--ink)" strokeWidth={1}>
        <circle cx={x} cy={y} r={r} fill="var(--paper)" />
        <path d={`M${x - r} ${y}a${r} ${r} 0 0 1 ${2 * r} 0z`} fill={fill} />
      </g>
    );
  return (
    <g transform={`translate(${x} ${y})`} stroke="var(--ink)">
      <path
        d={`M${-r * 1.5} 1q${r * 1.5} ${r * 1.1} ${r * 3} 0q${-r * 1.5} ${-r * 0.9} ${-r * 3} 0z`}
        fill={fill}
      />
      <path
        d={`M${-r * 0.3} ${-r * 0.3}q${r * 0.9} ${-r * 1.6} ${r * 1.9} ${-r * 1.2}`}
        fill="none"
        strokeWidth={1.4}
      />
    </g>
  );
}

type Point = readonly [number, number];

/** A line through its nodes, as bent as they say: at each it runs as from the one before to the one after (Catmull and Rom's spline). */
function through(points: readonly Point[]): string {
  const at = ([x, y]: Point): string => `${x.toFixed(1)} ${y.toFixed(1)}`;
  const bent = points.slice(1).map((to, k): string => {
    const from = points[k] ?? to;
    const [before, after] = [points[k - 1] ?? from, points[k + 2] ?? to];
    const leaving: Point = [from[0] + (to[0] - before[0]) / 6, from[1] + (to[1] - before[1]) / 6];
    const coming: Point = [to[0] - (after[0] - from[0]) / 6, to[1] - (after[1] - from[1]) / 6];
    return `C${at(leaving)} ${at(coming)} ${at(to)}`;
  });
  return points[0] ? `M${at(points[0])}${bent.join("")}` : "";
}

/** Line from the top end down, its first points the sighter. */
export function LineMark({
  points,
  sighter,
  active,
}: {
  points: readonly (readonly [number, number])[];
  sighter: number;
  active: boolean;
}) {
  return (
    <g fill="none" strokeLinejoin="round">
      <path d={through(points)} stroke="var(--ink)" strokeWidth={active ? 1.6 : 1.1} />
      {sighter > 1 && (
        <path
          d={through(points.slice(0, sighter))}
          stroke={active ? "var(--signal)" : "var(--soft)"}
          strokeWidth={4}
        />
      )}
    </g>
  );
}

interface Props {
  frame: Frame;
  picture: Picture;
  /** Pixel columns between which the rig is centred. */
  left: number;
  right: number;
  active: boolean;
  faint?: boolean;
}

export function HangingRig({ frame, picture, left, right, active, faint = false }: Props) {
  const { up, down } = reach(picture, air(frame));
  const x = (left + right - (up + down) * frame.scale) / 2;
  const points = picture.line.map((p): [number, number] => [x + p.x_m * frame.scale, yOf(frame, p.height_m)]);
  return (
    <g opacity={faint ? 0.4 : 1}>
      <LineMark points={points} sighter={picture.sighter_points} active={active} />
      <TopMark
        frame={frame}
        x={x}
        sizeMm={picture.top_size_mm}
        top={picture.top}
        fill={active ? "var(--signal)" : "var(--soft)"}
      />
      {picture.bodies.map((body) => (
        <BodyMark
          key={body.part}
          frame={frame}
          x={x + body.x_m * frame.scale}
          heightM={body.height_m}
          knot={points[body.knot]}
          sizeMm={body.size_mm}
          part={body.part}
        />
      ))}
    </g>
  );
}
