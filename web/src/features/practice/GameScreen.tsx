import { useEffect, useState } from "react";
import { Link, useLocation, useParams } from "wouter";
import type { Cast, Finished, Game, Lifted, Outcome, Pace, PracticeWater, Shown } from "../../api/client";
import { address } from "../../app/addresses";
import { useKeys } from "../../app/shortcuts";
import {
  useCast,
  useFinish,
  useGameWhy,
  useHiddenWater,
  useHint,
  useLift,
  useReveal,
} from "../../queries/practice";
import { Choice } from "../../ui/choosing";
import { Button, Panel, Trouble, Working } from "../../ui/parts";
import { Sheet } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { keysFor, OutcomeKeys } from "../bank/OutcomeKeys";
import { anySeed, firstHand, forget, gameOf, keep, keptOf } from "./game";
import { Hand } from "./Hand";
import { Section } from "./Section";
import { Surface } from "./Surface";

const PACES = [
  ["slower", "slower"],
  ["same", "the same"],
  ["faster", "faster"],
] as const;

const OTHERS: Record<string, string> = {
  thumb: "The rule of thumb",
  coach: "The coach",
  knowing: "One who knew the water",
};

/** A hidden water, from what is told of it to what was under it. */
export function GameScreen() {
  const { drill = "", seed = "" } = useParams();
  const water = useHiddenWater(drill as Game["drill"], Number(seed));
  if (water.isError) return <Trouble error={water.error} retry={() => water.refetch()} />;
  if (!water.data) return <Working what="Walking down to the water" />;
  return <Playing key={`${drill} ${seed}`} water={water.data} />;
}

type At =
  | { phase: "hand" }
  | { phase: "drift"; seen: Shown }
  | { phase: "lifted"; lifted: Lifted }
  | { phase: "over" };

function Playing({ water }: { water: PracticeWater }) {
  const { drill, game } = water;
  const kept = keptOf(drill.name, game.seed);
  const [told] = useState<Game>(() => kept?.told ?? game);
  const [id, setId] = useState(() => kept?.id ?? crypto.randomUUID());
  const [casts, setCasts] = useState<Cast[]>(() => kept?.casts ?? []);
  const [hand, setHand] = useState<Cast>(() => kept?.hand ?? firstHand(water));
  const [hinted, setHinted] = useState(kept?.hinted ?? false);
  const [at, setAt] = useState<At>(() => ({ phase: casts.length >= drill.drifts ? "over" : "hand" }));
  const [clock, setClock] = useState(kept?.clock ?? 0);
  const cast = useCast();
  const lift = useLift();
  useEffect(() => {
    keep(drill.name, game.seed, { id, told, casts, hand, hinted, clock });
  }, [drill.name, game.seed, id, told, casts, hand, hinted, clock]);

  const throwIt = () => {
    if (cast.isPending) return;
    cast.mutate(gameOf(told, [...casts, hand]), {
      onSuccess: (seen) => setAt({ phase: "drift", seen }),
    });
  };
  const lifted = (strike: number | null) => {
    const next = [...casts, { ...hand, strike_s: strike }];
    setCasts(next);
    lift.mutate(gameOf(told, next), {
      onSuccess: (what) => {
        setClock(what.at_s);
        setAt({ phase: "lifted", lifted: what });
      },
      onError: () => {
        // the drift is as if it had not been: it is cast again
        setCasts(casts);
        setAt({ phase: "hand" });
      },
    });
  };
  const log = (outcome: Outcome, pace: Pace | null, lifted: Lifted) => {
    setCasts((before) => [...before.slice(0, -1), { ...(before.at(-1) as Cast), outcome, pace }]);
    setAt({ phase: lifted.over ? "over" : "hand" });
  };
  const again = () => {
    forget(drill.name, game.seed);
    setId(crypto.randomUUID());
    setCasts([]);
    setHand(firstHand(water));
    setHinted(false);
    setClock(0);
    setAt({ phase: "hand" });
  };
  useKeys({ " ": at.phase === "hand" ? throwIt : undefined });
  const number = casts.length + (at.phase === "hand" || (at.phase === "drift" && !lift.isPending) ? 1 : 0);
  if (at.phase === "over") return <Over water={water} game={gameOf(told, casts)} id={id} onAgain={again} />;
  return (
    <div className="mx-auto max-w-3xl space-y-3">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 pt-2">
        <h1 className="text-2xl font-bold">{drill.title}</h1>
        <p className="text-soft">
          {`Drift ${Math.min(number, drill.drifts)} of ${drill.drifts}${drill.minutes === null ? "" : ` · ${Math.floor(clock / 60)} of ${drill.minutes} min gone`}`}
        </p>
      </div>
      {at.phase === "drift" ? (
        <Surface
          seen={at.seen}
          up={hand.up_m ?? 0}
          reach={water.reach_m}
          tip={hand.rig === "euro"}
          onEnd={lifted}
        />
      ) : at.phase === "lifted" ? (
        <Logged
          told={at.lifted}
          floated={hand.rig !== "euro"}
          paced={drill.bar.measure === "pace"}
          game={gameOf(told, casts)}
          onLog={(outcome, pace) => log(outcome, pace, at.lifted)}
        />
      ) : (
        <>
          <ToldOf water={water} lane={(hand.lane ?? 1) - 1} first={casts.length === 0} />
          {(cast.isError || lift.isError) && <Trouble error={cast.error ?? lift.error} />}
          <Button look="main" className="min-h-20 w-full text-xl" onClick={throwIt}>
            Cast
          </Button>
          <Panel>
            <Hand water={water} hand={hand} onChange={setHand} />
          </Panel>
          <div className="flex flex-wrap gap-2">
            {casts.length > 0 && (
              <Hint
                game={gameOf(told, casts)}
                used={hinted}
                onUse={() => setHinted(true)}
                onTake={(setting, bead) =>
                  setHand({ ...hand, depth_setting_m: setting, point_bead_mm: bead })
                }
              />
            )}
            {casts.length > 2 && (
              <Button onClick={() => setAt({ phase: "over" })}>Enough: lift the water off</Button>
            )}
          </div>
        </>
      )}
    </div>
  );
}

