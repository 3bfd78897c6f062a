/** Parts of the water column, drawn to scale: water, ruler, zone, bed. They take plain numbers in metres. */
import { useId } from "react";
import { useUnits } from "../units/context";
import { fromShown, scaleOf, toShown } from "../units/units";
import { rulerStep } from "./size";

export interface Frame {
  /** Pixels a metre, the same across and down. */
  scale: number;
  width: number;
  /** Pixel height of the surface line and of the whole picture. */
  surface: number;
  height: number;
  depth: number;
}

export const yOf = (frame: Frame, height: number): number =>
  frame.surface + (frame.depth - height) * frame.scale;

/** Water darkening with depth. */
export function Water({ frame, x = 0 }: { frame: Frame; x?: number }) {
  const id = useId();
  return (
    <>
      <defs>
        <linearGradient id={id} x1="0" y1="0" x2="0" y2="1">
          <stop offset="0" stopColor="var(--water-0)" />
          <stop offset="0.45" stopColor="var(--water-1)" />
          <stop offset="1" stopColor="var(--water-2)" />
        </linearGradient>
      </defs>
      <rect
        x={x}
        y={frame.surface}
        width={frame.width - x}
        height={frame.height - frame.surface}
        fill={`url(#${id})`}
      />
      <line
        x1={x}
        x2={frame.width}
        y1={frame.surface}
        y2={frame.surface}
        stroke="var(--water-3)"
        strokeWidth={2}
      />
    </>
  );
}

/** Depth ruler at the left edge, in the angler's units. */
export function Ruler({ frame }: { frame: Frame }) {
  const { system } = useUnits();
  const unit = scaleOf("m", system);
  const step = rulerStep(frame.scale, 34, fromShown(1, "m", system));
  const marks = Array.from({ length: Math.floor(frame.depth / step + 1e-6) + 1 }, (_, k) => k * step);
  return (
    <g fontSize={13} fill="var(--ink)">
      {marks.map((depth) => {
        const y = frame.surface + depth * frame.scale;
        return (
          <g key={depth}>
            <line x1={0} x2={8} y1={y} y2={y} stroke="var(--ink)" strokeWidth={1.5} />
            <text
              x={12}
              y={depth === 0 ? y - 4 : y + 4.5}
              stroke="var(--water-0)"
              strokeWidth={3}
              paintOrder="stroke"
            >
              {depth === 0
                ? `0 ${unit.label}`
                : toShown(depth, "m", system).toFixed(
                    unit.places === 2 ? (step < 0.1 ? 2 : 1) : step < 0.3 ? 1 : 0,
                  )}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** The strike zone as a band. */
export function Zone({
  frame,
  low,
  high,
  x = 0,
  label = true,
}: {
  frame: Frame;
  low: number;
  high: number;
  x?: number;
  label?: boolean;
}) {
  const top = yOf(frame, high);
  const bottom = yOf(frame, low);
  return (
    <g>
      <rect
        x={x}
        y={top}
        width={frame.width - x}
        height={Math.max(2, bottom - top)}
        fill="var(--zone)"
        opacity={0.5}
      />
      <line
        x1={x}
        x2={frame.width}
        y1={top}
        y2={top}
        stroke="var(--ink)"
        strokeWidth={1}
        strokeDasharray="2 5"
        opacity={0.6}
      />
      {label && (
        <text
          x={frame.width - 8}
          y={top - 5}
          textAnchor="end"
          fontSize={13}
          fill="var(--ink)"
          stroke="var(--water-1)"
          strokeWidth={3}
          paintOrder="stroke"
        >
          where they feed
        </text>
      )}
    </g>
  );
}

/** Stones of a bed, sized by its roughness, with the spread of its depth as a blur rather than an edge. */
export function Bed({
  frame,
  roughness,
  spread = 0,
  shift = 0,
}: {
  frame: Frame;
  roughness: number;
  spread?: number;
  shift?: number;
}) {
  const id = useId();
  const y = frame.surface + frame.depth * frame.scale;
  const stone = Math.min(46, Math.max(5, (roughness / 3.5) * frame.scale * 1.6));
  const blur = spread * frame.scale;
  const from = Math.floor(shift / stone) - 1;
  const count = Math.ceil(frame.width / stone) + 3;
  const stones = Array.from({ length: count }, (_, k) => {
    const n = from + k;
    const wobble = Math.abs(Math.sin(n * 12.9898) * 43758.5453) % 1; // the same stone every time
    return {
      key: n,
      x: (n + 0.5) * stone - shift,
      r: stone * (0.42 + 0.2 * wobble),
      dip: stone * 0.3 * wobble,
    };
  });
  return (
    <g>
      <defs>
        <linearGradient id={id} x1="0" y1="0" x2="0" y2="1">
          <stop offset="0" stopColor="var(--bed)" stopOpacity={0} />
          <stop offset="0.5" stopColor="var(--bed)" stopOpacity={0.45} />
          <stop offset="1" stopColor="var(--bed)" stopOpacity={1} />
        </linearGradient>
      </defs>
      {blur > 1 && <rect x={0} y={y - blur} width={frame.width} height={2 * blur} fill={`url(#${id})`} />}
      <rect
        x={0}
        y={y + blur}
        width={frame.width}
        height={Math.max(0, frame.height - y - blur)}
        fill="var(--bed)"
      />
      {blur <= 1 && <rect x={0} y={y} width={frame.width} height={frame.height - y} fill="var(--bed)" />}
      {stones.map((s) => (
        <ellipse
          key={s.key}
          cx={s.x}
          cy={y + s.r * 0.75 + s.dip}
          rx={s.r}
          ry={s.r * 0.75}
          fill="var(--bed-dark)"
          opacity={blur > 1 ? 0.35 : 0.75}
        />
      ))}
    </g>
  );
}

/** How much larger than life flies and floats are drawn: a 3 mm bead at scale would be a single dot. */
export const LARGER = 8;
