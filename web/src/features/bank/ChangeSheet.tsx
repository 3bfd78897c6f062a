import { ChevronDown } from "lucide-react";
import { useState } from "react";
import { type DrySetup, plainly, Refused, type Setup, type Situation } from "../../api/client";
import { pointFly, useSetting } from "../../app/rigs";
import { NotHere } from "../../local/engine";
import {
  buzzOnTime,
  type Direction,
  dry as dryIt,
  fishOn,
  useDirection,
  useDried,
  useGloves,
  useOnTime,
  wearGloves,
} from "../../local/habits";
import { tieDry, tuningOf, untie } from "../../local/inhand";
import { type DryInHand, device, type RigInHand } from "../../local/records";
import { hang } from "../../queries/water";
import { Choice } from "../../ui/choosing";
import { Button, Trouble } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { SecondRod } from "./OtherRod";

interface Props {
  angler: string;
  onClose: () => void;
  inHand: RigInHand;
  situation: Situation;
  /** The single dry that could be tied on instead; null where none is worth it. */
  dry: DrySetup | null;
  /** What the coach would set, a tap away; its float where the one that is on would go under. */
  suggested: { depth: number; bead: number | null; float: string | null } | null;
  /** Opened by the coach's word: it is what is to be set. Otherwise one starts from what hangs on the rod. */
  onCoach: boolean;
  weed: Weed;
}

/** Fed down, a float slower than the bubbles is held back by its line, and says nothing of the water. */
const DIRECTIONS: readonly (readonly [Direction, string])[] = [
  ["up", "cast up"],
  ["down", "fed down"],
];

const ON_OFF = [
  ["off", "off"],
  ["on", "on"],
] as const;

const KEYS = [
  ["all", "with lane and pace"],
  ["gloves", "larger, for gloves"],
] as const;

function Stepper({
  label,
  shown,
  less,
  more,
}: {
  label: string;
  shown: string;
  less: () => void;
  more: () => void;
}) {
  return (
    <div className="grid grid-cols-[min(4.5rem,20vw)_1fr_min(4.5rem,20vw)] items-center gap-2">
      <Button
        aria-label={`less ${label}`}
        className="min-h-16 min-w-0 px-0 text-[min(1.875rem,12vw)]"
        onClick={less}
      >
        −
      </Button>
      <div className="text-center">
        <div className="text-sm text-soft">{label}</div>
        <div className="text-[min(1.5rem,8.5vw)] font-bold" aria-live="polite">
          {shown}
        </div>
      </div>
      <Button
        aria-label={`more ${label}`}
        className="min-h-16 min-w-0 px-0 text-[min(1.875rem,12vw)]"
        onClick={more}
      >
        +
      </Button>
    </div>
  );
}

/** Whether the last drift that this device logged came back with weed; null: there is none. */
export interface Weed {
  cleared: boolean | null;
  onClear: () => void;
}

/** What is said of the drifts to come, whatever is on the rod: cast up or fed down, and that the dry was dried. */
function HowFished({ dries, weed }: { dries: boolean; weed?: Weed }) {
  const direction = useDirection();
  const dried = useDried();
  return (
    <>
      <Choice
        label="How it is fished"
        value={direction ?? null}
        options={DIRECTIONS}
        onChange={(next) => void fishOn(next)}
      />
      {weed && (
        <Button className="w-full" disabled={weed.cleared !== false} onClick={weed.onClear}>
          {weed.cleared ? "Weed cleared: the last drift tells nothing" : "I have cleared weed off the hook"}
        </Button>
      )}
      {dries && (
        <Button className="w-full" disabled={dried} onClick={() => void dryIt()}>
          {dried ? "Dried: the next drift starts the count" : "I have dried the dry"}
        </Button>
      )}
    </>
  );
}

/** How the phone helps a wet hand: buzzing through the drift, and keys for gloves. */
function Hand() {
  const onTime = useOnTime();
  const gloves = useGloves();
  return (
    <>
      <Choice
        label={
          "vibrate" in navigator
            ? "Buzz as the flies are down, pass the fish, are done"
            : "This browser cannot buzz: it shows when the flies are down, pass the fish, are done"
        }
        value={onTime ? "on" : "off"}
        options={ON_OFF}
        onChange={(next) => void buzzOnTime(next === "on")}
      />
      <Choice
        label="Keys"
        value={gloves ? "gloves" : "all"}
        options={KEYS}
        onChange={(next) => void wearGloves(next === "gloves")}
      />
    </>
  );
}

