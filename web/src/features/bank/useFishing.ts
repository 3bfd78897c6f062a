import { useEffect, useRef, useState } from "react";
import {
  type Beat,
  type Caution,
  type Coaching,
  type Lie,
  type Outcome,
  type Pace,
  type ReadingIn,
  Refused,
  type Situation,
} from "../../api/client";
import { useKeys } from "../../app/shortcuts";
import { standing, stops } from "../../local/cautions";
import { useDirection, useDried, useOwnDevice } from "../../local/habits";
import { hasTwoNymphs, tuningOf } from "../../local/inhand";
import { askToKeep } from "../../local/kept";
import { ownLast, readLog, useLog } from "../../local/logbook";
import type { InHand } from "../../local/records";
import type { Again } from "../../local/standing";
import { useCoach, useWordsAhead } from "../../queries/coach";
import { useToday } from "../../queries/places";
import { useHung } from "../../queries/water";
import { baseOf, idFor, isOfToday } from "../read/base";
import { reread, withoutTime } from "../read/reread";
import type { Weed } from "./ChangeSheet";
import { turnOf } from "./firstHour";
import { afterOneMore, fishedSoFar } from "./fishedSoFar";
import { heed, useHeeded } from "./heeded";
import { keysFor } from "./OutcomeKeys";
import { bottomOf, FIRST, isAt, type Spot, spotOf } from "./spots";
import { useAwake } from "./useAwake";
import { correct, end, forgetBottom, isSameWater, keepBottom, start, tap, undo } from "./useBank";

export interface Fishing {
  lie: Lie;
  beat: Beat;
  situation: Situation;
  again: Again | null;
  heard: boolean;
  inHand: InHand;
  angler: string;
  cautions: Caution[];
  /** A first hour: the lane goes by the count of drifts. */
  first: boolean;
}

/**
 * The state of the bank at one lie, and what a thumb can do there: reading, writing and the coach, without the screen. ``onPress``: a
 * drift is logged, and what was asked for before it and has not come is not wanted any more.
 */
