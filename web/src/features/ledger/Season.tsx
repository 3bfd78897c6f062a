import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import type { components } from "../../api/generated";
import { useWidth } from "../../draw/size";
import { useSeason } from "../../queries/log";
import { Button } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { day, several } from "./OutingLine";

type Year = components["schemas"]["SeasonOut"];

const HIGH = 190;
const LEFT = 40;
const RIGHT = 10;
const MARKS = 34;
const FOOT = 22;
const NARROW_PX = 34;

const monthNames = Array.from({ length: 12 }, (_, k) =>
  new Date(2026, k, 15).toLocaleDateString(undefined, { month: "short" }),
);

/** A year: the flow of the river, and every outing on its day. A mark leads to its outing. */
export function Season() {
  const [year, setYear] = useState(() => new Date().getFullYear());
  const season = useSeason(year);
  const found = season.data;
  const at = found?.years.indexOf(year) ?? -1;
  const other = (k: number) => found?.years[k];
  // what is in it comes later and takes no room that is not here already: the list below is tapped meanwhile
  return (
    <figure className="mb-2 rounded-2xl bg-paper p-2">
      <div className="grid min-h-14 grid-cols-[auto_1fr_auto] items-center gap-2">
        <Button
          aria-label="the year before"
          disabled={other(at + 1) === undefined}
          onClick={() => setYear(other(at + 1) ?? year)}
        >
          {year - 1}
        </Button>
        <figcaption className="truncate text-center">
          <span className="block font-semibold">{year}</span>
          <span className="block truncate text-soft">
            {found
              ? `${several(found.outings.length, "outing", "outings")}, ${found.outings.reduce((n, one) => n + one.fish, 0)} fish`
              : "\u00a0"}
          </span>
        </figcaption>
        <Button aria-label="the year after" disabled={at <= 0} onClick={() => setYear(other(at - 1) ?? year)}>
          {year + 1}
        </Button>
      </div>
      <div style={{ height: HIGH }}>{found && <YearPicture year={found} />}</div>
      <p className="px-1 text-sm text-soft">
        Each outing on the flow of its day, the larger the more fish; a white one without.
      </p>
    </figure>
  );
}

function YearPicture({ year: found }: { year: Year }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show } = useUnits();
  const navigate = useNavigate();
  const from = Date.UTC(found.year, 0, 1);
  const to = Date.UTC(found.year + 1, 0, 1);
  const x = (t: number) => LEFT + ((t - from) / (to - from)) * (width - LEFT - RIGHT);
  const flows = found.rivers.flatMap((one) => one.days.map((each) => each.flow_m3_s));
  const most = 1.05 * Math.max(0.1, ...flows);
  const y = (flow: number) => HIGH - FOOT - Math.sqrt(flow / most) * (HIGH - FOOT - MARKS);
  const fish = (n: number) => 3 + 1.8 * Math.sqrt(n);
  const river = found.rivers[0];
  const known = new Map(
    found.rivers.flatMap((one) => one.days.map((each) => [each.at.slice(0, 10), each.flow_m3_s])),
  );
  // on the flow of its day, where that is known
  const height = (at: string) => {
    const flow = known.get(new Date(at).toISOString().slice(0, 10));
    return flow === undefined ? MARKS - 14 : y(flow);
  };
  const said = `${found.outings.length} outings of ${found.year}${river ? ` beside the flow of the ${found.rivers.map((one) => one.river).join(", ")}` : ""}: ${found.outings.map((one) => `${day(one.at)}, ${one.fish} fish`).join("; ")}`;
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg width={width} height={HIGH} role="img" aria-label={said}>
          {monthNames.map((name, k) => {
            const t = Date.UTC(found.year, k, 1);
            return (
              <g key={name}>
                <line
                  x1={x(t)}
                  x2={x(t)}
                  y1={MARKS}
                  y2={HIGH - FOOT}
                  stroke="var(--line)"
                  strokeWidth={0.5}
                />
                <text x={x(t) + 2} y={HIGH - 6} fontSize={12} fill="var(--soft)">
                  {width / 12 < NARROW_PX ? name.slice(0, 1) : name}
                </text>
              </g>
            );
          })}
          {flows.length > 0 &&
            [most / 4, most].map((flow) => (
              <text key={flow} x={LEFT - 4} y={y(flow) + 4} textAnchor="end" fontSize={12} fill="var(--soft)">
                {show(flow, "m³/s", flow < 10 ? 1 : 0).replace(/\s.*$/, "")}
              </text>
            ))}
          {found.rivers.map((one) => (
            <polyline
              key={one.river}
              points={one.days
                .map((each) => `${x(Date.parse(each.at)).toFixed(1)},${y(each.flow_m3_s).toFixed(1)}`)
                .join(" ")}
              fill="none"
              stroke="var(--mark)"
              strokeWidth={1.5}
              strokeLinejoin="round"
            />
          ))}
          {found.outings.map((one) => (
            // biome-ignore lint/a11y/noStaticElementInteractions: the list below leads to the same outings by keys
            <g
              key={one.id}
              onClick={() => navigate({ to: "/ledger/$outingId", params: { outingId: one.id } })}
            >
              <title>{`${day(one.at)}: ${one.fish} fish in ${one.drifts} drifts`}</title>
              <circle
                cx={x(Date.parse(one.at))}
                cy={height(one.at)}
                r={one.fish > 0 ? fish(one.fish) : 3}
                fill={one.fish > 0 ? "var(--signal)" : "var(--paper)"}
                fillOpacity={0.7}
                stroke="var(--ink)"
                strokeWidth={0.75}
              />
            </g>
          ))}
          <text x={LEFT} y={12} fontSize={12} fill="var(--soft)">
            {flows.length > 0
              ? `${show(0, "m³/s").replace(/^\S+\s/, "")}, drawn by its root`
              : "No gauge says how the river ran"}
          </text>
        </svg>
      )}
    </div>
  );
}
