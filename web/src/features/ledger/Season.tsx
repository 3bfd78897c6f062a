import { type KeyboardEvent, useState } from "react";
import { Link } from "wouter";
import type { components } from "../../api/generated";
import { address } from "../../app/addresses";
import { useWidth } from "../../draw/size";
import { useSeason } from "../../queries/log";
import { Button } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { MONTHS } from "../../units/units";
import { date, several } from "./OutingLine";

type Year = components["schemas"]["SeasonOut"];

const HIGH = 190;
const LEFT = 40;
const RIGHT = 10;
const MARKS = 34;
const FOOT = 22;
const NARROW_PX = 34;

/** A year: the flow of the river, and every outing on its day. A mark leads to its outing, by a tap or by keys. */
export function Season() {
  const [chosen, setChosen] = useState<number | null>(null);
  const [now] = useState(() => new Date().getFullYear());
  const years = useSeason(now).data?.years ?? [];
  // a year in which nothing was fished yet shows nothing: the last one that has something does
  const year = chosen ?? (years.includes(now) ? now : (years[0] ?? now));
  const found = useSeason(year).data;
  const at = found?.years.indexOf(year) ?? -1;
  const other = (k: number) => found?.years[k];
  // what is in it comes later and takes no room that is not here already: the list below is tapped meanwhile
  return (
    <figure className="mb-2 rounded-2xl bg-paper p-2">
      <div className="grid min-h-14 grid-cols-[auto_1fr_auto] items-center gap-2">
        <Button
          className="px-2!"
          aria-label="the year before"
          disabled={other(at + 1) === undefined}
          onClick={() => setChosen(other(at + 1) ?? year)}
        >
          {other(at + 1) ?? year - 1}
        </Button>
        <figcaption className="truncate text-center">
          <span className="block font-semibold">{year}</span>
          <span className="block truncate text-soft">
            {found
              ? `${several(found.outings.length, "outing", "outings")}, ${found.outings.reduce((n, one) => n + one.fish, 0)} fish`
              : "\u00a0"}
          </span>
        </figcaption>
        <Button
          className="px-2!"
          aria-label="the year after"
          disabled={at <= 0}
          onClick={() => setChosen(other(at - 1) ?? year)}
        >
          {(at > 0 && other(at - 1)) || year + 1}
        </Button>
      </div>
      <div style={{ height: HIGH }}>{found && <YearPicture year={found} />}</div>
      <p className="px-1 text-sm text-soft">
        Each outing on the flow of its day, the larger the more fish; a white one without.
      </p>
    </figure>
  );
}

/** Go along the marks by keys, from outing to outing: the row of them is one stop of the tab key. */
function walk(event: KeyboardEvent<HTMLAnchorElement>) {
  const marks = [...(event.currentTarget.parentElement?.querySelectorAll("a") ?? [])];
  const at = marks.indexOf(event.currentTarget);
  const to = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: marks.length - 1 }[event.key];
  if (to === undefined) return;
  event.preventDefault();
  marks[to]?.focus();
}

function YearPicture({ year: found }: { year: Year }) {
  const [ref, width] = useWidth<HTMLElement>();
  const { show } = useUnits();
  const [current, setCurrent] = useState(Number.POSITIVE_INFINITY);
  const from = Date.UTC(found.year, 0, 1);
  const to = Date.UTC(found.year + 1, 0, 1);
  const x = (t: number) => LEFT + ((t - from) / (to - from)) * (width - LEFT - RIGHT);
  const flows = found.rivers.flatMap((one) => one.days.map((each) => each.flow_m3_s));
  const most = 1.05 * Math.max(0.1, ...flows);
  const y = (flow: number) => HIGH - FOOT - Math.sqrt(flow / most) * (HIGH - FOOT - MARKS);
  const fish = (n: number) => 3 + 1.8 * Math.sqrt(n);
  const known = new Map(
    found.rivers.flatMap((one) => one.days.map((each) => [each.at.slice(0, 10), each.flow_m3_s])),
  );
  // on the flow of its day, where that is known
  const height = (at: string) => {
    const flow = known.get(new Date(at).toISOString().slice(0, 10));
    return flow === undefined ? MARKS - 14 : y(flow);
  };
  const beside = found.rivers.map((one) => one.river).join(", ");
  const said = `${found.outings.length} outings of ${found.year}${beside && `, beside the flow of the ${beside}`}`;
  return (
    <nav ref={ref} aria-label={said}>
      {width > 0 && (
        <svg width={width} height={HIGH} role="presentation" data-picture={said}>
          {MONTHS.map((name, k) => {
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
          {found.outings.map((one, k) => (
            <Link
              key={one.id}
              to={address.outing(one.id)}
              aria-label={`${date(one.at)}: ${one.fish} fish in ${one.drifts} drifts`}
              tabIndex={k === Math.min(current, found.outings.length - 1) ? 0 : -1}
              onFocus={() => setCurrent(k)}
              onKeyDown={walk}
            >
              <title>{`${date(one.at)}: ${one.fish} fish in ${one.drifts} drifts`}</title>
              <circle
                cx={x(Date.parse(one.at))}
                cy={height(one.at)}
                r={one.fish > 0 ? fish(one.fish) : 3}
                fill={one.fish > 0 ? "var(--signal)" : "var(--paper)"}
                fillOpacity={0.7}
                stroke="var(--ink)"
                strokeWidth={0.75}
              />
            </Link>
          ))}
          <text x={LEFT} y={12} fontSize={12} fill="var(--soft)">
            {flows.length > 0
              ? `${show(0, "m³/s").replace(/^\S+\s/, "")}, drawn by its root`
              : "No gauge says how the river ran"}
          </text>
        </svg>
      )}
    </nav>
  );
}