/** Under a single dry there is nothing to set: what is said of it, and the way back to a rig. */
export function DrySheet({
  inHand,
  advised,
  onClose,
}: {
  inHand: DryInHand;
  /** What goes on instead where nothing was on before it. */
  advised: RigInHand | null;
  onClose: () => void;
}) {
  const said = useSetting();
  const rig = inHand.before ?? advised;
  return (
    <Sheet title={said(inHand)} open onClose={onClose}>
      <p>Nothing hangs under it: there is no depth and no weight to set.</p>
      <HowFished dries />
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>Leave it</Button>
        {rig && (
          <Button look="main" onClick={() => void untie(rig).then(onClose)}>
            {inHand.before ? "Back to" : "Change to"} {said(rig)}
          </Button>
        )}
      </div>
    </Sheet>
  );
}

/** What is on the rod beside line and bead, and what of it is to be another; what is not said stays. */
interface Rigging {
  /** Which of the flies that could be tied on. */
  fly?: number;
  flies?: number;
  float?: string;
  tippet_x?: number;
}

/** How many flies go on: as many as are, unless the rules here allow fewer. */
const fliesOn = (setup: Setup, limits: NonNullable<RigInHand["limits"]>, to: Rigging): number => {
  const allowed = limits.flies ?? [];
  const kept = allowed.length === 0 || allowed.includes(setup.flies);
  return to.flies ?? (kept ? setup.flies : Math.max(...allowed));
};

const isOn = (fly: { form: string; hook: number }, setup: Setup): boolean =>
  fly.form === setup.point_form && fly.hook === setup.point_hook;

/** Fly, dropper, float and tippet: behind one line that says what is on, since line and bead are changed ten times as often. */
function RestOfRig({
  setup,
  dry,
  limits,
  carrier,
  to,
  onChange,
}: {
  setup: Setup;
  carrier: string | null | undefined;
  /** Its float is a dry. */
  dry: boolean;
  limits: NonNullable<RigInHand["limits"]>;
  to: Rigging;
  onChange: (to: Rigging) => void;
}) {
  const { bead: beadOf } = useUnits();
  const choices = limits.point_flies ?? []; // a rig kept by an app from before knows of none
  const flies = fliesOn(setup, limits, to);
  const tippet = to.tippet_x ?? setup.tippet_x;
  const chosen = to.fly === undefined ? undefined : choices[to.fly];
  const point = chosen ? { point_form: chosen.form, point_hook: chosen.hook } : setup;
  const said = [
    pointFly(point),
    ...(setup.dropper_form && flies === setup.flies
      ? [`${setup.dropper_form}, size ${setup.dropper_hook}`]
      : []),
    ...(carrier ? [carrier] : []),
    `${tippet}X`,
  ].join(" · ");
  const tippets = Array.from({ length: limits.finest_x - limits.heaviest_x + 1 }, (_, k) => {
    const x = String(limits.heaviest_x + k);
    return [x, `${x}X`] as const;
  });
  return (
    <details className="group rounded-xl border border-line">
      <summary className="flex min-h-14 cursor-pointer list-none items-center gap-2 px-3 py-2">
        <span className="grow leading-tight">
          <span className="block text-sm text-soft">Fly, dropper, {setup.float ? "float, " : ""}tippet</span>
          <span className="block font-semibold">{said}</span>
        </span>
        <ChevronDown aria-hidden className="shrink-0 group-open:rotate-180" />
      </summary>
      <div className="space-y-2 px-3 pb-3">
        {choices.length > 0 && (
          <Choice
            label="Point fly"
            value={String(to.fly ?? choices.findIndex((one) => isOn(one, setup)))}
            options={choices.map((one, k) => [
              String(k),
              `${one.form}, size ${one.hook}${limits.own_flies ? `, ${beadOf(one.bead_mm)}` : ""}`,
            ])}
            onChange={(k) => onChange({ ...to, fly: Number(k) })}
            stacked
          />
        )}
        {(limits.flies?.length ?? 0) > 1 && (
          <Choice
            label="Dropper"
            value={String(flies)}
            options={limits.flies.map((n, k) => [String(n), k > 0 ? "on" : "off"])}
            onChange={(n) => onChange({ ...to, flies: Number(n) })}
          />
        )}
        {(limits.floats?.length ?? 0) > 1 && (
          <Choice
            label={dry ? "Dry" : "Float"}
            value={carrier ?? null}
            options={limits.floats.map((name) => [name, name])}
            onChange={(float) => onChange({ ...to, float })}
          />
        )}
        <Choice
          label="Tippet"
          value={String(tippet)}
          options={tippets}
          onChange={(x) => onChange({ ...to, tippet_x: Number(x) })}
        />
      </div>
    </details>
  );
}

