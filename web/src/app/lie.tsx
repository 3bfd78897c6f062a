/** What every screen about a lie needs: the lie with its situation, or a word on why there is none. */
import { Link, useParams } from "@tanstack/react-router";
import type { ReactNode } from "react";
import type { Beat, Lie, Situation } from "../api/client";
import { useBeats } from "../api/hooks";
import { Trouble, Working } from "../ui/parts";

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
}

interface Props {
  children: (at: AtLie) => ReactNode;
  /** What to show at a lie that has no reading yet; by default the way to its first one. */
  unread?: (at: Omit<AtLie, "situation">) => ReactNode;
}

export function WithLie({ children, unread = NotRead }: Props) {
  const { lieId } = useParams({ strict: false });
  const beats = useBeats();
  if (beats.isPending) return <Working what="Reading the river" />;
  if (beats.isError && !beats.data) return <Trouble error={beats.error} retry={() => beats.refetch()} />;
  for (const beat of beats.data) {
    const lie = beat.lies.find((one) => one.id === lieId);
    if (lie) return lie.situation ? children({ lie, beat, situation: lie.situation }) : unread({ lie, beat });
  }
  return <Trouble error={new Error("There is no such lie of yours. Pick one from the ribbon.")} />;
}

const NotRead = ({ lie, beat }: Omit<AtLie, "situation">) => (
  <div className="max-w-xl">
    <LieTitle lie={lie} beat={beat} />
    <h1 className="text-2xl font-bold">Not read yet</h1>
    <p className="mt-1 text-soft">A rig is set by depth and speed: read the water here first. {lie.notes}</p>
    <Link
      to="/lie/$lieId/read"
      params={{ lieId: lie.id }}
      className="mt-4 grid min-h-14 place-items-center rounded-xl bg-signal-fill px-4 font-semibold text-signal-ink"
    >
      Read {lie.name}
    </Link>
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
