import { useState } from "react";
import { type DrySetup, plainly, Refused, type Situation } from "../../api/client";
import { useSetting } from "../../app/rigs";
import { NotHere } from "../../local/engine";
import { type Direction, dry as dryIt, fishOn, useDirection, useDried } from "../../local/habits";
import { tieDry, tuningOf, untie } from "../../local/inhand";
import { type DryInHand, device, type RigInHand } from "../../local/records";
import { hang } from "../../queries/water";
import { Button, Choice, Trouble } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";

interface Props {
  open: boolean;
  onClose: () => void;
  inHand: RigInHand;
  situation: Situation;
  /** The single dry that could be tied on instead; null where none is worth it. */
  dry: DrySetup | null;
  /** What the coach would set, a tap away. */
  suggested: { depth: number; bead: number | null } | null;
  /** Opened by the coach's word: it is what is to be set. Otherwise one starts from what hangs on the rod. */
  onCoach: boolean;
}

/** Fed down, a float slower than the bubbles is held back by its line, and says nothing of the water. */
const DIRECTIONS: readonly (readonly [Direction, string])[] = [
  ["up", "cast up"],
  ["down", "fed down"],
];

function Stepper({
  label,
  shown,
  less,
  more,
}: {
  label: string;
  shown: string;
  less: () => void;
  more: () => void;
}) {
  return (
    <div className="grid grid-cols-[4.5rem_1fr_4.5rem] items-center gap-2">
      <Button aria-label={`less ${label}`} className="min-h-16 text-3xl" onClick={less}>
        −
      </Button>
      <div className="text-center">
        <div className="text-sm text-soft">{label}</div>
        <div className="text-2xl font-bold" aria-live="polite">
          {shown}
        </div>
      </div>
      <Button aria-label={`more ${label}`} className="min-h-16 text-3xl" onClick={more}>
        +
      </Button>
    </div>
  );
}

/** What is said of the drifts to come, whatever is on the rod: cast up or fed down, and that the dry was dried. */
function HowFished({ dries }: { dries: boolean }) {
  const direction = useDirection();
  const dried = useDried();
  return (
    <>
      <Choice
        label="How it is fished"
        value={direction ?? null}
        options={DIRECTIONS}
        onChange={(next) => void fishOn(next)}
      />
      {dries && (
        <Button className="w-full" disabled={dried} onClick={() => void dryIt()}>
          {dried ? "Dried: the next drift starts anew" : "I have dried the dry"}
        </Button>
      )}
    </>
  );
}

/** Under a single dry there is nothing to set: what is said of it, and the way back to a rig. */
export function DrySheet({
  inHand,
  advised,
  onClose,
}: {
  inHand: DryInHand;
  /** What goes on instead where nothing was on before it. */
  advised: RigInHand | null;
  onClose: () => void;
}) {
  const said = useSetting();
  const rig = inHand.before ?? advised;
  return (
    <Sheet title={said(inHand)} open onClose={onClose}>
      <p>Nothing hangs under it: there is no depth and no weight to set.</p>
      <HowFished dries />
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>Leave it</Button>
        {rig && (
          <Button look="main" onClick={() => void untie(rig).then(onClose)}>
            {inHand.before ? "Back to" : "Change to"} {said(rig)}
          </Button>
        )}
      </div>
    </Sheet>
  );
}

/** Depth and bead, by steps. The next drift is logged under the new setting. */
export function ChangeSheet({ open, onClose, inHand, situation, dry, suggested, onCoach }: Props) {
  const { show, bead: beadOf } = useUnits();
  const [change, setChange] = useState<{ depth: number; bead: number | null } | null>(null);
  const [error, setError] = useState<unknown>(null);
  const rod = { depth: inHand.depth_setting_m, bead: inHand.point_bead_mm };
  const { depth, bead } = change ?? (onCoach && suggested ? suggested : rod);
  const close = () => {
    setChange(null);
    setError(null);
    onClose();
  };
  const set = async () => {
    const tuning = { ...tuningOf(inHand.rig, inHand.setup), depth_setting_m: depth, point_bead_mm: bead };
    let setup = { ...inHand.setup, depth_setting_m: depth, point_bead_mm: bead };
    try {
      setup = (await hang(situation, tuning)).setup ?? setup;
      // the fly stays on where only the line is changed, also one that was tied on for another
      const { point_form, point_hook, point_dressing } = inHand.setup;
      if (bead === rod.bead) setup = { ...setup, point_form, point_hook, point_dressing };
    } catch (problem) {
      // with neither signal nor engine the change is written down as made; a refusal is shown
      if (!(problem instanceof NotHere)) {
        setError(problem);
        return;
      }
    }
    const at = new Date().toISOString();
    await device.inHand.put({ ...inHand, depth_setting_m: depth, point_bead_mm: bead, setup, at });
    close();
  };
  const { limits } = inHand;
  if (!limits)
    return (
      <Sheet title="Change setting" open={open} onClose={close}>
        <p>
          This rig was set on another device, and how far it can be changed is not known on this one yet. It
          is once there is signal.
        </p>
        <Button onClick={close}>Leave it</Button>
      </Sheet>
    );
  const { least_m, most_m, step_m, beads_mm } = limits;
  const longer = (by: number) =>
    setChange({ bead, depth: Math.round(100 * Math.min(most_m, Math.max(least_m, depth + by))) / 100 });
  const rung = (by: number) => {
    const to = beads_mm[beads_mm.indexOf(bead) + by];
    if (to !== undefined) setChange({ depth, bead: to });
  };
  return (
    <Sheet title="Change setting" open={open} onClose={close}>
      <Stepper
        label={inHand.rig === "euro" ? "tippet" : "float to point fly"}
        shown={show(depth, "m")}
        less={() => longer(-step_m)}
        more={() => longer(step_m)}
      />
      <Stepper label="point bead" shown={beadOf(bead)} less={() => rung(-1)} more={() => rung(1)} />
      <HowFished dries={inHand.rig === "dry_dropper"} />
      {dry && (
        <Button className="w-full" onClick={() => void tieDry(inHand.lie, dry, inHand).then(close)}>
          Tie on a single dry: {dry.float}
        </Button>
      )}
      {suggested && !onCoach && (
        <Button className="w-full" onClick={() => setChange(suggested)}>
          The coach's: {show(suggested.depth, "m")} with {beadOf(suggested.bead)}
        </Button>
      )}
      {error !== null && (
        <Trouble
          error={error instanceof Refused ? new Error(error.faults.map(plainly).join(" · ")) : error}
        />
      )}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={close}>Leave it</Button>
        <Button look="main" onClick={set}>
          Set it
        </Button>
      </div>
    </Sheet>
  );
}
