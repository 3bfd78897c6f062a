import { type Fault, type Reading, type ReadingIn, Refused } from "../../api/client";
import { useColumn, useStoreReading } from "../../api/hooks";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { newId } from "../../local/outbox";
import { Cautions, Choice, NumberField, Panel, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { ReadColumn } from "./ReadColumn";
import { SpeedField } from "./SpeedField";

export const ReadScreen = () => <WithLie>{(at) => <Read key={at.lie.id} {...at} />}</WithLie>;

const FEEDING = [
  ["bottom", "on the bed"],
  ["mid", "midwater"],
  ["mixed", "several levels"],
  ["surface", "at the top"],
] as const;

const HOW = [
  ["eye", "by eye"],
  ["line", "by line"],
  ["staff", "by staff"],
] as const;

const FLOW = [
  ["below_normal", "low"],
  ["normal", "normal"],
  ["above_normal", "high"],
  ["much_above_normal", "spate"],
] as const;

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

function Read({ lie, beat, situation }: AtLie) {
  const store = useStoreReading();
  const column = useColumn(situation);
  const { show } = useUnits();
  const reading = lie.reading;
  if (!reading) return <Trouble error={new Error("This lie has not been read yet.")} />;
  const save = (change: Partial<ReadingIn>) =>
    // a change on the same day corrects the reading; on another day it is a new one
    store.mutate({ id: isToday(reading.at) ? reading.id : newId(), body: again(reading, change) });
  const faults: Fault[] = store.error instanceof Refused ? store.error.faults : [];
  const wrong = (field: string) =>
    faults.find((fault) => fault.field?.startsWith(field))?.message.replace(/^[\w.]+ = /, "");
  const placed = faults.every(
    (fault) =>
      fault.field &&
      ["depth_m", "speed", "clarity_m", "temperature_c", "distance_m", "wind_m_s"].some((f) =>
        fault.field?.startsWith(f),
      ),
  );
  return (
    <div className="grid gap-4 lg:grid-cols-[1.15fr_1fr]">
      <div>
        <LieTitle lie={lie} beat={beat} />
        <h1 className="text-2xl font-bold">
          {show(reading.depth_m, "m")} deep ± {show(reading.depth_sd_m, "m")}, top at{" "}
          {show(reading.surface_speed_m_s, "m/s")}
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
        <Panel title="Today">
          <div className="grid grid-cols-2 gap-3">
            <NumberField
              label="Depth"
              unit="m"
              value={reading.depth_m}
              onCommit={(depth_m) => save({ depth_m })}
              error={wrong("depth_m")}
            />
            <Choice
              label="Depth known"
              value={reading.depth_how}
              options={HOW}
              onChange={(depth_how) => save({ depth_how })}
            />
            <div className="col-span-2">
              <SpeedField reading={reading} onSave={save} error={wrong("speed")} />
            </div>
            <NumberField
              label="See your boots to"
              unit="m"
              value={reading.clarity_m}
              onCommit={(clarity_m) => save({ clarity_m })}
              error={wrong("clarity_m")}
            />
            <NumberField
              label="Water temperature"
              unit="°C"
              value={reading.temperature_c}
              onCommit={(temperature_c) => save({ temperature_c })}
              error={wrong("temperature_c")}
            />
            <NumberField
              label="Distance to the fish"
              unit="m"
              value={reading.distance_m}
              onCommit={(distance_m) => save({ distance_m })}
              error={wrong("distance_m")}
            />
            <NumberField
              label="Wind"
              unit="m/s"
              value={reading.wind_m_s}
              onCommit={(wind_m_s) => save({ wind_m_s })}
              error={wrong("wind_m_s")}
            />
            <div className="col-span-2 space-y-3">
              <Choice
                label="Fish feed"
                value={reading.feeding}
                options={FEEDING}
                onChange={(feeding) => save({ feeding })}
              />
              <Choice
                label="Flow"
                value={reading.flow_class}
                options={FLOW}
                onChange={(flow_class) => save({ flow_class })}
              />
            </div>
          </div>
          {store.isError && !(faults.length > 0 && placed) && (
            <div className="mt-3">
              <Trouble error={store.error} />
            </div>
          )}
        </Panel>
        <p className="text-sm text-soft">
          <b>Rules of the beat, as entered:</b> {beat.rules_text}
        </p>
      </div>
    </div>
  );
}
