import type { Outcome } from "../../api/client";

interface OutcomeKey {
  outcome: Outcome;
  name: string;
  what: string;
  key: string;
}

const KEYS: readonly OutcomeKey[] = [
  { outcome: "clean", name: "Clean", what: "no touch", key: "c" },
  { outcome: "tick", name: "Tick", what: "light touch", key: "t" },
  { outcome: "hung", name: "Hung up", what: "stopped", key: "h" },
  { outcome: "missed", name: "Missed", what: "not hooked", key: "m" },
  { outcome: "fish", name: "Fish", what: "to hand", key: "f" },
  { outcome: "lost_fly", name: "Lost fly", what: "broke off", key: "l" },
];

/** What does not happen to a fly that rides on top. */
const UNDER_WATER: readonly Outcome[] = ["tick"];

/** The keys that do something, under a dry alone or a rig. */
export const keysFor = (alone: boolean): OutcomeKey[] =>
  KEYS.filter(({ outcome }) => !(alone && UNDER_WATER.includes(outcome)));

/** One key an outcome. Nothing that can be touched here moves, whatever arrives. */
export function OutcomeKeys({
  alone,
  large,
  only,
  onPress,
}: {
  /** Whether a dry is on alone: a key for what cannot happen to it stays in its place, and does nothing. */
  alone: boolean;
  /** For gloves: twice as tall. */
  large: boolean;
  /** These alone, in other words: what a beginner needs. */
  only?: readonly Pick<OutcomeKey, "outcome" | "name" | "what">[];
  onPress: (outcome: Outcome) => void;
}) {
  return (
    <div
      className={`grid gap-2 ${only ? "grid-cols-2" : "grid-cols-[repeat(auto-fit,minmax(max(calc((100%-1rem)/3),4.3rem),1fr))] lg:grid-cols-3"}`}
    >
      {(only ?? KEYS).map(({ outcome, name, what }) => (
        <button
          key={outcome}
          type="button"
          disabled={alone && UNDER_WATER.includes(outcome)}
          onClick={() => onPress(outcome)}
          className={`${large ? "h-34 short:h-27 lg:h-34" : "h-18 short:h-15 lg:h-21"} @container overflow-hidden rounded-2xl border-2 px-1 leading-tight select-none disabled:opacity-35 active:bg-ink active:text-ground ${outcome === "fish" ? "border-signal-fill bg-signal-fill text-signal-ink" : "border-ink bg-paper"}`}
        >
          <span
            className={`block font-bold ${only ? "text-xl" : "text-[min(1.25rem,23cqi)] whitespace-nowrap"}`}
          >
            {name}
          </span>
          <span className={`block ${only ? "text-sm" : "text-[min(0.875rem,16cqi)] whitespace-nowrap"}`}>
            {alone && outcome === "clean" ? "no rise" : what}
          </span>
        </button>
      ))}
    </div>
  );
}
