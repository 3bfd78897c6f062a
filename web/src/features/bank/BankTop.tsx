import { ChevronLeft, ChevronUp, TriangleAlert } from "lucide-react";
import type { Caution } from "../../api/client";
import { NoSignal } from "../../app/NoSignal";

interface Props {
  lie: string;
  /** The keys were left: the way to the rest of the app is open. */
  left: boolean;
  /** Writings that the service has not got yet. */
  waiting: number;
  cautions: readonly Caution[];
  onLeave: () => void;
  onCautions: () => void;
}

/** All that a phone shows beside the keys while one fishes: where one is, the way out, no signal, and that there is a caution. */
export function BankTop({ lie, left, waiting, cautions, onLeave, onCautions }: Props) {
  const grave = cautions.filter((one) => one.level !== "note");
  return (
    <div className="flex h-11 items-center gap-2 lg:hidden">
      <button
        type="button"
        className="-ml-1 flex min-h-11 min-w-0 items-center gap-1 pr-2 font-semibold"
        aria-label={left ? "Only the keys" : `Leave the keys of ${lie}`}
        onClick={onLeave}
      >
        {left ? <ChevronUp aria-hidden size={22} /> : <ChevronLeft aria-hidden size={22} />}
        <span className="truncate">{left ? "Only the keys" : lie}</span>
      </button>
      <span className="grow" />
      <NoSignal />
      <span className="text-xs text-soft">{waiting > 0 && `${waiting} kept`}</span>
      <button
        type="button"
        className={`grid size-11 place-items-center ${grave.some((one) => one.level === "stop") ? "text-stop" : "text-caution"} ${grave.length > 0 ? "" : "invisible"}`}
        aria-label={`Cautions: ${grave.length}`}
        onClick={onCautions}
      >
        <TriangleAlert aria-hidden size={22} />
      </button>
    </div>
  );
}
