/** Where in a lie one fishes, and what is known of the bottom there. */
import type { Bottom } from "../../api/client";
import { type Of, ofKind } from "../../local/entries";
import type { Line, Log } from "../../local/logbook";
import type { Bodies } from "../../local/records";

/** Lanes from the near one, stances from the lowest. */
export interface Spot {
  lane: number;
  stance: number;
}

/** What anglers call the lanes of a lie: the near one, the far one, those between by their number. */
export const laneName = (lane: number, lanes: number | undefined): string => {
  if (lane === 1) return "near lane";
  if (lane === lanes) return "far lane";
  return lanes === 3 && lane === 2 ? "middle lane" : `lane ${lane} out`;
};

/** A stance is two steps up from the one before. */
export const stanceName = (stance: number): string =>
  stance === 1 ? "first stance" : `${2 * (stance - 1)} steps up`;

/** Where a lie is read. */
export const FIRST: Spot = { lane: 1, stance: 1 };

export const spotOf = (drift: Pick<Bodies["drifts"], "lane" | "stance">): Spot => ({
  lane: drift.lane ?? FIRST.lane,
  stance: drift.stance ?? FIRST.stance,
});

export const isAt = (one: Spot, other: Spot): boolean =>
  one.lane === other.lane && one.stance === other.stance;

/**
 * What is known of the bottom spot by spot: as the service told it, and as it was found in this outing; in that is what was read
 * of the lie before. Of what was found before the lie was read, the service tells at the level of the reading; ``again``: it has
 * not heard of the reading yet. An answer that was kept from before an update tells nothing of it.
 */
export function bottomOf(
  log: Pick<Log, "soundings"> | undefined,
  told: readonly Bottom[] | undefined,
  { readAt, again = false }: { readAt?: string | undefined; again?: boolean } = {},
): Bottom[] {
  const known = again ? [] : [...(told ?? [])];
  for (const { body } of log?.soundings ?? []) {
    const { lane, stance, depth_m, depth_sd_m } = body;
    const since_reading = readAt !== undefined && Date.parse(body.at) >= Date.parse(readAt);
    const at = known.findIndex((one) => isAt(one, body));
    if (readAt !== undefined && !since_reading && (again || at >= 0)) continue;
    known.splice(at < 0 ? known.length : at, 1, { lane, stance, depth_m, depth_sd_m, since_reading });
  }
  return known;
}

/** Every spot that was fished or found, the near lane first, from the lowest stance up. */
export function spotsOf(log: Log, bottom: readonly Bottom[], here: Spot): Spot[] {
  const found: Spot[] = [here];
  for (const { lane, stance } of [...log.drifts.map((one) => spotOf(one.body)), ...bottom])
    if (!found.some((one) => isAt(one, { lane, stance }))) found.push({ lane, stance });
  return found.sort((a, b) => a.stance - b.stance || a.lane - b.lane);
}

/** What was kept in its outing of the depth at a drift's spot, that drift among those it was found from; the newest last. */
export async function keptFrom(
  angler: string,
  { drift, stop }: Pick<Line, "drift" | "stop">,
): Promise<(Of<"soundings"> | Of<"readings">)[]> {
  const [soundings, readings, outings] = await Promise.all([
    ofKind(angler, "soundings"),
    ofKind(angler, "readings"),
    ofKind(angler, "outings"),
  ]);
  const ended = outings.find((one) => one.id === stop.body.outing_id)?.body.ended_at;
  const [from, until] = [Date.parse(drift.body.at), ended ? Date.parse(ended) : Number.POSITIVE_INFINITY];
  const spot = spotOf(drift.body);
  const here = soundings.filter(({ body }) => !body.gone && isAt(body, spot));
  const read = isAt(spot, FIRST) ? readings.filter(({ body }) => body.depth_how === "drifts") : [];
  return [...here, ...read]
    .filter(({ body }) => body.lie_id === stop.body.lie_id)
    .filter(({ body }) => Date.parse(body.at) >= from && Date.parse(body.at) <= until)
    .sort((one, other) => Date.parse(one.body.at) - Date.parse(other.body.at));
}
