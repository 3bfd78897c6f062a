import { useState } from "react";
import type { Column, ReadingIn } from "../../api/client";
import { Choice } from "../../ui/choosing";
import { Button, Panel } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";

type Found = NonNullable<ReadingIn["found"]>[number];

const RISES = [
  ["none", "none"],
  ["bubbles", "leave bubbles"],
  ["no_bubbles", "leave none"],
] as const;

export const LEVELS = {
  bottom: "on the bed",
  mid: "in midwater",
  mixed: "at several levels",
  surface: "at the top",
} as const;

const STAGES = {
  mayfly_nymph: "mayfly nymph",
  winged_mayfly: "winged mayfly",
  caddis_larva: "free caddis",
  cased_caddis: "cased caddis",
  caddis_pupa: "caddis pupa",
  stonefly_nymph: "stonefly nymph",
  midge_larva: "midge larva",
  midge_pupa: "midge pupa",
  shrimp: "shrimp",
  worm: "worm",
  egg: "fish egg",
} as const;

const SIZES = ["4", "6", "8", "11", "15", "25"].map((size) => [size, size] as const);
const WHERE = [
  ["bed", "the bed"],
  ["mid", "midwater"],
  ["top", "the top"],
] as const;
const MOST = 6;

const SAID = [
  ["signs", "by the signs"],
  ["bottom", "on the bed"],
  ["mid", "mid"],
  ["mixed", "several"],
  ["surface", "at the top"],
] as const;

/** A boil says that the bottom runs faster than the top: a nymph outruns its dry there. */
const BOIL = [
  ["no", "none"],
  ["yes", "the bottom outruns the top"],
] as const;

const REFUSE = [
  ["no", "no"],
  ["yes", "they turn away"],
] as const;

const SPAWN = [
  ["no", "no"],
  ["yes", "close by"],
] as const;

interface Props {
  undertow: boolean;
  refusing: boolean;
  spawning: boolean;
  feeding: NonNullable<ReadingIn["feeding"]> | null;
  rises: NonNullable<ReadingIn["rises"]>;
  found: Found[];
  column: Column | undefined;
  onChange: (
    change: Partial<Pick<ReadingIn, "rises" | "found" | "feeding" | "undertow" | "refusing" | "spawning">>,
  ) => void;
}

/** Rises and what the net brought up, and what they say of where fish feed. */
export function SignsPanel(props: Props) {
  const { undertow, refusing, spawning, feeding, rises, found, column, onChange } = props;
  const [netting, setNetting] = useState(false);
  return (
    <Panel title="Signs">
      <div className="space-y-3">
        <Choice label="Rises" value={rises} options={RISES} onChange={(next) => onChange({ rises: next })} />
        <ul className="space-y-1">
          {found.map((one, k) => (
            <li
              key={`${one.stage}${one.where}${one.body_mm}`}
              className="flex items-center justify-between gap-2"
            >
              <span>
                {STAGES[one.stage]}, {one.body_mm} mm, from {WHERE.find(([key]) => key === one.where)?.[1]}
              </span>
              <Button
                look="quiet"
                className="px-2"
                aria-label={`take ${STAGES[one.stage]} off`}
                onClick={() => onChange({ found: found.filter((_, n) => n !== k) })}
              >
                take off
              </Button>
            </li>
          ))}
        </ul>
        {found.length < MOST && (
          <Button className="w-full" onClick={() => setNetting(true)}>
            In the net…
          </Button>
        )}
        <Choice
          label="Where do they feed?"
          value={feeding ?? "signs"}
          options={SAID}
          onChange={(said) => onChange({ feeding: said === "signs" ? null : said })}
        />
        <Choice
          label="Boil or upwelling?"
          value={undertow ? "yes" : "no"}
          options={BOIL}
          onChange={(said) => onChange({ undertow: said === "yes" })}
        />
        <div className="grid gap-3 sm:grid-cols-2">
          <Choice
            label="Do they refuse the fly?"
            value={refusing ? "yes" : "no"}
            options={REFUSE}
            onChange={(said) => onChange({ refusing: said === "yes" })}
          />
          <Choice
            label="Fish spawning?"
            value={spawning ? "yes" : "no"}
            options={SPAWN}
            onChange={(said) => onChange({ spawning: said === "yes" })}
          />
        </div>
        {column && (
          <p>
            <b>They feed {LEVELS[column.level]}</b>
            {column.level_why ? `: ${column.level_why}.` : ", as you said."}
          </p>
        )}
      </div>
      {netting && (
        <NetSheet
          onClose={() => setNetting(false)}
          onAdd={(one) => {
            setNetting(false);
            onChange({ found: [...found, one] });
          }}
        />
      )}
    </Panel>
  );
}

/** One find: what, how long, from where. The last tap adds it. */
function NetSheet({ onAdd, onClose }: { onAdd: (one: Found) => void; onClose: () => void }) {
  const [stage, setStage] = useState<Found["stage"]>("mayfly_nymph");
  const [size, setSize] = useState("8");
  return (
    <Sheet title="What is in the net?" open onClose={onClose}>
      <div
        role="radiogroup"
        aria-label="What is in the net"
        className="grid grid-cols-[repeat(auto-fit,minmax(5.5rem,1fr))] gap-1.5"
      >
        {Object.entries(STAGES).map(([key, name]) => (
          // biome-ignore lint/a11y/useSemanticElements: a tile as large as a wet thumb
          <button
            key={key}
            type="button"
            role="radio"
            aria-checked={stage === key}
            onClick={() => setStage(key as Found["stage"])}
            className={`min-h-14 rounded-xl border px-1 leading-tight ${stage === key ? "border-ink bg-ink font-semibold text-ground" : "border-line bg-paper"}`}
          >
            {name}
          </button>
        ))}
      </div>
      <Choice label="Body, mm" value={size} options={SIZES} onChange={setSize} />
      <div>
        <div className="text-sm text-soft">Netted from</div>
        <div className="mt-0.5 grid grid-cols-3 gap-2">
          {WHERE.map(([where, words]) => (
            <Button
              key={where}
              className="min-h-18 px-1 text-lg"
              onClick={() => onAdd({ stage, body_mm: Number(size), where })}
            >
              {words.replace(/^./, (first) => first.toUpperCase())}
            </Button>
          ))}
        </div>
      </div>
    </Sheet>
  );
}
