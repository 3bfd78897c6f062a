import { Link } from "@tanstack/react-router";
import { Undo2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { type CoachIn, type Outcome, type Pace, type Ranked, Refused } from "../../api/client";
import { useAdvice, useCoach, useSession, useToday, useTune } from "../../api/hooks";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { useKeys } from "../../app/shortcuts";
import { take, tuningOf, useInHand } from "../../local/inhand";
import { type Log, useLog } from "../../local/logbook";
import type { InHand } from "../../local/records";
import { Button, Cautions, Choice, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { BankColumn } from "./BankColumn";
import { CatchSheet } from "./CatchSheet";
import { ChangeSheet } from "./ChangeSheet";
import { CoachDo, CoachWhy, changes } from "./CoachLine";
import { end, start, tap, undo } from "./useBank";

export const BankScreen = () => <WithLie>{(at) => <WithRig key={at.lie.id} {...at} />}</WithLie>;

/** The rig in hand, or else the one that the advisor puts first. */
function WithRig(at: AtLie) {
  const session = useSession();
  const inHand = useInHand(at.lie.id);
  const advice = useAdvice(at.situation);
  const best = advice.data?.ranked[0];
  useEffect(() => {
    if (inHand === null && best) take(at.lie.id, best);
  }, [inHand, best, at.lie.id]);
  const angler = session.data?.angler?.id;
  if (inHand && angler)
    return <Bank {...at} inHand={inHand} angler={angler} cautions={advice.data?.cautions ?? []} />;
  if (advice.isError) return <Trouble error={advice.error} retry={() => advice.refetch()} />;
  return <Working what="Taking up the rig" />;
}

interface OutcomeKey {
  outcome: Outcome;
  name: string;
  what: string;
  key: string;
}

const KEYS: readonly OutcomeKey[] = [
  { outcome: "clean", name: "Clean", what: "no touch", key: "c" },
  { outcome: "tick", name: "Tick", what: "light touch", key: "t" },
  { outcome: "hung", name: "Hung up", what: "stopped", key: "h" },
  { outcome: "missed", name: "Missed", what: "struck, nothing", key: "m" },
  { outcome: "fish", name: "Fish", what: "to hand", key: "f" },
  { outcome: "lost_fly", name: "Lost fly", what: "broke off", key: "l" },
];

const PACES = [
  ["slower", "slower"],
  ["same", "same"],
  ["faster", "faster"],
] as const;

const RIG: Record<Ranked["rig"], string> = {
  euro: "Euro",
  indicator: "Indicator",
  dry_dropper: "Dry-dropper",
};

const SIGN: Record<Outcome, string> = {
  clean: "·",
  tick: "t",
  hung: "H",
  missed: "m",
  fish: "F",
  lost_fly: "L",
};

/** The drifts of the stop with the rig in hand, as the coach is asked; null before the first. */
function fishedSoFar(log: Log | undefined, inHand: InHand): CoachIn | null {
  if (!log?.stop || log.drifts.length === 0) return null;
  const settings = new Map(log.settings.map((one) => [one.id, one.body]));
  const drifts = log.drifts.flatMap(({ body }) => {
    const set = settings.get(body.setting_id);
    if (set?.rig !== inHand.rig) return [];
    const { depth_setting_m, point_bead_mm } = set;
    return [{ depth_setting_m, point_bead_mm, outcome: body.outcome, pace: body.pace ?? null }];
  });
  return {
    situation: log.stop.body.situation,
    rig: inHand.rig,
    drifts,
    tuning: tuningOf(inHand.rig, inHand.setup),
  };
}

function Bank({
  lie,
  beat,
  situation,
  inHand,
  angler,
  cautions,
}: AtLie & { inHand: InHand; angler: string; cautions: string[] }) {
  const { show } = useUnits();
  const log = useLog(angler, lie.id);
  const today = useToday(beat.id);
  const tuned = useTune(situation, tuningOf(inHand.rig, inHand.setup));
  const coach = useCoach(fishedSoFar(log, inHand));
  const [pace, setPace] = useState<Pace | null>(null);
  const [landing, setLanding] = useState<string | null>(null);
  const [changing, setChanging] = useState(false);
  const [trouble, setTrouble] = useState<unknown>(null);
  const busy = useRef(Promise.resolve());
  const bank = { angler, beat: beat.id, lie: lie.id, situation, inHand };
  const fishing = Boolean(log?.outing && log.stop);
  // taps queue up behind each other and are never dropped; what cannot be kept is said
  const act = (action: () => Promise<unknown>) => {
    busy.current = busy.current.then(action).then(
      () => setTrouble(null),
      (error: unknown) => setTrouble(error),
    );
  };
  const press = (outcome: Outcome) => {
    navigator.vibrate?.(outcome === "fish" ? [30, 40, 30] : 20);
    act(async () => {
      const id = await tap(bank, outcome, pace);
      setPace(null);
      if (outcome === "fish") setLanding(id);
    });
  };
  const takeBack = () => act(() => undo(bank));
  useKeys(
    fishing
      ? { ...Object.fromEntries(KEYS.map(({ key, outcome }) => [key, () => press(outcome)])), u: takeBack }
      : {},
  );
  if (!log) return <Working what="Opening the log" />;
  // an answer to earlier drifts is no answer to these: without signal there is none
  const lost = coach.fetchStatus === "paused" || (coach.isError && !(coach.error instanceof Refused));
  const mute = lost && (coach.isPlaceholderData || !coach.data);
  const advised = log.drifts.length > 0 && !mute ? coach.data : undefined;
  return (
    <div className="grid gap-3 lg:grid-cols-2 lg:gap-6">
      <div>
        <div className="max-lg:sr-only">
          <LieTitle lie={lie} beat={beat} />
        </div>
        <h1 className="text-2xl font-bold">
          {RIG[inHand.rig]} · {show(inHand.point_bead_mm, "bead")} · {show(inHand.depth_setting_m, "m")}
        </h1>
        <BankColumn situation={situation} ranked={tuned.data} belief={advised?.depth_belief_m} />
        <p className="mt-2 flex min-h-7 flex-wrap items-baseline gap-x-3" aria-live="polite">
          <b>
            {log.drifts.length} {log.drifts.length === 1 ? "drift" : "drifts"} here
          </b>
          <span
            role="img"
            className="font-mono text-lg tracking-widest"
            aria-label={log.drifts
              .slice(-12)
              .map((d) => d.body.outcome.replace("_", " "))
              .join(", ")}
          >
            {log.drifts
              .slice(-12)
              .map((drift) => SIGN[drift.body.outcome])
              .join("")}
          </span>
          {log.catches.length > 0 && <span>{log.catches.length} in the book</span>}
          <span className="ml-auto text-sm text-soft">
            {log.waiting === 0 ? "all saved" : `${log.waiting} kept here, waiting for signal`}
          </span>
        </p>
        {log.refused.length > 0 && (
          <Trouble
            error={
              new Error(
                `The service refused ${log.refused.length}: ${log.refused[0]?.refused}. It is kept on this device.`,
              )
            }
          />
        )}
        {trouble !== null && (
          <Trouble error={new Error("This device could not keep that tap. Free some space and tap again.")} />
        )}
      </div>
      <div className="space-y-3">
        {fishing ? (
          <>
            {advised && <CoachDo coaching={advised} onChange={() => setChanging(true)} />}
            {mute && <p className="px-1 text-soft">The coach needs signal; the taps are kept for it.</p>}
            <Choice
              label="Pace against the bubbles, if you saw"
              value={pace}
              options={PACES}
              onChange={setPace}
              clearable={() => setPace(null)}
            />
            <div className="grid grid-cols-3 gap-2">
              {KEYS.map(({ outcome, name, what }) => (
                <button
                  key={outcome}
                  type="button"
                  onClick={() => press(outcome)}
                  className={`min-h-18 rounded-2xl border-2 px-1 lg:min-h-21 leading-tight select-none active:bg-ink active:text-ground ${outcome === "fish" ? "border-signal-fill bg-signal-fill text-signal-ink" : "border-ink bg-paper"}`}
                >
                  <span className="block text-xl font-bold">{name}</span>
                  <span className="block text-sm">{what}</span>
                </button>
              ))}
            </div>
            <div className="grid grid-cols-3 gap-2">
              <Button
                disabled={log.drifts.length === 0}
                onClick={takeBack}
                className="flex items-center justify-center gap-2 px-2"
              >
                <Undo2 aria-hidden size={20} /> Undo
              </Button>
              <Button className="px-1" onClick={() => setChanging(true)}>
                Change setting
              </Button>
              <Button className="px-2" onClick={() => act(() => end(bank))}>
                End outing
              </Button>
            </div>
            {advised && <CoachWhy coaching={advised} />}
          </>
        ) : (
          <>
            <Button look="main" className="min-h-21 w-full text-xl" onClick={() => act(() => start(bank))}>
              {log.outing ? `Fish ${lie.name}` : "Start outing"}
            </Button>
            <p className="text-soft">
              Then one tap a drift. Nothing to type; a tap is kept on this device first.{" "}
              <Link
                to="/lie/$lieId/rig"
                params={{ lieId: lie.id }}
                className="text-ink underline underline-offset-4"
              >
                Another rig
              </Link>
            </p>
          </>
        )}
        <Cautions
          texts={[
            ...new Set([
              ...(today.data?.urgent ?? []),
              ...(cautions.length > 0 ? cautions : ["Local rules and the fishery's word come first."]),
            ]),
          ]}
        />
      </div>
      <ChangeSheet
        open={changing}
        onClose={() => setChanging(false)}
        inHand={inHand}
        situation={situation}
        suggested={
          advised && changes(advised)
            ? { depth: advised.advice.depth_setting_m, bead: advised.advice.point_bead_mm }
            : null
        }
      />
      {landing && (
        <CatchSheet
          drift={landing}
          angler={angler}
          setup={inHand}
          release={beat.rules.release}
          onClose={() => setLanding(null)}
        />
      )}
    </div>
  );
}
