import type { Column, Ranked, RigKind } from "../../api/client";
import { HangingRig } from "../../draw/rig";
import { useWidth } from "../../draw/size";
import { Bed, type Frame, LARGER, Ruler, Water, Zone } from "../../draw/water";

const AIR_PX = 58;

interface Props {
  column: Column;
  ranked: Ranked[];
  chosen: RigKind;
  onChoose: (rig: RigKind) => void;
}

/** The three rigs hanging in the same water, to one scale: one sees why one wins before reading why. */
export function ThreeRigs({ column, ranked, chosen, onChoose }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const phone = width < 520;
  const water = phone ? 220 : 340;
  const frame: Frame = {
    width,
    surface: AIR_PX,
    scale: water / (column.depth_p90_m * 1.04),
    height: AIR_PX + water + 26,
    depth: column.depth_m,
  };
  const lane = (width - 40) / 3;
  return (
    <div ref={ref} className="mt-2 overflow-hidden rounded-2xl">
      {width > 0 && (
        <svg
          width={width}
          height={frame.height}
          role="img"
          aria-label={`The three rigs in ${column.depth_m.toFixed(2)} m of water, to scale`}
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
            const x = 40 + lane * (k + 0.66);
            const on = one.rig === chosen;
            return (
              // biome-ignore lint/a11y/noStaticElementInteractions: the radio group below is the keyboard's twin
              <g key={one.rig} onClick={() => onChoose(one.rig)} className="cursor-pointer">
                <rect x={40 + lane * k} y={0} width={lane} height={frame.height} fill="transparent" />
                {one.picture ? (
                  <HangingRig frame={frame} picture={one.picture} x={x} active={on} />
                ) : (
                  <text
                    x={x - lane * 0.16}
                    y={frame.surface + 34}
                    textAnchor="middle"
                    fontSize={14}
                    fill="var(--ink)"
                  >
                    not here
                  </text>
                )}
                <text
                  x={40 + lane * k + 6}
                  y={19}
                  fontSize={14}
                  fontWeight={on ? 700 : 400}
                  fill="var(--ink)"
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
}
