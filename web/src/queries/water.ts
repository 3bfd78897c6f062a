/** What the core works out for a lie and a rig. */
import {
  type FetchQueryOptions,
  hashKey,
  keepPreviousData,
  onlineManager,
  skipToken,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { adviceOf, columnOf, PASSING_MS, pathOf, tuneOf } from "../api/asks";
import {
  type BuildIn,
  type CoachIn,
  type How,
  questions,
  type Ranked,
  type ReadingIn,
  Refused,
  type Situation,
  type Step,
  type Tuning,
  unwrap,
} from "../api/client";
import {
  adviseHere,
  answersSoon,
  buildHere,
  cardHere,
  changeHere,
  coachHere,
  columnHere,
  compareHere,
  engineKept,
  hangHere,
  measureHere,
  NotHere,
  tuneHere,
} from "../local/engine";
import { useOnline } from "../ui/online";

/** What the service has not said by then is worked out on this device too, where that is quick: signal may carry, and slowly. */
const SLOW_MS = 400;

const after = (ms: number) => new Promise<true>((done) => setTimeout(() => done(true), ms));

/**
 * Ask the service where there is signal; where there is none, or none answers, the core on this device. At a lie that was packed the
 * device is asked too once the service is slow, and what is said first stands.
 */
async function serviceOr<T extends object, U extends object>(
  asked: () => Promise<T>,
  here: (asking: { signal: AbortSignal }) => Promise<U>,
  { lie, signal }: { lie?: string | undefined; signal?: AbortSignal } = {},
) {
  const given = new AbortController();
  signal?.addEventListener("abort", () => given.abort(signal.reason));
  const byDevice = async () => ({ ...(await here(given)), by: "device" as const });
  if (!onlineManager.isOnline()) return byDevice();
  const said = asked().then((answer) => ({ ...answer, by: "service" as const }));
  const came = said.then(
    () => false,
    () => false,
  );
  const slow = lie !== undefined && (await Promise.race([came, after(SLOW_MS)])) && (await answersSoon(lie));
  const begun = slow ? byDevice() : null;
  try {
    // what cannot be worked out here is waited for
    return await (begun ? Promise.race([said, begun.catch(() => said)]) : said);
  } catch (error) {
    const broken = error instanceof Refused && error.status >= 500;
    if (!broken && !(error instanceof TypeError)) throw error;
    try {
      return await (begun ?? byDevice());
    } catch (fault) {
      throw broken && fault instanceof NotHere ? error : fault; // what is wrong there is then the reason
    }
  } finally {
    given.abort(); // nobody waits for it any more
  }
}

interface Asking<T extends object> {
  queryKey: readonly unknown[];
  queryFn: (asking: { signal: AbortSignal }) => Promise<T>;
}

/**
 * A question that this device can answer too. What the service said stands without signal; what was worked out here is asked again
 * as soon as there is somebody to ask.
 */
function useHereToo<T extends object>(
  { queryKey, queryFn }: Asking<T>,
  here: (asking: { signal: AbortSignal }) => Promise<T>,
  {
    lie,
    enabled = true,
    stays = false,
    before = false,
    passing = false,
    dropped = false,
  }: {
    lie?: string;
    enabled?: boolean;
    stays?: boolean;
    before?: boolean;
    passing?: boolean;
    dropped?: boolean;
  } = {},
) {
  const known = useQueryClient().getQueryData(queryKey) !== undefined;
  return useQuery({
    queryKey,
    queryFn: (asking) =>
      serviceOr(() => queryFn(asking), here, {
        lie,
        ...(dropped ? { signal: asking.signal } : {}), // to look at it is to want the question dropped with who asks
      }),
    networkMode: known ? "online" : "always",
    refetchOnReconnect: true,
    // without signal there is nothing to wait for; and signal may have come while it turned out that there is no engine here
    retry: (count, error) => onlineManager.isOnline() && !(error instanceof Refused) && count < 2,
    staleTime: (query) =>
      query.state.data?.by === "device" ? 0 : stays ? Number.POSITIVE_INFINITY : ANSWERED_MS,
    enabled,
    ...(passing ? { gcTime: PASSING_MS } : {}),
    ...(before ? { placeholderData: keepPreviousData } : {}),
  });
}

/** How long what is drawn is taken to be as it was. */
const ANSWERED_MS = 30_000;

export const useColumn = (situation: Situation) =>
  // worked out here it takes a moment: the column of another water is not shown so long
  useHereToo(columnOf(situation), () => columnHere(situation), { before: onlineManager.isOnline() });

export const useAdvice = (lie: string, situation: Situation) =>
  useHereToo(adviceOf(situation), () => adviseHere(lie, situation), { stays: true });

const LEFT_ALONE_MS = 500;

/** Without signal: have what will be asked next worked out on this device, one thing after the other, until it is another. */
function useAhead<T>(
  of: T | null,
  lie: string,
  asks: (lie: string, of: T) => FetchQueryOptions[],
  afterMs = 0,
): void {
  const client = useQueryClient();
  const online = useOnline();
  const wanted = of && !online ? JSON.stringify(of) : null;
  useEffect(() => {
    if (wanted === null) return;
    let over = false;
    const ahead = async () => {
      for (const one of asks(lie, JSON.parse(wanted) as T)) if (!over) await client.fetchQuery(one);
    };
    // where one cannot be worked out the others are not tried: who asks is told why
    const timer = setTimeout(() => void ahead().catch(() => undefined), afterMs);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [client, lie, wanted, asks, afterMs]);
}

const rigsFor = (lie: string, of: Situation): FetchQueryOptions[] => {
  const { queryKey, queryFn } = adviceOf(of);
  return [
    {
      queryKey,
      queryFn: () => serviceOr(queryFn, () => adviseHere(lie, of)),
      networkMode: "always",
      staleTime: Number.POSITIVE_INFINITY,
    },
  ];
};

/**
 * Have the rigs for a reading worked out on this device while it is still looked at: they are there when they are turned to. Not at
 * once: while it is being changed, its column comes first.
 */
export const useRigsAhead = (lie: string, situation: Situation | null) =>
  useAhead(situation, lie, rigsFor, LEFT_ALONE_MS);

/** A rig as it was set, worked out also where nobody looks any more. */
export const tuned = (lie: string, situation: Situation, tuning: Tuning): Promise<Ranked> =>
  serviceOr(
    () => tuneOf(situation, tuning).queryFn(),
    ({ signal }) => tuneHere(lie, situation, tuning, signal),
    { lie },
  );

export const useTune = (lie: string, situation: Situation, tuning: Tuning | null) =>
  useHereToo(
    tuneOf(situation, tuning as Tuning),
    // what a thumb has passed is not worked out any more
    ({ signal }) => tuneHere(lie, situation, tuning as Tuning, signal),
    { lie, enabled: tuning !== null, before: true, dropped: true },
  );

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

export const usePath = (situation: Situation, tuning: Tuning | null, how: How) =>
  useQuery({ ...pathOf(situation, tuning, how), placeholderData: keepPreviousData });

/** The drifts of other rigs in the same water, to compare with. */
export const useGhosts = (situation: Situation, tunings: Tuning[], how: How) =>
  useQueries({ queries: tunings.map((tuning) => pathOf(situation, tuning, how)) }).flatMap((one) =>
    one.data ? [one.data] : [],
  );

export const useChanges = (lie: string, situation: Situation, tuning: Tuning | null) =>
  useHereToo(
    {
      queryKey: ["changes", situation, tuning],
      queryFn: () =>
        unwrap(questions.POST("/api/changes", { body: { situation, tuning: tuning as Tuning } })),
    },
    () => changeHere(lie, situation, tuning as Tuning),
    { enabled: tuning !== null, stays: true, passing: true },
  );

export const useCompare = (situation: Situation, first: Tuning | null, second: Tuning | null) =>
  useHereToo(
    {
      queryKey: ["compare", situation, first, second],
      queryFn: () =>
        unwrap(
          questions.POST("/api/compare", {
            body: { situation, first: first as Tuning, second: second as Tuning },
          }),
        ),
    },
    () => compareHere(situation, first as Tuning, second as Tuning),
    { enabled: first !== null && second !== null, stays: true, before: true, passing: true },
  );

/** How a rig is tied; without signal as the light and the rod say. */
export const useBuild = (asked: BuildIn | null) =>
  useHereToo(
    {
      queryKey: ["build", asked],
      queryFn: () => unwrap(questions.POST("/api/build", { body: asked as BuildIn })),
    },
    () => buildHere(asked as BuildIn),
    { enabled: asked !== null, stays: true, before: true, passing: true },
  );

const coachOf = (lie: string, asked: CoachIn | null) => ({
  queryKey: ["coach", asked],
  gcTime: PASSING_MS,
  networkMode: "always" as const,
  retry: false,
  // the next tap makes the question of this one stale: it is dropped wherever it waits
  queryFn: async ({ signal }: { signal: AbortSignal }) => ({
    ...(await serviceOr(
      () => unwrap(questions.POST("/api/coach", { body: asked as CoachIn, signal })),
      (given) => coachHere(lie, asked as CoachIn, given.signal),
      { lie, signal },
    )),
    after: asked?.drifts?.length ?? 0,
  }),
  enabled: asked !== null,
  staleTime: Number.POSITIVE_INFINITY,
});

/** What the drifts so far say, and the next change; the last answer stands while the next is on its way. */
export const useCoach = (lie: string, asked: CoachIn | null) =>
  useQuery({ ...coachOf(lie, asked), placeholderData: keepPreviousData });

const LIKELY = ["clean", "tick", "hung", "missed", "fish"] as const;

const wordsFor = (lie: string, clean: CoachIn): FetchQueryOptions[] =>
  LIKELY.map((outcome) => {
    const drifts = clean.drifts?.map((one, k, all) => (k < all.length - 1 ? one : { ...one, outcome }));
    return coachOf(lie, { ...clean, drifts });
  });

/**
 * Have the coach's words on this device worked out while the next drift is fished, for each way that it may end: they are there at
 * the tap. `next` is what will be asked if it ends clean.
 */
export const useWordsAhead = (lie: string, next: CoachIn | null) => useAhead(next, lie, wordsFor);

/** What the coach will say after each likely run of drifts: asked for when it is looked at, and told as it is worked out. */
export function useCard(lie: string, asked: CoachIn) {
  const queryKey = ["card", asked];
  const of = hashKey(queryKey);
  const [soFar, setSoFar] = useState<{ of: string; steps: Step[] }>();
  const whole = useHereToo(
    {
      queryKey,
      queryFn: async () => ({ steps: await unwrap(questions.POST("/api/card", { body: asked })) }),
    },
    ({ signal }) => cardHere(lie, asked, (steps) => setSoFar({ of, steps }), signal),
    { stays: true, passing: true, dropped: true },
  );
  const steps = whole.data?.steps ?? (soFar?.of === of ? soFar.steps : []);
  return { error: whole.error, again: whole.refetch, whole: whole.isSuccess, steps };
}

/** The same of several spots of a lie at once. */
export const useCoaches = (lie: string, asked: (CoachIn | null)[]) =>
  useQueries({ queries: asked.map((one) => coachOf(lie, one)) });

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
