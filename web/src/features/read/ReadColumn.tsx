import type { Column } from "../../api/client";
import { useWidth } from "../../draw/size";
import { Bed, type Frame, Ruler, Water, yOf, Zone } from "../../draw/water";
import { useUnits } from "../../units/context";

const AIR_PX = 34;
const WATER_PX = 330;
const ARROWS = [0, 6, 11, 15, 19, 23, 27, 30, 32];

/** The column of a lie: depth with its spread, the speed at each height, bed and strike zone. */
export function ReadColumn({ column }: { column: Column }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show } = useUnits();
  const phone = width < 520;
  const water = phone ? 210 : WATER_PX;
  const room = column.depth_p90_m * 1.08;
  const frame: Frame = {
    width,
    surface: AIR_PX,
    scale: water / room,
    height: AIR_PX + water + 30,
    depth: column.depth_m,
  };
  const fastest = Math.max(...column.profile.map((p) => p.speed_m_s));
  const x0 = phone ? 66 : 90;
  const reach = Math.max(0, width - x0 - (phone ? 92 : 110));
  const x = (speed: number) => x0 + (speed / fastest) * reach;
  const curve = column.profile
    .map((p) => `${x(p.speed_m_s).toFixed(1)},${yOf(frame, p.height_m).toFixed(1)}`)
    .join(" ");
  const spread = (column.depth_p90_m - column.depth_p10_m) / 2;
  return (
    <div ref={ref} className="mt-2 overflow-hidden rounded-2xl">
      {width > 0 && (
        <svg
          width={width}
          height={frame.height}
          role="img"
          aria-label={`Water column ${show(column.depth_m, "m")} deep, probably ${show(column.depth_p10_m, "m")} to ${show(column.depth_p90_m, "m")}; surface ${show(fastest, "m/s")}; fish feed from the bed up to ${show(column.zone_high_m, "m")}`}
        >
          <rect width={width} height={frame.surface} fill="var(--paper)" />
          <Water frame={frame} />
          <Zone frame={frame} low={column.zone_low_m} high={column.zone_high_m} />
          <polygon
            points={`${x0},${frame.surface} ${curve.split(" ").reverse().join(" ")} ${x0},${yOf(frame, 0)}`}
            fill="var(--water-3)"
            opacity={0.16}
          />
          <polyline points={curve} fill="none" stroke="var(--water-4)" strokeWidth={2} />
          {ARROWS.map((k) => {
            const p = column.profile[k];
            if (!p || p.speed_m_s < 0.03 * fastest) return null;
            const y = yOf(frame, p.height_m) + (k === 32 ? 1 : 0);
            const end = x(p.speed_m_s);
            return (
              <g key={k} stroke="var(--water-4)" strokeWidth={1.5} fill="var(--water-4)">
                <line x1={x0} x2={end - 6} y1={y} y2={y} />
                <path d={`M${end} ${y}l-8 -3.5v7z`} stroke="none" />
              </g>
            );
          })}
          <text
            x={Math.min(x(fastest) + 8, width - 80)}
            y={frame.surface + 18}
            fontSize={14}
            fontWeight={600}
            fill="var(--ink)"
          >
            {show(fastest, "m/s")}
          </text>
          <Bed frame={frame} roughness={column.bed_ks_m} spread={spread} />
          <Ruler frame={frame} />
          {spread > 0.02 && (
            <text x={width - 8} y={frame.height - 9} textAnchor="end" fontSize={13} fill="var(--paper)">
              bed between {show(column.depth_p10_m, "m")} and {show(column.depth_p90_m, "m")}, 8 times in 10
            </text>
          )}
          <text x={x0} y={20} fontSize={13} fill="var(--soft)">
            current →
          </text>
        </svg>
      )}
    </div>
  );
}
