import { Link } from "@tanstack/react-router";
import { Undo2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import {
  type CoachIn,
  type Outcome,
  type Pace,
  type Ranked,
  type ReadingIn,
  Refused,
} from "../../api/client";
import { useAdvice, useCoach, useHung, useToday } from "../../api/hooks";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { useKeys } from "../../app/shortcuts";
import { useKeptAngler } from "../../local/angler";
import { NotHere, wake } from "../../local/engine";
import { take, tuningOf, useInHand } from "../../local/inhand";
import { type Log, useLog } from "../../local/logbook";
import { flush } from "../../local/outbox";
import { askToKeep } from "../../local/pack";
import type { InHand } from "../../local/records";
import { Button, Cautions, Choice, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { baseOf, changed, idFor } from "../read/base";
import { BankColumn } from "./BankColumn";
import { BubbleSheet } from "./BubbleSheet";
import { CatchSheet } from "./CatchSheet";
import { ChangeSheet } from "./ChangeSheet";
import { CoachDo, CoachWhy, changes } from "./CoachLine";
import { LaneStrip, type Spot } from "./LaneStrip";
import { StopAndRead } from "./StopAndRead";
import { useAwake } from "./useAwake";
import { end, observe, start, tap, undo } from "./useBank";

export const BankScreen = () => <WithLie>{(at) => <WithRig key={at.lie.id} {...at} />}</WithLie>;

/** The rig in hand, or else the one that the advisor puts first. */
function WithRig(at: AtLie) {
  const kept = useKeptAngler();
  const inHand = useInHand(at.lie.id);
  const advice = useAdvice(at.situation);
  const best = advice.data?.ranked[0];
  useEffect(() => {
    if (inHand === null && best) take(at.lie.id, best);
  }, [inHand, best, at.lie.id]);
  const angler = kept?.id; // logging goes on when the session has ended
  if (inHand && angler)
    return <Bank {...at} inHand={inHand} angler={angler} cautions={advice.data?.cautions ?? []} />;
  if (advice.isError && !advice.data) return <Trouble error={advice.error} retry={() => advice.refetch()} />;
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
  ["slower", "slower than bubbles"],
  ["same", "same pace"],
  ["faster", "faster"],
] as const;

const RIG: Record<Ranked["rig"], string> = {
  euro: "Euro",
  indicator: "Indicator",
  dry_dropper: "Dry-dropper",
};

/** What nobody should start on without having read it. */
const GRAVE = /^(Stop|Do not|Closed|Thunder|Spate)/;

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
  const drifts = log.drifts.flatMap(({ id, body }) => {
    const set = settings.get(body.setting_id);
    if (set?.rig !== inHand.rig) return [];
    const { depth_setting_m, point_bead_mm } = set;
    const fish = log.catches.find((one) => one.body.drift_id === id)?.body;
    return [
      {
        ...{ depth_setting_m, point_bead_mm, outcome: body.outcome, pace: body.pace ?? null },
        ...(fish ? { fly: fish.fly, phase: fish.phase } : {}),
      },
    ];
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
  const hung = useHung(situation, tuningOf(inHand.rig, inHand.setup));
  const coach = useCoach(fishedSoFar(log, inHand));
  const [pace, setPace] = useState<Pace | null>(null);
  const [landing, setLanding] = useState<string | null>(null);
  const [changing, setChanging] = useState(false);
  const [keptDepth, setKeptDepth] = useState<number | null>(null);
  const [timing, setTiming] = useState(false);
  const [reading, setReading] = useState(false);
  const [moved, setMoved] = useState<Spot | null>(null);
  const [trouble, setTrouble] = useState<unknown>(null);
  const busy = useRef(Promise.resolve());
  const bank = { angler, beat: beat.id, lie: lie.id, situation, inHand };
  const fishing = Boolean(log?.outing && log.stop);
  useAwake(fishing);
  const last = log?.drifts.at(-1)?.body;
  const spot: Spot = moved ?? { lane: last?.lane ?? 1, stance: last?.stance ?? 1 };
  const grave = [...new Set([...(today.data?.urgent ?? []), ...cautions.slice(0, -1)])].filter((text) =>
    GRAVE.test(text),
  );
  const begin = () => {
    setReading(false);
    void askToKeep().catch(() => false);
    act(() => start(bank));
  };
  /** Write down what was seen, on top of the reading of the day. */
  const seen = (change: Partial<ReadingIn>) => {
    const { reading: before } = lie;
    if (!before) return;
    act(() => observe(angler, idFor(lie, before), changed(baseOf(lie, situation, before), change)));
  };
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
      const id = await tap(bank, outcome, { pace, ...spot });
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
  const packed = fishing && !navigator.onLine;
  useEffect(() => {
    if (packed) wake(); // so that the first word of the coach does not wait for it
  }, [packed]);
  if (!log) return <Working what="Opening the log" />;
  // an answer to earlier drifts is no answer to these: without signal there is none
  const lost = coach.isError && !(coach.error instanceof Refused);
  const mute = lost && (coach.isPlaceholderData || !coach.data);
  const advised = log.drifts.length > 0 && !mute ? coach.data : undefined;
  return (
    <div className="grid gap-1 lg:grid-cols-2 lg:gap-6">
      <div>
        <div className="max-lg:sr-only">
          <LieTitle lie={lie} beat={beat} />
        </div>
        <h1 className="text-2xl font-bold">
          {RIG[inHand.rig]} · {show(inHand.point_bead_mm, "bead")} · {show(inHand.depth_setting_m, "m")}
        </h1>
        <BankColumn situation={situation} picture={hung.data?.picture} belief={advised?.depth_belief_m} />
        <p className="mt-1 flex min-h-14 flex-wrap items-center gap-x-3" aria-live="polite">
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
          {fishing && (
            <Button
              disabled={log.drifts.length === 0}
              onClick={takeBack}
              className="ml-auto flex items-center justify-center gap-2 px-3"
            >
              <Undo2 aria-hidden size={20} /> Undo
            </Button>
          )}
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
      <div className="space-y-2 lg:space-y-3">
        {fishing ? (
          <>
            {advised && (
              <CoachDo coaching={advised} busy={coach.isPlaceholderData} onChange={() => setChanging(true)} />
            )}
            {mute && (
              <p className="px-1 text-soft">
                {coach.error instanceof NotHere
                  ? "The coach was not taken along: it needs signal. The taps are kept for it."
                  : "The coach has no answer; the taps are kept for it."}
              </p>
            )}
            <LaneStrip
              spot={spot}
              drifts={
                log.drifts.filter(
                  (d) => (d.body.lane ?? 1) === spot.lane && (d.body.stance ?? 1) === spot.stance,
                ).length
              }
              onMove={setMoved}
            />
            <Choice
              label="Pace against the bubbles, if you saw"
              quiet
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
              <Button className="px-1" onClick={() => setChanging(true)}>
                Change setting
              </Button>
              <Button className="px-1" onClick={() => setTiming(true)}>
                Time a bubble
              </Button>
              <Button className="px-2" onClick={() => act(() => end(bank))}>
                End outing
              </Button>
            </div>
            <Saved log={log} onSend={() => act(() => flush(angler))} />
            {advised && (
              <CoachWhy
                coaching={advised}
                onKeep={
                  lie.reading && advised.learned && advised.learned.depth_m !== keptDepth
                    ? () => {
                        if (!advised.learned) return;
                        seen({ ...advised.learned, depth_how: "drifts" });
                        setKeptDepth(advised.learned.depth_m);
                      }
                    : null
                }
              />
            )}
          </>
        ) : (
          <>
            <Button
              look="main"
              className="min-h-21 w-full text-xl"
              onClick={() => (grave.length > 0 && !log.outing ? setReading(true) : begin())}
            >
              {log.outing ? `Fish ${lie.name}` : "Start outing"}
            </Button>
            <Saved log={log} onSend={() => act(() => flush(angler))} />
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
      {reading && <StopAndRead texts={grave} onGo={begin} onClose={() => setReading(false)} />}
      {timing && (
        <BubbleSheet
          lie={lie.name}
          onClose={() => setTiming(false)}
          onSave={(distance_m, seconds) => {
            setTiming(false);
            seen({ speed: { how: "bubbles", distance_m, seconds } });
          }}
        />
      )}
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

/** Whether all is with the service, and a way to send what is not at once. */
function Saved({ log, onSend }: { log: Log; onSend: () => void }) {
  if (log.waiting === 0) return <p className="px-1 text-sm text-soft">all saved</p>;
  return (
    <button
      type="button"
      className="min-h-14 w-full text-left text-sm text-soft underline underline-offset-4"
      onClick={onSend}
    >
      {log.waiting} kept here, waiting for signal: send now
    </button>
  );
}
