import { useOnline } from "../local/road";
import { useBeats } from "../queries/places";
import { useUnits } from "../units/context";

/** The one quiet sign of no signal, on every screen in the same place: from when what is shown is. */
export function NoSignal() {
  const since = useBeats().dataUpdatedAt;
  const { clock } = useUnits();
  const online = useOnline();
  const old = Date.now() - since > 20 * 3600_000;
  const from = old
    ? new Date(since).toLocaleDateString("en-GB", { day: "numeric", month: "short" })
    : clock(new Date(since).toISOString());
  return (
    <span aria-live="polite" className="h-4 text-xs leading-4 font-semibold whitespace-nowrap text-caution">
      {!online && "no signal"}
      {!online && since > 0 && (
        <>
          {" · "}
          <span className="max-lg:sr-only">as of </span>
          {from}
        </>
      )}
    </span>
  );
}
