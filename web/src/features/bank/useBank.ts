/** What a thumb does on the bank, as writes to the device. Every one is safe once it resolves. */
import type { CatchIn, Outcome, Pace, Situation } from "../../api/client";
import { type Of, ofKind, stopsOf } from "../../local/entries";
import { isDried, readDirection, dry as setDried, wetted } from "../../local/habits";
import { type Line, latestOf, ownLast, readLog, readStand, stayOf, stopsIn } from "../../local/logbook";
import { deviceId, flush, newId, write } from "../../local/outbox";
import { type Bodies, device, type InHand, type Kind, LOG } from "../../local/records";
import type { SetTo } from "./moving";

interface Bank {
  angler: string;
  beat: string;
  lie: string;
  situation: Situation;
  inHand: InHand;
  /** When the lie was last read: what is fished after that is another stop, under the water as read. */
  readAt?: string | undefined;
  /** The water as it is told of today, where the service has heard of all that was read: has it gone with the river, it is another
   * stop as well. */
  ofToday?: Situation | null;
}

/** What was seen of a drift beside its end, and where it was fished: lanes from the near one, stances from the lowest. */
export interface Seen {
  pace?: Pace | null;
  lane?: number | null;
  stance?: number | null;
}

const now = () => new Date().toISOString();

/** By what share the depth of one water may differ, as the core has it (`SAME_DEPTH`, which a test holds it to). */
const SAME_DEPTH = 0.05;

/** Whether a stop is of the water that is there now: the lie has not been read since, and has not gone with the river. */
export const isSameWater = (
  { at, situation }: Bodies["stops"],
  ofToday: Situation | null | undefined,
  readAt: string | undefined,
): boolean =>
  !(readAt !== undefined && Date.parse(readAt) > Date.parse(at)) &&
  !(ofToday && Math.abs(Math.log(situation.water.depth_m / ofToday.water.depth_m)) > SAME_DEPTH);

/** Make sure that outing, stop and setting are those of the rig in hand here; return the setting's id. */
async function settle({ angler, beat, lie, situation, ofToday, inHand, readAt }: Bank): Promise<string> {
  const log = await readStand(angler, lie); // as it is now, not as it was drawn: taps may come faster than drawings
  let outing = log.outing;
  if (outing && outing.body.beat_id !== beat) {
    await write(angler, "outings", outing.id, { ...outing.body, ended_at: now() });
    outing = null;
  }
  const stop = outing && log.stop && isSameWater(log.stop.body, ofToday, readAt) ? log.stop : null;
  const set = stop ? log.setting : null;
  const sameRig =
    set?.body.rig === inHand.rig && JSON.stringify(set.body.setup) === JSON.stringify(inHand.setup);
  if (set && sameRig) return set.id;
  const outingId = outing?.id ?? newId();
  if (!outing)
    await write(angler, "outings", outingId, {
      beat_id: beat,
      started_at: now(),
      ended_at: null,
      gone: false,
    });
  const stopId = stop?.id ?? newId();
  if (!stop) await write(angler, "stops", stopId, { outing_id: outingId, lie_id: lie, at: now(), situation });
  const id = newId();
  const [stop_id, at] = [stopId, now()];
  if (inHand.rig === "dry") {
    await write(angler, "settings", id, { stop_id, at, rig: inHand.rig, setup: inHand.setup });
  } else {
    const { rig, depth_setting_m, point_bead_mm, setup } = inHand;
    await write(angler, "settings", id, { stop_id, at, rig, depth_setting_m, point_bead_mm, setup });
  }
  return id;
}

/** All or nothing on the device, then off to the service. */
async function kept(angler: string, action: () => Promise<void>): Promise<void> {
  await device.transaction("rw", LOG, action);
  void flush(angler);
}

export const start = (bank: Bank): Promise<void> =>
  kept(bank.angler, async () => {
    await settle(bank);
  });

/** Log one drift; return its id. */
export async function tap(
  bank: Bank,
  outcome: Outcome,
  { pace = null, lane = null, stance = null }: Seen = {},
): Promise<string> {
  const id = newId();
  await kept(bank.angler, async () => {
    const setting_id = await settle(bank);
    const dried = bank.inHand.rig.startsWith("dry") && (await isDried());
    await write(bank.angler, "drifts", id, {
      setting_id,
      at: now(),
      outcome,
      pace,
      lane,
      stance,
      direction: await readDirection(),
      dried,
      weed: false,
      undone: false,
    });
    if (dried) await wetted();
  });
  return id;
}

/** Keep what drifts have found of the bottom at a spot. */
export const keepBottom = (angler: string, found: Omit<Bodies["soundings"], "at" | "gone">): Promise<void> =>
  kept(angler, () => write(angler, "soundings", newId(), { ...found, at: now(), gone: false }));

/** Take back what was kept of the bottom at a spot. */
export const forgetBottom = (
  angler: string,
  known: { id: string; body: Bodies["soundings"] },
): Promise<void> =>
  kept(angler, async () =>
    write(angler, "soundings", known.id, { ...(await asItStands<"soundings">(known)), gone: true }),
  );

