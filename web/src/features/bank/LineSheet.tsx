import { useLiveQuery } from "dexie-react-hooks";
import { useState } from "react";
import type { Lie, Outcome, Pace } from "../../api/client";
import { useSetting } from "../../app/rigs";
import type { Of } from "../../local/entries";
import { hasTwoNymphs } from "../../local/inhand";
import type { Line } from "../../local/logbook";
import { Choice } from "../../ui/choosing";
import { Button, Trouble } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { CatchSheet } from "./CatchSheet";
import { movedWith, type Which, waterAt } from "./moving";
import { SetOtherwise } from "./SetOtherwise";
import { keptFrom } from "./spots";
import { correct, correctFish, forgetBottom, moveTo, setOtherwise } from "./useBank";

export const OUTCOMES: readonly (readonly [Outcome, string])[] = [
  ["clean", "clean"],
  ["tick", "tick"],
  ["hung", "hung up"],
  ["missed", "missed"],
  ["fish", "fish"],
  ["lost_fly", "lost fly"],
];
const HOOKS = [
  ["bare", "bare"],
  ["weed", "with weed on it"],
] as const;
const FLIES = [
  ["point", "the point"],
  ["dropper", "the upper"],
  ["both", "both"],
] as const;
const PACES = [
  ["slower", "slower"],
  ["same", "same"],
  ["faster", "faster"],
] as const;

interface Props {
  angler: string;
  /** Where it may have been: the lies of its beat. */
  lies: readonly Lie[];
  /** The rules of the beat: every fish goes back. */
  release: boolean;
  line: Line;
  /** All that there are of the outing, the newest first. */
  lines: readonly Line[];
  /** The outing is over. */
  over?: boolean;
  onClose: () => void;
}

