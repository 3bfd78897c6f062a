import { useState } from "react";
import type { CatchIn } from "../../api/client";
import type { InHand } from "../../local/records";
import { Button, Choice, Slider } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { land } from "./useBank";

interface Props {
  drift: string;
  angler: string;
  setup: InHand;
  /** The rules of the beat: every fish goes back. */
  release: boolean;
  onClose: () => void;
}

const SPECIES = [
  ["brown trout", "brown"],
  ["rainbow trout", "rainbow"],
  ["grayling", "grayling"],
  ["other", "other"],
] as const;

const PHASES = [
  ["drop", "on the drop"],
  ["drift", "dead drift"],
  ["swing", "swing or lift"],
] as const;

const CONDITIONS = [
  ["strong", "strong"],
  ["tired", "tired"],
  ["hurt", "hurt"],
] as const;

const HOW = [
  ["eye", "by eye"],
  ["measured", "measured"],
  ["none", "not taken"],
] as const;

/** A fish without a keyboard. Nothing here is insisted on: closing the sheet keeps the drift as a fish. */
export function CatchSheet({ drift, angler, setup, release, onClose }: Props) {
  const { show } = useUnits();
  const [species, setSpecies] = useState<(typeof SPECIES)[number][0]>("brown trout");
  const [length, setLength] = useState(300);
  const [how, setHow] = useState<CatchIn["length_how"]>("eye");
  const [fly, setFly] = useState<CatchIn["fly"]>("point");
  const [phase, setPhase] = useState<CatchIn["phase"]>("drift");
  const [condition, setCondition] = useState<NonNullable<CatchIn["condition"]> | null>(null);
  const flies: (readonly [CatchIn["fly"], string])[] = [["point", "point fly"]];
  if (setup.setup.dropper_form) flies.push(["dropper", "dropper"]);
  if (setup.rig === "dry_dropper") flies.push(["dry", "dry"]);
  const save = async () => {
    await land(angler, {
      drift_id: drift,
      species,
      length_mm: how === "none" ? null : length,
      length_how: how,
      fly,
      phase,
      condition,
      undone: false,
    });
    onClose();
  };
  return (
    <Sheet title="The fish" open onClose={onClose}>
      <Choice label="Species" value={species} options={SPECIES} onChange={setSpecies} />
      <Choice label="Length" value={how} options={HOW} onChange={setHow} />
      {how !== "none" && (
        <Slider
          label="Long"
          value={length}
          min={80}
          max={800}
          step={10}
          shown={show(length, "fish")}
          onChange={setLength}
        />
      )}
      {flies.length > 1 && <Choice label="Took the" value={fly} options={flies} onChange={setFly} />}
      <Choice label="When" value={phase} options={PHASES} onChange={setPhase} />
      <Choice
        label="Swam off"
        value={condition}
        options={CONDITIONS}
        onChange={setCondition}
        clearable={() => setCondition(null)}
      />
      <p className="text-sm text-soft">
        {release && <b>All fish go back on this beat. </b>}
        Wet hands, keep it in the water, release it facing upstream. Don't measure a tired fish.
      </p>
      <div className="grid grid-cols-2 gap-2">
        <Button onClick={onClose}>Skip</Button>
        <Button look="main" onClick={save}>
          Into the book
        </Button>
      </div>
    </Sheet>
  );
}
