import { memo, useCallback, useMemo, useState } from "react";
import { Link } from "wouter";
import { type Advice, type Ranked, Refused, type RigKind, type Tuning } from "../../api/client";
import { address } from "../../app/addresses";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { RIG } from "../../app/rigs";
import { rigOf, tieDry, tuningOf, useOnRod } from "../../local/inhand";
import type { InHand } from "../../local/records";
import { useTuning } from "../../queries/setting";
import { useAdvice, useColumn, useEngineHere } from "../../queries/water";
import { Choice } from "../../ui/choosing";
import { useOnline } from "../../ui/online";
import { Button, Cautions, Panel, Say, Trouble } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { bottomOf } from "../bank/spots";
import { atLie, LogHere, OwnEvidence } from "../learn/LogHere";
import { BeatRules } from "../setup/BeatRules";
import { BeginWith } from "./BeginWith";
import { Cards } from "./Cards";
import { Hanging, useTakenAlong } from "./Hanging";
import { LeastChange } from "./LeastChange";
import { CastsHere, DryAlone, OtherWays, Relax } from "./OtherWays";
import { Criteria, Figures, Reasons } from "./RigFacts";
import { SchoolSheet } from "./SchoolSheet";
import { Refusal, SetIt } from "./SetIt";
import { ThreeRigs } from "./ThreeRigs";

export const RigScreen = () => <WithLie here>{(at) => <AtTheLie key={at.lie.id} {...at} />}</WithLie>;

/** What is advised begins anew with every change of the situation; the sheet that changes it stays open. */
function AtTheLie(at: AtLie) {
  const [school, setSchool] = useState(false);
  return (
    <>
      <Ready key={JSON.stringify(at.situation)} {...at} onSchool={() => setSchool(true)} />
      {school && <SchoolSheet lie={at.lie} situation={at.situation} onClose={() => setSchool(false)} />}
    </>
  );
}

function Ready({ onSchool, ...at }: AtLie & { onSchool: () => void }) {
  const [flies, setFlies] = useState<Flies>("box");
  const situation = flies === "any" ? { ...at.situation, box: null } : at.situation;
  const advice = useAdvice(at.lie.id, situation);
  const inHand = useOnRod(at.lie.id);
  if (advice.isError && !advice.data) return <Trouble error={advice.error} retry={() => advice.refetch()} />;
  if (advice.isPending || inHand === undefined) return <Hanging lie={at.lie.id} />;
  return (
    <Choose
      key={flies}
      {...at}
      situation={situation}
      advice={advice.data}
      byDevice={advice.data.by === "device"}
      inHand={inHand}
      onSchool={onSchool}
      flies={flies}
      onFlies={at.situation.box ? setFlies : null}
    />
  );
}

type Flies = "box" | "any";

interface Props extends AtLie {
  advice: Advice;
  /** Worked out here, among the rigs that were advised before. */
  byDevice: boolean;
  inHand: InHand | null;
  onSchool: () => void;
  flies: Flies;
  /** Null: nothing was ever put in the box, so it binds nothing. */
  onFlies: ((flies: Flies) => void) | null;
}

/** The tuning to begin with: the rig in hand if it is of this kind, else as the advisor sets it. */
function beginning(kind: RigKind, ranked: Ranked[], inHand: InHand | null): Tuning | null {
  const rig = rigOf(inHand);
  if (rig?.rig === kind) return tuningOf(kind, rig.setup);
  const setup = ranked.find((one) => one.rig === kind)?.setup;
  return setup ? tuningOf(kind, setup) : null;
}

