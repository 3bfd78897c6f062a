import { type ReactNode, useEffect, useRef, useState } from "react";
import { Refused } from "../../api/client";
import { useAloneWhile } from "../../app/bank";
import { type AtLie, LieTitle, WithLie } from "../../app/lie";
import { useSetting } from "../../app/rigs";
import { useSize } from "../../draw/size";
import { useKeptAngler } from "../../local/angler";
import { useFirstHour, useGloves, useOnTime } from "../../local/habits";
import { asAdvised, take, tieDry, useCarried, useLastInHand, useOnRod } from "../../local/inhand";
import { sendNow } from "../../local/outbox";
import type { InHand } from "../../local/records";
import { always } from "../../local/standing";
import { useAdvice } from "../../queries/water";
import { useBack } from "../../ui/back";
import { brought } from "../../ui/brought";
import { Choice } from "../../ui/choosing";
import { Button, Cautions, Trouble, Working } from "../../ui/parts";
import { bringSheets } from "../../ui/sheet";
import { useUnits } from "../../units/context";
import { TroubleSheet } from "../trade/TroubleSheet";
import { BankColumn } from "./BankColumn";
import { BankTop } from "./BankTop";
import { Saved, Word } from "./BankWord";
import { CoachWhy, changes, ties } from "./CoachLine";
import { DriftRow } from "./DriftRow";
import { FirstHour } from "./FirstHour";
import { isOfTheHour, plainly, rigOfTheHour } from "./firstHour";
import { LaneStrip } from "./LaneStrip";
import { NotFishing } from "./NotFishing";
import { OtherRod } from "./OtherRod";
import { OutcomeKeys } from "./OutcomeKeys";
import { isAt, spotOf, spotsOf } from "./spots";
import { TrialTurn } from "./TrialTurn";
import { correct } from "./useBank";
import { type Fishing, useFishing } from "./useFishing";

/** What lies over the pad when it is asked for: the pad itself does not wait for it. */
const sheets = brought(() => import("./sheets"));
const BottomSheet = sheets.part("BottomSheet");
const BubbleSheet = sheets.part("BubbleSheet");
const CardSheet = sheets.part("CardSheet");
const CatchSheet = sheets.part("CatchSheet");
const ChangeSheet = sheets.part("ChangeSheet");
const DrySheet = sheets.part("DrySheet");
const EndSheet = sheets.part("EndSheet");
const LatestSheet = sheets.part("LatestSheet");
const LostSheet = sheets.part("LostSheet");
const OnTime = sheets.part("OnTime");
const StopAndRead = sheets.part("StopAndRead");
const TieSheet = sheets.part("TieSheet");

/** As many letters as stand in a line, times their size: what hangs is whole also where text is large, or its name long. */
const A_LINE_CQI = 165;

export const BankScreen = () => (
  <WithLie
    afresh={(at) =>
      at.situation ? (
        <WithRig key={at.lie.id} {...at} situation={at.situation} />
      ) : (
        <Trouble error={new Error("How fast it runs is still being worked out. Type the speed on Read.")} />
      )
    }
  >
    {(at) => <WithRig key={at.lie.id} {...at} again={null} reckoned />}
  </WithLie>
);

type At = AtLie & { reckoned: boolean };

/** The rig on the rod, or else the one that the advisor puts first; where nothing can be asked, what was last chosen anywhere. */
function WithRig(at: At) {
  const angler = useKeptAngler()?.id; // logging goes on when the session has ended
  const carried = useCarried(at.beat.id, at.lie.id);
  const here = useOnRod(at.lie.id);
  const rod = carried === undefined ? undefined : (carried ?? here);
  const last = useLastInHand();
  const first = useFirstHour();
  const advice = useAdvice(at.lie.id, first ? plainly(at.situation) : at.situation);
  const ofTheHour = first ? rigOfTheHour(advice.data?.ranked) : undefined;
  const best = at.reckoned ? (ofTheHour ?? advice.data?.ranked[0]) : undefined;
  const dry = at.reckoned ? advice.data?.single_dry : undefined;
  useEffect(() => {
    if (at.reckoned && ofTheHour && rod !== undefined && !isOfTheHour(rod)) void take(at.lie.id, ofTheHour);
  }, [at.reckoned, at.lie.id, ofTheHour, rod]);
  useEffect(() => {
    if (rod !== null) return;
    if (best?.setup) void take(at.lie.id, best, { unlessChosen: true });
    else if (dry) void tieDry(at.lie.id, dry.setup, null);
  }, [rod, best, dry, at.lie.id]);
  // once it failed, also while it is asked again: who comes to the pad asks anew, and must not take it away by that
  const failed = advice.isError || (!advice.data && advice.errorUpdateCount > 0);
  const silent = !at.reckoned || advice.fetchStatus === "paused" || failed;
  const known = advice.data?.ranked.find((one) => one.rig === rod?.rig)?.limits ?? null;
  const held = rod?.rig === "dry" ? rod : rod && { ...rod, limits: known ?? rod.limits };
  const inHand = held ?? (rod === null && silent && last ? { ...last, lie: at.lie.id } : null);
  const said = at.reckoned ? advice.data?.heed : undefined;
  const cautions = said ?? at.again?.cautions ?? always(at.beat, at.lie);
  // one comes with what hangs on the rod: what was chosen for here, or is advised today, is a tap away
  const meant = here?.at ? here : best && asAdvised(at.lie.id, best);
  const instead = (carried && meant) ?? null;
  if (inHand && angler && first !== undefined)
    return (
      <Bank {...at} inHand={inHand} instead={instead} angler={angler} cautions={cautions} first={first} />
    );
  if (advice.isError && !advice.data) return <Trouble error={advice.error} retry={() => advice.refetch()} />;
  if (best && !best.setup && !dry)
    return <Trouble error={new Error("No rig can be used here. Rig says why, and what would help.")} />;
  // what the device is still reading or taking up comes without signal too
  const coming = rod === undefined || first === undefined || angler === undefined || Boolean(best ?? dry);
  return <Working what="Taking up the rig" here={coming || !silent} />;
}

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

