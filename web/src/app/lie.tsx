/** What every screen about a lie needs: the lie with its situation, or a word on why there is none. */
import { useParams } from "@tanstack/react-router";
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

export function WithLie({ children }: { children: (at: AtLie) => ReactNode }) {
  const { lieId } = useParams({ strict: false });
  const beats = useBeats();
  if (beats.isPending) return <Working what="Reading the river" />;
  if (beats.isError) return <Trouble error={beats.error} retry={() => beats.refetch()} />;
  for (const beat of beats.data) {
    const lie = beat.lies.find((one) => one.id === lieId);
    if (lie?.situation) return children({ lie, beat, situation: lie.situation });
  }
  return <Trouble error={new Error("There is no such lie of yours. Pick one from the ribbon.")} />;
}

export function LieTitle({ lie, beat }: { lie: Lie; beat: Beat }) {
  return (
    <p className="text-soft">
      <span className="font-semibold text-ink">{lie.name}</span> · {KINDS[lie.kind]} over {lie.bed} ·{" "}
      {beat.name}
    </p>
  );
}
