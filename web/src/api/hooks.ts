/** What the screens ask the service. Answers of the core are keyed by all that went in. */
import {
  keepPreviousData,
  onlineManager,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useCallback } from "react";
import { useKeptAngler } from "../local/angler";
import { coachHere, hangHere } from "../local/engine";
import { useHeldLies } from "../local/logbook";
import { write } from "../local/outbox";
import type { Bodies, Kind } from "../local/records";
import {
  api,
  type Beat,
  type BeatIn,
  type BoxItemIn,
  type BuildIn,
  type CoachIn,
  type GaugeIn,
  type How,
  type Lie,
  type LieIn,
  type Ranked,
  type ReadingIn,
  Refused,
  type RiverIn,
  type School,
  type Situation,
  type Tuning,
  unwrap,
} from "./client";

/** What is worked out for every step of a slider is soon of no use. */
const PASSING_MS = 5 * 60_000;

// What is asked, apart from when: screens use it, and so does taking a beat along.
/** What a slider asked for and nobody waits for any more is given up, here and at the service. */
interface Asking {
  signal?: AbortSignal;
}
const to = (signal: AbortSignal | undefined) => (signal ? { signal } : {});

export const sessionQuery = { queryKey: ["session"], queryFn: () => unwrap(api.GET("/api/session")) };
export const beatsQuery = { queryKey: ["beats"], queryFn: () => unwrap(api.GET("/api/beats")) };
export const boxQuery = { queryKey: ["box"], queryFn: () => unwrap(api.GET("/api/box")) };
export const schoolsQuery = { queryKey: ["schools"], queryFn: () => unwrap(api.GET("/api/schools")) };
export const todayOf = (beat: string) => ({
  queryKey: ["today", beat],
  queryFn: () => unwrap(api.GET("/api/beats/{beat_id}/today", { params: { path: { beat_id: beat } } })),
});
export const columnOf = (situation: Situation) => ({
  queryKey: ["column", situation],
  queryFn: ({ signal }: Asking = {}) => unwrap(api.POST("/api/column", { body: situation, ...to(signal) })),
});
export const adviceOf = (situation: Situation) => ({
  queryKey: ["advice", situation],
  queryFn: () => unwrap(api.POST("/api/advice", { body: situation })),
});
export const tuneOf = (situation: Situation, tuning: Tuning) => ({
  queryKey: ["tune", situation, tuning],
  queryFn: ({ signal }: Asking = {}) =>
    unwrap(api.POST("/api/tune", { body: { situation, tuning }, ...to(signal) })),
});

export const useSession = () => useQuery(sessionQuery);

export function useChangeUnits() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (units: "metric" | "us") => unwrap(api.PUT("/api/angler", { body: { units } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["session"] }),
  });
}

/** A lie that the service has not got yet, or has in an older form, among its others. */
function withHeld(beats: Beat[], held: ReturnType<typeof useHeldLies>): Beat[] {
  return beats.map((beat) => {
    const here = held.filter((one) => one.body.beat_id === beat.id);
    if (here.length === 0) return beat;
    const lies = beat.lies.map((lie) => {
      const body = here.find((one) => one.id === lie.id)?.body;
      const { name, along_m, notes = "" } = body ?? lie;
      return body ? { ...lie, name, along_m, notes } : lie;
    });
    const fresh = here
      .filter((one) => beat.lies.every((lie) => lie.id !== one.id))
      .map(({ id, body: { name, kind, bed, along_m, notes = "" } }) => ({
        ...{ id, name, kind, bed, along_m, notes },
        ...{ school: null, reading: null, today: null, stands_on: null, situation: null },
      }));
    return { ...beat, lies: [...lies, ...fresh] };
  });
}

export function useBeats(signedIn = true) {
  const held = useHeldLies();
  const select = useCallback((beats: Beat[]) => (held.length > 0 ? withHeld(beats, held) : beats), [held]);
  return useQuery({ ...beatsQuery, enabled: signedIn, select });
}

/** Set up a river, beat or lie; the beats are read again once it is stored. */
export function usePlaces() {
  const client = useQueryClient();
  const angler = useKeptAngler();
  // what a day says rests on the season and the lies as much as the beats do
  const done = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ["beats"] }),
      client.invalidateQueries({ queryKey: ["today"] }),
    ]);
  const beat = useMutation({
    mutationFn: ({ id, body }: { id: string; body: BeatIn }) =>
      unwrap(api.PUT("/api/beats/{beat_id}", { params: { path: { beat_id: id } }, body })),
    onSuccess: done,
  });
  // a lie is often met for the first time where there is no signal: it is kept and goes out with the log
  const lie = useMutation({
    networkMode: "always",
    mutationFn: ({ id, body }: { id: string; body: LieIn }) =>
      orKept(angler?.id, "lies", id, body, () =>
        unwrap(api.PUT("/api/lies/{lie_id}", { params: { path: { lie_id: id } }, body })),
      ),
    onSuccess: done,
  });
  return { beat, lie };
}

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

