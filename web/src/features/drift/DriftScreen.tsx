import { useState } from "react";
import { type How, type Ranked, Refused, type RigKind, type Tuning } from "../../api/client";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { RIG } from "../../app/rigs";
import { rigOf, tuningOf, useOnRod } from "../../local/inhand";
import type { InHand } from "../../local/records";
import { useGhosts, usePath } from "../../queries/rigs";
import { useTuning } from "../../queries/setting";
import { useAdvice, useColumn } from "../../queries/water";
import { Choice } from "../../ui/choosing";
import { useOnline } from "../../ui/online";
import { Panel, Trouble, Working } from "../../ui/parts";
import { Slider } from "../../ui/slider";
import { useUnits } from "../../units/context";
import { percent } from "../../units/units";
import { Hanging } from "../rig/Hanging";
import { Figures } from "../rig/RigFacts";
import { Refusal, SetIt } from "../rig/SetIt";
import { DriftPlayer } from "./DriftPlayer";

export const DriftScreen = () => <WithLie>{(at) => <Ready key={at.lie.id} {...at} />}</WithLie>;

const ENTRIES = [
  ["straight", "line straight"],
  ["tuck", "flies first"],
  ["heap", "in a heap"],
  ["lead", "flies ahead"],
] as const;

const HANDLINGS = [
  ["dead", "dead drift"],
  ["lead", "lead them"],
  ["still", "tip still"],
] as const;

const SWING = [
  ["no", "lift off"],
  ["yes", "swing"],
] as const;

const GHOSTS = [
  ["none", "alone"],
  ["next", "next best"],
  ["all", "all three"],
] as const;

function Ready(at: AtLie) {
  const inHand = useOnRod(at.lie.id);
  const advice = useAdvice(at.lie.id, at.situation);
  if (advice.isError && !advice.data) return <Trouble error={advice.error} retry={() => advice.refetch()} />;
  if (inHand === undefined || advice.isPending) return <Hanging lie={at.lie.id} />;
  return <Drift {...at} ranked={advice.data.ranked} inHand={inHand} />;
}

function beginning(ranked: Ranked[], inHand: InHand | null): Tuning | null {
  const rig = rigOf(inHand);
  if (rig) return tuningOf(rig.rig, rig.setup);
  const best = ranked[0];
  return best?.setup ? tuningOf(best.rig, best.setup) : null;
}

function Drift({
  lie,
  beat,
  situation,
  ranked,
  inHand,
}: AtLie & { ranked: Ranked[]; inHand: InHand | null }) {
  const { show, say, bead: beadOf } = useUnits();
  const { tuning, tuned, set } = useTuning(lie.id, situation, () => beginning(ranked, inHand));
  const [how, setHow] = useState<How>({ entry: "straight", handling: "dead", swing: false });
  const [ghostly, setGhostly] = useState<(typeof GHOSTS)[number][0]>("none");
  const column = useColumn(situation);
  const path = usePath(situation, tuning, how);
  const others = ranked.filter((one) => one.rig !== tuning?.rig && one.setup);
  const compared = ghostly === "none" ? [] : ghostly === "next" ? others.slice(0, 1) : others;
  const ghosts = useGhosts(
    situation,
    compared.flatMap((one) => (one.setup ? [tuningOf(one.rig, one.setup)] : [])),
    how,
  );
  const online = useOnline();
  const error = path.error ?? tuned.error;
  const refused = error instanceof Refused;
  if (!tuning) return <Trouble error={new Error("No rig could be worked out here.")} />;
  const kind: RigKind = tuning.rig;
  const live = tuned.data;
  return (
    <div>
      <LieTitle lie={lie} beat={beat} />
      {error && !refused && <Trouble error={error} retry={() => path.refetch()} />}
      <h1 className="text-2xl leading-snug font-bold" aria-live="polite">
        {RIG[kind]} · {beadOf(tuning.point_bead_mm)} · {show(tuning.depth_setting_m, "m")}:{" "}
        {refused
          ? "it will not hang"
          : !path.data
            ? "…"
            : path.data.reached_s === null
              ? "not down before the drift ends"
              : `down after ${show(path.data.reached_s, "s")} and ${show(path.data.reached_m ?? 0, "m", 1)}, in the zone ${percent(path.data.in_zone_share)} of this drift`}
      </h1>
      {path.data?.warnings.map((warning) => (
        <p
          key={warning}
          role="status"
          className="mt-2 rounded-lg border-l-4 border-caution bg-caution-ground px-3 py-2 font-semibold text-caution"
        >
          {say(warning)}
        </p>
      ))}
      {path.data && column.data ? (
        <DriftPlayer path={path.data} ghosts={ghosts} column={column.data} />
      ) : (
        !refused && <Working what="Running the drift" />
      )}
      <div className="mt-4 grid gap-4 lg:grid-cols-2">
        <Panel title="Change it">
          {!online && (
            <p className="text-soft">Without signal no drift is worked out, and nothing changes here.</p>
          )}
          {online && live && (
            <>
              <SetIt kind={kind} tuning={tuning} limits={live.limits} onChange={set} />
              <Slider
                label="Tippet"
                value={tuning.tippet_x ?? live.setup?.tippet_x ?? live.limits.finest_x}
                min={live.limits.heaviest_x}
                max={live.limits.finest_x}
                step={1}
                shown={`${tuning.tippet_x ?? live.setup?.tippet_x}X`}
                onChange={(tippet_x) => set({ ...tuning, tippet_x })}
              />
              {kind === "euro" && (
                <Slider
                  label="Tip to bubbles"
                  value={tuning.tip_pace ?? live.setup?.tip_pace ?? live.limits.fastest_pace}
                  min={0}
                  max={live.limits.fastest_pace}
                  step={0.02}
                  shown={percent(tuning.tip_pace ?? live.setup?.tip_pace ?? 0)}
                  onChange={(pace) => set({ ...tuning, tip_pace: Math.round(100 * pace) / 100 })}
                />
              )}
            </>
          )}
          <Refusal error={refused ? error : null} tuning={tuning} onChange={set} />
          <div className={online ? "space-y-3" : "hidden"}>
            <Choice
              label="It lands"
              value={how.entry ?? "straight"}
              options={ENTRIES}
              onChange={(entry) => setHow({ ...how, entry })}
            />
            {kind === "euro" && (
              <>
                <Choice
                  label="The rod"
                  value={how.handling ?? "dead"}
                  options={HANDLINGS}
                  onChange={(handling) => setHow({ ...how, handling })}
                />
                <Choice
                  label="At the end"
                  value={how.swing ? "yes" : "no"}
                  options={SWING}
                  onChange={(end) => setHow({ ...how, swing: end === "yes" })}
                />
              </>
            )}
            <Choice label="Show with it" value={ghostly} options={GHOSTS} onChange={setGhostly} />
          </div>
        </Panel>
        <div className="space-y-3">
          {live && !refused && <Figures ranked={live} />}
          {path.data?.mend && <p>{say(path.data.mend.words)}</p>}
          <p className="text-soft">
            At the depth believed. Computed with the drag of line and flies in the current of every height;
            turbulence, bending and the shape of hooks are left out. Ticks are where a fly meets stones of the
            bed's size.
          </p>
        </div>
      </div>
    </div>
  );
}
