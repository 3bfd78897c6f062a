import { useState } from "react";
import { useLocation } from "wouter";
import type { Beat, Lie, LieIn } from "../../api/client";
import { address } from "../../app/addresses";
import { KINDS } from "../../app/lie";
import { newId } from "../../local/outbox";
import { usePlaces } from "../../queries/places";
import { Choice } from "../../ui/choosing";
import { Button, NumberField } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { faultOf, Rest, TextField } from "./fields";
import { notAPlace, PlaceField, placeOf, placeText } from "./place";

const BEDS = [
  ["sand", "sand"],
  ["gravel", "gravel"],
  ["cobble", "cobble"],
  ["boulder", "boulder"],
] as const;

const APART_M = 20;

/** Where the next lie would stand: a cast above the last. */
const next = (beat: Beat): number => Math.max(0, ...beat.lies.map((lie) => lie.along_m + APART_M));

/** Add a lie to a beat, or change one. */
export function LieSheet({ beat, lie, onClose }: { beat: Beat; lie: Lie | null; onClose: () => void }) {
  const { lie: store } = usePlaces();
  const [id] = useState(() => lie?.id ?? newId());
  const [draft, setDraft] = useState<LieIn>(() => ({
    beat_id: beat.id,
    name: lie?.name ?? "",
    kind: lie?.kind ?? "run",
    bed: lie?.bed ?? "gravel",
    along_m: lie?.along_m ?? next(beat),
    notes: lie?.notes ?? "",
    latitude: lie?.latitude ?? null,
    longitude: lie?.longitude ?? null,
    retired: false,
  }));
  const [place, setPlace] = useState(() => placeText(lie));
  const [lost, setLost] = useState<string>();
  const [typed, setTyped] = useState(false);
  const [, navigate] = useLocation();
  const set = (change: Partial<LieIn>) => {
    setTyped(true);
    setDraft({ ...draft, ...change });
  };
  const save = (body: LieIn) => store.mutate({ id, body }, { onSuccess: onClose });
  const saveAsTyped = () => {
    const found = place.trim() ? placeOf(place) : [null, null];
    if (found) save({ ...draft, latitude: found[0] ?? null, longitude: found[1] ?? null });
    else setLost(notAPlace(place));
  };
  return (
    <Sheet
      title={lie ? `Change ${lie.name}` : `A new lie on ${beat.name}`}
      open
      onClose={onClose}
      entered={typed}
    >
      <TextField
        label="Name"
        value={draft.name}
        onChange={(name) => set({ name })}
        error={faultOf(store.error, "name")}
      />
      <div>
        <div className="text-sm text-soft" id="kind-of-water">
          What is it?
        </div>
        <div role="radiogroup" aria-labelledby="kind-of-water" className="mt-0.5 grid grid-cols-3 gap-1.5">
          {Object.entries(KINDS).map(([kind, name]) => (
            // biome-ignore lint/a11y/useSemanticElements: a tile as large as a wet thumb
            <button
              key={kind}
              type="button"
              role="radio"
              aria-checked={draft.kind === kind}
              onClick={() => set({ kind: kind as Lie["kind"] })}
              className={`min-h-14 rounded-xl border px-1 leading-tight ${draft.kind === kind ? "border-ink bg-ink font-semibold text-ground" : "border-line bg-paper"}`}
            >
              {name}
            </button>
          ))}
        </div>
      </div>
      <Choice label="Bed" value={draft.bed} options={BEDS} onChange={(bed) => set({ bed })} />
      <NumberField
        label="How far up the beat"
        unit="reach"
        value={draft.along_m}
        onCommit={(along_m) => set({ along_m })}
        error={faultOf(store.error, "along_m")}
      />
      <TextField
        label="What to remember"
        rows={2}
        value={draft.notes ?? ""}
        onChange={(notes) => set({ notes })}
        error={faultOf(store.error, "notes")}
      />
      <PlaceField
        label="On the map (not needed)"
        value={place}
        error={lost ?? faultOf(store.error, "latitude") ?? faultOf(store.error, "longitude")}
        onChange={(value, why) => {
          setTyped(true);
          setPlace(value);
          setLost(why);
        }}
      />
      <Rest error={store.error} fields={["name", "along_m", "notes", "latitude", "longitude"]} />
      {lie && (
        <Button
          className="w-full"
          disabled={store.isPending}
          onClick={() =>
            store.mutate(
              { id, body: { ...draft, name: lie.name, retired: true } },
              { onSuccess: () => navigate(address.beat(beat.id)) },
            )
          }
        >
          Not fished any more
        </Button>
      )}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button look="main" onClick={saveAsTyped} disabled={store.isPending}>
          {lie ? "Change it" : "Add it"}
        </Button>
      </div>
    </Sheet>
  );
}
