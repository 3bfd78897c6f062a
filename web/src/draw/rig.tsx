/** A rig hanging in the water, to scale; only flies and floats are drawn larger than life, all by the same factor. */
import type { Ranked } from "../api/client";
import { type Frame, LARGER, yOf } from "./water";

type Picture = NonNullable<Ranked["picture"]>;

interface Props {
  frame: Frame;
  picture: Picture;
  /** Pixel column of the top end. */
  x: number;
  active: boolean;
  ghost?: boolean;
}

const bead = (frame: Frame, mm: number): number => Math.max(3.5, (mm / 2000) * LARGER * frame.scale);

export function HangingRig({ frame, picture, x, active, ghost = false }: Props) {
  // the drawing's bed is at the believed depth; a rig's own column may be another's in a comparison
  const points = picture.line.map(
    (p) => `${(x + p.x_m * frame.scale).toFixed(1)},${yOf(frame, p.height_m).toFixed(1)}`,
  );
  const float = Math.max(5, (picture.top_size_mm / 2000) * LARGER * frame.scale * 0.6);
  const mark = active ? "var(--signal)" : "var(--soft)";
  const inAir = picture.line.filter((p) => p.height_m > picture.depth_m);
  return (
    <g opacity={ghost ? 0.45 : 1}>
      <polyline
        points={points.join(" ")}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={active ? 1.6 : 1.1}
        strokeLinejoin="round"
      />
      {picture.top === "tip" && inAir.length > 1 && (
        <polyline
          points={inAir
            .slice(-Math.max(2, Math.ceil(inAir.length * 0.5)))
            .map((p) => `${x + p.x_m * frame.scale},${yOf(frame, p.height_m)}`)
            .join(" ")}
          fill="none"
          stroke={mark}
          strokeWidth={4}
        />
      )}
      {picture.top === "float" && (
        <>
          <circle
            cx={x}
            cy={frame.surface}
            r={float}
            fill="var(--paper)"
            stroke="var(--ink)"
            strokeWidth={1}
          />
          <path
            d={`M${x - float} ${frame.surface}a${float} ${float} 0 0 1 ${2 * float} 0z`}
            fill={mark}
            stroke="var(--ink)"
            strokeWidth={1}
          />
        </>
      )}
      {picture.top === "dry" && (
        <g transform={`translate(${x} ${frame.surface})`}>
          <path
            d={`M${-float * 1.5} 1q${float * 1.5} ${float * 1.1} ${float * 3} 0q${-float * 1.5} ${-float * 0.9} ${-float * 3} 0z`}
            fill={mark}
            stroke="var(--ink)"
            strokeWidth={1}
          />
          <path
            d={`M${-float * 0.3} ${-float * 0.3}q${float * 0.9} ${-float * 1.6} ${float * 1.9} ${-float * 1.2}`}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.4}
          />
        </g>
      )}
      {picture.bodies.map((body) => {
        const cx = x + body.x_m * frame.scale;
        const r = bead(frame, body.size_mm);
        const cy = Math.min(yOf(frame, body.height_m), frame.surface + frame.depth * frame.scale - r * 0.6);
        if (body.part === "shot")
          return <circle key="shot" cx={cx} cy={cy} r={r * 0.7} fill="var(--soft)" stroke="var(--ink)" />;
        return (
          <g key={body.part}>
            <path
              d={`M${cx} ${cy}q${r * 2} ${-r * 0.3} ${r * 3.1} ${r * 0.9}q${-r * 1.6} ${r * 0.9} ${-r * 3.1} ${-r * 0.3}z`}
              fill="var(--bed-dark)"
              stroke="var(--ink)"
              strokeWidth={0.8}
            />
            <circle cx={cx} cy={cy} r={r} fill="var(--ink)" />
            <circle cx={cx - r * 0.3} cy={cy - r * 0.3} r={r * 0.3} fill="var(--paper)" />
          </g>
        );
      })}
    </g>
  );
}