/** Line, bead and the rest of the rig. The next drift is logged under the new setting. */
export function ChangeSheet({ angler, onClose, inHand, situation, dry, suggested, onCoach, weed }: Props) {
  const { show, bead: beadOf } = useUnits();
  const [change, setChange] = useState<{ depth: number; bead: number | null } | null>(null);
  const [rest, setRest] = useState<Rigging>({});
  const [error, setError] = useState<unknown>(null);
  const rod = { depth: inHand.depth_setting_m, bead: inHand.point_bead_mm };
  const { depth, bead } = change ?? (onCoach && suggested ? suggested : rod);
  const asSuggested = suggested?.depth === depth && suggested.bead === bead;
  const carrier = rest.float ?? (asSuggested ? suggested.float : null) ?? inHand.setup.float;
  const fly = rest.fly === undefined ? undefined : inHand.limits?.point_flies[rest.fly];
  const tied = fly && {
    point_form: fly.form,
    point_hook: fly.hook,
    point_dressing: fly.dressing,
  };
  const set = async () => {
    const wanted = { depth_setting_m: depth, point_bead_mm: bead };
    const { tippet_x = inHand.setup.tippet_x } = rest;
    const flies = inHand.limits ? fliesOn(inHand.setup, inHand.limits, rest) : inHand.setup.flies;
    // a dropper that goes on is chosen as the advisor would; the rest stays as it is
    const upper =
      flies > inHand.setup.flies
        ? { dropper_bead_mm: null, dropper_spacing_m: null, dropper_tag_m: null }
        : {};
    const tuning = {
      ...tuningOf(inHand.rig, inHand.setup),
      ...upper,
      ...wanted,
      tippet_x,
      flies,
      float: carrier,
    };
    let setup: Setup = { ...inHand.setup, ...wanted, tippet_x, float: carrier, ...tied };
    try {
      setup = (await hang(situation, tuning)).setup ?? setup;
      // the fly stays on where only the line is changed, also one that was tied on for another
      const { point_form, point_hook, point_dressing } = inHand.setup;
      if (tied) setup = { ...setup, ...tied };
      else if (bead === rod.bead) setup = { ...setup, point_form, point_hook, point_dressing };
    } catch (problem) {
      // with neither signal nor engine the change is written down as made; a refusal is shown
      if (!(problem instanceof NotHere)) {
        setError(problem);
        return;
      }
    }
    const at = new Date().toISOString();
    await device.inHand.put({ ...inHand, depth_setting_m: depth, point_bead_mm: bead, setup, at });
    onClose();
  };
  const { limits } = inHand;
  if (!limits)
    return (
      <Sheet title="Change setting" open onClose={onClose}>
        <p>
          This rig was set on another device, and how far it can be changed is not known on this one yet. It
          is once there is signal.
        </p>
        <Button onClick={onClose}>Leave it</Button>
      </Sheet>
    );
  const { least_m, most_m, step_m, beads_mm } = limits;
  const longer = (by: number) =>
    setChange({ bead, depth: Math.round(100 * Math.min(most_m, Math.max(least_m, depth + by))) / 100 });
  const rung = (by: number) => {
    const to = beads_mm[beads_mm.indexOf(bead) + by];
    if (to !== undefined) setChange({ depth, bead: to });
  };
  return (
    <Sheet title="Change setting" open onClose={onClose}>
      <Stepper
        label={inHand.rig === "euro" ? "tippet" : "float to point fly"}
        shown={show(depth, "m")}
        less={() => longer(-step_m)}
        more={() => longer(step_m)}
      />
      <Stepper label="point bead" shown={beadOf(bead)} less={() => rung(-1)} more={() => rung(1)} />
      <RestOfRig
        setup={inHand.setup}
        dry={inHand.rig === "dry_dropper"}
        limits={limits}
        carrier={carrier}
        to={rest}
        onChange={(to) => {
          setRest(to);
          const own = limits.own_flies && to.fly !== undefined ? limits.point_flies[to.fly] : undefined;
          if (own && to.fly !== rest.fly) setChange({ depth, bead: own.bead_mm });
        }}
      />
      {suggested && !onCoach && (
        <Button className="w-full" onClick={() => setChange(suggested)}>
          The coach's: {show(suggested.depth, "m")} with {beadOf(suggested.bead)}
          {suggested.float && `, ${suggested.float}`}
        </Button>
      )}
      {error !== null && (
        <Trouble
          error={error instanceof Refused ? new Error(error.faults.map(plainly).join(" · ")) : error}
        />
      )}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
        <Button onClick={onClose}>Leave it</Button>
        <Button look="main" onClick={set}>
          Set it
        </Button>
      </div>
      <hr className="border-line" />
      <HowFished dries={inHand.rig === "dry_dropper"} weed={weed} />
      {dry && (
        <Button className="w-full" onClick={() => void tieDry(inHand.lie, dry, inHand).then(onClose)}>
          Tie on a single dry: {dry.float}
        </Button>
      )}
      <Hand />
      <SecondRod angler={angler} inHand={inHand} onDone={onClose} />
    </Sheet>
  );
}
