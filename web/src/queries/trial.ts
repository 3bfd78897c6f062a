/** The fair trial that is under way: as the service counts it, and as this device does. */
import { skipToken, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useLiveQuery } from "dexie-react-hooks";
import { PASSING_MS } from "../api/asks";
import { api, type Trial, unwrap } from "../api/client";
import { useKeptAngler } from "../local/angler";
import { turnHere } from "../local/engine";
import { ofKind, since } from "../local/entries";
import { askTrial, goingOn, type KeptTrial, readTrial } from "../local/trial";

/** How the fair trial stands; null: none is under way. ``after``: the last drift logged here, so that it is asked anew after each. */
export function useTrial(after = "", enabled = true) {
  const angler = useKeptAngler()?.id ?? "";
  return useQuery({
    queryKey: ["learn", "trial", after],
    queryFn: () => askTrial(angler),
    gcTime: PASSING_MS,
    staleTime: 0,
    enabled: enabled && angler !== "",
  });
}

/** Whose turn it is by what this device knows of the trial and was fished here since; undefined where it cannot say. */
export function useTurnHere(
  wanted: boolean,
): { sides: KeptTrial["sides"]; turn: string; left: number } | undefined {
  const angler = useKeptAngler()?.id ?? "";
  const here = useLiveQuery(async () => {
    const kept = await readTrial(angler);
    if (!kept) return null;
    const fished = await since(angler, kept.asked);
    return { sides: kept.sides, going: goingOn(kept, [...fished, ...(await ofKind(angler, "settings"))]) };
  }, [angler]);
  const { data } = useQuery({
    queryKey: ["turn", here?.going],
    networkMode: "always",
    retry: false,
    queryFn: wanted && here ? () => turnHere(here.going) : skipToken,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: PASSING_MS,
  });
  return wanted && here && data ? { sides: here.sides, ...data } : undefined;
}

/** Begin a fair trial, or end the one that is under way. */
export function useTry() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (trial: Trial | null): Promise<void> => {
      if (trial) await unwrap(api.PUT("/api/learn/trial", { body: trial }));
      else await unwrap(api.DELETE("/api/learn/trial"));
    },
    onSuccess: () => client.invalidateQueries({ queryKey: ["learn", "trial"] }),
  });
}
