/** What the drifts say: the next change, why, and the rule of thumb's word beside it. */
import type { Coaching } from "../../api/client";
import { RIG } from "../../app/rigs";
import { useEngineHere } from "../../queries/water";
import { useOnline } from "../../ui/online";
import { Button } from "../../ui/parts";
import { useUnits } from "../../units/context";

/** Who worked it out, the service or the core on this device, and after how many drifts. */
export interface By {
  by: "service" | "device";
  after: number;
}

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

/** Whether something else is to be tied on: another fly, or another rig. */
export const ties = (coaching: Coaching | undefined): boolean =>
  ["change_fly", "change_rig"].includes(coaching?.advice.action ?? "");

/** Whether this lie has had its time: what is left of the day says where to go. */
export const leaves = (coaching: Coaching | undefined): boolean => coaching?.advice.action === "move_on";

/** What is to be tied on, as short as it goes on a key. */
export const tied = ({ advice }: Coaching): string =>
  advice.action === "change_rig" ? RIG[advice.rig] : `${advice.point_form}, size ${advice.point_hook}`;

/** What to do next, where the eye is between two drifts. */
export function CoachDo({
  coaching,
  busy,
  onChange,
}: {
  coaching: Coaching & By;
  /** The last drift is still being thought about: this is the word on those before it. */
  busy: boolean;
  onChange: () => void;
}) {
  const { show, say, bead: beadOf } = useUnits();
  const { advice, notes } = coaching;
  if (!changes(coaching) && !ties(coaching) && !leaves(coaching))
    return (
      <p
        data-testid="coach"
        data-after={coaching.after}
        aria-busy={busy}
        aria-live="polite"
        className="px-1 text-lg leading-tight font-bold"
      >
        Coach: {DO[advice.action].toLowerCase()}
        {/* its line is kept, so that the word stands still when a note comes or goes */}
        <span className="block h-5 truncate text-sm font-normal text-caution">
          {notes[0] && say(notes[0])}
        </span>
      </p>
    );
  return (
    <button
      type="button"
      onClick={onChange}
      data-testid="coach"
      data-after={coaching.after}
      aria-busy={busy}
      aria-live="polite"
      className="@container h-14 w-full rounded-xl border-2 border-signal bg-paper px-3 text-left leading-tight font-bold"
    >
      {leaves(coaching) ? (
        <span className="text-[min(1.125rem,8cqi)]">{DO[advice.action]}: the day says where to</span>
      ) : ties(coaching) ? (
        <span className="line-clamp-2 text-[min(1rem,6cqi)]">
          {DO[advice.action]}: {tied(coaching)}
        </span>
      ) : (
        // a float is one word more: larger text has room for a third line
        <span className={`${advice.float ? "line-clamp-3" : "line-clamp-2"} text-[min(1.125rem,8cqi)]`}>
          {DO[advice.action]} to {show(advice.depth_setting_m, "m")} with {beadOf(advice.point_bead_mm)}
          {advice.float && `, ${advice.float}`}
        </span>
      )}
    </button>
  );
}

/** Why, and the rule of thumb's word beside it. */
export function CoachWhy({ coaching, onAhead }: { coaching: Coaching & By; onAhead: () => void }) {
  const { say } = useUnits();
  const online = useOnline();
  const engine = useEngineHere();
  const { advice, rule_of_thumb: thumb, notes } = coaching;
  return (
    <section aria-label="Coach" className="rounded-xl bg-paper px-3 py-2">
      <p className="leading-snug">{say(advice.reason)}</p>
      {notes.map((note) => (
        <p key={note} className="text-caution">
          {say(note)}
        </p>
      ))}
      {coaching.by === "device" && <p className="text-sm text-soft">Worked out on this device.</p>}
      {thumb && <p className="text-sm text-soft">Rule of thumb: {say(thumb.reason)}</p>}
      {(online || engine) && (
        <Button className="mt-2 w-full" onClick={onAhead}>
          What comes next
        </Button>
      )}
    </section>
  );
}
