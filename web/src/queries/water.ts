/** What the core works out for a lie: the water, the rigs that are advised, the one that hangs in it. */
import { keepPreviousData, onlineManager, skipToken, useQuery, useQueryClient } from "@tanstack/react-query";
import { adviceOf, columnOf, PASSING_MS, tuneOf } from "../api/asks";
import type { Ranked, ReadingIn, Situation, Tuning } from "../api/client";
import { adviseHere, columnHere, engineKept, hangHere, measureHere } from "../local/engine";
import { serviceOr, useHereToo } from "./either";

export const useColumn = (situation: Situation) =>
  // worked out here it takes a moment: the column of another water is not shown so long
  useHereToo(columnOf(situation), () => columnHere(situation), { before: onlineManager.isOnline() });

export const useAdvice = (lie: string, situation: Situation) =>
  useHereToo(adviceOf(situation), () => adviseHere(lie, situation), { stays: true });

/** Whether this device can work things out itself. */
export const useEngineHere = (): boolean =>
  useQuery({ queryKey: ["engine"], queryFn: engineKept, networkMode: "always", retry: false }).data ?? false;

/** What follows from how things were taken, in a reading that the service has not got. */
export const useMeasured = (reading: ReadingIn | null, eyeError: number | null) =>
  useQuery({
    queryKey: ["measured", reading, eyeError],
    gcTime: PASSING_MS,
    networkMode: "always",
    retry: false,
    queryFn: reading ? () => measureHere(reading, eyeError) : skipToken,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** A rig as the angler sets it, written out and drawn. */
export const hang = (situation: Situation, tuning: Tuning) =>
  serviceOr(
    async () => {
      const { setup, picture, numbers } = await tuneOf(situation, tuning).queryFn();
      return { setup, picture, numbers };
    },
    () => hangHere(situation, tuning),
  );

/** The rig in hand in its water, on the bank: with no signal too. */
export function useHung(situation: Situation, tuning: Tuning | null) {
  const client = useQueryClient();
  return useQuery({
    queryKey: ["hung", situation, tuning],
    networkMode: "always",
    refetchOnReconnect: true, // where this device could not
    retry: false,
    queryFn: !tuning
      ? skipToken
      : async () => {
          // packed at home
          const known = client.getQueryData<Ranked>(tuneOf(situation, tuning).queryKey);
          if (!known) return hang(situation, tuning);
          const { setup, picture, numbers } = known;
          return { setup, picture, numbers };
        },
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });
}
