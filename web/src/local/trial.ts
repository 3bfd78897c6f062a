/** A fair trial as the service last told of it, and what was fished here since: whose turn it is is said without signal too. */
import { api, type Trial, type TrialTold, unwrap } from "../api/client";
import type { Of } from "./entries";
import { device, type Entry } from "./records";

type Sides = TrialTold["standing"]["sides"];

export interface KeptTrial {
  /** When it was asked for: what was logged here later is not in it. */
  asked: string;
  trial: Trial;
  sides: Sides;
}

/** What was on for a drift, as the core counts the sides of a trial by it. */
interface TiedSo {
  rig: string;
  fly: string | null;
  hook: number | null;
  bead_mm: number | null;
}

/** A question to the core: a trial, what each side had, and what was on for the drifts since. */
export interface Going {
  trial: Trial;
  first: number;
  second: number;
  since: TiedSo[];
}

export const TRIAL = "trial of ";

/** Ask how the trial stands, null: none is under way, and keep it. */
export async function askTrial(angler: string): Promise<TrialTold | null> {
  const asked = new Date().toISOString();
  const told = await unwrap(api.GET("/api/learn/trial"));
  const value = told && { asked, trial: told.trial, sides: told.standing.sides };
  if (value) await device.notes.put({ key: TRIAL + angler, value });
  else await device.notes.delete(TRIAL + angler);
  return told;
}

export const readTrial = async (angler: string): Promise<KeptTrial | null> =>
  ((await device.notes.get(TRIAL + angler))?.value as KeptTrial | undefined) ?? null;

const tiedSo = (set: Of<"settings">["body"]): TiedSo =>
  set.rig === "dry"
    ? { rig: set.rig, fly: set.setup.float, hook: null, bead_mm: null }
    : {
        rig: set.rig,
        fly: set.setup.point_form,
        hook: set.setup.point_hook,
        bead_mm: set.point_bead_mm,
      };

/** What is to be asked of a trial that goes on: the drifts that this device has since it was told of, but for those taken back. */
export function goingOn({ asked, trial, sides }: KeptTrial, entries: readonly Entry[]): Going {
  const settings = new Map(
    entries.filter((one): one is Of<"settings"> => one.kind === "settings").map((one) => [one.id, one.body]),
  );
  const since = entries
    .filter((one): one is Of<"drifts"> => one.kind === "drifts" && !one.body.undone)
    .filter((one) => Date.parse(one.body.at) > Date.parse(asked))
    .flatMap((one) => settings.get(one.body.setting_id) ?? [])
    .map(tiedSo);
  return { trial, first: sides[0]?.drifts ?? 0, second: sides[1]?.drifts ?? 0, since };
}
