import type { ReactNode } from "react";
import type { Outcome } from "../../api/client";
import { fishFirstHour } from "../../local/habits";
import type { Log } from "../../local/logbook";
import { Button } from "../../ui/parts";
import { HOUR_KEYS, toldNow } from "./firstHour";
import { OutcomeKeys } from "./OutcomeKeys";
import { laneName, type Spot } from "./spots";

interface Props {
  log: Log;
  lanes: number | undefined;
  spot: Spot;
  /** What must be said whoever fishes: that a tap was not kept, that the water was read again. */
  grave: ReactNode;
  onPress: (outcome: Outcome) => void;
  onEnd: () => void;
}

/** The bank of a first hour: where to cast, what the last drift meant, four keys. The rest is out of sight until it is wanted. */
export function FirstHour({ log, lanes, spot, grave, onPress, onEnd }: Props) {
  const { done, all, after, next } = toldNow(log, lanes);
  const lane = laneName(spot.lane, lanes);
  const name = `${lane.charAt(0).toUpperCase()}${lane.slice(1)}`;
  return (
    <>
      <section aria-label="What to do now" aria-live="polite" className="rounded-xl bg-paper px-3 py-2">
        <p className="flex justify-between gap-2 font-bold">
          <span>{name}</span>
          <span>{done < all ? `drift ${done + 1} of ${all}` : `${done} drifts`}</span>
        </p>
        {/* two places, each kept, so that the keys stand still whatever is said */}
        <p className="mt-1 h-18 overflow-y-auto text-lg leading-tight">{next ?? after}</p>
        <div className="h-14 overflow-y-auto leading-tight text-soft short:h-12">
          {grave ?? (next && after)}
        </div>
      </section>
      <div className="sticky bottom-0 z-10 -mx-1 bg-ground px-1 pb-1 lg:static">
        <OutcomeKeys alone={false} large only={HOUR_KEYS} onPress={onPress} />
      </div>
      <div className="grid grid-cols-2 gap-2">
        <Button className="px-2" onClick={() => void fishFirstHour(false)}>
          Show everything
        </Button>
        <Button className="px-2" onClick={onEnd}>
          End outing
        </Button>
      </div>
    </>
  );
}