/** What one is told of a lane before fishing it. */
function ToldOf({ water, lane, first }: { water: PracticeWater; lane: number; first: boolean }) {
  const { show } = useUnits();
  const there = water.lanes[lane] ?? water.lanes[0];
  if (!there) return null;
  const { depth_m, surface_speed_m_s, kind, bed, temperature_c, under_line_ratio } = there.situation.water;
  const under =
    under_line_ratio == null
      ? ""
      : ` The water under the line runs ${under_line_ratio > 1 ? "faster" : "slower"} than the lane.`;
  return (
    <div className="space-y-1">
      {first && <p>{water.drill.task}</p>}
      <p className="first-letter:uppercase text-soft">
        {`${there.name === "" ? "By eye" : `${there.name}, by eye`}: ${show(depth_m, "m", 1)} deep, top at ${show(surface_speed_m_s, "m/s", 1)}; ${kind.replace("_", " ")}, ${bed ?? "gravel"}, ${show(temperature_c ?? 11, "°C")}.${under}`}
      </p>
    </div>
  );
}

/** What came of a drift, and the keys that log it: the same as on the bank. */
function Logged({
  told,
  floated,
  paced,
  game,
  onLog,
}: {
  told: Lifted;
  floated: boolean;
  /** The pace is what this drill is about. */
  paced: boolean;
  game: Game;
  onLog: (outcome: Outcome, pace: Pace | null) => void;
}) {
  const { say } = useUnits();
  const [pace, setPace] = useState<Pace | null>(null);
  const why = useGameWhy();
  const wants = paced && floated && pace === null;
  useKeys(
    Object.fromEntries(
      keysFor(false).map(({ key, outcome }) => [key, wants ? undefined : () => onLog(outcome, pace)]),
    ),
  );
  return (
    <div className="space-y-3">
      <p className="min-h-14 text-xl font-semibold" role="status">
        {say(told.words)}
      </p>
      {floated && (
        <Choice
          label="The float against the bubbles"
          value={pace}
          options={PACES}
          onChange={setPace}
          clearable={() => setPace(null)}
        />
      )}
      <p className="text-soft">
        {wants ? "Call the pace first; then log the drift." : "Log it as you would on the bank."}
      </p>
      <div inert={wants} className={wants ? "opacity-45" : ""}>
        <OutcomeKeys alone={false} large={false} onPress={(outcome) => onLog(outcome, pace)} />
      </div>
      {why.data ? (
        <p className="rounded-xl bg-paper p-3">{say(why.data.words)}</p>
      ) : (
        <Button disabled={why.isPending} onClick={() => why.mutate(game)}>
          What could it have told?
        </Button>
      )}
      {why.isError && <Trouble error={why.error} />}
    </div>
  );
}

/** The coach's word, once a game. */
function Hint({
  game,
  used,
  onUse,
  onTake,
}: {
  game: Game;
  used: boolean;
  onUse: () => void;
  onTake: (setting: number, bead: number | null) => void;
}) {
  const { say, show, bead } = useUnits();
  const hint = useHint();
  const [open, setOpen] = useState(false);
  const done = hint.data;
  return (
    <>
      <Button
        disabled={used || hint.isPending}
        onClick={() => {
          setOpen(true);
          hint.mutate(game, { onSuccess: onUse });
        }}
      >
        {used ? "The coach has spoken" : "Ask the coach, once"}
      </Button>
      {open && (
        <Sheet title="The coach" open onClose={() => setOpen(false)}>
          {hint.isPending && <Working what="Thinking it over" />}
          {hint.isError && <Trouble error={hint.error} />}
          {done && (
            <>
              <p>{say(done.reason)}</p>
              <p className="font-semibold">
                {`${done.action.replace("_", " ")}: ${show(done.depth_setting_m, "m")}, ${bead(done.point_bead_mm)}`}
              </p>
              <Button
                look="main"
                className="w-full"
                onClick={() => {
                  onTake(done.depth_setting_m, done.point_bead_mm);
                  setOpen(false);
                }}
              >
                Set it so
              </Button>
            </>
          )}
        </Sheet>
      )}
    </>
  );
}