export function useFishing(
  { lie, beat, situation, again, heard, inHand, angler, cautions, first }: Fishing,
  onPress: () => void,
) {
  const log = useLog(angler, lie.id);
  const today = useToday(beat.id);
  const lastRead = again?.reading ?? lie.reading;
  const readAt = lastRead?.at;
  const ofToday = heard && isOfToday(lie) ? situation : null;
  const stays = log?.stop && isSameWater(log.stop.body, ofToday, readAt);
  const learnedAt = lastRead?.depth_how === "drifts" ? lastRead.at : null;
  const water = stays && log?.stop ? log.stop.body.situation : situation;
  const hung = useHung(situation, inHand.rig === "dry" ? null : tuningOf(inHand.rig, inHand.setup));
  const [pace, setPace] = useState<Pace | null>(null);
  const [landing, setLanding] = useState<string | null>(null);
  const [parted, setParted] = useState<string | null>(null);
  const [keptDepth, setKeptDepth] = useState<number | null>(null);
  const [reading, setReading] = useState(false);
  const [moved, setMoved] = useState<Spot | null>(null);
  const [trouble, setTrouble] = useState<unknown>(null);
  const busy = useRef(Promise.resolve());
  const bank = { angler, beat: beat.id, lie: lie.id, situation, ofToday, inHand, readAt };
  const fishing = Boolean(log?.outing && log.stop);
  useAwake(fishing);
  const last = log?.drifts.at(-1)?.body;
  const work = beat.working.find((one) => one.lie_id === lie.id);
  const lanes = work?.lanes;
  const chosen: Spot = moved ?? (last ? spotOf(last) : FIRST);
  const spot = first ? turnOf(log?.drifts.length ?? 0, lanes) : chosen;
  // read again without signal, a lie has another level than what is known of its bottom was told for
  const bottom = bottomOf(log, lie.bottom, { readAt, again: again !== null });
  const asked = (here: Spot) => fishedSoFar(log, inHand, water, { learnedAt, here, bottom });
  const coach = useCoach(lie.id, asked(spot));
  const here = first ? turnOf((log?.drifts.length ?? 0) + 1, lanes) : spot;
  const coming = {
    pace,
    ...spot,
    direction: useDirection(),
    dried: useDried() && inHand.rig === "dry_dropper",
  };
  const next =
    log?.stop && stays && coming.direction
      ? fishedSoFar(afterOneMore(log, inHand, coming), inHand, water, { learnedAt, here, bottom })
      : null;
  useWordsAhead(lie.id, coach.isFetching || coach.isError ? null : next);
  const minded = standing(today.data?.cautions ?? [], cautions);
  const grave = stops(minded);
  const heeded = useHeeded(log?.outing?.id);
  const unheeded = fishing && heeded !== undefined && grave.some((one) => !heeded.includes(one.code));
  // taps queue up behind each other and are never dropped; what cannot be kept is said
  const act = (action: () => Promise<unknown>) => {
    busy.current = busy.current.then(action).then(
      () => setTrouble(null),
      (error: unknown) => setTrouble(error),
    );
  };
  const begin = () => {
    setReading(false);
    void askToKeep().catch(() => false);
    act(async () => {
      if (!fishing) await start(bank);
      await heed(
        (await readLog(angler, lie.id)).outing?.id,
        grave.map((one) => one.code),
      );
    });
  };
  /** Write down what was seen, on top of the reading of the day. */
  const seen = (change: Partial<ReadingIn>) => {
    const { reading: before } = lie;
    if (before)
      act(() =>
        reread(angler, lie, { id: idFor(lie, before), body: baseOf(lie, situation, before) }, change),
      );
    else if (again)
      act(() => reread(angler, lie, { id: again.id, body: withoutTime(again.reading) }, change));
  };
  /** Keep what the drifts have found: of the first spot as a reading of the lie, of another as a sounding there. */
  const keep = (found: NonNullable<Coaching["learned"]>) => {
    setKeptDepth(found.depth_m);
    if (isAt(spot, FIRST)) seen({ ...found, depth_how: "drifts" });
    else act(() => keepBottom(angler, { lie_id: lie.id, ...spot, ...found }));
  };
  const keptHere = log?.soundings.findLast((one) => isAt(one.body, spot));
  const forget = keptHere && (() => act(() => forgetBottom(angler, keptHere)));
  const keptId = keptHere?.id;
  useEffect(() => {
    if (keptId === undefined) setKeptDepth(null); // forgotten, it may be kept again
  }, [keptId]);
  const press = (outcome: Outcome) => {
    navigator.vibrate?.(outcome === "fish" ? [30, 40, 30] : 20);
    onPress();
    setLanding(null);
    setParted(null);
    act(async () => {
      const id = await tap(bank, outcome, { pace, ...spot });
      setPace(null);
      if (outcome === "fish") setLanding(id);
      if (outcome === "lost_fly" && hasTwoNymphs(inHand)) setParted(id);
    });
  };
  const own = useOwnDevice();
  const mine = log && own !== undefined ? ownLast(log, own) : undefined;
  const weed: Weed = {
    cleared: mine ? (mine.body.weed ?? false) : null,
    onClear: () => mine && act(() => correct(angler, mine, { weed: true })),
  };
  const takeBack = () => act(() => undo(bank));
  const there = keysFor(inHand.rig === "dry");
  useKeys(
    fishing
      ? { ...Object.fromEntries(there.map(({ key, outcome }) => [key, () => press(outcome)])), u: takeBack }
      : {},
  );
  // an answer to earlier drifts is no answer to these: without signal there is none
  const lost = coach.isError && !(coach.error instanceof Refused);
  const mute = lost && (coach.isPlaceholderData || !coach.data);
  const advised = fishing && !mute && inHand.rig !== "dry" ? coach.data : undefined;
  // what is kept is what the drifts so far have found: not what those before have, while that is on its way
  const found = coach.isPlaceholderData ? null : advised?.learned;
  const learned = lastRead && found && found.depth_m !== keptDepth ? found : null;
  return {
    ...{ log, hung, coach, mute, advised, learned, minded, grave, unheeded, fishing, trouble },
    ...{
      pace,
      setPace,
      spot,
      setMoved,
      landing,
      setLanding,
      weed,
      parted: log?.drifts.find((one) => one.id === parted),
      setParted,
      reading,
      setReading,
      work,
      asked,
      bottom,
      keep,
      forget,
    },
    ...{ act, begin, seen, press, takeBack, endIt: () => act(() => end(bank)) },
  };
}

/** The bank as it stands, and what can be done there. */
export type AtTheBank = ReturnType<typeof useFishing>;
