/** Setting a rig by thumb: bead and depth, on the Rig and the Drift screen alike, and what is said of one that cannot be. */
import { type Limits, plainly, Refused, type RigKind, type Tuning } from "../../api/client";
import { Button } from "../../ui/parts";
import { Slider } from "../../ui/slider";
import { useUnits } from "../../units/context";

interface Props {
  kind: RigKind;
  tuning: Tuning;
  limits: Limits;
  onChange: (tuning: Tuning) => void;
}

export function SetIt({ kind, tuning, limits, onChange }: Props) {
  const { show, bead: beadOf } = useUnits();
  const beads = limits.beads_mm;
  return (
    <>
      <Slider
        label="Point bead"
        value={Math.max(0, beads.indexOf(tuning.point_bead_mm))}
        min={0}
        max={beads.length - 1}
        step={1}
        shown={beadOf(tuning.point_bead_mm)}
        onChange={(rung) => {
          const point_bead_mm = beads[rung];
          if (point_bead_mm !== undefined) onChange({ ...tuning, point_bead_mm });
        }}
      />
      <Slider
        label={kind === "euro" ? "Tippet, sighter to point fly" : "Float to point fly"}
        value={tuning.depth_setting_m}
        min={limits.least_m}
        max={limits.most_m}
        step={limits.step_m}
        shown={show(tuning.depth_setting_m, "m")}
        onChange={(value) => onChange({ ...tuning, depth_setting_m: Math.round(100 * value) / 100 })}
      />
    </>
  );
}

/** What was set but cannot hang stays set, and is said. */
export function Refusal({
  error,
  tuning,
  onChange,
}: {
  error: unknown;
  tuning: Tuning;
  onChange: (tuning: Tuning) => void;
}) {
  if (!error) return null;
  return (
    <div role="alert" className="mb-2 rounded-xl border-2 border-stop p-3">
      <p className="font-semibold text-stop">
        {error instanceof Refused
          ? error.faults.map(plainly).join(" · ")
          : "No answer from the service: the numbers below are of the last setting that had one."}
      </p>
      {error instanceof Refused && tuning.float && (
        <Button className="mt-2 w-full" onClick={() => onChange({ ...tuning, float: null })}>
          Take one that carries it
        </Button>
      )}
    </div>
  );
}
