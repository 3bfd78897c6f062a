import { memo } from "react";
import type { Column, Ranked, RigKind } from "../../api/client";
import { lines } from "../../draw/lines";
import { HangingRig, reach } from "../../draw/rig";
import { useWidth } from "../../draw/size";
import { Bed, type Frame, LARGER, Ruler, Water, Zone } from "../../draw/water";
import { useUnits } from "../../units/context";

const AIR_PX = 64;
const MORE_AIR_PX = 20;
const RULER_PX = 40;
const MARGIN_PX = 34;
const PX_A_LETTER = 7.4;

interface Props {
  column: Column;
  ranked: Ranked[];
  chosen: RigKind;
  /** The chosen rig could not be hung as it is set: its last picture is drawn faintly. */
  stale: boolean;
  onChoose: (rig: RigKind) => void;
}

/** The three rigs hanging in the same water, to one scale: one sees why one wins before reading why. */
export const ThreeRigs = memo(({ column, ranked, chosen, stale, onChoose }: Props) => {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show, say } = useUnits();
  const phone = width < 520;
  const lane = (width - RULER_PX) / ranked.length;
  const deep = column.depth_p90_m * 1.04;
  const tall = phone ? 190 : 300;
  const byDepth = tall / deep;
  // the widest rig sets the scale where it would not fit its lane
  const spans = ranked.flatMap((one) => {
    if (!one.picture) return [];
    const { up, down } = reach(one.picture, AIR_PX / byDepth);
    return [down - up];
  });
  const scale = Math.min(byDepth, (lane - MARGIN_PX) / Math.max(0.1, ...spans));
  // as high as its place, also where its width sets the scale: more is seen of the bed, and above as far as the lanes allow
  const spare = tall - deep * scale;
  const frame: Frame = {
    width,
    surface: AIR_PX + Math.min(MORE_AIR_PX, spare / 2),
    scale,
    height: AIR_PX + tall + 26,
    depth: column.depth_m,
  };
  return (
    <div ref={ref} className="overflow-hidden rounded-2xl">
      {width > 0 && (
        <svg
          width={width}
          height={frame.height}
          role="img"
          aria-label={`The three rigs in ${show(column.depth_m, "m")} of water, to scale`}
        >
          <rect width={width} height={frame.surface} fill="var(--paper)" />
          <Water frame={frame} />
          <Zone frame={frame} low={column.zone_low_m} high={column.zone_high_m} label={!phone} />
          <Bed
            frame={frame}
            roughness={column.bed_ks_m}
            spread={(column.depth_p90_m - column.depth_p10_m) / 2}
          />
          <Ruler frame={frame} />
          {ranked.map((one, k) => {
            const left = RULER_PX + lane * k;
            const on = one.rig === chosen;
            return (
              // biome-ignore lint/a11y/noStaticElementInteractions: the radio group below is the keyboard's twin
              <g key={one.rig} onClick={() => onChoose(one.rig)} className="cursor-pointer">
                <rect x={left} y={0} width={lane} height={frame.height} fill="transparent" />
                {k > 0 && (
                  <line
                    x1={left}
                    x2={left}
                    y1={8}
                    y2={frame.surface + frame.depth * frame.scale}
                    stroke="var(--ink)"
                    strokeWidth={1}
                    opacity={0.12}
                  />
                )}
                {one.picture ? (
                  <HangingRig
                    frame={frame}
                    picture={one.picture}
                    left={left}
                    right={left + lane}
                    active={on}
                    faint={on && stale}
                  />
                ) : (
                  <text y={frame.surface + 34} textAnchor="middle" fontSize={14} fill="var(--ink)">
                    {["Not here:", ...lines(say(one.reasons[0]?.text ?? ""), (lane - 12) / PX_A_LETTER)].map(
                      (words, row) => (
                        <tspan key={words} x={left + lane / 2} dy={row === 0 ? 0 : 17}>
                          {words}
                        </tspan>
                      ),
                    )}
                  </text>
                )}
                <text
                  x={left + 8}
                  y={19}
                  fontSize={14}
                  fontWeight={on ? 700 : 400}
                  fill="var(--ink)"
                  stroke="var(--paper)"
                  strokeWidth={4}
                  paintOrder="stroke"
                >
                  {one.name}
                </text>
              </g>
            );
          })}
          <text x={width - 8} y={frame.height - 8} textAnchor="end" fontSize={12} fill="var(--paper)">
            to scale; flies and floats drawn {LARGER} × larger{phone ? "" : " · current →"}
          </text>
        </svg>
      )}
    </div>
  );
});