/** One drift, to be corrected, moved, taken back and put back; with or without signal. */
export function LineSheet({ angler, lies, release, line, lines, over = false, onClose }: Props) {
  const { show, clock } = useUnits();
  const said = useSetting();
  const { drift, setting, stop, fish } = line;
  const [trouble, setTrouble] = useState(false);
  const [which, setWhich] = useState<Which>("this");
  const [landing, setLanding] = useState<Line["fish"][number] | "new" | null>(null);
  const act = (work: Promise<void>) => {
    work.then(
      () => setTrouble(false),
      () => setTrouble(true),
    );
  };
  const settings = [
    ...new Map(
      lines
        .filter((one) => one.stop.body.lie_id === stop.body.lie_id)
        .map((one) => [one.setting.id, one.setting]),
    ).values(),
  ];
  const count = (what: Which) => movedWith(line, lines, what).length;
  const spans = (
    [
      ["this", "this drift"],
      ["on", `from here on: ${count("on")}`],
      ["all", `all of the stay: ${count("all")}`],
    ] as const
  ).filter(([what]) => what === "this" || (count(what) > 1 && (what === "on" || count("all") > count("on"))));
  if (landing !== null)
    return (
      <CatchSheet
        drift={drift.id}
        angler={angler}
        on={setting.body}
        release={release}
        known={landing === "new" ? null : landing}
        onClose={() => setLanding(null)}
      />
    );
  return (
    <Sheet title={`The drift of ${clock(drift.body.at)}`} open onClose={onClose}>
      <div role="radiogroup" aria-label="How it ended" className="grid grid-cols-3 gap-1.5">
        {OUTCOMES.map(([outcome, name]) => (
          // biome-ignore lint/a11y/useSemanticElements: a tile as large as a wet thumb
          <button
            key={outcome}
            type="button"
            role="radio"
            aria-checked={drift.body.outcome === outcome}
            onClick={() => act(correct(angler, drift, { outcome }))}
            className={`min-h-14 rounded-xl border px-1 ${drift.body.outcome === outcome ? "border-ink bg-ink font-semibold text-ground" : "border-line bg-paper"}`}
          >
            {name}
          </button>
        ))}
      </div>
      <Choice
        label="Pace against the bubbles"
        value={drift.body.pace ?? null}
        options={PACES}
        onChange={(pace: Pace) => act(correct(angler, drift, { pace }))}
        clearable={() => act(correct(angler, drift, { pace: null }))}
      />
      <Choice
        label="The hook came back"
        value={drift.body.weed ? "weed" : "bare"}
        options={HOOKS}
        onChange={(how) => act(correct(angler, drift, { weed: how === "weed" }))}
      />
      {drift.body.outcome === "lost_fly" && hasTwoNymphs(setting.body) && (
        <Choice
          label="Which fly went"
          value={drift.body.lost ?? "point"}
          options={FLIES}
          onChange={(lost) => act(correct(angler, drift, { lost }))}
        />
      )}
      <label className="block">
        <span className="block text-sm text-soft">Setting</span>
        <select
          className="mt-0.5 h-14 w-full rounded-xl border border-line bg-paper px-3"
          value={setting.id}
          onChange={(event) => act(correct(angler, drift, { setting_id: event.target.value }))}
        >
          {settings.map((one) => (
            <option key={one.id} value={one.id}>
              {said(one.body)}, set {clock(one.body.at)}
            </option>
          ))}
        </select>
      </label>
      <SetOtherwise
        key={setting.id}
        line={line}
        lines={lines}
        onSay={(moved, set) => act(setOtherwise(angler, moved, set))}
      />
      {spans.length > 1 && (
        <Choice label="It was at another lie: move" value={which} options={spans} onChange={setWhich} />
      )}
      <label className="block">
        <span className="block text-sm text-soft">Lie</span>
        <select
          className="mt-0.5 h-14 w-full rounded-xl border border-line bg-paper px-3"
          value={stop.body.lie_id}
          onChange={(event) => {
            const lie = lies.find((one) => one.id === event.target.value);
            const moved = movedWith(line, lines, which);
            if (lie) act(moveTo(angler, moved, lie.id, waterAt(lie, line, lines), over));
          }}
        >
          {lies.every((one) => one.id !== stop.body.lie_id) && (
            <option value={stop.body.lie_id}>as logged</option>
          )}
          {lies.map((lie) => (
            <option key={lie.id} value={lie.id}>
              {lie.name}
            </option>
          ))}
        </select>
      </label>
      {fish.map((one) => (
        <div key={one.id} className="grid grid-cols-[1fr_auto_auto] items-center gap-2">
          <span className={one.body.undone ? "text-soft line-through" : ""}>
            {one.body.species}
            {one.body.length_mm ? `, ${show(one.body.length_mm, "fish")}` : ""}
          </span>
          <Button onClick={() => setLanding(one)}>Change</Button>
          <Button onClick={() => act(correctFish(angler, one, { undone: !one.body.undone }))}>
            {one.body.undone ? "Put back" : "Take out"}
          </Button>
        </div>
      ))}
      {drift.body.outcome === "fish" && fish.length === 0 && (
        <Button className="w-full" onClick={() => setLanding("new")}>
          Write the fish down
        </Button>
      )}
      <InWhatWasKept angler={angler} line={line} onForget={(kept) => act(forgetBottom(angler, kept))} />
      {trouble && (
        <Trouble error={new Error("This device could not keep that. Free some space and try again.")} />
      )}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={() => act(correct(angler, drift, { undone: !drift.body.undone }))}>
          {drift.body.undone ? "Put it back" : "Take it back"}
        </Button>
        <Button look="main" onClick={onClose}>
          Done
        </Button>
      </div>
    </Sheet>
  );
}

/** A depth that was kept stands as it was found, whatever becomes of the drifts: it is said, and can be forgotten. */
function InWhatWasKept({
  angler,
  line,
  onForget,
}: Pick<Props, "angler" | "line"> & { onForget: (kept: Of<"soundings">) => void }) {
  const { show, clock } = useUnits();
  const [asOpened] = useState(line); // of where it was: it may be moved to another lie meanwhile
  const kept = useLiveQuery(() => keptFrom(angler, asOpened), [angler, asOpened])?.at(-1);
  if (!kept) return null;
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-2">
      <p className="text-sm text-soft">
        The depth that was kept here at {clock(kept.body.at)}, {show(kept.body.depth_m, "m")}, was found from
        this drift among others, and stands as it is.
        {kept.kind === "readings" && " Was it wrong, read the lie again."}
      </p>
      {kept.kind === "soundings" && <Button onClick={() => onForget(kept)}>Forget it</Button>}
    </div>
  );
}
