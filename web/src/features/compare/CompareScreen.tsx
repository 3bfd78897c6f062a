/** Two rigs as set, over all the water that they might meet: which is longer in the zone where, and where this lie is. */

import { useDeferredValue, useState } from "react";
import type { Limits, Ranked, RigKind, Tuning } from "../../api/client";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { rigOf, tuningOf, useInHand } from "../../local/inhand";
import { useCompare } from "../../queries/rigs";
import { useAdvice } from "../../queries/water";
import { Choice } from "../../ui/choosing";
import { Panel, Trouble } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { Hanging } from "../rig/Hanging";
import { SetIt } from "../rig/SetIt";
import { ZoneMap } from "./ZoneMap";

export const CompareScreen = () => <WithLie here>{(at) => <Ready key={at.lie.id} {...at} />}</WithLie>;

function Ready(at: AtLie) {
  const advice = useAdvice(at.lie.id, at.situation);
  const inHand = useInHand(at.lie.id);
  if (advice.isError && !advice.data) return <Trouble error={advice.error} retry={() => advice.refetch()} />;
  if (advice.isPending || inHand === undefined) return <Hanging lie={at.lie.id} />;
  const usable = advice.data.ranked.filter((one) => one.setup);
  const [best, next] = usable;
  if (!best?.setup)
    return <Trouble error={new Error("No rig can be used here, so there are none to compare.")} />;
  const rig = rigOf(inHand);
  const first = rig ? tuningOf(rig.rig, rig.setup) : tuningOf(best.rig, best.setup);
  const other = best.rig === first.rig ? (next ?? best) : best;
  const second = other.setup ? tuningOf(other.rig, other.setup) : first;
  return <Compare {...at} usable={usable} start={[first, second]} limits={best.limits} />;
}

interface Props extends AtLie {
  usable: Ranked[];
  start: [Tuning, Tuning];
  limits: Limits;
}

function Compare({ lie, beat, situation, usable, start, limits }: Props) {
  const { say } = useUnits();
  const [first, setFirst] = useState(start[0]);
  const [second, setSecond] = useState(start[1]);
  const map = useCompare(situation, useDeferredValue(first), useDeferredValue(second));
  const one = (title: string, tuning: Tuning, set: (tuning: Tuning) => void) => (
    <Panel title={title}>
      <Choice<RigKind>
        label="Rig"
        value={tuning.rig}
        options={usable.map((rig) => [rig.rig, rig.name] as const)}
        onChange={(kind) => {
          const setup = usable.find((rig) => rig.rig === kind)?.setup;
          if (setup) set(tuningOf(kind, setup));
        }}
      />
      <div className="mt-2">
        <SetIt kind={tuning.rig} tuning={tuning} limits={limits} onChange={set} />
      </div>
    </Panel>
  );
  return (
    <div>
      <LieTitle lie={lie} beat={beat} />
      <h1 className="text-xl leading-snug font-bold lg:text-2xl" aria-live="polite">
        {map.data ? say(map.data.words[0] ?? "") : "Comparing"}
      </h1>
      {map.data?.words.slice(1).map((words) => (
        <p key={words}>{say(words)}</p>
      ))}
      {map.isError && <Trouble error={map.error} retry={() => map.refetch()} />}
      {map.data && (
        <div className="mt-3 grid gap-4 sm:grid-cols-2" aria-busy={map.isFetching}>
          <ZoneMap title="First" map={map.data} mine="first" />
          <ZoneMap title="Second" map={map.data} mine="second" />
        </div>
      )}
      <div className="mt-4 grid gap-4 sm:grid-cols-2">
        {one("First", first, setFirst)}
        {one("Second", second, setSecond)}
      </div>
      <p className="mt-4 text-sm text-soft">
        Share of the drift that the best-placed fly is in the zone, in water of this kind and bed but of any
        depth and speed. Each square is computed; the ring is this lie, 8 times in 10 within it.
      </p>
    </div>
  );
}