export const useToday = (beat: string) => useQuery({ ...todayOf(beat), refetchInterval: GAUGE_EVERY_MS });

/** Store something at the service; with no signal it is kept here, null is returned, and it goes out with the rest of the log. */
async function orKept<T, K extends Kind>(
  angler: string | undefined,
  kind: K,
  id: string,
  body: Bodies[K],
  store: () => Promise<T>,
): Promise<T | null> {
  try {
    if (onlineManager.isOnline() || !angler) return await store();
  } catch (error) {
    // what the service refuses is said; only what did not reach it, or nobody there, is kept
    if (!angler || (error instanceof Refused && error.status !== 401 && error.status < 500)) throw error;
  }
  await write(angler, kind, id, body);
  return null;
}

/** Store a reading at the service; with no signal it is kept on the device and goes out with the rest of the log. */
export function useStoreReading() {
  const client = useQueryClient();
  const angler = useKeptAngler();
  return useMutation({
    scope: { id: "readings" }, // one after the other, as they were made
    networkMode: "always",
    mutationFn: ({ id, body }: { id: string; body: ReadingIn }): Promise<Lie | null> =>
      orKept(angler?.id, "readings", id, body, () =>
        unwrap(api.PUT("/api/readings/{reading_id}", { params: { path: { reading_id: id } }, body })),
      ),
    onSuccess: async (lie) => {
      if (!lie) return;
      // an answer that is on its way was asked before this reading, and must not take its place
      const beats = { queryKey: ["beats"] };
      const known = client.getQueryData<Beat[]>(beats.queryKey);
      // a lie that is read for the first time has a place in the working order now, which the service knows
      const first = known?.every((beat) => beat.working.every((work) => work.lie_id !== lie.id)) ?? true;
      const asked = first || client.isFetching(beats) > 0;
      await client.cancelQueries(beats);
      client.setQueryData<Beat[]>(beats.queryKey, (old) =>
        old?.map((beat) => ({ ...beat, lies: beat.lies.map((one) => (one.id === lie.id ? lie : one)) })),
      );
      if (asked) void client.invalidateQueries(beats);
    },
  });
}

export const useColumn = (situation: Situation) =>
  useQuery({ ...columnOf(situation), placeholderData: keepPreviousData });

export const useAdvice = (situation: Situation) =>
  useQuery({ ...adviceOf(situation), staleTime: Number.POSITIVE_INFINITY });

export const useTune = (situation: Situation, tuning: Tuning | null) =>
  useQuery({
    ...tuneOf(situation, tuning as Tuning),
    gcTime: PASSING_MS,
    enabled: tuning !== null,
    placeholderData: keepPreviousData,
  });

const pathOf = (situation: Situation, tuning: Tuning | null, how: How) => ({
  queryKey: ["path", situation, tuning, how],
  gcTime: PASSING_MS,
  queryFn: ({ signal }: Asking = {}) =>
    unwrap(api.POST("/api/path", { body: { situation, tuning: tuning as Tuning, ...how }, ...to(signal) })),
  enabled: tuning !== null,
  staleTime: Number.POSITIVE_INFINITY,
});

export const usePath = (situation: Situation, tuning: Tuning | null, how: How) =>
  useQuery({ ...pathOf(situation, tuning, how), placeholderData: keepPreviousData });

/** The drifts of other rigs in the same water, to compare with. */
export const useGhosts = (situation: Situation, tunings: Tuning[], how: How) =>
  useQueries({ queries: tunings.map((tuning) => pathOf(situation, tuning, how)) }).flatMap((one) =>
    one.data ? [one.data] : [],
  );

export const useSchools = () => useQuery({ ...schoolsQuery, staleTime: Number.POSITIVE_INFINITY });

