import type { Reading, ReadingIn } from "../../api/client";
import { useColumn, useStoreReading } from "../../api/hooks";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { newId } from "../../local/outbox";
import { Cautions, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { FirstReading } from "./FirstReading";
import { ReadColumn } from "./ReadColumn";
import { ReadingForm } from "./ReadingForm";

export const ReadScreen = () => (
  <WithLie unread={(at) => <FirstReading key={at.lie.id} {...at} />}>
    {(at) => at.lie.reading && <Read key={at.lie.id} {...at} reading={at.lie.reading} />}
  </WithLie>
);

/** A reading as it would be written again, with a change. */
function again(reading: Reading, change: Partial<ReadingIn>): ReadingIn {
  const {
    id: _id,
    depth_sd_m: _sd,
    surface_speed_m_s,
    speed_error_m_s: _error,
    speed_how: _how,
    ...rest
  } = reading;
  return { ...rest, speed: { how: "typed", surface_speed_m_s }, ...change, at: new Date().toISOString() };
}

const isToday = (at: string): boolean => new Date(at).toDateString() === new Date().toDateString();

function Read({ lie, beat, situation, reading }: AtLie & { reading: Reading }) {
  const store = useStoreReading();
  const column = useColumn(situation);
  const { show } = useUnits();
  const save = (change: Partial<ReadingIn>) =>
    // a change on the same day corrects the reading; on another day it is a new one
    store.mutate({ id: isToday(at) ? id : newId(), body: again(reading, change) });
  const { id, lie_id, at, depth_m, depth_sd_m, surface_speed_m_s, speed_error_m_s, speed_how, ...rest } =
    reading;
  return (
    <div className="grid gap-4 lg:grid-cols-[1.15fr_1fr]">
      <div>
        <LieTitle lie={lie} beat={beat} />
        <h1 className="text-2xl font-bold">
          {show(depth_m, "m")} deep ± {show(depth_sd_m, "m")}, top at {show(surface_speed_m_s, "m/s")}
          {column.data && <>, where they feed {show(column.data.zone_speed_m_s, "m/s")}</>}
        </h1>
        {column.data ? (
          <ReadColumn column={column.data} />
        ) : column.isError ? (
          <Trouble error={column.error} retry={() => column.refetch()} />
        ) : (
          <Working what="Drawing the column" />
        )}
        {column.data && (
          <p className="mt-2 text-soft">
            Mean speed {show(column.data.mean_speed_m_s, "m/s")}, {Math.round(100 * column.data.mean_ratio)} %
            of the surface's: log law over {lie.bed}.
            {column.data.shallow && " Thin water over these stones: speeds near the bed are guesses."}
          </p>
        )}
      </div>
      <div className="space-y-4">
        {column.data && <Cautions texts={column.data.cautions} />}
        <ReadingForm
          title="Today"
          depth={depth_m}
          speed={surface_speed_m_s}
          timed={
            speed_how === "bubbles" ? { speed_m_s: surface_speed_m_s, error_m_s: speed_error_m_s } : null
          }
          rest={rest}
          onChange={save}
          error={store.error}
        />
        <p className="text-sm text-soft">
          <b>Rules of the beat, as entered:</b> {beat.rules_text}
        </p>
      </div>
    </div>
  );
}
