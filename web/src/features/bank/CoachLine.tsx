/** What the drifts say: the next change, why, and the rule of thumb's word beside it. */
import type { Coaching } from "../../api/client";
import { useUnits } from "../../units/context";

const DO: Record<Coaching["advice"]["action"], string> = {
  hold: "Hold",
  deeper: "Deeper",
  shallower: "Shallower",
  heavier: "Heavier",
  lighter: "Lighter",
  change_fly: "Another fly",
  change_rig: "Another rig",
  move_on: "Move on",
};

export const changes = (coaching: Coaching | undefined): boolean =>
  ["deeper", "shallower", "heavier", "lighter"].includes(coaching?.advice.action ?? "");

/** What to do next, where the eye is between two drifts. */
export function CoachDo({ coaching, onChange }: { coaching: Coaching; onChange: () => void }) {
  const { show } = useUnits();
  const { advice } = coaching;
  if (!changes(coaching))
    return (
      <p className="px-1 text-lg leading-tight font-bold" aria-live="polite">
        Coach: {DO[advice.action].toLowerCase()}
      </p>
    );
  return (
    <button
      type="button"
      onClick={onChange}
      aria-live="polite"
      className="min-h-14 w-full rounded-xl border-2 border-signal bg-paper px-3 text-left text-lg leading-tight font-bold"
    >
      {DO[advice.action]} to {show(advice.depth_setting_m, "m")} with {show(advice.point_bead_mm, "bead")}
    </button>
  );
}

/** Why, and the rule of thumb's word beside it. */
export function CoachWhy({ coaching }: { coaching: Coaching }) {
  const { say } = useUnits();
  const { advice, rule_of_thumb: thumb, notes } = coaching;
  return (
    <section aria-label="Coach" className="rounded-xl bg-paper px-3 py-2">
      <p className="leading-snug">{say(advice.reason)}</p>
      {notes.map((note) => (
        <p key={note} className="text-caution">
          {say(note)}
        </p>
      ))}
      {thumb && <p className="text-sm text-soft">Rule of thumb: {say(thumb.reason)}</p>}
    </section>
  );
}
