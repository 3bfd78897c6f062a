import { useState } from "react";
import type { Beat, BeatIn } from "../../api/client";
import { newId } from "../../local/outbox";
import { usePlaces } from "../../queries/places";
import { Choice } from "../../ui/choosing";
import { Button } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { DayField, faultOf, Rest, TextField } from "./fields";

const FLIES = [
  ["1", "one"],
  ["2", "two"],
  ["3", "three"],
] as const;

const WAYS = [
  [0, "N"],
  [45, "NE"],
  [90, "E"],
  [135, "SE"],
  [180, "S"],
  [225, "SW"],
  [270, "W"],
  [315, "NW"],
] as const;

const SPECIES = [
  ["brown trout", "brown trout"],
  ["rainbow trout", "rainbow trout"],
] as const;

const YES = [
  ["yes", "yes"],
  ["no", "no"],
] as const;

const yes = (value: boolean | undefined) => (value ? "yes" : "no");

/** Add a beat to the river of another, or change one: its name, and the rules that bind every rig advised on it. */
export function BeatSheet({
  beat,
  like,
  onClose,
  onRetired,
}: {
  beat: Beat | null;
  like: Beat;
  onClose: (id: string) => void;
  onRetired: () => void;
}) {
  const { beat: store } = usePlaces();
  const [id] = useState(() => beat?.id ?? newId());
  const [draft, setDraft] = useState<BeatIn>(() => ({
    river_id: like.river_id,
    name: beat?.name ?? "",
    position: beat?.position ?? like.position + 1,
    rules: like.rules,
    rules_text: beat?.rules_text ?? "",
    wading_allowed: like.wading_allowed,
    flows_to_deg: beat?.flows_to_deg ?? null,
    species: like.species,
    retired: false,
  }));
  const [typed, setTyped] = useState(false);
  const set = (change: Partial<BeatIn>) => {
    setTyped(true);
    setDraft({ ...draft, ...change });
  };
  const { rules } = draft;
  return (
    <Sheet
      title={beat ? `Change ${beat.name}` : `A new beat on the ${like.river}`}
      open
      entered={typed}
      onClose={() => onClose(like.id)}
    >
      <TextField
        label="Name"
        value={draft.name}
        onChange={(name) => set({ name })}
        error={faultOf(store.error, "name")}
      />
      <Choice
        label="Flies allowed"
        value={String(rules.max_flies ?? 2) as "1" | "2" | "3"}
        options={FLIES}
        onChange={(flies) => set({ rules: { ...rules, max_flies: Number(flies) } })}
      />
      <Choice
        label="Added weight (shot) allowed"
        value={yes(rules.added_weight)}
        options={YES}
        onChange={(answer) => set({ rules: { ...rules, added_weight: answer === "yes" } })}
      />
      <Choice
        label="Barbless only"
        value={yes(rules.barbless)}
        options={YES}
        onChange={(answer) => set({ rules: { ...rules, barbless: answer === "yes" } })}
      />
      <Choice
        label="Wading allowed"
        value={yes(draft.wading_allowed)}
        options={YES}
        onChange={(answer) => set({ wading_allowed: answer === "yes" })}
      />
      <Choice
        label="Lead allowed"
        value={yes(rules.lead)}
        options={YES}
        onChange={(answer) => set({ rules: { ...rules, lead: answer === "yes" } })}
      />
      <Choice
        label="All fish go back"
        value={yes(rules.release)}
        options={YES}
        onChange={(answer) => set({ rules: { ...rules, release: answer === "yes" } })}
      />
      <div className="grid grid-cols-2 gap-3">
        <DayField
          label="Open from"
          value={rules.season_first ?? null}
          onChange={(season_first) => set({ rules: { ...rules, season_first } })}
        />
        <DayField
          label="Open until"
          value={rules.season_last ?? null}
          onChange={(season_last) => set({ rules: { ...rules, season_last } })}
        />
      </div>
      <Choice
        label="The river runs towards (for sun and shade)"
        value={String(draft.flows_to_deg ?? "")}
        options={WAYS.map(([degrees, name]) => [String(degrees), name] as const)}
        onChange={(way) => set({ flows_to_deg: Number(way) })}
        clearable={() => set({ flows_to_deg: null })}
      />
      <Choice
        label="Mostly"
        value={draft.species ?? "brown trout"}
        options={SPECIES}
        onChange={(species) => set({ species })}
      />
      <TextField
        label="The fishery's own words"
        rows={3}
        value={draft.rules_text ?? ""}
        onChange={(rules_text) => set({ rules_text })}
        error={faultOf(store.error, "rules_text")}
      />
      <Rest error={store.error} fields={["name", "rules_text"]} />
      {beat && (
        <Button
          className="w-full"
          disabled={store.isPending}
          onClick={() => store.mutate({ id, body: { ...draft, retired: true } }, { onSuccess: onRetired })}
        >
          Not fished any more
        </Button>
      )}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={() => onClose(like.id)}>Leave it</Button>
        <Button
          look="main"
          disabled={store.isPending}
          onClick={() => store.mutate({ id, body: draft }, { onSuccess: () => onClose(id) })}
        >
          {beat ? "Change it" : "Add it"}
        </Button>
      </div>
    </Sheet>
  );
}
