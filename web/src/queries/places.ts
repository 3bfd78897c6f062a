/** Rivers, beats and lies: as they stand, and setting them up. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { beatsQuery, todayOf } from "../api/asks";
import {
  api,
  type Beat,
  type BeatIn,
  type GaugeIn,
  type LieIn,
  Refused,
  type RiverIn,
  unwrap,
} from "../api/client";
import { useKeptAngler } from "../local/angler";
import { useHeldLies } from "../local/logbook";
import { offer } from "../local/outbox";

/** A lie that the service has not got yet, or has in an older form, among its others. */
export function withHeld(beats: Beat[], held: ReturnType<typeof useHeldLies>): Beat[] {
  return beats.map((beat) => {
    const here = held.filter((one) => one.body.beat_id === beat.id);
    if (here.length === 0) return beat;
    const retired = new Set(here.filter((one) => one.body.retired).map((one) => one.id));
    const lies = beat.lies
      .filter((lie) => !retired.has(lie.id))
      .map((lie) => {
        const body = here.find((one) => one.id === lie.id)?.body;
        const { name, along_m, notes = "" } = body ?? lie;
        return body ? { ...lie, name, along_m, notes } : lie;
      });
    const fresh = here
      .filter((one) => !retired.has(one.id) && beat.lies.every((lie) => lie.id !== one.id))
      .map(({ id, body: { name, kind, bed, along_m, notes = "", latitude = null, longitude = null } }) => ({
        ...{ id, name, kind, bed, along_m, notes, latitude, longitude },
        ...{ school: null, reading: null, today: null, stands_on: null, situation: null, bottom: [] },
      }));
    return { ...beat, lies: [...lies, ...fresh] };
  });
}

export function useBeats(signedIn = true) {
  const held = useHeldLies();
  const select = useCallback((beats: Beat[]) => (held.length > 0 ? withHeld(beats, held) : beats), [held]);
  return useQuery({ ...beatsQuery, enabled: signedIn, select });
}

const NOBODY = { code: "SIGNED_OUT", field: null, message: "Nobody is signed in. Sign in and try again." };

/** Set up a river, beat or lie; the beats are read again once it is stored. */
export function usePlaces() {
  const client = useQueryClient();
  const angler = useKeptAngler();
  // what a day says rests on the season and the lies as much as the beats do
  const done = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ["beats"] }),
      client.invalidateQueries({ queryKey: ["today"] }),
      client.invalidateQueries({ queryKey: ["retired"] }),
    ]);
  const beat = useMutation({
    mutationFn: ({ id, body }: { id: string; body: BeatIn }) =>
      unwrap(api.PUT("/api/beats/{beat_id}", { params: { path: { beat_id: id } }, body })),
    onSuccess: done,
  });
  // a lie is often met for the first time where there is no signal: it goes out with the log
  const lie = useMutation({
    networkMode: "always",
    mutationFn: async ({ id, body }: { id: string; body: LieIn }) => {
      if (!angler) throw new Refused(401, [NOBODY]);
      const refused = await offer(angler.id, "lies", id, body);
      if (refused) throw new Refused(422, refused);
    },
    onSuccess: done,
  });
  const remove = useMutation({
    mutationFn: ({ what, id }: { what: "beat" | "lie"; id: string }) =>
      what === "beat"
        ? unwrap(api.DELETE("/api/beats/{beat_id}", { params: { path: { beat_id: id } } }))
        : unwrap(api.DELETE("/api/lies/{lie_id}", { params: { path: { lie_id: id } } })),
    onSuccess: done,
  });
  return { beat, lie, remove };
}

/** Beats and lies that are not fished any more. */
export const useRetired = () =>
  useQuery({ queryKey: ["retired"], queryFn: () => unwrap(api.GET("/api/retired")) });

export const useRivers = () =>
  useQuery({ queryKey: ["rivers"], queryFn: () => unwrap(api.GET("/api/rivers")) });

interface NewRiver {
  ids: { river: string; gauge: string; beat: string };
  river: RiverIn;
  gauge: GaugeIn | null;
  /** Name of its first beat; null where it has beats already. */
  beat: string | null;
}

/** Store a river with its gauge and first beat, and read the gauge once. */
export function useSetup() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ ids, river, gauge, beat }: NewRiver) => {
      await unwrap(
        api.PUT("/api/rivers/{river_id}", { params: { path: { river_id: ids.river } }, body: river }),
      );
      if (gauge)
        await unwrap(
          api.PUT("/api/gauges/{gauge_id}", { params: { path: { gauge_id: ids.gauge } }, body: gauge }),
        );
      if (beat !== null)
        await unwrap(
          api.PUT("/api/beats/{beat_id}", {
            params: { path: { beat_id: ids.beat } },
            // its rules are the service's defaults until the fishery's are entered
            body: { river_id: ids.river, name: beat, position: 0 } as BeatIn,
          }),
        );
      if (gauge)
        await unwrap(api.POST("/api/gauges/{gauge_id}/read", { params: { path: { gauge_id: ids.gauge } } }));
    },
    onSettled: () => client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" }),
  });
}

const GAUGE_EVERY_MS = 120_000;
const NEW_GAUGE_EVERY_MS = 5_000;

export const useToday = (beat: string) =>
  useQuery({
    ...todayOf(beat),
    refetchInterval: ({ state: { data } }) => (data?.gauge?.unasked ? NEW_GAUGE_EVERY_MS : GAUGE_EVERY_MS),
  });
