import { Link } from "@tanstack/react-router";
import type { Tuning } from "../../api/client";
import { useAdvice, useColumn, usePath } from "../../api/hooks";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { tuningOf, useInHand } from "../../local/inhand";
import { Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { percent } from "../../units/units";
import { DriftPlayer } from "./DriftPlayer";

export const DriftScreen = () => <WithLie>{(at) => <Drift key={at.lie.id} {...at} />}</WithLie>;

const RIG = { euro: "Euro", indicator: "Indicator", dry_dropper: "Dry-dropper" } as const;

function Drift({ lie, beat, situation }: AtLie) {
  const { show } = useUnits();
  const inHand = useInHand(lie.id);
  const advice = useAdvice(situation);
  const best = advice.data?.ranked[0];
  const tuning: Tuning | null = inHand
    ? tuningOf(inHand.rig, inHand.setup)
    : inHand === null && best?.setup
      ? tuningOf(best.rig, best.setup)
      : null;
  const path = usePath(situation, tuning);
  const column = useColumn(situation);
  const failed = path.error ?? column.error ?? (tuning ? null : advice.error);
  return (
    <div>
      <LieTitle lie={lie} beat={beat} />
      {failed && <Trouble error={failed} retry={() => path.refetch()} />}
      {!failed && (!path.data || !column.data || !tuning) && <Working what="Running the drift" />}
      {path.data && column.data && tuning && (
        <>
          <h1 className="text-2xl leading-snug font-bold">
            {RIG[tuning.rig]} · {show(tuning.point_bead_mm, "bead")} · {show(tuning.depth_setting_m, "m")}:{" "}
            {path.data.reached_s === null
              ? "not down before the drift ends"
              : `down after ${show(path.data.reached_s, "s")}, in the zone ${percent(path.data.in_zone_share)} of this drift`}
          </h1>
          <DriftPlayer path={path.data} roughness={column.data.bed_ks_m} />
          <p className="mt-3 text-soft">
            At the depth believed, flies landing with the line straight upstream along the surface. Computed
            with drag of line and flies in the log-law current; turbulence, bending and the shape of hooks are
            left out.{" "}
            <Link
              to="/lie/$lieId/rig"
              params={{ lieId: lie.id }}
              className="text-ink underline underline-offset-4"
            >
              Change the setting
            </Link>
          </p>
        </>
      )}
    </div>
  );
}
