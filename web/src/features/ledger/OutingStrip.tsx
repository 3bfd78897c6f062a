import type { Ledger } from "../../api/client";
import { useWidth } from "../../draw/size";
import { useUnits } from "../../units/context";
import { several } from "./OutingLine";

const HEIGHT = 210;
const LEFT = 46;
const RIGHT = 18;
/** Above the water: the names of the lies, then what came to hand. */
const SURFACE = 62;
const BOTTOM = 26;
/** How much of the bed is drawn, against the depth. */
const UNDER_THE_BED = 1.2;
const NAME_PX = 7.6;
const NAME_ROWS = [14, 29] as const;
const CLOCK_PX = 40;
const LABEL_PX = 90;
const MINUTES = [10, 20, 30, 60, 120, 240];

type Stop = Ledger["stops"][number];
type Drift = Stop["settings"][number]["drifts"][number];

const time = (at: string) => Date.parse(at);
/** How deep a rig was set; under a single dry nothing is. */
const setTo = (one: Stop["settings"][number]) => ("depth_setting_m" in one ? one.depth_setting_m : 0);
const drifts = (stop: Stop) => stop.settings.flatMap((one) => one.drifts);
const until = (stop: Stop) => Math.max(time(stop.at), ...drifts(stop).map((one) => time(one.at)));

/** The names of the lies where there is room for them: in one row, or in two by turns where that is too narrow. */
function names(stops: readonly Stop[], x: (t: number) => number, end: number) {
  const told = stops
    .filter((one, k) => one.lie !== stops[k - 1]?.lie)
    .map((one) => ({ id: one.id, name: one.lie, x: x(time(one.at)) }));
  const fitting = (rows: number) =>
    told.filter((one, k) => (told[k + rows]?.x ?? end) - one.x > one.name.length * NAME_PX);
  const rows = fitting(1).length === told.length ? 1 : NAME_ROWS.length;
  return fitting(rows).map((one) => ({ ...one, y: NAME_ROWS[told.indexOf(one) % rows] }));
}

/** An outing from the side: the depth of each lie as it was fished, how the rig was set, and every drift where it ended. */
export function OutingStrip({ ledger }: { ledger: Ledger }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const { show, clock } = useUnits();
  const { stops } = ledger;
  const first = stops[0];
  const all = stops.flatMap(drifts);
  if (!first || all.length === 0) return null;
  const from = time(first.at);
  const to = Math.max(...stops.map(until), from + 60_000);
  const x = (t: number) => LEFT + ((t - from) / (to - from)) * (width - LEFT - RIGHT);
  const deepest = UNDER_THE_BED * Math.max(...stops.map((one) => one.situation.water.depth_m));
  const y = (depth: number) => SURFACE + (depth / deepest) * (HEIGHT - SURFACE - BOTTOM);
  const minute = MINUTES.find((one) => x(from + one * 60_000) - x(from) >= LABEL_PX) ?? 480;
  const hours = Array.from(
    { length: Math.floor((to - from) / (minute * 60_000)) + 1 },
    (_, k) => from + k * minute * 60_000,
  );
  const fish = all.filter((one) => one.outcome === "fish").length;
  return (
    <figure ref={ref} className="rounded-2xl bg-paper p-1" style={{ minHeight: HEIGHT + 36 }}>
      {width > 0 && (
        <svg
          width={width - 8}
          height={HEIGHT}
          role="img"
          aria-label={`The outing from the side: ${stops.map((one) => `${one.lie}, ${show(one.situation.water.depth_m, "m")} deep, ${several(drifts(one).length, "drift", "drifts")}`).join("; ")}; ${fish} fish`}
        >
          {stops.map((stop) => (
            <StopColumn key={stop.id} stop={stop} x={x} y={y} foot={HEIGHT - BOTTOM} />
          ))}
          {names(stops, x, width - 8).map((one) => (
            <text key={one.id} x={one.x} y={one.y} fontSize={13} fontWeight={600} fill="var(--ink)">
              {one.name}
            </text>
          ))}
          <line x1={LEFT} x2={width - 8 - RIGHT} y1={y(0)} y2={y(0)} stroke="var(--line)" />
          {[0, deepest / UNDER_THE_BED / 2, deepest / UNDER_THE_BED].map((depth) => (
            <text key={depth} x={LEFT - 6} y={y(depth) + 4} textAnchor="end" fontSize={12} fill="var(--soft)">
              {show(depth, "m", 1)}
            </text>
          ))}
          {hours
            .filter((t) => x(t) + CLOCK_PX <= width - 8)
            .map((t) => (
              <text key={t} x={x(t)} y={HEIGHT - 8} fontSize={12} fill="var(--soft)">
                {clock(t)}
              </text>
            ))}
        </svg>
      )}
      <figcaption className="px-2 pb-1 text-sm text-soft">
        Each stroke a drift, down to where the rig was set. At the bed: a touch, a cross for a hang-up. Above:
        a fish, a ring for a missed take.
      </figcaption>
    </figure>
  );
}

function StopColumn({
  stop,
  x,
  y,
  foot,
}: {
  stop: Stop;
  x: (t: number) => number;
  y: (depth: number) => number;
  foot: number;
}) {
  const left = x(time(stop.at));
  const right = Math.max(x(until(stop)), left + 2);
  const bed = y(stop.situation.water.depth_m);
  return (
    <g>
      <title>{stop.lie}</title>
      <rect x={left} y={y(0)} width={right - left} height={bed - y(0)} fill="var(--water-0)" />
      <rect x={left} y={bed} width={right - left} height={foot - bed} fill="var(--bed)" opacity={0.35} />
      <line x1={left} x2={right} y1={bed} y2={bed} stroke="var(--bed-dark)" strokeWidth={2} />
      {stop.settings.map((setting) =>
        setting.drifts.map((drift) => (
          <Stroke
            key={drift.id}
            drift={drift}
            x={x(time(drift.at))}
            surface={y(0)}
            set={y(Math.min(setTo(setting), stop.situation.water.depth_m))}
            bed={bed}
          />
        )),
      )}
    </g>
  );
}

function Stroke({
  drift,
  x,
  surface,
  set,
  bed,
}: {
  drift: Drift;
  x: number;
  surface: number;
  set: number;
  bed: number;
}) {
  const hung = drift.outcome === "hung" || drift.outcome === "lost_fly";
  return (
    <g>
      <line x1={x} x2={x} y1={surface} y2={set} stroke="var(--mark)" strokeWidth={1} opacity={0.7} />
      {drift.outcome === "tick" && <circle cx={x} cy={bed} r={3} fill="var(--ink)" />}
      {hung && (
        <path
          d={`M${x - 4} ${bed - 4}l8 8m0-8l-8 8`}
          stroke="var(--ink)"
          strokeWidth={2}
          strokeLinecap="round"
        />
      )}
      {drift.outcome === "missed" && (
        <circle cx={x} cy={surface - 20} r={5} fill="none" stroke="var(--signal)" strokeWidth={2} />
      )}
      {drift.outcome === "fish" && (
        <>
          <line x1={x} x2={x} y1={surface} y2={surface - 20} stroke="var(--signal)" strokeWidth={1.5} />
          <circle cx={x} cy={surface - 20} r={6} fill="var(--signal)" />
        </>
      )}
    </g>
  );
}
