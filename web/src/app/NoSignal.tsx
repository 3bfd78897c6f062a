import { hasSignal } from "../api/road";
import { useBeats } from "../queries/places";
import { useOnline } from "../ui/online";
import { useUnits } from "../units/context";
import { day } from "../units/units";

const A_DAY_MS = 20 * 3600_000;

/** From when something is: the time of the day, or the day where that would be taken for today's. */
export function useFrom(at: number): string {
  const { clock } = useUnits();
  return Date.now() - at > A_DAY_MS ? day(at) : clock(at);
}

/** The one quiet sign of no signal, or of signal that carries nothing, on every screen in the same place: from when what is shown is. */
export function NoSignal() {
  const since = useBeats().dataUpdatedAt;
  const online = useOnline();
  return (
    <span aria-live="polite" className="h-4 text-xs leading-4 font-semibold whitespace-nowrap text-caution">
      {!online && (hasSignal() ? "no answer" : "no signal")}
      {!online && since > 0 && <AsOf at={since} />}
    </span>
  );
}

/** Apart, since to put a time into words for the first time takes the browser longer than all else here. */
function AsOf({ at }: { at: number }) {
  const from = useFrom(at);
  return (
    <>
      {" · "}
      <span className="max-lg:sr-only">as of </span>
      {from}
    </>
  );
}
