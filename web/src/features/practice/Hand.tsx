import type { Cast, PracticeWater } from "../../api/client";
import { Choice } from "../../ui/choosing";
import { Slider } from "../../ui/slider";
import { useUnits } from "../../units/context";

const KINDS = { euro: "Euro", indicator: "Indicator", dry_dropper: "Dry-dropper" } as const;
const ENTRIES = [
  ["straight", "straight"],
  ["tuck", "tuck"],
  ["heap", "heap"],
] as const;
const MENDS = [
  ["none", "no mend"],
  ["upstream", "upstream"],
  ["downstream", "downstream"],
] as const;
const WAYS = [
  ["up", "cast up"],
  ["down", "fed down"],
] as const;

const LEAST_M = 0.3;
const MOST_M = 3.5;
const STEP_M = 0.05;
const MOST_UP_M = 8;

/** What is in the hand for the next cast: as much of it as the drill gives. */
export function Hand({
  water,
  hand,
  onChange,
}: {
  water: PracticeWater;
  hand: Cast;
  onChange: (hand: Cast) => void;
}) {
  const { show, bead } = useUnits();
  const gives = (one: PracticeWater["drill"]["controls"][number]) => water.drill.controls.includes(one);
  const set = (change: Partial<Cast>) => onChange({ ...hand, ...change });
  const beads: readonly (readonly [string, string])[] = water.beads_mm.map((mm) => [String(mm), bead(mm)]);
  return (
    <div className="grid gap-x-4 gap-y-2 sm:grid-cols-2">
      {gives("lane") && water.lanes.length > 1 && (
        <Choice
          label="Where"
          stacked
          value={String(hand.lane)}
          options={water.lanes.map((one, k) => [String(k + 1), one.name])}
          onChange={(lane) => set({ lane: Number(lane) })}
        />
      )}
      {gives("rig") && water.starts.length > 1 && (
        <Choice
          label="Rig"
          value={hand.rig}
          options={water.starts.map((one) => [one.rig, KINDS[one.rig]])}
          onChange={(rig) => {
            const start = water.starts.find((one) => one.rig === rig);
            if (start && rig !== hand.rig) set(start);
          }}
        />
      )}
      {gives("setting") && (
        <Slider
          label={hand.rig === "euro" ? "Sighter to point fly" : "Float to point fly"}
          value={hand.depth_setting_m}
          min={LEAST_M}
          max={MOST_M}
          step={STEP_M}
          shown={show(hand.depth_setting_m, "m")}
          onChange={(value) => set({ depth_setting_m: Math.round(100 * value) / 100 })}
        />
      )}
      {gives("bead") && beads.length > 0 && (
        <Choice
          label="Bead of the point fly"
          value={hand.point_bead_mm === null ? null : String(hand.point_bead_mm)}
          options={beads}
          onChange={(mm) => set({ point_bead_mm: Number(mm) })}
        />
      )}
      {gives("up") && (
        <Slider
          label="Land it above the fish"
          value={hand.up_m ?? 0}
          min={0}
          max={MOST_UP_M}
          step={0.5}
          shown={show(hand.up_m ?? 0, "m", 1)}
          onChange={(up_m) => set({ up_m })}
        />
      )}
      {gives("entry") && (
        <Choice
          label="It lands"
          value={hand.entry ?? "straight"}
          options={ENTRIES}
          onChange={(entry) => set({ entry })}
        />
      )}
      {gives("mend") && hand.rig !== "euro" && (
        <Choice
          label="Mend as it lands"
          value={hand.mend ?? "none"}
          options={MENDS}
          onChange={(mend) => set({ mend })}
        />
      )}
      {gives("direction") && hand.rig !== "euro" && (
        <Choice
          label="Which way"
          value={hand.direction ?? "up"}
          options={WAYS}
          onChange={(direction) => set({ direction })}
        />
      )}
    </div>
  );
}
