import { Link, useParams } from "@tanstack/react-router";
import { type ReactNode, useState } from "react";
import type { Ledger, OutingSummary } from "../../api/client";
import { useLedger, useOutings } from "../../api/hooks";
import { Button, Panel, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { ShareSheet } from "../sharing/ShareSheet";

const day = (at: string) =>
  new Date(at).toLocaleDateString(undefined, {
    weekday: "short",
    day: "numeric",
    month: "long",
    year: "numeric",
  });

const RIG = { euro: "Euro", indicator: "Indicator", dry_dropper: "Dry-dropper" } as const;
const OUTCOME = {
  clean: "clean",
  tick: "tick",
  hung: "hung up",
  missed: "missed a take",
  fish: "fish",
  lost_fly: "lost the fly",
} as const;
const PHASE = { drop: "on the drop", drift: "in the dead drift", swing: "on the swing" } as const;

const several = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;

function counts({ tally }: OutingSummary): string {
  const parts = [
    several(tally.drifts, "drift", "drifts"),
    `${tally.fish} fish`,
    `${tally.missed} missed`,
    several(tally.touches, "touch", "touches"),
  ];
  if (tally.lost_flies > 0) parts.push(`${several(tally.lost_flies, "fly", "flies")} lost`);
  return parts.join(" · ");
}

export function LedgerList() {
  const outings = useOutings();
  if (outings.isError) return <Trouble error={outings.error} retry={() => outings.refetch()} />;
  if (outings.isPending) return <Working what="Opening the ledger" />;
  return (
    <div className="mx-auto max-w-3xl">
      <h1 className="py-2 text-2xl font-bold">Ledger</h1>
      {outings.data.length === 0 && (
        <p className="text-soft">
          Nothing yet. Start an outing on the Log screen and tap each drift; it is written here.
        </p>
      )}
      <ul className="space-y-2">
        {outings.data.map((outing) => (
          <li key={outing.id}>
            <Link
              to="/ledger/$outingId"
              params={{ outingId: outing.id }}
              className="block min-h-14 rounded-2xl bg-paper p-4 hover:outline-2"
            >
              <span className="font-semibold">{outing.beat}</span> · {day(outing.started_at)}
              {outing.ended_at === null && <span className="ml-2 font-semibold text-signal">under way</span>}
              <span className="block text-soft">{counts(outing)}</span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}

export function LedgerPage() {
  const { outingId = "" } = useParams({ strict: false });
  const ledger = useLedger(outingId);
  const [sharing, setSharing] = useState(false);
  if (ledger.isError) return <Trouble error={ledger.error} retry={() => ledger.refetch()} />;
  if (ledger.isPending) return <Working what="Opening the outing" />;
  const { outing } = ledger.data;
  return (
    <Outing ledger={ledger.data}>
      <a
        className="grid min-h-14 shrink-0 place-items-center rounded-xl border border-line bg-paper px-4"
        href={`/api/outings/${outing.id}/ledger.csv`}
        download
      >
        Save as CSV
      </a>
      <Button onClick={() => setSharing(true)}>Share</Button>
      {sharing && (
        <ShareSheet
          name={`${outing.beat}, ${day(outing.started_at)}`}
          thing={{ outing_id: outing.id }}
          onClose={() => setSharing(false)}
        />
      )}
    </Outing>
  );
}

/** An outing in full: one's own, or one that is shared. */
export function Outing({ ledger, children }: { ledger: Ledger; children?: ReactNode }) {
  const { show, clock } = useUnits();
  const { outing, stops } = ledger;
  const { rate } = outing.tally;
  const { temperature_c, clarity_m } = outing.conditions as { temperature_c?: number; clarity_m?: number };
  return (
    <div className="mx-auto max-w-3xl space-y-3">
      <div className="flex flex-wrap items-end justify-between gap-2 pt-2 sm:flex-nowrap">
        <div>
          <h1 className="text-2xl font-bold">
            {outing.beat}, {day(outing.started_at)}
          </h1>
          <p className="text-soft">
            {clock(outing.started_at)} to {outing.ended_at ? clock(outing.ended_at) : "now"} ·{" "}
            {counts(outing)}
            {temperature_c !== undefined && ` · water ${show(temperature_c, "°C")}`}
            {clarity_m !== undefined && `, clear to ${show(clarity_m, "m")}`}
          </p>
          {rate && (
            <p className="text-soft">
              A fish in {(100 * rate.median).toFixed(0)} of 100 drifts; by so few, anything from{" "}
              {(100 * rate.low).toFixed(0)} to {(100 * rate.high).toFixed(0)} (9 times in 10).
            </p>
          )}
        </div>
        {children && <div className="flex shrink-0 gap-2">{children}</div>}
      </div>
      {stops.map((stop) => (
        <Stop key={stop.id} stop={stop} />
      ))}
      {stops.length === 0 && <p className="text-soft">No lie was fished on this outing.</p>}
    </div>
  );
}

function Stop({ stop }: { stop: Ledger["stops"][number] }) {
  const { show, clock } = useUnits();
  const { water } = stop.situation;
  return (
    <Panel>
      <h2 className="text-lg font-semibold">
        {stop.lie} <span className="font-normal text-soft">from {clock(stop.at)}</span>
      </h2>
      <p className="text-soft">
        {show(water.depth_m, "m")} deep, {show(water.surface_speed_m_s, "m/s")} at the top
      </p>
      <ol className="mt-2 space-y-3 border-l-4 border-water-1 pl-4">
        {stop.settings.map((setting) => (
          <li key={setting.id}>
            <h3 className="font-semibold">
              {RIG[setting.rig]} · {show(setting.point_bead_mm, "bead")} ·{" "}
              {show(setting.depth_setting_m, "m")}
              <span className="font-normal text-soft"> {clock(setting.at)}</span>
            </h3>
            {setting.drifts.length === 0 && <p className="text-soft">no drift</p>}
            <ol className="mt-1 flex flex-wrap gap-1.5">
              {setting.drifts.map((drift) => (
                <li
                  key={drift.id}
                  className={`rounded-full px-3 py-1 text-sm ${drift.outcome === "fish" ? "bg-signal-fill font-semibold text-signal-ink" : drift.outcome === "clean" ? "border border-line" : "bg-ink text-ground"}`}
                >
                  {OUTCOME[drift.outcome]}
                  {drift.pace && ` · ${drift.pace}`}
                  {drift.catches.map((fish) => (
                    <span key={fish.id}>
                      {": "}
                      {fish.species}
                      {fish.length_mm !== null &&
                        ` ${show(fish.length_mm, "fish")}${fish.length_how === "eye" ? " by eye" : ""}`}
                      {fish.weight_g !== null && `, about ${show(fish.weight_g, "kg")}`}
                      {fish.weight_low_g !== null &&
                        fish.weight_high_g !== null &&
                        ` (${show(fish.weight_low_g, "kg")} to ${show(fish.weight_high_g, "kg")})`}
                      , {fish.fly}
                      {fish.condition && fish.condition !== "strong" && `, ${fish.condition}`},{" "}
                      {PHASE[fish.phase]}
                    </span>
                  ))}
                </li>
              ))}
            </ol>
          </li>
        ))}
      </ol>
    </Panel>
  );
}
