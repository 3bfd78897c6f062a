import { percent } from "../units/units";
import { Button } from "./parts";

/** How far something is that takes its time, and a way to stop it. */
export function Progress({
  what,
  share,
  count,
  onStop,
}: {
  what: string;
  share: number;
  count: string;
  onStop: () => void;
}) {
  return (
    <div className="flex items-center gap-3">
      <div
        role="progressbar"
        aria-label={what}
        aria-valuenow={Math.round(100 * share)}
        className="h-3 grow rounded-full bg-line"
      >
        <div className="h-full rounded-full bg-mark" style={{ width: percent(share).replace(" ", "") }} />
      </div>
      <span className="text-sm text-soft">{count}</span>
      <Button onClick={onStop}>Stop</Button>
    </div>
  );
}
