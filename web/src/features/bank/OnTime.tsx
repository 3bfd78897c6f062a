import { useEffect, useRef, useState } from "react";
import type { Ranked } from "../../api/client";

/** How the phone buzzes as each comes: short for down, twice for the fish, long for the end. */
const BUZZ = { down: [60], "at the fish": [60, 80, 60], over: [300] };
type Mark = keyof typeof BUZZ;

/** Flies that are down as they come to the fish are both at once: no thumb tells two buzzes so close. */
const AT_ONCE_S = 0.5;

/** What comes when of a drift, s after the flies land: what is not known is left out. */
export function marksOf(numbers: Ranked["numbers"] | undefined): [Mark, number][] {
  if (!numbers) return [];
  const { time_to_zone_s, passes_s, drift_s } = numbers;
  const both =
    time_to_zone_s !== null && passes_s !== null && Math.abs(passes_s - time_to_zone_s) < AT_ONCE_S;
  const all: [Mark, number | null][] = [
    ["down", both ? null : time_to_zone_s],
    ["at the fish", passes_s],
    ["over", drift_s],
  ];
  return all.filter((one): one is [Mark, number] => one[1] !== null).sort((a, b) => a[1] - b[1]);
}

type Timer = ReturnType<typeof setTimeout>;
const still = (timers: Timer[]): void => timers.forEach(clearTimeout);

/** A tap as the flies land, and the phone says by itself when they should be down, pass the fish, and are done. */
export function OnTime({ numbers }: { numbers: Ranked["numbers"] | undefined }) {
  const [passed, setPassed] = useState<number | null>(null);
  const timers = useRef<Timer[]>([]);
  useEffect(() => () => still(timers.current), []);
  const marks = marksOf(numbers);
  const landed = () => {
    still(timers.current);
    navigator.vibrate?.(20);
    setPassed(0);
    timers.current = marks.map(([mark, at], k) =>
      setTimeout(() => {
        navigator.vibrate?.(BUZZ[mark]);
        setPassed(k + 1 === marks.length ? null : k + 1);
      }, 1000 * at),
    );
  };
  return (
    <button
      type="button"
      aria-label="The flies land: buzz on time"
      className="absolute inset-0 flex items-start justify-end p-1"
      disabled={marks.length === 0}
      onClick={landed}
    >
      <span className="rounded-lg bg-paper/85 px-2 py-1 text-right text-sm leading-tight">
        {passed === null ? (
          <span className="block font-semibold">Tap as they land</span>
        ) : (
          marks.map(([mark, at], k) => (
            <span key={mark} className={`block ${k === passed ? "font-bold" : "text-soft"}`}>
              {mark} {at.toFixed(1)} s
            </span>
          ))
        )}
      </span>
    </button>
  );
}
