/** What every screen about a lie needs: the lie with its situation, or a word on why there is none. */

import { type ReactNode, useEffect } from "react";
import { Link, useParams } from "wouter";
import type { Beat, Lie, Situation } from "../api/client";
import { useKeptAngler } from "../local/angler";
import { wake } from "../local/engine";
import { useHeldNow } from "../local/logbook";
import { useOverdue, useRoad } from "../local/road";
import { type Again, asRead, readAgain } from "../local/standing";
import { useBeats } from "../queries/places";
import { useMeasured } from "../queries/water";
import { useOnline } from "../ui/online";
import { Cautions, Trouble, Working } from "../ui/parts";
import { useUnits } from "../units/context";
import { address } from "./addresses";

export const KINDS: Record<Lie["kind"], string> = {
  riffle: "riffle",
  run: "run",
  pool_head: "pool head",
  pool: "pool",
  tail_out: "tail-out",
  glide: "glide",
  pocket: "pocket water",
  seam: "seam",
  eddy: "eddy",
  drop_off: "drop-off",
  undercut: "undercut bank",
  weed_channel: "weed channel",
  bank_edge: "bank edge",
};

export interface AtLie {
  lie: Lie;
  beat: Beat;
  situation: Situation;
  /** What was read here since the service last heard of it: the situation is of it, and this device works it out. */
  again: Again | null;
  /** The situation is as the service tells of it, and what it tells is of after all that was read here. */
  heard: boolean;
}

type Unread = Omit<AtLie, "situation" | "again" | "heard">;

/** A lie that was read here since the service last heard of it, which the situation is of; whether this device can work it out. */
export type AtLieAgain = Unread & {
  again: Again;
  situation: Situation | null;
  reckoned: boolean;
  heard: false;
};

interface Props {
  children: (at: AtLie) => ReactNode;
  /** What to show at a lie that has no reading yet; by default the way to its first one. */
  unread?: (at: Unread) => ReactNode;
  /** What to show where the lie was read since; by default that nothing has been worked out for it. */
  afresh?: (at: AtLieAgain) => ReactNode;
  /** All that is shown can be worked out on this device. */
  here?: boolean;
}

export function WithLie(props: Props) {
  const { lieId } = useParams();
  const beats = useBeats();
  if (beats.isPending) return <Working what="Reading the river" />;
  if (beats.isError && !beats.data) return <Trouble error={beats.error} retry={() => beats.refetch()} />;
  for (const beat of beats.data) {
    const lie = beat.lies.find((one) => one.id === lieId);
    if (lie) return <AtOne key={lie.id} lie={lie} beat={beat} old={beats.isRefetchError} {...props} />;
  }
  return <Trouble error={new Error("There is no such lie of yours. Pick one from the ribbon.")} />;
}

function AtOne(props: Props & Unread & { old: boolean }) {
  const { lie, beat, old, children, unread = NotRead, afresh = ReadAgain, here = false } = props;
  const held = useHeldNow(lie);
  const angler = useKeptAngler();
  const online = useOnline();
  useEffect(() => {
    if (!online) wake(lie.id); // so that nothing that is asked of this device waits for its start
  }, [online, lie.id]);
  const overdue = useOverdue(held ? `${held.id} ${held.at}` : null);
  const open = useRoad() && !overdue;
  // where the road is open, what was read is with the service, and what it says of it here, in a moment
  const again = open && !old ? null : readAgain(lie, beat, held ?? null);
  const measured = useMeasured(again?.reading ?? null, angler?.eye_error ?? null);
  if (held === undefined || angler === undefined) return null; // a moment: nothing old is shown meanwhile
  if (again) {
    const situation = angler && asRead(lie, beat, angler, again.reading, measured.data);
    const reckoned = measured.isSuccess && situation !== null;
    if (here && reckoned) return children({ lie, beat, situation, again, heard: false });
    return afresh({ lie, beat, again, situation, reckoned, heard: false });
  }
  // in the moment for which it is on its way, what the service tells is of before it
  const heard = !held || held.refused !== null;
  return lie.situation
    ? children({ lie, beat, situation: lie.situation, again: null, heard })
    : unread({ lie, beat });
}

const NotRead = ({ lie, beat }: Unread) => (
  <div className="max-w-xl">
    <LieTitle lie={lie} beat={beat} />
    <h1 className="text-2xl font-bold">Not read yet</h1>
    <p className="mt-1 text-soft">A rig is set by depth and speed: read the water here first.</p>
    {lie.notes && <p className="mt-1 text-soft">{lie.notes}</p>}
    <Link
      to={address.lie(lie.id, "read")}
      className="mt-4 grid min-h-14 place-items-center rounded-xl bg-signal-fill px-4 font-semibold text-signal-ink"
    >
      Read {lie.name}
    </Link>
  </div>
);

/** For what was worked out, and what has been read since. */
export function AgainWords({ again }: { again: Again }) {
  const { show } = useUnits();
  const { was, reading } = again;
  const timed =
    reading.speed.how === "bubbles" && " The speed that was timed is worked out once there is signal.";
  if (!was)
    return (
      <>
        Read here: {show(reading.depth_m, "m")}. Nothing is worked out for it yet.{timed}
      </>
    );
  return (
    <>
      Worked out for {show(was.depth_m, "m")}, read again: {show(reading.depth_m, "m")}
      {timed && <>.{timed}</>}
    </>
  );
}

const ReadAgain = ({ lie, beat, again, reckoned }: AtLieAgain) => (
  <div className="max-w-xl space-y-3">
    <LieTitle lie={lie} beat={beat} />
    <h1 className="text-2xl font-bold">
      <AgainWords again={again} />
    </h1>
    <p>
      What was worked out here before does not hold any more, and is not shown.{" "}
      {reckoned
        ? "A new setting is on Rig; what this page shows needs signal."
        : "A new setting is worked out once there is signal."}
    </p>
    <Cautions cautions={again.cautions} />
    <div className="grid grid-cols-[repeat(auto-fit,minmax(min(100%,8.5rem),1fr))] gap-2">
      <Link
        to={address.lie(lie.id, "read")}
        className="grid min-h-14 place-items-center rounded-xl border border-line bg-paper px-4"
      >
        The reading
      </Link>
      <Link
        to={address.lie(lie.id, "log")}
        className="grid min-h-14 place-items-center rounded-xl border border-line bg-paper px-4"
      >
        Log here
      </Link>
    </div>
  </div>
);

export function LieTitle({ lie, beat }: { lie: Lie; beat: Beat }) {
  return (
    <p className="text-soft">
      <span className="font-semibold text-ink">{lie.name}</span> · {KINDS[lie.kind]} over {lie.bed} ·{" "}
      {beat.name}
    </p>
  );
}