function Bank(props: Fishing & { instead: InHand | null }) {
  const { lie, beat, situation, again, inHand, instead, angler, first: firstHour } = props;
  const { show } = useUnits();
  const said = useSetting();
  const [sheet, setSheet] = useState<
    "change" | "coach" | "tie" | "time" | "latest" | "bottom" | "ahead" | "end" | null
  >(null);
  const advice = useAdvice(lie.id, situation).data;
  const first = advice?.ranked[0];
  const alone = inHand.rig === "dry";
  const { log, hung, coach, mute, advised, learned, minded, grave, unheeded, fishing, trouble, ...the } =
    useFishing(props, () => setSheet(null));
  const onTime = useOnTime();
  const gloves = useGloves();
  const work = beat.working.find((one) => one.lie_id === lie.id);
  const ahead = sheet === "ahead" ? the.asked(the.spot) : null;
  const [left, setLeft] = useState(false);
  const about = useRef<HTMLDivElement>(null);
  const keysAlone = fishing && !left;
  useAloneWhile(keysAlone);
  // on a phone, where the keys have the screen, they are left first: a wet hand brushes the edge of it
  useBack(() => setLeft(true), keysAlone && !matchMedia("(min-width: 64rem)").matches);
  useEffect(() => {
    // the pad is there: before the signal goes, so is what lies over it
    void bringSheets();
    void sheets.bring();
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
          <div className="flex items-center gap-2">
            <div className={`@container min-w-0 grow ${alone ? "text-xl" : "text-2xl short:text-xl"}`}>
              <h1
                className="truncate leading-8 font-bold short:leading-7"
                style={{ fontSize: `clamp(0.5em, ${A_LINE_CQI / said(inHand).length}cqi, 1em)` }}
              >
                {said(inHand)}
              </h1>
            </div>
            <OtherRod angler={angler} inHand={inHand} />
          </div>
          <BankColumn
            situation={situation}
            picture={alone ? "dry" : hung.data?.picture}
            belief={advised?.depth_belief_m}
          >
            {fishing && onTime && !alone && (
              <OnTime numbers={hung.isPlaceholderData ? undefined : hung.data?.numbers} />
            )}
          </BankColumn>
          <DriftRow
            log={log}
            fishing={fishing}
            onLatest={() => setSheet("latest")}
            onTakeBack={the.takeBack}
          />
        </div>
        <div className={`min-w-0 space-y-2 lg:space-y-3 ${keysAlone ? "max-lg:portrait:contents" : ""}`}>
          {fishing && firstHour ? (
            <FirstHour
              log={log}
              lanes={work?.lanes}
              spot={the.spot}
              grave={
                trouble !== null || log.refused.length > 0 || again !== null ? (
                  <Word {...{ trouble, again, alone }} refused={log.refused} />
                ) : null
              }
              onPress={the.press}
              onEnd={() => setSheet("end")}
            />
          ) : fishing ? (
            <>
              {!gloves && (
                <>
                  <LaneStrip
                    spot={the.spot}
                    drifts={log.drifts.filter((d) => isAt(spotOf(d.body), the.spot)).length}
                    work={work}
                    onMove={the.setMoved}
                    onBottom={() => setSheet("bottom")}
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
              <AtHand large={gloves === true}>
                <Word
                  trouble={trouble}
                  refused={log.refused}
                  again={again}
                  mute={mute || coach.error instanceof Refused ? coach.error : null}
                  advised={advised}
                  alone={alone}
                  busy={coach.isPlaceholderData}
                  onChange={() => setSheet(ties(advised) ? "tie" : "coach")}
                />
                <OutcomeKeys alone={alone} large={gloves === true} onPress={the.press} />
              </AtHand>
              <div className="grid grid-cols-[repeat(auto-fit,minmax(max(calc((100%-1rem)/3),4.3rem),1fr))] gap-2 lg:grid-cols-3">
                <Button className="px-1" onClick={() => setSheet("change")}>
                  Change setting
                </Button>
                <Button className="px-1" onClick={() => setSheet("time")}>
                  Time a bubble
                </Button>
                <Button className="px-2" onClick={() => setSheet("end")}>
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
          ) : (
            <NotFishing
              log={log}
              lie={lie}
              beat={beat}
              angler={angler}
              again={again}
              instead={instead && said(instead) !== said(inHand) ? instead : null}
              trouble={trouble}
              act={the.act}
              onStart={() => (grave.length > 0 && !log.outing ? the.setReading(true) : the.begin())}
            />
          )}
        </div>
      </div>
      <div ref={about} className="mt-2 min-w-0 space-y-2 lg:col-start-2">
        <Cautions cautions={minded} />
        {fishing && !firstHour && advised && (
          <CoachWhy coaching={advised} onAhead={() => setSheet("ahead")} />
        )}
        {fishing && <TroubleSheet />}
        {fishing && !firstHour && <TrialTurn log={log} />}
      </div>
      {alone && sheet === "change" && (
        <DrySheet
          inHand={inHand}
          advised={first ? asAdvised(lie.id, first) : null}
          onClose={() => setSheet(null)}
        />
      )}
      {!alone && (sheet === "change" || sheet === "coach") && (
        <ChangeSheet
          onCoach={sheet === "coach"}
          onClose={() => setSheet(null)}
          inHand={inHand}
          situation={situation}
          dry={advice?.single_dry?.setup ?? null}
          angler={angler}
          weed={the.weed}
          suggested={
            advised && changes(advised)
              ? {
                  depth: advised.advice.depth_setting_m,
                  bead: advised.advice.point_bead_mm,
                  float: advised.advice.float ?? null,
                }
              : null
          }
        />
      )}
      {sheet === "tie" && !alone && advised && ties(advised) && (
        <TieSheet
          coaching={advised}
          inHand={inHand}
          situation={situation}
          known={advice?.ranked.find((one) => one.rig === advised.advice.rig) ?? null}
          onClose={() => setSheet(null)}
        />
      )}
      {sheet === "latest" && log.outing && (
        <LatestSheet angler={angler} beat={beat} outing={log.outing.id} onClose={() => setSheet(null)} />
      )}
      {sheet === "ahead" && ahead && <CardSheet lie={lie.id} asked={ahead} onClose={() => setSheet(null)} />}
      {sheet === "bottom" && (
        <BottomSheet
          lie={lie.id}
          spots={spotsOf(log, the.bottom, the.spot)}
          here={the.spot}
          lanes={work?.lanes}
          bottom={the.bottom}
          asked={the.asked}
          onForget={the.forget ?? null}
          drifts={log.drifts.map((one) => spotOf(one.body))}
          onGo={(to) => {
            the.setMoved(to);
            setSheet(null);
          }}
          onClose={() => setSheet(null)}
        />
      )}
      {sheet === "end" && (
        <EndSheet
          drifts={log.drifts.length}
          onClose={() => setSheet(null)}
          onEnd={() => {
            setSheet(null);
            the.endIt();
          }}
        />
      )}
      {(the.reading || unheeded) && (
        <StopAndRead
          cautions={grave}
          onGo={the.begin}
          onClose={() => (unheeded ? the.begin() : the.setReading(false))}
        />
      )}
      {sheet === "time" && (
        <BubbleSheet
          lie={lie.name}
          onClose={() => setSheet(null)}
          onSave={(distance_m, seconds) => {
            setSheet(null);
            the.seen({ speed: { how: "bubbles", distance_m, seconds } });
          }}
        />
      )}
      {the.parted && inHand.rig !== "dry" && (
        <LostSheet
          setup={inHand.setup}
          onClose={() => the.setParted(null)}
          onSay={(lost) => {
            const gone = the.parted;
            if (gone) the.act(() => correct(angler, gone, { lost }));
            the.setParted(null);
          }}
        />
      )}
      {the.landing && (
        <CatchSheet
          drift={the.landing}
          angler={angler}
          on={inHand}
          release={beat.rules.release}
          onClose={() => the.setLanding(null)}
        />
      )}
    </div>
  );
}
