/** What a thumb does on the bank, as writes to the device. Every one is safe once it resolves. */
import type { CatchIn, Outcome, Pace, ReadingIn, Situation } from "../../api/client";
import { readLog } from "../../local/logbook";
import { flush, newId, write } from "../../local/outbox";
import { device, type InHand, LOG } from "../../local/records";

interface Bank {
  angler: string;
  beat: string;
  lie: string;
  situation: Situation;
  inHand: InHand;
}

/** What was seen of a drift beside its end, and where it was fished: lanes from the near one, stances from the lowest. */
export interface Seen {
  pace?: Pace | null;
  lane?: number | null;
  stance?: number | null;
}

const now = () => new Date().toISOString();

/** Make sure that outing, stop and setting are those of the rig in hand here; return the setting's id. */
async function settle({ angler, beat, lie, situation, inHand }: Bank): Promise<string> {
  const log = await readLog(angler, lie); // as it is now, not as it was drawn: taps may come faster than drawings
  let outing = log.outing;
  if (outing && outing.body.beat_id !== beat) {
    await write(angler, "outings", outing.id, { ...outing.body, ended_at: now() });
    outing = null;
  }
  const stop = outing ? log.stop : null;
  const set = stop ? log.setting : null;
  const sameRig =
    set?.body.rig === inHand.rig && JSON.stringify(set.body.setup) === JSON.stringify(inHand.setup);
  if (set && sameRig) return set.id;
  const outingId = outing?.id ?? newId();
  if (!outing) await write(angler, "outings", outingId, { beat_id: beat, started_at: now(), ended_at: null });
  const stopId = stop?.id ?? newId();
  if (!stop) await write(angler, "stops", stopId, { outing_id: outingId, lie_id: lie, at: now(), situation });
  const id = newId();
  const { rig, depth_setting_m, point_bead_mm, setup } = inHand;
  await write(angler, "settings", id, {
    stop_id: stopId,
    at: now(),
    rig,
    depth_setting_m,
    point_bead_mm,
    setup,
  });
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
    await write(bank.angler, "drifts", id, {
      setting_id,
      at: now(),
      outcome,
      pace,
      lane,
      stance,
      undone: false,
    });
  });
  return id;
}

/** Take back the last drift here, with its fish. */
export const undo = ({ angler, lie }: Bank): Promise<void> =>
  kept(angler, async () => {
    const last = (await readLog(angler, lie)).drifts.at(-1);
    if (last) await write(angler, "drifts", last.id, { ...last.body, undone: true });
  });

export const end = ({ angler, lie }: Bank): Promise<void> =>
  kept(angler, async () => {
    const { outing } = await readLog(angler, lie);
    if (outing) await write(angler, "outings", outing.id, { ...outing.body, ended_at: now() });
  });

export const land = (angler: string, fish: Omit<CatchIn, "at">): Promise<void> =>
  kept(angler, () => write(angler, "catches", newId(), { ...fish, at: now() }));

/** Write down what was seen of the lie; the service learns of it with the rest of the log. */
export const observe = (angler: string, id: string, reading: Omit<ReadingIn, "at">): Promise<void> =>
  kept(angler, () => write(angler, "readings", id, { ...reading, at: now() }));
