import { useParams } from "wouter";
import { KINDS } from "../../app/lie";
import { type Shared, useShared } from "../../queries/account";
import { Panel, Trouble, Working } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { Outing } from "../ledger/LedgerScreen";
import { BeatRules } from "../setup/BeatRules";

/** What another angler lets this one read. */
export function SharedScreen() {
  const { shareId = "" } = useParams();
  const shared = useShared(shareId);
  if (shared.isError) return <Trouble error={shared.error} />;
  if (!shared.data) return <Working what="Opening what is shared" />;
  const { owner, beat, outing } = shared.data;
  return (
    <div className="mx-auto max-w-3xl space-y-3 pt-2">
      <p className="text-soft">Shared by {owner}: to be read, not passed on.</p>
      {beat && <Beat beat={beat} blur={shared.data.blur_m} />}
      {outing && <Outing ledger={outing} />}
    </div>
  );
}

function Beat({ beat, blur }: { beat: NonNullable<Shared["beat"]>; blur: number }) {
  const { show } = useUnits();
  return (
    <Panel>
      <h1 className="text-2xl font-bold">{beat.name}</h1>
      <p className="text-soft">
        {beat.river}
        {beat.latitude !== null &&
          beat.longitude !== null &&
          `, ${blur > 0 ? `within ${show(blur, "km")} of ` : ""}${beat.latitude.toFixed(3)}°, ${beat.longitude.toFixed(3)}°`}
      </p>
      <BeatRules beat={beat} />
      <ul className="mt-2 divide-y divide-line">
        {beat.lies.map((lie) => (
          <li key={lie.name} className="flex justify-between gap-3 py-2">
            <span>
              <b>{lie.name}</b>{" "}
              <span className="text-soft">
                {KINDS[lie.kind as keyof typeof KINDS]} over {lie.bed}
              </span>
            </span>
            <span className="shrink-0">
              {lie.depth_m === null ? "not read" : show(lie.depth_m, "m")}
              {lie.surface_speed_m_s !== null && ` · ${show(lie.surface_speed_m_s, "m/s")}`}
            </span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
