import { useEffect, useRef, useState } from "react";
import { useAloneWhile } from "../../app/bank";
import { LieTitle } from "../../app/lie";
import { useSetting } from "../../app/rigs";
import { useGloves, useOnTime } from "../../local/habits";
import type { InHand } from "../../local/records";
import { useAdvice } from "../../queries/water";
import { useBack } from "../../ui/back";
import { Button, Cautions, Working } from "../../ui/parts";
import { bringSheets } from "../../ui/sheet";
import { TroubleSheet } from "../trade/TroubleSheet";
import { BankColumn } from "./BankColumn";
import { BankTop } from "./BankTop";
import { Word } from "./BankWord";
import { CoachWhy } from "./CoachLine";
import { DriftRow } from "./DriftRow";
import { FirstHour } from "./FirstHour";
import { NotFishing } from "./NotFishing";
import { OtherRod } from "./OtherRod";
import { AskedSheets, bringOver, OnTime, type Opened, OpenedSheet } from "./OverBank";
import { Pad } from "./Pad";
import { TrialTurn } from "./TrialTurn";
import { type AtTheBank, type Fishing, useFishing } from "./useFishing";

/** As many letters as stand in a line, times their size: what hangs is whole also where text is large, or its name long. */
const A_LINE_CQI = 165;

/** The bank of a lie: what hangs in its water, the keys, and what is said of both. ``instead``: the rig that was meant for here. */
export function Bank({ instead, ...fished }: Fishing & { instead: InHand | null }) {
  const { lie, beat, situation, again, inHand, angler, first: firstHour } = fished;
  const said = useSetting();
  const [sheet, setSheet] = useState<Opened | null>(null);
  const close = () => setSheet(null);
  const advice = useAdvice(lie.id, situation).data;
  const alone = inHand.rig === "dry";
  const the = useFishing(fished, close);
  const { log, fishing, advised, minded, trouble } = the;
  const gloves = useGloves();
  const [left, setLeft] = useState(false);
  const about = useRef<HTMLDivElement>(null);
  const keysAlone = fishing && !left;
  useAloneWhile(keysAlone);
  // on a phone, where the keys have the screen, they are left first: a wet hand brushes the edge of it
  useBack(() => setLeft(true), keysAlone && !matchMedia("(min-width: 64rem)").matches);
  useEffect(() => {
    // the pad is there: before the signal goes, so is what lies over it
    void bringSheets();
    void bringOver();
  }, []);
  if (!log) return <Working what="Opening the log" here />;
  return (
    <div className="lg:grid lg:grid-cols-2 lg:grid-rows-[auto_1fr] lg:gap-x-6">
      <div
        data-keys-alone={keysAlone || undefined}
        className={`flex flex-col gap-2 short:gap-1.5 lg:contents ${keysAlone ? "max-lg:min-h-(--room) max-lg:pt-1 max-lg:landscape:grid max-lg:landscape:grid-cols-2 max-lg:landscape:gap-3" : ""}`}
      >
        <div
          className={`flex min-h-0 min-w-0 grow flex-col lg:row-span-2 ${keysAlone ? "max-lg:landscape:max-h-[calc(var(--room)-0.25rem)]" : ""}`}
        >
          {fishing && (
            <BankTop
              lie={lie.name}
              left={left}
              waiting={log.waiting}
              cautions={minded}
              onLeave={() => setLeft(!left)}
              onCautions={() => about.current?.scrollIntoView({ block: "end" })}
            />
          )}
          <div className="max-lg:sr-only">
            <LieTitle lie={lie} beat={beat} />
          </div>
          <Hanging angler={angler} inHand={inHand} />
          <BankColumn
            situation={situation}
            picture={alone ? "dry" : the.hung.data?.picture}
            belief={advised?.depth_belief_m}
          >
            {fishing && !alone && <Down hung={the.hung} />}
          </BankColumn>
          <DriftRow
            log={log}
            fishing={fishing}
            onLatest={() => setSheet("latest")}
            onTakeBack={the.takeBack}
          />
        </div>
        <div className={`min-w-0 space-y-2 lg:space-y-3 ${keysAlone ? "max-lg:portrait:contents" : ""}`}>
          {!fishing ? (
            <NotFishing
              log={log}
              lie={lie}
              beat={beat}
              angler={angler}
              again={again}
              instead={instead && said(instead) !== said(inHand) ? instead : null}
              trouble={trouble}
              act={the.act}
              onStart={() => (the.grave.length > 0 && !log.outing ? the.setReading(true) : the.begin())}
            />
          ) : firstHour ? (
            <FirstHour
              log={log}
              lanes={the.work?.lanes}
              spot={the.spot}
              grave={
                trouble !== null || log.refused.length > 0 || again !== null ? (
                  <Word {...{ trouble, again, alone }} refused={log.refused} />
                ) : null
              }
              onPress={the.press}
              onEnd={() => setSheet("end")}
            />
          ) : (
            <Pad fished={fished} log={log} the={the} large={gloves === true} onOpen={setSheet} />
          )}
        </div>
      </div>
      <div ref={about} className="mt-2 min-w-0 space-y-2 lg:col-start-2">
        <Cautions cautions={minded} />
        {fishing && !firstHour && advised && (
          <CoachWhy coaching={advised} onAhead={() => setSheet("ahead")} />
        )}
        {fishing && <TroubleSheet />}
        {fishing && !firstHour && (
          <Button className="w-full" onClick={() => setSheet("day")}>
            The day
          </Button>
        )}
        {fishing && !firstHour && <TrialTurn log={log} />}
      </div>
      {sheet && <OpenedSheet {...{ sheet, fished, log, the, advice }} onClose={close} />}
      <AskedSheets fished={fished} the={the} />
    </div>
  );
}

/** What hangs on the rod, in one line, and the other rod. */
function Hanging({ angler, inHand }: { angler: string; inHand: InHand }) {
  const said = useSetting()(inHand);
  return (
    <div className="flex items-center gap-2">
      <div
        className={`@container min-w-0 grow ${inHand.rig === "dry" ? "text-xl" : "text-2xl short:text-xl"}`}
      >
        <h1
          className="truncate leading-8 font-bold short:leading-7"
          style={{ fontSize: `clamp(0.5em, ${A_LINE_CQI / said.length}cqi, 1em)` }}
        >
          {said}
        </h1>
      </div>
      <OtherRod angler={angler} inHand={inHand} />
    </div>
  );
}

/** When the flies are down, told by the phone, for whoever wants that. */
function Down({ hung }: { hung: AtTheBank["hung"] }) {
  return useOnTime() ? <OnTime numbers={hung.isPlaceholderData ? undefined : hung.data?.numbers} /> : null;
}
