/** Which lie the steps lead to from a page that is of none: where one stands, else the one that was looked at last. */
import { useEffect } from "react";
import type { Beat } from "../api/client";
import { useStanding } from "../local/logbook";

type Place = Pick<Beat, "id"> & { lies: { id: string }[] };

export const beatOf = <B extends Place>(beats: B[], lie: string | null | undefined): B | undefined =>
  beats.find((beat) => beat.lies.some((one) => one.id === lie));

/** The lie to go to: of the outing under way; else of the beat that is shown, the one last looked at before its first. */
export function leadsTo(
  beats: Place[],
  { standing, seen, shown }: { standing: string | null; seen: string | null; shown: string | undefined },
): string | undefined {
  if (standing && beatOf(beats, standing)) return standing;
  const on = beats.find((beat) => beat.id === shown);
  const last = beatOf(beats, seen);
  if (seen && last && (!on || on === last)) return seen;
  return (on ?? beats.find((beat) => beat.lies.length > 0))?.lies[0]?.id;
}

const SEEN = "lie";

/** The lie that the steps are of on a page: its own, if it has one. */
export function useLie(beats: Place[], path: string): string | undefined {
  const own = /^\/lie\/([^/]+)/.exec(path)?.[1];
  const standing = useStanding() ?? null;
  useEffect(() => {
    if (own) localStorage.setItem(SEEN, own);
  }, [own]);
  const shown = /^\/beat\/([^/]+)/.exec(path)?.[1];
  return own ?? leadsTo(beats, { standing, seen: localStorage.getItem(SEEN), shown });
}
