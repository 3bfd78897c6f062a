import type { Comparison } from "../../api/client";
import { useWidth } from "../../draw/size";
import { useUnits } from "../../units/context";
import { percent, toShown } from "../../units/units";

const LEFT = 46;
const BOTTOM = 40;
const MAP_PX = 252;

/** Share in the zone over depth (down) and speed (across); where this rig is the better of the two a dot says so. */
export function ZoneMap({ title, map, mine }: { title: string; map: Comparison; mine: "first" | "second" }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show, system } = useUnits();
  const shares = map[mine];
  const others = map[mine === "first" ? "second" : "first"];
  const { depths_m: depths, speeds_m_s: speeds } = map;
  const cell = (width - LEFT) / speeds.length;
  const row = MAP_PX / depths.length; // a device without signal works out fewer squares
  const along = (values: number[], value: number, size: number) => {
    const from = values[0] ?? 0;
    const to = values.at(-1) ?? 1;
    return size * (0.5 + ((value - from) / (to - from)) * (values.length - 1));
  };
  const x = (speed: number) => LEFT + along(speeds, speed, cell);
  const y = (depth: number) => along(depths, depth, row);
  const here = [map.depth_m, map.speed_m_s] as const;
  return (
    <figure ref={ref} className="min-w-0">
      <figcaption className="font-semibold">{title}</figcaption>
      {width > 0 && (
        <svg
          width={width}
          height={MAP_PX + BOTTOM}
          role="img"
          aria-label={`${title}: share in the zone by depth and speed; this lie is ${show(here[0], "m")} at ${show(here[1], "m/s")}`}
        >
          {shares.map((atDepth, d) =>
            atDepth.map((share, s) => (
              <g key={`${depths[d]} ${speeds[s]}`}>
                <title>
                  {show(depths[d] ?? 0, "m")} at {show(speeds[s] ?? 0, "m/s")}:{" "}
                  {share === null ? "no drift settles" : percent(share)}
                </title>
                <rect
                  x={LEFT + s * cell}
                  y={d * row}
                  width={cell + 0.5}
                  height={row + 0.5}
                  fill={share === null ? "var(--line)" : "var(--water-4)"}
                  fillOpacity={share === null ? 1 : 0.06 + 0.94 * share}
                />
                {(share ?? 0) > (others[d]?.[s] ?? 0) + map.margin && (
                  <circle
                    cx={LEFT + (s + 0.5) * cell}
                    cy={(d + 0.5) * row}
                    r={3}
                    fill="var(--paper)"
                    stroke="var(--ink)"
                  />
                )}
              </g>
            )),
          )}
          <ellipse
            cx={x(map.speed_m_s)}
            cy={y(map.depth_m)}
            rx={Math.max(5, (x(map.speed_p90_m_s) - x(map.speed_p10_m_s)) / 2)}
            ry={Math.max(5, (y(map.depth_p90_m) - y(map.depth_p10_m)) / 2)}
            fill="none"
            stroke="var(--signal)"
            strokeWidth={3}
          />
          {depths
            .filter((_, d) => d % Math.ceil(depths.length / 6) === 0)
            .map((depth) => (
              <text
                key={depth}
                x={LEFT - 6}
                y={y(depth) + 4}
                textAnchor="end"
                fontSize={12}
                fill="var(--soft)"
              >
                {toShown(depth, "m", system).toFixed(1)}
              </text>
            ))}
          {speeds
            .filter((_, s) => s % Math.ceil(speeds.length / 4) === 0)
            .map((speed) => (
              <text
                key={speed}
                x={x(speed)}
                y={MAP_PX + 16}
                textAnchor="middle"
                fontSize={12}
                fill="var(--soft)"
              >
                {toShown(speed, "m/s", system).toFixed(1)}
              </text>
            ))}
          <text x={LEFT} y={MAP_PX + 34} fontSize={12} fill="var(--soft)">
            speed across, {show(0, "m/s").split("\u00a0")[1]} · depth down, {show(0, "m").split("\u00a0")[1]}{" "}
            · dots: better here
          </text>
        </svg>
      )}
    </figure>
  );
}
