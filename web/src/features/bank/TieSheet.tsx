import { useState } from "react";
import type { Coaching, Ranked, Situation } from "../../api/client";
import { NotHere } from "../../local/engine";
import { tuningOf } from "../../local/inhand";
import { device, type RigInHand } from "../../local/records";
import { hang } from "../../queries/water";
import { Button, Trouble } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { tied } from "./CoachLine";

interface Props {
  coaching: Coaching;
  inHand: RigInHand;
  situation: Situation;
  /** The other rig as it is advised here, with all its parts; null where that is not known here. */
  known: Ranked | null;
  onClose: () => void;
}

/** Another fly or another rig, as the coach says: the next drift is logged with it. */
export function TieSheet({ coaching, inHand, situation, known, onClose }: Props) {
  const { show, say, bead: beadOf } = useUnits();
  const [error, setError] = useState<unknown>(null);
  const { advice } = coaching;
  const other = advice.action === "change_rig";
  const depth_setting_m = (other && advice.start_setting_m) || advice.depth_setting_m;
  const starts = other && advice.start_setting_m != null;
  const point_bead_mm = starts ? (advice.start_bead_mm ?? null) : advice.point_bead_mm;
  const fly = async () => {
    const { point_form, point_hook, point_dressing } = advice;
    if (point_form == null || point_hook == null || point_dressing == null) return;
    const setup = { ...inHand.setup, point_form, point_hook, point_dressing };
    await device.inHand.put({ ...inHand, setup, at: new Date().toISOString() });
  };
  const rig = async () => {
    // the coach says where to start with it; how many flies, how far apart and on what tippet is the advice's
    const parts = known?.setup ? tuningOf(advice.rig, known.setup) : { rig: advice.rig, shot_g: 0 };
    const { setup } = await hang(situation, { ...parts, depth_setting_m, point_bead_mm, float: null });
    if (!setup) return;
    const at = new Date().toISOString();
    const limits = known?.limits ?? null;
    await device.inHand.put({
      ...{ lie: inHand.lie, rig: advice.rig, depth_setting_m, point_bead_mm, setup, limits, at },
    });
  };
  const tie = () =>
    (other ? rig() : fly()).then(onClose, (problem: unknown) =>
      setError(
        problem instanceof NotHere
          ? new Error("How this rig is made up is worked out once there is signal.")
          : problem,
      ),
    );
  return (
    <Sheet title={`Tie on: ${tied(coaching)}`} open onClose={onClose}>
      <p className="text-2xl font-bold">
        {show(depth_setting_m, "m")} · {beadOf(point_bead_mm)}
      </p>
      <p>{say(advice.reason)}</p>
      {error !== null && <Trouble error={error} />}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button look="main" onClick={tie}>
          It is tied on
        </Button>
      </div>
    </Sheet>
  );
}
