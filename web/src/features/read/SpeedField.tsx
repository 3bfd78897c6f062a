import { useState } from "react";
import type { Reading, ReadingIn } from "../../api/client";
import { Button, NumberField } from "../../ui/parts";
import { useUnits } from "../../units/context";

interface Props {
  reading: Reading;
  onSave: (change: Partial<ReadingIn>) => void;
  error: string | undefined;
}

const ROD_LENGTH_M = 3;

/** Surface speed: typed, or timed with the bubble stopwatch over a known distance. The service works out the speed. */
export function SpeedField({ reading, onSave, error }: Props) {
  const { show } = useUnits();
  const [timing, setTiming] = useState(false);
  const [distance, setDistance] = useState(ROD_LENGTH_M);
  const [seconds, setSeconds] = useState<number | null>(null);
  const [started, setStarted] = useState<number | null>(null);
  const save = (time: number) => onSave({ speed: { how: "bubbles", distance_m: distance, seconds: time } });
  const tap = () => {
    if (started === null) {
      setStarted(performance.now());
      return;
    }
    const time = Math.round((performance.now() - started) / 10) / 100;
    setStarted(null);
    setSeconds(time);
    save(time);
  };
  return (
    <div className="grid grid-cols-2 gap-3">
      <NumberField
        label="Surface speed"
        unit="m/s"
        value={reading.surface_speed_m_s}
        onCommit={(surface_speed_m_s) => onSave({ speed: { how: "typed", surface_speed_m_s } })}
        error={error}
      />
      <div className="self-end">
        <Button className="w-full" aria-expanded={timing} onClick={() => setTiming(!timing)}>
          Time a bubble
        </Button>
      </div>
      {timing && (
        <div className="col-span-2 grid grid-cols-2 gap-3 rounded-xl border border-line p-3">
          <NumberField label="Over (a rod length)" unit="m" value={distance} onCommit={setDistance} />
          <NumberField
            label="Seconds"
            unit="s"
            value={seconds ?? 0}
            onCommit={(time) => {
              setSeconds(time);
              save(time);
            }}
          />
          <Button look="main" className="col-span-2 min-h-18 text-xl" onClick={tap}>
            {started === null ? "Start as it passes" : "Stop"}
          </Button>
          {reading.speed_how === "bubbles" && reading.speed_error_m_s !== null && (
            <p className="col-span-2 text-soft">
              Timed: {show(reading.surface_speed_m_s, "m/s")} ± {show(reading.speed_error_m_s, "m/s")}.
              Several bubbles beat one.
            </p>
          )}
        </div>
      )}
    </div>
  );
}