/** Take back the last drift here that this device logged, with its fish: what another device taps is another thumb's. */
export const undo = ({ angler, lie }: Bank): Promise<void> =>
  kept(angler, async () => {
    const last = ownLast(await readLog(angler, lie), await deviceId());
    if (!last) return;
    await write(angler, "drifts", last.id, { ...last.body, undone: true });
    if (last.body.dried) await setDried(); // it still is
  });

/** End the outing; one in which nothing was fished is taken back. */
export const end = ({ angler, lie }: Bank): Promise<void> =>
  kept(angler, async () => {
    const { outing } = await readLog(angler, lie);
    if (!outing) return;
    const lines = latestOf(await device.entries.where("angler").equals(angler).toArray(), outing.id);
    const gone = lines.every((one) => one.drift.body.undone);
    await write(angler, "outings", outing.id, { ...outing.body, ended_at: now(), gone });
  });

/** A record as it stands on the device, not as it was drawn: two corrections may come faster than drawings. */
async function asItStands<K extends Kind>(one: { id: string; body: Bodies[K] }): Promise<Bodies[K]> {
  return ((await device.entries.get(one.id))?.body as Bodies[K] | undefined) ?? one.body;
}

/** Correct a drift, take it back, or put it back. */
export const correct = (angler: string, drift: Line["drift"], change: Partial<Bodies["drifts"]>) =>
  kept(angler, async () =>
    write(angler, "drifts", drift.id, { ...(await asItStands<"drifts">(drift)), ...change }),
  );

/**
 * Say that drifts of one stay were fished at another lie, each with the rig that it was fished with; `over`: the outing is. A stop
 * that the outing has there takes them up: moved back, a drift is where it was.
 */
export const moveTo = (
  angler: string,
  lines: readonly Line[],
  lie: string,
  situation: Situation,
  over = false,
): Promise<void> =>
  kept(angler, async () => {
    const from = lines[0]?.stop;
    if (!from) return;
    const first = Math.min(...lines.map((one) => Date.parse(one.drift.body.at)));
    const known = await stopsOf(from.body.outing_id);
    const stops = stopsIn(known, from.body.outing_id);
    const there = stops.filter((one) => one.body.lie_id === lie);
    let to: Line["stop"] | undefined = there.findLast((one) => Date.parse(one.body.at) <= first) ?? there[0];
    const held = known.filter((one): one is Of<"settings"> => one.kind === "settings");
    if (!to) {
      // while one fishes it is before the stay, so that one still stands here, with all that was fished here
      const stay = stayOf(stops, from.id)[0] ?? from;
      const at = new Date(over ? first : Date.parse(stay.body.at) - 1).toISOString();
      to = { id: newId(), body: { outing_id: from.body.outing_id, lie_id: lie, at, situation } };
      await write(angler, "stops", to.id, to.body);
    }
    // before what was set there since: what hangs on the rod by the log is that one still
    const [stop_id, at] = [to.id, new Date(Date.parse(to.body.at) - 1).toISOString()];
    const settings = new Map<string, string>();
    for (const { drift, setting } of lines) {
      const alike = (one: Of<"settings">) =>
        JSON.stringify({ ...one.body, at }) === JSON.stringify({ ...setting.body, stop_id, at });
      let setting_id = settings.get(setting.id) ?? held.find(alike)?.id;
      if (!setting_id) {
        setting_id = newId();
        await write(angler, "settings", setting_id, { ...setting.body, stop_id, at });
      }
      settings.set(setting.id, setting_id);
      await write(angler, "drifts", drift.id, { ...(await asItStands<"drifts">(drift)), setting_id });
    }
  });

/** Say that drifts under one setting were fished with line and bead set otherwise: a setting is never edited, it gets another. */
export const setOtherwise = (angler: string, lines: readonly Line[], set: SetTo): Promise<void> =>
  kept(angler, async () => {
    const body = lines[0]?.setting.body;
    if (!body || body.rig === "dry") return;
    const setting_id = newId();
    // before the one that it was taken for: what hangs on the rod by the log is that one still
    const at = new Date(Date.parse(body.at) - 1).toISOString();
    await write(angler, "settings", setting_id, { ...body, ...set, at, setup: { ...body.setup, ...set } });
    for (const { drift } of lines)
      await write(angler, "drifts", drift.id, { ...(await asItStands<"drifts">(drift)), setting_id });
  });

/** Correct a fish, take it back, or put it back. */
export const correctFish = (angler: string, fish: Line["fish"][number], change: Partial<CatchIn>) =>
  kept(angler, async () =>
    write(angler, "catches", fish.id, { ...(await asItStands<"catches">(fish)), ...change }),
  );

/** Go on with an outing, take it back or put it back. Another that is open ends: there is one at a time. */
export const changeOuting = (
  angler: string,
  id: string,
  body: Bodies["outings"],
  change: Partial<Bodies["outings"]>,
): Promise<void> =>
  kept(angler, async () => {
    if (change.ended_at === null)
      for (const open of await ofKind(angler, "outings"))
        if (open.id !== id && !open.body.ended_at && !open.body.gone)
          await write(angler, "outings", open.id, { ...open.body, ended_at: now() });
    await write(angler, "outings", id, { ...body, ...change });
  });

export const land = (angler: string, fish: Omit<CatchIn, "at">): Promise<void> =>
  kept(angler, () => write(angler, "catches", newId(), { ...fish, at: now() }));