/** Follow a school everywhere, or at one lie (null there: as everywhere). */
export function useFollow() {
  const client = useQueryClient();
  const done = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ["session"] }),
      client.invalidateQueries({ queryKey: ["beats"] }),
    ]);
  const everywhere = useMutation({
    mutationFn: (school: School) => unwrap(api.PUT("/api/angler", { body: { school } })),
    onSuccess: done,
  });
  const here = useMutation({
    mutationFn: ({ lie, school }: { lie: string; school: School | null }) =>
      unwrap(api.PUT("/api/lies/{lie_id}/school", { params: { path: { lie_id: lie } }, body: { school } })),
    onSuccess: done,
  });
  return { everywhere, here };
}

export const useBox = () => useQuery(boxQuery);

/** Fill the box, count it, take out of it; what it leaves to choose from is read again with the beats. */
export function useFillBox() {
  const client = useQueryClient();
  const done = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ["box"] }),
      client.invalidateQueries({ queryKey: ["beats"] }),
    ]);
  const put = useMutation({
    scope: { id: "box" },
    mutationFn: ({ id, body }: { id: string; body: BoxItemIn }) =>
      unwrap(api.PUT("/api/box/{item_id}", { params: { path: { item_id: id } }, body })),
    onSuccess: done,
  });
  const drop = useMutation({
    mutationFn: (id: string) =>
      unwrap(api.DELETE("/api/box/{item_id}", { params: { path: { item_id: id } } })),
    onSuccess: done,
  });
  const starter = useMutation({
    mutationFn: () => unwrap(api.POST("/api/box/starter")),
    onSuccess: done,
  });
  return { put, drop, starter };
}

export const useChanges = (situation: Situation, tuning: Tuning | null) =>
  useQuery({
    queryKey: ["changes", situation, tuning],
    gcTime: PASSING_MS,
    queryFn: () => unwrap(api.POST("/api/changes", { body: { situation, tuning: tuning as Tuning } })),
    enabled: tuning !== null,
    staleTime: Number.POSITIVE_INFINITY,
  });

export const useCompare = (situation: Situation, first: Tuning | null, second: Tuning | null) =>
  useQuery({
    queryKey: ["compare", situation, first, second],
    gcTime: PASSING_MS,
    queryFn: () =>
      unwrap(
        api.POST("/api/compare", { body: { situation, first: first as Tuning, second: second as Tuning } }),
      ),
    enabled: first !== null && second !== null,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });

export const useBuild = (asked: BuildIn | null) =>
  useQuery({
    queryKey: ["build", asked],
    gcTime: PASSING_MS,
    queryFn: () => unwrap(api.POST("/api/build", { body: asked as BuildIn })),
    enabled: asked !== null,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });

/** Ask the service where there is signal; where there is none, or none answers, the core on this device. */
async function serviceOr<T, U>(asked: () => Promise<T>, here: () => Promise<U>) {
  if (onlineManager.isOnline()) {
    try {
      return { ...(await asked()), by: "service" as const };
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
    }
  }
  return { ...(await here()), by: "device" as const };
}

/** What the drifts so far say, and the next change; the last answer stands while the next is on its way. */
export const useCoach = (asked: CoachIn | null) =>
  useQuery({
    queryKey: ["coach", asked],
    gcTime: PASSING_MS,
    networkMode: "always",
    retry: false,
    queryFn: async () => ({
      ...(await serviceOr(
        () => unwrap(api.POST("/api/coach", { body: asked as CoachIn })),
        () => coachHere(asked as CoachIn),
      )),
      after: asked?.drifts.length ?? 0,
    }),
    enabled: asked !== null,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });

/** A rig as the angler sets it, written out and drawn. */
export const hang = (situation: Situation, tuning: Tuning) =>
  serviceOr(
    async () => {
      const { setup, picture } = await tuneOf(situation, tuning).queryFn();
      return { setup, picture };
    },
    () => hangHere(situation, tuning),
  );

/** The rig in hand in its water, on the bank: with no signal too. */
export function useHung(situation: Situation, tuning: Tuning) {
  const client = useQueryClient();
  return useQuery({
    queryKey: ["hung", situation, tuning],
    networkMode: "always",
    retry: false,
    queryFn: async () => {
      // packed at home
      const known = client.getQueryData<Ranked>(tuneOf(situation, tuning).queryKey);
      return known ? { setup: known.setup, picture: known.picture } : hang(situation, tuning);
    },
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });
}

export const useOutings = () =>
  useQuery({ queryKey: ["outings"], queryFn: () => unwrap(api.GET("/api/outings")) });

export const useLedger = (id: string) =>
  useQuery({
    queryKey: ["ledger", id],
    queryFn: () => unwrap(api.GET("/api/outings/{outing_id}", { params: { path: { outing_id: id } } })),
  });
