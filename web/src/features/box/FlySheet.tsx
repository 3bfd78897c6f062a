/** A fly by taps: form, bead, hook, dressing, how many; and a tank test for those who have timed it. */
import { useState } from "react";
import type { Box, BoxItem, NymphIn } from "../../api/client";
import { newId } from "../../local/outbox";
import { useFillBox } from "../../queries/box";
import { Choice } from "../../ui/choosing";
import { Button, NumberField } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { Slider } from "../../ui/slider";
import { useUnits } from "../../units/context";
import { faultOf, Rest, TextField } from "../setup/fields";
import { bodyOf } from "./bodies";

const FRESH: NymphIn = {
  kind: "nymph",
  form: "dubbed mayfly nymph",
  hook: 14,
  bead_mm: 3,
  material: "tungsten",
  dressing: "dubbed",
  tone: "natural",
  mark: "none",
  count: 3,
  tank: null,
};

export function FlySheet({ box, item, onClose }: { box: Box; item: BoxItem | null; onClose: () => void }) {
  const { show } = useUnits();
  const { put, drop } = useFillBox();
  const [id] = useState(() => item?.id ?? newId());
  const known = item ? bodyOf(item) : FRESH;
  const first = known.kind === "nymph" ? known : FRESH;
  const [draft, setDraft] = useState<NymphIn>(first);
  const set = (change: Partial<NymphIn>) => setDraft({ ...draft, ...change });
  const takeOut = () => item && drop.mutate(item.id, { onSuccess: onClose });
  if (item && item.kind !== "nymph")
    return (
      <Sheet title={item.form} open onClose={onClose}>
        <p>{item.left} in the box.</p>
        <div className="grid grid-cols-2 gap-2">
          <Button onClick={takeOut}>Take the kind out</Button>
          <Button look="main" onClick={onClose}>
            Leave it
          </Button>
        </div>
      </Sheet>
    );
  const tank = draft.tank;
  return (
    <Sheet
      title={item ? item.words : "A fly for the box"}
      open
      onClose={onClose}
      entered={JSON.stringify(draft) !== JSON.stringify(first)}
    >
      <div role="radiogroup" aria-label="Form" className="grid grid-cols-2 gap-1.5 sm:grid-cols-3">
        {box.forms.map((form) => (
          // biome-ignore lint/a11y/useSemanticElements: a tile as large as a wet thumb
          <button
            key={form}
            type="button"
            role="radio"
            aria-checked={draft.form === form}
            onClick={() => set({ form })}
            className={`min-h-14 rounded-xl border px-1 text-sm leading-tight ${draft.form === form ? "border-ink bg-ink font-semibold text-ground" : "border-line bg-paper"}`}
          >
            {form}
          </button>
        ))}
      </div>
      <TextField
        label="Or in your own words"
        value={draft.form}
        onChange={(form) => set({ form })}
        error={faultOf(put.error, "nymph.form")}
      />
      <Choice
        label="Bead, mm"
        value={String(draft.bead_mm ?? 0)}
        options={[0, ...box.beads_mm].map(
          (bead) => [String(bead), bead === 0 ? "none" : bead.toFixed(1)] as const,
        )}
        onChange={(bead) => set({ bead_mm: Number(bead) || null })}
      />
      <Choice
        label="Bead of"
        value={draft.material ?? "tungsten"}
        options={[
          ["tungsten", "tungsten"],
          ["brass", "brass"],
        ]}
        onChange={(material) => set({ material })}
      />
      <Slider
        label="Size"
        value={Math.max(
          0,
          box.hooks.findIndex((hook) => hook >= draft.hook),
        )}
        min={0}
        max={box.hooks.length - 1}
        step={1}
        shown={String(draft.hook)}
        onChange={(k) => set({ hook: box.hooks[k] ?? draft.hook })}
      />
      <Choice
        label="In all"
        value={draft.tone ?? "natural"}
        options={[
          ["natural", "natural"],
          ["bright", "bright"],
          ["dark", "dark"],
        ]}
        onChange={(tone) => set({ tone })}
      />
      <Choice
        label="Bright on it"
        value={draft.mark ?? "none"}
        options={[
          ["none", "nothing"],
          ["collar", "a collar"],
          ["tag", "a tag"],
        ]}
        onChange={(mark) => set({ mark })}
      />
      <Choice
        label="Dressed"
        value={draft.dressing ?? "dubbed"}
        options={[
          ["slim", "slim, varnished"],
          ["dubbed", "dubbed"],
          ["soft", "bushy or soft"],
        ]}
        onChange={(dressing) => set({ dressing })}
      />
      <Slider
        label="How many"
        value={draft.count}
        min={0}
        max={24}
        step={1}
        shown={String(draft.count)}
        onChange={(count) => set({ count })}
      />
      <section className="rounded-xl border border-line p-3">
        <h3 className="font-semibold">Tank test</h3>
        <p className="text-sm text-soft">
          Drop it in still water and time it over a known depth: what it drags is then measured, not guessed.
          {item?.drag_factor ? ` Drags ${item.drag_factor.toFixed(1)} × a bare cylinder.` : ""}
        </p>
        {tank ? (
          <div className="mt-2 grid grid-cols-2 gap-2">
            <NumberField
              label="Depth"
              unit="m"
              value={tank.depth_m}
              onCommit={(depth_m) => set({ tank: { ...tank, depth_m } })}
              error={faultOf(put.error, "nymph.tank.depth_m")}
            />
            <NumberField
              label="Time"
              unit="s"
              value={tank.time_s}
              onCommit={(time_s) => set({ tank: { ...tank, time_s } })}
              error={faultOf(put.error, "nymph.tank.time_s") ?? faultOf(put.error, "tank.time_s")}
            />
            <Button className="col-span-2" onClick={() => set({ tank: null })}>
              Forget the test
            </Button>
          </div>
        ) : (
          <Button
            className="mt-2 w-full"
            onClick={() => set({ tank: { depth_m: 0.5, time_s: 1.4, temperature_c: 15 } })}
          >
            I have timed it over {show(0.5, "m")}
          </Button>
        )}
      </section>
      <Rest
        error={put.error}
        fields={["nymph.form", "nymph.tank.depth_m", "nymph.tank.time_s", "tank.time_s"]}
      />
      <div className="grid grid-cols-2 gap-2">
        <Button onClick={item ? takeOut : onClose}>{item ? "Take it out" : "Leave it"}</Button>
        <Button
          look="main"
          disabled={put.isPending}
          onClick={() => put.mutate({ id, body: draft }, { onSuccess: onClose })}
        >
          {item ? "Count it so" : "Put it in"}
        </Button>
      </div>
    </Sheet>
  );
}
