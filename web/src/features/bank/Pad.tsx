import type { ReactNode } from "react";
import { Refused } from "../../api/client";
import { useSize } from "../../draw/size";
import type { Log } from "../../local/logbook";
import { sendNow } from "../../local/outbox";
import { Choice } from "../../ui/choosing";
import { Button } from "../../ui/parts";
import { useUnits } from "../../units/context";
import { Saved, Word } from "./BankWord";
import { leaves, ties } from "./CoachLine";
import { LaneStrip } from "./LaneStrip";
import { OutcomeKeys } from "./OutcomeKeys";
import type { Opened } from "./OverBank";
import { isAt, spotOf } from "./spots";
import type { AtTheBank, Fishing } from "./useFishing";

const PACES = [
  ["slower", "slower than bubbles"],
  ["same", "same pace"],
  ["faster", "faster"],
] as const;

/** What every drift wants, at the foot of the screen. Where large text makes it higher than that, what is above it can be reached. */
function AtHand({ large, children }: { large: boolean; children: ReactNode }) {
  const [ref, { height }] = useSize<HTMLDivElement>();
  return (
    <div
      ref={ref}
      style={{ bottom: `min(var(--below), 100dvh - ${height}px - 3.5rem)` }}
      className={`sticky z-10 -mx-1 flex flex-col gap-2 bg-ground px-1 pb-1 lg:static ${large ? "" : "max-lg:portrait:-mt-2"} max-lg:landscape:gap-1`}
    >
      {children}
    </div>
  );
}

interface Props {
  fished: Fishing;
  log: Log;
  the: AtTheBank;
  /** For gloves: fewer keys, and larger. */
  large: boolean;
  onOpen: (sheet: Opened) => void;
}

/** What a thumb has while it fishes: where and how, the coach's word, the keys, and what is wanted now and then. */
export function Pad({ fished: { inHand, again, angler }, log, the, large, onOpen }: Props) {
  const { show } = useUnits();
  const { advised, coach, learned } = the;
  const alone = inHand.rig === "dry";
  return (
    <>
      {!large && (
        <>
          <LaneStrip
            spot={the.spot}
            drifts={log.drifts.filter((d) => isAt(spotOf(d.body), the.spot)).length}
            work={the.work}
            onMove={the.setMoved}
            onBottom={() => onOpen("bottom")}
          />
          <Choice
            label="Pace against the bubbles, if you saw"
            quiet
            value={the.pace}
            options={PACES}
            onChange={the.setPace}
            clearable={() => the.setPace(null)}
          />
        </>
      )}
      {/* the word is a key itself: as far from the others as they are from each other */}
      <AtHand large={large}>
        <Word
          trouble={the.trouble}
          refused={log.refused}
          again={again}
          mute={the.mute || coach.error instanceof Refused ? coach.error : null}
          advised={advised}
          alone={alone}
          busy={coach.isPlaceholderData}
          onChange={() => onOpen(ties(advised) ? "tie" : leaves(advised) ? "day" : "coach")}
        />
        <OutcomeKeys alone={alone} large={large} onPress={the.press} />
      </AtHand>
      <div className="grid grid-cols-[repeat(auto-fit,minmax(max(calc((100%-1rem)/3),4.3rem),1fr))] gap-2 lg:grid-cols-3">
        <Button className="px-1" onClick={() => onOpen("change")}>
          Change setting
        </Button>
        <Button className="px-1" onClick={() => onOpen("time")}>
          Time a bubble
        </Button>
        <Button className="px-2" onClick={() => onOpen("end")}>
          End outing
        </Button>
      </div>
      <div className="grid h-16 grid-cols-2 gap-2">
        <Saved log={log} onSend={() => the.act(() => sendNow(angler))} />
        <Button
          className={`px-2 leading-tight ${learned ? "" : "invisible"}`}
          onClick={() => learned && the.keep(learned)}
        >
          {learned &&
            `Keep ${show(learned.depth_m, "m")} ± ${show(learned.depth_sd_m, "m")} as the depth here`}
        </Button>
      </div>
    </>
  );
}