function Choose(props: Props) {
  const { lie, beat, situation, again, advice, byDevice, inHand, onSchool, flies, onFlies } = props;
  const { ranked } = advice;
  const { show, say, bead: beadOf } = useUnits();
  const column = useColumn(situation);
  const [kind, setKind] = useState<RigKind>(rigOf(inHand)?.rig ?? ranked[0]?.rig ?? "euro");
  const {
    tuning,
    tuned,
    set: setTuning,
  } = useTuning(lie.id, situation, () => beginning(kind, ranked, inHand));
  const online = useOnline();
  const taken = useTakenAlong(lie.id);
  const engine = useEngineHere();
  const settable = online || engine;
  const advised = ranked.find((one) => one.rig === kind);
  const live = tuned.data?.rig === kind ? tuned.data : advised;
  // what was set but cannot hang stays set, and is said; the picture keeps the last that could
  const refused = tuned.error instanceof Refused ? tuned.error : null;

  const set = useCallback(
    (next: RigKind, to: Tuning | null, known?: Ranked) => {
      setKind(next);
      setTuning(to, known);
    },
    [setTuning],
  );
  const choose = useCallback(
    (next: RigKind) => {
      const one = ranked.find((other) => other.rig === next);
      set(next, one?.setup ? tuningOf(next, one.setup) : null, one?.setup ? one : undefined);
    },
    [ranked, set],
  );
  const hangs = refused === null;
  const shown = useMemo(
    () => ranked.map((one) => (one.rig === kind && live ? live : one)),
    [ranked, kind, live],
  );
  // nothing is said of a rig that will not hang but why
  const standing = useMemo(
    () => live && (hangs ? live : { ...live, reasons: [], warnings: [], criteria: [] }),
    [live, hangs],
  );
  if (!advised || !live || !standing)
    return <Trouble error={new Error("No rig could be worked out here.")} />;
  const { limits } = live;
  const first = ranked[0];
  const asAdvised = advised.setup && tuningOf(kind, advised.setup);
  const changed = JSON.stringify(asAdvised) !== JSON.stringify(tuning);
  return (
    <div className="grid grid-cols-1 gap-4 lg:grid-cols-[1.7fr_1fr]">
      <div className="min-w-0">
        <LieTitle lie={lie} beat={beat} />
        <h1 className="text-2xl leading-snug font-bold" aria-live="polite">
          {refused && tuning ? (
            <>
              {advised.name} · {beadOf(tuning.point_bead_mm)} · {show(tuning.depth_setting_m, "m")}: it will
              not hang
            </>
          ) : (
            <Say text={live.answer} />
          )}
        </h1>
        {byDevice && (
          <p className="text-soft">
            Worked out on this device, for {show(situation.water.depth_m, "m")} and{" "}
            {show(situation.water.surface_speed_m_s, "m/s")}:{" "}
            {taken !== false
              ? "the flies advised before, set anew. With signal all flies are looked at."
              : "from a quick look at a few flies. With signal all of them are looked at."}
          </p>
        )}
        {inHand && first && inHand.rig !== first.rig && (
          <p className="text-soft">
            On the rod: {RIG[inHand.rig].toLowerCase()}. The first choice here is now{" "}
            {first.name.toLowerCase()}.
          </p>
        )}
        <div className="mt-2 min-h-[280px] lg:min-h-[390px]">
          {column.data && (
            <ThreeRigs column={column.data} ranked={shown} chosen={kind} stale={!hangs} onChoose={choose} />
          )}
        </div>
        <Cards shown={shown} ranked={ranked} chosen={kind} onChoose={choose} />
        <div className="mt-4 hidden lg:block">
          <Reasons reasons={standing.reasons} />
        </div>
      </div>
      <div className="min-w-0 space-y-4">
        {tuning && live.setup ? (
          <Panel title="Set it">
            {settable ? (
              <>
                <SetIt kind={kind} tuning={tuning} limits={limits} onChange={(to) => set(kind, to)} />
                {asAdvised && (
                  <BeginWith
                    lie={lie.id}
                    situation={situation}
                    bottom={bottomOf(undefined, again ? [] : lie.bottom)}
                    advised={asAdvised}
                    tuning={tuning}
                    onTake={(to) => set(kind, to)}
                  />
                )}
                <Refusal error={tuned.error} tuning={tuning} onChange={(to) => set(kind, to)} />
              </>
            ) : (
              <p className="text-soft">
                What another bead or length would do is not worked out without signal. What is tied on is
                changed on Log.
              </p>
            )}
            {!refused && <p className="text-sm text-soft">{say(live.rule_of_thumb.note)}</p>}
            {standing.warnings.map((warning) => (
              <p
                key={warning}
                role="status"
                className="mt-2 rounded-lg border-l-4 border-caution bg-caution-ground px-3 py-2 font-semibold text-caution"
              >
                {say(warning)}
              </p>
            ))}
            {!refused && <Figures ranked={live} />}
            <div className="mt-3 grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
              <Link
                to={address.lie(lie.id, "drift")}
                className="grid min-h-14 place-items-center rounded-xl bg-signal-fill px-4 font-semibold text-signal-ink"
              >
                See its drift
              </Link>
              <Button disabled={!changed || !settable} onClick={() => choose(kind)}>
                As advised
              </Button>
              {(["build", "compare"] as const).map((screen) => (
                <Link
                  key={screen}
                  to={address.lie(lie.id, screen)}
                  className="grid min-h-14 place-items-center rounded-xl border border-line bg-paper px-4"
                >
                  {screen === "build" ? "How to tie it" : "Compare it"}
                </Link>
              ))}
            </div>
          </Panel>
        ) : (
          <Panel title={`${advised.name}: not here`}>
            {advised.reasons.map((reason) => (
              <p key={reason.text}>{say(reason.text)}</p>
            ))}
          </Panel>
        )}
        <Relax advice={advice} />
        <DryAlone
          advice={advice}
          tied={inHand?.rig === "dry"}
          onTie={(setup) => void tieDry(lie.id, setup, inHand)}
        />
        {tuning && live.setup && !refused && changed && (
          <LeastChange lie={lie.id} situation={situation} tuning={tuning} onTake={set} />
        )}
        <div className="lg:hidden">
          <Reasons reasons={standing.reasons} />
        </div>
        <Beneath {...{ lie, beat, advice, onSchool, flies, onFlies }} standing={standing} />
      </div>
    </div>
  );
}

type BeneathProps = Pick<Props, "lie" | "beat" | "advice" | "onSchool" | "flies" | "onFlies"> & {
  standing: Ranked;
};

/** What no step of a slider changes until its answer is there. */
const Beneath = memo(({ lie, beat, advice, standing, onSchool, flies, onFlies }: BeneathProps) => (
  <>
    <Panel>
      {onFlies && (
        <Choice
          label="Flies from"
          value={flies}
          options={[
            ["box", "my box"],
            ["any", "any there are"],
          ]}
          onChange={onFlies}
        />
      )}
      <div
        className={`grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2 ${onFlies ? "mt-2" : ""}`}
      >
        <Link
          to="/box"
          className="grid min-h-14 place-items-center rounded-xl border border-line bg-paper px-4"
        >
          {onFlies ? "My box" : "Fill my box"}
        </Link>
        <Button onClick={onSchool}>{lie.school ? "School, here" : "My school"}</Button>
      </div>
    </Panel>
    <CastsHere advice={advice} />
    <OtherWays advice={advice} />
    <Criteria ranked={standing} />
    <Cautions cautions={advice.heed} />
    <BeatRules beat={beat} />
    <LogHere place={atLie(lie)} />
    <OwnEvidence place={atLie(lie)} />
  </>
));
