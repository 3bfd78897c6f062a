import { useState } from "react";
import type { ReadingIn } from "../../api/client";
import { useRodLength } from "../../queries/angler";
import { Button, NumberField } from "../../ui/parts";
import { useUnits } from "../../units/context";

/** A speed that was timed: as the core worked it out, or null while it has not been asked yet. */
export interface Timed {
  speed_m_s: number | null;
  error_m_s: number | null;
}

interface Props {
  speed: number | null;
  timed: Timed | null;
  onSave: (change: Partial<ReadingIn>) => void;
  error: string | undefined;
}

/** Surface speed: typed, or timed with the bubble stopwatch over a known distance. The service works out the speed. */
export function SpeedField({ speed, timed, onSave, error }: Props) {
  const { show } = useUnits();
  const [timing, setTiming] = useState(false);
  const rod = useRodLength();
  const [distance, setDistance] = useState(rod);
  const [seconds, setSeconds] = useState<number | null>(null);
  const [started, setStarted] = useState<number | null>(null);
  const save = (time: number, over: number) =>
    onSave({ speed: { how: "bubbles", distance_m: over, seconds: time } });
  const tap = () => {
    if (started === null) {
      setStarted(performance.now());
      return;
    }
    const time = Math.round((performance.now() - started) / 10) / 100;
    setStarted(null);
    setSeconds(time);
    save(time, distance);
  };
  return (
    <div className="grid gap-3 sm:col-span-2 sm:grid-cols-2">
      <NumberField
        label="Surface speed"
        unit="m/s"
        value={speed}
        onCommit={(surface_speed_m_s) => onSave({ speed: { how: "typed", surface_speed_m_s } })}
        error={error}
      />
      <div className="self-end">
        <Button className="w-full" aria-expanded={timing} onClick={() => setTiming(!timing)}>
          Time a bubble
        </Button>
      </div>
      {timing && (
        <div className="grid gap-3 rounded-xl border border-line p-3 sm:col-span-2 sm:grid-cols-2">
          <NumberField
            label={distance === rod ? "Over (a rod length)" : "Over"}
            unit="reach"
            value={distance}
            onCommit={(over) => {
              setDistance(over);
              if (seconds !== null) save(seconds, over);
            }}
          />
          <NumberField
            label="Seconds"
            unit="s"
            value={seconds}
            onCommit={(time) => {
              setSeconds(time);
              save(time, distance);
            }}
          />
          <Button look="main" className="min-h-18 text-xl sm:col-span-2" onClick={tap}>
            {started === null ? "Start as it passes" : "Stop"}
          </Button>
          {timed && (
            <p className="text-soft sm:col-span-2">
              {timed.speed_m_s === null
                ? "Timed. The speed is worked out once the depth is in."
                : `Timed: ${show(timed.speed_m_s, "m/s")} ± ${show(timed.error_m_s ?? 0, "m/s")}. Several bubbles beat one.`}
            </p>
          )}
        </div>
      )}
    </div>
  );
}
