import { useState } from "react";
import * as bounds from "../../api/bounds";
import type { Line } from "../../local/logbook";
import { Choice } from "../../ui/choosing";
import { Button, NumberField } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { type SetTo, setWith, type Which } from "./moving";

const DEPTH = bounds.SettingIn.depth_setting_m;
const BEAD = bounds.SettingIn.point_bead_mm;

interface Props {
  line: Line;
  lines: readonly Line[];
  onSay: (moved: Line[], set: SetTo) => void;
}

/** What hung on the rod was written down wrong: line and bead as they were, of this drift or of more under the same setting. */
export function SetOtherwise({ line, lines, onSay }: Props) {
  const { show } = useUnits();
  const { body } = line.setting;
  const [which, setWhich] = useState<Which>("all");
  const [said, setSaid] = useState<Partial<SetTo>>({});
  if (body.rig === "dry") return null;
  const { depth_setting_m: depth, point_bead_mm: bead } = { ...body, ...said };
  const wrong = (value: number | null, { min, max }: { min: number; max: number }, unit: "m" | "bead") =>
    value === null || (value >= min && value <= max)
      ? undefined
      : `Between ${show(min, unit)} and ${show(max, unit)}.`;
  const errors = [wrong(depth, DEPTH, "m"), wrong(bead ?? null, BEAD, "bead")];
  const same = depth === body.depth_setting_m && (bead ?? null) === (body.point_bead_mm ?? null);
  const spans = (["this", "on", "all"] as const).map(
    (what) => [what, setWith(line, lines, what).length] as const,
  );
  const names = { this: "this drift", on: "from here on", all: "all under it" };
  return (
    <details>
      <summary className="min-h-14 content-center">It was set differently</summary>
      <div className="space-y-2">
        <NumberField
          label="Set to"
          unit="m"
          value={depth}
          onCommit={(value) => setSaid({ ...said, depth_setting_m: value })}
          error={errors[0]}
        />
        <NumberField
          label="Point bead"
          unit="bead"
          value={bead ?? null}
          onCommit={(value) => setSaid({ ...said, point_bead_mm: value })}
          error={errors[1]}
        />
        {setWith(line, lines, "all").length > 1 && (
          <Choice
            label="Set so for"
            value={which}
            options={spans.map(([what, n]) => [what, what === "this" ? names[what] : `${names[what]}: ${n}`])}
            onChange={setWhich}
          />
        )}
        <Button
          className="w-full"
          disabled={same || errors.some((one) => one !== undefined)}
          onClick={() => {
            setSaid({});
            onSay(setWith(line, lines, which), { depth_setting_m: depth, point_bead_mm: bead ?? null });
          }}
        >
          That is how it was
        </Button>
      </div>
    </details>
  );
}
