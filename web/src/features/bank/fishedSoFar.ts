import type { Bottom, CoachIn, Situation } from "../../api/client";
import { tuningOf } from "../../local/inhand";
import type { Bodies, InHand } from "../../local/records";
import { FIRST, isAt, type Spot, spotOf } from "./spots";

/** What is known of the water beside the situation: when its depth was learned from drifts, where one stands, and its bottom. */
interface Known {
  learnedAt: string | null;
  here: Spot;
  bottom: Bottom[];
}

const time = (at: string | null | undefined): number => (at ? Date.parse(at) : 0);

const asRead = ({ water: { depth_m, surface_speed_m_s } }: Situation) => ({ depth_m, surface_speed_m_s });

/** What of a log the coach is asked about. */
export interface Told {
  stop: { id: string } | null;
  stops: readonly { id: string; body: Bodies["stops"] }[];
  settings: readonly { id: string; body: Bodies["settings"] }[];
  drifts: readonly { id: string; body: Bodies["drifts"] }[];
  soundings: readonly { body: Bodies["soundings"] }[];
  catches: readonly { body: Bodies["catches"] }[];
}

/**
 * The drifts of the stay with the rig in hand, as the coach is asked, none before the first; null while nobody fishes, and under
 * a single dry, which has no depth to learn. What a depth that is believed was learned from is said to be in it: it would count twice.
 */
export function fishedSoFar(
  log: Told | undefined,
  inHand: InHand,
  situation: Situation,
  { learnedAt, here, bottom }: Known,
): CoachIn | null {
  if (!log?.stop || inHand.rig === "dry") return null;
  const { rig } = inHand;
  const settings = new Map(log.settings.map((one) => [one.id, one.body]));
  const reads = new Map(log.stops.map((one) => [one.id, asRead(one.body.situation)]));
  const now = asRead(situation);
  const learned = time(learnedAt);
  const foundAt = (spot: Spot) => {
    const believed = bottom.some((one) => isAt(one, spot));
    const found = log.soundings.findLast((one) => isAt(one.body, spot));
    return Math.max(isAt(spot, FIRST) ? learned : 0, believed ? time(found?.body.at) : 0);
  };
  const drifts = log.drifts.flatMap(({ id, body }) => {
    const set = settings.get(body.setting_id);
    if (!set || set.rig === "dry" || set.rig !== rig) return [];
    const spot = spotOf(body);
    const { depth_setting_m, point_bead_mm, setup } = set;
    // a depth that was found from it is of its own water
    const at = time(body.at);
    const read = (at > learned && reads.get(set.stop_id)) || now;
    const otherwise = read.depth_m !== now.depth_m || read.surface_speed_m_s !== now.surface_speed_m_s;
    const fish = log.catches.find((one) => one.body.drift_id === id)?.body;
    return [
      {
        ...{
          depth_setting_m,
          point_bead_mm,
          ...spot,
          outcome: body.outcome,
          pace: body.pace ?? null,
          direction: body.direction ?? ("up" as const),
          dried: body.dried ?? false,
          weed: body.weed ?? false,
          read: otherwise ? read : null,
          // in what is known of its own spot, or of that where one stands
          in_bottom: at <= Math.max(foundAt(spot), foundAt(here)),
          dry: rig === "dry_dropper" ? setup.float : null,
          pattern: `${setup.point_form} ${setup.point_hook}`,
        },
        ...(fish ? { fly: fish.fly, phase: fish.phase } : {}),
      },
    ];
  });
  return { situation, rig, drifts, tuning: tuningOf(rig, inHand.setup), ...here, bottom, hangs: true };
}

/** What is known of a drift before it is fished. */
type Coming = Pick<Bodies["drifts"], "pace" | "lane" | "stance" | "direction" | "dried">;

/** The log as it will be after a clean drift with the rig in hand: what the coach will be asked of then. */
export function afterOneMore(log: Told, inHand: InHand, coming: Coming): Told {
  if (!log.stop || inHand.rig === "dry") return log;
  const [id, at] = ["coming", new Date().toISOString()];
  const { rig, depth_setting_m, point_bead_mm, setup } = inHand;
  const set = { stop_id: log.stop.id, at, rig, depth_setting_m, point_bead_mm, setup };
  const drift = { ...coming, setting_id: id, at, outcome: "clean" as const, weed: false, undone: false };
  return {
    ...log,
    settings: [...log.settings, { id, body: set }],
    drifts: [...log.drifts, { id, body: drift }],
  };
}
