import { Link } from "@tanstack/react-router";
import { Undo2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import {
  type Caution,
  type CoachIn,
  type Outcome,
  type Pace,
  type Ranked,
  type ReadingIn,
  Refused,
  type Situation,
} from "../../api/client";
import { useAdvice, useCoach, useHung, useToday } from "../../api/hooks";
import { AgainWords, type AtLie, LieTitle, WithLie } from "../../app/lie";
import { useKeys } from "../../app/shortcuts";
import { useKeptAngler } from "../../local/angler";
import { standing, stops } from "../../local/cautions";
import { wake } from "../../local/engine";
import { take, tuningOf, useLastInHand, useOnRod } from "../../local/inhand";
import { type Log, readLog, useEndedLately, useLog } from "../../local/logbook";
import { flush } from "../../local/outbox";
import { askToKeep } from "../../local/pack";
import type { InHand } from "../../local/records";
import { type Again, always } from "../../local/standing";
import { Button, Cautions, Choice, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { baseOf, changed, idFor } from "../read/base";
import { BankColumn } from "./BankColumn";
import { NO_ROOM, Saved, Word } from "./BankWord";
import { BubbleSheet } from "./BubbleSheet";
import { CatchSheet } from "./CatchSheet";
import { ChangeSheet } from "./ChangeSheet";
import { CoachWhy, changes } from "./CoachLine";
import { EndSheet } from "./EndSheet";
import { heed, useHeeded } from "./heeded";
import { LaneStrip, type Spot } from "./LaneStrip";
import { LatestSheet } from "./LatestSheet";
import { StopAndRead } from "./StopAndRead";
import { useAwake } from "./useAwake";
import { changeOuting, end, observe, start, tap, undo } from "./useBank";

export const BankScreen = () => (
  <WithLie
    afresh={(at) =>
      at.situation ? (
        <WithRig key={at.lie.id} {...at} situation={at.situation} />
      ) : (
        <Trouble error={new Error("How fast it runs is still being worked out. Type the speed on Read.")} />
      )
    }
  >
    {(at) => <WithRig key={at.lie.id} {...at} again={null} />}
  </WithLie>
);

type At = AtLie & { again: Again | null };

/** The rig on the rod, or else the one that the advisor puts first; where nothing can be asked, what was last chosen anywhere. */
function WithRig(at: At) {
  const angler = useKeptAngler()?.id; // logging goes on when the session has ended
  const rod = useOnRod(at.lie.id);
  const last = useLastInHand();
  const advice = useAdvice(at.situation);
  const best = at.again ? undefined : advice.data?.ranked[0];
  useEffect(() => {
    if (rod === null && best) void take(at.lie.id, best);
  }, [rod, best, at.lie.id]);
  const silent = at.again !== null || advice.fetchStatus === "paused" || advice.isError;
  const known = advice.data?.ranked.find((one) => one.rig === rod?.rig)?.limits ?? null;
  const inHand =
    (rod && { ...rod, limits: rod.limits ?? known }) ??
    (rod === null && silent && last ? { ...last, lie: at.lie.id } : null);
  const cautions = at.again?.cautions ?? advice.data?.heed ?? always(at.beat, at.lie);
  if (inHand && angler) return <Bank {...at} inHand={inHand} angler={angler} cautions={cautions} />;
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

/** So many of the last drifts are in sight, each in a place of its own. */
const SIGNS = 12;

const SIGN: Record<Outcome, string> = {
  clean: "·",
  tick: "t",
  hung: "H",
  missed: "m",
  fish: "F",
  lost_fly: "L",
};

/**
 * The drifts of the stay with the rig in hand, as the coach is asked; null before the first. Those that a depth was learned from
 * are left out once it is what is believed: they would count twice.
 */
function fishedSoFar(
  log: Log | undefined,
  inHand: InHand,
  situation: Situation,
  learnedAt: string | null,
): CoachIn | null {
  if (!log?.stop || log.drifts.length === 0) return null;
  const settings = new Map(log.settings.map((one) => [one.id, one.body]));
  const drifts = log.drifts.flatMap(({ id, body }) => {
    const set = settings.get(body.setting_id);
    if (set?.rig !== inHand.rig) return [];
    if (learnedAt && Date.parse(body.at) <= Date.parse(learnedAt)) return [];
    const { depth_setting_m, point_bead_mm } = set;
    const fish = log.catches.find((one) => one.body.drift_id === id)?.body;
    return [
      {
        ...{ depth_setting_m, point_bead_mm, outcome: body.outcome, pace: body.pace ?? null },
        ...(fish ? { fly: fish.fly, phase: fish.phase } : {}),
      },
    ];
  });
  return { situation, rig: inHand.rig, drifts, tuning: tuningOf(inHand.rig, inHand.setup) };
}

function Bank({
  lie,
  beat,
  situation,
  again,
  inHand,
  angler,
  cautions,
}: At & { inHand: InHand; angler: string; cautions: Caution[] }) {
  const { show } = useUnits();
  const log = useLog(angler, lie.id);
  const today = useToday(beat.id);
  const ended = useEndedLately(angler, beat.id);
  const lastRead = again?.reading ?? lie.reading;
  const readAt = lastRead?.at;
  const stays = log?.stop && !(readAt && Date.parse(readAt) > Date.parse(log.stop.body.at));
  const learnedAt = lastRead?.depth_how === "drifts" ? lastRead.at : null;
  const water = stays && log?.stop ? log.stop.body.situation : situation;
  const hung = useHung(situation, tuningOf(inHand.rig, inHand.setup));
  const coach = useCoach(fishedSoFar(log, inHand, water, learnedAt));
  const [pace, setPace] = useState<Pace | null>(null);
  const [landing, setLanding] = useState<string | null>(null);
  const [sheet, setSheet] = useState<"change" | "coach" | "time" | "latest" | "end" | null>(null);
  const [keptDepth, setKeptDepth] = useState<number | null>(null);
  const [reading, setReading] = useState(false);
  const [moved, setMoved] = useState<Spot | null>(null);
  const [trouble, setTrouble] = useState<unknown>(null);
  const busy = useRef(Promise.resolve());
  const bank = { angler, beat: beat.id, lie: lie.id, situation, inHand, readAt };
  const fishing = Boolean(log?.outing && log.stop);
  useAwake(fishing);
  const last = log?.drifts.at(-1)?.body;
  const spot: Spot = moved ?? { lane: last?.lane ?? 1, stance: last?.stance ?? 1 };
  const minded = standing(today.data?.cautions ?? [], cautions);
  const grave = stops(minded);
  const heeded = useHeeded(log?.outing?.id);
  const unheeded = fishing && heeded !== undefined && grave.some((one) => !heeded.includes(one.code));
  // taps queue up behind each other and are never dropped; what cannot be kept is said
  const act = (action: () => Promise<unknown>) => {
    busy.current = busy.current.then(action).then(
      () => setTrouble(null),
      (error: unknown) => setTrouble(error),
    );
  };
  const begin = () => {
    setReading(false);
    void askToKeep().catch(() => false);
    act(async () => {
      if (!fishing) await start(bank);
      await heed(
        (await readLog(angler, lie.id)).outing?.id,
        grave.map((one) => one.code),
      );
    });
  };
  /** Write down what was seen, on top of the reading of the day. */
  const seen = (change: Partial<ReadingIn>) => {
    const { reading: before } = lie;
    if (again) {
      const { at: _at, ...base } = again.reading;
      act(() => observe(angler, again.id, changed(base, change)));
    } else if (before)
      act(() => observe(angler, idFor(lie, before), changed(baseOf(lie, situation, before), change)));
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
  const signs = log.drifts.slice(-SIGNS).map((drift) => SIGN[drift.body.outcome]);
  const learned =
    lastRead && advised?.learned && advised.learned.depth_m !== keptDepth ? advised.learned : null;
  return (
    <div className="grid grid-cols-1 gap-1 lg:grid-cols-2 lg:gap-6">
      <div>
        <div className="max-lg:sr-only">
          <LieTitle lie={lie} beat={beat} />
        </div>
        <h1 className="text-2xl font-bold">
          {RIG[inHand.rig]} · {show(inHand.point_bead_mm, "bead")} · {show(inHand.depth_setting_m, "m")}
        </h1>
        <BankColumn situation={situation} picture={hung.data?.picture} belief={advised?.depth_belief_m} />
        <div
          className="mt-1 grid h-14 grid-cols-[minmax(0,7.5rem)_minmax(0,1fr)_auto] items-center gap-x-2"
          aria-live="polite"
        >
          <button
            type="button"
            className="min-h-14 text-left font-bold underline decoration-line underline-offset-4"
            disabled={!log.outing}
            onClick={() => setSheet("latest")}
          >
            {`${log.drifts.length} ${log.drifts.length === 1 ? "drift" : "drifts"} here`}
          </button>
          <div className="min-w-0 overflow-hidden leading-tight">
            <div
              role="img"
              className="grid grid-cols-6 text-center font-mono leading-4"
              aria-label={log.drifts
                .slice(-SIGNS)
                .map((d) => d.body.outcome.replace("_", " "))
                .join(", ")}
            >
              {Array.from({ length: SIGNS }, (_, k) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a place, whatever stands in it
                <span key={k} className="overflow-hidden">
                  {signs[k] ?? "\u00a0"}
                </span>
              ))}
            </div>
            <div className="h-5 truncate text-sm">
              {log.catches.length > 0 && `${log.catches.length} in the book`}
            </div>
          </div>
          <Button
            disabled={!fishing || log.drifts.length === 0}
            onClick={takeBack}
            className={`flex items-center justify-center gap-2 px-3 ${fishing ? "" : "invisible"}`}
          >
            <Undo2 aria-hidden size={20} /> Undo
          </Button>
        </div>
      </div>
      <div className="space-y-2 lg:space-y-3">
        {fishing ? (
          <>
            <Word
              trouble={trouble}
              refused={log.refused}
              again={again}
              mute={mute ? coach.error : null}
              advised={advised}
              busy={coach.isPlaceholderData}
              onChange={() => setSheet("coach")}
            />
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
            <div className="grid grid-cols-[repeat(auto-fit,minmax(5.5rem,1fr))] gap-2 lg:grid-cols-3">
              {KEYS.map(({ outcome, name, what }) => (
                <button
                  key={outcome}
                  type="button"
                  onClick={() => press(outcome)}
                  className={`h-18 overflow-hidden rounded-2xl border-2 px-1 lg:h-21 leading-tight select-none active:bg-ink active:text-ground ${outcome === "fish" ? "border-signal-fill bg-signal-fill text-signal-ink" : "border-ink bg-paper"}`}
                >
                  <span className="block text-xl font-bold">{name}</span>
                  <span className="block text-sm">{what}</span>
                </button>
              ))}
            </div>
            <div className="grid grid-cols-[repeat(auto-fit,minmax(5.5rem,1fr))] gap-2 lg:grid-cols-3">
              <Button className="px-1" onClick={() => setSheet("change")}>
                Change setting
              </Button>
              <Button className="px-1" onClick={() => setSheet("time")}>
                Time a bubble
              </Button>
              <Button className="px-2" onClick={() => setSheet("end")}>
                End outing
              </Button>
            </div>
            <div className="grid h-16 grid-cols-2 gap-2">
              <Saved log={log} onSend={() => act(() => flush(angler))} />
              <Button
                className={`px-2 leading-tight ${learned ? "" : "invisible"}`}
                onClick={() => {
                  if (!learned) return;
                  seen({ ...learned, depth_how: "drifts" });
                  setKeptDepth(learned.depth_m);
                }}
              >
                {learned &&
                  `Keep ${show(learned.depth_m, "m")} ± ${show(learned.depth_sd_m, "m")} as the depth here`}
              </Button>
            </div>
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
            {!log.outing && ended && (
              <Button
                className="w-full"
                onClick={() => act(() => changeOuting(angler, ended.id, ended.body, { ended_at: null }))}
              >
                Go on with the outing of {clockOf(ended.body.started_at)}
              </Button>
            )}
            <div className="h-14">
              <Saved log={log} onSend={() => act(() => flush(angler))} />
            </div>
            {trouble !== null && <Trouble error={new Error(NO_ROOM)} />}
            {again && (
              <p role="status" className="font-semibold">
                <AgainWords again={again} />
              </p>
            )}
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
        <Cautions cautions={minded} />
        {fishing && advised && <CoachWhy coaching={advised} />}
      </div>
      <ChangeSheet
        open={sheet === "change" || sheet === "coach"}
        onCoach={sheet === "coach"}
        onClose={() => setSheet(null)}
        inHand={inHand}
        situation={situation}
        suggested={
          advised && changes(advised)
            ? { depth: advised.advice.depth_setting_m, bead: advised.advice.point_bead_mm }
            : null
        }
      />
      {sheet === "latest" && log.outing && (
        <LatestSheet angler={angler} beat={beat} outing={log.outing.id} onClose={() => setSheet(null)} />
      )}
      {sheet === "end" && (
        <EndSheet
          drifts={log.drifts.length}
          onClose={() => setSheet(null)}
          onEnd={() => {
            setSheet(null);
            act(() => end(bank));
          }}
        />
      )}
      {(reading || unheeded) && (
        <StopAndRead cautions={grave} onGo={begin} onClose={() => (unheeded ? begin() : setReading(false))} />
      )}
      {sheet === "time" && (
        <BubbleSheet
          lie={lie.name}
          onClose={() => setSheet(null)}
          onSave={(distance_m, seconds) => {
            setSheet(null);
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

const clockOf = (at: string) =>
  new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