/** The water lifted off: what was there, what it was worth, what is to be learned. */
function Over({
  water,
  game,
  id,
  onAgain,
}: {
  water: PracticeWater;
  game: Game;
  id: string;
  onAgain: () => void;
}) {
  const { say } = useUnits();
  const [, navigate] = useLocation();
  const revealed = useReveal(game, true);
  const done = useFinish(id, game, true);
  const [lane, setLane] = useState(() => (game.casts?.at(-1)?.lane ?? 1) - 1);
  const [copied, setCopied] = useState(false);
  const { drill } = water;
  return (
    <div className="mx-auto max-w-3xl space-y-3">
      <h1 className="pt-2 text-2xl font-bold">{`${drill.title}: the water lifted off`}</h1>
      {revealed.isError && <Trouble error={revealed.error} retry={() => revealed.refetch()} />}
      {!revealed.data && !revealed.isError && <Working what="Lifting the water off" />}
      {revealed.data && (
        <>
          {revealed.data.sections.length > 1 && (
            <Choice
              label="Where"
              quiet
              value={String(lane)}
              options={revealed.data.sections.map((one, k) => [String(k), one.name])}
              onChange={(next) => setLane(Number(next))}
            />
          )}
          <Section key={lane} revealed={revealed.data} lane={lane} />
          <Panel title="What mattered most">
            <ul className="list-inside list-disc space-y-1">
              {revealed.data.sentences.map((one) => (
                <li key={one}>{say(one)}</li>
              ))}
              {revealed.data.sentences.length === 0 && <li>Nothing that could have been done better.</li>}
            </ul>
            <p className="mt-2">
              <b>The lesson:</b> {drill.lesson}
            </p>
            {drill.bar.measure === "takes" && (
              <p className="mt-2">{`${revealed.data.struck_in_time} of ${revealed.data.takes} takes struck in time, ${revealed.data.false_strikes} strikes at nothing.`}</p>
            )}
            {drill.bar.measure === "pace" && (
              <p className="mt-2">{`${revealed.data.paces_right} of ${revealed.data.paces_called} paces called right.`}</p>
            )}
          </Panel>
        </>
      )}
      <Panel title="Beside others with the same luck">
        <div className="min-h-44" aria-live="polite">
          {done.isError && <Trouble error={done.error} retry={() => done.refetch()} />}
          {!done.data && !done.isError && <Working what="Letting others fish it" />}
          {done.data && <Worth done={done.data} bar={water.bar} />}
        </div>
      </Panel>
      <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,9rem),1fr))] gap-2">
        <Button look="main" onClick={() => navigate(address.drill(drill.name, String(anySeed())))}>
          Another water
        </Button>
        <Button onClick={onAgain}>The same again</Button>
        <Button
          onClick={() =>
            void navigator.clipboard
              .writeText(`${location.origin}/practice/${drill.name}/${water.game.seed}`)
              .then(() => setCopied(true))
          }
        >
          {copied ? "Copied: send it" : "Challenge a friend"}
        </Button>
        <Link
          to="/practice"
          className="grid min-h-14 place-items-center rounded-xl border border-line bg-paper"
        >
          All drills
        </Link>
      </div>
    </div>
  );
}

function Worth({ done, bar }: { done: Finished; bar: string }) {
  const { show } = useUnits();
  const { score } = done;
  const hundred = (share: number) => Math.round(100 * share);
  const total = (one: Finished["beside"][number]) => one.zone_s.reduce((sum, each) => sum + each, 0);
  return (
    <>
      <p className="text-lg font-semibold">
        {`${show(score.zone_s, "s", 0)} in the zone: ${hundred(score.share)} in 100 of one who knew the water.`}
      </p>
      <p className="text-soft">
        {`The same play with other luck: ${hundred(score.low)} to ${hundred(score.high)} (9 times in 10).`}
      </p>
      <p className="mt-1">{done.passed ? `Passed: ${bar}.` : `Not passed; it takes ${bar}.`}</p>
      <ul className="mt-2 text-soft">
        {done.beside.map((one) => (
          <li key={one.name}>{`${OTHERS[one.name] ?? one.name}: ${show(total(one), "s", 0)}`}</li>
        ))}
      </ul>
      <p className="text-sm text-soft">
        The rule of thumb and the coach went through the lanes that you did, with any bead they liked.
      </p>
    </>
  );
}
