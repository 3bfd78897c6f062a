import { Link } from "wouter";
import type { Question } from "../../api/client";
import type { components } from "../../api/generated";
import { address } from "../../app/addresses";
import { useWidth } from "../../draw/size";
import { useAnswer, useCalibration, useForetelling, useOwnEye } from "../../queries/learn";
import { Button, Panel, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { percent } from "../../units/units";
import { LogTabs } from "./LogTabs";

type Calibration = components["schemas"]["CalibrationOut"];
type Touches = NonNullable<Calibration["touches"]>;

/** How right Deriva has been, and one's own eye. */
export function RightScreen() {
  const found = useCalibration();
  const left = found.data ? found.data.settings - found.data.said : 0;
  const unranked = found.data ? found.data.settings - found.data.ranked : 0;
  const more = useForetelling(left + unranked);
  return (
    <div className="mx-auto max-w-3xl space-y-3">
      <LogTabs />
      <h1 className="text-2xl font-bold">How right it was</h1>
      {found.isError && <Trouble error={found.error} retry={() => found.refetch()} />}
      {!found.data && found.fetchStatus === "paused" && (
        <p>This is worked out at the service: that needs signal.</p>
      )}
      {!found.data && found.isFetching && <Working what="Checking what was said against what came" />}
      {found.data && (
        <>
          <p className="min-h-12 text-soft" aria-live="polite">
            {found.data.settings === 0
              ? "Nothing has been fished yet to check what was reckoned."
              : left > 0
                ? `Worked out for ${found.data.said} of ${found.data.settings} settings that you fished; the rest is under way.`
                : `All ${found.data.settings} settings that you fished lately, as the drift engine has them, against what you logged.`}
          </p>
          {more.isError && <Trouble error={more.error} retry={() => more.mutate()} />}
          <TouchPanel touches={found.data.touches} under={left > 0} />
          <DepthPanel found={found.data} />
          <Panel title="In the zone, and taken">
            <p>
              Whether drifts that were to be in the zone for longer were taken more often, and what came in an
              hour in the zone, the log can be asked.
            </p>
            <div className="mt-2 flex flex-wrap gap-2">
              <Ask by="zone" per="drift">
                By the time in the zone
              </Ask>
              <Ask by="rig" per="zone_hour">
                An hour in the zone, by rig
              </Ask>
            </div>
          </Panel>
          <RankedPanel left={unranked} />
          <Panel title="Your eye for fish">
            <p>
              {found.data.lengths?.words ??
                "Too few fish were first judged by eye and then measured. Correct a length to measured, and both are kept."}
            </p>
          </Panel>
        </>
      )}
    </div>
  );
}

const RANKED: Question = { by: "ranked", measure: "takes", per: "drift", only: [] };

/** Whether rigs that were ranked first were taken more often, as the log has it. */
function RankedPanel({ left }: { left: number }) {
  const { say } = useUnits();
  const answer = useAnswer(RANKED);
  return (
    <Panel title="The rig that was ranked first">
      <p className="min-h-12">{answer.data && say(answer.data.sentence)}</p>
      {answer.isError && <Trouble error={answer.error} retry={() => answer.refetch()} />}
      <p className="text-sm text-soft">
        Every rig that you fished is compared with what is advised for the water as it was believed then
        {left > 0 ? `; that is still being worked out for ${left} settings.` : "."}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Ask by="ranked" per="drift">
          By the place of the rig
        </Ask>
      </div>
    </Panel>
  );
}

function Ask({
  by,
  per,
  children,
}: {
  by: "zone" | "rig" | "ranked";
  per: "drift" | "zone_hour";
  children: string;
}) {
  return (
    <Link
      to={address.asked({ by, measure: "takes", per, only: [] })}
      className="grid min-h-14 place-items-center rounded-xl border border-line bg-paper px-4"
    >
      {children}
    </Link>
  );
}

/** `under`: some of it is still being worked out. */
function TouchPanel({ touches, under }: { touches: Touches | null; under: boolean }) {
  const none = under
    ? "Being worked out."
    : "Too few drifts are logged to check touches against what was reckoned.";
  return (
    <Panel title="Touches">
      <p>{touches?.words ?? none}</p>
      {touches && (
        <>
          <TouchPicture touches={touches} />
          <p className="text-sm text-soft">
            Across: the chance of a tick or a hang-up that was reckoned. Up: how often one came, with the line
            in which it lies 9 times in 10. On the slant both are the same. Left out are drifts with weed on a
            hook, and floats that their line held back without a touch.
          </p>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what can be scrolled must be reached by keys */}
          <section aria-label="Counts of touches" className="mt-2 overflow-x-auto" tabIndex={0}>
            <table className="w-full [&_td]:pl-2 [&_th+th]:pl-2 text-right tabular-nums">
              <thead className="text-sm text-soft">
                <tr>
                  <th className="text-left font-normal">reckoned</th>
                  <th className="font-normal">drifts</th>
                  <th className="font-normal">touched</th>
                  <th className="font-normal">in 100</th>
                </tr>
              </thead>
              <tbody>
                {touches.bins.map((bin) => (
                  <tr key={bin.low} className="border-t border-line">
                    <th className="py-1 text-left font-semibold">{percent(bin.reckoned)}</th>
                    <td>{bin.drifts}</td>
                    <td>{bin.touches}</td>
                    <td>
                      {(100 * bin.seen.median).toFixed(0)}
                      <span className="text-soft">{` (${(100 * bin.seen.low).toFixed(0)} to ${(100 * bin.seen.high).toFixed(0)})`}</span>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        </>
      )}
    </Panel>
  );
}

const HIGH = 240;
const EDGE = 34;

function TouchPicture({ touches }: { touches: Touches }) {
  const [ref, width] = useWidth<HTMLDivElement>();
  const wide = Math.min(width, 420);
  const most = Math.min(
    1,
    Math.ceil(5 * Math.max(...touches.bins.map((bin) => Math.max(bin.seen.high, bin.reckoned)))) / 5,
  );
  const x = (share: number) => EDGE + (share / most) * (wide - EDGE - 10);
  const y = (share: number) => HIGH - 24 - (share / most) * (HIGH - 34);
  const marks = [0, most / 2, most];
  const said = touches.bins
    .map((bin) => `${percent(bin.reckoned)} reckoned, ${percent(bin.seen.median)} came`)
    .join("; ");
  return (
    <div ref={ref} style={{ minHeight: HIGH }}>
      {wide > 0 && (
        <svg
          width={wide}
          height={HIGH}
          role="img"
          aria-label={`Touches as reckoned and as they came: ${said}`}
        >
          <line x1={x(0)} y1={y(0)} x2={x(most)} y2={y(most)} stroke="var(--line)" strokeWidth={2} />
          <line x1={x(0)} y1={y(0)} x2={x(most)} y2={y(0)} stroke="var(--line)" />
          <line x1={x(0)} y1={y(0)} x2={x(0)} y2={y(most)} stroke="var(--line)" />
          {marks.map((share) => (
            <g key={share} fontSize={12} fill="var(--soft)">
              <text x={x(share)} y={HIGH - 6} textAnchor={share === most ? "end" : "middle"}>
                {percent(share)}
              </text>
              <text x={EDGE - 4} y={y(share) + 4} textAnchor="end">
                {(100 * share).toFixed(0)}
              </text>
            </g>
          ))}
          {touches.bins.map((bin) => (
            <g key={bin.low}>
              <line
                x1={x(bin.reckoned)}
                x2={x(bin.reckoned)}
                y1={y(bin.seen.low)}
                y2={y(bin.seen.high)}
                stroke="var(--ink)"
                strokeWidth={2}
              />
              <circle cx={x(bin.reckoned)} cy={y(bin.seen.median)} r={6} fill="var(--mark)" />
            </g>
          ))}
        </svg>
      )}
    </div>
  );
}

function DepthPanel({ found }: { found: Calibration }) {
  const own = useOwnEye();
  const { carried, by_eye, eye, own_error } = found;
  return (
    <Panel title="Depths">
      <p>{carried?.words ?? "Too few depths were measured at another flow to check the carried ones."}</p>
      {by_eye && <p className="mt-1">{by_eye.words}</p>}
      <p className="mt-1">
        {eye?.words ??
          "Too few depths by eye were measured soon after: judge one, then sound it, and what your eye is worth becomes known."}
      </p>
      {own_error !== null && (
        <p className="mt-1 font-semibold">
          {`Depths by your eye are now reckoned to be ${percent(own_error)} off, where ${percent(eye?.usual ?? 0.25)} is usual.`}
        </p>
      )}
      {own.isError && <Trouble error={own.error} />}
      {(eye || own_error !== null) && (
        <div className="mt-2 flex flex-wrap gap-2">
          {eye && (
            <Button disabled={own.isPending} onClick={() => own.mutate(true)}>
              {`Reckon with my own eye: ${percent(eye.error)}`}
            </Button>
          )}
          {own_error !== null && (
            <Button disabled={own.isPending} onClick={() => own.mutate(false)}>
              Reckon with what is usual
            </Button>
          )}
        </div>
      )}
      <p className="mt-2 text-sm text-soft">
        It changes how wide the depth of later readings by eye is taken to be: no reading that is there
        already.
      </p>
    </Panel>
  );
}
