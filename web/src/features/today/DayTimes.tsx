import { useState } from "react";
import { halfHours, sayTimes, type Times, useSaidTimes } from "../../local/day";
import type { PlannedDay } from "../../queries/day";
import { useUnits } from "../../units/context";

/** Half hours that may be picked: a long day. */
const MANY = 28;

const NOW = "now";

/** From when until when one fishes: as it is taken to be, to be said otherwise. */
export function DayTimes({ day }: { day: PlannedDay }) {
  const said = useSaidTimes() ?? { from: null, until: null };
  const { now, plan, here } = day;
  const at = (minutes: number) => Math.round(now + 60_000 * minutes);
  const [from, until] = [at(plan.begins_min), at(plan.ends_min)];
  const say = (change: Partial<Times>) => void sayTimes({ ...said, ...change });
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-soft">From</span>
      {here ? (
        <span className="font-semibold">now</span>
      ) : (
        <Time
          label="From when"
          value={from <= now ? NOW : from}
          now
          after={now}
          onPick={(at) => say({ from: at })}
        />
      )}
      <span className="text-soft">to</span>
      <Time label="Until when" value={until} after={from} onPick={(at) => say({ until: at })} />
    </div>
  );
}

function Time({
  label,
  value,
  now = false,
  after,
  onPick,
}: {
  label: string;
  value: number | typeof NOW;
  now?: boolean;
  after: number;
  onPick: (at: number) => void;
}) {
  const { clock } = useUnits();
  const some = halfHours(after + 1, MANY);
  // what is picked stands at once, and what follows from it when it is planned
  const [picked, pick] = useState({ at: value, of: value });
  const shown = picked.of === value ? picked.at : value;
  const all = value === NOW || some.includes(value) ? some : [value, ...some].sort((a, b) => a - b);
  return (
    <select
      aria-label={label}
      className="min-h-14 rounded-xl border border-line bg-paper px-3 text-base font-semibold text-ink"
      value={shown}
      onChange={({ target }) => {
        const at = target.value === NOW ? NOW : Number(target.value);
        pick({ at, of: value });
        onPick(at === NOW ? Date.now() : at);
      }}
    >
      {now && <option value={NOW}>now</option>}
      {all.map((at) => (
        <option key={at} value={at}>
          {clock(at)}
        </option>
      ))}
    </select>
  );
}
