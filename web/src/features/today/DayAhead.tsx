import type { Today } from "../../api/client";
import { useWidth } from "../../draw/size";
import { useUnits } from "../../units/context";

const HEIGHT = 150;
const TOP = 46;
const BOTTOM = 24;
const LABEL_PX = 56;

/** The hours to come: what each is worth as a bar, the water's temperature above it, the dark shaded, thunder marked. */
export function DayAhead({ today }: { today: Today }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show, clock: hour } = useUnits();
  const { ahead, best } = today;
  const first = ahead[0];
  const last = ahead.at(-1);
  if (!first || !last) return null;
  const slot = width / ahead.length;
  const every = [1, 2, 3, 4, 6].find((hours) => hours * slot >= LABEL_PX) ?? 8;
  const waters = ahead.map((one) => one.water_c);
  const [low, high] = [Math.min(...waters), Math.max(...waters)];
  const y = (water: number) => TOP - 8 - (16 * (water - low)) / Math.max(0.5, high - low);
  const floor = HEIGHT - BOTTOM;
  return (
    <figure className="mt-3">
      <figcaption>
        {best ? (
          <>
            <b className="text-lg">
              Best from {hour(best.starts)} to {hour(best.ends)}
            </b>
            : <Reason text={best.reason} />.
          </>
        ) : (
          <b>No hour of the next day is worth it: too dark, too warm or thunder.</b>
        )}
      </figcaption>
      <div ref={ref} className="mt-1 min-h-[150px] rounded-2xl bg-paper">
        {width > 0 && (
          <svg
            width={width}
            height={HEIGHT}
            role="img"
            aria-label={`The next ${ahead.length} hours: water from ${show(low, "°C")} to ${show(high, "°C")}${best ? `, best from ${hour(best.starts)} to ${hour(best.ends)}` : ""}`}
          >
            {ahead.map((one, k) => (
              <g key={one.at}>
                {one.phase === "night" && (
                  <rect
                    x={k * slot}
                    y={0}
                    width={slot + 0.5}
                    height={floor}
                    fill="var(--line)"
                    opacity={0.7}
                  />
                )}
                <rect
                  x={k * slot + 1.5}
                  y={floor - (floor - TOP) * one.keen}
                  width={Math.max(1, slot - 3)}
                  height={(floor - TOP) * one.keen}
                  rx={2}
                  fill={one.best ? "var(--mark)" : "var(--water-2)"}
                />
                {one.storm && (
                  <path
                    d={`M${k * slot + slot / 2 + 3} ${TOP + 4}l-6 10h5l-4 10`}
                    fill="none"
                    stroke="var(--caution)"
                    strokeWidth={2.5}
                  />
                )}
                {k % every === 0 && (
                  <text
                    x={k === 0 ? 4 : k * slot + slot / 2}
                    y={HEIGHT - 7}
                    textAnchor={k === 0 ? "start" : "middle"}
                    fontSize={12}
                    fill="var(--soft)"
                  >
                    {k === 0 ? "now" : hour(one.at)}
                  </text>
                )}
              </g>
            ))}
            <polyline
              points={ahead.map((one, k) => `${k * slot + slot / 2},${y(one.water_c)}`).join(" ")}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={1.5}
            />
            <text x={4} y={12} fontSize={12} fill="var(--soft)">
              water {show(first.water_c, "°C")} now, {show(low, "°C")} to {show(high, "°C")}
            </text>
          </svg>
        )}
      </div>
      <p className="text-sm text-soft">
        Bars: how keenly trout feed, by the water's temperature (carried from the last days) and the light.
      </p>
    </figure>
  );
}

function Reason({ text }: { text: string }) {
  return <>{useUnits().say(text)}</>;
}
