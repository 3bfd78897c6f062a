import type { Bottom, Situation, Tuning } from "../../api/client";
import { useCoach } from "../../queries/coach";
import { Button } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { FIRST } from "../bank/spots";

/**
 * What the coach would begin with in place of the rig that is advised: with a depth that is not surely known, a fly that finds the
 * bottom soon is worth more than the one that fishes best once it is known. Its place is kept while it is worked out.
 */
export function BeginWith({
  lie,
  situation,
  bottom,
  advised,
  tuning,
  onTake,
}: {
  lie: string;
  situation: Situation;
  /** What was found of it spot by spot: the bank asks with the same. */
  bottom: Bottom[];
  advised: Tuning;
  /** As it is set now. */
  tuning: Tuning;
  onTake: (tuning: Tuning) => void;
}) {
  const { show, say, bead: beadOf } = useUnits();
  const { data, isPlaceholderData, isError } = useCoach(lie, {
    situation,
    rig: advised.rig,
    drifts: [],
    tuning: advised,
    ...FIRST,
    bottom,
    hangs: false,
  });
  // what was said of another rig is not said of this one
  const said = isPlaceholderData ? undefined : data?.advice;
  const { depth_setting_m, point_bead_mm } = said ?? advised;
  const set = tuning.point_bead_mm === point_bead_mm && tuning.depth_setting_m === depth_setting_m;
  const asAdvised = said?.action === "hold";
  return (
    <div className="my-2 min-h-42 max-[359px]:min-h-45" aria-live="polite">
      <Button
        className="w-full"
        disabled={!said || set}
        // the float is chosen anew for the weight
        onClick={() =>
          onTake(asAdvised ? advised : { ...advised, depth_setting_m, point_bead_mm, float: null })
        }
      >
        {said && set ? "Set as the coach would begin:" : "Begin with"}
        {said && ` ${beadOf(point_bead_mm)} at ${show(depth_setting_m, "m")}`}
      </Button>
      <p className="mt-1 text-sm text-soft">
        {!said &&
          (isError
            ? "What the coach would begin with could not be worked out."
            : "What the coach would begin with is being worked out.")}
        {asAdvised && "The coach would begin as advised."}
        {said && !asAdvised && <>For the first drifts, until the bottom is felt. {say(said.reason)}</>}
      </p>
    </div>
  );
}
