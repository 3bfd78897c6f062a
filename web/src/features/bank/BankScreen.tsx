import { useEffect } from "react";
import { type AtLie, WithLie } from "../../app/lie";
import { useKeptAngler } from "../../local/angler";
import { useFirstHour } from "../../local/habits";
import { asAdvised, take, tieDry, useCarried, useLastInHand, useOnRod } from "../../local/inhand";
import { always } from "../../local/standing";
import { useAdvice } from "../../queries/water";
import { Trouble, Working } from "../../ui/parts";
import { Bank } from "./Bank";
import { isOfTheHour, plainly, rigOfTheHour } from "./firstHour";

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
    {(at) => <WithRig key={at.lie.id} {...at} again={null} reckoned />}
  </WithLie>
);

type At = AtLie & { reckoned: boolean };

/** The rig on the rod, or else the one that the advisor puts first; where nothing can be asked, what was last chosen anywhere. */
function WithRig(at: At) {
  const angler = useKeptAngler()?.id; // logging goes on when the session has ended
  const carried = useCarried(at.beat.id, at.lie.id);
  const here = useOnRod(at.lie.id);
  const rod = carried === undefined ? undefined : (carried ?? here);
  const last = useLastInHand();
  const first = useFirstHour();
  const advice = useAdvice(at.lie.id, first ? plainly(at.situation) : at.situation);
  const ofTheHour = first ? rigOfTheHour(advice.data?.ranked) : undefined;
  const best = at.reckoned ? (ofTheHour ?? advice.data?.ranked[0]) : undefined;
  const dry = at.reckoned ? advice.data?.single_dry : undefined;
  useEffect(() => {
    if (at.reckoned && ofTheHour && rod !== undefined && !isOfTheHour(rod)) void take(at.lie.id, ofTheHour);
  }, [at.reckoned, at.lie.id, ofTheHour, rod]);
  useEffect(() => {
    if (rod !== null) return;
    if (best?.setup) void take(at.lie.id, best, { unlessChosen: true });
    else if (dry) void tieDry(at.lie.id, dry.setup, null);
  }, [rod, best, dry, at.lie.id]);
  // once it failed, also while it is asked again: who comes to the pad asks anew, and must not take it away by that
  const failed = advice.isError || (!advice.data && advice.errorUpdateCount > 0);
  const silent = !at.reckoned || advice.fetchStatus === "paused" || failed;
  const known = advice.data?.ranked.find((one) => one.rig === rod?.rig)?.limits ?? null;
  const held = rod?.rig === "dry" ? rod : rod && { ...rod, limits: known ?? rod.limits };
  const inHand = held ?? (rod === null && silent && last ? { ...last, lie: at.lie.id } : null);
  const said = at.reckoned ? advice.data?.heed : undefined;
  const cautions = said ?? at.again?.cautions ?? always(at.beat, at.lie);
  // one comes with what hangs on the rod: what was chosen for here, or is advised today, is a tap away
  const meant = here?.at ? here : best && asAdvised(at.lie.id, best);
  const instead = (carried && meant) ?? null;
  if (inHand && angler && first !== undefined)
    return (
      <Bank {...at} inHand={inHand} instead={instead} angler={angler} cautions={cautions} first={first} />
    );
  if (advice.isError && !advice.data) return <Trouble error={advice.error} retry={() => advice.refetch()} />;
  if (best && !best.setup && !dry)
    return <Trouble error={new Error("No rig can be used here. Rig says why, and what would help.")} />;
  // what the device is still reading or taking up comes without signal too
  const coming = rod === undefined || first === undefined || angler === undefined || Boolean(best ?? dry);
  return <Working what="Taking up the rig" here={coming || !silent} />;
}
