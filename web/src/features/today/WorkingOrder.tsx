import { Link } from "wouter";
import type { Beat, Lie } from "../../api/client";
import { address } from "../../app/addresses";
import { KINDS } from "../../app/lie";
import { type PlannedDay, useDay } from "../../queries/day";
import { Panel } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { DayTimes } from "./DayTimes";
import { Turn } from "./Turn";

/** The lies in the order of working them, each with what it is worth now and when its turn is; those not read yet at the end. */
export function WorkingOrder({ beat }: { beat: Beat }) {
  const { day, error } = useDay(beat);
  const { say } = useUnits();
  return (
    <Panel title="In this order">
      {beat.working.length > 0 && (
        <>
          <div className="min-h-14">{day && <DayTimes day={day} />}</div>
          <p aria-live="polite" className={`my-2 min-h-12 ${day?.stale ? "invisible" : ""}`}>
            {day
              ? say(day.plan.said)
              : error && "The day is planned with signal, or once the beat is taken along."}
          </p>
        </>
      )}
      <ol className="divide-y divide-line">
        {beat.working.map((work) => {
          const lie = beat.lies.find((one) => one.id === work.lie_id);
          return lie && <LieRow key={lie.id} lie={lie} work={work} day={day} />;
        })}
        {beat.lies
          .filter((lie) => !beat.working.some((work) => work.lie_id === lie.id))
          .map((lie) => (
            <LieRow key={lie.id} lie={lie} work={null} day={undefined} />
          ))}
      </ol>
      {beat.lies.length === 0 && (
        <p className="text-soft">No lie yet: add the first place that holds a fish.</p>
      )}
      {beat.working.length > 0 && (
        <p className="mt-2 text-sm text-soft">Tail first, so that nothing is waded through unfished.</p>
      )}
    </Panel>
  );
}

interface Row {
  lie: Lie;
  work: Beat["working"][number] | null;
  day: PlannedDay | undefined;
}

function LieRow({ lie, work, day }: Row) {
  const { show, say } = useUnits();
  const water = lie.situation?.water;
  return (
    <li>
      <Link
        to={address.lie(lie.id, "read")}
        className="grid min-h-14 grid-cols-[minmax(0,1fr)_fit-content(50%)] items-baseline gap-x-3 py-2 hover:bg-ground"
      >
        <span>
          {work && <span className="mr-2 inline-block w-4 font-semibold text-soft">{work.order}</span>}
          <span className="font-semibold">{lie.name}</span>{" "}
          <span className="text-sm text-soft">{KINDS[lie.kind]}</span>
        </span>
        <span className="text-right">
          {water ? `${show(water.depth_m, "m")} ± ${show(water.depth_sd_m ?? 0, "m")}` : "not read"}
        </span>
        {work && water && (
          <>
            <span className="text-sm text-soft">{say(work.reasons.join("; "))}</span>
            <span className="text-right text-sm text-soft">
              {lie.stands_on === "flow" ? "at today's flow" : "read today"}
            </span>
            <span className="col-span-2 text-sm">
              {day ? <Turn lie={lie.id} drifts={work.drifts} day={day} /> : `${work.drifts} drifts`}
            </span>
            <span
              role="img"
              aria-label={`worth ${work.score.toFixed(2)} of 1 today`}
              className="col-span-2 mt-1 block h-2 rounded-full bg-line"
            >
              <span className="block h-full rounded-full bg-mark" style={{ width: `${100 * work.score}%` }} />
            </span>
          </>
        )}
      </Link>
    </li>
  );
}
