import { Undo2 } from "lucide-react";
import type { Outcome } from "../../api/client";
import { useOwnDevice } from "../../local/habits";
import { type Log, ownLast } from "../../local/logbook";
import { Button } from "../../ui/parts";

/** So many of the last drifts are in sight, each in a place of its own. */
const SIGNS = 12;

const SIGN: Record<Outcome, string> = {
  clean: "·",
  tick: "t",
  hung: "H",
  missed: "m",
  fish: "F",
  lost_fly: "L",
};

/** What it ended in stands behind it: with weed on the hook that tells nothing. */
const WEED = "w";

interface Props {
  log: Log;
  fishing: boolean;
  onLatest: () => void;
  onTakeBack: () => void;
}

/** How many drifts there were, how the last ones ended, and taking the last back. Its height never changes. */
export function DriftRow({ log, fishing, onLatest, onTakeBack }: Props) {
  const own = useOwnDevice();
  const last = log.drifts.at(-1);
  const others = own !== undefined && last !== undefined && last.device !== own;
  const mine = own === undefined ? last : ownLast(log, own);
  const rodElsewhere = own !== undefined && log.rod !== null && log.rod.device !== own;
  const signs = log.drifts.slice(-SIGNS).map(({ body }) => (body.weed ? WEED : SIGN[body.outcome]));
  return (
    <div
      className="mt-1 grid h-14 short:h-12 grid-cols-[minmax(0,7.5rem)_minmax(0,1fr)_auto] items-center gap-x-2"
      aria-live="polite"
    >
      <button
        type="button"
        className="@container min-h-12 text-left leading-tight"
        disabled={!log.outing}
        onClick={onLatest}
      >
        <span className="block text-[min(1rem,12.5cqi)] whitespace-nowrap font-bold underline decoration-line underline-offset-4">
          {`${log.drifts.length} ${log.drifts.length === 1 ? "drift" : "drifts"} here`}
        </span>
        <span className="mt-1 block h-5 truncate text-[min(0.875rem,12.5cqi)]">
          {rodElsewhere ? "set elsewhere" : log.catches.length > 0 && `${log.catches.length} in the book`}
        </span>
      </button>
      <div
        role="img"
        className="grid min-w-0 grid-cols-6 overflow-hidden text-center font-mono leading-5"
        aria-label={
          log.drifts
            .slice(-SIGNS)
            .map(({ body }) => body.outcome.replace("_", " ") + (body.weed ? " with weed" : ""))
            .join(", ") || "no drift yet"
        }
      >
        {Array.from({ length: SIGNS }, (_, k) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a place, whatever stands in it
          <span key={k} className="overflow-hidden">
            {signs[k] ?? "\u00a0"}
          </span>
        ))}
      </div>
      <Button
        disabled={!fishing || !mine}
        onClick={onTakeBack}
        className={`flex w-[min(6.4rem,40vw)] items-center justify-center gap-2 px-2 leading-tight short:min-h-12 ${fishing ? "" : "invisible"}`}
      >
        <Undo2 aria-hidden size={20} /> {others ? "Undo mine" : "Undo"}
      </Button>
    </div>
  );
}
