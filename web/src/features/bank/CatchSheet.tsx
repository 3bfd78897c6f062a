import { useState } from "react";
import * as bounds from "../../api/bounds";
import type { CatchIn } from "../../api/client";
import type { Line } from "../../local/logbook";
import type { Bodies, InHand } from "../../local/records";
import { Choice } from "../../ui/choosing";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { Slider } from "../../ui/slider";
import { useUnits } from "../../units/context";
import { correctFish, land } from "./useBank";

interface Props {
  drift: string;
  angler: string;
  /** What it took on. */
  on: InHand | Bodies["settings"];
  /** The rules of the beat: every fish goes back. */
  release: boolean;
  /** A fish that is in the book already, to be corrected. */
  known?: Line["fish"][number] | null;
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

type Species = (typeof SPECIES)[number][0];

/** Where the slider stands before it is touched. */
const MIDDLING_MM = 300;

/** A fish without a keyboard. Nothing here is insisted on: closing the sheet keeps the drift as a fish. */
export function CatchSheet({ drift, angler, on, release, known = null, onClose }: Props) {
  const { show } = useUnits();
  const before = known?.body;
  const [species, setSpecies] = useState(
    SPECIES.find(([key]) => key === before?.species)?.[0] ?? ("brown trout" as Species),
  );
  const [length, setLength] = useState<number | null>(before?.length_mm ?? null);
  const [how, setHow] = useState<CatchIn["length_how"]>(before?.length_how ?? "none");
  const [fly, setFly] = useState<CatchIn["fly"]>(before?.fly ?? (on.rig === "dry" ? "dry" : "point"));
  const [phase, setPhase] = useState<CatchIn["phase"]>(before?.phase ?? "drift");
  const [condition, setCondition] = useState<NonNullable<CatchIn["condition"]> | null>(
    before?.condition ?? null,
  );
  const flies: (readonly [CatchIn["fly"], string])[] = [];
  if (on.rig !== "dry") flies.push(["point", "point fly"]);
  if (on.rig !== "dry" && on.setup.dropper_form) flies.push(["dropper", "dropper"]);
  if (on.rig.startsWith("dry")) flies.push(["dry", "dry"]);
  const said = JSON.stringify([species, length, how, fly, phase, condition]);
  const [first] = useState(said);
  const save = async () => {
    // a length that nobody touched was not taken
    const taken = how === "none" ? null : length;
    const fish = {
      drift_id: drift,
      species,
      length_mm: taken,
      length_how: taken === null ? ("none" as const) : how,
      fly,
      phase,
      condition,
      undone: false,
    };
    await (known ? correctFish(angler, known, fish) : land(angler, fish));
    onClose();
  };
  return (
    <Sheet title="The fish" open onClose={onClose} entered={said !== first}>
      <Choice label="Species" value={species} options={SPECIES} onChange={setSpecies} />
      <Choice label="Length" value={how} options={HOW} onChange={setHow} />
      {how !== "none" && (
        <Slider
          label="Long"
          value={length ?? MIDDLING_MM}
          {...bounds.CatchIn.length_mm}
          step={10}
          shown={length === null ? "slide to its length" : show(length, "fish")}
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
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>Skip</Button>
        <Button look="main" onClick={save}>
          Into the book
        </Button>
      </div>
    </Sheet>
  );
}
