import { useState } from "react";
import * as bounds from "../../api/bounds";
import { useRodLength } from "../../queries/angler";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";

const STEP_M = 0.5;
const WAY = bounds.SpeedBubbles.distance_m;

interface Props {
  lie: string;
  onSave: (distance_m: number, seconds: number) => void;
  onClose: () => void;
}

/** The bubble stopwatch by thumb: start as it passes, stop a rod length on. The core works out the speed. */
export function BubbleSheet({ lie, onSave, onClose }: Props) {
  const { show } = useUnits();
  const rod = useRodLength();
  const [over, setOver] = useState(rod);
  const [started, setStarted] = useState<number | null>(null);
  const [seconds, setSeconds] = useState<number | null>(null);
  const tap = () => {
    navigator.vibrate?.(20);
    if (started === null) {
      setSeconds(null);
      setStarted(performance.now());
      return;
    }
    setSeconds(Math.round((performance.now() - started) / 10) / 100);
    setStarted(null);
  };
  const further = (by: number) => setOver(Math.min(WAY.max, Math.max(WAY.min, over + by)));
  return (
    <Sheet title={`Time a bubble at ${lie}`} open onClose={onClose}>
      <div className="grid grid-cols-[4.5rem_1fr_4.5rem] items-center gap-2">
        <Button aria-label="a shorter way" className="min-h-16 text-3xl" onClick={() => further(-STEP_M)}>
          −
        </Button>
        <p className="text-center">
          <span className="block text-sm text-soft">{over === rod ? "over, a rod length" : "over"}</span>
          <b className="text-2xl">{show(over, "reach")}</b>
        </p>
        <Button aria-label="a longer way" className="min-h-16 text-3xl" onClick={() => further(STEP_M)}>
          +
        </Button>
      </div>
      <Button look="main" className="min-h-28 w-full text-2xl" onClick={tap}>
        {started !== null ? "Stop" : seconds === null ? "Start as it passes" : "Again"}
      </Button>
      <p className="min-h-7 text-center text-xl" aria-live="polite">
        {seconds !== null && <b>{seconds.toFixed(2)} s</b>}
      </p>
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button
          look="main"
          disabled={seconds === null}
          onClick={() => seconds !== null && onSave(over, seconds)}
        >
          Keep it
        </Button>
      </div>
    </Sheet>
  );
}
